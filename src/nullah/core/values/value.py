"""What every value of the document is: frozen, held to its limits whenever it is made or changed. Lengths in mm."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Self

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from nullah.core.values.plain_text import one_line

Length = Annotated[float, Field(gt=0, le=20_000)]
Position = Annotated[float, Field(ge=0, le=20_000)]
Signed = Annotated[float, Field(ge=-20_000, le=20_000)]
Percent = Annotated[float, Field(ge=0, le=100)]


def _plain(given: Any) -> Any:
    return one_line(given) if isinstance(given, str) else given


def _plain_sentence(given: Any) -> Any:
    return one_line(given, marks=True) if isinstance(given, str) else given


# every text of the document is one line of characters that are seen (``plain_text``)
PLAIN = BeforeValidator(_plain)
_SENTENCE = BeforeValidator(_plain_sentence)
Text = Annotated[str, PLAIN]
Word = Annotated[str, Field(min_length=1, max_length=120), PLAIN]
Name = Annotated[
    str, Field(min_length=1, max_length=400), _SENTENCE
]  # of a step or a call: it bears a board's or a part's
Prose = Annotated[str, Field(max_length=2_000), _SENTENCE]


class Value(BaseModel):
    """A frozen value: unknown fields, NaN and infinities are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """The value with fields replaced. Unlike Pydantic's own, what is replaced is held to the limits: whatever can be made
        can be saved and read again.

        Raises:
            ValidationError: a new value is out of bounds, or there is no such field.
        """
        if not update:
            return super().model_copy(deep=deep)
        fields = {
            name: getattr(self, name) for name in type(self).model_fields
        }  # not what is worked out of them and kept
        return type(self).model_validate({**fields, **update})
