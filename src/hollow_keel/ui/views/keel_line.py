"""The hull along the foot of the window: every mold, the current one, true to scale along it; molds are dragged along it."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from ...core.results import Shape
from ...core.units import LengthStyle, format_length, round_to
from ..background.later import later
from ..window.theme import LIGHT, Theme, figures, paint_focus

if TYPE_CHECKING:
    from ...core.molds.stations import Mold

SIDE, TALL = 40, 78
HULL_TOP, HULL_TALL, FOOT = 22, 30, 58
"""Pixels: where the hull begins, how tall it is drawn, where the molds' names are."""
REACH, STIR = 7, 3
"""Pixels: how near a press takes hold of a mold, and how far it must go to move it."""
REST_MS = 70
LEAST_GAP_MM = 5.0
"""Molds are not dragged nearer to each other."""


class KeelLine(QWidget):
    """Emits `chosen` with the number (from 0) of the mold that was clicked or stepped to; while one is dragged `tried` and then
    `kept` with the places of all molds along the hull, mm, or `left` if it is given up."""

    chosen = Signal(int)
    tried = Signal(object)
    kept = Signal(object)
    left = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(TALL)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Keel line: stations along the hull")
        self.theme = LIGHT
        self.bow_right = False
        self._shape: Shape | None = None
        self._outline, self._ridge = np.zeros((0, 2)), np.zeros((0, 2))
        self._low, self._high = np.zeros(2), np.ones(2)
        self._style = LengthStyle()
        self._current = 0
        self._held: int | None = None
        self._pressed = 0.0
        self._places: list[float] | None = None
        self.setMouseTracking(True)
        self._rest = later(self, REST_MS, self._try)

    def _try(self) -> None:
        if self._places:
            self.tried.emit(tuple(self._places))

    def show_shape(self, shape: Shape | None, current: int, theme: Theme, style: LengthStyle, bow_right: bool) -> None:
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
        self._ridge = np.zeros((0, 2))
        if shape.deck is not None:
            top = shape.deck.surface.panels[-1].surface
            self._ridge = top.points(even, np.ones_like(even))[:, [0, 2]]
        every = np.concatenate([self._outline, self._ridge])
        self._low, self._high = every.min(axis=0), every.max(axis=0)

    def _across(self, x: float) -> float:
        share = (x - self._low[0]) / (self._high[0] - self._low[0])
        if self.bow_right:
            share = 1 - share
        return float(SIDE + share * (self.width() - 2 * SIDE))

    def _down(self, z: float) -> float:
        share = (z - self._low[1]) / max(self._high[1] - self._low[1], 1e-9)
        return float(HULL_TOP + HULL_TALL * (1 - share))

    def _along(self, x: float) -> float:
        """The place along the hull of a pixel, mm."""
        share = (x - SIDE) / max(self.width() - 2 * SIDE, 1)
        if self.bow_right:
            share = 1 - share
        return float(self._low[0] + share * (self._high[0] - self._low[0]))

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.theme.ground))
        if self._shape is None:
            painter.setPen(QColor(self.theme.second))
            painter.setFont(figures(12))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "The keel line appears when the offsets make a hull.")
            return
        self._paint_hull(painter)
        self._paint_stations(painter)
        if self.hasFocus():
            paint_focus(painter, self.rect(), self.theme)

    def _paint_hull(self, painter: QPainter) -> None:
        assert self._shape is not None
        outline = QPolygonF([QPointF(self._across(x), self._down(z)) for x, z in self._outline.tolist()])
        painter.setBrush(QColor(self.theme.paper))
        painter.setPen(QPen(QColor(self.theme.ink), 1.4))
        painter.drawPolygon(outline)
        if len(self._ridge):
            painter.drawPolyline(QPolygonF([QPointF(self._across(x), self._down(z)) for x, z in self._ridge.tolist()]))
        level = self._down(self._shape.waterline)
        painter.setPen(QPen(QColor(self.theme.water), 1.0))
        painter.drawLine(QPointF(SIDE - 24, level), QPointF(self.width() - SIDE + 24, level))
        painter.setPen(QColor(self.theme.second))
        painter.setFont(figures(11))
        left, right = ("stern", "bow") if self.bow_right else ("bow", "stern")
        painter.drawText(QPointF(6, FOOT + 13), left)
        painter.drawText(QRectF(self.width() - 50, FOOT, 44, 16), Qt.AlignmentFlag.AlignRight, right)

    def places(self) -> list[float]:
        """Where the molds stand now, or are being dragged to, mm along the hull."""
        if self._places is not None:
            return self._places
        return [mold.station for mold in self._shape.molds.molds] if self._shape else []

    def _paint_stations(self, painter: QPainter) -> None:
        assert self._shape is not None
        molds = self._shape.molds.molds
        places = self.places()
        at_rest = self._places is None or len(places) != len(molds)
        now = self._current if at_rest else self._held
        for k, station in enumerate(places):
            mold = molds[k] if k < len(molds) else None
            self._paint_mold(painter, self._across(station), mold.name if mold else "", mold, current=k == now)
        if now is not None and now < len(places):
            self._say_place(painter, now, places)

    def _paint_mold(self, painter: QPainter, x: float, name: str, mold: Mold | None, *, current: bool) -> None:
        painter.setFont(figures(11, strong=current))
        painter.setPen(QPen(QColor(self.theme.accent if current else self.theme.second), 3.0 if current else 1.0))
        top = HULL_TOP - 3.0 if current or mold is None else self._down(float(mold.edge.sheer[1]))
        painter.drawLine(QPointF(x, top), QPointF(x, FOOT - 1))
        box = QRectF(x - 13, FOOT, 26, 16)
        if current:
            painter.setBrush(QColor(self.theme.accent if self._held is not None else self.theme.paper))
            painter.setPen(QPen(QColor(self.theme.accent), 1.8))
            painter.drawEllipse(QPointF(x, HULL_TOP - 4.0), 4.5, 4.5)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(self.theme.accent))
            painter.drawRoundedRect(box, 3, 3)
            painter.setPen(QColor(self.theme.paper))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)

    def _say_place(self, painter: QPainter, k: int, places: list[float]) -> None:
        """Where the current mold stands, and how far its neighbours are."""
        assert self._shape is not None

        def write(mm: float) -> str:
            return format_length(mm, self._style)

        name = self._shape.molds.molds[k].name if k < len(self._shape.molds.molds) else ""
        text = f"mold {name} at {format_length(places[k], self._style, unit=True)}"
        sides = [f"{write(places[k] - places[k - 1])} from the one before"] if k else []
        sides += [f"{write(places[k + 1] - places[k])} to the next"] if k + 1 < len(places) else []
        text = " · ".join([text, *sides])
        painter.setFont(figures(11))
        painter.setPen(QColor(self.theme.ink))
        wide = painter.fontMetrics().horizontalAdvance(text) + 4
        left = min(max(self._across(places[k]) - wide / 2, 4), self.width() - wide - 4)
        painter.drawText(QRectF(left, 0, wide, 15), Qt.AlignmentFlag.AlignCenter, text)

    def _mold_at(self, x: float) -> int | None:
        """The mold that a press near a pixel takes hold of."""
        gaps = [abs(self._across(station) - x) for station in self.places()]
        k = int(np.argmin(gaps)) if gaps else 0
        return k if gaps and gaps[k] <= REACH else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._shape is None or not self._shape.molds.molds:
            return
        self.setFocus()
        x = event.position().x()
        gaps = [abs(self._across(m.station) - x) for m in self._shape.molds.molds]
        self.chosen.emit(int(np.argmin(gaps)))
        self._held, self._pressed = self._mold_at(x), x

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        x = event.position().x()
        if self._held is None or not event.buttons():
            over = self._shape is not None and self._mold_at(x) is not None
            self.setCursor(Qt.CursorShape.SizeHorCursor if over else Qt.CursorShape.ArrowCursor)
            return
        if self._places is None and abs(x - self._pressed) < STIR:
            return
        if self._places is None:
            self._places = self.places()
        self._drag(self._held, self._along(x))

    def _drag(self, k: int, station: float) -> None:
        """Mold k to a place at the job's rounding, between its neighbours and within the hull."""
        assert self._places is not None
        low = self._places[k - 1] + LEAST_GAP_MM if k else float(self._low[0])
        high = self._places[k + 1] - LEAST_GAP_MM if k + 1 < len(self._places) else float(self._high[0])
        snapped = round_to(station, self._style.step_mm)
        self._places[k] = min(max(snapped, low), high)
        self._rest.start()
        self.update()

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._rest.stop()
        places, self._places, self._held = self._places, None, None
        if places is not None:
            self.kept.emit(tuple(places))
        self.update()

    def give_up(self) -> None:
        """The mold goes back where it was."""
        self._rest.stop()
        if self._places is not None:
            self._places = self._held = None
            self.left.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._places is not None:
            self.give_up()
            return
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None or self._shape is None:
            event.ignore()
            return
        if self.bow_right:
            step = -step
        self.chosen.emit(min(max(self._current + step, 0), len(self._shape.molds.molds) - 1))
