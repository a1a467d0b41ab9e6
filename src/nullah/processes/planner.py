"""The planner in a process of its own, so that the window stays free. ``main`` is the process; ``reports`` is what it does."""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable, Iterator, Sequence

from nullah.core.layout.graft import grafted
from nullah.core.layout.model import Blank, Layout, WayOut
from nullah.core.layout.offers import Offers
from nullah.core.layout.planner import paced
from nullah.core.layout.ways_out import ways_out
from nullah.processes.messages import Report, Task, packed, unpacked

TURN = 0.03  # seconds of search between looks at the clock
TELL_EVERY = 0.4  # seconds between reports
YIELDS = 5  # steps of niceness: the search may take every core there is, the window comes first


def reports(task: Task, clock: Callable[[], float] = time.perf_counter) -> Iterator[Report]:
    """Search, and tell how far it has come every now and then; the last report says it is done."""
    r = task.request
    offers = Offers(r.stock, r.blanks, r.options, task.seed, r.begun, waits=False)
    at_most = offers.bound().placed_area_share_at_most
    if offers.done:
        yield Report(r.fingerprint, (), 1.0, at_most, 1.0, 0, True)
        return
    offers.ways[0][1].advance(0, 0.0)  # the compiled loop is loaded before the time begins to run
    began = told = clock()
    many = 4

    def report(share: float, done: bool = False, ways: tuple[WayOut, ...] = ()) -> Report:
        layouts = tuple(grafted(one, r.kept) for one in offers.layouts()) if r.kept else offers.layouts()
        come = offers.progress
        placed = max(come.placed, placed_share(layouts[0], r.blanks)) if layouts else come.placed
        return Report(r.fingerprint, layouts, placed, max(at_most, placed), share, come.rounds, done, ways)

    while (share := (clock() - began) / task.seconds) < 1.0:
        turn = clock()
        offers.advance(many, share)
        many = paced(many, clock() - turn, TURN)
        if clock() - told >= TELL_EVERY:
            told = clock()
            yield report(share)
    found = offers.layouts()
    ways = ways_out(r.stock, r.blanks, r.options, found[0], buy=False) if found and found[0].unplaced else ()
    yield report(1.0, True, ways)


def placed_share(layout: Layout, blanks: Sequence[Blank]) -> float:
    """The share of the area asked for that a layout places: what is told beside it is told of it."""
    asked = sum(b.length * b.width for b in blanks)
    without = {part for part, _ in layout.unplaced}
    short = sum(b.length * b.width for b in blanks if b.id in without)
    return 1.0 - short / asked if asked > 0 else 1.0


def main() -> int:
    """Read one task, send its reports; whatever a library prints goes to where errors go."""
    with os.fdopen(os.dup(1), "wb") as out:
        os.dup2(2, 1)
        os.nice(YIELDS)
        (task, *_), _ = unpacked(sys.stdin.buffer.read())
        assert isinstance(task, Task)
        for one in reports(task):
            out.write(packed(one))
            out.flush()
    return 0
