"""A call: a judgement the program must not make alone, laid out with its options and what each would cost."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import field

from nullah.core.document.project import Choice, Project
from nullah.core.values.frozen import frozen

Change = Callable[[Project], Project]


def unchanged(project: Project) -> Project:
    """The change that changes nothing: the option is carried by the recorded choice alone."""
    return project


@frozen
class Option:
    """One way to take a call: its computed consequences, and the change it makes to the project, if any."""

    id: str
    label: str
    consequences: tuple[str, ...] = ()
    change: Change = field(default=unchanged, compare=False)


@frozen
class Call:
    """A question with options.

    ``asked`` states the facts it rests on: a recorded choice with other facts is stale, and the call is open again.
    ``recommended`` is the option the program would take and ``why``; ``differ`` says where practitioners differ.
    ``conflict`` is set when the plan and something already cut disagree. ``sets_outside``: its options are about the outside
    sizes; any other leaves an outside size that was typed as it is. ``taste``: a matter of school or of taste, which nothing waits for:
    the recommended way is taken unless the maker says otherwise. ``board``: the board it is about, where it is about one;
    ``piece`` the piece, where it is that one's alone.
    """

    id: str
    station: str
    question: str
    options: tuple[Option, ...]
    recommended: str
    why: str
    asked: str = ""
    differ: str = ""
    parts: tuple[str, ...] = ()
    conflict: bool = False
    sets_outside: bool = False
    taken: str = ""
    taste: bool = False
    board: str = ""
    piece: str = ""

    @property
    def open(self) -> bool:
        """Whether a decision is still wanted."""
        return not self.taken

    @property
    def waits(self) -> bool:
        """Whether the work waits for it: open, and no matter of taste."""
        return self.open and not self.taste

    @property
    def in_force(self) -> str:
        """The option the plan goes by: the one taken, else the one recommended."""
        return self.taken or self.recommended

    def option(self, option_id: str) -> Option:
        """The option of that id.

        Raises:
            KeyError: the call has no such option.
        """
        for option in self.options:
            if option.id == option_id:
                return option
        raise KeyError(option_id)


def taken(call_id: str, options: tuple[Option, ...], asked: str, choices: tuple[Choice, ...]) -> str:
    """The option recorded for a call, or "" when there is none, it is stale, or the option is no longer offered."""
    for choice in reversed(choices):
        if choice.call == call_id:
            current = choice.asked == asked and any(o.id == choice.option for o in options)
            return choice.option if current else ""
    return ""


NAMED = 3  # of many names


def some(names: Sequence[str]) -> str:
    """The first of so many names, and how many more there are."""
    more = len(names) - NAMED
    return ", ".join(names) if more < 2 else f"{', '.join(names[:NAMED])} and {more} more"
