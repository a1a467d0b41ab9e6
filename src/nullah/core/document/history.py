"""Undo and redo: the list of old projects and where in it one stands."""

from __future__ import annotations

from nullah.core.document.project import Project

MOST_STEPS = 2000  # projects kept for undo


class History:
    """Undo and redo: the list of old projects and where in it one stands. The present one is ``now``.

    A gesture that goes on (nudge after nudge of one thing) stays one step. When there are more steps than ``MOST_STEPS`` the
    oldest small ones (gestures, typed values) are forgotten first; what was taken, measured, cut and done is kept while it can.
    """

    def __init__(self, first: Project) -> None:
        self._states = [first]
        self._words = [""]
        self._gesture = ""
        self._at = 0

    @property
    def now(self) -> Project:
        """The project as it stands."""
        return self._states[self._at]

    def do(self, project: Project, words: str, gesture: str = "") -> None:
        """Make ``project`` the present one; what was undone is forgotten. A step of the same ``gesture`` replaces the last."""
        if project == self.now:
            return
        if gesture and gesture == self._gesture and self._at == len(self._states) - 1:
            self._states[-1], self._words[-1] = project, words
            return
        self._states = [*self._states[: self._at + 1], project]
        self._words = [*self._words[: self._at + 1], words]
        self._gesture = gesture
        self._at = len(self._states) - 1
        if len(self._states) > MOST_STEPS:
            self._forget()

    def _forget(self) -> None:
        """Drop the oldest step that is small, else the oldest."""
        for i in range(1, len(self._states) - 1):
            if not matters(self._states[i - 1], self._states[i]):
                del self._states[i], self._words[i]
                break
        else:
            del self._states[0], self._words[0]
            self._words[0] = ""
        self._at = len(self._states) - 1

    def undo(self) -> str:
        """One step back; the words of what was undone, "" at the start."""
        if self._at == 0:
            return ""
        self._at -= 1
        self._gesture = ""
        return self._words[self._at + 1]

    def redo(self) -> str:
        """One step forward; the words of what was done again, "" at the end."""
        if self._at == len(self._states) - 1:
            return ""
        self._at += 1
        return self._words[self._at]

    @property
    def can_undo(self) -> bool:
        """Whether there is something to undo."""
        return self._at > 0

    @property
    def can_redo(self) -> bool:
        """Whether there is something to do again."""
        return self._at < len(self._states) - 1


def matters(before: Project, after: Project) -> bool:
    """Whether the step between two projects says something of the wood or settles something, rather than a value tried."""
    return any(
        getattr(before, k) != getattr(after, k)
        for k in ("choices", "measured", "cut", "done", "log", "readings", "planed")
    )
