"""The demo: a dovetailed seed-packet box for a village allotment's seed library. All of it is invented."""

from __future__ import annotations

from nullah.core import edit, piece_edits, step_edits
from nullah.core.document import Board, Defect, Project, Reading, Room
from nullah.core.document_pieces import Contents, Piece
from nullah.core.plan import PlanCache, plan
from nullah.core.stations import breakdown


def _fault(n: str, kind: str, x: float, y: float, length: float, width: float) -> Defect:
    return Defect.model_validate({"id": n, "kind": kind, "x": x, "y": y, "length": length, "width": width})


def _read(target: str, kind: str, value: float, at: float = 0, across: float = 0, stick: float = 0) -> Reading:
    return Reading.model_validate(
        {"target": target, "kind": kind, "value": value, "at": at, "across": across, "stick": stick}
    )


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
        room=Room(temperature=18, humidity_dry=40, humidity_wet=65),
    )


def project(cache: PlanCache | None = None) -> Project:
    """The demo as it opens: the layout a search finds is accepted, the other calls wait.

    Args:
        cache: keeps what was worked of its plan on the way.
    """
    first = untouched()
    result = plan(first, cache).breakdown
    best = breakdown.offers(result.request)[0]
    return first.model_copy(update={"layout": breakdown.accept(best, result.request.fingerprint)})


def with_a_table(project: Project) -> Project:
    """The demo and beside it a small table with a drawer to stand the box on, out of the same boards."""
    return piece_edits.set_answer(piece_edits.add_piece(project, "small_table"), "drawer", True)


def after_some_work(project: Project) -> Project:
    """The demo after its first steps, so that the bench book has something in it. The times are made up, as all of the demo is."""
    when = "2026-03-14T10:20:00+00:00"
    for minutes in (1.0, 3.0, 15.0):
        now = plan(project)
        project = step_edits.step_done(project, now, now.bench.steps[now.bench.now].id, minutes, when)
    project = edit.measured(project, plan(project).piece.parts, "A thickness 17.4", when)
    return edit.logged(project, "note", "Read the sticks before the first cut, not after.", when)
