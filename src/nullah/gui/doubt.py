"""A step that is said to be done and needs what is not so, or stands on open calls: asked in a line across the window."""

from __future__ import annotations

from collections.abc import Callable

from nullah.core.edits.step_edits import NotMet
from nullah.core.planning.plan import TITLES
from nullah.gui.notice import Notice
from nullah.gui.session import Session


def ask(unmet: NotMet, notice: Notice, session: Session, go: Callable[[str], None]) -> None:
    """Offer to see what the step stands on, to have it done all the same, or to let it be; ``go`` turns to a station."""
    calls = unmet.calls
    sure = "Take what is suggested; done" if calls else "Done all the same"
    look = [(f"See {TITLES[calls[0].station]}", lambda: go(calls[0].station))] if calls else []
    notice.say(
        f"{unmet.step.title}: {session.told(str(unmet))}",
        *look,
        (sure, lambda: session.finish(unmet.step, True)),
        ("Not yet", lambda: None),
    )
