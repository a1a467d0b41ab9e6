"""The kinds of piece there are, each a file and a line here."""

from __future__ import annotations

from nullah.core.document.pieces import Piece
from nullah.core.pieces.boarded_chest import BOARDED_CHEST
from nullah.core.pieces.dovetailed_box import DOVETAILED_BOX
from nullah.core.pieces.free import FREE
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.laminated_board import LAMINATED_BOARD
from nullah.core.pieces.own import Works
from nullah.core.pieces.platform import PLATFORM
from nullah.core.pieces.practice_joint import PRACTICE_JOINT
from nullah.core.pieces.shelves import SHELVES
from nullah.core.pieces.small_rest import SMALL_REST
from nullah.core.pieces.small_table import SMALL_TABLE
from nullah.core.values.ask import BadAnswer

KINDS: dict[str, Kind] = {
    kind.name: kind
    for kind in (
        PRACTICE_JOINT,
        DOVETAILED_BOX,
        SMALL_TABLE,
        SMALL_REST,
        BOARDED_CHEST,
        SHELVES,
        PLATFORM,
        LAMINATED_BOARD,
        FREE,
    )
}


def works_of(piece: Piece) -> Works:
    """How the kind of a piece that the document has fields of its own for works it out.

    Raises:
        BadAnswer: this program has no such kind.
    """
    works = KINDS[piece.kind].works
    if works is None:
        raise BadAnswer(f"A {KINDS[piece.kind].title.lower()} is worked out from a design.")
    return works
