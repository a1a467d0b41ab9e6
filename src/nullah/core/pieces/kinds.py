"""The kinds of piece there are, each a file and a line here."""

from __future__ import annotations

from nullah.core.pieces.dovetailed_box import DOVETAILED_BOX
from nullah.core.pieces.free import FREE
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.practice_joint import PRACTICE_JOINT
from nullah.core.pieces.small_rest import SMALL_REST
from nullah.core.pieces.small_table import SMALL_TABLE

KINDS: dict[str, Kind] = {kind.name: kind for kind in (PRACTICE_JOINT, DOVETAILED_BOX, SMALL_TABLE, SMALL_REST, FREE)}
