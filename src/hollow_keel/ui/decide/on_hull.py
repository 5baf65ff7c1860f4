"""A ring on the hull in three dimensions, dragged along one line of space."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QObject, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPen

from ...core.units import LengthStyle, round_to
from ...drawing.planking.decisions import HullRing
from ..background.later import later
from ..window.theme import Theme, figures
from .on_drawing import REST_MS
from .values import written

if TYPE_CHECKING:
    from ..views.hull_view import HullView

RADIUS, REACH = 6.0, 10.0


class HullRingHandle(QObject):
    """What of the hull's picture decides; it asks by the view's signals."""

    def __init__(self, view: HullView) -> None:
        super().__init__(view)
        self._view = view
        self._ring: HullRing | None = None
        self._style = LengthStyle()
        self.held = False
        self._value: float | None = None
        self._rest = later(self, REST_MS, self._try)

    def show(self, ring: HullRing | None, style: LengthStyle) -> None:
        """Another ring, or none; one that is held stays where it was put."""
        self._ring, self._style = ring, style
        if ring is None and self.held:
            self.drop()

    def place(self) -> QPointF | None:
        """Where the ring is seen."""
        if self._ring is None or self._view.mesh is None:
            return None
        value = self._ring.value if self._value is None else self._value
        return self._view.on_screen(self._ring.at + (value - self._ring.value) * self._ring.way)

    def press(self, at: QPointF) -> bool:
        """Whether it was taken hold of."""
        place = self.place()
        self.held = place is not None and max(abs(place.x() - at.x()), abs(place.y() - at.y())) <= REACH
        return self.held

    def move(self, at: QPointF) -> bool:
        """It goes along its line to where the pointer is nearest; whether it is held."""
        place = self.place()
        if not self.held or self._ring is None or place is None:
            over = place is not None and max(abs(place.x() - at.x()), abs(place.y() - at.y())) <= REACH
            self._view.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)
            return False
        base = self._view.on_screen(self._ring.at)
        step = self._view.on_screen(self._ring.at + 100.0 * self._ring.way) - base
        along = np.array([step.x(), step.y()]) / 100.0
        off = np.array([at.x() - base.x(), at.y() - base.y()])
        size = float(along @ along)
        if size > 1e-9:  # seen end on it says nothing
            value = self._ring.value + float(off @ along) / size
            self._value = round_to(value, self._style.step_mm)
            self._rest.start()
            self._view.update()
        return True

    def _try(self) -> None:
        if self.held and self._ring is not None and self._value is not None:
            self._view.tried.emit(self._ring.decides, self._value)

    def release(self) -> bool:
        """It stays where it is; whether it was held."""
        self._rest.stop()
        held, value, self.held, self._value = self.held, self._value, False, None
        if held and value is not None and self._ring is not None:
            self._view.kept.emit(self._ring.decides, value)
        return held

    def drop(self) -> None:
        """It goes back where it was."""
        self._rest.stop()
        self.held, self._value = False, None
        self._view.left.emit()
        self._view.update()

    def paint(self, painter: QPainter, theme: Theme) -> None:
        """The ring with its number."""
        place = self.place()
        if place is None or self._ring is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        value = self._ring.value if self._value is None else self._value
        text = f"master line {written(self._ring.decides, value, self._style)}" if self.held else "master line: drag it"
        painter.setFont(figures(12, strong=self.held))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(text) + 12
        box = QRectF(place.x() + 12, place.y() - 11, wide, 22)
        back = QColor(theme.paper)
        back.setAlpha(225)
        painter.fillRect(box, back)
        painter.setPen(QColor(theme.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        painter.setPen(QPen(QColor(theme.accent), 2.0))
        painter.setBrush(QColor(theme.accent if self.held else theme.paper))
        painter.drawEllipse(place, RADIUS, RADIUS)
