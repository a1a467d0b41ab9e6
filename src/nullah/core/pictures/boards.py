"""Boards to scale, one under the other, as laid out and sawn."""

from __future__ import annotations

import math
from collections.abc import Callable, Collection
from functools import lru_cache
from typing import Any

from nullah.core.document.project import Board, Defect, Node
from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text, rectangle
from nullah.core.layout.model import leaves
from nullah.core.layout.saw import SawCut
from nullah.core.layout.taper import clipped
from nullah.core.pictures.wood import edge_mark, face_mark, fault, figure
from nullah.core.stations.as_made import wood_of
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.values.measure import marked
from nullah.core.wood.moisture import sawn_name

MANY = 6  # boards: of more than these the names stand beside them
CLOSE = 60.0  # mm between so many
STEP = 40.0  # mm: rows stand further apart in such steps as boards get wider
FEW = 8  # boards that are shown though nothing is laid on them
LETTERS = 3  # of a name that may stand over the edges of its part
SHORT = 6  # letters of a name that is drawn large
SAWN_GAP = 105.0  # mm between boards as laid out


def rows(boards: tuple[Board, ...]) -> dict[str, float]:
    """Where the lower edge of each board lies as laid out, the first uppermost; a board that grows wider grows up from its edge."""
    gap = CLOSE if len(boards) > MANY else SAWN_GAP
    y, found = 0.0, {}
    for n, b in enumerate(boards):
        y -= (gap + math.ceil(b.width / STEP) * STEP) if n else 0.0
        found[b.id] = y
    return found


def in_hand(boards: tuple[Board, ...], laid: Collection[str]) -> tuple[Board, ...]:
    """The boards that break-down shows: those laid out, and while they are few the others that may be sawn, to drag onto."""
    waiting = tuple(b for b in boards if not b.sawn)
    if not laid or len(waiting) <= FEW:
        return tuple(b for b in boards if b.id in laid or not b.sawn) or boards
    return tuple(b for b in boards if b.id in laid) or boards


def told(b: Board) -> str:
    """A board in a few words, for where one points at it."""
    sizes = f"{marked(b.length)} x {marked(b.width)} x {marked(b.thickness)}"
    return ", ".join(t for t in (f"{b.name}: {sizes} {b.species}", sawn_name(b.ring_angle), f"{b.moisture:g} %") if t)


def _waste(x: float, y: float, length: float, width: float, tag: str = "", hint: str = "") -> Area:
    """What falls away: the wood still shows through."""
    return Area(rectangle(x, y, length, width), "waste", hatch=True, tag=tag, hint=hint, opacity=0.55)


def laid_out(
    boards: tuple[Board, ...],
    result: BreakdownResult,
    chosen: str = "",
    back: bool = False,
    name: Callable[[str], str] = str,
) -> Drawing:
    """The accepted layout on the boards that are sawn, the board's own figure running through parts, offcuts and waste.

    ``back``: the other face, seen through from the face; what shows on one face only is drawn dashed from the other. ``name`` says
    what a part of that id has written on it.
    """
    roots = {x.board: x.root for x in (result.layout.boards if result.layout else ())}
    used = in_hand(boards, roots)
    at = rows(used)
    items: list[Primitive] = []
    numbered: dict[str, list[SawCut]] = {}
    for cut in result.cuts:
        numbered.setdefault(cut.board, []).append(cut)
    for b in used:
        items += _kept_sawn(b, at[b.id], roots.get(b.id), chosen, result.cut, result.held, back, name)
        items += _saw_lines(numbered.get(b.id, []), b, at[b.id])
        many = len(used) > MANY
        words = (
            b.name if many else f"{b.name}, {b.species}, {marked(b.length)} x {marked(b.width)} x {marked(b.thickness)}"
        )
        if b.id in result.options.kept:
            words += ", kept whole"
        elif b.sawn:
            words += ", sawn"
        words += ", its back seen through" if back and not many else ""
        items.append(
            Text(
                (b.length + 30, at[b.id] + b.width / 2) if many else (0, at[b.id] - 30),
                words,
                size=12,
                align="left",
                ink="quiet",
                tag=f"board:{b.id}",
                tall=b.width + CLOSE if many else 0.0,
            )
        )
    return Drawing(tuple(items))


class _Same:
    """Something told by identity, for it is deep and the same object after most edits."""

    def __init__(self, it: Any) -> None:
        self.it = it

    def __hash__(self) -> int:
        return id(self.it)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and other.it is self.it


Names = frozenset[str]
Written = tuple[tuple[str, str], ...]  # parts by their ids, and what is written on them


def _kept_sawn(
    b: Board,
    y: float,
    root: Node | None,
    chosen: str,
    cut_parts: Names,
    held: Names,
    back: bool,
    name: Callable[[str], str],
) -> list[Primitive]:
    """As ``_sawn``, drawn up again only when board or tree are others."""
    mine = frozenset(n.part for n in leaves(root) if n.part) if root is not None else frozenset[str]()
    lit, written = chosen if chosen in mine else "", tuple((part, name(part)) for part in sorted(mine))
    return _sawn(_Same(b), y, _Same(root), lit, cut_parts & mine, held & mine, back, written)


@lru_cache(maxsize=256)
def _sawn(
    board: _Same, y: float, tree: _Same, chosen: str, cut_parts: Names, held: Names, back: bool, said: Written
) -> list[Primitive]:
    b: Board = board.it
    root: Node | None = tree.it
    written = dict(said)
    items: list[Primitive] = [
        Area(rectangle(0, y, b.length, b.width), f"wood {b.species}", edge="outline", tag=f"board:{b.id}", hint=told(b))
    ]
    items += figure(wood_of(b), (b.length, b.width, b.thickness), (0, y))
    pieces = list(leaves(root)) if root is not None else []
    for leaf in pieces:
        size = f"{marked(leaf.length)} x {marked(leaf.width)}"
        shape = rectangle(leaf.x, y + leaf.y, leaf.length, leaf.width)
        if leaf.use == "waste":
            items.append(_waste(leaf.x, y + leaf.y, leaf.length, leaf.width))
        elif leaf.use == "offcut":
            items.append(
                Area(shape, "offcut", edge="outline", hint=f"offcut {size}", opacity=0.72, tag=f"offcut:{b.id}")
            )
        else:
            tint = "settled wash" if leaf.part in cut_parts else ""
            edge = "lit" if leaf.part == chosen else "outline"
            items.append(
                Area(shape, tint, edge=edge, tag=f"part:{leaf.part}", hint=f"{written[leaf.part]}: {size}", opacity=0.8)
            )
    hidden = "face" if back else "back"
    for d in b.defects:
        items += _through(d, y) if d.face == hidden else fault(b, d, y, named=False)
    items += _no_wood(b, y)
    for leaf in pieces:
        middle = (leaf.x + leaf.length / 2, y + leaf.y + leaf.width / 2)
        if leaf.use == "part":
            words = written[leaf.part]
            done = " \u2713" if leaf.part in cut_parts else " \u25c6" if leaf.part in held else ""
            items.append(
                Text(
                    middle,
                    words + done,
                    size=17 if leaf.length > 25 * len(words) + 35 and len(words) <= SHORT else 12,
                    bold=True,
                    halo=True,
                    tag=f"part:{leaf.part}",
                    room=leaf.length * (1.2 if len(words) <= LETTERS else 1.0),
                    tall=leaf.width * (1.6 if len(words) <= LETTERS else 1.1),
                )
            )
            mark = min(34.0, leaf.width * 0.35)
            spot = leaf.x + min(leaf.length * 0.15, 40.0)
            items += [*face_mark(spot, y + leaf.y, mark), *edge_mark(spot, y + leaf.y, mark)]
        elif leaf.use == "offcut" and leaf.width > 30:
            words = f"offcut {marked(leaf.length)} x {marked(leaf.width)}"
            items.append(Text(middle, words, size=11, halo=True, room=leaf.length))
    return items


def _through(d: Defect, y: float) -> list[Primitive]:
    """A fault on the face that is turned away: where it lies, dashed."""
    corners = rectangle(d.x, y + d.y, d.length, d.width)
    return [Line((*corners, corners[0]), "fault", dash=True)]


def _no_wood(b: Board, y: float) -> list[Primitive]:
    """What tapering or wany edges leave of the board's rectangle: paper, and the edges as lines."""
    items: list[Primitive] = []
    for points, past in ((b.upper, b.width + 0.5), (b.lower, -0.5)):
        if points:
            edge = tuple((x, y + h) for x, h in clipped(points, 0.0, b.length))
            items.append(Area((*edge, (b.length, y + past), (0.0, y + past)), "ground"))
            items.append(Line(edge, "outline", width=1.6))
    return items


def _saw_lines(cuts: list[SawCut], b: Board, y: float) -> list[Primitive]:
    """The cuts with their numbers: those of crosscuts above the board, those of rips within it, each clear of the others."""
    items: list[Primitive] = []
    taken: list[float] = []
    for cut in cuts:
        tag = f"cut:{cut.number}"
        (x0, y0), (x1, y1) = cut.line
        items.append(Line(((x0, y + y0), (x1, y + y1)), "kerf", width=1.8, tag=tag))
        if cut.kind == "crosscut":
            row = sum(1 for other in taken if abs(other - x0) < 46)
            taken.append(x0)
            at = (x0, y + b.width + 26 + 36 * min(row, 1))
        else:
            at = (x0 - 18 if x0 < 1 else x0 + 0.36 * (x1 - x0), y + y0)
        items.append(
            Text(at, str(cut.number), size=11, bold=True, ink="computed", halo=True, tag=tag, tall=SAWN_GAP / 2)
        )
    return items
