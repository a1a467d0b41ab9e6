"""``nullah breakdown``: lay parts on boards from tables, without a project."""

from __future__ import annotations

import argparse
import signal
import sys
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

from nullah.core.layout.model import Options
from nullah.core.layout.planner import Planner, Progress, paced
from nullah.core.values.measure import BadLength, parse_length
from nullah.formats import breakdown_out, tables
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import same_file, write_all
from nullah.one_line import OneLineParser

TURN = 0.04  # seconds between looks at the clock
EXACT = 0.0  # thickness a part may lack: the tables say what is so


def main(words: Sequence[str]) -> int:
    """Run the command; 0. Raises FileTrouble where a table or a place to write does not serve; nothing is written then."""
    given = _parser().parse_args(words)
    try:
        kerf, allowance = parse_length(given.kerf), parse_length(given.allowance)
    except BadLength as error:
        raise FileTrouble(str(error)) from None
    if not 0 <= kerf <= 10 or not 0 <= allowance <= 200:
        raise FileTrouble("A kerf lies between 0 and 10 mm, an allowance between 0 and 200 mm.")
    if not 0 < given.seconds <= 86_400 or given.work < 0:
        raise FileTrouble("The seconds lie between 0 and a day, and the rounds are no fewer than 0.")
    _refuse_one_file_twice(given)
    orders = tables.read(given.boards, given.parts, given.defects, allowance)
    options = Options(kerf, kerf, thin=EXACT)
    with _interrupts_kept() as raised_again:
        planner = Planner(orders.stock, orders.blanks, options, given.seed, waits=given.work > 0)
        reached = searched(planner, given.seconds, given.work, raised_again)
    whole = breakdown_out.made(orders, planner.layout(), planner.bound(), reached.placed, reached.rounds, given.seed)
    written = {given.out: breakdown_out.as_json(whole).encode()}
    if given.csv:
        written[given.csv] = breakdown_out.as_csv(whole).encode()
    if given.svg:
        written[given.svg] = breakdown_out.as_svg(whole).encode()
    if given.pdf:
        written[given.pdf] = breakdown_out.as_pdf(whole)
    write_all(written)
    print(_said(reached, whole))
    return 0


def _refuse_one_file_twice(given: argparse.Namespace) -> None:
    """Nothing where every file that is written is one that is neither read nor written besides.

    Raises:
        FileTrouble: two names are one file.
    """
    read = {name: getattr(given, name) for name in ("boards", "parts", "defects")}
    written = {name: getattr(given, name) for name in ("out", "csv", "svg", "pdf")}
    named = [(f"--{name}", path) for name, path in (read | written).items() if path is not None]
    for i, (name, path) in enumerate(named):
        for other, before in named[:i]:
            if name[2:] in written and same_file(path, before):
                raise FileTrouble(f"{name} and {other} are one file, {path.name}. Nothing was changed.")


@contextmanager
def _interrupts_kept() -> Iterator[Callable[[], None]]:
    """Ctrl-C that cannot be lost: one that comes while a library is loaded or compiled may be swallowed there. What is given raises it
    again; it is called at each turn of the search."""
    came = False

    def interrupted(*_: object) -> None:
        nonlocal came
        came = True
        raise KeyboardInterrupt

    def raised_again() -> None:
        if came:
            raise KeyboardInterrupt

    if threading.current_thread() is not threading.main_thread():  # where no signal comes
        yield raised_again
        return
    before = signal.signal(signal.SIGINT, interrupted)
    try:
        yield raised_again
    finally:
        signal.signal(signal.SIGINT, before)


def searched(planner: Planner, seconds: float, work: int = 0, each_turn: Callable[[], None] = lambda: None) -> Progress:
    """Search for so many seconds of the clock, or for ``work`` rounds, which gives the same layout every time."""
    planner.advance(0, 0.0)  # the compiled loop is loaded now and does not cost search time
    began, rounds, reached = time.perf_counter(), 8, planner.progress
    while not planner.done:
        each_turn()
        share = planner.rounds / work if work else (time.perf_counter() - began) / seconds
        if share >= 1.0:
            break
        if work:
            reached = planner.advance(min(500, work - planner.rounds), share)
            continue
        turn = time.perf_counter()
        reached = planner.advance(rounds, share)
        took = time.perf_counter() - turn
        last = int(rounds * seconds * (1 - share) / max(took, 1e-5)) + 1  # not over the time by a whole turn
        rounds = min(paced(rounds, took, TURN), last)
    return reached


def _said(reached: Progress, whole: breakdown_out.Made) -> str:
    most = whole.bound.placed_area_share_at_most
    words = f"{100 * reached.placed:.2f} % of the area asked for has a place"
    if reached.unplaced:
        words += f", {reached.unplaced} parts have none; at most {100 * most:.2f} % could have one"
    return f"{words}. {whole.sums.cuts} cuts, {whole.sums.across_m + whole.sums.along_m:.1f} m of sawing."


def _parser() -> argparse.ArgumentParser:
    parser = OneLineParser(
        prog="nullah breakdown", description="Lay parts on boards by full saw cuts, round their faults."
    )
    parser.add_argument(
        "--boards", type=Path, required=True, metavar="CSV", help="id,species,length,width,thickness,qty"
    )
    parser.add_argument(
        "--parts", type=Path, required=True, metavar="CSV", help="id,qty,length,width,thickness,species,defects"
    )
    parser.add_argument("--defects", type=Path, metavar="CSV", help="board,kind,face,x,y,length,width")
    parser.add_argument("--kerf", default="1.5", help="of every cut, mm")
    parser.add_argument("--allowance", default="0", help="left on each part's length and width, mm")
    parser.add_argument("--seconds", type=float, default=10.0, help="how long to search")
    parser.add_argument(
        "--work",
        type=int,
        default=0,
        metavar="ROUNDS",
        help="search so many rounds instead: the same layout every time",
    )
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--out", type=Path, required=True, metavar="JSON")
    for kind in ("csv", "svg", "pdf"):
        parser.add_argument(f"--{kind}", type=Path, metavar=kind.upper())
    return parser


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
