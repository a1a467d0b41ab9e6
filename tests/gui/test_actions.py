"""Everything one can do: the list, its keys, the overlay; nothing on it fails at any station, and all can be read aloud."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLabel, QLineEdit, QWidget

from nullah import demo
from nullah.core.edits import edit
from nullah.core.planning.plan import STATIONS
from nullah.core.values import glossary
from nullah.gui.actions import Actions

MARK = {  # what each kind of action is to have done, beyond not failing
    "units": lambda h: h.project.units == "in",
    "theme": lambda h: h.window.theme.dark,
    "standing": lambda h: h.window.view().upright.isChecked(),
    "apart": lambda h: h.window.view().apart.value() == 20,
    "measure": lambda h: h.window.strip.field.isVisible(),
    "timer": lambda h: h.project.timer is not None,
    "done": lambda h: h.window.notice.isVisible(),  # what is open of the board is asked first
    "bench view": lambda h: h.window.pages.currentIndex() == 1,
    "take 1": lambda h: len(h.project.choices) == 1,
    "take 2": lambda h: len(h.project.choices) == 1,
    "take back": lambda h: h.note() != "",
    "mark cut": lambda h: h.session.here == "breakdown",
    "pin": lambda h: h.session.here == "breakdown" and h.note() != "",
    "keep whole": lambda h: h.session.here == "breakdown" and h.note() != "",
    "sawn": lambda h: h.session.here == "breakdown" and h.note() != "",
    "look for better": lambda h: h.session.looking,
    "other face": lambda h: h.window.view().back,
    "cut after": lambda h: h.window.view().step == 1,
    "cut before": lambda h: h.session.here == "breakdown" and h.window.view().step == 0,
    "add board": lambda h: len(h.project.boards) == 5,
    "drop board": lambda h: len(h.project.boards) == 3,
    "add fault": lambda h: len(h.project.boards[0].defects) == len(demo.boards()[0].defects) + 1,
    "add reading": lambda h: "what it reads" in h.note(),
    "next reading": lambda h: h.window.view().reading.at["value"].hasFocus(),
    "other side": lambda h: h.window.view().side == "back",
    "choose reading": lambda h: h.window.view().entries.currentRow() == 0,
    "drop reading": lambda h: h.note() != "",
    "change reading": lambda h: h.note() != "",
    "planes": lambda h: h.window.view().planes.hasFocus(),
    "passes done": lambda h: h.note() != "",
    "actions": lambda h: h.window.overlay.doing.isVisible(),
    "words": lambda h: h.window.overlay.words.isVisible(),
    "reckon": lambda h: h.window.overlay.reckoning.isVisible(),
    "new": lambda h: h.window.overlay.kinds.isVisible(),
    "copy piece": lambda h: [p.name for p in h.project.pieces] == ["Seed-packet box", "Seed-packet box 2"],
    "next call": lambda h: h.window.side.current_call() is h.window.side.shown_calls()[1],
    "table": lambda h: h.window.view().parts_table.isVisible(),
    "guide": lambda h: h.window.view().guide.isVisible(),
    "turn right": lambda h: h.window.view().upright.isChecked() and h.window.view().looking.sight.turn == 28 + 15,
    "turn down": lambda h: h.window.view().looking.sight.tilt == 27 - 15,
    "next station": lambda h: h.session.here == "timber",
    **{f"go {s}": lambda h, s=s: h.session.here == s for s in STATIONS},
}


def afresh(hand):
    """The demo anew at its first station, in the same window."""
    hand.go_if_elsewhere("piece")
    hand.session.replace(demo.box(), None)
    if hand.window.theme.dark:
        hand.window.turn_theme()
    view = hand.window.view()
    if "breakdown" in hand.window.views:
        hand.window.views["breakdown"].step, hand.window.views["breakdown"].back = 0, False
    view.stand_up(False)
    view.looking.again()
    view.apart.setValue(0)
    hand.window.strip.field.hide()
    hand.window.overlay.close_overlay()
    hand.window.side.open_call = ""
    view.canvas.setFocus()
    hand.window.guard.release()
    QApplication.processEvents()


@pytest.fixture(autouse=True)
def no_dialogs(monkeypatch, tmp_path):
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: ("", ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "box.nullah"), ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path / "shop"))


def test_every_action_does_what_it_says_by_its_key_or_from_the_list(demo_hand, tmp_path):
    seen, hand = set(), demo_hand
    for action_id, keys in [(a.id, a.keys) for a in hand.window.commands]:
        afresh(hand)
        if keys:
            hand.key(keys[0])
        else:  # by searching for it
            hand.key("F2")
            search = hand.find(QLineEdit, "what to do")
            QTest.keyClicks(search, hand.window.commands[action_id].words)
            QTest.keyClick(search, Qt.Key.Key_Return)
        QApplication.processEvents()
        if action_id in MARK:
            assert MARK[action_id](hand), action_id
            seen.add(action_id)
        if action_id == "save":
            assert (tmp_path / "box.nullah").exists()
        if action_id == "export":
            hand.written()
            assert (tmp_path / "shop" / "full-size.pdf").exists()
    assert seen == set(MARK)


def test_every_action_can_be_done_in_an_empty_project_wherever_one_is(hand):
    for i, action in enumerate(hand.window.commands):
        hand.go_if_elsewhere(STATIONS[i % len(STATIONS)])
        action.act()
        QApplication.processEvents()
    for station in STATIONS:
        hand.go_if_elsewhere(station)


def test_no_key_does_two_things():
    actions = Actions()
    actions.add("a", "one", "one", lambda: None, "F2")
    with pytest.raises(ValueError, match="taken"):
        actions.add("a", "two", "two", lambda: None, "F2")


def test_typing_a_letter_into_a_field_is_not_a_command(demo_hand):
    demo_hand.go("piece")
    field = demo_hand.window.view().form.fields["contents.name"]
    QTest.mouseClick(field, Qt.MouseButton.LeftButton)
    field.selectAll()
    QTest.keyClicks(field, "mxlutvgbcn19")
    assert field.text() == "mxlutvgbcn19"
    assert not demo_hand.window.theme.dark
    assert demo_hand.project.choices == ()


@pytest.mark.parametrize("station", STATIONS)
def test_everything_that_takes_the_keyboard_has_a_name_to_be_read_aloud(demo_hand, station):
    demo_hand.go(station)
    for widget in demo_hand.window.findChildren(QWidget):
        takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus
        if widget.isVisible() and takes and widget.focusProxy() is None:
            said = widget.accessibleName() or getattr(widget, "text", lambda: "")()
            assert said.strip() or type(widget).__name__ in ("QScrollArea", "QComboBoxListView"), widget


def test_the_reckoner_answers_in_the_unit_shown(demo_hand):
    demo_hand.key("F4")
    panel = demo_hand.window.overlay.reckoning
    panel.choose("dovetail")
    for name, text in (("width", "150"), ("tails", "4"), ("pin", "6"), ("half_pin", "9"), ("mating", "18")):
        panel.fields[name].setText(text)
    assert "divider step 34.5" in panel.answer.text()
    assert "tail 28.5" in panel.answer.text()
    panel.fields["tails"].setText("many")
    assert "not a number" in panel.answer.text()
    demo_hand.session.do(edit.changed(demo_hand.project, units="in", denominator=32), "inches")
    panel.fields["tails"].setText("4")
    panel.fields["width"].setText("6")  # six inches now
    panel.fields["pin"].setText("1/4")
    panel.fields["half_pin"].setText("3/8")
    panel.fields["mating"].setText("3/4")
    assert 'divider step 1 3/8"' in panel.answer.text()  # (6 - 3/4 + 1/4) / 4
    QTest.keyClick(demo_hand.window.overlay, Qt.Key.Key_Escape)
    assert not demo_hand.window.overlay.isVisible()


def test_words_on_the_screen_are_explained_where_they_stand_and_in_the_overlay(demo_hand):
    demo_hand.go("joints")
    demo_hand.key("F1")
    shown = {w.text() for w in demo_hand.window.overlay.words.findChildren(QLabel, "heading")}
    assert {"half pin", "baseline", "dividers", "kerf"} - shown == {"kerf"}
    tips = [w.toolTip() for w in demo_hand.window.findChildren(QLabel) if "half pin" in w.text().lower()]
    assert any(glossary.WORDS["half pin"] in tip for tip in tips)
    demo_hand.type_in("find a word", "winding")
    assert "winding sticks" in {w.text() for w in demo_hand.window.overlay.words.findChildren(QLabel, "heading")}


def test_what_changed_is_told_old_and_new_until_seen(demo_hand):
    demo_hand.go("joints")
    demo_hand.go("piece")
    demo_hand.measure("A thickness 17.4")
    assert "altered" not in demo_hand.window.course.about("piece")
    assert "18 \u2192 17.4" in demo_hand.window.course.about("joints")
    demo_hand.go("joints")
    assert "18 \u2192 17.4" in demo_hand.window.news.words.text()
    demo_hand.key("N")
    assert not demo_hand.window.news.isVisible()
    demo_hand.go("piece")
    demo_hand.key("Ctrl+Z")
    demo_hand.key("Ctrl+Shift+Z")
    assert "joints" not in demo_hand.session.altered  # undone and done again: as it was when seen


def test_a_call_taken_says_why_in_the_bench_book(demo_hand):
    demo_hand.go("joints")
    call = demo_hand.window.side.current_call()
    demo_hand.key("1")
    said = demo_hand.project.log[-1].text
    assert call.question in said
    assert "Why:" in said or "would have taken" in said
    demo_hand.go("bench")
    assert any("Why:" in demo_hand.window.view().log.item(i).text() for i in range(demo_hand.window.view().log.count()))
