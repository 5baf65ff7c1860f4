"""A ring on a drawing: what is dragged."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QGraphicsItem, QWidget

from ...drawing.model import Ring
from ..window.theme import Theme

RADIUS, REACH = 5.0, 9.0
"""Pixels: as it is drawn, and as far as a press takes hold of it."""


class RingItem(QGraphicsItem):
    """A circle of constant size."""

    def __init__(self, ring: Ring, theme: Theme) -> None:
        super().__init__()
        self.ring, self._theme = ring, theme
        self.held = False
        self.setFlag(QGraphicsItem.GraphicsItemFlag.ItemIgnoresTransformations)
        self.setPos(ring.at[0], -ring.at[1])
        self.setZValue(12)

    def boundingRect(self) -> QRectF:
        return QRectF(-REACH, -REACH, 2 * REACH, 2 * REACH)

    def paint(self, painter: QPainter, _option: object, _widget: QWidget | None = None) -> None:
        painter.setPen(QPen(QColor(self._theme.accent), 1.8))
        painter.setBrush(QColor(self._theme.accent if self.held else self._theme.paper))
        radius = RADIUS + (1.5 if self.held else 0.0)
        painter.drawEllipse(QRectF(-radius, -radius, 2 * radius, 2 * radius))

    def hold(self, held: bool) -> None:
        """Whether it is being dragged or pointed at."""
        if held != self.held:
            self.held = held
            self.update()
