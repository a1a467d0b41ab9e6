"""The demo: what a village allotment's seed library needs, three pieces out of one lot of boards. All of it is invented.

A dovetailed box for seed packets, a potting-bench table with a drawer, a boarded tool chest.
"""

from __future__ import annotations

from functools import cache

from nullah.core.document.pieces import Contents, Designed, Piece, Put
from nullah.core.document.project import Board, Defect, MoistureReading, Project, Reading, Reference, Room
from nullah.core.edits import edit, measuring, step_edits
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown


def _fault(n: str, kind: str, x: float, y: float, length: float, width: float) -> Defect:
    return Defect.model_validate({"id": n, "kind": kind, "x": x, "y": y, "length": length, "width": width})


def _read(target: str, kind: str, value: float, at: float = 0, across: float = 0, stick: float = 0) -> Reading:
    return Reading.model_validate(
        {"target": target, "kind": kind, "value": value, "at": at, "across": across, "stick": stick}
    )


def _log(*readings: tuple[str, float]) -> tuple[MoistureReading, ...]:
    return tuple(MoistureReading(day=day, percent=percent) for day, percent in readings)


def boards() -> tuple[Board, ...]:
    """Four rough boards with faults: two of ash, one of larch, one of elm."""
    return (
        Board(
            id="board 1",
            name="Board 1",
            species="white ash",
            length=1690,
            width=182,
            thickness=22.5,
            ring_angle=20,
            moisture=10.4,
            upper_edge="wany",
            defects=(
                _fault("1", "check", 0, 62, 74, 9),
                _fault("2", "sound knot", 1372, 92, 26, 22),
                _fault("3", "wane", 1180, 166, 510, 16),
            ),
        ),
        Board(
            id="board 2",
            name="Board 2",
            species="white ash",
            length=940,
            width=168,
            thickness=22,
            ring_angle=55,
            moisture=10.1,
            defects=(_fault("1", "loose knot", 512, 40, 30, 27), _fault("2", "split", 880, 96, 60, 7)),
        ),
        Board(
            id="board 3",
            name="Board 3",
            species="western larch",
            length=1480,
            width=196,
            thickness=12.5,
            ring_angle=15,
            moisture=12.6,
            moistures=_log(
                ("2026-10-08", 17.4),
                ("2026-10-15", 15.9),
                ("2026-10-22", 14.6),
                ("2026-10-30", 13.4),
                ("2026-11-06", 12.6),
            ),
            defects=(
                _fault("1", "sound knot", 395, 58, 20, 18),
                _fault("2", "loose knot", 760, 120, 24, 22),
                _fault("3", "sapwood", 0, 178, 1480, 18),
            ),
        ),
        Board(
            id="board 4",
            name="Board 4",
            species="American elm",
            length=620,
            width=178,
            thickness=13,
            ring_angle=40,
            moisture=10.8,
            upper_edge="sawn",
            defects=(_fault("1", "run-out", 455, 20, 120, 60),),
        ),
    )


def readings() -> tuple[Reading, ...]:
    """What sticks, straightedge and caliper said of them."""
    return (
        _read("board 1", "winding sticks", 3.9, at=845, stick=450),
        _read("board 1", "winding sticks", 7.2, at=1690, stick=450),
        _read("board 1", "cup", 0.8, at=420),
        _read("board 1", "cup", 1.1, at=1270),
        _read("board 1", "bow", 2.4, across=91),
        _read("board 1", "thickness", 22.6, at=60, across=20),
        _read("board 1", "thickness", 22.3, at=1620, across=150),
        _read("board 1", "thickness", 22.5, at=850, across=20),
        _read("board 3", "cup", 0.9, at=300),
        _read("board 3", "cup", 1.2, at=1100),
        _read("board 3", "winding sticks", 1.6, at=1480, stick=450),
        _read("board 4", "cup", -0.6, at=310),
    )


def untouched() -> Project:
    """The demo before any call is taken: no layout yet."""
    piece = Piece(
        name="Seed-packet box",
        contents=Contents(name="seed packet", count=60, width=84, height=112, thickness=4.2, stand="upright"),
        wiggle=3.0,
        dividers=4,
        divider_thickness=9.0,
        wall=18.0,
        bottom_thickness=7.0,
        lid="sliding",
        lid_thickness=8.0,
        wall_species="white ash",
        panel_species="western larch",
        lid_species="American elm",
    )
    return Project(
        name="Seed-packet box",
        pieces=(piece,),
        boards=boards(),
        readings=readings(),
        references=(Reference(species="western larch", day="2026-11-06", percent=9.9),),
        room=Room(temperature=18, humidity_dry=40, humidity_wet=65),
    )


@cache
def box() -> Project:
    """The seed-packet box alone, out of its four boards: the layout a search finds is accepted, the other calls wait."""
    return _laid_out(untouched())


def _laid_out(first: Project) -> Project:
    result = plan(first).breakdown
    best = breakdown.offers(result.request)[0]
    return first.model_copy(update={"layout": breakdown.accept(best, result.request.fingerprint)})


def _broad(
    number: int, kind: str, length: float, width: float, thickness: float, rings: float, *faults: Defect
) -> Board:
    """A board of the second load: broad ones and a plank."""
    return Board(
        id=f"board {number}",
        name=f"Board {number}",
        species=kind,
        length=length,
        width=width,
        thickness=thickness,
        ring_angle=rings,
        moisture=10.2,
        defects=faults,
    )


def second_load() -> tuple[Board, ...]:
    """What came for the table and the chest: a plank and a board of ash, a broad board of elm, three of larch."""
    return (
        _broad(5, "white ash", 1740, 122, 52, 45, _fault("1", "check", 0, 40, 55, 12)),
        _broad(6, "white ash", 2250, 208, 26, 30, _fault("1", "sound knot", 1210, 130, 28, 24)),
        _broad(7, "American elm", 1180, 455, 25, 10, _fault("1", "check", 1105, 200, 75, 10)),
        _broad(8, "western larch", 2720, 420, 21, 14, _fault("1", "loose knot", 1010, 95, 26, 24)),
        _broad(9, "western larch", 2640, 405, 21, 12, _fault("1", "split", 2560, 180, 80, 12)),
        _broad(10, "western larch", 1900, 330, 21, 20, _fault("1", "sound knot", 640, 280, 22, 20)),
    )


def untouched_lot() -> Project:
    """All three pieces and both loads before any call is taken: no layout yet."""
    first = untouched()
    table = Designed(
        id="2",
        kind="small_table",
        name="Potting-bench table",
        asked={
            "length": 700.0,
            "height": 780.0,
            "drawer": True,
            "wood": "white ash",
            "secondary_wood": "western larch",
        },
        edits=(Put(owner="top", what="species", value="American elm"),),
    )
    chest = Designed(
        id="3",
        kind="boarded_chest",
        name="Tool chest",
        asked={
            "lid": 780.0,
            "depth": 360.0,
            "height": 400.0,
            "till": True,
            "till_lid": True,
            "bracket": True,
            "stay": True,
            "wood": "western larch",
            "secondary_wood": "western larch",
        },
    )
    return first.model_copy(
        update={
            "name": "Seed library",
            "pieces": (*first.pieces, table, chest),
            "boards": (*first.boards, *second_load()),
        }
    )


@cache
def project() -> Project:
    """The demo as it opens: the three pieces, laid out as a search finds them, the other calls wait; the box in hand."""
    return _laid_out(untouched_lot())


def after_some_work(project: Project) -> Project:
    """The demo after its first steps, so that the bench book has something in it. The times are made up, as all of the demo is."""
    when = "2026-03-14T10:20:00+00:00"
    for minutes in (1.0, 3.0, 15.0):
        now = plan(project)
        project = step_edits.step_done(project, now, now.bench.steps[now.bench.now].id, minutes, when, sure=True)
    project = measuring.measured(project, plan(project).piece.parts, "A thickness 17.4", when)
    return edit.logged(project, "note", "Read the sticks before the first cut, not after.", when)
