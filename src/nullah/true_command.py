"""``nullah true``: the surface of a board from readings, and a plan to plane it, without a project."""

from __future__ import annotations

import argparse
import json
import math
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from nullah.core.surface.certainty import Grid, faces, known
from nullah.core.surface.gaussian_process import Board, Fit, fit
from nullah.core.surface.passes import PLANES, WAYS, BenchPlane, plane_from
from nullah.core.surface.place_words import place_words
from nullah.core.surface.reading_kinds import READING_KINDS, Taken
from nullah.core.surface.readings import careful
from nullah.core.surface.rounds import Ways
from nullah.core.surface.slab import minimum_zone, thickest_slab
from nullah.core.surface.truing import Simulated, Step, true_up
from nullah.core.surface.zones import Workpiece
from nullah.core.values.arrays import Floats, np
from nullah.core.values.measure import BadLength, parse_length, plain
from nullah.formats import heights_csv, readings_csv
from nullah.formats.trouble import FileTrouble, spoken
from nullah.formats.writing import same_file, write_all
from nullah.one_line import OneLineParser

LONGEST, WIDEST, THICKEST, SMALLEST = 6_000.0, 1_500.0, 500.0, 10.0  # mm
CELL = (5.0, 4.0)  # mm, along and across: as fine is the grid on which a plane is followed
FEWEST, MOST = (25, 9), (600, 160)  # points of it
LARGEST_GRID = 40_000  # points that are told
PLANES_AT_MOST = 12


def main(words: Sequence[str]) -> int:
    """Run the command; 0. Raises FileTrouble where an input or a place to write does not serve; nothing is written then."""
    given = _parser().parse_args(words)
    length, width, thickness = (
        _length(f"--{name}", getattr(given, name), most)
        for name, most in (("length", LONGEST), ("width", WIDEST), ("thickness", THICKEST))
    )
    wanted = _length("--wanted", given.wanted, THICKEST, 0.5) if given.wanted is not None else None
    if wanted is not None and wanted > thickness:
        raise FileTrouble(
            f"--wanted {wanted:g} is more than the board is thick, {thickness:g}: wood comes off and does not go on."
        )
    grid = _grid(given.grid)
    planes = tuple(map(_plane, given.plane)) or PLANES
    if len(planes) > PLANES_AT_MOST:
        raise FileTrouble(f"There are more than {PLANES_AT_MOST} planes.")
    if (given.face is None) != (given.back is None):
        raise FileTrouble("The true heights are given of both faces, --face and --back, or of neither.")
    _refuse_one_file_twice(given)
    readings = readings_csv.read(given.readings, length, width)
    true = None
    if given.face is not None:
        true = heights_csv.read(given.face), heights_csv.read(given.back)
        if true[0].shape != true[1].shape:
            raise FileTrouble("--face and --back are tables of one size.")
        if not float((true[0] - true[1]).min()) > 0:
            raise FileTrouble("The face lies under the back somewhere: face less back is the thickness.")
    board = Board(length, width)
    found = fit(board, thickness, readings)
    answers = answered(
        found, thickness, readings, grid, wanted, planes, true, Ways(WAYS[given.way], given.rises, given.working_face)
    )
    write_all({given.out: (json.dumps(plain(answers), allow_nan=False) + "\n").encode()})
    print(spoken(str(given.out)))
    return 0


def answered(
    found: Fit,
    thickness: float,
    readings: Sequence[Taken],
    grid: Grid,
    wanted: float | None,
    planes: Sequence[BenchPlane],
    true: tuple[Floats, Floats] | None = None,
    ways: Ways = Ways(),  # noqa: B008  a frozen value
) -> dict[str, Any]:
    """What the command tells, as plain data.

    Args:
        thickness: as it was typed, mm.
        grid: on which the surface is told.
        wanted: thickness, mm, or None to keep the most.
        true: heights of face and back, mm, over the board, to carry the plan out on.
        ways: which ways it is planed.
    """
    board = found.board
    knows = known(found, readings)
    face, back = faces(found, grid)
    workpiece = workpiece_of(board, true[0].shape if true else None)
    u, v = workpiece.places()
    fine_face, fine_back = faces(found, Grid(workpiece.rows, workpiece.columns))
    advice = knows.advice()
    bench = (
        None if true is None else Simulated(workpiece, board, _spread(true[0], workpiece), _spread(true[1], workpiece))
    )
    thickest = thickest_slab(u, v, fine_face, fine_back).thickness
    trued = None  # where no board is left, there is none to plane
    if thickest > 0:
        trued = true_up(board, thickness, readings, wanted, planes, ways, bench)
    out: dict[str, Any] = {
        "thickest_mm": max(thickest - careful(found), 0.0),
        "minimum_zone_mm": minimum_zone(u, v, fine_face),
        "next": None if advice.reading is None else asked_of(board, advice.reading),
        "why": advice.why,
        "stray": [i + 1 for i in found.strays],
        "read_again": [i + 1 for i in found.again],
        "readings": [
            {"residual_mm": a, "off_the_others_mm": b} for a, b in zip(found.residuals, found.apart, strict=True)
        ],
        "passes": [_told(step, workpiece) for step in trued.steps] if trued else [],
        "strokes": trued.strokes if trued else 0,
        "minutes": trued.minutes if trued else 0.0,
        "checks": trued.checks if trued else 0,
        "check_readings": trued.readings if trued else 0,
    }
    if bench is not None:
        thick, zone = bench.left()
        out |= {"left_thickness_mm": thick, "left_flatness_mm": zone}
    return out | {
        "face_mm": face.tolist(),
        "back_mm": back.tolist(),
        "error_mm": knows.deviations(grid).tolist(),
    }


def workpiece_of(board: Board, shape: tuple[int, int] | None = None) -> Workpiece:
    """The grid a plane is followed on: about ``CELL``, and through every point of true heights of that shape, where it may."""
    counts = []
    for size, cell, fewest, most, told in zip(
        (board.length, board.width), CELL, FEWEST, MOST, shape or (2, 2), strict=True
    ):
        wanted = min(max(size / cell, fewest - 1), most - 1)
        parts = max(math.floor(wanted / (told - 1)), 1)
        while parts * (told - 1) + 1 < fewest:
            parts += 1
        counts.append(min(parts * (told - 1) + 1, most))
    return Workpiece(board.length, board.width, counts[0], counts[1])


def _spread(told: Floats, workpiece: Workpiece) -> Floats:
    """Heights on the grid of ``workpiece``, between those that are told."""
    u, v = (
        np.linspace(0.0, n - 1.0, count)
        for n, count in zip(told.shape, (workpiece.rows, workpiece.columns), strict=True)
    )
    along = np.array([np.interp(u, np.arange(told.shape[0]), column) for column in told.T]).T
    return np.array([np.interp(v, np.arange(told.shape[1]), row) for row in along])


def asked_of(board: Board, r: Taken) -> dict[str, Any]:
    """A reading to take, in the columns readings are given in; null where one is not used."""
    to = board.length if r.kind == "bow" and r.to == 0 else r.to
    values = {"at": r.at, "across": r.across, "stick": r.stick, "to": to}
    used = READING_KINDS[r.kind].used
    return {"kind": r.kind} | {name: value if name in used else None for name, value in values.items()}


def _told(step: Step, workpiece: Workpiece) -> dict[str, Any]:
    p = step.what
    x0, y0, x1, y1 = p.box
    return {
        "side": step.side,
        "plane": p.plane.name,
        "set_mm": p.plane.set,
        "direction_deg": p.zones[0].direction,
        "place": place_words(workpiece, p.outlines, lambda mm: f"{mm:.0f}"),
        "zones": [
            {"outline": [list(at) for at in z.outline], "times": z.times, "direction_deg": z.direction} for z in p.zones
        ],
        "zone_mm": {"from": x0, "to": x1, "lower": y0, "upper": y1},
        "zone_share": p.share(workpiece),
        "highest_mm": p.most,
        "times": p.times,
        "until": p.until,
        "strokes": step.strokes,
        "minutes": step.minutes,
        "check": step.check,
    }


def _length(name: str, text: str, most: float, least: float = SMALLEST) -> float:
    try:
        value = parse_length(text)
    except BadLength as error:
        raise FileTrouble(f"{name}: {error}") from None
    least = 1.0 if name == "--thickness" else least
    if not least <= value <= most:
        raise FileTrouble(f"{name} lies between {least:g} and {most:g} mm.")
    return value


def _grid(text: str) -> Grid:
    found = re.fullmatch(r"(\d{1,5})x(\d{1,5})", text.strip())
    rows, columns = map(int, found.groups()) if found else (0, 0)
    if min(rows, columns) < 2 or rows * columns > LARGEST_GRID:
        raise FileTrouble(f"--grid is written like 25x9, at least 2x2 and {LARGEST_GRID} points at most.")
    return Grid(rows, columns)


def _plane(text: str) -> BenchPlane:
    try:
        return plane_from(text)
    except ValueError as error:
        raise FileTrouble(f"--plane: {error}.") from None


def _refuse_one_file_twice(given: argparse.Namespace) -> None:
    for name in ("readings", "face", "back"):
        path = getattr(given, name)
        if path is not None and same_file(given.out, path):
            raise FileTrouble(f"--out and --{name} are one file, {path.name}. Nothing was changed.")


def _parser() -> argparse.ArgumentParser:
    parser = OneLineParser(
        prog="nullah true", description="Find the surface of a board from readings, and plan the planing."
    )
    parser.add_argument("--length", required=True, help="of the board, mm")
    parser.add_argument("--width", required=True, help="of the board, mm")
    parser.add_argument("--thickness", required=True, help="as measured somewhere, to half a millimetre")
    parser.add_argument("--readings", type=Path, required=True, metavar="CSV", help="kind,at,across,value,stick,to")
    parser.add_argument("--grid", default="25x9", help="points along and across at which the surface is told")
    parser.add_argument("--wanted", metavar="T", help="thickness to plane to, mm; without it the most is kept")
    parser.add_argument(
        "--plane",
        action="append",
        default=[],
        metavar='"SOLE IRON WIDTH SET CAMBER"',
        help="a plane that is at hand, mm; may stand several times",
    )
    parser.add_argument(
        "--way",
        choices=WAYS,
        default="turned",
        help="rough wood at 45 degrees, one way and then the other; or straight across",
    )
    parser.add_argument(
        "--rises", choices=("left", "right"), default="", help="the end towards which the grain comes up to the face"
    )
    parser.add_argument(
        "--working-face", action="store_true", help="make the face alone flat; the back stays as it comes"
    )
    parser.add_argument("--face", type=Path, metavar="CSV", help="true heights, to carry the plan out on")
    parser.add_argument("--back", type=Path, metavar="CSV", help="true heights of the back, in the same frame")
    parser.add_argument("--out", type=Path, required=True, metavar="JSON")
    return parser
