"""Boards: what their faults ask, what is said of them, when they are ready, sheet goods and reclaimed wood."""

import math

import pytest

from nullah import demo
from nullah.core.document.calls import some
from nullah.core.document.project import Board, Month, Reading, Room
from nullah.core.edits import board_readings, edit
from nullah.core.edits.board_said import said
from nullah.core.edits.edit import BadEdit
from nullah.core.pictures.unfolded import Unfolded
from nullah.core.pieces.kinds import KINDS
from nullah.core.planning.plan import plan
from nullah.core.stations import as_made
from nullah.core.stations.readiness import readiness
from nullah.core.stations.turned_over import turned_over
from nullah.core.values.ask import BadAnswer
from nullah.core.values.measure import told
from nullah.core.wood.moisture import change
from nullah.core.wood.room import USUAL, between
from nullah.core.wood.seasoned import sooner
from nullah.core.wood.species import ALL, species
from nullah.formats import project_file, reminders
from nullah.formats.trouble import FileTrouble

TODAY = "2026-03-24"
DRYING = (("2026-03-02", 17.0), ("2026-03-08", 15.3), ("2026-03-14", 14.1), ("2026-03-20", 13.2), ("2026-03-24", 12.7))


def say(project, words, board="board 1"):
    return said(project, board, words, TODAY)[0]


def read(project, log=DRYING, board="board 1"):
    for day, percent in log:
        project = board_readings.read_moisture(project, board, day, percent)
    return project


def test_a_knot_under_the_face_is_kept_hidden_where_truing_leaves_enough_over_it():
    flat = edit.held(demo.box(), readings=())
    for depth, recommended, hidden in ((5, "other", True), (1, "through", False)):
        one = plan(say(flat, f"loose knot at 600, 50, 40 x 30, {depth} under the face"))
        call = next(c for c in one.calls if c.id.startswith("near"))
        assert call.recommended == recommended
        shown = [d for d in one.timber.faults["board 1"] if d.kind == "loose knot"]
        assert (shown == []) is hidden
        assert all(d.depth == 0 for d in shown)


def test_what_truing_takes_counts_against_the_wood_over_a_knot():
    # a board cupped by s gives a flat one that is s thinner: off its face that much comes at the edges, nothing in the middle
    flat = edit.held(demo.box(), readings=())
    board = flat.boards[0]
    cups = tuple(
        Reading(target=board.id, kind="cup", at=x, value=3.0) for x in (100, board.length / 2, board.length - 100)
    )
    cupped = edit.held(flat, readings=cups)
    at_edge = plan(say(cupped, "loose knot at 600, 0, 40 x 20, 4 under the face"))
    in_middle = plan(say(cupped, f"loose knot at 600, {board.width / 2 - 10}, 40 x 20, 4 under the face"))
    assert next(c for c in at_edge.calls if c.id.startswith("near")).recommended == "through"
    assert next(c for c in in_middle.calls if c.id.startswith("near")).recommended == "other"


@pytest.mark.parametrize(("option", "bears"), [("keep", True), ("off", False)])
def test_sapwood_is_kept_or_cut_off_as_taken_and_the_layout_is_held_to_it(option, bears):
    project = demo.box()
    before = plan(project)
    board, leaf = before.breakdown.place("bottom")
    strip = f"sapwood at 0, {leaf.y}, {next(b.length for b in project.boards if b.id == board)} x 12"
    with_strip = say(project, strip, board)
    call = next(c for c in plan(with_strip).calls if c.id == f"sap {board} f 1")
    after = plan(edit.take(with_strip, call, option))
    spoiled = [w for w in after.breakdown.problems if "fault" in w and "bottom" in w]
    assert bool(spoiled) is not bears
    assert after.call(call.id).taken == option


def test_the_face_edge_is_put_opposite_an_undecided_strip_of_sapwood():
    project = say(demo.box(), "sapwood at 0, 0, 1690 x 15")
    call = plan(project).call("sap board 1 f 1")
    assert edit.take(project, call, "hide").boards[0].straight_edge == "upper"


def test_grain_that_runs_out_steeply_is_rejected_and_may_be_enjoyed():
    project = say(demo.box(), "run-out at 300, 40, 120 x 60, 14 deg")
    one = plan(project)
    call = one.call("load board 1 f 1")
    assert call.recommended == "reject"
    assert "fault" in {d.kind for d in one.timber.faults["board 1"]}
    taken = plan(edit.take(project, call, "figure"))
    assert not {"fault", "run-out"} & {d.kind for d in taken.timber.faults["board 1"]}


def test_an_end_cut_back_says_what_no_longer_fits_there():
    project = demo.box()
    board, leaf = min(
        (place for p in ("A", "B", "C", "D") if (place := plan(project).breakdown.place(p))), key=lambda at: at[1].x
    )
    words = f"check at 0, {leaf.y + 20}, {leaf.x + 60} x 8"
    call = next(c for c in plan(say(project, words, board)).calls if c.id == f"end {board} f 1")
    lines = {o.id: " ".join(map(told, o.consequences)) for o in call.options}
    assert f"no longer fits there: {leaf.part}" in lines["clean"]
    assert "no longer fits" not in lines["keep"]


def test_a_board_is_ready_beside_its_reference_once_two_readings_agree():
    project = board_readings.read_reference(demo.box(), "white ash", TODAY, 12.4)
    near = (("2026-03-18", 13.6), ("2026-03-24", 13.3))
    assert readiness(read(project, near).boards[0], project.references).state == "ready"
    apart = (("2026-03-18", 14.6), ("2026-03-24", 13.3))
    assert readiness(read(project, apart).boards[0], project.references).state == "not told"
    same_day = (("2026-03-23", 13.4), ("2026-03-24", 13.3))  # too near each other to agree of anything
    assert readiness(read(project, same_day).boards[0], project.references).state == "not told"
    ready = read(project, near)
    assert plan(ready).call("damp board 1") is None


def test_a_damp_board_waits_as_long_as_its_own_readings_say():
    project = board_readings.read_reference(read(demo.box()), "white ash", TODAY, 10.0)
    one = readiness(project.boards[0], project.references)
    assert one.state == "drying"
    assert TODAY < one.earliest <= one.day <= one.latest
    call = plan(project).call("damp board 1")
    assert f"in {one.days} days" in " ".join(call.option("wait").consequences)
    assert "its reference reads 10.0" in told(call.question)


def test_the_latest_day_is_what_a_board_reads_in_whatever_order_it_is_typed():
    project = read(demo.box(), DRYING[::-1])
    assert project.boards[0].moisture == 12.7
    assert [m.day for m in project.boards[0].moistures] == [d for d, _ in DRYING]
    assert board_readings.drop_moisture(project, "board 1", TODAY).boards[0].moisture == 13.2
    with pytest.raises(BadEdit, match="2026-03-24"):
        board_readings.read_moisture(project, "board 1", "2026-02-30", 10.0)


def test_reminders_are_days_of_icalendar():
    unread = edit.held(demo.box(), boards=tuple(edit.held(b, moistures=()) for b in demo.boards()))
    project = board_readings.read_reference(read(unread), "white ash", TODAY, 10.0)
    lines = reminders.ics(plan(project)).decode().split("\r\n")
    assert lines[0] == "BEGIN:VCALENDAR"
    assert "DTSTART;VALUE=DATE:20260331" in lines  # seven days after the last reading
    told_ = readiness(project.boards[0], project.references)
    assert f"DTSTART;VALUE=DATE:{told_.day.replace('-', '')}" in lines
    assert lines.count("BEGIN:VEVENT") == 2
    assert all(len(line.encode()) <= 75 for line in lines)  # RFC 5545, section 3.1
    assert reminders.ics(plan(unread)) == b""


def test_sheet_goods_move_nowhere_and_wait_for_nothing():
    project = demo.box()
    boards = tuple(b.model_copy(update={"stock": "plywood", "moisture": 16.0}) for b in project.boards)
    one = plan(edit.held(project, boards=boards))
    assert {(m.to_dry, m.to_wet) for m in one.timber.movement} == {(0, 0)}
    assert not [c for c in one.calls if c.id.startswith("damp")]


def test_reclaimed_boards_come_with_their_cautions():
    project = demo.box()
    boards = tuple(b.model_copy(update={"stock": "reclaimed"}) for b in project.boards)
    steps = plan(edit.held(project, boards=boards)).bench.steps
    assert any("assume lead" in c for s in steps if s.id.startswith("saw") for c in s.cautions)
    assert not any("assume lead" in c for s in plan(project).bench.steps for c in s.cautions)


def test_a_room_told_by_its_months_is_as_dry_and_wet_as_its_months():
    for name, year in USUAL.items():
        room = Room(months=tuple(Month(celsius=c, humidity=h) for c, h in year))
        alone = [as_made.year(Room(temperature=c, humidity_dry=h, humidity_wet=h))[0] for c, h in year]
        assert as_made.year(room) == pytest.approx((min(alone), max(alone))), name
    drawn = [h for _, h in between(20, 35, 65)]
    assert (min(drawn), max(drawn)) == pytest.approx((35, 65))
    assert drawn[0] == min(drawn)
    assert drawn[6] == max(drawn)


def test_of_many_names_the_first_are_told():
    assert some(["a", "b", "c", "d"]) == "a, b, c, d"
    assert some(["a", "b", "c", "d", "e"]) == "a, b, c and 2 more"


def test_edges_and_places_beside_a_board_are_refused_in_a_sentence():
    project = demo.box()
    with pytest.raises(BadEdit, match="further out"):
        edit.held(project.boards[0], upper=((0.0, 9_000.0), (100.0, 5.0)))
    with pytest.raises(BadEdit, match="left end to the right"):
        edit.held(project.boards[0], upper=((100.0, 10.0), (0.0, 5.0)))
    with pytest.raises(BadEdit, match="no longer here"):
        board_readings.mark_fault(project, "none", "check", "face", (0, 0), (1, 1))
    photo = board_readings.put_photo(project, "board 1", "face", "a.jpg", "AAAA", 100, 100)
    with pytest.raises(BadEdit, match="four corners"):
        board_readings.square_photo(photo, "board 1", "face", [(0, 0), (0, 90), (90, 90), (90, 0)])


def test_a_bend_drawn_on_an_edge_goes_in_order_and_replaces_its_own_place():
    project = demo.box()
    for x, y in ((900, 150), (300, 170), (300, 160)):
        project = board_readings.bend_edge(project, "board 1", "upper", x, y)
    assert project.boards[0].upper == ((0, 182), (300, 160), (900, 150), (1690, 182))
    assert board_readings.straighten_edge(project, "board 1", "upper").boards[0].upper == ()


def test_widths_of_older_files_are_the_upper_edge():
    board = Board(id="b", name="B", species="white ash", length=900, width=200, thickness=20, widths=(200, 150, 100))
    assert board.upper == ((0, 200), (450, 150), (900, 100))


def test_ninety_species_each_with_its_sources():
    assert len(ALL) >= 60
    for kind in ALL.values():
        one = kind.described()
        known = {k for k, v in one.items() if v is not None and k not in ("name", "sources")}
        assert known == set(one["sources"]), kind.name
        assert all("from memory" in words for words in one["sources"].values())


def test_a_wood_of_the_maker_s_own_is_a_wood_everywhere():
    project = demo.box()
    for n in range(1, 5):
        project = say(project, "wood plum, 4.3/9.1 hard", f"board {n}")
    name = project.boards[0].species
    assert name == "plum (own: 4.3/9.1, hard)"
    for which in ("wall_species", "panel_species", "lid_species"):
        project = edit.set_piece(project, which, name)
    one = plan(project)
    assert {p.species for p in one.piece.parts} == {name}
    assert not one.piece.problem
    # from green to dry the whole shrinkage that was told
    assert change(species(name), 100, 30, 0, 0) == pytest.approx(-9.1)
    assert project_file.loads(project_file.dumps(project), "own") == project
    again = next(k for k in KINDS.values() if k.name == "small_table")
    wood = next(a for a in again.asks if a.name == "wood")
    assert wood.held(name) == wood.read(name) == name
    with pytest.raises(BadAnswer):
        wood.held("plum (own: 43/91, hard)")


@pytest.mark.parametrize("words", ["wood plum 43/9.1 hard", "wood (x) 4/9 hard", "wood plum 0/9 soft"])
def test_what_is_no_wood_is_told(words):
    with pytest.raises(BadEdit, match="is no wood"):
        say(demo.box(), words)


def test_the_better_face_is_offered_to_show_and_a_board_turned_twice_is_as_it_was():
    project = edit.held(demo.box(), readings=())
    for words in (
        "stain at 300, 20, 60 x 30 on the face",
        "upper edge 0, 182; 900, 150",
        "lower edge 0, 10; 90, 0",
        "grain rises right",
    ):
        project = say(project, words)
    call = plan(project).call("face board 1")
    assert call.recommended == "turn"
    over = edit.take(project, call, "turn")
    was, now = project.boards[0], over.boards[0]
    stain = now.defects[-1]
    assert (stain.x, stain.y, stain.face) == (300, was.width - 20 - 30, "back")
    assert now.lower == ((0, 0), (900, 32), (1690, 0))
    assert now.upper[0] == (0, 172)
    assert (now.heart_side, now.straight_edge) == ("face", "upper")
    assert now.rises == "left"  # the same fibre, looked at from the other side
    assert plan(over).call("face board 1") is None
    again = turned_over(over, "board 1").boards[0]
    assert again.model_copy(update={"defects": was.defects}) == was
    for a, b in zip(again.defects, was.defects, strict=True):  # 200 less 20 less 30 rounds
        assert (a.x, a.kind) == (b.x, b.kind)
        assert a.y == pytest.approx(b.y)
        assert a.face == b.face


def test_a_face_that_was_read_stays_the_face():
    project = say(demo.box(), "stain at 300, 20, 60 x 30 on the face")  # the demo's first board is read
    assert plan(project).call("face board 1") is None


@pytest.mark.parametrize(("bears", "spoiled"), [("any part", False), ("by role", True), ("no part", True)])
def test_a_knot_is_kept_hidden_or_avoided_as_the_maker_says(bears, spoiled):
    project = demo.box()
    board, leaf = plan(project).breakdown.place("A")  # a part that shows
    knot = say(project, f"sound knot at {leaf.x + 180}, {leaf.y + 50}, 15 x 15", board)
    after = plan(board_readings.change_fault(knot, board, "f 1", bears=bears))
    assert any("A lies on a" in words for words in after.breakdown.problems) is spoiled


def test_no_part_at_all_holds_what_none_may():
    project = demo.box()
    board, leaf = plan(project).breakdown.place("bottom")  # hidden: it may hold a sound knot
    knot = say(project, f"sound knot at {leaf.x + 150}, {leaf.y + 50}, 15 x 15", board)
    told_ = {
        b: plan(board_readings.change_fault(knot, board, "f 1", bears=b)).breakdown.problems
        for b in ("by role", "no part")
    }
    assert not any("bottom lies" in w for w in told_["by role"])
    assert any("bottom lies" in w for w in told_["no part"])


def test_what_is_sawn_in_the_rough_first_is_ready_sooner_by_its_ends_and_edges():
    # the rates of both by hand: 12 over the square of the length, 1 over those of width and thickness
    board, piece = 12 / 1000**2 + 1 / 200**2 + 1 / 50**2, 12 / 100**2 + 1 / 60**2 + 1 / 50**2
    assert sooner(30, (1000, 200, 50), (100, 60, 50)) == pytest.approx(30 - 30 * board / piece)
    assert sooner(30, (1000, 200, 50), (1000, 200, 50)) == pytest.approx(0)
    small = [c for c in plan(demo.box()).call("damp board 3").option("wait").consequences if "rough" in c]
    assert len(small) == 1


def test_a_natural_edge_is_kept_without_a_joint_and_measured_from_the_other():
    project = demo.box()  # its first board is wany along the upper edge
    call = plan(project).call("natural board 1 3")
    assert call.recommended == "off"
    assert any(d.kind == "wane" for d in plan(project).timber.faults["board 1"])
    kept = edit.take(project, call, "keep")
    assert not any(d.kind == "wane" for d in plan(kept).timber.faults["board 1"])
    assert kept.boards[0].straight_edge == "lower"


def test_sheet_goods_are_looked_over_not_planed():
    project = demo.box()
    boards = tuple(b.model_copy(update={"stock": "plywood"}) if b.id == "board 3" else b for b in project.boards)
    steps = {s.id: s for s in plan(edit.held(project, boards=boards)).bench.steps}
    assert "not planed" in steps["true bottom"].words
    assert "thick." not in steps["true bottom"].words
    assert "gauge" in steps["true A"].words


def spare(thickness, cup=0.0):
    """The demo with one more board of elm, and its lid of 8 the one part of that wood."""
    board = Board(
        id="spare", name="Spare", species="American elm", length=600, width=180, thickness=thickness, moisture=10
    )
    read = (Reading(target="spare", kind="cup", at=300, value=cup),) if cup else ()
    project = edit.put_board(demo.box(), board)
    return edit.held(project, readings=(*project.readings, *read))


def test_a_board_too_thin_or_too_cupped_is_put_aside_or_ripped_first():
    assert plan(spare(13)).call("thin spare") is None
    thin = plan(spare(7)).call("thin spare")
    assert (thin.recommended, "thin" in thin.question) == ("aside", True)
    assert edit.take(spare(7), thin, "aside").whole == ("spare",)
    # 10 less a cup of 4 leaves 6; ripped, 10 less 1 leaves 9, and 8 are wanted
    cupped = plan(spare(10, -4.0)).call("thin spare")
    assert (cupped.recommended, "cupped" in cupped.question) == ("rip", True)
    assert "each half gives 9" in told(" ".join(cupped.option("rip").consequences))
    deep = plan(spare(10, 9.0)).call("thin spare")  # 10 less 2.25 is too little too
    assert [o.id for o in deep.options] == ["aside", "use"]


def test_a_pith_in_the_very_middle_still_lies_some_way():
    board = edit.held(demo.box().boards[0], pith_distance=1e-300)
    assert math.hypot(*Unfolded(board).pith_way()) == pytest.approx(1)


@pytest.mark.parametrize("day", ["2026-02-30", "2026-99-99", "20260324", "2026-W13-2", "soon", ""])
def test_what_is_no_day_is_refused_in_files_and_edits_alike(day):
    with pytest.raises(BadEdit, match="is no day"):
        board_readings.read_moisture(demo.box(), "board 1", day, 10.0)
    text = project_file.dumps(demo.box()).replace("2026-10-08", day)
    with pytest.raises(FileTrouble, match="is no day"):
        project_file.loads(text, "damaged")
