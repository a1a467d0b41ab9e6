"""The planner's figures: share of the area asked for that finds a place, against what is known to fit or an independent bound."""

from __future__ import annotations

import os
import random
import time
from dataclasses import replace

import cases
import general
import proved
import relaxed

from nullah.core.layout.model import Options, leaves
from nullah.core.layout.planner import Planner, paced
from nullah.core.stations.breakdown import LeftWhenFlat
from nullah.core.surface.readings import Surface

TURN = 0.03  # seconds between looks at the clock
PROVABLE, LISTING = 80, 30.0  # parts up to which a proof is tried; seconds for the sets that fit each board
KERFS = Options(cases.KERF, cases.KERF)


def searched(stock, blanks, seconds, options=KERFS, seed=1):
    """The planner after so many seconds, or as soon as all has a place; and the seconds it took."""
    planner = Planner(stock, blanks, options, seed, waits=False)
    planner.advance(0, 0.0)
    began, many = time.perf_counter(), 5
    while (gone := time.perf_counter() - began) < seconds and planner.progress.unplaced:
        turn = time.perf_counter()
        planner.advance(many, gone / seconds)
        many = paced(many, time.perf_counter() - turn, TURN)
    return planner, time.perf_counter() - began


def _row(what, seconds, runs):
    shares = "  ".join(f"{100 * p.progress.placed:6.2f} % in {took:4.1f} s" for p, took in runs)
    print(f"  {what:44} {seconds:3.0f} s:  {shares}")


def known_to_fit(seeds=(1, 2)):
    """Boards sawn up at random: all fits exactly, or with each part a little smaller; with and without faults."""
    print("planner, boards sawn up at random, share placed:")
    for loose, faults in ((False, False), (False, True), (True, False), (True, True)):
        for boards, parts, exact, slack in ((4, 20, 1, 10), (10, 60, 3, 10), (40, 250, 10, 10)):
            seconds = slack if loose else exact
            runs = [searched(*cases.sawn(boards, parts, s, loose, faults), seconds) for s in seeds]
            words = f"{boards} boards, {parts} parts{', a little loose' if loose else ''}{', faults' if faults else ''}"
            _row(words, seconds, runs)
    if os.environ.get("NULLAH_LONG"):
        _row("40 boards, 250 parts, a little loose", 60, [searched(*cases.sawn(40, 250, s, True), 60) for s in seeds])


def _set_row(stock, blanks, planner, told):
    """A line for sets searched for 10 s, with what is told of how much there could be."""
    placed = f"{100 * planner.progress.placed:6.2f} %"
    words = f"{len(stock):2} boards, {len(blanks):3} parts, {planner.progress.unplaced:2} left out"
    print(f"  {words}  10 s:  {placed} ({told})")


def _proved(stock, blanks, placed):
    """What is proved with full cuts, in words, where few enough parts let it be and there is time."""
    if len(blanks) > PROVABLE or not os.environ.get("NULLAH_LONG"):
        return ""
    return f", with full cuts {100 * proved.share_at_most(stock, blanks, cases.KERF, 150.0, placed, LISTING):6.2f} %"


def sets_round_faults(seeds=(1, 2, 3)):
    """Sets of equal parts round faults, against an independent relaxed bound where it is quick."""
    print("planner, sets of 2 to 8 round 2 to 6 faults a board, share placed (independent bound):")
    for boards in (4, 10, 40):
        for s in seeds:
            stock, blanks = cases.sets(boards, s)
            planner, _ = searched(stock, blanks, 10)
            placed, bound = planner.progress.placed, planner.bound().placed_area_share_at_most
            most = min(bound, relaxed.share_at_most(stock, blanks, cases.KERF, 5.0) if boards <= 10 else 1.0)
            _set_row(stock, blanks, planner, f"at most {100 * most:6.2f} %{_proved(stock, blanks, placed)}")
    if os.environ.get("NULLAH_LONG"):
        _row("40 boards, sets", 60, [searched(*cases.sets(40, s), 60) for s in seeds[:2]])


def few_large_parts(seeds=(1, 2, 3, 4, 5)):
    """Sets of larger parts; on four boards a general solver can prove what fits, full cuts or not."""
    print(
        "planner, sets of larger parts, share placed (general solver on 4 boards: found, at most; the bench's bound):"
    )
    for boards, s in [(b, s) for b in (4, 10) for s in seeds]:
        stock, blanks = cases.sets(boards, s, lengths=cases.LONG, widths=cases.WIDE)
        planner, _ = searched(stock, blanks, 10)
        placed, told = planner.progress.placed, ""
        if boards == 4:
            found, most = general.share_at_most(stock, blanks, cases.KERF, 30.0)
            told = f"{100 * found:6.2f} %, at most {100 * most:6.2f} %; "
        bound = relaxed.share_at_most(stock, blanks, cases.KERF, 5.0 if boards == 4 else 20.0)
        _set_row(stock, blanks, planner, f"{told}at most {100 * bound:6.2f} %{_proved(stock, blanks, placed)}")


def warped(seeds=(1, 2, 3, 4, 5)):
    """Boards as a timber yard sells them, warped: parts thick enough once true, the warp known against a flat allowance."""
    print("planner, warped boards, share of parts that come out thick enough:")
    means = [0.0, 0.0]
    for s in seeds:
        rng = random.Random(s)
        stock, blanks = cases.sets(10, s, lengths=(400, 1200), widths=(70, 170), most_faults=1, ask=(0.7, 0.75))
        true = []
        for b in stock:
            bend = (b.length / 2400) ** 2
            warp = (
                rng.uniform(-6, 6) * bend,
                rng.uniform(-2.5, 2.5),
                rng.uniform(-3, 3) * b.length / 2400,
                0.0,
                0.0,
                0.0,
            )
            surface = Surface(b.length, b.width, warp, (25.0, 0.0, 0.0), ())
            true.append(replace(b, thickness_in=LeftWhenFlat(surface)))
        blanks = [replace(p, thickness=t) for p, t in zip(blanks, _thicknesses(blanks, rng), strict=True)]
        knowing, _ = searched(true, blanks, 5)
        left = [
            25.0 - _left(true, b.board, n) for b in knowing.layout().boards for n in leaves(b.root) if n.use == "part"
        ]
        allowance = sum(left) / len(left)
        flat = [replace(b, thickness_in=lambda *_, a=allowance: 25.0 - a) for b in stock]
        blind, _ = searched(flat, blanks, 5)
        shares = [_thick_enough(p, true, blanks) for p in (knowing, blind)]
        means = [m + share / len(seeds) for m, share in zip(means, shares, strict=True)]
        print(
            f"  10 boards: warp known {100 * shares[0]:5.1f} %, flat allowance of {allowance:.1f} mm {100 * shares[1]:5.1f} %"
        )
    print(f"  on average: warp known {100 * means[0]:5.1f} %, flat allowance {100 * means[1]:5.1f} %")


def _thicknesses(blanks, rng):
    """One thickness for each set of equal parts."""
    chosen = {(b.length, b.width): rng.uniform(22.0, 24.5) for b in blanks}
    return [chosen[b.length, b.width] for b in blanks]


def _left(stock, board, node):
    one = next(s for s in stock if s.id == board)
    return one.thickness_in(node.x, node.y, node.length, node.width)


def _thick_enough(planner, stock, blanks):
    want = {b.id: b.thickness for b in blanks}
    laid = [(b.board, n) for b in planner.layout().boards for n in leaves(b.root) if n.use == "part"]
    return sum(_left(stock, b, n) >= want[n.part] - 0.05 for b, n in laid) / len(blanks)


def responsive(window):
    """How late the window's own beat comes while the planner works, and how long stopping it takes."""
    from PySide6.QtCore import QEventLoop, QTimer

    session, late, last = window.session, [], [0.0]
    window.go("breakdown")

    def beat():
        now = time.perf_counter()
        late.append(now - last[0])
        last[0] = now

    session.look_longer(30.0)
    began = time.perf_counter()
    while session.report is None and time.perf_counter() - began < 60:
        _settle(QEventLoop, QTimer, 20)
    timer = QTimer()
    timer.timeout.connect(beat)
    last[0] = time.perf_counter()
    timer.start(5)
    _settle(QEventLoop, QTimer, 3000)
    timer.stop()
    began = time.perf_counter()
    session.stop_looking()
    stopped = time.perf_counter() - began
    print(f"window while the planner works: answers within {1000 * max(late):.0f} ms at the worst (bar: 100)")
    print(f"stopping the planner: {1000 * stopped:.0f} ms (bar: 300)")


def _settle(loops, timers, milliseconds):
    loop = loops()
    timers.singleShot(milliseconds, loop.quit)
    loop.exec()


def at_once():
    """A first layout of the demo, before any search."""
    from nullah import demo
    from nullah.core.planning.plan import plan
    from nullah.core.stations import breakdown

    request = plan(demo.untouched()).breakdown.request
    began = time.perf_counter()
    layout = breakdown.offers(request)[0]
    took = time.perf_counter() - began
    print(f"first layout of the demo: {1000 * took:.0f} ms, {len(layout.unplaced)} parts without a place (bar: 300 ms)")


def main(window):
    """All of it."""
    at_once()
    responsive(window)
    known_to_fit()
    sets_round_faults()
    few_large_parts()
    warped()
