"""What readings tell of a board, as a Gaussian process: the likeliest surface, how sure it is, and which reading disagrees.

A face is bow, cup and twist, each uneven along the board, and what is local (kriging; Rasmussen and Williams 2006, chapters 2 and 5,
from memory). Every reading is linear in these, since what is touched is known. How uneven and how rough the board is, is learnt: the
posterior is a mixture over ``prior.SCALES``, each weighed by its marginal likelihood (the same, section 5.4). The underside of rough
stock follows the warp of the face (the board is warped as a whole) at a thickness that tapers and is hollow a little, and is rough by
itself; that of a board whose other face is true is a plane.

A reading that the others do not bear out is to be read again: it may be misread, it may be a hump. Only where readings of one place
disagree is one of them said to be wrong.

What opening a project asks for is worked in plain lists; how sure a surface is, in arrays, when it is asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from functools import lru_cache
from math import exp, hypot, log, sqrt
from operator import mul
from statistics import median

from nullah.core.surface.heights import COLUMNS, Rows, evenly, node_rows
from nullah.core.surface.linear import definite
from nullah.core.surface.prior import SCALES, Prior, Scale, acrosses, alongs, bend, rough
from nullah.core.surface.reading_kinds import READING_KINDS, Point, ReadingLike
from nullah.core.values.frozen import frozen

CALIPER = "thickness"  # the kind that sees both faces
LEFT = 0.05  # mm, one standard deviation of a face that is called true: calipers bear on it
LOOK_AGAIN = 2.2  # standard deviations between a reading and what the others say: it is one to read again
DISAGREE = (
    4.5  # errors of a reading: two of one place lie no further apart (three standard deviations of their difference)
)
CANNOT_BE = 7.0  # standard deviations of what the worst of boards would read: questioned until it is read again
CAREFUL = 1.15  # so much wider than the posterior is what is told: its scales are themselves learnt from few readings
_DISTRUSTED = 1000.0  # mm: the error of a reading that is taken for wrong


Half = tuple[float, float]  # of length and width, mm


@frozen
class Seen:
    """What a reading sees: weights at places of the warp of the board, of what is local on the face and on the back, and how it sees
    the thickness; its error, mm."""

    warp: tuple[Point, ...]
    local: tuple[Point, ...]
    behind: tuple[Point, ...]
    taper: tuple[float, float, float, float]
    error: float = 0.0


@frozen
class Board:
    """A board to read: length and width, mm; ``true`` where the face that is not read is flat already; what is known beforehand (None:
    that it is rough)."""

    length: float
    width: float
    true: bool = False
    given: Prior | None = None

    @property
    def prior(self) -> Prior:
        """What is known beforehand."""
        return self.given or rough(self.length, self.width)

    @property
    def half(self) -> Half:
        """Half of length and width, mm: what u and v are shares of."""
        return self.length / 2, self.width / 2


_NO_TAPER = (0.0, 0.0, 0.0, 0.0)


def seen(board: Board, r: ReadingLike, behind: bool = False) -> Seen:
    """What a reading sees of a board; ``behind``: of the back of rough stock, as it lies turned over.

    Raises:
        KeyError: its kind is none.
    """
    sight = READING_KINDS[r.kind]
    # a file may hold places off the board: they are taken to its rim
    points = tuple([(w, _on(u), _on(v)) for w, u, v in sight.points(r, board.length, board.width)])
    if r.kind != CALIPER and behind:
        turned = tuple([(-w, u, v) for w, u, v in points])
        return Seen(turned, (), turned, (0.0, 0.0, 0.0, sum([w * v * v for w, _, v in points])), sight.error)
    if r.kind != CALIPER:
        return Seen(points, points, (), _NO_TAPER, sight.error)
    _, u, v = points[0]
    if board.true:
        return Seen(points, points, (), (1.0, u, v, 0.0), hypot(sight.error, LEFT))
    return Seen((), points, ((-1.0, u, v),), (1.0, u, v, v * v), sight.error)


def _on(place: float) -> float:
    return min(max(place, -1.0), 1.0)


def of_a_place(u: float, v: float) -> Seen:
    """The height of the face at a place."""
    here = ((1.0, u, v),)
    return Seen(here, here, (), _NO_TAPER)


@frozen
class Parts:
    """Covariance of two things seen, for a board as most are: of the even warp, of the uneven, of what is local, of the thickness."""

    even: float
    uneven: float
    local: float
    taper: float

    def of(self, s: Scale) -> float:
        """Of a board of that scale."""
        return s.warped**2 * (self.even + s.uneven**2 * self.uneven) + s.local**2 * self.local + self.taper


@lru_cache(maxsize=1 << 16)
def parts(half: Half, prior: Prior, a: Seen, b: Seen) -> Parts:
    """Covariance of two things seen of a board of half that length and width, mm."""
    bow, cup, twist = (sd * sd for sd in prior.shapes)
    even = uneven = local = 0.0
    for w, u, v in a.warp:
        for x, p, q in b.warp:
            weight, bent, leaning, curled = w * x, bow, twist * v * q, cup * v * v * q * q
            even += weight * (bent * u * u * p * p + leaning * u * p + curled)
            uneven += weight * (bent + leaning + curled) * bend(u, p, exp)
    for mine, theirs in ((a.local, b.local), (a.behind, b.behind)):
        for w, u, v in mine:
            for x, p, q in theirs:
                local += w * x * sum(map(mul, _alongs(half[0], u, p), _acrosses(half[1], v, q)))
    taper = sum([p * q * sd * sd for p, q, sd in zip(a.taper, b.taper, prior.taper, strict=True)])
    return Parts(even, uneven, prior.local**2 * local, taper)


@lru_cache(maxsize=1 << 15)
def _alongs(half: float, u: float, p: float) -> tuple[float, ...]:
    return alongs(half, u, p, exp)


@lru_cache(maxsize=1 << 13)
def _acrosses(half: float, v: float, q: float) -> tuple[float, ...]:
    return acrosses(half, v, q, exp)


@frozen
class Weighed:
    """A scale, how likely the readings make it, and by it: the inverse of their covariance, and that times what they say."""

    scale: Scale
    share: float
    inverted: list[list[float]]
    weights: list[float]


@frozen
class Fit:
    """The likeliest board: bow, cup and twist, what is added to them at the nodes of face and back (rows along), and the thickness
    ``T + b u + c v + d v^2``.

    By reading: how far it lies from the fit (``residuals``) and from what all the others say (``apart``), both mm, and the latter in
    standard deviations (``against``).

    Attributes:
        strays: which readings disagree with others of their own place, from 0; they count for nothing.
        again: which are to be read again, most wanted first.
        weighed: the scales, likeliest first, those with no likelihood left out.
    """

    board: Board
    shapes: tuple[float, float, float]
    local: Rows
    behind: Rows
    taper: tuple[float, float, float, float]
    residuals: tuple[float, ...]
    apart: tuple[float, ...]
    against: tuple[float, ...]
    strays: tuple[int, ...]
    again: tuple[int, ...]
    said: tuple[Seen, ...]
    weighed: tuple[Weighed, ...]

    def unsure(self) -> float:
        """One standard deviation of the face's heights off their plane, mm, root mean square over the board."""
        return _unsure(self)


def fit(board: Board, thickness: float, readings: Sequence[ReadingLike], behind: Collection[int] = frozenset()) -> Fit:
    """The likeliest board.

    Args:
        thickness: as it was typed, mm, not exact.
        readings: of the face, and calipered.
        behind: which of them are of the back of rough stock, from 0.
    """
    half, prior = board.half, board.prior
    said = [seen(board, r, i in behind) for i, r in enumerate(readings)]
    values = [r.value - s.taper[0] * thickness for r, s in zip(readings, said, strict=True)]
    among = [
        [parts(half, prior, *((a, b) if i >= j else (b, a))) for j, b in enumerate(said)] for i, a in enumerate(said)
    ]
    places = same_place(board, readings, behind)
    strays, odd = _strays(readings, places), _odd(said, values, among, places, readings, thickness)
    told = _settled(said, values, among, places, strays, odd)
    apart, against = _against(said, told, strays | odd)
    doubted = {i for i, one in enumerate(against) if abs(one) > LOOK_AGAIN and len(said) > _FEW}
    again = [i for i in sorted(doubted | odd, key=lambda i: -abs(against[i])) if len(places[i]) == 1]
    unsettled = [places[i][-1] for i in sorted(strays) if len(places[i]) == 2]
    errors = [_DISTRUSTED if i in strays | odd else s.error for i, s in enumerate(said)]
    mean = _mixed(told, lambda s: 1.0, len(said))
    face, back = _at_nodes(board, prior, said, told)
    t, b, c, d = _summed([s.taper for s in said], mean, prior.taper)
    warp = _mixed(told, lambda s: s.warped**2, len(said))
    features = [_features(s.warp) for s in said]
    bow, cup, twist = _summed(features, warp, prior.shapes)
    return Fit(
        board,
        (bow, cup, twist),
        face,
        back,
        (thickness + t, b, c, d),
        tuple([w * e * e for w, e in zip(mean, errors, strict=True)]),
        apart,
        against,
        tuple(sorted(strays)),
        (*unsettled, *again),
        tuple(said),
        told,
    )


_FEW = 4  # readings that say too little of each other


def where(board: Board, r: ReadingLike) -> tuple[str, float, float, float]:
    """What makes two readings one: kind and place, to the mm."""
    whole = r.kind == "bow" and (not r.to or r.to >= board.length - 0.5)
    across = round(r.across) if "across" in READING_KINDS[r.kind].used or r.across else 0
    return r.kind, round(r.at), across, 0 if whole else round(r.to)


def same_place(board: Board, readings: Sequence[ReadingLike], behind: Collection[int] = frozenset()) -> list[list[int]]:
    """By reading, which were taken at its place, itself among them; ``behind``: those of the back."""
    by: dict[object, list[int]] = {}
    keys = [
        (*where(board, r), round(r.stick), r.stood, i in behind and r.kind != CALIPER) for i, r in enumerate(readings)
    ]
    for i, key in enumerate(keys):
        by.setdefault(key, []).append(i)
    return [by[key] for key in keys]


def _strays(readings: Sequence[ReadingLike], places: Sequence[Sequence[int]]) -> set[int]:
    """Of readings of one place those that lie apart: of three or more, from what lies in the middle; of two, both."""
    out = set[int]()
    for i, r in enumerate(readings):
        values = [readings[j].value for j in places[i]]
        far = DISAGREE * READING_KINDS[r.kind].error
        if (len(values) == 2 and abs(values[0] - values[1]) > far) or (
            len(values) > 2 and abs(r.value - median(values)) > far
        ):
            out.add(i)
    return out


def _odd(
    said: Sequence[Seen],
    values: Sequence[float],
    among: Sequence[Sequence[Parts]],
    places: Sequence[Sequence[int]],
    readings: Sequence[ReadingLike],
    thickness: float,
) -> set[int]:
    """Readings that hardly can be, and are not borne out by another of their place: planned on only once they are."""
    worst = max(SCALES, key=lambda s: (s.warped, s.uneven, s.local))
    out = set[int]()
    for i, (s, value) in enumerate(zip(said, values, strict=True)):
        if len(places[i]) > 1:
            continue
        thin = readings[i].kind == CALIPER and s.behind and readings[i].value < thickness / 2
        if thin or abs(value) > CANNOT_BE * sqrt(max(among[i][i].of(worst), 0.0)):
            out.add(i)
    return out


def _settled(
    said: Sequence[Seen],
    values: Sequence[float],
    among: Sequence[Sequence[Parts]],
    places: Sequence[Sequence[int]],
    strays: set[int],
    odd: set[int],
) -> tuple[Weighed, ...]:
    """The scales weighed; of two readings of one place that disagree, the one that the others bear out is no stray."""
    told = _weighed(said, values, among, strays | odd)
    pairs = {tuple(places[i]) for i in strays if len(places[i]) == 2}
    if pairs:
        _, against = _against(said, told, strays | odd)
        for pair in pairs:
            strays.discard(min(pair, key=lambda i: abs(against[i])))
        told = _weighed(said, values, among, strays | odd)
    return told


def _weighed(
    said: Sequence[Seen], values: Sequence[float], among: Sequence[Sequence[Parts]], wrong: set[int]
) -> tuple[Weighed, ...]:
    noise = [(_DISTRUSTED if i in wrong else s.error) ** 2 for i, s in enumerate(said)]
    found = []
    for scale in SCALES:
        warped, uneven, local = scale.warped**2, (scale.warped * scale.uneven) ** 2, scale.local**2
        matrix = [[warped * p.even + uneven * p.uneven + local * p.local + p.taper for p in row] for row in among]
        for i, one in enumerate(noise):
            matrix[i][i] += one
        inverted, determinant = definite(matrix)
        weights = [sum(map(mul, row, values)) for row in inverted]
        likely = log(scale.share) - determinant / 2 - sum(map(mul, weights, values)) / 2
        found.append((likely, scale, inverted, weights))
    most = max(one[0] for one in found)
    shares = [exp(one[0] - most) for one in found]
    whole = sum(shares)
    kept = [(s / whole, *one[1:]) for s, one in zip(shares, found, strict=True) if s > _NO_LIKELIHOOD * whole]
    kept.sort(key=lambda one: -one[0])
    whole = sum(one[0] for one in kept)
    return tuple([Weighed(scale, s / whole, inverted, weights) for s, scale, inverted, weights in kept])


_NO_LIKELIHOOD = 0.003


def _mixed(told: Sequence[Weighed], of: Callable[[Scale], float], size: int) -> list[float]:
    """Weights of the readings over all scales, each times a factor of its own."""
    out = [0.0] * size
    for one in told:
        factor = one.share * of(one.scale)
        out = [a + factor * b for a, b in zip(out, one.weights, strict=True)]
    return out


def _summed(sights: Sequence[Sequence[float]], weights: Sequence[float], sizes: Sequence[float]) -> tuple[float, ...]:
    return tuple(
        [sd**2 * sum(w * one[i] for w, one in zip(weights, sights, strict=True)) for i, sd in enumerate(sizes)]
    )


def _features(points: Sequence[Point]) -> tuple[float, float, float]:
    """What they see of the even warp."""
    return (
        sum([w * u * u for w, u, _ in points]),
        sum([w * v * v for w, _, v in points]),
        sum([w * u * v for w, u, v in points]),
    )


def _against(
    said: Sequence[Seen], told: Sequence[Weighed], wrong: set[int]
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Each reading against all the others, mm and in standard deviations (Rasmussen and Williams, eq. 5.12), over all scales."""
    apart, against = [], []
    for i, s in enumerate(said):
        mean = square = 0.0
        for one in told:
            variance = 1 / one.inverted[i][i]
            off = one.weights[i] * variance
            if i in wrong:
                variance += s.error**2 - _DISTRUSTED**2
            mean += one.share * off
            square += one.share * (max(variance, s.error**2) + off * off)
        apart.append(mean)
        against.append(mean / sqrt(max(square - mean * mean, s.error**2)))
    return tuple(apart), tuple(against)


def _at_nodes(board: Board, prior: Prior, said: Sequence[Seen], told: Sequence[Weighed]) -> tuple[Rows, Rows]:
    """What is uneven and local, at the nodes of face and back."""
    us, vs = evenly(node_rows(board.length)), evenly(COLUMNS)
    bow, cup, twist = (sd * sd for sd in prior.shapes)
    uneven = _mixed(told, lambda s: (s.warped * s.uneven) ** 2, len(said))
    local = _mixed(told, lambda s: (s.local * prior.local) ** 2, len(said))
    bent = [[0.0, 0.0, 0.0] for _ in us]  # by powers of v
    for weight, s in zip(uneven, said, strict=True):
        for w, p, q in s.warp:
            for held, u in zip(bent, us, strict=True):
                k = weight * w * bend(u, p, exp)
                held[0] += k * bow
                held[1] += k * q * twist
                held[2] += k * q * q * cup
    warp = [[a + v * (b + v * c) for v in vs] for a, b, c in bent]
    face = [list(row) for row in warp]
    back = [list(row) for row in warp] if not board.true else [[0.0] * len(vs) for _ in us]
    for rows, sides in ((face, [s.local for s in said]), (back, [s.behind for s in said])):
        for weight, points in zip(local, sides, strict=True):
            for w, p, q in points:
                across = list(zip(*[_acrosses(board.half[1], v, q) for v in vs], strict=True))
                for row, u in zip(rows, us, strict=True):
                    for k, shares in zip(_alongs(board.half[0], u, p), across, strict=True):
                        k *= weight * w
                        if abs(k) > 1e-6:
                            row[:] = [z + k * share for z, share in zip(row, shares, strict=True)]
    return _or_none(face), _or_none(back)


def _or_none(rows: Sequence[Sequence[float]]) -> Rows:
    return tuple(map(tuple, rows)) if any(map(any, rows)) else ()


# ---- how sure, on the whole

_LOOKED_AT = tuple([(u, v) for u in evenly(7) for v in evenly(3)])


def _unsure(found: Fit) -> float:
    """By the trace of the posterior covariance at some places, less that of their plane."""
    board = found.board
    half, prior = board.half, board.prior
    count = len(_LOOKED_AT)
    planes = []
    for along, across in ((0, 0), (1, 0), (0, 1)):
        size = sqrt(sum((u**along * v**across) ** 2 for u, v in _LOOKED_AT))
        points = tuple([(u**along * v**across / size, u, v) for u, v in _LOOKED_AT])
        planes.append(Seen(points, points, (), _NO_TAPER))
    total = 0.0
    for sign, those in ((1.0, [of_a_place(u, v) for u, v in _LOOKED_AT]), (-1.0, planes)):
        for one in those:
            own, beside = parts(half, prior, one, one), [parts(half, prior, one, s) for s in found.said]
            for told in found.weighed:
                if told.share > _LEAST_SHARE:
                    sees = [p.of(told.scale) for p in beside]
                    known = sum(x * sum(map(mul, row, sees)) for x, row in zip(sees, told.inverted, strict=True))
                    total += sign * told.share * (own.of(told.scale) - known)
    return CAREFUL * sqrt(max(total, 0.0) / count)


_LEAST_SHARE = 0.05
