"""Everything that can be taken hold of, by mouse and by keys; each is one step of undo and shows its consequence live."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from nullah.core.drawing.display_list import Area, Handle, Line, Text
from nullah.core.edits import edit


def spot(canvas, tag):
    """The middle of what carries a tag, in pixels."""
    for item in reversed(canvas.drawing.everything()):
        if getattr(item, "tag", "") == tag:
            if isinstance(item, Handle):
                return canvas.scale().to(item.at).toPoint()
            if isinstance(item, Text):
                return canvas.scale().to(item.at).toPoint()
            if isinstance(item, Area | Line):
                xs, ys = [p[0] for p in item.points], [p[1] for p in item.points]
                return canvas.scale().to(((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)).toPoint()
    raise AssertionError(f"no {tag} in the drawing")


def pull(canvas, tag, dx, dy, let_go=True):
    """Press on a thing, pull it in five moves of pixels, let go."""
    canvas.grab()
    start = spot(canvas, tag)
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    for i in range(1, 6):
        QTest.mouseMove(canvas, start + QPoint(round(dx * i / 5), round(dy * i / 5)))
    QApplication.processEvents()
    if let_go:
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(dx, dy))
        QApplication.processEvents()


def pick(canvas, tag):
    """Walk to a thing by the full stop key."""
    canvas.setFocus()
    for _ in range(2 * len(canvas.tags())):  # what is picked may bring hands of its own
        if canvas._picked == tag:
            return
        QTest.keyClick(canvas, Qt.Key.Key_Period)
    raise AssertionError(f"{tag} cannot be picked by keys")


def half_pin(hand):
    return hand.plan.piece.in_hand.own.box.half_pin


def first_bay(hand):
    return hand.plan.piece.in_hand.own.box.bays[0]


def into_the_tail(hand):
    """How far a slope comes in over the length of the tails, 18 here, mm."""
    return 18 / hand.plan.piece.in_hand.own.box.run


GESTURES = [  # station, tag, pull in pixels, what is read, which way it goes
    ("timber", "fault:board 1/2", (-30, 0), lambda h: h.project.boards[0].defects[1].x, -1),
    ("timber", "edge:board 1/length", (25, 0), lambda h: h.project.boards[0].length, 1),
    ("timber", "edge:board 1/width", (0, -8), lambda h: h.project.boards[0].width, 1),
    ("joints", "laid:corner A-B/half_pin/lower", (0, -6), half_pin, 1),
    ("joints", "laid:corner A-B/half_pin/upper", (0, -5), half_pin, -1),
    ("joints", "laid:corner A-B/pin/5", (0, -5), lambda h: h.project.piece.pin, -1),
    ("joints", "laid:corner A-B/slope/lower", (0, -6), into_the_tail, 1),
    ("piece", "shift:2", (6, 0), lambda h: h.plan.piece.in_hand.own.box.bays[1], 1),
    ("piece", "asked:extra_length", (20, 0), lambda h: h.plan.piece.in_hand.own.box.outside[0], 1),
    ("piece", "asked:extra_width", (12, 0), lambda h: h.plan.piece.in_hand.own.box.outside[1], 1),
    ("piece", "asked:extra_height", (0, -15), lambda h: h.plan.piece.in_hand.own.box.outside[2], 1),
]


@pytest.mark.parametrize(("station", "tag", "pixels", "read", "way"), GESTURES, ids=[g[1] for g in GESTURES])
def test_a_thing_is_pulled_shows_what_it_comes_to_and_one_undo_puts_it_back(demo_hand, station, tag, pixels, read, way):
    demo_hand.go(station)
    canvas = demo_hand.window.view().canvas
    before, was = demo_hand.project, read(demo_hand)
    canvas.grab()
    start = spot(canvas, tag)
    pull(canvas, tag, *pixels, let_go=False)
    live = read(demo_hand)
    assert (live - was) * way > 0.05  # while the hand still holds it
    assert not demo_hand.session.history.can_undo
    assert demo_hand.note()
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(*pixels))
    QApplication.processEvents()
    assert demo_hand.session.history.can_undo
    assert (read(demo_hand) - was) * way > 0.05
    demo_hand.key("Ctrl+Z")
    assert demo_hand.project == before
    assert not demo_hand.session.history.can_undo


@pytest.mark.parametrize(("station", "tag", "pixels", "read", "way"), GESTURES, ids=[g[1] for g in GESTURES])
def test_the_same_by_arrow_keys_in_the_division_shown(demo_hand, station, tag, pixels, read, way):
    demo_hand.go(station)
    canvas = demo_hand.window.view().canvas
    pick(canvas, tag)
    before, was = demo_hand.project, read(demo_hand)
    key = {(True, True): Qt.Key.Key_Right, (True, False): Qt.Key.Key_Left}.get((pixels[1] == 0, pixels[0] > 0))
    key = key or Qt.Key.Key_Up
    for _ in range(3):
        QTest.keyClick(canvas, key)
    assert abs(read(demo_hand) - was) == pytest.approx(0.3 if "/pin/" not in tag else 0.4, abs=0.11)
    assert (read(demo_hand) - was) * way > 0
    QTest.keyClick(canvas, key, Qt.KeyboardModifier.ShiftModifier)
    assert abs(read(demo_hand) - was) == pytest.approx(1.3 if "/pin/" not in tag else 1.6, abs=0.15)
    demo_hand.key("Ctrl+Z")  # nudge after nudge of one thing is one step
    assert demo_hand.project == before


def test_in_inches_an_arrow_moves_by_the_fraction_shown(demo_hand):
    demo_hand.session.do(edit.changed(demo_hand.project, units="in", denominator=16), "inches")
    demo_hand.go("timber")
    canvas = demo_hand.window.view().canvas
    pick(canvas, "fault:board 1/2")
    was = demo_hand.project.boards[0].defects[1].x
    QTest.keyClick(canvas, Qt.Key.Key_Right)
    assert 0 < demo_hand.project.boards[0].defects[1].x - was <= 25.4 / 16 + 0.8  # stops on a sixteenth
    sixteenths = demo_hand.project.boards[0].defects[1].x / (25.4 / 16)
    assert sixteenths == pytest.approx(round(sixteenths), abs=1e-4)


def test_a_part_is_dragged_to_free_wood_on_its_board_and_back(demo_hand):
    demo_hand.go("breakdown")
    canvas = demo_hand.window.view().canvas
    before = demo_hand.project
    board, leaf = demo_hand.plan.breakdown.place("D")
    k = canvas.scale().k
    pull(canvas, "part:D", round(420 * k), 0)
    after_board, after = demo_hand.plan.breakdown.place("D")
    assert after_board == board
    assert after.x > leaf.x + 100
    assert demo_hand.plan.breakdown.problems == ()
    assert demo_hand.project.layout.name == "by hand"
    demo_hand.key("Ctrl+Z")
    assert demo_hand.project == before


def test_a_part_dropped_on_its_like_changes_places_with_it(demo_hand):
    demo_hand.go("breakdown")
    canvas = demo_hand.window.view().canvas
    places = {p: demo_hand.plan.breakdown.place(p)[1].x for p in "AC"}
    pull(canvas, "part:A", round((places["C"] - places["A"]) * canvas.scale().k), 0)
    assert demo_hand.plan.breakdown.place("A")[1].x == pytest.approx(places["C"], abs=2)
    assert demo_hand.plan.breakdown.place("C")[1].x == pytest.approx(places["A"], abs=2)
    assert demo_hand.plan.breakdown.problems == ()


def test_a_part_that_cannot_lie_there_says_why_and_stays(demo_hand):
    demo_hand.go("breakdown")
    canvas = demo_hand.window.view().canvas
    before = demo_hand.project
    down = spot(canvas, "part:bottom").y() - spot(canvas, "part:A").y()
    pull(canvas, "part:A", 0, down)
    assert "is to be white ash" in demo_hand.note()
    assert demo_hand.project == before
    assert demo_hand.plan is demo_hand.session._firm  # nothing of the try is left standing
    pull(canvas, "part:B", -500, 0)
    assert "trimmed off" in demo_hand.note()
    assert demo_hand.project == before


def test_escape_gives_a_drag_up(demo_hand):
    demo_hand.go("joints")
    canvas = demo_hand.window.view().canvas
    before = demo_hand.project
    canvas.setFocus()
    pull(canvas, "laid:corner A-B/half_pin/lower", 0, -9, let_go=False)
    assert demo_hand.project != before
    QTest.keyClick(canvas, Qt.Key.Key_Escape)
    assert demo_hand.project == before
    assert demo_hand.plan.piece.in_hand.own.box.half_pin == 9


def test_dimensions_are_typed_one_after_the_other_by_keys(demo_hand):
    demo_hand.go("piece")
    canvas = demo_hand.window.view().canvas
    canvas.setFocus()
    canvas.grab()
    seen = []
    QTest.keyClick(canvas, Qt.Key.Key_D)
    for _ in range(8):
        field = next(f for f in canvas.findChildren(QLineEdit, "dimension") if f.isVisible())
        seen.append(field.property("edit"))
        QTest.keyClick(field, Qt.Key.Key_Tab)
    assert len(set(seen)) == 8  # five thicknesses and three sizes over all
    assert {"rod.length", "rod.height"} <= set(seen)


def test_a_part_is_lit_at_every_station_it_is_followed_to(demo_hand):
    demo_hand.go("piece")
    demo_hand.key("V")
    view = demo_hand.window.view()
    assert view.upright.isChecked()
    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, pos=spot(view.canvas, "part:B"))
    assert demo_hand.session.lit_part == "B"
    for station in ("breakdown", "trueup", "joints"):
        demo_hand.key("G")
        assert demo_hand.session.here == station
    assert demo_hand.window.views["breakdown"].canvas.lit == "part:B"
    assert demo_hand.window.views["trueup"].current().id == "B"
    assert "B" in demo_hand.window.views["joints"].joint().parts


def test_the_box_comes_apart_by_keys_and_by_the_slider(demo_hand):
    demo_hand.go("piece")
    demo_hand.key("]")
    view = demo_hand.window.view()
    assert view.apart.value() == 20
    closed_items = demo_hand.window.view().canvas.drawing
    demo_hand.key("]")
    assert view.canvas.drawing != closed_items
    demo_hand.key("[", "[")
    assert view.apart.value() == 0
    assert not demo_hand.session.history.can_undo  # looking changes nothing
