"""Projects and files from the window: new, open, save, export; work found after a crash; a file changed by someone else."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from nullah.core.document import Project
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble
from nullah.gui.keeping import Kept
from nullah.gui.notice import Notice
from nullah.gui.session import Session

FILTER = "Nullah projects (*.nullah)"


class Files(QObject):
    """What the file keys and buttons do; ``notice`` is where it asks."""

    def __init__(self, session: Session, window: QWidget, notice: Notice) -> None:
        super().__init__(window)
        self.session, self.window, self.notice = session, window, notice
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: self.look_outside())
        session.changed.connect(self._watch)
        self._watch()

    # ---- new, open, save

    def new(self) -> None:
        """A new project, on a small practice box. What is unsaved is kept first."""
        self._keep_unsaved()
        self.session.replace(Project(), None)
        self.session.said.emit(
            "A new project: a small practice box. Change what it holds, and it becomes yours.", False
        )

    def open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a project", "", FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a project; what is unsaved is kept first, and what was kept of that project is offered."""
        self._keep_unsaved()
        if self.session.open(path):
            self.offer_kept()

    def _keep_unsaved(self) -> None:
        s = self.session
        folder = s.keeping.folder
        if not s.unsaved or folder is None:
            return
        path = folder / f"left-{s.now()[:19].replace(':', '')}{project_file.SUFFIX}"
        try:
            folder.mkdir(parents=True, exist_ok=True)
            project_file.save(s.project, path)
        except (FileTrouble, OSError) as trouble:
            s.said.emit(f"Unsaved work could not be kept: {trouble}", True)
            return
        self.notice.say(
            f"The work you left was not saved; it is kept as {path.name}.",
            ("Go back to it", lambda: s.open(path)),
            ("Fine", lambda: None),
            tip=str(path),
        )

    def save(self) -> None:
        s = self.session
        if s.path is None:
            self.save_as()
        elif s.keeping.changed_outside(s.path):
            self.notice.say(
                f"{s.path.name} was changed by something else since it was read here. Save over it?",
                ("Save under another name", self.save_as),
                ("Save over it", lambda: s.save()),
                ("Not now", lambda: None),
            )
        else:
            s.save()

    def save_as(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self.window, "Save the project", f"{self.session.project.name}{project_file.SUFFIX}", FILTER
        )
        if name:
            path = Path(name)
            self.session.save(path if path.suffix else path.with_suffix(project_file.SUFFIX))

    # ---- what leaves for the shop

    def export(self) -> None:
        folder = QFileDialog.getExistingDirectory(
            self.window, "Where to put cut list, shop sheet, templates and pictures"
        )
        if folder:
            self.export_to(Path(folder))

    def export_to(self, folder: Path) -> None:
        """Write everything for the shop into a folder."""
        from nullah.formats.export import export  # on first use: the PDF library alone would make every start slower

        try:
            written = export(self.session.plan, folder)
        except FileTrouble as trouble:
            self.session.said.emit(str(trouble), True)
            return
        self.session.said.emit(f"Written: {', '.join(p.name for p in written)}.", False)

    # ---- never lost

    def offer_kept(self) -> None:
        """After a crash: what was being worked on is offered, and either way kept."""
        s = self.session
        found = s.keeping.found(s.path, s.project)
        if found:
            self._offer(found[0])

    def _offer(self, kept: Kept) -> None:
        what = f'"{kept.project.name}"' if self.session.path is None else self.session.path.name
        self.notice.say(
            f"Unsaved work on {what} from {kept.when:%d %b %H:%M} was kept when the program last ended.",
            ("Bring it back", lambda: self._bring_back(kept)),
            ("Leave it aside", lambda: self._lay_aside(kept)),
        )

    def _bring_back(self, kept: Kept) -> None:
        s = self.session
        s.do(kept.project, "unsaved work brought back")
        s.write_recovery()
        s.keeping.let_go(kept)
        s.said.emit("The unsaved work is here again; Undo goes back to how the file was saved.", False)

    def _lay_aside(self, kept: Kept) -> None:
        target = self.session.keeping.lay_aside(kept)
        self.session.said.emit(f"It is kept as {target.name} in {target.parent.name}.", False)

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
        if s.path is None or not s.keeping.changed_outside(s.path):
            self._watch()
            return
        gone = not s.path.exists()
        words = "is no longer there" if gone else "was changed by something else"
        offers = [("Keep mine", s.keep_mine)]
        if not gone:
            offers.insert(0, ("Take theirs", s.take_theirs))
        self.notice.say(f"{s.path.name} {words}. What you have here is untouched.", *offers)
        self._watch()
