"""A thread of its own that renders the planked hull: the newest picture asked for wins, the window never waits."""

from __future__ import annotations

import threading
from dataclasses import dataclass

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage

from ...drawing.planking.mesh import HullMesh
from ..window.theme import Theme


@dataclass(frozen=True)
class Look:
    """What is to be seen: a mesh with one strip marked, from a bearing and a height (degrees), moved by shares of its size, in
    a picture so many pixels large."""

    mesh: HullMesh
    theme: Theme
    marked: int
    width: int
    height: int
    bearing: float
    above: float
    zoom: float
    shift: tuple[float, float]
    smooth: bool


class HullPainter(QObject):
    """`painted` carries a QImage, in the thread this object lives in. Rendering lets other threads run meanwhile."""

    painted = Signal(object)

    def __init__(self, renderer: str, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._renderer = renderer
        self._changed = threading.Condition()
        self._asked: Look | None = None
        self._busy = self._closed = False
        self._last: QImage | None = None
        self._thread = threading.Thread(target=self._run, name="hull-painter", daemon=True)
        self._thread.start()

    def ask(self, look: Look) -> None:
        """Paint this next; what was asked for and not begun is forgotten."""
        with self._changed:
            self._asked = look
            self._changed.notify_all()

    def wait(self) -> QImage | None:
        """Block until everything asked for is painted; the last picture."""
        with self._changed:
            self._changed.wait_for(lambda: not self._thread.is_alive() or (self._asked is None and not self._busy), 30)
            return self._last

    def close(self) -> None:
        """End the thread and give back the renderer's memory."""
        with self._changed:
            self._closed = True
            self._changed.notify_all()
        self._thread.join()

    def _run(self) -> None:
        from .vtk_scene import HullScene  # a renderer belongs to the thread it was made in

        scene = HullScene(self._renderer)
        try:
            while (look := self._next()) is not None:
                scene.show(look.mesh, look.theme, look.marked)
                picture = scene.picture(
                    look.width, look.height, look.bearing, look.above, look.zoom, look.shift, smooth=look.smooth
                )
                with self._changed:
                    self._last, self._busy = picture, False
                    self._changed.notify_all()
                self.painted.emit(picture)
        finally:
            scene.close()

    def _next(self) -> Look | None:
        with self._changed:
            self._changed.wait_for(lambda: self._asked is not None or self._closed)
            look, self._asked = self._asked, None
            self._busy = not self._closed
            return None if self._closed else look
