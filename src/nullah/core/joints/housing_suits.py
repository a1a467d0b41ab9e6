"""Which housings suit two parts that meet, and why the others do not."""

from __future__ import annotations

from nullah.core.marking.family import Meeting, over_an_edge


def into_end_grain(meeting: Meeting) -> str:
    """Why nothing is sunk into an end; "" where it is none."""
    return (
        f"It would be sunk into the end of {meeting.called}: end grain holds nothing so." if meeting.at_an_end else ""
    )


def across_the_grain(meeting: Meeting) -> str:
    """Why a dado does not suit; "" where it does."""
    along = f"It would run along the grain of {meeting.called}: that is a groove." if meeting.with_the_grain else ""
    return into_end_grain(meeting) or along


def along_the_grain(meeting: Meeting) -> str:
    """Why a groove does not suit; "" where it does."""
    across = "" if meeting.with_the_grain else f"It would run across the grain of {meeting.called}: that is a dado."
    return into_end_grain(meeting) or across


def at_an_edge(meeting: Meeting) -> str:
    """Why a rabbet does not suit; "" where it does."""
    return into_end_grain(meeting) or over_an_edge(meeting)
