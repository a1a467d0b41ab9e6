"""Where on a face a pass goes, in words: the places a maker has names for, with how far they reach."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.surface.zones import Place, Workpiece

Show = Callable[[float], str]  # a length in the units of the project

_HAND = (70.0, 120.0)  # mm: a hand's breadth
_NEAR = 1.0  # mm: on the rim
_STRIP = 25.0  # mm: half of an iron
_MOST = 0.85  # of a face: all over


def place_words(workpiece: Workpiece, outlines: Sequence[Sequence[Place]], show: Show) -> str:
    """One place or two, as in "the lower left corner, 200 along and 120 up"."""
    said = [_Said(workpiece, one, show) for one in outlines]
    if any(one.whole for one in said):
        return "all over"
    if len(said) == 2 and all(one.corner for one in said):
        first, second = sorted(said, key=lambda one: one.at)
        return f"the two high corners, {first.corner} and {second.corner}: {first.reach} and {second.reach}"
    if len(said) == 2 and {one.end for one in said} == {"left", "right"}:
        left, right = sorted(said, key=lambda one: one.end)
        if left.depth == right.depth:
            return f"both ends, {left.depth} in"
        return f"both ends, {left.depth} in at the left, {right.depth} at the right"
    if len(said) == 2 and {one.edge for one in said} == {"lower", "upper"}:
        lower, upper = sorted(said, key=lambda one: one.edge)
        return f"both edges, the lower {lower.span}, the upper {upper.span}"
    return ", and ".join(dict.fromkeys(one.words for one in said))


class _Said:
    """What there is to say of one outline."""

    def __init__(self, workpiece: Workpiece, outline: Sequence[Place], show: Show):
        length, width = workpiece.length, workpiece.width
        xs, ys = zip(*outline, strict=True)
        x0, x1, y0, y1 = min(xs), max(xs), min(ys), max(ys)
        left, right, low, high = x0 < _NEAR, x1 > length - _NEAR, y0 < _NEAR, y1 > width - _NEAR
        self.at = x0, y0
        # what is left beside it is less than a plane is wide: it goes right across
        low, high = low or (high and y0 < _STRIP), high or (low and y1 > width - _STRIP)
        self.whole = workpiece.inside(outline).mean() > _MOST
        ends = "left" if left and not right else "right" if right and not left else ""
        edges = "lower" if low and not high else "upper" if high and not low else ""
        self.corner = f"{edges} {ends}" if edges and ends and x1 - x0 < 0.6 * length else ""
        short = max(x1 if left else 0.0, length - x0 if right else 0.0) < 0.6 * length
        self.end = ends if short and not edges and low and high else ""
        self.edge = edges if not self.corner else ""
        deep = x1 if ends == "left" else length - x0
        self.depth = "a hand's breadth" if _HAND[0] <= deep <= _HAND[1] else show(deep)
        self.reach = f"{show(x1 - x0)} along and {show(y1 - y0)} {'up' if edges == 'lower' else 'down'}"
        over = f"{show(x0)} to {show(x1)}" if not (left and right) else "all of its length"
        self.span = f"{over}, {show(y1 - y0)} {'up' if edges == 'lower' else 'down'}"
        if self.corner:
            self.words = f"the {self.corner} corner, {self.reach}"
        elif self.end:
            self.words = f"the {self.end} end, {self.depth} in"
        elif self.edge:
            self.words = f"along the {self.edge} edge, {self.span}"
        elif low and high:
            third = abs(x0 - length / 3) < 0.08 * length and abs(x1 - 2 * length / 3) < 0.08 * length
            named = "the middle third" if third else "right across"
            self.words = "most of the face, slantwise" if left and right else f"{named}, {over}"
        else:
            self.words = f"{over}, {show(y0)} to {show(y1)} from the lower edge"
