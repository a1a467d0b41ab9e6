"""Edits of what is read and planed at True-up: readings put down, changed, moved and taken away; passes done."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import inf
from typing import Any

from nullah.core.document.project import Plane, Planed, Project, Reading
from nullah.core.edits import edit
from nullah.core.stations.trued import Trued
from nullah.core.surface.passes import plane_from
from nullah.core.surface.reading_kinds import EDGES, READING_KINDS, off_the_board, wrong
from nullah.core.values.measure import marked


def put_reading(
    project: Project, t: Trued, kind: str, side: str, value: float, stood: str = EDGES, **where: float
) -> Project:
    """The project with one more reading of ``t``, taken of it as it now is.

    Args:
        stood: what the stick stood on, one of ``STOOD``.
        where: at, across, stick, to, in mm; those the kind does not use are passed over.

    Raises:
        BadEdit: it lies off the board or says nothing; the message says why.
    """
    given = _given(kind, stood, where)
    new = edit.made(Reading, target=t.id, kind=kind, side=side, value=value, after=len(t.planed), **given)
    _check(t, new)
    twice = [i for i, r in enumerate(t.readings) if r == new]
    if twice and not set(twice) & set(t.surface.again):
        raise edit.BadEdit("That reading is written down already.")
    return edit.changed(project, readings=(*project.readings, new))


def say_reading(project: Project, t: Trued, n: int, value: float, stood: str = EDGES, **where: float) -> Project:
    """The project with the n-th reading of ``t`` said anew; arguments and errors as ``put_reading``."""
    return change_reading(project, t, n, value=value, **_given(reading(t, n).kind, stood, where))


def _given(kind: str, stood: str, where: Mapping[str, float]) -> dict[str, Any]:
    """What of the places a kind uses."""
    given: dict[str, Any] = {name: mm for name, mm in where.items() if name in READING_KINDS[kind].used}
    if kind == "winding sticks":
        given |= {"stood": stood, "across": where["across"] if stood != EDGES else 0.0}
    return given


def change_reading(project: Project, t: Trued, n: int, **figures: Any) -> Project:
    """The project with the n-th reading of ``t`` said or placed otherwise.

    Raises:
        BadEdit: as ``put_reading``, or there is no such reading.
    """
    was = reading(t, n)
    new = edit.held(was, **figures)
    _check(t, new)
    return edit.changed(project, readings=_with(project.readings, was, (new,)))


def drop_reading(project: Project, t: Trued, n: int) -> Project:
    """The project without the n-th reading of ``t``.

    Raises:
        BadEdit: there is no such reading.
    """
    return edit.changed(project, readings=_with(project.readings, reading(t, n), ()))


def done_planing(
    project: Project, t: Trued, side: str, words: str, minutes: float, heights: Sequence[float], when: str = ""
) -> Project:
    """The project with a side of ``t`` planed, down to the heights that are foreseen (at the nodes, mm); the bench book tells of it."""
    new = edit.made(Planed, target=t.id, side=side, words=words, minutes=minutes, heights=tuple(heights))
    after = edit.changed(project, planed=(*project.planed, new))
    return edit.logged(after, "change", f"{t.name}, {side} planed: {words}.", when)


def set_planes(project: Project, text: str) -> Project:
    """The project with other planes at hand: each "sole iron width set camber" in mm, one after the other with semicolons.

    One with a sole as long as before keeps its name.

    Raises:
        BadEdit: that is no plane, or there is none; the message says why.
    """
    names = {p.sole: p.name for p in project.kit.planes}
    made = []
    for one in filter(str.strip, text.split(";")):
        try:
            p = plane_from(one)
        except ValueError as error:
            raise edit.BadEdit(f"{str(error)[0].upper()}{str(error)[1:]}.") from None
        called = next(name for most, name in _CALLED if p.sole < most)
        name = names.get(p.sole, f"{called}, {p.sole:g} mm sole")
        made.append(
            edit.made(Plane, name=name, sole=p.sole, iron=p.iron, shaving=p.set, width=p.width, camber=p.camber)
        )
    if not made:
        raise edit.BadEdit("One plane at least is at hand: it is written like 355 120 50 0.2 0.12.")
    return edit.set_in(project, "kit", "planes", tuple(made))


def planes_said(project: Project) -> str:
    """The planes at hand as ``set_planes`` takes them."""
    return "; ".join(f"{p.sole:g} {p.iron:g} {p.width:g} {p.shaving:g} {p.camber:g}" for p in project.kit.planes)


# by the length of the sole, mm (common practice)
_CALLED = ((270.0, "smoother"), (400.0, "jack plane"), (500.0, "fore plane"), (inf, "jointer"))


def reading(t: Trued, n: int) -> Reading:
    """The n-th reading of ``t``.

    Raises:
        BadEdit: there is no such reading.
    """
    if not 0 <= n < len(t.readings):
        raise edit.BadEdit("That reading is no longer here.")
    return t.readings[n]


def _with(readings: tuple[Reading, ...], was: Reading, new: tuple[Reading, ...]) -> tuple[Reading, ...]:
    at = next(i for i, r in enumerate(readings) if r is was or r == was)
    return (*readings[:at], *new, *readings[at + 1 :])


def _check(t: Trued, r: Reading) -> None:
    """Refuse a reading that lies off the board, or cannot be."""
    if off_the_board(r, t.length, t.width):
        raise edit.BadEdit(f"That place lies off {t.name}: it is {marked(t.length)} by {marked(t.width)}.")
    words = wrong(r, t.length, t.width)
    if words:
        raise edit.BadEdit(f"{words[0].upper()}{words[1:]}.")
