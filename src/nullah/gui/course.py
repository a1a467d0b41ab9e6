"""The course: one line that winds through the seven stations; fill is how far done, a dot the calls that wait."""

from __future__ import annotations

from collections import Counter

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QSizePolicy, QWidget

from nullah.core.planning.plan import STATIONS, TITLES, Plan
from nullah.gui.session import Session
from nullah.gui.theme import Theme, font
from nullah.gui.tips import show_tip

SWING = 11.0  # pixels the line winds up and down


class Course(QWidget):
    """Navigation and state in one; the left and right keys walk along it."""

    chosen = Signal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self._drawn: tuple[object, QPixmap] | None = None
        self.setFixedHeight(82)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("the course of the work")
        session.changed.connect(self.update)
        session.looked_at.connect(lambda _: self.update())

    def _at(self, i: int) -> QPointF:
        left, right = 74.0, self.width() - 74.0
        return QPointF(left + (right - left) * i / (len(STATIONS) - 1), 31 + (SWING if i % 2 else -SWING))

    def _winding(self, upto: int, part: float = 0.0) -> QPainterPath:
        path = QPainterPath(self._at(0))
        for i in range(upto):
            path.cubicTo(*_bend(self._at(i), self._at(i + 1)))
        if part > 0 and upto < len(STATIONS) - 1:
            whole = QPainterPath(self._at(upto))
            whole.cubicTo(*_bend(self._at(upto), self._at(upto + 1)))
            for k in range(1, 21):
                path.lineTo(whole.pointAtPercent(part * k / 20))
        return path

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        plan = self.session.plan
        done = progress(plan)
        reach, part = len(STATIONS) - 1, 0.0
        for i, station in enumerate(STATIONS):
            if done[station] < 1:
                reach, part = i, done[station]
                break
        painter.drawPixmap(0, 0, self._line(reach, part))
        waiting, altered = Counter(c.station for c in plan.calls if c.waits), self.session.altered
        for i, station in enumerate(STATIONS):
            self._station(painter, i, station, done[station], waiting[station], station in altered)
        if self.hasFocus():
            painter.setPen(QPen(self.theme["computed"], 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(2, 2, -3, -3))
        painter.end()

    def _line(self, reach: int, part: float) -> QPixmap:
        """The line as far as the work has come; to draw it takes longer than all that stands on it, and most edits leave it alone."""
        inks = [self.theme[ink] for ink in ("line", "ground", "computed")]
        shows = (self.size(), self.devicePixelRatio(), reach, part, [ink.rgba() for ink in inks])
        if self._drawn is None or self._drawn[0] != shows:
            whole = self._winding(len(STATIONS) - 1)
            drawn = QPixmap(self.size() * self.devicePixelRatio())
            drawn.setDevicePixelRatio(self.devicePixelRatio())
            drawn.fill(Qt.GlobalColor.transparent)
            painter = QPainter(drawn)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            for path, ink, wide in zip((whole, whole, self._winding(reach, part)), inks, (9.0, 5.0, 5.0), strict=True):
                pen = QPen(ink, wide)
                pen.setCapStyle(Qt.PenCapStyle.RoundCap)
                painter.strokePath(path, pen)
            painter.end()
            self._drawn = (shows, drawn)
        return self._drawn[1]

    def _station(self, painter: QPainter, i: int, station: str, done: float, waiting: int, altered: bool) -> None:
        at, here = self._at(i), self.session.here == station
        painter.setPen(QPen(self.theme["computed" if done > 0 or here else "faint"], 2))
        painter.setBrush(self.theme["computed" if done >= 1 else "panel"])
        painter.drawEllipse(at, 9, 9)
        if 0 < done < 1:
            painter.setBrush(self.theme["computed"])
            painter.drawPie(QRectF(at.x() - 9, at.y() - 9, 18, 18), 90 * 16, -round(360 * 16 * done))
        made = font(15, bold=here)
        painter.setFont(made)
        painter.setPen(self.theme["ink" if here else "quiet"])
        words = QRectF(at.x() - 80, 54, 160, 20)
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, TITLES[station])
        if here:
            painter.setPen(QPen(self.theme["computed"], 3))
            painter.drawLine(QPointF(at.x() - 38, 77), QPointF(at.x() + 38, 77))
        if waiting:
            spot = QPointF(at.x() + 15, at.y() - 10)
            painter.setPen(QPen(self.theme["ground"], 1.5))
            painter.setBrush(self.theme["decision"])
            painter.drawEllipse(spot, 9, 9)
            painter.setPen(self.theme["panel"])
            painter.setFont(font(12, True))
            painter.drawText(QRectF(spot.x() - 9, spot.y() - 9, 18, 18), Qt.AlignmentFlag.AlignCenter, str(waiting))
        if altered:
            painter.setPen(QPen(self.theme["computed"], 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(at, 13, 13)
            painter.setFont(font(11))
            painter.setPen(self.theme["computed"])
            beside = QRectF(at.x() - 62, at.y() - 8, 46, 16)
            wide = painter.fontMetrics().horizontalAdvance("altered")
            painter.fillRect(
                beside.adjusted(46 - wide - 2, 0, 2, 0), self.theme["ground"]
            )  # the line runs on behind it
            painter.drawText(beside, Qt.AlignmentFlag.AlignRight, "altered")

    def event(self, event: QEvent) -> bool:
        """Over a station: what changed there since it was looked at, and the calls that wait."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            near = min(range(len(STATIONS)), key=lambda i: abs(self._at(i).x() - event.pos().x()))
            show_tip(event.globalPos(), self.about(STATIONS[near]), self)
            return True
        return super().event(event)

    def about(self, station: str) -> str:
        """A station's state in words: how far done, calls open, what was altered, old and new."""
        s = self.session
        lines = [f"{TITLES[station]}: {100 * progress(s.plan)[station]:.0f} % done"]
        open_calls = sum(1 for c in s.plan.calls if c.waits and c.station == station)
        if open_calls:
            lines.append(f"{open_calls} {'call waits' if open_calls == 1 else 'calls wait'}")
        changes = s.altered_at(station)
        lines += [s.told(c.words) for c in changes[:8]]
        if len(changes) > 8:
            lines.append(f"and {len(changes) - 8} more")
        return "\n".join(lines)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = min(range(len(STATIONS)), key=lambda i: abs(self._at(i).x() - event.position().x()))
        self.chosen.emit(STATIONS[near])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        step = steps.get(event.key(), 0)
        if not step:
            super().keyPressEvent(event)
            return
        i = STATIONS.index(self.session.here) + step
        if 0 <= i < len(STATIONS):
            self.chosen.emit(STATIONS[i])


def _bend(a: QPointF, b: QPointF) -> tuple[QPointF, QPointF, QPointF]:
    half = (b.x() - a.x()) * 0.5
    return QPointF(a.x() + half, a.y()), QPointF(b.x() - half, b.y()), b


def progress(plan: Plan) -> dict[str, float]:
    """How far each station is done, 0 to 1: of its bench steps and calls, how many are done and settled."""
    out = {}
    for station in STATIONS:
        steps = [s.done for s in plan.bench.steps if station in ("bench", s.station)]
        calls = [not c.open for c in plan.calls if c.station == station and not c.taste]
        parts = steps + calls
        empty = not plan.piece.parts or (station == "timber" and not plan.project.boards)
        settled = 1.0 if station in ("piece", "timber") else 0.0
        out[station] = 0.0 if empty else sum(parts) / len(parts) if parts else settled
    return out
