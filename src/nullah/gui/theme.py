"""Look: inks from the core as Qt colours, the shipped typeface, the style sheet."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from PySide6.QtGui import QColor, QFont, QFontDatabase
from PySide6.QtWidgets import QApplication

from nullah.core.drawing.ink import DARK, PAPER, colour

FAMILY = "Atkinson Hyperlegible Next"


class Theme:
    """Colours by ink name; one light and one dark."""

    def __init__(self, dark: bool = False) -> None:
        self.inks: dict[str, QColor] = {}
        self.turn(dark)

    def turn(self, dark: bool) -> None:
        """Take the inks of the light or the dark one."""
        self.dark = dark
        self.inks = {name: QColor(value) for name, value in (DARK if dark else PAPER).items()}

    def __getitem__(self, ink: str) -> QColor:
        found = self.inks.get(ink)
        if found is None:
            found = self.inks[ink] = QColor(colour(ink, self.dark))
        return found

    def hex(self, ink: str) -> str:
        return self[ink].name()


def load_fonts() -> None:
    """Register the shipped typeface with Qt; the window falls back to the system's where it cannot be read."""
    for file in sorted((Path(__file__).parent / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


@lru_cache(maxsize=64)  # made hundreds of times a painting; nobody changes one
def font(pixels: float, bold: bool = False) -> QFont:
    """The typeface at a size in pixels, with tabular figures on."""
    made = QFont(FAMILY)
    made.setPixelSize(max(8, round(pixels)))
    made.setBold(bold)
    made.setFeature(QFont.Tag("tnum"), 1)
    return made


def apply(app: QApplication, theme: Theme) -> None:
    """Set typeface and style sheet for the whole application."""
    app.setFont(font(14))
    app.setStyleSheet("")  # taken off first: one sheet put over another costs Qt three times as long
    c = theme.hex
    arrow = (Path(__file__).parent / "icons" / f"down-{'dark' if theme.dark else 'light'}.svg").as_posix()
    app.setStyleSheet(f"""
    QWidget {{ color: {c("ink")}; background: {c("ground")}; }}
    QFrame#panel, QFrame#panel QLabel, QFrame#panel QScrollArea, QFrame#panel QWidget#inside {{ background: {c("panel")}; }}
    QFrame#panel {{ border: 0; border-left: 1px solid {c("line")}; }}
    QFrame#strip, QFrame#strip QLabel {{ background: {c("panel")}; }}
    QFrame#strip {{ border-top: 1px solid {c("line")}; }}
    QLabel#heading {{ font-size: 15px; font-weight: bold; }}
    QLabel#quiet {{ color: {c("quiet")}; }}
    QLabel#trouble {{ color: {c("decision")}; font-weight: bold; }}
    QLabel#figure {{ color: {c("computed")}; font-size: 26px; font-weight: bold; }}
    QFrame#call, QFrame#call QLabel {{ background: {c("decision wash")}; }}
    QFrame#call {{ border-left: 4px solid {c("decision")}; border-radius: 4px; }}
    QFrame#option, QFrame#option QLabel {{ background: {c("panel")}; }}
    QFrame#option {{ border: 1px solid {c("decision")}; border-radius: 5px; }}
    QFrame#option:focus {{ border: 3px solid {c("decision")}; }}
    QFrame#kind, QFrame#kind QLabel, QFrame#kind QWidget {{ background: {c("panel")}; }}
    QFrame#kind {{ border: 1px solid {c("line")}; border-radius: 5px; margin: 2px; }}
    QFrame#kind:hover {{ border-color: {c("computed")}; }}
    QFrame#kind[lit="true"] {{ border: 3px solid {c("computed")}; margin: 0; }}
    QFrame#setting, QFrame#setting QLabel {{ background: {c("panel")}; }}
    QFrame#setting {{ border-bottom: 1px solid {c("line")}; }}
    QFrame#setting[lit="true"], QFrame#setting[lit="true"] QLabel {{ background: {c("computed wash")}; }}
    QPushButton {{ background: {c("panel")}; border: 1px solid {c("faint")}; border-radius: 5px; padding: 5px 11px; }}
    QPushButton:hover {{ border-color: {c("computed")}; }}
    QPushButton:focus {{ border: 2px solid {c("computed")}; padding: 4px 10px; }}
    QPushButton:disabled {{ color: {c("faint")}; }}
    QPushButton#main {{ background: {c("computed")}; color: {c("panel")}; border-color: {c("computed")}; font-weight: bold; }}
    QPushButton#link {{ border: 0; padding: 3px 4px; text-align: left; background: transparent; }}
    QPushButton#link:hover {{ color: {c("computed")}; text-decoration: underline; }}
    QPushButton#link:focus {{ border: 1px dashed {c("computed")}; }}
    QPushButton#chip {{ border-radius: 11px; padding: 2px 10px; }}
    QPushButton#chip:checked {{ background: {c("computed wash")}; border: 2px solid {c("computed")}; }}
    QFrame#notice, QFrame#notice QLabel {{ background: {c("decision wash")}; font-weight: bold; }}
    QFrame#news, QFrame#news QLabel {{ background: {c("computed wash")}; }}
    QFrame#overlay, QFrame#overlay QLabel, QFrame#overlay QWidget#inside, QFrame#overlay QStackedWidget,
    QFrame#overlay QStackedWidget > QWidget {{ background: {c("panel")}; }}
    QFrame#overlay {{ border-left: 3px solid {c("computed")}; }}
    QLabel#answer {{ color: {c("computed")}; font-size: 20px; font-weight: bold; }}
    QSlider::groove:horizontal {{ height: 4px; background: {c("line")}; border-radius: 2px; }}
    QSlider::handle:horizontal {{ width: 16px; margin: -7px 0; border-radius: 8px; background: {c("computed")}; }}
    QSlider::handle:horizontal:focus {{ border: 2px solid {c("ink")}; }}
    QLineEdit, QComboBox, QSpinBox {{ background: {c("panel")}; border: 1px solid {c("faint")}; border-radius: 4px; padding: 3px 6px;
        selection-background-color: {c("computed")}; selection-color: {c("panel")}; }}
    QLineEdit:focus, QComboBox:focus {{ border: 2px solid {c("computed")}; padding: 2px 5px; }}
    QLineEdit:disabled, QComboBox:disabled, QSpinBox:disabled {{ background: {c("ground")}; color: {c("faint")};
        border: 1px dashed {c("line")}; }}
    QLineEdit[wrong="true"] {{ border: 2px solid {c("decision")}; }}
    QComboBox {{ padding-right: 22px; }}
    QComboBox::drop-down {{ subcontrol-origin: padding; subcontrol-position: center right; width: 20px; border: 0;
        background: transparent; }}
    QComboBox::down-arrow {{ image: url("{arrow}"); width: 9px; height: 6px; }}
    QComboBox QAbstractItemView {{ background: {c("panel")}; selection-background-color: {c("computed wash")};
        selection-color: {c("ink")}; }}
    QListWidget {{ background: {c("panel")}; border: 1px solid {c("line")}; border-radius: 4px; outline: 0; }}
    QListWidget::item {{ padding: 4px 6px; border-bottom: 1px solid {c("line")}; }}
    QListWidget::item:selected {{ background: {c("computed wash")}; color: {c("ink")}; }}
    QTableWidget {{ background: {c("panel")}; border: 1px solid {c("line")}; border-radius: 4px; gridline-color: {c("line")}; }}
    QTableWidget::item:selected {{ background: {c("computed wash")}; color: {c("ink")}; }}
    QHeaderView::section {{ background: {c("ground")}; border: 0; border-bottom: 1px solid {c("faint")}; padding: 4px 8px;
        font-weight: bold; }}
    QScrollArea {{ border: 0; }}
    QScrollBar:vertical {{ width: 10px; background: transparent; }}
    QScrollBar::handle:vertical {{ background: {c("faint")}; border-radius: 4px; min-height: 30px; }}
    QScrollBar:horizontal {{ height: 10px; background: transparent; }}
    QScrollBar::handle:horizontal {{ background: {c("faint")}; border-radius: 4px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QAbstractScrollArea::corner {{ background: transparent; border: none; }}
    QToolTip {{ color: {c("ink")}; background: {c("panel")}; border: 1px solid {c("faint")}; }}
    """)
