"""The kinds of piece there are, each a file and a line here."""

from __future__ import annotations

from nullah.core.pieces.dovetailed_box import DOVETAILED_BOX
from nullah.core.pieces.kind import Kind

KINDS: dict[str, Kind] = {kind.name: kind for kind in (DOVETAILED_BOX,)}
