"""Projects and files from the window: new, open, save, export; work found after a crash; a file changed by someone else."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core.document.pieces import Designed, Piece
from nullah.core.edits.piece_edits import FIRST, fresh, take_over
from nullah.core.pieces.kinds import KINDS
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble, spoken
from nullah.gui.exporter import Exporter
from nullah.gui.notice import Notice
from nullah.gui.recovery import Recovered
from nullah.gui.session import Session
from nullah.processes.exporting import ExportTask

FILTER = "Nullah projects (*.nullah)"
MOST_OFFERED = 5  # pieces of another project, one to be taken over


class Files(QObject):
    """What the file keys and buttons do; ``notice`` is where it asks."""

    def __init__(self, session: Session, window: QWidget, notice: Notice) -> None:
        super().__init__(window)
        self.session, self.window, self.notice = session, window, notice
        self._closing_anyway = False
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self.look_outside())
        session.changed.connect(self._watch)
        self.exporter = Exporter(self)
        self.exporter.told.connect(session.said)
        self._watch()

    # ---- new, open, save

    def new(self, kind: str = FIRST) -> None:
        """A new project of one piece by its defaults. What is unsaved is kept first; where it cannot be, nothing is left."""
        self._leave_for(lambda: self._begin_new(kind))

    def _begin_new(self, kind: str) -> None:
        self.session.replace(fresh(kind), None)
        words = "A new project: a practice joint in scrap. Change it into another kind of piece, and it becomes yours."
        if kind != FIRST:
            words = (
                f"A new project: {KINDS[kind].title.lower()}, by its defaults. Say in its sentence what yours is to be."
            )
        self.session.said.emit(words, False)

    def take_over(self) -> None:
        """Ask for another project, and take a piece of it over into this one."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Take a piece over from another project", "", FILTER)
        other = self.session.read(Path(name)) if name else None
        if other is None:
            return
        if len(other.pieces) == 1:
            self._take_over(other.pieces[0])
            return
        ways = [(p.name, lambda p=p: self._take_over(p)) for p in other.pieces[:MOST_OFFERED]]
        self.notice.say(f"Which piece of {spoken(Path(name))}?", *ways, ("None", lambda: None))

    def copy_piece(self) -> None:
        """The piece in hand once more, as it is asked for and changed by hand."""
        self._take_over(self.session.project.in_hand, "copied")

    def _take_over(self, piece: Piece | Designed, how: str = "taken over") -> None:
        s = self.session
        s.attempt(f"{piece.name} {how}", lambda: take_over(s.project, piece))

    def open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a project", "", FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a project; what is unsaved is kept first, and what was kept of that project is offered."""
        if self.session.read(path) is not None:  # else this one is not left at all
            self._leave_for(lambda: self._begin_with(path))

    def _begin_with(self, path: Path) -> None:
        if self.session.open(path):
            self.offer_kept()

    def _leave_for(self, go_on: Callable[[], object]) -> None:
        """Go on to another project once what is unsaved is safe; else say why it is not, and offer to save it elsewhere."""
        s = self.session
        if not s.unsaved:
            go_on()
            return
        try:
            kept = s.recovery.write_left(s.project)
        except FileTrouble as trouble:
            self._stop_before_loss(trouble, go_on)
            return
        go_on()
        if kept is not None:
            self.notice.say(
                f"The work you left was not saved; it is kept as {kept.name}.",
                ("Go back to it", lambda: self.open_path(kept)),
                ("Fine", lambda: None),
                tip=str(kept),
            )

    def _stop_before_loss(self, trouble: FileTrouble, go_on: Callable[[], object]) -> None:
        def save_elsewhere() -> None:
            if self.save_as():
                go_on()

        self.notice.say(
            f"Unsaved work could not be kept, so nothing was left: {trouble}",
            ("Save it elsewhere", save_elsewhere),
            ("Stay here", lambda: None),
            ("Go on without it", go_on),
        )

    def may_close(self) -> bool:
        """Whether the window may close: unsaved work is kept for the next start; where it cannot be, that is told instead."""
        if self._closing_anyway or self.session.write_recovery():
            self.exporter.wait()
            return True
        self._stop_before_loss(
            FileTrouble("the place for recovery cannot be written."), lambda: self._close_all_the_same()
        )
        return False

    def _close_all_the_same(self) -> None:
        self._closing_anyway = True
        self.window.close()

    def save(self) -> None:
        """Save to its file; a new one is asked for, and one changed outside is asked about first."""
        s = self.session
        if s.path is None:
            self.save_as()
        elif s.recovery.changed_outside(s.path):
            self.notice.say(
                f"{spoken(s.path)} was changed by something else since it was read here. Save over it?",
                ("Save under another name", self.save_as),
                ("Save over it", lambda: s.save()),
                ("Not now", lambda: None),
            )
        else:
            s.save()

    def save_as(self) -> bool:
        """Save under a name asked for; whether it was saved."""
        name, _ = QFileDialog.getSaveFileName(
            self.window, "Save the project", f"{self.session.project.name}{project_file.SUFFIX}", FILTER
        )
        path = Path(name)
        return bool(name) and self.session.save(path if path.suffix else path.with_suffix(project_file.SUFFIX))

    # ---- what leaves for the shop

    def export(self) -> None:
        """Ask for a folder and put everything for the shop there."""
        folder = QFileDialog.getExistingDirectory(
            self.window, "Where to put cut list, shop sheet, templates and pictures"
        )
        if folder:
            self.export_to(Path(folder))

    def export_to(self, folder: Path) -> None:
        """Write everything for the shop into a folder, in a process of its own; what came of it is said once it is done."""
        s = self.session
        s.said.emit("Writing cut list, sheets, templates and pictures.", False)
        self.exporter.start(ExportTask(project_file.dumps(s.project), folder.absolute(), s.path))

    # ---- never lost

    def offer_kept(self) -> None:
        """After a crash: what was being worked on is offered, and either way kept."""
        s = self.session
        found = s.recovery.found(s.path, s.project)
        if found:
            self._offer(found[0])

    def _offer(self, kept: Recovered) -> None:
        what = f'"{kept.project.name}"' if self.session.path is None else spoken(self.session.path)
        self.notice.say(
            f"Unsaved work on {what} from {kept.when:%d %b %H:%M} was kept when the program last ended.",
            ("Bring it back", lambda: self._bring_back(kept)),
            ("Leave it aside", lambda: self._lay_aside(kept)),
        )

    def _bring_back(self, kept: Recovered) -> None:
        s = self.session
        s.do(kept.project, "unsaved work brought back")
        if s.write_recovery():
            s.recovery.let_go(kept)
        s.said.emit("The unsaved work is here again; Undo goes back to how the file was saved.", False)

    def _lay_aside(self, kept: Recovered) -> None:
        try:
            target = self.session.recovery.lay_aside(kept)
        except FileTrouble as trouble:
            self.session.said.emit(str(trouble), True)
            return
        self.session.said.emit(f"It is kept as {spoken(target)} in {spoken(target.parent)}.", False)

    def _watch(self) -> None:
        """Keep an eye on the file that is open."""
        path = self.session.path
        wanted = [str(path)] if path is not None and path.exists() else []
        if self._watcher.files() != wanted:
            if self._watcher.files():
                self._watcher.removePaths(self._watcher.files())
            if wanted:
                self._watcher.addPaths(wanted)

    def look_outside(self) -> None:
        """The file on disk moved: where it is no longer what was read or written here, say so."""
        s = self.session
        if s.path is None or not s.recovery.changed_outside(s.path):
            self._watch()
            return
        gone = not s.path.exists()
        words = "is no longer there" if gone else "was changed by something else"
        offers = [("Keep mine", s.keep_mine)]
        if not gone:
            offers.insert(0, ("Take theirs", s.take_theirs))
        self.notice.say(f"{spoken(s.path)} {words}. What you have here is untouched.", *offers)
        self._watch()
