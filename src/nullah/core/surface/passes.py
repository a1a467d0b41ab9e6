"""A plan of passes: which plane goes over which zone, which way and how often, until a face is flat.

The plan is made on the board as it is read, by the plane itself (``compiled.strokes``): pass by pass the zone that stands highest
over flat is taken down by a shaving, with the plane that takes most without going below flat; the direction turns with each, so that
errors cancel. The longest finely set plane comes last, over all of the face: it bridges what is hollow and takes what stands up.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field
from math import cos, isfinite, radians, sin

from nullah.core.arrays import Bools, Floats, np
from nullah.core.frozen import frozen, replace

TURNED = (45.0, -45.0)  # degrees from the length of the board, turned each time over
MOST = 80  # passes in one go, where a plane gets no further
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
    """One plane ``times`` over one zone of a face.

    ``mask`` says where on the grid the iron cuts; ``zone`` is the rectangle that holds it, x, y, x, y in mm. ``until`` is "" or "full
    shavings" (over all of the face). ``most`` is what stood highest over flat before it, mm; ``check`` says to read the face again
    afterwards.
    """

    plane: BenchPlane
    direction: float
    zone: tuple[float, float, float, float]
    mask: Bools = field(compare=False, repr=False)
    most: float
    times: int = 1
    until: str = ""
    check: bool = False

    def reckoned(self, workpiece: Workpiece) -> tuple[int, float]:
        """How many strokes it takes, and how long they are together, mm."""
        lines = paths(self, workpiece)
        run = float(np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]).sum())
        return self.times * len(lines), self.times * run


@frozen
class Workpiece:
    """What is planed, without its heights: length and width, mm, and the grid they are kept on."""

    length: float
    width: float
    rows: int
    columns: int

    @property
    def steps(self) -> tuple[float, float]:
        """Along and across, between points of the grid, mm."""
        return self.length / (self.rows - 1), self.width / (self.columns - 1)

    def places(self) -> tuple[Floats, Floats]:
        """Along and across from -1 to 1, each (rows, columns)."""
        u, v = np.linspace(-1.0, 1.0, self.rows), np.linspace(-1.0, 1.0, self.columns)
        along, across = np.meshgrid(u, v, indexing="ij")
        return along, across


def take(workpiece: Workpiece, heights: Floats, p: Pass) -> None:
    """Take a pass off heights, in place."""
    from nullah.core.surface.compiled.strokes import strokes

    along, across = workpiece.steps
    touched = np.zeros(heights.shape, dtype=np.int64)
    lines = paths(p, workpiece)
    for _ in range(p.times):
        strokes(heights, p.mask.astype(np.uint8), touched, along, across, lines, p.plane.row())


def planned(
    workpiece: Workpiece,
    heights: Floats,
    target: Floats,
    planes: Sequence[BenchPlane],
    directions: Sequence[float],
    goal: float,
    clear: int,
) -> tuple[list[Pass], Floats]:
    """Passes that bring a face down to a target until no zone stands more than ``goal`` mm over it, then ``clear`` over all of it.

    Returns:
        The passes, and the face as they are reckoned to leave it.
    """
    heights, out = heights.copy(), list[Pass]()
    order = sorted(planes, key=lambda p: -p.set)
    out += _down(workpiece, heights, target, order[0], directions)
    most = _highest(heights - target)
    stuck = False
    while most > goal and len(out) < MOST:
        fit = [p for p in order if most > 2 * p.set]
        for plane in [*fit, *(order[-1:] if order[-1] not in fit else ())]:
            times = max(int(most / plane.set / _AT_ONCE), 1)
            over = 0.3 * most if stuck else max(most - times * plane.set, 0.3 * plane.set)
            p = _pass(workpiece, plane, directions[len(out) % len(directions)], heights - target > over, most)
            after = heights.copy()
            take(workpiece, after, p)
            after -= (times - 1) * (heights - after)
            p = replace(p, times=times)
            if float((target - after).max()) < max(0.05, float((target - heights).max()) + 0.02):
                break
        left = _highest(after - target)
        stuck = left > most - 0.1 * plane.set
        heights, most = after, left
        out.append(p)
    last = max(planes, key=lambda p: p.bridges)
    last = replace(last, set=min(last.set, FINEST), camber=min(last.camber, FINEST / 3))
    for _ in range(clear):
        p = replace(
            _pass(workpiece, last, 0.0, np.ones(heights.shape, dtype=bool), max(most, 0.0)), until="full shavings"
        )
        take(workpiece, heights, p)
        most = _highest(heights - target)
        out.append(p)
    if out:
        out[-1] = replace(out[-1], check=True)
    return out, heights


# shavings: a face that stands so many too high everywhere is planed down without looking at zones, to within half as many; and where
# so many are to come off somewhere, a zone is gone over as often as this goes into them
_MANY, _AT_ONCE = 6, 16


def _down(
    workpiece: Workpiece, heights: Floats, target: Floats, plane: BenchPlane, directions: Sequence[float]
) -> list[Pass]:
    """Passes over all of a face that stands high over its target everywhere, by as many shavings as leave some; heights follow."""
    spare = float((heights - target).min())
    if spare < _MANY * plane.set:
        return []
    every, out = np.ones(heights.shape, dtype=bool), list[Pass]()
    for direction in directions:
        p = _pass(workpiece, plane, direction, every, _highest(heights - target))
        before = float(heights.mean())
        take(workpiece, heights, p)
        sheds = before - float(heights.mean())
        times = max(int((spare - _MANY / 2 * plane.set) / sheds / len(directions)), 1)
        heights -= (times - 1) * sheds
        out.append(replace(p, times=times))
    return out


def _highest(over: Floats) -> float:
    return float(np.percentile(over, _HIGH))


def _pass(workpiece: Workpiece, plane: BenchPlane, direction: float, mask: Bools, most: float) -> Pass:
    return Pass(plane, direction, _box(workpiece, mask), mask, most)


def _box(workpiece: Workpiece, mask: Bools) -> tuple[float, float, float, float]:
    """The rectangle that holds all points of a zone and half of the way to those beside them, mm; nothing of an empty one."""
    if not mask.any():
        return 0.0, 0.0, 0.0, 0.0
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    along, across = workpiece.steps
    return (
        max((float(rows[0]) - 0.5) * along, 0.0),
        max((float(columns[0]) - 0.5) * across, 0.0),
        min((float(rows[-1]) + 0.5) * along, workpiece.length),
        min((float(columns[-1]) + 0.5) * across, workpiece.width),
    )


def paths(p: Pass, workpiece: Workpiece) -> Floats:
    """Where the middle of the iron begins and ends in each stroke of a pass: (strokes, 4), mm, side by side and overlapping.

    A stroke begins and ends half an iron's width outside its zone or more, so that slanting ones cut its corners too.
    """
    angle, beyond = radians(p.direction), p.plane.width / 2
    e, n = (cos(angle), sin(angle)), (-sin(angle), cos(angle))
    sides = [x * n[0] + y * n[1] for x in p.zone[::2] for y in p.zone[1::2]]
    step = p.plane.width * (0.5 if p.plane.camber > 0.25 * p.plane.set else 0.8)
    low, high = min(sides), max(sides)
    count = max(int(np.ceil((high - low) / step)), 1)
    out = []
    for i in range(count):
        side = low + (high - low) * (i + 0.5) / count
        found = [_within(side + off, e, n, p.zone) for off in (0.0, -beyond, beyond)]
        if found[0] is not None:
            start = min(one[0] for one in found if one is not None)
            end = max(one[1] for one in found if one is not None)
            start, end = min(start, found[0][0] - beyond), max(end, found[0][1] + beyond)
            x, y = found[0][2]
            out.append((x + start * e[0], y + start * e[1], x + end * e[0], y + end * e[1]))
    return np.array(out, dtype=np.float64).reshape(-1, 4)


def _within(
    side: float, e: tuple[float, float], n: tuple[float, float], zone: tuple[float, float, float, float]
) -> tuple[float, float, tuple[float, float]] | None:
    """From where to where a line, ``side`` off the origin along n and running along e, lies within a rectangle, and where it begins."""
    foot = side * n[0], side * n[1]
    first, last = -1e12, 1e12
    for at, way, low, high in ((foot[0], e[0], zone[0], zone[2]), (foot[1], e[1], zone[1], zone[3])):
        if abs(way) < 1e-12:
            if not low <= at <= high:
                return None
            continue
        one, other = (low - at) / way, (high - at) / way
        first, last = max(first, min(one, other)), min(last, max(one, other))
    return (first, last, foot) if last - first > 1.0 else None
