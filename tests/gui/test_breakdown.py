"""Break-down at the window: lay by hand, pin, plan round it, step through the cuts, saw, undo it all; the planner at work."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication

from nullah import demo
from nullah.core.edits import edit
from nullah.core.layout.model import leaves
from nullah.core.pictures import boards as picture
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown


@pytest.fixture
def roomy(qtbot, tmp_path):
    """The demo with a second board of the lid's wood, on which nothing is laid."""
    from conftest import opened

    first = demo.box()
    lid = plan(first).breakdown.place("lid")[0]
    old = next(b for b in first.boards if b.id == lid)
    walnut = edit.put_board(first, old.model_copy(update={"id": "spare", "name": "Spare", "defects": ()}))
    fingerprint = plan(walnut).breakdown.request.fingerprint
    layout = first.layout.model_copy(update={"fingerprint": fingerprint})
    return opened(qtbot, walnut.model_copy(update={"layout": layout}), tmp_path)


def drag(hand, tag, dx, dy):
    """A part pulled by so many mm, as the canvas tells it."""
    canvas = hand.window.view().canvas
    for share in (0.3, 0.7, 1.0):
        canvas.dragged.emit(tag, dx * share, dy * share, False)
    canvas.dragged.emit(tag, dx, dy, True)
    QApplication.processEvents()


def test_lead_the_layout_from_board_to_sawn_and_back(roomy, qtbot):
    hand, first = roomy, roomy.project
    hand.go("breakdown")
    view = hand.window.view()
    # a part to another board
    home, node = hand.plan.breakdown.place("lid")
    rows = picture.rows(picture.in_hand(hand.project.boards, {home}))
    drag(hand, "part:lid", 5.0 - node.x, rows["spare"] - rows[home] + 5.0 - node.y)
    assert hand.plan.breakdown.place("lid")[0] == "spare"
    # pinned, planned round
    hand.session.light_part("lid")
    view.refresh()
    hand.key("P")
    assert hand.project.pinned == ("lid",)
    hand.key("K")
    assert hand.session.looking
    qtbot.waitUntil(lambda: hand.session.report is not None and hand.session.report.layouts != (), timeout=60_000)
    hand.key("K")
    assert not hand.session.looking
    for one in hand.session.report.layouts:
        spots = {n.part: (b.board, n.x) for b in one.boards for n in leaves(b.root) if n.part}
        assert spots["lid"] == ("spare", hand.plan.breakdown.place("lid")[1].x)
        assert {"A", "B", "C", "D", "bottom"} <= set(spots)
    # the cuts, one by one
    many = len(hand.plan.breakdown.cuts)
    for i in range(1, many + 1):
        hand.key("E")
        assert view.step == i
        if i < many:
            assert f"{i} of {many} cuts made. Next, {i + 1}:" in view.about.text()
    assert "Number the pieces" in view.about.text()
    hand.key("Q")
    assert view.step == many - 1
    # sawn
    board = hand.plan.breakdown.place("A")[0]
    hand.session.light_part("A")
    view.refresh()
    before = hand.project
    hand.key("S")
    fresh = [b for b in hand.project.boards if b.id not in {x.id for x in before.boards}]
    assert fresh
    assert all(b.name.startswith(next(x.name for x in before.boards if x.id == board)) for b in fresh)
    assert "A" in hand.plan.breakdown.freed
    assert hand.project.cut == ()
    hand.go("timber")
    assert any(b.id == fresh[0].id for b in hand.plan.project.boards)
    # and back to where one began
    while hand.session.history.can_undo:
        hand.key("Ctrl+Z")
    assert hand.project == first


def test_a_part_that_cannot_lie_on_another_board_says_why(roomy):
    hand = roomy
    hand.go("breakdown")
    home, _ = hand.plan.breakdown.place("A")
    rows = picture.rows(picture.in_hand(hand.project.boards, {home}))
    before = hand.project
    drag(hand, "part:A", 0.0, rows["spare"] - rows[home])
    assert hand.project == before
    assert "is to be white ash" in hand.note()


def test_the_window_goes_on_while_the_planner_works_and_stopping_ends_it(demo_hand, qtbot):
    hand = demo_hand
    hand.go("breakdown")
    hand.session.look_longer(600.0)
    qtbot.waitUntil(lambda: hand.session.report is not None, timeout=60_000)
    first = hand.session.report
    hand.type_in("allowances length", "26")  # an edit while it works: what it looks for is no longer asked for
    qtbot.waitUntil(lambda: not hand.session.looking, timeout=20_000)
    hand.key("Ctrl+Z")
    hand.key("K")
    qtbot.waitUntil(lambda: hand.session.report not in (None, first), timeout=60_000)
    hand.key("K")
    assert not hand.session.looking
    assert "at most 100.0\u00a0%" in hand.window.view().looked.text()
    assert hand.window.view().looked.text().startswith("stopped")


def test_a_better_layout_is_offered_and_nothing_nags_once_one_is_taken(demo_hand, qtbot):
    hand = demo_hand
    hand.go("breakdown")
    before = hand.plan.breakdown.sawing.sums
    assert hand.plan.call("layout") is None
    hand.session.look_longer(1.0)
    qtbot.waitUntil(lambda: not hand.session.looking, timeout=60_000)
    call = hand.plan.call("layout")
    assert call is not None
    assert call.options[-1].id == "keep"
    hand.session.take(call, call.recommended)
    after = hand.plan.breakdown
    assert after.problems == ()
    assert after.sawing.sums != before
    assert hand.plan.call("layout") is None or not hand.plan.call("layout").open


def test_letters_typed_at_a_choice_are_its_own(demo_hand):
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QComboBox

    hand = demo_hand
    hand.go("timber")
    hand.below("in words")
    box = hand.find(QComboBox, "board species")
    box.setFocus()
    before = hand.project.boards[0].species
    usual = QApplication.keyboardInputInterval()
    QApplication.setKeyboardInputInterval(60_000)  # however slow the machine, it is one word
    QTest.keyClicks(box, "sugar")
    QApplication.setKeyboardInputInterval(usual)
    assert hand.session.here == "timber"
    assert hand.project.boards[0].species == "sugar maple" != before


def test_offers_of_the_planner_and_the_first_search_are_of_one_kind():
    request = plan(demo.untouched()).breakdown.request
    assert breakdown.offers(request)[0].unplaced == ()


def test_an_option_is_looked_at_before_it_is_taken(qtbot, tmp_path):
    from conftest import opened
    from nullah.gui.side import OptionCard

    hand = opened(qtbot, demo.untouched(), tmp_path)
    hand.go("breakdown")
    hand.wait_for_call("layout")
    hand.window.side.open_call = "layout"
    hand.window.side.refresh()
    view, before = hand.window.view(), hand.project
    bare = view.canvas.drawing
    card = next(c for c in hand.window.side.findChildren(OptionCard) if c.isVisible())
    card.setFocus()
    QApplication.processEvents()
    laid = {t.tag for t in view.canvas.drawing.items if getattr(t, "tag", "").startswith("part:")}
    assert {"part:A", "part:lid"} <= laid
    assert hand.project is before  # only looked at
    card.clearFocus()
    QApplication.processEvents()
    assert view.canvas.drawing == bare


def test_when_the_planner_is_done_the_view_says_so(demo_hand, qtbot):
    hand = demo_hand
    hand.go("breakdown")
    view = hand.window.view()
    hand.session.look_longer(0.3)
    assert view.look.text().startswith("Stop looking")
    qtbot.waitUntil(lambda: not hand.session.looking, timeout=60_000)
    assert view.look.text().startswith("Look for better")
    assert view.looked.text().startswith("done looking")


def test_weights_are_typed_where_the_layout_is_and_undone(demo_hand):
    hand, before = demo_hand, demo_hand.project
    hand.go("breakdown")
    hand.type_in("weights sawing", "2,5")
    hand.type_in("weights opening", "30 %")
    hand.type_in("weights least_offcut", "20 cm")
    weights = hand.project.weights
    assert (weights.sawing, weights.opening, weights.least_offcut) == (2.5, 30.0, 200.0)
    assert hand.plan.breakdown.changed
    for _ in range(3):
        hand.session.undo()
    assert hand.project == before


def test_no_word_of_the_order_of_sawing_is_cut_off(demo_hand):
    hand = demo_hand
    hand.go("breakdown")
    for _ in range(3):
        hand.window.turn_units()
    order = hand.window.view().order
    wide = order.viewport().width() - 20
    for i in range(order.count()):
        words = order.fontMetrics().boundingRect(0, 0, wide, 9999, Qt.TextFlag.TextWordWrap, order.item(i).text())
        assert order.visualItemRect(order.item(i)).height() >= words.height() + 8


def test_a_field_is_as_wide_as_its_fraction(demo_hand):
    hand = demo_hand
    hand.go("breakdown")
    for _ in range(3):  # sixteenths, thirty-seconds, sixty-fourths
        hand.window.turn_units()
    QApplication.processEvents()
    field = hand.window.view().given["allowances", "length"]
    assert "/" in field.text()
    assert field.width() >= field.fontMetrics().horizontalAdvance(field.text()) + 20


def test_the_planner_runs_nothing_from_the_folder_one_is_in(demo_hand, qtbot, tmp_path, monkeypatch):
    for name in ("nullah", "numpy", "pickle"):
        (tmp_path / f"{name}.py").write_text(f"open({str(tmp_path / 'run')!r}, 'w')")
    monkeypatch.chdir(tmp_path)
    demo_hand.session.look_longer(0.5)
    qtbot.waitUntil(lambda: not demo_hand.session.looking, timeout=60_000)
    assert demo_hand.session.report.done
    assert not (tmp_path / "run").exists()


@pytest.mark.parametrize("how", ["does not start", "ends early", "is killed"])
def test_a_planner_that_cannot_go_on_is_told(demo_hand, qtbot, tmp_path, monkeypatch, how):
    program = tmp_path / "python"
    if how != "does not start":
        program.write_text("#!/bin/sh\nexec cat >/dev/null\n" if how == "ends early" else "#!/bin/sh\nkill -9 $$\n")
        program.chmod(0o755)
    monkeypatch.setattr("nullah.gui.planner.sys.executable", str(program))
    demo_hand.session.look_longer(5.0)
    qtbot.waitUntil(lambda: not demo_hand.session.looking, timeout=20_000)
    assert "could not go on" in demo_hand.note()


def test_a_part_over_the_limit_is_refused_in_a_sentence(roomy):
    hand = roomy
    piece = hand.project.piece
    wide = piece.model_copy(update={"contents": piece.contents.model_copy(update={"width": 19_990})})
    hand.session.do(edit.changed(hand.project, piece=wide), "wide")
    hand.go("breakdown")
    hand.session.light_part("B")
    said = []
    hand.session.said.connect(lambda words, wrong: said.append((words, wrong)))
    before = hand.project
    hand.window.view().mark_cut()
    assert said == [("The length must be at most 20000 mm.", True)]
    assert hand.project is before
