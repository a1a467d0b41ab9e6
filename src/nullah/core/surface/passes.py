"""A plan of passes: which plane goes over which place, which way and how often, until a face is flat.

The plan is made on the board as it is read, by the plane itself (``compiled.strokes``), within the very outlines that are told: the
places that stand highest over flat come down by some shavings, with the plane that takes most without going below flat, the direction
turned half way, so that errors cancel; then those that stand highest then. The longest finely set plane comes last, over all of the
face: it bridges what is hollow and takes what stands up.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import chain
from math import isfinite
from typing import NamedTuple

from nullah.core.surface.zones import Place, Workpiece, Zone, outlines, strokes_in
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen, replace

TURNED: tuple[float, ...] = (45.0, -45.0)  # degrees from the length of the board, turned half way
ACROSS: tuple[float, ...] = (90.0,)  # the other school
WAYS = {"turned": TURNED, "across": ACROSS}
RIGHT, LEFT = 0.0, 180.0  # degrees: along, from the left end to the right or back
MOST = 24  # passes in one go, where a plane gets no further
FINEST = 0.025  # mm, the set of a plane that only clears what others left
_HIGH = 99.7  # percent of the face that lies lower than what is called its highest spot: a few points are no zone


@frozen
class BenchPlane:
    """A bench plane: length of the sole, the iron's distance behind the toe, width of the iron, its set, and by how much its corners
    stand back (camber), all mm."""

    name: str
    sole: float
    iron: float
    width: float
    set: float
    camber: float = 0.0

    def row(self) -> Floats:
        """As ``compiled.strokes`` takes it."""
        return np.array([self.sole, self.iron, self.width, self.set, self.camber])

    @property
    def bridges(self) -> float:
        """``a b`` of its sole, mm2: over a hollow of radius R its iron hangs ``a b / (2 R)`` above the wood."""
        return self.iron * (self.sole - self.iron)


def plane_from(text: str, name: str = "") -> BenchPlane:
    """A plane from "sole iron width set camber", mm; without a name it is called by the length of its sole.

    Raises:
        ValueError: it is no plane; the message says why.
    """
    try:
        figures = [float(one) for one in text.split()]
    except ValueError:
        figures = []
    if len(figures) != 5 or not all(map(isfinite, figures)):
        raise ValueError('a plane is five figures in mm: "sole iron width set camber", like "355 120 50 0.15 0.08"')
    sole, iron, width, set_, camber = figures
    wrong = (
        (not 100 <= sole <= 1500, "a sole is between 100 and 1500 mm long"),
        (not 20 <= iron <= sole - 20, "the iron lies behind the toe and before the heel"),
        (not 15 <= width <= 200, "an iron is between 15 and 200 mm wide"),
        (not 0.01 <= set_ <= 3, "a set is between 0.01 and 3 mm"),
        (not 0 <= camber <= 10, "a camber is between 0 and 10 mm"),
    )
    for is_wrong, words in wrong:
        if is_wrong:
            raise ValueError(f"{text.strip()[:60]}: {words}")
    return BenchPlane(name or f"plane, {sole:g} mm sole", sole, iron, width, set_, camber)


PLANES = (
    BenchPlane("fore plane, 430 mm sole", 430, 140, 50, 0.3, 0.2),
    BenchPlane("jack plane, 355 mm sole", 355, 120, 50, 0.15, 0.08),
    BenchPlane("jointer, 560 mm sole", 560, 190, 60, 0.06, 0.02),
)


@frozen
class Pass:
    """One plane over one place or two: ``zones`` one after the other. ``until`` is "" or "full shavings" (over all of the face).
    ``most`` is what stood highest over flat before it, mm."""

    plane: BenchPlane
    zones: tuple[Zone, ...]
    most: float
    until: str = ""

    @property
    def outlines(self) -> tuple[tuple[Place, ...], ...]:
        """The places, each once."""
        return tuple(dict.fromkeys(z.outline for z in self.zones))

    @property
    def times(self) -> int:
        """How often the place is gone over, the one of most where there are two."""
        return max(sum(z.times for z in self.zones if z.outline == one) for one in self.outlines)

    @property
    def directions(self) -> tuple[float, ...]:
        """Which ways, each once, degrees from the length."""
        return tuple(dict.fromkeys(z.direction for z in self.zones))

    @property
    def box(self) -> tuple[float, float, float, float]:
        """The rectangle that holds all of it: x, y, x, y, mm."""
        xs, ys = zip(*[p for one in self.outlines for p in one], strict=True)
        return min(xs), min(ys), max(xs), max(ys)

    def share(self, workpiece: Workpiece) -> float:
        """How much of the face it goes over."""
        every = [workpiece.inside(one) for one in self.outlines]
        return float(np.any(every, axis=0).mean())

    def reckoned(self) -> tuple[int, float]:
        """How many strokes it takes, and how long they are together, mm."""
        strokes, run = 0, 0.0
        for zone in self.zones:
            lines = strokes_in(zone, self.plane.width, _overlap(self.plane))
            strokes += zone.times * len(lines)
            run += zone.times * float(np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]).sum())
        return strokes, run


def take(workpiece: Workpiece, heights: Floats, p: Pass) -> None:
    """Take a pass off heights, in place, as it is told."""
    for zone in p.zones:
        for _ in range(zone.times):
            _once(workpiece, heights, p.plane, zone)


def _once(workpiece: Workpiece, heights: Floats, plane: BenchPlane, zone: Zone) -> None:
    from nullah.core.surface.compiled.strokes import strokes

    along, across = workpiece.steps
    touched = np.zeros(heights.shape, dtype=np.int64)
    lines = strokes_in(zone, plane.width, _overlap(plane))
    strokes(heights, workpiece.inside(zone.outline).astype(np.uint8), touched, along, across, lines, plane.row())


def _overlap(plane: BenchPlane) -> float:
    """How far apart strokes lie, of the iron's width: a cambered one leaves a furrow beside it."""
    return 0.5 if plane.camber > 0.25 * plane.set else 0.8


@frozen
class Finish:
    """How a face is finished: until no place stands more than ``goal`` mm over the target; then ``clear`` times over all of it
    ``along``, one of ``RIGHT`` and ``LEFT``. What may stand up unseen, ``unsure`` mm, comes off under a long sole first."""

    goal: float
    clear: int = 0
    unsure: float = 0.0
    along: float = RIGHT


def planned(
    workpiece: Workpiece,
    heights: Floats,
    target: Floats,
    planes: Sequence[BenchPlane],
    directions: Sequence[float],
    finish: Finish,
) -> Iterator[tuple[Pass, Floats]]:
    """Passes that bring a face down to a target: humps first, then all over where it stands high everywhere, then the places that stand
    highest; each with the face as it is reckoned to leave it."""
    order = sorted(planes, key=lambda p: -p.set)
    coarsest, last = order[0], max(planes, key=lambda p: p.bridges)
    work, goal, count = _Work(workpiece, heights.copy(), target, directions), finish.goal, 0
    spare = work.spare()
    if spare >= _MANY * coarsest.set:
        humps = work._replace(target=target + spare)
        for p in chain(_by_places(humps, coarsest, goal, _LEAVES, range(_HUMPS)), _down(work, coarsest)):
            yield p, work.heights.copy()
    for plane in order if finish.clear or len(order) == 1 else [p for p in order if p is not last]:
        end, leaves = (count + _WITH_THE_LAST, _AT_LAST) if plane is last else (MOST, _LEAVES)
        for p in _by_places(work, plane, goal, leaves, range(count, min(end, MOST))):
            yield p, work.heights.copy()
            count += 1
    if finish.clear:
        for p in _all_over(work, last, goal, finish.unsure):
            yield p, work.heights.copy()
        fine = replace(last, set=min(last.set, FINEST), camber=min(last.camber, FINEST / 3))
        zone = Zone(workpiece.all_over(), finish.clear, finish.along)
        p = Pass(fine, (zone,), max(work.most(), 0.0), until="full shavings")
        take(workpiece, work.heights, p)
        yield p, work.heights


def _by_places(work: _Work, plane: BenchPlane, goal: float, leaves: float, turns: range) -> Iterator[Pass]:
    """The places that stand highest taken down, then those that stand highest then, as long as the plane gets on; heights follow.
    ``leaves``: so many shavings over the target it is near enough."""
    for turn in turns:
        found = _lowered(work, plane, goal, turn) if work.most() > max(goal, leaves * plane.set) else None
        if found is None:
            return
        p, after = found
        work.heights[:] = after.heights
        yield p


class _Work(NamedTuple):
    """A face while it is planned: its heights, what it is to come down to, and which ways planing goes."""

    workpiece: Workpiece
    heights: Floats
    target: Floats
    directions: Sequence[float]

    def over(self) -> Floats:
        """What stands over the target, mm."""
        return self.heights - self.target

    def most(self) -> float:
        """The highest of it."""
        return highest(self.over())

    def spare(self) -> float:
        """The least of it."""
        return float(self.over().min())


_HUMPS = 3  # passes over what stands up of a face that is to come down as a whole
_LEAVES = 2.0  # shavings: so near a plane goes to the target, place by place; then a finer one
_AT_LAST, _WITH_THE_LAST = 1.2, 5  # the same of the longest plane, and how many passes over places with it
_SHAVINGS = 9  # over one place before it is looked at again
_BITES = 0.5  # of a shaving, at the highest: less is not worth going over it
_HARM = 0.04  # mm under the target: so much may be taken too much
_SHARES = (0.5, 0.65, 0.8, 0.3, 0.15)  # of what stands highest: the level of a place where the shavings do not give it
_LOW = 5.0  # percent of a place that may lie so low that a shaving would be too much there


def _lowered(work: _Work, plane: BenchPlane, goal: float, turn: int) -> tuple[Pass, _Work] | None:
    """The places that stand highest, taken down: the pass, and the face after it; None where the plane gets no further."""
    over, workpiece = work.over(), work.workpiece
    most = highest(over)
    most_at_once = _SHAVINGS * plane.set
    levels = [most - most_at_once] if most > 1.6 * most_at_once else []
    levels += [share * most for share in _SHARES]
    for level in levels:
        places = outlines(workpiece, over, max(level, goal / 2))
        within = np.any([workpiece.inside(one) for one in places], axis=0) if places else None
        if within is None or float(np.percentile(over[within], _LOW)) < plane.set / 2:
            continue
        found = _worked(work, plane, places, max(level, goal / 2), turn)
        if found is None:
            continue
        zones, after = found
        if highest((over - after.over())[within]) > _BITES * plane.set:
            return Pass(plane, zones, most), after
    return None


def _worked(
    work: _Work, plane: BenchPlane, places: Sequence[tuple[Place, ...]], level: float, turn: int
) -> tuple[tuple[Zone, ...], _Work] | None:
    """Places planed until what stands highest in them is down to a level, one way and then the other; each as often as all."""
    workpiece, _, target, directions = work
    now, zones, below = work.heights.copy(), list[Zone](), float((target - work.heights).max())
    ways = [directions[(turn + n) % len(directions)] for n in range(len(directions))]
    for place in places:
        within = workpiece.inside(place)
        most = highest((now - target)[within])
        steps = len(ways) if most - level > 2.5 * plane.set else 1
        for n, way in enumerate(ways[:steps]):
            until, times = most + (level - most) * (n + 1) / steps, 0
            while times < _SHAVINGS and (times == 0 or highest((now - target)[within]) > until + plane.set / 2):
                before = now.copy()
                _once(workpiece, now, plane, Zone(place, 1, way))
                if float((target - now).max()) > max(below, 0.0) + _HARM:
                    now = before
                    break
                times += 1
            if times:
                zones.append(Zone(place, times, way))
    return (tuple(zones), work._replace(heights=now)) if zones else None


_TAKES = 0.06  # mm under the target: what planing all over may take to leave a face flat
_ALL_OVER = 8  # times each way, at the most


def _all_over(work: _Work, plane: BenchPlane, goal: float, unsure: float) -> list[Pass]:
    """A long plane over all of the face, one way and then the other, until no place stands more than a goal over it; heights follow.
    The sole itself finds what is high, so it goes over once or twice more where something may be that was not read."""
    workpiece, heights, target, directions = work
    most, zones = work.most(), list[Zone]()
    more = round(unsure / plane.set / len(directions))
    for n, way in enumerate(directions):
        until = most + (goal - most) * (n + 1) / len(directions)
        times = 0
        while times < _ALL_OVER and (times < more or highest(heights - target) > until):
            before = heights.copy()
            _once(workpiece, heights, plane, Zone(workpiece.all_over(), 1, way))
            if times >= more and float(np.percentile(target - heights, _HIGH)) > _TAKES:
                heights[:] = before
                break
            times += 1
        if times:
            zones.append(Zone(workpiece.all_over(), times, way))
    return [Pass(plane, tuple(zones), most)] if zones else []


# shavings: a face that stands so many too high everywhere is planed down without looking at places, to within half as many
_MANY = 6


def _down(work: _Work, plane: BenchPlane) -> Iterator[Pass]:
    """A pass over all of a face that stands high over its target everywhere, by as many shavings as leave some; heights follow."""
    workpiece, heights, target, directions = work
    spare = work.spare()
    most, zones = work.most(), list[Zone]()
    for n, direction in enumerate(directions):
        zone, sheds, times = Zone(workpiece.all_over(), 1, direction), plane.set, 0
        # over the target, when this way is done
        stays = spare * (1 - (n + 1) / len(directions)) + _MANY / 2 * plane.set
        while sheds > _NO_MORE * plane.set and float((heights - target).min()) - sheds > stays:
            if times < _FOLLOWED:
                before = float(heights.mean())
                _once(workpiece, heights, plane, zone)
                sheds = before - float(heights.mean())
            else:
                heights -= sheds
            times += 1
        if times:
            zones.append(replace(zone, times=times))
    if zones:
        yield Pass(plane, tuple(zones), most)


# times over all of a face that are followed by the plane itself: after them the whole sole bears, and each takes as much as the last
_FOLLOWED = 5
_NO_MORE = 0.05  # of a shaving: what hardly cuts will not


def highest(over: Floats) -> float:
    """What stands highest, but for a few points."""
    return float(np.percentile(over, _HIGH))
