"""The canvas: mm to pixels and back, nearer and further, what lies under the hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from nullah.core.document.project import Project
from nullah.core.drawing.display_list import Area, Dimension, Drawing, Line, Text, rectangle
from nullah.gui.paint.canvas import Canvas
from nullah.gui.paint.render import fitted
from nullah.gui.session import Session
from nullah.gui.theme import Theme

PICTURE = Drawing(
    (
        Area(rectangle(0, 0, 300, 150), "wood", tag="part:A", hint="A front"),
        Area(rectangle(40, 30, 60, 50), "fault", tag="fault:b/1", hint="loose knot"),
        Line(((0, 75), (300, 75)), "computed", tag="setting:x"),
        Text((150, 140), "A"),
        Dimension((0, 0), (300, 0), 300, -20, edit="outside.0"),
    )
)


@pytest.fixture
def canvas(qtbot):
    session = Session(Project())
    made = Canvas(Theme(), session)
    qtbot.addWidget(made)
    made.resize(700, 420)
    made.show_drawing(PICTURE)
    made.show()
    made.grab()
    yield made
    session.close()


def at(canvas, mm):
    return canvas.scale().to(mm).toPoint()


@given(
    st.floats(1, 5000),
    st.floats(1, 5000),
    st.floats(-500, 500),
    st.floats(-500, 500),
    st.floats(200, 2000),
    st.floats(200, 1500),
)
def test_property_the_whole_drawing_fits_and_comes_back(wide, tall, x, y, width, height):
    drawing = Drawing((Area(rectangle(x, y, wide, tall)),))
    scale = fitted(drawing, width, height, 40)
    for corner in rectangle(x, y, wide, tall):
        shown = scale.to(corner)
        assert 39.9 <= shown.x() <= width - 39.9
        assert 39.9 <= shown.y() <= height - 39.9
        assert scale.back(shown) == pytest.approx(corner, abs=1e-6)


def test_what_lies_uppermost_is_what_is_picked(canvas):
    assert canvas.tag_at(QPointF(at(canvas, (70, 50)))) == ("fault:b/1", "loose knot")
    assert canvas.tag_at(QPointF(at(canvas, (200, 120))))[0] == "part:A"
    assert canvas.tag_at(QPointF(at(canvas, (200, 75))))[0] == "setting:x"
    assert canvas.tag_at(QPointF(2, 2)) == ("", "")


def test_a_click_picks_and_a_pull_drags_only_what_may_be_dragged(canvas, qtbot):
    with qtbot.waitSignal(canvas.picked) as picked:
        QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=at(canvas, (200, 120)))
    assert picked.args == ["part:A"]
    canvas.may_drag = ("fault:",)
    moves = []
    canvas.dragged.connect(lambda *args: moves.append(args))
    start = at(canvas, (70, 50))
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(canvas, start + QPoint(30, -15))
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(30, -15))
    k = canvas.scale().k
    tag, dx, dy, let_go = moves[-1]
    assert (tag, let_go) == ("fault:b/1", True)
    assert (dx, dy) == pytest.approx((30 / k, 15 / k))
    before = canvas.scale().x
    ground = at(canvas, (200, 120))
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=ground)
    QTest.mouseMove(canvas, ground + QPoint(20, 0))
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=ground + QPoint(20, 0))
    assert canvas.scale().x == pytest.approx(before + 20)


def test_the_wheel_comes_nearer_under_the_hand_and_a_double_click_shows_all(canvas):
    spot = QPointF(180, 140)
    under = canvas.scale().back(spot)
    for _ in range(3):
        QApplication.sendEvent(
            canvas,
            QWheelEvent(
                spot,
                QPointF(canvas.mapToGlobal(spot.toPoint())),
                QPoint(),
                QPoint(0, 240),
                Qt.MouseButton.NoButton,
                Qt.KeyboardModifier.NoModifier,
                Qt.ScrollPhase.NoScrollPhase,
                False,
            ),
        )
    assert canvas.near > 1.5
    assert canvas.scale().back(spot) == pytest.approx(under, abs=0.01)
    QTest.mouseDClick(canvas, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert canvas.near == 1.0


def test_a_dimension_is_typed_on_and_escape_leaves_it(canvas, qtbot):
    box, _ = canvas.renderer.dimension_boxes()[0]
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
    field = canvas.findChild(QLineEdit, "dimension")
    assert field.text() == "300"
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert not field.isVisible()
    canvas.open_field("outside.0")
    field = next(f for f in canvas.findChildren(QLineEdit, "dimension") if f.isVisible())
    with qtbot.waitSignal(canvas.typed) as typed:
        QTest.keyClicks(field, "312")
        QTest.keyClick(field, Qt.Key.Key_Return)
    assert typed.args == ["outside.0", "312"]
