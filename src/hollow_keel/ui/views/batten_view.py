"""A batten on its ducks: drag a duck, double-click to loose or hold it; the comb shows the curvature."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from ...app.batten_state import BattenState
from ...core.geometry.arrays import Array
from ...core.units import LengthStyle, format_length
from ..window.theme import LIGHT, Theme, figures

SIDE, TOP, BOTTOM = 46.0, 30.0, 34.0
COMB_PIXELS = 46.0
DUCK = 6.0
REACH = 13.0


class BattenView(QWidget):
    """Shows a BattenState. `dragged` while a duck is moved, `settled` when the hand lets go or a key was pressed."""

    dragged = Signal()
    settled = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("Batten on its ducks")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(300, 120)
        self.theme: Theme = LIGHT
        self.style_of_lengths = LengthStyle()
        self.batten: BattenState | None = None
        self.current = 0
        self.name = ""
        self._low, self._high = 0.0, 1.0
        self._held: int | None = None

    def show_batten(self, batten: BattenState | None, name: str, theme: Theme, style: LengthStyle) -> None:
        """What to show; the scale is kept while the same line is worked on."""
        if batten is not self.batten and batten is not None:
            low, high = float(batten.line.values.min()), float(batten.line.values.max())
            room = max(0.12 * (high - low), 8.0)
            self._low, self._high = low - room, high + room
            self.current = min(self.current, len(batten.line.at) - 1)
        self.batten, self.name, self.theme, self.style_of_lengths = batten, name, theme, style
        self.update()

    # -- places ------------------------------------------------------------------------------------

    def _across(self, at: Array | float) -> Array:
        assert self.batten is not None
        first, last = self.batten.line.at[0], self.batten.line.at[-1]
        found: Array = SIDE + (np.asarray(at) - first) / (last - first) * (self.width() - 2 * SIDE)
        return found

    def _down(self, value: Array | float) -> Array:
        room = self.height() - TOP - BOTTOM
        return TOP + (self._high - np.asarray(value)) / (self._high - self._low) * room

    def value_at(self, y: float) -> float:
        """The value, mm, at a height of the view."""
        room = self.height() - TOP - BOTTOM
        return self._high - (y - TOP) / room * (self._high - self._low)

    def duck_place(self, duck: int) -> QPointF:
        """Where a duck is drawn."""
        assert self.batten is not None
        return QPointF(float(self._across(self.batten.line.at[duck])), float(self._down(self._shown()[duck])))

    def _shown(self) -> Array:
        """Values at which ducks are drawn: loose ones lie on the batten."""
        assert self.batten is not None
        return np.where(self.batten.held, self.batten.values, self.batten.sprung.on_ducks)

    # -- painting ----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        painter.setFont(figures(11))
        if self.batten is None:
            painter.setPen(QColor(self.theme.second))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "No line to spring a batten along.")
            return
        sprung = self.batten.sprung
        x, y = self._across(sprung.at), self._down(sprung.value)
        self._paint_comb(painter, x, y, sprung.curvature)
        if self.batten.changed:
            before = self.batten.before
            pen = QPen(QColor(self.theme.second), 1.0)
            pen.setDashPattern([3, 3])
            painter.setPen(pen)
            painter.drawPolyline(_polyline(self._across(before.at), self._down(before.value)))
        painter.setPen(QPen(QColor(self.theme.ink), 2.0))
        painter.drawPolyline(_polyline(x, y))
        self._paint_turns(painter, sprung.turns, y)
        self._paint_ducks(painter)
        self._paint_words(painter)

    def _paint_comb(self, painter: QPainter, x: Array, y: Array, curvature: Array) -> None:
        most = float(np.abs(curvature).max())
        if most <= 1e-12:
            return
        tip = y - COMB_PIXELS * curvature / most
        painter.setPen(QPen(QColor(self.theme.water), 0.8))
        for k in range(0, len(x), 3):
            painter.drawLine(QPointF(x[k], y[k]), QPointF(x[k], tip[k]))
        painter.drawPolyline(_polyline(x, tip))

    def _paint_turns(self, painter: QPainter, turns: tuple[float, ...], y: Array) -> None:
        assert self.batten is not None
        painter.setPen(QPen(QColor(self.theme.bad), 1.6))
        for at in turns:
            across = float(self._across(at))
            down = float(np.interp(at, self.batten.sprung.at, y))
            for lean in (-5.0, 5.0):
                painter.drawLine(QPointF(across - 5, down - lean), QPointF(across + 5, down + lean))

    def _paint_ducks(self, painter: QPainter) -> None:
        assert self.batten is not None
        moves = self.batten.moves(self.style_of_lengths.step_mm)
        for k in range(len(self.batten.line.at)):
            place = self.duck_place(k)
            now = k == self.current and self.hasFocus()
            painter.setPen(QPen(QColor(self.theme.accent if now else self.theme.ink), 2.0 if now else 1.4))
            painter.setBrush(QColor(self.theme.ink if self.batten.held[k] else self.theme.paper))
            painter.drawEllipse(place, DUCK, DUCK)
            if moves[k]:
                text = f"{'+' if moves[k] > 0 else '−'}{format_length(abs(float(moves[k])), self.style_of_lengths)}"
                painter.setPen(QColor(self.theme.accent))
                box = QRectF(place.x() - 40, place.y() - 26, 80, 16)
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _paint_words(self, painter: QPainter) -> None:
        assert self.batten is not None
        painter.setPen(QColor(self.theme.second))
        painter.drawText(QPointF(10, 16), f"Batten: {self.name}")
        turns = len(self.batten.sprung.turns)
        text = f"× turns from hollow to round {turns} time{'s' if turns > 1 else ''}" if turns else "no turn from hollow to round"
        painter.drawText(QRectF(0, 4, self.width() - 10, 16), Qt.AlignmentFlag.AlignRight, f"{text} · comb: curvature")
        painter.drawText(
            QPointF(10, self.height() - 8), "drag a duck · double-click: loose or hold it · arrow keys: move by the tape's step"
        )
        wide = (self._across(self.batten.line.at[-1]) - SIDE) / (self.batten.line.at[-1] - self.batten.line.at[0])
        high = (self.height() - TOP - BOTTOM) / (self._high - self._low)
        painter.drawText(
            QRectF(0, self.height() - 20, self.width() - 10, 16),
            Qt.AlignmentFlag.AlignRight,
            f"drawn {float(high / wide):.1f} times as high",
        )

    # -- the hand ------------------------------------------------------------------------------------

    def duck_near(self, at: QPointF) -> int | None:
        """The duck under the hand."""
        if self.batten is None:
            return None
        gaps = [(self.duck_place(k) - at).manhattanLength() for k in range(len(self.batten.line.at))]
        best = int(np.argmin(gaps))
        return best if gaps[best] <= REACH else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._held = self.duck_near(event.position())
        if self._held is not None:
            self.current = self._held
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None or self.batten is None or not event.buttons():
            return
        self.batten.drag(self._held, self.value_at(event.position().y()))
        self.update()
        self.dragged.emit()

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.settled.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        duck = self.duck_near(event.position())
        if duck is not None and self.batten is not None:
            self.batten.toggle(duck)
            self.update()
            self.settled.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self.batten is None:
            event.ignore()
            return
        step = self.style_of_lengths.step_mm
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.current = int(np.clip(self.current + (1 if key == Qt.Key.Key_Right else -1), 0, len(self.batten.line.at) - 1))
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            up = step if key == Qt.Key.Key_Up else -step
            self.batten.drag(self.current, float(self._shown()[self.current]) + up)
        elif key == Qt.Key.Key_Space:
            self.batten.toggle(self.current)
        else:
            event.ignore()
            return
        self.update()
        self.settled.emit()


def _polyline(x: Array, y: Array) -> QPolygonF:
    return QPolygonF([QPointF(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)])
