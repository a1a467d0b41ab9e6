"""Starting the window: it stands before the drawing of the piece is in it, and the drawing is there a moment later."""

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from nullah.core import demo
from nullah.gui import app
from nullah.gui.piece.view import PieceView
from nullah.gui.window import Window


def test_the_drawing_comes_right_after_the_window(monkeypatch, tmp_path):
    monkeypatch.setattr(app.platformdirs, "user_data_dir", lambda name: str(tmp_path))
    seen = []

    def look():
        window = next(w for w in QApplication.topLevelWidgets() if isinstance(w, Window) and w.isVisible())
        seen.append((window.isVisible(), len(window.view().canvas.drawing.items)))
        if seen[-1][1] or len(seen) > 100:
            window.session.saved = window.session.project
            window.close()
            QApplication.quit()
        else:
            QTimer.singleShot(20, look)

    QTimer.singleShot(0, look)
    app.run(demo.project())
    assert seen[-1][1] > 50
    assert not PieceView.drawn_once_painted
