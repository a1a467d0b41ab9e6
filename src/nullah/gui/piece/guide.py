"""A photograph beside the piece: one length on it is told, then others are read off it into what the piece is asked."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core.document.project import Guide, Project
from nullah.core.edits import guide_edits
from nullah.core.values import measure
from nullah.formats import photo
from nullah.formats.trouble import FileTrouble
from nullah.gui.flow import flow
from nullah.gui.paint.marked_photo import PICTURES, MarkedPhoto
from nullah.gui.session import Session
from nullah.gui.theme import Theme
from nullah.gui.tips import set_tip
from nullah.gui.widgets import Field, button, column, label, pick, refill_pick


class GuidePanel(QWidget):
    """The picture, what is known on it, and what is read off it."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self._asks: dict[str, guide_edits.Asked] = {}
        self.photo = MarkedPhoto(theme)
        self.photo.marked.connect(self.refresh)
        self.what = label("", "quiet", wrap=True)
        self.choose = button("A picture", self.open, "chip", "a photograph of what you would make, JPEG or PNG")
        self.away = button("Take the picture away", self._drop, "chip")
        self.known = Field("known length", 84, self._know, True)
        set_tip(self.known, "what lies between the two marks, as it is known")
        self.reading = label("", "heading")
        self.into = pick("answer that is read off", [], lambda _: None)
        self.take = button("Make it that", self._take, "chip", "write what is read into the answer")
        self.first = flow("known between the marks:", self.known)
        self.second = flow("Between the marks:", self.reading, "for the", self.into, self.take)
        above = flow(self.choose, self.away, self.first)
        whole = column(self, above, self.what, self.photo, self.second, margins=0, spacing=4)
        whole.setStretch(2, 1)

    def refresh(self) -> None:
        """Show the guide of the piece in hand as it is."""
        guide = guide_edits.of(self.session.project)
        for thing in (self.photo, self.away, self.first):
            thing.setVisible(guide is not None)
        self.choose.setText("A picture" if guide is None else "Another picture")
        self.what.setText(self._words(guide))
        self.what.show()
        self.second.setVisible(guide is not None and guide.known is not None)
        if guide is None:
            return
        k = guide.known
        self.photo.show_picture(guide.jpeg, ((k.x0, k.y0), (k.x1, k.y1)) if k is not None else ())
        ends = self._ends()  # another picture has none yet
        self.what.setVisible(ends is None)  # it says what to do, and the room is the picture's
        self.known.setEnabled(ends is not None)
        self.known.show_text(self.session.figures(guide.known.mm) if guide.known is not None and ends is None else "")
        self._asks = guide_edits.asked(self.session.project, self.session.plan)
        refill_pick(self.into, list(self._asks))
        apart = guide_edits.readable(guide, ends)
        self.reading.setText(
            self.session.told(guide_edits.told(guide, ends)) if apart and ends is not None else "mark two ends"
        )
        for thing in (self.into, self.take):
            thing.setEnabled(apart and bool(self._asks))

    def _ends(self) -> guide_edits.Ends | None:
        """The two marks, once there are two."""
        if len(self.photo.marks) < 2:
            return None
        a, b = self.photo.marks
        return (a.x(), a.y(), b.x(), b.y())

    def _words(self, guide: Guide | None) -> str:
        if guide is None:
            return "A photograph to go by: tell one length on it, and read the others off. A small copy is kept in the project."
        if guide.known is None:
            return f"{guide.name}: click the two ends of something whose length you know, then type that length."
        return (
            f"{guide.name}: click the two ends of what is to be read. Only what lies as far from the camera as the known length, and "
            "square to it, is read right."
        )

    def open(self) -> None:
        """Ask for a picture, and put it beside the piece in hand."""
        name, _ = QFileDialog.getOpenFileName(self, "A picture of what you would make", "", PICTURES)
        if not name:
            return
        try:
            found = photo.read(Path(name))
        except FileTrouble as trouble:
            self.session.said.emit(str(trouble), True)
            return
        s = self.session
        s.attempt(
            f"{found.name} beside {s.project.in_hand.name}",
            lambda: guide_edits.put(s.project, found.name, found.jpeg, found.wide, found.tall),
        )
        self.photo.setFocus()

    def _drop(self) -> None:
        self.session.attempt("the picture taken away", lambda: guide_edits.drop(self.session.project))

    def _know(self, text: str) -> bool:
        s, ends = self.session, self._ends()
        if ends is None:
            return False

        def make() -> Project:
            return guide_edits.know(s.project, ends, measure.parse_positive(text, s.project.units, "a length"))

        if not s.attempt(f"known on the picture: {text.strip()}", make):
            return False
        self.photo.marks = []
        self.refresh()
        return True

    def _take(self) -> None:
        s, guide, ends = self.session, guide_edits.of(self.session.project), self._ends()
        into = self._asks.get(self.into.currentText(), ())
        if guide is None or ends is None or not into:
            return
        read = guide_edits.taken(guide, ends)
        words = f"read off {guide.name}: {self.into.currentText()} {s.figures(read)}"
        s.attempt(words, lambda: guide_edits.take(s.project, into, read))
