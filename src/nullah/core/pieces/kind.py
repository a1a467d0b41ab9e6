"""A kind of piece: what it is good for, what it asks, and the design that answers come to.

To add a kind: a file here with a ``Kind`` and its line in ``kinds.py``.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from nullah.core.document.pieces import Designed, Piece
from nullah.core.document.refusals import sentence
from nullah.core.marking.family import Grows
from nullah.core.marking.plan import Check
from nullah.core.values.ask import Ask, BadAnswer
from nullah.core.values.design import Design
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.species import NAMES, own

if TYPE_CHECKING:
    from nullah.core.pieces.own import Works
    from nullah.core.pieces.sizes import Sizes

Answers = Mapping[str, Any]
__all__ = [
    "WOOD",
    "WOODS",
    "Answers",
    "Ask",
    "BadAnswer",
    "Grows",
    "Kind",
    "Proportion",
    "Use",
    "moves_in_slots",
    "of_woods",
]

_PLAIN = "yellow-poplar"  # a soft even wood
WOOD = Ask("wood", "the wood of what is seen", "choice", _PLAIN, options=NAMES, also=own)
SECONDARY_WOOD = Ask(
    "secondary_wood", "the secondary wood, of what is inside or hidden", "choice", _PLAIN, options=NAMES, also=own
)
WOODS = (WOOD, SECONDARY_WOOD)  # asked by a kind that is made of two


@frozen
class Use:
    """Where a piece begins its work: the last step's title, its words, and what is to be heeded there."""

    title: str
    words: str
    cautions: tuple[str, ...]


def of_woods(made: Design, asked: Answers) -> Design:
    """The design in the woods that ``WOODS`` or ``WOOD`` alone were answered with: what is seen in the one, the rest in the other."""
    wood = asked["wood"]
    other = asked.get("secondary_wood", wood)
    return replace(made, parts=tuple(replace(p, species=wood if p.role == "show" else other) for p in made.parts))


def moves_in_slots(part: str, slot: float, sizes: Sizes, grows: Grows) -> tuple[Check, ...]:
    """Whether slots ``slot`` mm longer than their screws let a wide part move across in a year; nothing of a part there is not."""
    if not sizes.has(part):
        return ()
    design = sizes.design.part(part)
    moves = max(abs(mm) for mm in grows(part, design.species, sizes.size(part)[1]))
    words = f"the {design.label} moves {marked(moves)} across in a year; its slots let it move {marked(slot)}"
    return (Check(at_least(slot, moves), words),)


@frozen
class Proportion:
    """Two lengths that are asked and meet the eye together: ``ask`` may be changed to stand in a proportion to ``to``."""

    ask: str
    to: str
    words: str


@frozen
class Kind:
    """A kind of piece.

    ``sentence`` is the form: what is asked stands in braces by its name. ``design`` makes parts, rods and joints of all the answers;
    ``checks`` what is to hold of the piece as a whole; ``use`` what is to be heeded where it is put to use; ``teaches`` what one learns
    by it; ``proportions`` what of it may stand in one. ``made`` is for a kind the document has fields of its own for, and ``works`` for
    one that is worked out in a way of its own instead of from a design.
    """

    name: str
    about: str
    asks: tuple[Ask, ...]
    sentence: str
    design: Callable[[Answers], Design] | None = None
    checks: Callable[[Answers, Sizes, Grows], tuple[Check, ...]] | None = None
    made: Callable[[Answers], Piece] | None = None
    works: Works | None = None
    use: Callable[[Answers], Use] | None = None
    teaches: str = ""
    proportions: tuple[Proportion, ...] = ()

    @property
    def title(self) -> str:
        """The kind's name as it is spoken."""
        return self.name.replace("_", " ").capitalize()

    def answers(self, asked: Answers) -> dict[str, Any]:
        """All answers, those not given as by default.

        Raises:
            BadAnswer: something is answered that is not asked, or an answer does not serve.
        """
        asks = {a.name: a for a in self.asks}
        for name in asked:
            if name not in asks:
                raise BadAnswer(f'{self.name} does not ask "{name[:40]}"; it asks {", ".join(asks) or "nothing"}.')
        return {a.name: a.held(asked[a.name]) if a.name in asked else a.default for a in self.asks}

    def piece(self, written: Mapping[str, str], piece_id: str = "1") -> Piece | Designed:
        """The piece of answers as written: ``84``, ``3 1/2"``, ``1:7``, ``yes``.

        Raises:
            BadAnswer: something is answered that is not asked, or an answer does not serve.
        """
        asks = {a.name: a for a in self.asks}
        for name in written:
            if name not in asks:
                raise BadAnswer(f'{self.name} does not ask "{name[:40]}"; it asks {", ".join(asks) or "nothing"}.')
        try:
            read = {name: asks[name].read(text) for name, text in written.items()}
            if self.made is not None:
                return self.made({**read, "id": piece_id})
            self.answers(read)
            return Designed(id=piece_id, kind=self.name, name=self.title, asked=read)
        except ValidationError as error:
            raise BadAnswer(sentence(error)) from None

    def described(self) -> dict[str, Any]:
        """The kind as plain data: name, about, what it teaches and asks."""
        return {
            "name": self.name,
            "about": self.about,
            "teaches": self.teaches,
            "asks": [a.described() for a in self.asks],
        }
