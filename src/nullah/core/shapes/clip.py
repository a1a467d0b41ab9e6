"""Lines kept within an outline with holes."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.drawing.display_list import Point
from nullah.core.values.arrays import Floats, np


def within(runs: Sequence[Floats], rings: Sequence[Sequence[Point]]) -> list[list[tuple[Point, ...]]]:
    """Of each run of points (n, 2) the stretches that lie within rings of points, by the even-odd rule; one list a run."""
    counts = [max(0, len(run) - 1) for run in runs]
    if not sum(counts):
        return [[] for _ in runs]
    a = np.concatenate([run[:-1] for run in runs])
    d = np.concatenate([run[1:] for run in runs]) - a
    starts = np.concatenate([np.array(ring) for ring in rings])
    e = np.concatenate([np.array([*ring[1:], ring[0]]) for ring in rings]) - starts
    off = starts[None, :, :] - a[:, None, :]
    turn = d[:, None, 0] * e[None, :, 1] - d[:, None, 1] * e[None, :, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (off[..., 0] * e[None, :, 1] - off[..., 1] * e[None, :, 0]) / turn
        u = (off[..., 0] * d[:, None, 1] - off[..., 1] * d[:, None, 0]) / turn
    crosses = (turn != 0) & (u >= 0) & (u < 1)
    here = crosses & (t >= 0) & (t < 1)
    before = ((crosses & (t < 0)).sum(axis=1) % 2 == 1).tolist()  # a ray back from where a segment begins
    long = (d != 0).any(axis=1).tolist()
    cuts: dict[int, list[float]] = {}
    for i, at in zip(*(k.tolist() for k in np.nonzero(here)), strict=True):
        cuts.setdefault(i, []).append(float(t[i, at]))
    found: list[list[tuple[Point, ...]]] = []
    at = 0
    for run, count in zip(runs, counts, strict=True):
        here_cut = [sorted(cuts.get(i, ())) for i in range(at, at + count)]
        first = next((i for i in range(at, at + count) if long[i]), at)  # one that has a length
        inside = bool(count) and before[first]
        if any(here_cut):
            found.append(_parted(run, here_cut, inside))
        else:
            found.append([tuple((x, y) for x, y in run.tolist())] if inside else [])
        at += count
    return found


def _parted(run: Floats, cuts: list[list[float]], inside: bool) -> list[tuple[Point, ...]]:
    """The stretches of a run that lie inside, which is crossed so far along each of its segments."""
    points = run.tolist()
    out: list[tuple[Point, ...]] = []
    here: list[Point] = [(points[0][0], points[0][1])] if inside else []
    for (ax, ay), (bx, by), crossings in zip(points, points[1:], cuts, strict=False):
        for t in crossings:
            here.append((ax + t * (bx - ax), ay + t * (by - ay)))
            if inside:
                out.append(tuple(here))
                here = []
            inside = not inside
        if inside:
            here.append((bx, by))
    if len(here) > 1:
        out.append(tuple(here))
    return out
