"""Reminders as iCalendar (RFC 5545): when a board is to be read again, and when it is likely ready. Days told by its readings alone."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from nullah.core.document.project import Board
from nullah.core.planning.plan import Plan
from nullah.core.stations.readiness import Readiness, readiness

AGAIN = 7  # days after a reading until the next (common practice)


def ics(plan: Plan) -> bytes:
    """The reminders of a project; nothing where no board dries under readings. What it says follows from the project alone: stamps are
    those of the readings."""
    p = plan.project
    drying = [(b, told) for b in p.boards if (told := readiness(b, p.references)) is not None and told.state != "ready"]
    if not drying:
        return b""
    calendar = Calendar()
    calendar.add("prodid", "-//Nullah//wood that dries//EN")
    calendar.add("version", "2.0")
    for board, told in drying:
        last = date.fromisoformat(board.moistures[-1].day)
        calendar.add_component(
            _event(
                board,
                "read",
                last + timedelta(days=AGAIN),
                f"Read {board.name} again",
                f"It read {board.moistures[-1].percent:g} % on {last.isoformat()}, at the same place and depth.",
            )
        )
        if told.day:
            calendar.add_component(
                _event(board, "ready", date.fromisoformat(told.day), _title(board, told), told.words)
            )
    return bytes(calendar.to_ical())


def _title(board: Board, told: Readiness) -> str:
    return f"{board.name} is likely ready ({told.earliest} to {told.latest})"


def _event(board: Board, what: str, day: date, title: str, words: str) -> Event:
    """An event of a whole day; known again by board and kind."""
    event = Event()
    last = date.fromisoformat(board.moistures[-1].day)
    event.add("uid", f"{what}-{board.id.replace(' ', '-')}@nullah")
    event.add("dtstamp", datetime(last.year, last.month, last.day, tzinfo=UTC))
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("summary", title)
    event.add("description", words)
    return event
