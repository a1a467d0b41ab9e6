"""The window: Qt Widgets. Views draw a plan and send edits; they keep no facts of their own and work out no geometry."""

from __future__ import annotations

import contextlib


def _without_features() -> None:
    """No other spellings of Qt's names: none are used here, and to find that out the binding reads the source of every module that is
    imported after it, and keeps it."""
    import PySide6.QtCore  # noqa: F401  # it brings the module below

    with contextlib.suppress(ImportError):
        from shibokensupport import feature  # type: ignore[import-not-found]  # it is there once the binding is

        feature._mod_uses_pyside = lambda _: False


_without_features()
