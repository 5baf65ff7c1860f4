"""The planked hull in three dimensions: drag to turn, wheel to near, click a strip."""

from __future__ import annotations

import threading
from collections.abc import Callable
from functools import cache

import numpy as np
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from ...core.units import LengthStyle
from ...drawing.planking.decisions import HullRing
from ...drawing.planking.mesh import FRAME, HullMesh
from ..background.later import later
from ..decide.on_hull import HullRingHandle
from ..window.theme import LIGHT, Theme, figures, paint_focus
from .hull_painter import HullPainter, Look

START = (-122.0, 22.0)
AROUND = 36
"""Pixels left free above and below the hull."""


@cache
def _probe() -> str:
    from .vtk_scene import find_renderer, load_libraries

    renderer = find_renderer()
    if renderer:
        load_libraries()
    return renderer


def _axes(bearing: float, above: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Right, up and towards the eye (unit vectors) for one who looks from a bearing and a height, degrees."""
    a, h = np.radians(bearing), np.radians(above)
    towards = np.array([np.cos(h) * np.cos(a), np.cos(h) * np.sin(a), np.sin(h)])
    right = np.array([-np.sin(a), np.cos(a), 0.0])
    return right, np.cross(towards, right), towards


class HullView(QWidget):
    """Shows a HullMesh. `picked` carries the number of the strip that was clicked."""

    picked = Signal(int)
    probed = Signal(str)
    tried = Signal(str, object)
    kept = Signal(str, object)
    left = Signal()
    """As of a drawing: a ring on the hull is dragged."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("The planked hull in three dimensions")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(160, 120)
        self.theme = LIGHT
        self._make: Callable[[], HullMesh] | None = None
        self._mesh: HullMesh | None = None
        self._tall = 0.0
        self._marked = 0
        self._bearing, self._above = START
        self._zoom, self._shift = 1.0, (0.0, 0.0)
        self._image: QImage | None = None
        self._painter: HullPainter | None = None
        self._renderer: str | None = None
        self._pressed: QPointF | None = None
        self._moved = False
        self._stale = ""
        self.under_head, self.over_foot = 0, 0
        """Pixels at the top and the bottom that something of the page lies over."""
        self.last_click = QPoint()
        self.ring = HullRingHandle(self)
        self.setMouseTracking(True)
        # A quick picture, in a turn of its own so that no turn is long: the drawings beside it are painted first.
        self._soon = later(self, 40, lambda: self._draw(smooth=False))
        self._settle = later(self, 180, lambda: self._draw(smooth=True))
        self.probed.connect(self._know)
        self._asking: threading.Thread | None = None

    def show_hull(
        self, make: Callable[[], HullMesh] | None, theme: Theme, ring: HullRing | None = None, style: LengthStyle | None = None
    ) -> None:
        """Replace the hull; its mesh is made when it is first drawn. A `ring` on it is dragged."""
        self._mesh, self._make, self.theme, self._stale = None, make, theme, ""
        self.ring.show(ring, style or LengthStyle())
        self._soon.start()
        self._settle.start()

    @property
    def mesh(self) -> HullMesh | None:
        """The hull that is shown."""
        if self._mesh is None and self._make is not None:
            self._mesh = self._make()
            if len(self._mesh.points):
                self._tall = float(np.ptp(self._mesh.points @ _axes(*START)[1]))
        return self._mesh

    def mark(self, strip: int) -> None:
        """Show one strip as the selected one."""
        if strip != self._marked:
            self._marked = strip
            self._soon.start()
            self._settle.start()

    def set_stale(self, why: str) -> None:
        """Grey the picture until the new one arrives, and say why; the old one is not drawn smoothly any more."""
        self._stale = why
        self._settle.stop()
        self.update()

    def set_view(self, bearing: float, above: float) -> None:
        """Turn the hull to a bearing and a height, degrees."""
        self._bearing, self._above, self._zoom, self._shift = bearing, above, 1.0, (0.0, 0.0)
        self._draw(smooth=True)

    def wait_until_known(self) -> None:
        """Block until it is known whether this machine can render (for pictures of the page)."""
        if self._renderer is None:
            self._know(_probe())
        self.wait_until_painted()

    # -- drawing ------------------------------------------------------------------------------------

    def _know(self, renderer: str) -> None:
        self._renderer = renderer
        self._draw(smooth=True)

    def _draw(self, *, smooth: bool) -> None:
        if not self.isVisible() or self.mesh is None or not len(self.mesh.points):
            self._image = None
            self.update()
            return
        if self._renderer is None:
            self._ask()
            return
        if self._renderer:
            self._render(smooth=smooth)
        else:
            self._image = self._sketch(*self._pixels())
            self.update()

    def _ask(self) -> None:
        if self._asking is None:
            self._asking = threading.Thread(target=lambda: self.probed.emit(_probe()), name="probe-3d", daemon=True)
            self._asking.start()

    def wait_until_painted(self) -> None:
        """Block until the picture last asked for is there (for pictures of the page)."""
        if self._painter is not None and (image := self._painter.wait()) is not None:
            self._show(image)

    def close_scene(self) -> None:
        """Before the window goes: wait for the probe and give the renderer back."""
        if self._asking is not None:
            self._asking.join()
        if self._painter is not None:
            self._painter.close()
            self._painter = None

    def _render(self, *, smooth: bool) -> None:
        if self._painter is None:
            assert self._renderer is not None
            self._painter = HullPainter(self._renderer, self)
            self._painter.painted.connect(self._show)
        assert self.mesh is not None
        self._painter.ask(
            Look(self.mesh, self.theme, self._marked, *self._pixels(), self._bearing, self._above, *self._framed(), smooth)
        )

    def _pixels(self) -> tuple[int, int]:
        """How large the picture is on the screen itself."""
        ratio = self.devicePixelRatioF()
        return max(round(self.width() * ratio), 8), max(round(self.height() * ratio), 8)

    def _show(self, image: QImage) -> None:
        if self._make is not None and self._renderer:
            self._image = image
            self.update()

    def _framed(self) -> tuple[float, tuple[float, float]]:
        """Zoom and shift (in sizes of the hull) with which it lies between what is over the view at its top and its foot, large
        enough as it is first seen; turned, it keeps its scale."""
        assert self.mesh is not None
        size = self.mesh.size
        across = max(self.width(), self.height()) / (size * FRAME)
        free = max(self.height() - self.under_head - self.over_foot - AROUND, 40)
        zoom = min(1.0, free / max(self._tall * across, 1e-9)) * self._zoom
        down = (self.under_head - self.over_foot) / 2 / (across * zoom * size)
        return zoom, (self._shift[0], self._shift[1] - down)

    def on_screen(self, point: np.ndarray) -> QPointF:
        """Where a point (3,) of the hull is seen."""
        pixels, _ = self._on_screen(point[None])
        return QPointF(*pixels[0])

    def _on_screen(self, points: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Pixels (n, 2) and depth (n,) of points, by the same camera as the rendered picture."""
        assert self.mesh is not None
        size = self.mesh.size
        right, up, towards = _axes(self._bearing, self._above)
        zoom, shift = self._framed()
        scale = 0.5 * size / max(self.width() / max(self.height(), 1), 1.0) * FRAME / zoom
        rel = points - self.mesh.middle
        x = rel @ right / size + shift[0]
        y = rel @ up / size + shift[1]
        pixel = size / scale * self.height() / 2
        return np.column_stack([self.width() / 2 + x * pixel, self.height() / 2 - y * pixel]), rel @ towards

    def _sketch(self, width: int, height: int) -> QImage:
        """The hull painted strip by strip from the back: for machines that cannot render."""
        assert self.mesh is not None
        image = QImage(width, height, QImage.Format.Format_RGB32)
        ratio = width / max(self.width(), 1)
        image.fill(QColor(self.theme.paper))
        pixels, depth = self._on_screen(self.mesh.points)
        quads = self.mesh.quads
        order = np.argsort(depth[quads].mean(axis=1))
        corner = self.mesh.points[quads]
        normal = np.cross(corner[:, 2] - corner[:, 0], corner[:, 3] - corner[:, 1])
        size = np.linalg.norm(normal, axis=1)
        facing = np.abs(normal @ _axes(self._bearing, self._above)[2]) / np.where(size > 0, size, 1)
        painter = QPainter(image)
        painter.scale(ratio, ratio)
        painter.setPen(Qt.PenStyle.NoPen)
        for k in order:
            number = self.mesh.strip[k]
            plain = self.theme.strip if number % 10 else self.theme.strip_tenth
            if self.mesh.shades:
                plain = self.theme.shades[self.mesh.shades[number - 1]]
            base = QColor(self.theme.accent if number == self._marked else plain)
            painter.setBrush(base.darker(int(150 - 50 * facing[k])))
            painter.drawPolygon(QPolygonF([QPointF(*pixels[i]) for i in quads[k]]))
        painter.end()
        return image

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        if self._image is not None:
            painter.setOpacity(0.35 if self._stale else 1.0)
            painter.drawImage(self.rect(), self._image)
            painter.setOpacity(1.0)
        painter.setFont(figures(11))
        painter.setPen(QColor(self.theme.second))
        waits = "preparing the hull…" if self._make is not None else ""
        text = self._stale or ("drag: turn · Shift: move · wheel: near · click: pick" if self._image else waits)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        painter.drawText(QRectF(14, self.under_head + 2, self.width() - 28, 36), flags, text)
        if self._image is not None and not self._stale:
            self.ring.paint(painter, self.theme)
        if self.hasFocus():
            paint_focus(painter, self.rect(), self.theme)

    # -- the hand ---------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._settle.start()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._settle.start()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._pressed, self._moved = event.position(), False
        if self.ring.press(event.position()):
            self._pressed = None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.ring.move(event.position()):
            return
        if self._pressed is None or self._make is None:
            return
        step = event.position() - self._pressed
        if not self._moved and step.manhattanLength() < 4:
            return
        self._moved = True
        self._pressed = event.position()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            per = 1.0 / max(self.width(), 1) / self._zoom
            self._shift = (self._shift[0] + step.x() * per, self._shift[1] - step.y() * per)
        else:
            self._bearing -= 0.4 * step.x()
            self._above = min(max(self._above + 0.4 * step.y(), -89.0), 89.0)
        self._draw(smooth=False)
        self._settle.start()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.ring.release():
            return
        if self._pressed is not None and not self._moved and self.mesh is not None and len(self.mesh.points):
            number = self.strip_at(event.position())
            if number:
                self.last_click = event.position().toPoint()
                self.picked.emit(number)
        self._pressed = None

    def strip_at(self, at: QPointF) -> int:
        """The nearest strip to the eye under a point of the view; 0 for none."""
        assert self.mesh is not None
        pixels, depth = self._on_screen(self.mesh.points)
        corner = pixels[self.mesh.quads]
        edge = np.roll(corner, -1, axis=1) - corner
        to = np.array([at.x(), at.y()]) - corner
        turn = edge[..., 0] * to[..., 1] - edge[..., 1] * to[..., 0]
        hit = np.all(turn >= 0, axis=1) | np.all(turn <= 0, axis=1)
        if not np.any(hit):
            return 0
        found = np.flatnonzero(hit)
        best = found[np.argmax(depth[self.mesh.quads[found]].mean(axis=1))]
        return int(self.mesh.strip[best])

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._zoom = min(max(self._zoom * 1.0015 ** event.angleDelta().y(), 0.3), 40.0)
        self._draw(smooth=False)
        self._settle.start()
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        turns = {Qt.Key.Key_Left: (10, 0), Qt.Key.Key_Right: (-10, 0), Qt.Key.Key_Up: (0, 10), Qt.Key.Key_Down: (0, -10)}
        if event.key() == Qt.Key.Key_Escape and self.ring.held:
            self.ring.drop()
        elif event.key() == Qt.Key.Key_F:
            self.set_view(*START)
        elif (turn := turns.get(Qt.Key(event.key()))) is not None:
            self._bearing += turn[0]
            self._above = min(max(self._above + turn[1], -89.0), 89.0)
            self._draw(smooth=True)
        else:
            event.ignore()
