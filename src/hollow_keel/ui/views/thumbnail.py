"""A drawing as a small picture, in a row of a table."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPixmap, QPolygonF

from ...drawing.model import Drawing
from ..window.theme import Theme, layer_look

MARGIN = 2
HAIR = 0.6
"""A line is no wider, in pixels: strips would run together."""


def thumbnail(drawings: tuple[Drawing, ...], theme: Theme, wide: int, high: int) -> QPixmap:
    """Drawings beside each other, each stretched to its own share of so many pixels."""
    picture = QPixmap(wide, high)
    picture.fill(QColor(theme.paper))
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    own = wide // max(len(drawings), 1)
    for number, drawing in enumerate(drawings):
        left, bottom, right, top = drawing.bounds()
        if right <= left or top <= bottom:
            continue
        across, up = (own - 2 * MARGIN) / (right - left), (high - 2 * MARGIN) / (top - bottom)
        for stroke in drawing.strokes:
            look = layer_look(theme, stroke.layer)
            painter.setPen(QPen(QColor(look.colour), min(look.width, HAIR)))
            painter.setBrush(QColor(look.fill) if stroke.filled and look.fill else Qt.BrushStyle.NoBrush)
            places = QPolygonF(
                [
                    QPointF(number * own + MARGIN + (x - left) * across, high - MARGIN - (y - bottom) * up)
                    for x, y in stroke.points.tolist()
                ]
            )
            if stroke.closed:
                painter.drawPolygon(places)
            else:
                painter.drawPolyline(places)
    painter.end()
    return picture
