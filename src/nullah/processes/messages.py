"""What goes between the window and the planner's process: a task by standard input, reports back by standard output.

Task and reports are pickles of our own values between two processes of this program, each with its length before it; nothing
from a file goes this way.
"""

from __future__ import annotations

import os
import struct
import sys
from collections.abc import Callable
from typing import Any

from nullah.core.layout.model import Layout, WayOut
from nullah.core.stations.breakdown import Request
from nullah.core.values.frozen import frozen

LENGTH = struct.Struct(">Q")


@frozen
class Task:
    """What to search, for how many seconds, and the seed."""

    request: Request
    seconds: float
    seed: int = 1


@frozen
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
    ways_out: tuple[WayOut, ...] = ()


def packed(value: object) -> bytes:
    """A value with its length before it."""
    import pickle  # only once a search is asked for

    data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
    return LENGTH.pack(len(data)) + data


def unpacked(data: bytes) -> tuple[list[object], bytes]:
    """The whole values at the head of what was read, and the rest."""
    import pickle

    out: list[object] = []
    while len(data) >= LENGTH.size:
        (long,) = LENGTH.unpack(data[: LENGTH.size])
        if len(data) < LENGTH.size + long:
            break
        out.append(pickle.loads(data[LENGTH.size : LENGTH.size + long]))
        data = data[LENGTH.size + long :]
    return out, data


def answered(work: Callable[[Any], object]) -> int:
    """What a process does that is sent one thing and answers once: 0. What a library prints goes to where errors go."""
    return told(lambda sent, tell: work(sent))


def told(work: Callable[[Any, Callable[[object], object]], object], ready: Callable[[], object] = lambda: None) -> int:
    """The same of one that tells how far it has come before it answers: ``work`` is given what was sent, and whom to tell. ``ready`` is
    done before anything is sent, by one that is started ahead; where nothing is, nothing is told."""
    with os.fdopen(os.dup(1), "wb") as out:

        def tell(value: object) -> None:
            out.write(packed(value))
            out.flush()

        os.dup2(2, 1)
        ready()
        for sent in unpacked(sys.stdin.buffer.read())[0][:1]:
            tell(work(sent, tell))
    return 0
