"""Text from outside made plain: what no line of a list, a table, a terminal or a drawing can bear is taken out of it."""

from __future__ import annotations

import re

MARKS = "\u2063\U000e0000-\U000e007f"  # what ``measure.marked`` puts about a length; nobody types them
_BREAKS = re.compile(r"[\t\n\v\f\r\x1c-\x1e\x85\u2028\u2029]+")  # line ends and tabs, as they come with what is pasted
# controls; marks that turn the way of writing; surrogates without a mate; what is no character; what is not seen and joins nothing
_UNFIT = (
    r"\x00-\x1f\x7f-\x9f\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2062\u2064-\u206f\ufeff\ufff9-\ufffb\ufdd0-\ufdef\ud800-\udfff"
    + "".join(f"{chr(plane * 0x10000 + 0xFFFE)}{chr(plane * 0x10000 + 0xFFFF)}" for plane in range(17))
)
_IN_WORDS, _IN_SENTENCES = re.compile(f"[{_UNFIT}{MARKS}]"), re.compile(f"[{_UNFIT}]")


def one_line(text: str, marks: bool = False) -> str:
    """The text as one line of characters that are seen: line ends and tabs become a space, controls, marks that turn the way of
    writing, lone surrogates and what is no character are left out.

    Args:
        marks: whether the marks of lengths in a sentence stay (``measure.marked``).
    """
    if text.isprintable():
        return text
    return (_IN_SENTENCES if marks else _IN_WORDS).sub("", _BREAKS.sub(" ", text))
