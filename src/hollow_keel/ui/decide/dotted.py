"""A value with a dotted line under it: click it or press Enter on it, and decide."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from ..window.theme import LIGHT, Theme, figures

FIGURES = "0123456789.-"
"""Typed on a value they begin another."""
PAD, TALL = 3.0, 20
DOTS = (1.2, 2.2)
"""Dash and gap of the dotted line, in its own widths."""


def dotted_pen(theme: Theme) -> QPen:
    """The line under what can be decided."""
    pen = QPen(QColor(theme.accent), 1.3)
    pen.setDashPattern(list(DOTS))
    pen.setCosmetic(True)
    return pen


class Dotted(QAbstractButton):
    """Shows a value at the right of its room, as much of it as there is room for. `begun` carries a figure that was typed on it."""

    begun = Signal(str)

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFont(figures(12, strong=True))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.theme = LIGHT

    def show_value(self, text: str, theme: Theme) -> None:
        """What the setting says now."""
        if text != self.text() or theme is not self.theme:
            self.theme = theme
            self.setText(text)
            self.setToolTip(text)
            self.updateGeometry()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.click()
        elif event.text() and event.text() in FIGURES:
            self.begun.emit(event.text())
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        return QSize(round(QFontMetricsF(self.font()).horizontalAdvance(self.text()) + 2 * PAD) + 1, TALL)

    def minimumSizeHint(self) -> QSize:
        return QSize(40, TALL)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        metrics = QFontMetricsF(self.font())
        text = metrics.elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width() - 2 * PAD)
        wide = metrics.horizontalAdvance(text)
        place = QRectF(self.width() - wide - PAD, 0, wide, self.height() - 2)
        if self.hasFocus():
            painter.setPen(QPen(QColor(self.theme.accent), 1.4))
            painter.drawRoundedRect(place.adjusted(-PAD, 0.5, PAD - 0.7, 1), 3, 3)
        painter.setPen(QColor(self.theme.accent if self.underMouse() else self.theme.ink))
        painter.drawText(place, Qt.AlignmentFlag.AlignCenter, text)
        painter.setPen(dotted_pen(self.theme))
        low = place.bottom() - 1.5
        painter.drawLine(QPointF(place.left(), low), QPointF(place.right(), low))
        painter.end()
