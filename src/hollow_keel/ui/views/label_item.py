"""A text of a drawing: of constant size on screen, on a backing box so that lines never strike it through."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPen
from PySide6.QtWidgets import QGraphicsItem, QWidget

from ...drawing.model import Label
from ...drawing.placing import Placed, box_of
from ..decide.dotted import dotted_pen
from ..window.theme import Theme, figures, layer_look

KEY = 0
SIDE = 3.0


class LabelItem(QGraphicsItem):
    """Words, and in them the value that is decided, strong and with a dotted line under it."""

    def __init__(self, label: Label, theme: Theme, larger: float = 1.0) -> None:
        super().__init__()
        self.label, self.theme = label, theme
        self._font = figures(round(larger * (13 if label.strong else 11)), strong=label.strong)
        self._strong = figures(round(larger * 12), strong=True)
        look = layer_look(theme, label.layer)
        self._colour, self._ink = QColor(look.colour), QColor(theme.ink)
        self._back = QColor(theme.paper)
        self._back.setAlpha(225)
        metrics, strong = QFontMetricsF(self._font), QFontMetricsF(self._strong)
        before, self.value, after = label.text.partition(label.value) if label.value else (label.text, "", "")
        self._parts: list[tuple[str, float, bool]] = []
        """Texts, where each begins, and whether it is the value."""
        at = SIDE
        for text, is_value in ((before, False), (self.value, True), (after, False)):
            if text:
                self._parts.append((text, at, is_value))
                at += (strong if is_value else metrics).horizontalAdvance(text)
        self.size = (at + SIDE, max(metrics.height(), strong.height() if label.value else 0.0))
        left, top, right, bottom = box_of(label, self.size)
        self._box = QRectF(left, top, right - left, bottom - top)
        self._leader = False
        self.chosen = False
        self.setFlag(QGraphicsItem.GraphicsItemFlag.ItemIgnoresTransformations)
        self.setPos(label.at[0], -label.at[1])
        self.setZValue(10)
        self.setData(KEY, label.key)

    @property
    def box(self) -> QRectF:
        """The text's box by its own point, pixels."""
        return self._box

    def put(self, placed: Placed | None) -> None:
        """Where it stands; None: nowhere for want of room."""
        self.setVisible(placed is not None)
        if placed is not None:
            self.prepareGeometryChange()
            self._box = QRectF(placed.left, placed.top, *self.size)
            self._leader = placed.leader

    def value_box(self) -> QRectF:
        """The box of the value alone."""
        for k, (_, at, is_value) in enumerate(self._parts):
            if is_value:
                end = self._parts[k + 1][1] if k + 1 < len(self._parts) else self.size[0] - SIDE
                return QRectF(self._box.left() + at, self._box.top(), end - at, self._box.height())
        return self._box

    def boundingRect(self) -> QRectF:
        own = self._box.adjusted(-2, -2, 2, 2)
        return own.united(QRectF(-1, -1, 2, 2)) if self._leader else own

    def paint(self, painter: QPainter, _option: object, _widget: QWidget | None = None) -> None:
        if self._leader:
            painter.setPen(QPen(self._colour, 0.7))
            painter.drawLine(QPointF(0, 0), self._nearest())
        painter.fillRect(self._box, self._back)
        base = self._box.top() + (self._box.height() + QFontMetricsF(self._font).ascent()) / 2 - 1.5
        for text, at, is_value in self._parts:
            painter.setFont(self._strong if is_value else self._font)
            painter.setPen(self._ink if is_value else self._colour)
            painter.drawText(QPointF(self._box.left() + at, base), text)
        if self.value:
            place = self.value_box()
            painter.setPen(dotted_pen(self.theme))
            painter.drawLine(QPointF(place.left(), base + 3), QPointF(place.right(), base + 3))
            if self.chosen:
                painter.setPen(QPen(QColor(self.theme.accent), 1.4))
                painter.drawRoundedRect(place.adjusted(-2.5, 0, 2.5, 1.5), 3, 3)

    def _nearest(self) -> QPointF:
        """The point of the box that a leader ends at."""
        x = min(max(0.0, self._box.left()), self._box.right())
        y = min(max(0.0, self._box.top()), self._box.bottom())
        return QPointF(x, y)
