"""The order of work at the left: each stage with a shape and a word for how it stands."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from ..window.next_step import NextStep
from ..window.theme import LIGHT, Theme, figures, paint_focus

ROW = 46
TOP = 34
WIDE, AT, TEXT = 99, 14, 26
"""Pixels: the whole, the middle of the shapes, where words begin."""


HIDDEN = "hidden"
"""The status of a stage that a job has not: its row is left out, but while its page is open."""


class OrderOfWork(QWidget):
    """Rows of (name, status, count); statuses are empty, ready, look, redo, hidden. `chosen` carries the number of a page."""

    chosen = Signal(int)
    next_chosen = Signal(str)
    """The page of what is to be done next was clicked."""

    def __init__(self, names: list[str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(WIDE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Order of work")
        self.theme = LIGHT
        self.names = names
        self.statuses = [("empty", 0)] * len(names)
        self.shown = list(range(len(names)))
        self.current = 0
        self.next_step: NextStep | None = None

    def sizeHint(self) -> QSize:
        return QSize(WIDE, TOP + ROW * len(self.shown))

    def show_statuses(self, statuses: list[tuple[str, int]], current: int, theme: Theme) -> None:
        """How each stage stands and which page is open."""
        if (statuses, current, theme) == (self.statuses, self.current, self.theme):
            return
        self.statuses, self.current, self.theme = statuses, current, theme
        self.shown = [k for k, (status, _) in enumerate(statuses) if status != HIDDEN or k == current]
        self.setAccessibleDescription(", ".join(f"{self.names[k]}: {statuses[k][0]}" for k in self.shown))
        self.update()

    def show_next(self, step: NextStep) -> None:
        """What has to be done next, and why, below the stages."""
        if step != self.next_step:
            self.next_step = step
            self.setToolTip(f"Next: {step.what}, {step.why}.")
            self.update()

    def _next_box(self) -> QRectF:
        top = TOP + ROW * len(self.shown) + 16
        return QRectF(6, top, WIDE - 10, max(self.height() - top - 6, 0))

    def _paint_next(self, painter: QPainter) -> None:
        step, t = self.next_step, self.theme
        box = self._next_box()
        if step is None or box.height() < 60:
            return
        flags = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)
        painter.setPen(QColor(t.rule))
        painter.drawLine(QPointF(box.left(), box.top() - 6), QPointF(box.right(), box.top() - 6))
        at = box.top()
        for text, size, strong, colour in (
            ("NEXT", 10, True, t.accent),
            (step.what, 12, True, t.ink),
            (step.why, 11, False, t.second),
        ):
            painter.setFont(figures(size, strong=strong))
            painter.setPen(QColor(colour))
            room = QRectF(box.left(), at, box.width(), max(box.bottom() - at, 0))
            at = painter.boundingRect(room, flags, text).bottom() + 4
            painter.drawText(room, flags, text)

    def paintEvent(self, _event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(figures(10, strong=True))
        painter.setPen(QColor(t.second))
        painter.drawText(8, 20, "ORDER OF WORK")
        if len(self.shown) > 1:
            painter.setPen(QPen(QColor(t.rule), 2))
            painter.drawLine(AT, TOP + ROW // 2, AT, TOP + ROW * (len(self.shown) - 1) + ROW // 2)
        for row, k in enumerate(self.shown):
            self._row(painter, row, k)
        self._paint_next(painter)
        if self.hasFocus():
            paint_focus(painter, self.rect(), t)

    def _row(self, painter: QPainter, row: int, k: int) -> None:
        name, (status, count) = self.names[k], self.statuses[k]
        status = "none" if status == HIDDEN else status
        t = self.theme
        y = TOP + row * ROW
        if k == self.current:
            painter.setPen(QPen(QColor(t.rule), 1))
            painter.setBrush(QColor(t.paper))
            painter.drawRoundedRect(QRectF(1, y + 2, WIDE - 2, ROW - 4), 4, 4)
            painter.fillRect(QRectF(1, y + 6, 3, ROW - 12), QColor(t.accent))
        colour = {"ready": t.good, "look": t.accent, "redo": t.bad}.get(status, t.second)
        self._shape(painter, status, AT, y + ROW / 2, QColor(colour))
        painter.setPen(QColor(t.ink))
        painter.setFont(figures(13, strong=k == self.current))
        painter.drawText(TEXT, y + 20, name)
        painter.setPen(QColor(colour))
        painter.setFont(figures(11))
        painter.drawText(TEXT, y + 36, f"{status} · {count}" if count else status)

    def _shape(self, painter: QPainter, status: str, x: float, y: float, colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.6))
        painter.setBrush(colour if status not in ("empty", "none") else QColor(self.theme.ground))
        if status == "look":
            painter.drawPolygon(QPolygonF([QPointF(x, y - 6), QPointF(x + 7, y + 5), QPointF(x - 7, y + 5)]))
        elif status == "redo":
            painter.drawRect(QRectF(x - 5, y - 5, 10, 10))
        else:
            painter.drawEllipse(QRectF(x - 5.5, y - 5.5, 11, 11))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = int((event.position().y() - TOP) // ROW)
        if 0 <= row < len(self.shown):
            self.chosen.emit(self.shown[row])
        elif self.next_step is not None and self._next_box().contains(event.position()):
            self.next_chosen.emit(self.next_step.page)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is None:
            event.ignore()
        elif self.current in self.shown and 0 <= self.shown.index(self.current) + step < len(self.shown):
            self.chosen.emit(self.shown[self.shown.index(self.current) + step])
