"""Renders the planked hull off-screen into an image. Loaded only when it is first shown.

Where the machine has neither EGL nor OSMesa the renderer ends the process, so it is tried once in a
process of its own before it is used here.
"""

from __future__ import annotations

import os
import subprocess
import sys
from typing import Any

import numpy as np
from PySide6.QtGui import QColor, QImage

from ...drawing.planking.mesh import FRAME, HullMesh
from ..window.theme import Theme

RENDERERS = ("vtkEGLRenderWindow", "vtkOSOpenGLRenderWindow")
CHOICE = "VTK_DEFAULT_OPENGL_WINDOW"
SEAM_PIXELS = (2.0, 6.0)
"""Width of a strip on screen at which its seams begin to show, and at which they are full."""
PROBE = (
    "import vtkmodules.vtkRenderingOpenGL2 as o, vtkmodules.vtkRenderingCore as c;"
    "w=c.vtkRenderWindow();w.SetOffScreenRendering(1);w.SetSize(16,16);w.AddRenderer(c.vtkRenderer());w.Render();print('drawn')"
)


def find_renderer() -> str:
    """The kind of off-screen window that works on this machine, or an empty text; takes about half a second."""
    for name in RENDERERS:
        try:
            tried = subprocess.run(
                [sys.executable, "-c", PROBE],
                capture_output=True,
                timeout=30,
                check=False,
                stdin=subprocess.DEVNULL,
                env={**os.environ, CHOICE: name},
            )
        except (OSError, subprocess.TimeoutExpired):
            continue
        if tried.returncode == 0 and b"drawn" in tried.stdout:
            return name
    return ""


def load_libraries() -> None:
    """Load what a scene needs; slow, so done away from the window's thread."""
    import vtkmodules.util.numpy_support
    import vtkmodules.vtkCommonCore
    import vtkmodules.vtkCommonDataModel
    import vtkmodules.vtkRenderingOpenGL2  # noqa: F401


class HullScene:
    """One hull; the camera looks at its middle from a bearing and a height, degrees, at a zoom."""

    def __init__(self, renderer: str) -> None:
        os.environ[CHOICE] = renderer  # read by VTK when the window is made
        import vtkmodules.vtkRenderingOpenGL2  # noqa: F401  registers the renderer
        from vtkmodules import vtkRenderingCore as core

        self._core = core
        self._renderer = core.vtkRenderer()
        self._window = core.vtkRenderWindow()
        self._window.SetOffScreenRendering(1)
        self._window.AddRenderer(self._renderer)
        self._hull, self._seams = core.vtkActor(), core.vtkActor()
        self._hull_mapper, self._seam_mapper = core.vtkPolyDataMapper(), core.vtkPolyDataMapper()
        self._dress()
        self._cells: Any = None
        self._mesh: HullMesh | None = None
        self._middle, self._size, self._strip_width = np.zeros(3), 1.0, 1.0

    def _dress(self) -> None:
        """What stays the same for every hull; made once, since new mappers compile their shaders anew."""
        self._hull_mapper.SetResolveCoincidentTopologyToPolygonOffset()
        self._hull.SetMapper(self._hull_mapper)
        self._hull.GetProperty().SetAmbient(0.35)
        self._hull.GetProperty().SetDiffuse(0.7)
        self._seam_mapper.SetResolveCoincidentTopologyToPolygonOffset()
        self._seam_mapper.SetRelativeCoincidentTopologyLineOffsetParameters(-1, -4)
        self._seams.SetMapper(self._seam_mapper)
        self._seams.GetProperty().SetLighting(False)
        self._seams.GetProperty().SetLineWidth(1.0)
        self._renderer.AddActor(self._hull)
        self._renderer.AddActor(self._seams)

    def show(self, mesh: HullMesh, theme: Theme, marked: int) -> None:
        """Replace the hull; the strip numbered `marked` is in the accent colour."""
        from vtkmodules.util.numpy_support import numpy_to_vtk

        if mesh is not self._mesh:
            self._build(mesh)
        if mesh.shades:
            palette = np.array([_rgb(name) for name in theme.shades], dtype=np.uint8)
            colours = palette[np.array(mesh.shades)[mesh.strip - 1]]
        else:
            pair = np.array([_rgb(theme.strip_tenth), _rgb(theme.strip)], dtype=np.uint8)
            colours = pair[np.minimum(mesh.strip % 10, 1)]
        colours[mesh.strip == marked] = _rgb(theme.accent)
        table = numpy_to_vtk(np.ascontiguousarray(colours), deep=1)
        self._cells.GetCellData().SetScalars(table)
        self._cells.Modified()
        self._seams.GetProperty().SetColor(*[c / 255 for c in _rgb(theme.ink)])
        self._renderer.SetBackground(*[c / 255 for c in _rgb(theme.paper)])

    def _build(self, mesh: HullMesh) -> None:
        from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
        from vtkmodules.vtkCommonCore import vtkPoints
        from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData

        self._mesh = mesh

        def data(points: np.ndarray) -> Any:
            poly, places = vtkPolyData(), vtkPoints()
            places.SetData(numpy_to_vtk(np.ascontiguousarray(points), deep=1))
            poly.SetPoints(places)
            return poly

        def cells(indices: np.ndarray) -> Any:
            packed = np.column_stack([np.full(len(indices), indices.shape[1]), indices]).astype(np.int64)
            array = vtkCellArray()
            array.ImportLegacyFormat(numpy_to_vtkIdTypeArray(np.ascontiguousarray(packed.ravel()), deep=1))
            return array

        self._cells = data(mesh.points)
        self._cells.SetPolys(cells(mesh.quads))
        self._hull_mapper.SetInputData(self._cells)
        lines = data(mesh.seams.reshape(-1, 3))
        count, along = mesh.seams.shape[:2]
        lines.SetLines(cells(np.arange(count * along).reshape(count, along)))
        self._seam_mapper.SetInputData(lines)
        if len(mesh.points):
            self._middle, self._size = mesh.middle, mesh.size
            self._strip_width = mesh.width

    def picture(
        self, width: int, height: int, bearing: float, above: float, zoom: float, shift: tuple[float, float], *, smooth: bool
    ) -> QImage:
        """An image of the hull. `shift` moves it in shares of its size, right and up."""
        self._window.SetMultiSamples(4 if smooth else 0)
        self._window.SetSize(width, height)
        camera = self._renderer.GetActiveCamera()
        camera.ParallelProjectionOn()
        a, h = np.radians(bearing), np.radians(above)
        towards = np.array([np.cos(h) * np.cos(a), np.cos(h) * np.sin(a), np.sin(h)])
        right = np.array([-np.sin(a), np.cos(a), 0.0])
        up = np.cross(towards, right)
        focus = self._middle - self._size * (shift[0] * right + shift[1] * up)
        camera.SetFocalPoint(*focus)
        camera.SetPosition(*(focus + 2 * self._size * towards))
        camera.SetViewUp(*up)
        fit = 0.5 * self._size / max(width / max(height, 1), 1.0) * FRAME
        camera.SetParallelScale(max(fit / zoom, 1e-3))
        low, high = SEAM_PIXELS
        strip = self._strip_width / (2 * fit / zoom) * height
        self._seams.GetProperty().SetOpacity(float(np.clip((strip - low) / (high - low), 0.0, 1.0)) * 0.6)
        self._seams.SetVisibility(strip > low)
        self._renderer.ResetCameraClippingRange()
        self._window.Render()
        return self._grab(width, height)

    def _grab(self, width: int, height: int) -> QImage:
        from vtkmodules.util.numpy_support import vtk_to_numpy
        from vtkmodules.vtkCommonCore import vtkUnsignedCharArray

        pixels = vtkUnsignedCharArray()
        self._window.GetPixelData(0, 0, width - 1, height - 1, 0, pixels, 0)
        image = np.ascontiguousarray(vtk_to_numpy(pixels).reshape(height, width, 3)[::-1])
        return QImage(image.data, width, height, 3 * width, QImage.Format.Format_RGB888).copy()

    def close(self) -> None:
        """Give back the renderer's memory."""
        self._window.Finalize()


def _rgb(name: str) -> tuple[int, int, int]:
    colour = QColor(name)
    return colour.red(), colour.green(), colour.blue()
