"""What a joint is at the bench: wood sawn, chopped, pared, planed and bored, read off its cuts, and the minutes that comes to.

A family says how its cuts are made, of its first part and of all others (``Making``), and what is done that no cut shows; the amounts
are those of the joint's own geometry, so that work grows as what is really cut does.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import hypot, pi

from nullah.core.marking.plan import JointPlan
from nullah.core.shapes.cut import SIDES, Cut, Point3
from nullah.core.values.frozen import frozen

Deeds = dict[str, float]  # what is done, of ``RATES``, and how much of it


@frozen
class Rate:
    """Minutes a ``unit`` in middling wood takes a practised hand, and what can hurt at it (of ``cautions.AT``)."""

    minutes: float
    unit: str
    caution: str = ""


# common practice, no source: so set that the common minutes of whole joints come of them (a five-tailed corner 45 to 90, a mortise and
# tenon 25 to 50, a dado across 250 10 to 20, a groove of a metre 6 to 15); the maker's own log replaces them
RATES: Mapping[str, Rate] = {
    "set": Rate(0.8, "tool"),
    "mark": Rate(0.25, "place"),
    "saw": Rate(0.2, "cm2", "shoot"),
    "chop": Rate(0.4, "cm3", "joint"),
    "chop blind": Rate(0.5, "cm3", "joint"),
    "chop lapped": Rate(1.2, "cm3", "joint"),
    "pare": Rate(0.25, "cm2", "joint"),
    "plough": Rate(0.15, "cm3", "plough"),
    "stop": Rate(2.5, "end", "joint"),
    "rabbet": Rate(0.07, "cm3", "plough"),
    "taper": Rate(0.015, "cm3", "plough"),
    "taper a face": Rate(4.0, "face", "plough"),
    "arris": Rate(3.0, "m", "plough"),
    "chamfer": Rate(0.2, "cm3", "plough"),
    "round": Rate(0.45, "cm3", "plough"),
    "joint an edge": Rate(4.5, "m", "shoot"),
    "curve": Rate(0.35, "cm2", "shoot"),
    "bore": Rate(0.5, "hole"),
    "bore deep": Rate(0.15, "cm"),
    "screw": Rate(0.6, "screw"),
    "nail": Rate(1.0, "nail", "nail"),
    "make": Rate(2.0, "piece", "shoot"),
    "fit": Rate(2.5, "joint", "fit"),
    "ease": Rate(0.02, "cm2", "fit"),
}


@frozen
class Making:
    """How the cuts of a family are made, of its first part and of the others: names of ``CUT_BY``. ``beside``: what is done that no cut
    shows. ``fits``: whether two parts are fitted to each other."""

    first: str
    others: str
    beside: Callable[[JointPlan], Deeds] = lambda joint: {}
    fits: bool = True


@frozen
class Work:
    """What is done, and the minutes it takes a practised hand at common rates."""

    deeds: Mapping[str, float]
    minutes: float

    @property
    def cautions(self) -> tuple[str, ...]:
        """What can hurt, as steps of ``cautions.AT``: that of the most minutes first."""
        found = sorted(self.deeds, key=lambda one: -RATES[one].minutes * self.deeds[one])
        return tuple(dict.fromkeys(RATES[one].caution for one in found if RATES[one].caution))


@frozen
class _Taken:
    """What a cut takes and leaves, cm3 and cm2: ``sides`` are walls along the grain, ``ends`` those across it, ``floor`` its bottom, 0
    where it goes through; ``long`` its longest way, m, ``stops`` at how many ends of its run there is wood left."""

    volume: float
    sides: float
    ends: float
    floor: float
    long: float
    stops: int


def _taken(cut: Cut, size: Point3) -> _Taken:
    """Read off a cut in a part of that size, mm; of a hull of two outlines their mean."""
    axis, _ = SIDES[cut.side]
    i, j = (k for k in range(3) if k != axis)
    through = cut.depth >= size[axis] - _NEAR
    outlines = (cut.outline, cut.far) if cut.far else (cut.outline,)
    area = sum(_area(one) for one in outlines) / len(outlines)
    sides = ends = 0.0
    for (ax, ay), (bx, by) in zip(cut.outline, (*cut.outline[1:], cut.outline[0]), strict=True):
        if any(
            abs(p - at) < _NEAR > abs(q - at)
            for p, q, whole in ((ax, bx, size[i]), (ay, by, size[j]))
            for at in (0.0, whole)
        ):
            continue  # on the rim of the part: there is no wood beside it
        wall = hypot(bx - ax, by - ay) * cut.depth / 100
        across = i == 0 and abs(bx - ax) < abs(by - ay)  # it stands across the grain
        ends, sides = (ends + wall, sides) if across else (ends, sides + wall)
    floor = 0.0 if through else area / 100
    if axis == 0:  # sunk into an end: its bottom lies across the grain
        ends, floor = ends + floor, 0.0
    spans = [(min(one), max(one)) for one in zip(*cut.outline, *cut.far, strict=True)]
    run = 0 if spans[0][1] - spans[0][0] >= spans[1][1] - spans[1][0] else 1  # the way it runs
    start, end = spans[run]
    stops = sum(_NEAR < at < (size[i], size[j])[run] - _NEAR for at in (start, end))
    return _Taken(area * cut.depth / 1000, sides, ends, floor, max(end - start, cut.depth) / 1000, stops)


_NEAR = 0.05  # mm


def _area(outline: tuple[tuple[float, float], ...]) -> float:
    return (
        abs(sum(ax * by - bx * ay for (ax, ay), (bx, by) in zip(outline, (*outline[1:], outline[0]), strict=True))) / 2
    )


def _sawn(t: _Taken) -> Deeds:
    """Cheeks and shoulders, to the line."""
    return {"saw": t.sides + t.ends + t.floor, "pare": 0.3 * t.ends}


def _sawn_and_chopped(t: _Taken) -> Deeds:
    """Sides sawn, waste chopped from both faces, the end pared to its line."""
    return {"saw": t.sides, "chop": t.volume, "pare": t.ends + t.floor}


def _blind(t: _Taken) -> Deeds:
    """Sides sawn aslant as far as a saw goes, the rest chopped from one face."""
    return {"saw": t.sides / 2, "chop lapped": t.volume, "pare": (t.sides / 2 + t.ends + t.floor) / 2}


def _mortised(t: _Taken) -> Deeds:
    """Chopped from one face, or from both where it goes through."""
    return {"chop blind": t.volume, "pare": (t.sides + t.ends) / 8}


def _housed(t: _Taken) -> Deeds:
    """Walls across the grain sawn, the floor chopped and levelled; a stop is chopped out first."""
    return {"saw": t.sides + t.ends, "plough": t.volume / 2, "pare": t.floor / 8, "stop": float(t.stops)}


def _ploughed(t: _Taken) -> Deeds:
    return {"plough": t.volume, "stop": float(t.stops)}


def _rabbeted(t: _Taken) -> Deeds:
    return {"rabbet": t.volume, "stop": float(t.stops)}


def _tongued(t: _Taken) -> Deeds:
    """Rabbeted across the grain to a line that is sawn; what lies between tenons is sawn off, and counts once of two faces."""
    return {"rabbet": t.volume / 2, "saw": t.ends}


def _tapered(t: _Taken) -> Deeds:
    return {"taper": t.volume, "taper a face": 1.0}


def _chamfered(t: _Taken) -> Deeds:
    return {"arris": t.long, "chamfer": t.volume}


def _rounded(t: _Taken) -> Deeds:
    return {"arris": t.long, "round": t.volume}


def _bored(t: _Taken) -> Deeds:
    """A hole; its walls are read as long as they go round, so that its depth is known."""
    round_ = t.volume and (t.sides + t.ends)
    return {"bore": 1.0, "bore deep": round_**2 / (4 * pi * t.volume) if round_ else 0.0}


def _curved(t: _Taken) -> Deeds:
    """Sawn along a curve, and worked fair."""
    return {"curve": t.sides + t.ends}


CUT_BY: Mapping[str, Callable[[_Taken], Deeds]] = {
    "sawn": _sawn,
    "sawn and chopped": _sawn_and_chopped,
    "chopped blind": _blind,
    "mortised": _mortised,
    "housed": _housed,
    "ploughed": _ploughed,
    "rabbeted": _rabbeted,
    "tongued": _tongued,
    "tapered": _tapered,
    "chamfered": _chamfered,
    "rounded": _rounded,
    "bored": _bored,
    "curved": _curved,
}


def work(joint: JointPlan, making: Making, size: Callable[[str], Point3], slower: Callable[[str], float]) -> Work:
    """What a joint is at the bench.

    Args:
        size: length, width and thickness of a part, mm; slower: how many times as long as in middling wood its work takes.
    """
    done = [("set", float(len(joint.settings)), 1.0), ("mark", float(len(joint.cuts)), 1.0)]
    touching = 0.0
    for cut in joint.cuts:
        t = _taken(cut, size(cut.part))
        how = CUT_BY[making.first if cut.part == joint.parts[0] else making.others]
        done += [(name, amount, slower(cut.part)) for name, amount in how(t).items()]
        touching += t.sides + t.floor
    done += [(name, amount, 1.0) for name, amount in making.beside(joint).items()]
    if making.fits and len(joint.parts) > 1:
        done += [("fit", 1.0, 1.0), ("ease", touching, 1.0)]
    deeds: Deeds = {}
    for name, amount, _ in done:
        deeds[name] = deeds.get(name, 0.0) + amount
    minutes = sum(RATES[name].minutes * amount * slower for name, amount, slower in done)
    return Work({name: amount for name, amount in deeds.items() if amount > 0}, minutes)
