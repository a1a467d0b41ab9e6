"""The planner in a process of its own, so that the window stays free: a task goes in by standard input, reports come out.

Task and reports are pickles of our own values between two processes of this program, each with its length before it; nothing
from a file goes this way. ``main`` is the process; ``reports`` is what it does.
"""

from __future__ import annotations

import pickle
import struct
import sys
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import BinaryIO

from nullah.core.layout.graft import grafted
from nullah.core.layout.model import Layout
from nullah.core.layout.offers import Offers
from nullah.core.layout.ways_out import ways_out
from nullah.core.stations.breakdown import Request

LENGTH = struct.Struct(">Q")
TURN = 0.03  # seconds of search between looks at the clock
TELL_EVERY = 0.4  # seconds between reports


@dataclass(frozen=True)
class Task:
    """What to search, for how many seconds, and the seed."""

    request: Request
    seconds: float
    seed: int = 1


@dataclass(frozen=True)
class Report:
    """How far a search has come: layouts best first, share of the area asked for that has a place and could have one at the
    most, share of the time that is gone, rounds done, and at the end what could be done for parts without a place."""

    fingerprint: str
    layouts: tuple[Layout, ...]
    placed: float
    at_most: float
    share: float
    rounds: int
    done: bool = False
    ways_out: tuple[str, ...] = ()


def reports(task: Task, clock: Callable[[], float] = time.perf_counter) -> Iterator[Report]:
    """Search, and tell how far it has come every now and then; the last report says it is done."""
    r = task.request
    offers = Offers(r.stock, r.blanks, r.options, task.seed, r.begun)
    at_most = offers.bound().placed_area_share_at_most
    if offers.done:
        yield Report(r.fingerprint, (), 1.0, at_most, 1.0, 0, True)
        return
    offers.ways[0][1].advance(0, 0.0)  # the compiled loop is loaded before the time begins to run
    began = told = clock()
    many = 4

    def report(share: float, done: bool = False, ways: tuple[str, ...] = ()) -> Report:
        layouts = tuple(grafted(one, r.kept) for one in offers.layouts()) if r.kept else offers.layouts()
        placed = max(p.progress.placed for _, p in offers.ways)
        rounds = sum(p.rounds for _, p in offers.ways)
        return Report(r.fingerprint, layouts, placed, at_most, share, rounds, done, ways)

    while (share := (clock() - began) / task.seconds) < 1.0:
        turn = clock()
        offers.advance(many, share)
        many = max(2, min(3 * many, int(many * TURN / max(clock() - turn, 1e-5))))
        if clock() - told >= TELL_EVERY:
            told = clock()
            yield report(share)
    found = offers.layouts()
    ways = ways_out(r.stock, r.blanks, r.options, found[0]) if found and found[0].unplaced else ()
    yield report(1.0, True, ways)


def send(stream: BinaryIO, value: object) -> None:
    """Write one value with its length before it."""
    data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
    stream.write(LENGTH.pack(len(data)) + data)
    stream.flush()


def packed(value: object) -> bytes:
    """As ``send`` would write it."""
    data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
    return LENGTH.pack(len(data)) + data


def unpacked(data: bytes) -> tuple[list[object], bytes]:
    """The whole values at the head of what was read, and the rest."""
    out: list[object] = []
    while len(data) >= LENGTH.size:
        (long,) = LENGTH.unpack(data[: LENGTH.size])
        if len(data) < LENGTH.size + long:
            break
        out.append(pickle.loads(data[LENGTH.size : LENGTH.size + long]))
        data = data[LENGTH.size + long :]
    return out, data


def main() -> int:
    """Read one task, send its reports."""
    head = sys.stdin.buffer.read(LENGTH.size)
    (long,) = LENGTH.unpack(head)
    task = pickle.loads(sys.stdin.buffer.read(long))
    for one in reports(task):
        send(sys.stdout.buffer, one)
    return 0
