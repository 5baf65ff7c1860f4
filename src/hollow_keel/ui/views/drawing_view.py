"""Shows a drawing: pan, zoom, fit (F), measure (M), pick; lines by what they are for."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)  # fmt: skip
from PySide6.QtWidgets import QGraphicsItem, QGraphicsPathItem, QGraphicsScene, QGraphicsView, QWidget

from ...core.units import INCHES, LengthStyle, format_length
from ...drawing.model import STRIP_LAYERS, Drawing, Label, Stroke
from ...drawing.tidy import importance
from ..theme import LIGHT, Theme, figures, layer_look

KEY = 0
MARGIN = 1.1
PICK_PIXELS = 6
SMALL = 150
"""Height of a view, in pixels, below which its scale bar stands at the top."""
CROSS_MM = 3.0
"""Half the size of the mark on an offset."""


class _LabelItem(QGraphicsItem):
    """A text of constant size on screen, on a backing box so that lines never strike it through."""

    def __init__(self, label: Label, theme: Theme) -> None:
        super().__init__()
        self._text = label.text
        self._font = figures(13 if label.strong else 11, strong=label.strong)
        self._colour = QColor(layer_look(theme, label.layer).colour)
        back = QColor(theme.paper)
        back.setAlpha(215)
        self._back = back
        metrics = QFontMetricsF(self._font)
        width, height = metrics.horizontalAdvance(label.text) + 6, metrics.height()
        left = {"left": 0.0, "middle": -width / 2, "right": -width}[label.anchor]
        top = {-1: 2.0, 0: -height / 2, 1: -height - 2}[label.rise]
        self._box = QRectF(left, top, width, height)
        self.setFlag(QGraphicsItem.GraphicsItemFlag.ItemIgnoresTransformations)
        self.setPos(label.at[0], -label.at[1])
        self.setZValue(10)
        self.setData(KEY, label.key)
        self.importance = importance(label)

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(self, painter: QPainter, _option: object, _widget: QWidget | None = None) -> None:
        painter.setFont(self._font)
        painter.fillRect(self._box, self._back)
        painter.setPen(self._colour)
        painter.drawText(self._box, Qt.AlignmentFlag.AlignCenter, self._text)


class DrawingView(QGraphicsView):
    """One drawing. `picked` carries the key of what was clicked; `measured` a distance in mm."""

    picked = Signal(str)
    measured = Signal(float)
    pointed = Signal(float, float)
    """Where a click fell, in the drawing's own lengths."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setScene(QGraphicsScene(self))
        self.setAccessibleName(name)
        self.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.setFrameShape(QGraphicsView.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.NoAnchor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(120, 90)
        self.theme = LIGHT
        self.style_of_lengths = LengthStyle()
        self.drawing = Drawing("", ())
        self.stretch_to_fit = False
        self.has_scale_bar = True
        self._marked = ""
        self._labels: list[_LabelItem] = []
        self._items: dict[str, list[tuple[QGraphicsPathItem, Stroke]]] = {}
        self._pressed: QPointF | None = None
        self._moved = False
        self._own_zoom = False
        self.measuring = False
        self._measure: list[QPointF] = []
        self._note = ""

    # -- what is shown ---------------------------------------------------------------------------

    def show_drawing(self, drawing: Drawing, theme: Theme, style: LengthStyle) -> None:
        """Replace the drawing; the view is kept if the builder has zoomed."""
        self.drawing, self.theme, self.style_of_lengths = drawing, theme, style
        scene = self.scene()
        scene.clear()
        self._items.clear()
        self.setBackgroundBrush(QColor(theme.paper))
        for stroke in drawing.strokes:
            item = self._path_item(stroke)
            scene.addItem(item)
            if stroke.key:
                self._items.setdefault(stroke.key, []).append((item, stroke))
        self._labels = [_LabelItem(label, theme) for label in drawing.labels]
        self._labels.sort(key=lambda item: item.importance)
        for item in self._labels:
            scene.addItem(item)
        marked, self._marked = self._marked, ""
        self.mark(marked)
        left, bottom, right, top = drawing.bounds()
        wide, high = right - left, top - bottom
        scene.setSceneRect(QRectF(left - 3 * wide, -top - 3 * high, 7 * wide + 1, 7 * high + 1))
        if self._own_zoom:
            self._thin_out()
        else:
            self.fit()

    def _thin_out(self) -> None:
        """Hide what would cover a more important text at this scale; nearer, it comes back."""
        across, down = self.transform().m11(), self.transform().m22()
        shown: list[QRectF] = []
        for item in self._labels:
            at = item.pos()
            place = item.boundingRect().translated(at.x() * across, at.y() * down)
            free = not any(place.intersects(other) for other in shown)
            item.setVisible(free)
            if free:
                shown.append(place.adjusted(2, 2, -2, -2))

    def _path_item(self, stroke: Stroke) -> QGraphicsPathItem:
        path = QPainterPath()
        if stroke.crosses:
            for x, y in stroke.points.tolist():
                for lean in (-CROSS_MM, CROSS_MM):
                    path.moveTo(x - CROSS_MM, -y - lean)
                    path.lineTo(x + CROSS_MM, -y + lean)
        else:
            path.addPolygon(QPolygonF([QPointF(x, -y) for x, y in stroke.points.tolist()]))
        if stroke.closed:
            path.closeSubpath()
        item = QGraphicsPathItem(path)
        item.setData(KEY, stroke.key)
        self._dress(item, stroke, marked=False)
        return item

    def _dress(self, item: QGraphicsPathItem, stroke: Stroke, *, marked: bool) -> None:
        look = layer_look(self.theme, stroke.layer)
        pen = QPen(
            QColor(self.theme.accent if marked else look.colour), look.width + (1.2 if marked else 0.0)
        )
        pen.setCosmetic(True)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        if look.dash:
            pen.setDashPattern(list(look.dash))
        item.setPen(pen)
        if stroke.filled and look.fill:
            fill = QColor(self.theme.accent) if marked and stroke.layer in STRIP_LAYERS else QColor(look.fill)
            item.setBrush(QBrush(fill))
        item.setZValue((0.5 if stroke.filled else 2.0) if marked else (0.0 if stroke.filled else 1.0))

    def mark(self, key: str) -> None:
        """Show one thing as the selected one."""
        if key == self._marked:
            return
        for old, on in ((self._marked, False), (key, True)):
            for item, stroke in self._items.get(old, []):
                self._dress(item, stroke, marked=on)
        self._marked = key

    # -- looking at it -----------------------------------------------------------------------------

    def fit(self) -> None:
        """Show the whole drawing."""
        self._own_zoom = False
        left, bottom, right, top = self.drawing.bounds()
        wide, high = max(right - left, 1e-6), max(top - bottom, 1e-6)
        port = self.viewport().rect()
        side = 130.0 if self.stretch_to_fit else 60.0
        room_x, room_y = (
            max(port.width() - side, 20.0),
            max(port.height() - min(64.0, 0.36 * port.height()), 20.0),
        )
        sx, sy = room_x / wide, room_y / high
        if not self.stretch_to_fit:
            sx = sy = min(sx, sy)
        self.resetTransform()
        self.scale(sx, sy)
        self.centerOn((left + right) / 2, -(bottom + top) / 2)
        self._thin_out()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self._own_zoom:
            self.fit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        factor = 1.0015 ** event.angleDelta().y()
        self.zoom(factor, event.position())
        event.accept()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Nearer or farther about a point of the view (its middle by default)."""
        self._own_zoom = True
        place = at or QPointF(self.viewport().rect().center())
        before = self.mapToScene(place.toPoint())
        self.scale(factor, factor)
        after = self.mapToScene(place.toPoint())
        shift = after - before
        self.translate(shift.x(), shift.y())
        self._thin_out()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F:
            self.fit()
        elif event.key() == Qt.Key.Key_M:
            self.start_measuring()
        elif event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif event.key() == Qt.Key.Key_Minus:
            self.zoom(0.8)
        elif event.key() == Qt.Key.Key_Escape and (self.measuring or self._note):
            self.measuring, self._note, self._measure = False, "", []
            self.viewport().update()
        else:
            event.ignore()

    def start_measuring(self) -> None:
        """The next two picks give a distance."""
        if not self.drawing.true_to_scale:
            self._note = "this drawing is stretched: measure in another"
            self.viewport().update()
            return
        self.measuring, self._measure, self._note = True, [], "measure: pick two points (Esc to leave)"
        self.viewport().update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._pressed, self._moved = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None or not event.buttons():
            return
        step = event.position() - self._pressed
        if not self._moved and step.manhattanLength() < 4:
            return
        self._moved = self._own_zoom = True
        a, b = self.mapToScene(self._pressed.toPoint()), self.mapToScene(event.position().toPoint())
        self.translate((b - a).x(), (b - a).y())
        self._pressed = event.position()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None and not self._moved:
            self._click(event.position())
        self._pressed = None

    def _click(self, at: QPointF) -> None:
        if self.measuring:
            self._measure.append(self.mapToScene(at.toPoint()))
            if len(self._measure) == 2:
                a, b = self._measure
                distance = math.hypot(a.x() - b.x(), a.y() - b.y())
                self._note = (
                    f"{format_length(distance, self.style_of_lengths, unit=True)} between the two points"
                )
                self.measuring = False
                self.measured.emit(distance)
            self.viewport().update()
            return
        place = self.mapToScene(at.toPoint())
        self.pointed.emit(place.x(), -place.y())
        reach = PICK_PIXELS
        area = QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach).toRect()
        for item in self.items(area):
            if key := item.data(KEY):
                self.picked.emit(key)
                return

    # -- scale bar and notes ------------------------------------------------------------------------

    def drawForeground(self, painter: QPainter, _rect: QRectF) -> None:
        painter.save()
        painter.resetTransform()
        painter.setFont(figures(11))
        height = self.viewport().height()
        painter.setPen(QColor(self.theme.second))
        painter.drawText(QPointF(10, 16), self.drawing.title)
        if self.drawing.strokes and self.has_scale_bar and not self.stretch_to_fit:
            self._scale_bar(painter, height)
        if self._note:
            painter.setPen(QColor(self.theme.accent))
            painter.drawText(QPointF(160, height - 10), self._note)
        painter.restore()
        if len(self._measure) == 2:
            pen = QPen(QColor(self.theme.accent), 2)
            pen.setCosmetic(True)
            painter.setPen(pen)
            painter.drawLine(self._measure[0], self._measure[1])

    def _scale_bar(self, painter: QPainter, height: int) -> None:
        per_pixel = 1.0 / max(self.transform().m11(), 1e-12)
        inches = self.style_of_lengths.unit in INCHES
        unit = 25.4 if inches else 1.0
        steps = (
            (1, 2, 3, 6, 12, 24, 36, 60, 120)
            if inches
            else (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
        )
        length = next((s * unit for s in steps if s * unit / per_pixel >= 60), steps[-1] * unit)
        pixels = length / per_pixel
        y, left = float(height - 12), 10.0
        if height < SMALL:  # there is no room below the drawing: beside its title
            y, left = 12.0, 30.0 + painter.fontMetrics().horizontalAdvance(self.drawing.title)
        pen = QPen(QColor(self.theme.second), 1.4)
        painter.setPen(pen)
        painter.drawLine(QPointF(left, y), QPointF(left + pixels, y))
        for x in (left, left + pixels):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.drawText(
            QPointF(left + 6 + pixels, y + 4), format_length(length, self.style_of_lengths, unit=True)
        )
