"""Shows a drawing: pan, zoom, fit (F), measure (M), pick; lines by what they are for."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QPoint, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPen, QPolygonF, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QGraphicsPathItem, QGraphicsScene, QGraphicsView, QWidget

from ...app.deciding import record_of, value_of
from ...app.setting_text import as_given
from ...core.job import Job
from ...core.units import INCHES, LengthStyle, format_length
from ...drawing.model import STRIP_LAYERS, Drawing, Label, Stroke
from ...drawing.placing import Box, Frame, Room, fitted, place
from ..decide.on_drawing import OnDrawing
from ..window.theme import LIGHT, Theme, figures, layer_look, paint_focus
from .label_item import KEY, LabelItem
from .tracing import Tracing

PICK_PIXELS = 6
SMALL = 150
"""Height of a view, in pixels, below which its scale bar stands at the top."""
CROSS_MM = 3.0
"""Half the size of the mark on an offset."""


class DrawingView(QGraphicsView):
    """One drawing. `picked` carries the key of what was clicked; `measured` a distance in mm."""

    picked = Signal(str)
    measured = Signal(float)
    traced = Signal(list)
    """The points (x, y) of a closed curve that was drawn, in the drawing's own lengths."""
    pointed = Signal(float, float)
    """Where a click fell, in the drawing's own lengths."""
    tried = Signal(str, object)
    """A setting that is decided on this drawing, by its path, and the value that it is being given."""
    kept = Signal(str, object)
    """The same, when it is to stay."""
    left = Signal()
    """What was tried is given up."""
    said = Signal(str)
    opened = Signal()
    """Something was clicked twice: its row in the table is wanted."""
    chose = Signal(str)
    """A setting was chosen on the drawing, by its path."""

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
        self.setMouseTracking(True)
        self.setMinimumSize(120, 90)
        self.theme = LIGHT
        self.style_of_lengths = LengthStyle()
        self.drawing = Drawing("", ())
        self.stretch_to_fit = False
        self.has_scale_bar = True
        self.larger = 1.0
        """How much larger than usual texts are."""
        self._marked = ""
        self._labels: list[LabelItem] = []
        self.job = Job()
        """The job that is drawn: what is decided on the drawing is of it."""
        self.room = Room()
        self.under_head, self.over_foot = 0, 0
        """Pixels at the top and the bottom that something of the page lies over: no text stands there."""
        self.deciding = OnDrawing(self)
        self._items: dict[str, list[tuple[QGraphicsPathItem, Stroke]]] = {}
        self._pressed: QPointF | None = None
        self._moved = False
        self._own_zoom = False
        self.measuring = False
        self._measure: list[QPointF] = []
        self.tracing = Tracing(self)
        self._note = ""
        self.last_click = QPoint()
        """Where the view was last clicked, pixels."""

    # -- what is shown ---------------------------------------------------------------------------

    def show_drawing(self, drawing: Drawing, theme: Theme, style: LengthStyle) -> None:
        """Replace the drawing; the view is kept if the builder has zoomed."""
        self.theme, self.style_of_lengths = theme, style
        drawing = replace(drawing, labels=tuple(map(self._as_given, drawing.labels)))
        self.drawing = drawing
        scene = self.scene()
        scene.clear()
        self._items.clear()
        self.setBackgroundBrush(QColor(theme.paper))
        for stroke in drawing.strokes:
            item = self._path_item(stroke)
            scene.addItem(item)
            if stroke.key:
                self._items.setdefault(stroke.key, []).append((item, stroke))
        self._labels = [LabelItem(label, theme, self.larger) for label in drawing.labels]
        for text in self._labels:
            scene.addItem(text)
        self.deciding.show_drawing(drawing, self._labels, theme)
        marked, self._marked = self._marked, ""
        self.mark(marked)
        left, bottom, right, top = drawing.bounds()
        wide, high = right - left, top - bottom
        scene.setSceneRect(QRectF(left - 3 * wide, -top - 3 * high, 7 * wide + 1, 7 * high + 1))
        if self._own_zoom or self.deciding.dragging:
            self.place_texts()
        else:
            self.fit()

    def _as_given(self, label: Label) -> Label:
        """A text whose number stands for a setting does not round that to another length."""
        if not label.decides or not label.value or label.text.count(label.value) != 1:
            return label
        record = record_of(label.decides)
        own = as_given(record, self.setting_now(label.decides), label.value, self.style_of_lengths)
        return replace(label, text=label.text.replace(label.value, own), value=own)

    def items_of(self, key: str) -> list[tuple[QGraphicsPathItem, Stroke]]:
        """The lines that stand for one thing."""
        return self._items.get(key, [])

    @property
    def label_items(self) -> list[LabelItem]:
        """The texts."""
        return self._labels

    def setting_now(self, path: str) -> Any:
        """What the job that is drawn says of a setting."""
        return value_of(path, self.job)

    def focus_beside(self, by: int) -> None:
        """The focus goes on to the next widget, or back."""
        super().focusNextPrevChild(by > 0)

    @property
    def frame(self) -> Frame:
        """How the drawing lies on the screen now."""
        origin = self.viewportTransform().map(QPointF(0.0, 0.0))
        return Frame(self.transform().m11(), self.transform().m22(), origin.x(), origin.y())

    def _covers(self) -> list[Box]:
        wide, high = float(self.viewport().width()), float(self.viewport().height())
        title = 12.0 + 6.5 * len(self.drawing.title)
        return [
            (0.0, 0.0, wide, float(self.under_head)),
            (0.0, high - self.over_foot, wide, high),
            (0.0, self.under_head + 1.0, title, self.under_head + 20.0),
        ]

    def place_texts(self) -> None:
        """Put the texts where they cover nothing at this scale; what is left out comes back nearer by."""
        sizes = {id(item.label): item.size for item in self._labels}
        inside = (2.0, 2.0, self.viewport().width() - 2.0, self.viewport().height() - 2.0)
        found = place(
            [item.label for item in self._labels],
            self.frame,
            lambda label: sizes[id(label)],
            [*self._covers(), *self.deciding.boxes()],
            inside,
        )
        for item, placed in zip(self._labels, found, strict=True):
            item.put(placed)

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
        pen = QPen(QColor(self.theme.accent if marked else look.colour), look.width + (1.2 if marked else 0.0))
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
        port = self.viewport().rect()
        room = Room(65.0, self.room.top, self.room.bottom) if self.stretch_to_fit else self.room
        if port.height() < SMALL:
            room = Room(room.side, min(room.top, 0.18 * port.height()), min(room.bottom, 0.18 * port.height()))
        frame = fitted(self.drawing, port.width(), port.height(), room, stretch=self.stretch_to_fit)
        self.resetTransform()
        self.scale(frame.across, frame.up)
        middle_x, middle_y = port.width() / 2, port.height() / 2
        self.centerOn((middle_x - frame.x) / frame.across, (middle_y - frame.y) / frame.up)
        self.place_texts()

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
        self.place_texts()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self.tracing.key(event):
            return
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
        elif not self.deciding.key(event):
            event.ignore()

    def say(self, note: str) -> None:
        """A note at the foot of the drawing."""
        self._note = note
        self.viewport().update()

    def focusNextPrevChild(self, ahead: bool) -> bool:
        return self.deciding.step(1 if ahead else -1) or super().focusNextPrevChild(ahead)

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
        if not (self.measuring or self.tracing.active) and self.deciding.press(event.position()):
            self._pressed = None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.deciding.move(event.position()):
            return
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
        if self.deciding.release():
            return
        if self._pressed is not None and not self._moved:
            self._click(event.position())
        elif self._moved:
            self.place_texts()
        self._pressed = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.tracing.active:  # its first click has put the last point
            self.tracing.close()
        elif self.deciding.press(event.position()):
            self.deciding.release()
        elif self._key_at(event.position()):
            self.opened.emit()

    def _click(self, at: QPointF) -> None:
        if self.tracing.active:
            self.tracing.click(self.mapToScene(at.toPoint()))
            return
        if self.measuring:
            self._measure.append(self.mapToScene(at.toPoint()))
            if len(self._measure) == 2:
                a, b = self._measure
                distance = math.hypot(a.x() - b.x(), a.y() - b.y())
                self._note = f"{format_length(distance, self.style_of_lengths, unit=True)} between the two points"
                self.measuring = False
                self.measured.emit(distance)
            self.viewport().update()
            return
        if self.deciding.click(at):
            return
        self.last_click = at.toPoint()
        where = self.mapToScene(self.last_click)
        self.pointed.emit(where.x(), -where.y())
        if key := self._key_at(at):
            self.picked.emit(key)

    def _key_at(self, at: QPointF) -> str:
        """What is right under a point, or else what is near it."""
        reach = PICK_PIXELS
        area = QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach).toRect()
        for items in (self.items(at.toPoint()), self.items(area)):
            for item in items:
                if key := item.data(KEY):
                    return str(key)
        return ""

    # -- scale bar and notes ------------------------------------------------------------------------

    def drawForeground(self, painter: QPainter, rect: QRectF | QRect) -> None:
        painter.save()
        painter.resetTransform()
        painter.setFont(figures(11))
        height = self.viewport().height()
        painter.setPen(QColor(self.theme.second))
        painter.drawText(QPointF(12, self.under_head + 15.0), self.drawing.title)
        if self.drawing.strokes and self.has_scale_bar and not self.stretch_to_fit:
            self._scale_bar(painter, height)
        if self._note:
            painter.setPen(QColor(self.theme.accent))
            painter.drawText(QPointF(160, height - max(10.0, self.room.bottom - 22)), self._note)
        if self.hasFocus() and not self.deciding.chosen:
            paint_focus(painter, self.viewport().rect(), self.theme)
        painter.restore()
        self.tracing.paint(painter, QColor(self.theme.accent))
        if len(self._measure) == 2:
            pen = QPen(QColor(self.theme.accent), 2)
            pen.setCosmetic(True)
            painter.setPen(pen)
            painter.drawLine(self._measure[0], self._measure[1])

    def _scale_bar(self, painter: QPainter, height: int) -> None:
        per_pixel = 1.0 / max(self.transform().m11(), 1e-12)
        inches = self.style_of_lengths.unit in INCHES
        unit = 25.4 if inches else 1.0
        steps = (1, 2, 3, 6, 12, 24, 36, 60, 120) if inches else (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
        length = next((s * unit for s in steps if s * unit / per_pixel >= 60), steps[-1] * unit)
        pixels = length / per_pixel
        y, left = float(height - max(12.0, self.room.bottom - 20)), 12.0
        if height < SMALL:  # there is no room below the drawing: beside its title
            y, left = 12.0, 30.0 + painter.fontMetrics().horizontalAdvance(self.drawing.title)
        pen = QPen(QColor(self.theme.second), 1.4)
        painter.setPen(pen)
        painter.drawLine(QPointF(left, y), QPointF(left + pixels, y))
        for x in (left, left + pixels):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.drawText(QPointF(left + 6 + pixels, y + 4), format_length(length, self.style_of_lengths, unit=True))
