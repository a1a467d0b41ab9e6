"""The whole job by keys and mouse: from a new project to a saved one, with what the wood says on the way."""

import pytest
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QFileDialog

from nullah.core.edits import edit
from nullah.core.layout.model import leaves
from nullah.formats import project_file


def part(hand, part_id):
    return next(p for p in hand.plan.piece.parts if p.id == part_id)


def choose(hand, name, words):
    box = hand.find(QComboBox, name)
    box.setFocus()
    QApplication.setKeyboardInputInterval(10_000)  # ms in which letters make one word: the machine may be slow
    QTest.keyClicks(box, words.split()[0])  # a space would open the list
    assert box.currentText() == words


def test_from_contents_to_a_saved_project(hand, tmp_path, monkeypatch):
    first = hand.project
    # contents
    for name, words in (
        ("contents.count", "24"),
        ("contents.name", "seed tin"),
        ("contents.width", "84"),
        ("contents.height", "100"),
        ("contents.thickness", "8"),
        ("dividers", "2"),
    ):
        hand.type_in(name, words)
    assert part(hand, "A").length == pytest.approx(2 * 18 + 3 * (8 * 8 + 6) + 2 * 9)
    for which in ("wall species", "panel species"):
        choose(hand, which, "white ash")
    assert hand.plan.breakdown.layout is None

    # a board with a knot; the call offers a layout, taken with one key
    hand.go("timber")
    hand.press("Add a board")
    hand.type_in("board length", "2400")
    hand.type_in("board width", "190")
    hand.type_in("fault x", "200")
    hand.type_in("fault y", "60")
    hand.press("Add fault")
    assert hand.project.boards[0].defects[0].kind == "sound knot"
    hand.go("breakdown")
    hand.wait_for_call("layout")
    assert hand.window.side.current_call().id == "resaw dividers"
    hand.key("2")  # each planed from the whole thickness
    hand.wait_for_call("layout")
    assert hand.window.side.current_call().id == "layout"
    hand.key("1")
    layout = hand.project.layout
    assert layout is not None
    assert layout.unplaced == ()
    knot = hand.project.boards[0].defects[0]
    for leaf in leaves(layout.boards[0].root):
        if leaf.part in ("A", "B", "C", "D"):
            assert leaf.x >= knot.x + knot.length or leaf.x + leaf.length <= knot.x or leaf.y >= knot.y + knot.width

    # readings change what is left
    hand.go("trueup")
    before = {t.id: t.planing.thickest for t in hand.plan.trueup.parts}
    hand.type_in("reading at", "2400")
    hand.type_in("reading value", "9")
    after = {t.id: t.planing.thickest for t in hand.plan.trueup.parts}
    assert all(after[p] < before[p] for p in before)
    # 9 over a 450 stick is 3.8 over 190; half of it is lost; of one reading half a millimetre less is promised
    assert hand.window.view().left.text() == "21.6 left"

    # A came out at 17.4: its mates' baselines, the bottom, a call which size is held
    bottom = part(hand, "bottom").width
    assert hand.gauge("B", "A") == [18]
    hand.measure("A thickness 17.4")
    assert hand.gauge("B", "A") == [17.4]
    assert hand.gauge("D", "A") == [17.4]
    assert hand.gauge("B", "C") == [18]
    assert part(hand, "bottom").width != pytest.approx(bottom)
    hold = hand.plan.call("hold width")
    assert hold.open
    assert {o.id for o in hold.options} == {"outside", "inside"}
    outside = hand.plan.piece.in_hand.own.box.outside[1]
    hand.go("piece")
    assert hand.window.side.current_call().id == "hold width"
    hand.key("2")  # hold the inside
    assert hand.plan.piece.in_hand.own.box.outside[1] == pytest.approx(outside - 0.6)

    # the divider came out at 9.6: the dado follows
    dado = next(s for s in hand.plan.joints.settings if s.use == "dado width")
    assert dado.value == 9.0
    hand.measure("divider thickness 9.6")
    assert next(s for s in hand.plan.joints.settings if s.use == "dado width").value == 9.6

    # A is cut; another height is a conflict, not a silent change
    hand.go("breakdown")
    view = hand.window.view()
    leaf = next(n for n in leaves(hand.project.layout.boards[0].root) if n.part == "A")
    row = view.canvas.drawing.items[0].points[0][1]
    hand.click_canvas(view.canvas, (leaf.x + leaf.length / 3, row + leaf.y + leaf.width / 3))
    hand.key("X")
    assert [m.part for m in hand.project.cut] == ["A"]
    cut = part(hand, "A").sizes
    hand.go("piece")
    hand.type_in("chain 2 total", "150")
    assert part(hand, "C").width == pytest.approx(150)
    assert part(hand, "A").sizes == cut
    conflict = hand.plan.call("cut A")
    assert conflict.conflict
    assert conflict.open
    assert hand.window.side.current_call().id == "cut A"
    assert {"recut", "keep", "follow"} <= {o.id for o in conflict.options}
    hand.key("1")
    assert not hand.plan.call("cut A") or not hand.plan.call("cut A").open

    # undo to the start, redo to the end
    last = hand.project
    for _ in range(60):
        hand.key("Ctrl+Z")
    assert hand.project == first
    for _ in range(60):
        hand.key("Ctrl+Shift+Z")
    assert hand.project == last

    # save, reopen, equal
    path = tmp_path / "tins.nullah"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    hand.key("Ctrl+S")
    assert hand.project == edit.changed(last, name="tins")  # what nobody named follows its file
    last = hand.project
    hand.begin_anew()
    assert hand.project != last
    hand.key("Ctrl+O")
    assert hand.project == last
    assert project_file.load(path) == last
    assert hand.gauge("B", "A") == [17.4]
