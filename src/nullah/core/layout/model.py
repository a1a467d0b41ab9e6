"""What a layout is made from, and the tree it is made of."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import field

from nullah.core.document.project import BoardLayout, Defect, Node
from nullah.core.values.frozen import frozen

EPS = 1e-6
LEAST_WIDTH = 20.0  # mm: a narrower piece left over is waste


@frozen
class Blank:
    """A part in the rough, as it is to be sawn: mm.

    ``least`` are the length and width below which an accepted rectangle no longer serves. ``forgives`` names the kinds of
    defect its role may hold; no knot may lie within ``end_zone`` of either end. ``group``: belongs together; with
    ``in_order`` the group is cut in sequence from one length.
    """

    id: str
    length: float
    width: float
    thickness: float
    species: str
    least: tuple[float, float]
    forgives: frozenset[str] = frozenset()
    end_zone: float = 0.0
    group: str = ""
    in_order: bool = False
    hides: frozenset[str] = (
        frozenset()
    )  # kinds of fault it may hold where they show on one face only: that is turned away
    boards: frozenset[str] = frozenset()  # the boards it may come from; none named: any


@frozen
class Stock:
    """A board as the search sees it. ``x0..x1, y0..y1`` is what is left after ends and edges are trimmed, mm.

    ``thickness_in(x, y, length, width)`` is the thickest flat board inside that rectangle, mm. ``edges``: boxes (x0, y0, x1,
    y1) past a wany or tapered edge, where there is no wood. ``hardness``: effort of sawing it, soft wood 1.
    """

    id: str
    name: str
    species: str
    length: float
    width: float
    x0: float
    x1: float
    y0: float
    y1: float
    thickness: float
    defects: tuple[Defect, ...]
    thickness_in: Callable[[float, float, float, float], float] = field(compare=False)
    edges: tuple[tuple[float, float, float, float], ...] = ()
    hardness: float = 1.0


@frozen
class Options:
    """Saws and preference. ``first`` is the kind of cut made first where there is a choice.

    A mm of saw cut in soft wood 25 thick weighs as much as ``crosscut_effort`` or ``rip_effort`` mm2 of wood left over;
    ``opening`` weighs each board sawn into, in its own area; ``kept`` boards are not sawn into.
    """

    crosscut_kerf: float = 1.5
    rip_kerf: float = 1.5
    first: str = "crosscut"
    keep_groups: bool = True
    keep_offcut: float = 150.0  # mm: a shorter piece is waste
    crosscut_effort: float = 15.0
    rip_effort: float = 25.0
    opening: float = 0.1
    thin: float = 0.05  # mm of thickness that a part may lack: less than can be read off a caliper
    kept: frozenset[str] = frozenset()


@frozen
class Layout:
    """A layout found: trees by board, what has no place and why."""

    name: str
    boards: tuple[BoardLayout, ...]
    unplaced: tuple[tuple[str, str], ...]
    split_groups: tuple[str, ...] = ()


def leaves(node: Node) -> Iterator[Node]:
    """The uncut rectangles of a tree, in the order the saw frees them."""
    waiting = [node]
    while waiting:
        one = waiting.pop()
        if one.use == "cut":
            waiting.extend(reversed(one.children))
        else:
            yield one


def cuts(node: Node) -> Iterator[Node]:
    """The cut nodes of a tree, in sawing order."""
    waiting = [node]
    while waiting:
        one = waiting.pop()
        if one.use == "cut":
            yield one
            waiting.extend(reversed(one.children))


def overlaps(ax: float, ay: float, al: float, aw: float, bx: float, by: float, bl: float, bw: float) -> bool:
    """Whether two rectangles share area."""
    return ax + EPS < bx + bl and bx + EPS < ax + al and ay + EPS < by + bw and by + EPS < ay + aw


def forgiven(defect: Defect, forgives: frozenset[str], hides: frozenset[str]) -> bool:
    """Whether a fault may lie in a part of such a role, joints apart: of any kind forgiven, or of one that can be turned away."""
    return defect.kind in forgives or (defect.face != "both" and defect.kind in hides)


def blocks(defect: Defect, blank: Blank, x: float, y: float, length: float, width: float) -> bool:
    """Whether a defect spoils a rectangle for a blank: its role does not forgive it, or it is a knot in a joint's zone."""
    if not overlaps(x, y, length, width, defect.x, defect.y, defect.length, defect.width):
        return False
    if not forgiven(defect, blank.forgives, blank.hides):
        return True
    if "knot" not in defect.kind or blank.end_zone <= 0:
        return False
    zone = min(blank.end_zone, length / 2)
    return any(
        overlaps(end, y, zone, width, defect.x, defect.y, defect.length, defect.width) for end in (x, x + length - zone)
    )


@frozen
class WayOut:
    """A way that gives every part a place, or what to buy for what has none: a sentence with ``{parts}`` for those it is about, and
    their ids."""

    words: str
    parts: tuple[str, ...] = ()

    def said(self, called: Callable[[str], str]) -> str:
        """The sentence; ``called`` names a part by its id."""
        return self.words.format(parts=", ".join(map(called, self.parts)))
