"""The view of each station, loaded when one first goes there: the window opens on one of them and needs no other to stand."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

from PySide6.QtWidgets import QWidget

from nullah.gui.session import Session
from nullah.gui.theme import Theme

Made: TypeAlias = Callable[[Session, Theme], QWidget]


def _piece() -> Made:
    from nullah.gui.piece.view import PieceView

    return PieceView


def _timber() -> Made:
    from nullah.gui.timber.view import TimberView

    return TimberView


def _breakdown() -> Made:
    from nullah.gui.breakdown.view import BreakdownView

    return BreakdownView


def _trueup() -> Made:
    from nullah.gui.trueup.view import TrueupView

    return TrueupView


def _joints() -> Made:
    from nullah.gui.joints.view import JointsView

    return JointsView


def _together() -> Made:
    from nullah.gui.together.view import TogetherView

    return TogetherView


def _bench() -> Made:
    from nullah.gui.bench.view import BenchBookView

    return BenchBookView


VIEWS: dict[str, Callable[[], Made]] = {
    "piece": _piece,
    "timber": _timber,
    "breakdown": _breakdown,
    "trueup": _trueup,
    "joints": _joints,
    "together": _together,
    "bench": _bench,
}
