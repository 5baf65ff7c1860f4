"""The hull along the foot of the window: every station, the current one, true to scale along its length."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ..theme import LIGHT, Theme, figures

SIDE = 46


class KeelLine(QWidget):
    """Emits `chosen` with the number (from 0) of the mold that was clicked or stepped to."""

    chosen = Signal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(118)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Keel line: stations along the hull")
        self.theme = LIGHT
        self.bow_right = False
        self._shape: Shape | None = None
        self._outline = np.zeros((0, 2))
        self._low, self._high = np.zeros(2), np.ones(2)
        self._style = LengthStyle()
        self._current = 0

    def show_shape(
        self, shape: Shape | None, current: int, theme: Theme, style: LengthStyle, bow_right: bool
    ) -> None:
        """What to show; `current` is the number of the mold that is marked."""
        if shape is not None and shape is not self._shape:
            self._measure_shape(shape)
        shown = (self._current, self.theme, self._style, self.bow_right)
        wanted = (current, theme, style, bow_right)
        if shape is self._shape and shown == wanted:
            return
        self._shape = shape
        self._current, self.theme, self._style, self.bow_right = wanted
        self.update()

    def _measure_shape(self, shape: Shape) -> None:
        """The outline (n, 2) along and up, and its extent; once a shape, not once a paint."""
        even = np.linspace(0, 1, 41)
        panels = shape.hull.panels
        low, high = panels[0].surface, panels[-1].surface
        parts = [low.points(even, np.zeros_like(even))]
        parts += [p.surface.points(np.ones_like(even), even) for p in panels]
        parts += [high.points(even[::-1], np.ones_like(even))]
        parts += [p.surface.points(np.zeros_like(even), even[::-1]) for p in reversed(panels)]
        self._outline = np.concatenate(parts)[:, [0, 2]]
        self._low, self._high = self._outline.min(axis=0), self._outline.max(axis=0)

    def _across(self, x: float) -> float:
        share = (x - self._low[0]) / (self._high[0] - self._low[0])
        if self.bow_right:
            share = 1 - share
        return float(SIDE + share * (self.width() - 2 * SIDE))

    def _down(self, z: float) -> float:
        return float(84 - (z - self._low[1]) / max(self._high[1] - self._low[1], 1e-9) * 54)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.theme.ground))
        if self._shape is None:
            painter.setPen(QColor(self.theme.second))
            painter.setFont(figures(12))
            painter.drawText(
                self.rect(),
                Qt.AlignmentFlag.AlignCenter,
                "The keel line appears when the offsets make a hull.",
            )
            return
        self._paint_hull(painter)
        self._paint_stations(painter)

    def _paint_hull(self, painter: QPainter) -> None:
        assert self._shape is not None
        outline = QPolygonF([QPointF(self._across(x), self._down(z)) for x, z in self._outline.tolist()])
        painter.setBrush(QColor(self.theme.paper))
        painter.setPen(QPen(QColor(self.theme.ink), 1.4))
        painter.drawPolygon(outline)
        level = self._down(self._shape.waterline)
        painter.setPen(QPen(QColor(self.theme.water), 1.0))
        painter.drawLine(QPointF(SIDE - 24, level), QPointF(self.width() - SIDE + 24, level))
        painter.setPen(QColor(self.theme.second))
        painter.setFont(figures(11))
        left, right = ("stern", "bow") if self.bow_right else ("bow", "stern")
        painter.drawText(QPointF(8, 104), left)
        painter.drawText(QRectF(self.width() - 60, 92, 52, 16), Qt.AlignmentFlag.AlignRight, right)

    def _paint_stations(self, painter: QPainter) -> None:
        assert self._shape is not None
        painter.setFont(figures(11))
        for k, mold in enumerate(self._shape.molds.molds):
            x = self._across(mold.station)
            now = k == self._current
            pen = QPen(QColor(self.theme.accent if now else self.theme.second), 3.0 if now else 1.0)
            painter.setPen(pen)
            top = 22.0 if now else self._down(float(mold.edge.sheer[1]))
            painter.drawLine(QPointF(x, top), QPointF(x, 88))
            box = QRectF(x - 14, 90, 28, 17)
            if now:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor(self.theme.accent))
                painter.drawRoundedRect(box, 3, 3)
                painter.setPen(QColor(self.theme.paper))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, mold.name)
            if now:
                painter.setPen(QColor(self.theme.ink))
                text = (
                    f"mold {mold.name} · {format_length(mold.station, self._style, unit=True)} along the hull"
                )
                wide = painter.fontMetrics().horizontalAdvance(text) + 4
                left = min(max(x - wide / 2, 4), self.width() - wide - 4)
                painter.drawText(QRectF(left, 3, wide, 16), Qt.AlignmentFlag.AlignCenter, text)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._shape is None or not self._shape.molds.molds:
            return
        gaps = [abs(self._across(m.station) - event.position().x()) for m in self._shape.molds.molds]
        self.chosen.emit(int(np.argmin(gaps)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None or self._shape is None:
            event.ignore()
            return
        if self.bow_right:
            step = -step
        self.chosen.emit(min(max(self._current + step, 0), len(self._shape.molds.molds) - 1))
