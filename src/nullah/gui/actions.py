"""Everything one can do, by name and key: the one list that keys, buttons and the searchable panel all draw from."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QWidget

from nullah.core.values.frozen import frozen


@frozen
class Action:
    """One thing to do: what it is called, the keys that do it (the first is shown), and where it belongs."""

    id: str
    words: str
    keys: tuple[str, ...]
    group: str
    act: Callable[[], object]

    @property
    def key(self) -> str:
        """The key shown beside it, "" for none."""
        return self.keys[0] if self.keys else ""


class Actions:
    """The list, in the order it is shown."""

    def __init__(self) -> None:
        self._all: dict[str, Action] = {}

    def __iter__(self) -> Iterator[Action]:
        return iter(self._all.values())

    def __getitem__(self, action_id: str) -> Action:
        return self._all[action_id]

    def add(self, group: str, action_id: str, words: str, act: Callable[[], object], *keys: str) -> None:
        """Put one more on the list.

        Raises:
            ValueError: its name or one of its keys is taken.
        """
        if action_id in self._all or any(k in other.keys for other in self for k in keys):
            raise ValueError(f"{action_id} or a key of it is taken")
        self._all[action_id] = Action(action_id, words, keys, group, act)

    def give_keys(self, window: QWidget) -> None:
        """Make the keys work anywhere in the window."""
        for action in self:
            for key in action.keys:
                made = QShortcut(QKeySequence(key), window, context=Qt.ShortcutContext.WindowShortcut)
                made.activated.connect(lambda a=action: a.act())

    def matching(self, words: str) -> list[Action]:
        """Those that have every word, in their name, group or key."""
        return matching(self, words)


def matching(actions: Iterable[Action], words: str) -> list[Action]:
    """Of some things to do, those that have every word in their name, group or key."""
    wanted = words.lower().split()
    return [a for a in actions if all(w in f"{a.words} {a.group} {' '.join(a.keys)}".lower() for w in wanted)]
