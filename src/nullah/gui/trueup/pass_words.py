"""What a pass is, in a line of the list: where it goes, with which plane, how often and which way."""

from __future__ import annotations

from nullah.core.marking.plan import counted
from nullah.core.stations.trued import Trued
from nullah.core.surface.edges import EdgeWork
from nullah.core.surface.passes import LEFT, RIGHT, TURNED
from nullah.core.surface.place_words import place_words
from nullah.core.surface.rounds import Round, workpiece
from nullah.gui.session import Session

_QUARTER = 25.4 / 4  # mm: a scribble is no finer than a quarter of an inch
_WAYS = {
    RIGHT: "along, overlapping",
    LEFT: "along, overlapping",
    45.0: "at 45\u00b0 up to the right",
    -45.0: "at 45\u00b0 down to the right",
    90.0: "straight across",
}


_RISING = {
    RIGHT: "along, from the left end, with the rising grain",
    LEFT: "along, from the right end, with the rising grain",
}


def of_a_pass(found: Round, n: int, t: Trued, session: Session) -> str:
    """The n-th pass of a round over a board or part."""
    stage, inches = found.stages[n], session.project.units == "in"
    p = stage.what

    def show(mm: float) -> str:
        return session.figure(round(mm / _QUARTER) * _QUARTER if inches else mm)

    where = place_words(workpiece(t.length, t.width), p.outlines, show)
    said = _WAYS | _RISING if t.ways.rises else _WAYS
    ways = [said.get(one, f"at {one:g}\u00b0") for one in p.directions]
    way = "at 45\u00b0, half one way and half the other" if set(p.directions) == set(TURNED) else " and ".join(ways)
    changed = n == 0 or found.stages[n - 1].what.plane != p.plane
    first = "" if not changed else "Wax the sole. " if n == 0 else "Change planes, wax. "
    last = " Then read it again." if found.whole and n == len(found.stages) - 1 else ""
    high = f", up to {session.fine(p.most)} high" if n == 0 else ""
    return (
        f"{found.side.capitalize()}: {where}: {counted(p.times, 'time')} with the {p.plane.name} at {p.plane.set:g} mm, "
        f"{way}{high}. {first}{counted(stage.strokes, 'stroke')}, {stage.minutes:.0f} min.{last}"
    )


def of_an_edge(e: EdgeWork, session: Session) -> str:
    """What an edge takes until it is square."""
    worst = f"{e.edge} edge: the {e.high} stands out {session.fine(e.out)} at {session.figure(e.at)}"
    way = f"overhang the sole so that the iron takes that side alone, {e.shavings} shavings of {e.shaving:g} mm"
    return f"{worst}. {way.capitalize()}; then one over all of the edge."
