"""Drawing a closed curve on a drawing, point by point."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPen

if TYPE_CHECKING:
    from .drawing_view import DrawingView

HOW = "click round it; Enter or a double click closes it, Backspace takes a point back, Esc leaves it"
LEAST_POINTS = 3


class Tracing:
    """The points of a curve as they are clicked; the view's `traced` carries them when it is closed."""

    def __init__(self, view: DrawingView) -> None:
        self._view = view
        self.active = False
        self.points: list[QPointF] = []

    def begin(self) -> None:
        """Every click from now on is a point."""
        self.active, self.points = True, []
        self._view.say(HOW)
        self._view.setFocus()

    def leave(self) -> None:
        """Give it up."""
        self.active, self.points = False, []
        self._view.say("")

    def click(self, at: QPointF) -> None:
        """One more point of the scene."""
        self.points.append(at)
        self._view.viewport().update()

    def close(self) -> None:
        """The curve is done, if there is one."""
        if len(self.points) < LEAST_POINTS:
            self._view.said.emit("Three points or more make a curve: click on.")
            return
        points = [(p.x(), -p.y()) for p in self.points]
        self.leave()
        self._view.traced.emit(points)

    def key(self, event: QKeyEvent) -> bool:
        """Whether a key meant anything to it."""
        if not self.active:
            return False
        if event.key() == Qt.Key.Key_Escape:
            self.leave()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close()
        elif event.key() == Qt.Key.Key_Backspace and self.points:
            self.points.pop()
            self._view.viewport().update()
        else:
            return False
        return True

    def paint(self, painter: QPainter, colour: QColor) -> None:
        """The curve so far, in the scene."""
        if not self.points:
            return
        pen = QPen(colour, 2)
        pen.setCosmetic(True)
        painter.setPen(pen)
        for a, b in zip(self.points, [*self.points[1:], self.points[0]], strict=True):
            painter.drawLine(a, b)
        pen.setWidth(7)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        for point in self.points:
            painter.drawPoint(point)
