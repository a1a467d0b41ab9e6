"""The view of each station, loaded when one first goes there: the window opens on one of them and needs no other to stand."""

from __future__ import annotations

from importlib import import_module

from nullah.gui.session import Session
from nullah.gui.station_view import StationView
from nullah.gui.theme import Theme

VIEWS = {  # by station: the class in the ``view.py`` of its folder
    "piece": "PieceView",
    "timber": "TimberView",
    "breakdown": "BreakdownView",
    "trueup": "TrueupView",
    "joints": "JointsView",
    "together": "TogetherView",
    "bench": "BenchBookView",
}


def made(station: str, session: Session, theme: Theme) -> StationView:
    """A new view of that station."""
    view = getattr(import_module(f"nullah.gui.{station}.view"), VIEWS[station])(session, theme)
    assert isinstance(view, StationView)
    return view
