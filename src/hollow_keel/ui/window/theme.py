"""Colours, fonts and the style sheet, light and dark."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib import resources

from PySide6.QtCore import QRect, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPainter, QPalette, QPen
from PySide6.QtWidgets import QApplication

from ...drawing.model import Layer


@dataclass(frozen=True)
class Theme:
    """All colours by what they are for."""

    ground: str
    paper: str
    ink: str
    second: str
    rule: str
    accent: str
    good: str
    bad: str
    water: str
    strip: str
    strip_alt: str
    strip_tenth: str
    mold: str
    shades: tuple[str, str, str, str]
    """Strips by kind: the first is plain, the last the most."""


LIGHT = Theme(
    ground="#F3F0E8",
    paper="#FBFAF5",
    ink="#1F2A30",
    second="#56636A",
    rule="#DDD7C8",
    accent="#9A5F0E",
    good="#2E6A4D",
    bad="#9C3F2C",
    water="#3F6B84",
    strip="#E9D5AA",
    strip_alt="#C7AE78",
    strip_tenth="#C99F58",
    mold="#EFE3C6",
    shades=("#E9D5AA", "#B9CBB0", "#D9A24A", "#B0583F"),
)
DARK = Theme(
    ground="#1B2429",
    paper="#232E34",
    ink="#F1ECE0",
    second="#A9B4B8",
    rule="#3A474E",
    accent="#E5A53D",
    good="#7FC8A0",
    bad="#E88A74",
    water="#8FB8CF",
    strip="#8A7347",
    strip_alt="#5E4D2E",
    strip_tenth="#B08F4E",
    mold="#4A432F",
    shades=("#8A7347", "#4F6B58", "#B8822E", "#A4503C"),
)


@dataclass(frozen=True)
class LineLook:
    """Colour, width in pixels and dash pattern of a layer."""

    colour: str
    width: float = 1.0
    dash: tuple[float, ...] = ()
    fill: str | None = None


def layer_look(theme: Theme, layer: Layer) -> LineLook:
    """How a layer is drawn on screen."""
    return _looks(theme)[layer]


@cache
def _looks(theme: Theme) -> dict[Layer, LineLook]:
    return {
        Layer.HULL: LineLook(theme.ink, 1.6),
        Layer.STATION: LineLook(theme.second, 1.1),
        Layer.OFFSET: LineLook(theme.accent, 1.2),
        Layer.MOLD: LineLook(theme.ink, 1.6, fill=theme.mold),
        Layer.HOLE: LineLook(theme.ink, 1.2, fill=theme.paper),
        Layer.CENTRELINE: LineLook(theme.second, 1.0, (10, 3, 2, 3)),
        Layer.WATERLINE: LineLook(theme.water, 1.6),
        Layer.SHEER_MARK: LineLook(theme.bad, 1.6),
        Layer.THIS_FACE: LineLook(theme.ink, 1.0),
        Layer.OTHER_FACE: LineLook(theme.second, 1.0, (6, 3)),
        Layer.BEVEL: LineLook(theme.accent),
        Layer.SPALL: LineLook(theme.good, 1.4),
        Layer.SETUP_LINE: LineLook(theme.ink, 1.4),
        Layer.FITTING: LineLook(theme.second, 1.0, (5, 3)),
        Layer.TICK: LineLook(theme.ink, 0.9),
        Layer.NEIGHBOUR: LineLook(theme.second, 0.7),
        Layer.BEAM: LineLook(theme.second, 1.2, fill=theme.rule),
        Layer.STRIP: LineLook(theme.strip_alt, 0.7, fill=theme.strip),
        Layer.STRIP_ALT: LineLook(theme.strip_alt, 0.7, fill=theme.strip_tenth),
        Layer.STRIP_2: LineLook(theme.strip_alt, 0.7, fill=theme.shades[1]),
        Layer.STRIP_3: LineLook(theme.strip_alt, 0.7, fill=theme.shades[2]),
        Layer.STRIP_4: LineLook(theme.strip_alt, 0.7, fill=theme.shades[3]),
        Layer.DIMENSION: LineLook(theme.second, 0.9),
        Layer.GHOST: LineLook(theme.second, 1.0, (2, 3)),
        Layer.GRID: LineLook(theme.second, 0.6),
        Layer.NOTE: LineLook(theme.second),
        Layer.TITLE: LineLook(theme.ink),
    }


STYLED = "hollow-keel-styled"


def load_fonts() -> str:
    """Register the shipped fonts; returns the family to use."""
    folder = resources.files("hollow_keel").joinpath("assets/fonts")
    for entry in folder.iterdir():
        if entry.name.endswith(".ttf"):
            QFontDatabase.addApplicationFontFromData(entry.read_bytes())
    return "Inter"


def figures(pixels: int, *, strong: bool = False) -> QFont:
    """The application's font at a size, with tabular figures."""
    font = QFont("Inter")
    font.setPixelSize(pixels)
    font.setWeight(QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
    font.setFeature(QFont.Tag("tnum"), 1)
    return font


def legend(words: Sequence[str], theme: Theme) -> str:
    """What the shades of strips stand for, in their order, as rich text; those without a word are left out."""
    return " &nbsp; ".join(f'<span style="color:{theme.shades[k]}">■</span> {word}' for k, word in enumerate(words) if word)


def paint_focus(painter: QPainter, rect: QRect, theme: Theme) -> None:
    """What a widget that paints itself shows while the keys go to it."""
    painter.setPen(QPen(QColor(theme.accent), 1.0))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(QRectF(rect).adjusted(1.5, 1.5, -1.5, -1.5), 3, 3)


def apply_theme(app: QApplication, theme: Theme) -> None:
    """Palette, font and style sheet for the whole application."""
    if not app.property(STYLED):  # once: a style put in the place of another, with a sheet over it, now and then ends the program
        app.setStyle("Fusion")
        app.setProperty(STYLED, True)
    palette = QPalette()
    roles = QPalette.ColorRole
    for role, colour in (
        (roles.Window, theme.ground),
        (roles.WindowText, theme.ink),
        (roles.Base, theme.paper),
        (roles.AlternateBase, theme.ground),
        (roles.Text, theme.ink),
        (roles.Button, theme.paper),
        (roles.ButtonText, theme.ink),
        (roles.Highlight, theme.accent),
        (roles.HighlightedText, theme.paper),
        (roles.ToolTipBase, theme.paper),
        (roles.ToolTipText, theme.ink),
        (roles.PlaceholderText, theme.second),
    ):
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)
    app.setFont(figures(13))
    app.setStyleSheet(_sheet(theme))


def _sheet(t: Theme) -> str:
    return f"""
    QMainWindow, QMenuBar, QStatusBar {{ background: {t.ground}; color: {t.ink}; }}
    QMenuBar::item {{ padding: 4px 10px; }}
    QMenuBar::item:selected, QMenu::item:selected {{ background: {t.accent}; color: {t.paper}; }}
    QMenu {{ background: {t.paper}; color: {t.ink}; border: 1px solid {t.rule}; }}
    QMenu::item:disabled {{ background: {t.paper}; color: {t.second}; }}
    QFrame#panel {{ background: {t.paper}; border: 1px solid {t.rule}; border-radius: 4px; }}
    QLabel#question {{ font-size: 17px; font-weight: 600; color: {t.ink}; }}
    QLabel#small, QLabel#why {{ color: {t.second}; font-size: 11px; }}
    QPushButton#small {{ color: {t.second}; font-size: 11px; }}
    QLabel#heading {{ color: {t.second}; font-size: 11px; font-weight: 600; }}
    QLabel#value {{ font-weight: 600; }}
    QLabel#note {{ color: {t.bad}; font-size: 12px; }}
    QLabel#decide {{ color: {t.accent}; font-size: 11px; font-weight: 600; }}
    QFrame#rule {{ background: {t.rule}; }}
    QWidget#inside, QScrollArea {{ background: transparent; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.rule}; border-radius: 3px; min-height: 30px; margin: 1px; }}
    QScrollBar::handle:vertical:hover {{ background: {t.second}; }}
    QScrollBar::add-line:vertical, QScrollBar::sub-line:vertical {{ height: 0; }}
    QScrollBar::add-page:vertical, QScrollBar::sub-page:vertical {{ background: transparent; }}
    QFrame#sheet {{ background: {t.paper}; border: 1.5px solid {t.accent}; border-radius: 4px; }}
    QLabel#trying {{ color: {t.accent}; font-weight: 600; font-size: 12px; }}
    QToolButton#fold {{ border: none; padding: 3px 0; color: {t.second}; font-size: 10px;
        font-weight: 600; background: transparent; }}
    QToolButton#fold:focus, QToolButton#fold:hover {{ color: {t.accent}; }}
    QLineEdit#in-place {{ border: 1.5px solid {t.accent}; border-radius: 3px; padding: 0 5px; background: {t.paper};
        color: {t.ink}; }}
    QLineEdit#in-place[wrong="true"] {{ border-color: {t.bad}; color: {t.bad}; }}
    QPushButton#quiet {{ border: none; color: {t.second}; font-size: 11px; padding: 2px 4px; background: transparent; }}
    QPushButton#quiet:hover, QPushButton#quiet:focus {{ color: {t.accent}; }}
    QPushButton#remark {{ border: none; background: transparent; color: {t.bad}; font-size: 12px; text-align: left;
        padding: 2px 2px; }}
    QPushButton#remark:hover, QPushButton#remark:focus {{ color: {t.accent}; }}
    QPushButton#mend {{ padding: 1px 8px; font-size: 12px; border-color: {t.accent}; }}
    QLabel#hint {{ color: {t.second}; font-size: 14px; padding: 6px 0; }}
    QPushButton, QToolButton {{ background: {t.paper}; border: 1px solid {t.rule}; border-radius: 4px; padding: 4px 12px; }}
    QPushButton:hover, QToolButton:hover {{ border-color: {t.accent}; }}
    QPushButton:focus, QToolButton:focus, QLineEdit:focus, QTableView:focus {{ border: 1px solid {t.accent}; }}
    QComboBox:focus, QAbstractSpinBox:focus, QCheckBox:focus, QRadioButton:focus {{ color: {t.accent}; }}
    QRadioButton::indicator, QCheckBox::indicator {{ width: 11px; height: 11px; border: 1px solid {t.second};
        background: {t.paper}; }}
    QRadioButton::indicator {{ border-radius: 6px; }}
    QRadioButton::indicator:checked, QCheckBox::indicator:checked {{ width: 5px; height: 5px; border: 4px solid {t.accent}; }}
    QPushButton:disabled {{ color: {t.second}; }}
    QLineEdit {{ background: {t.paper}; border: 1px solid {t.rule}; border-radius: 3px; padding: 3px 6px; }}
    QLabel#small[fault="true"] {{ color: {t.bad}; }}
    QLineEdit[fault="true"] {{ border: 1px solid {t.bad}; }}
    QTableView {{ background: {t.paper}; border: 1px solid {t.rule}; gridline-color: {t.rule};
        selection-background-color: {t.accent}; selection-color: {t.paper}; alternate-background-color: {t.ground}; }}
    QHeaderView::section {{ background: {t.ground}; color: {t.second}; border: none; padding: 4px 6px; font-size: 11px; }}
    QTableCornerButton::section {{ background: {t.ground}; border: none; }}
    QTabBar::tab {{ background: {t.ground}; color: {t.second}; border: 1px solid {t.rule}; padding: 4px 12px; }}
    QTabBar::tab:selected {{ background: {t.paper}; color: {t.ink}; border-bottom: 2px solid {t.accent}; }}
    QTabWidget::pane {{ border: none; }}
    QListWidget {{ background: transparent; border: none; outline: none; }}
    QStatusBar QLabel {{ color: {t.second}; padding-left: 10px; }}
    QStatusBar QToolButton {{ color: {t.second}; border: none; background: transparent; padding: 3px 18px; }}
    """
