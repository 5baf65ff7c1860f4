"""Drawings on paper: the canvas, the look of each layer in print, texts. Millimetres throughout."""

from __future__ import annotations

import io
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from ...drawing.model import NOTE_MM, STRONG_MM, Drawing, Label, Layer, Stroke

PAPERS: dict[str, tuple[float, float]] = {
    "a4": (210.0, 297.0),
    "letter": (215.9, 279.4),
    "a3": (297.0, 420.0),
    "tabloid": (279.4, 431.8),
}
"""Width and height in mm, upright (ISO 216; ANSI Y14.1)."""
FONT, STRONG = "HollowKeel", "HollowKeel-Strong"


@dataclass(frozen=True)
class Ink:
    """Grey 0 (black) to 1, line width and dashes in mm."""

    grey: float = 0.0
    width: float = 0.25
    dash: tuple[float, ...] = ()


INKS: dict[Layer, Ink] = {
    Layer.MOLD: Ink(0.0, 0.35),
    Layer.HULL: Ink(0.0, 0.35),
    Layer.CENTRELINE: Ink(0.0, 0.2, (8, 2, 1.5, 2)),
    # one line on the sheet looks like this: the load waterline
    Layer.WATERLINE: Ink(0.0, 0.6, (14, 3)),
    Layer.SHEER_MARK: Ink(0.0, 0.45),
    Layer.HOLE: Ink(0.0, 0.3),
    Layer.THIS_FACE: Ink(0.0, 0.25),
    Layer.OTHER_FACE: Ink(0.3, 0.2, (4, 2)),
    Layer.SPALL: Ink(0.0, 0.3, (6, 1.5, 1.5, 1.5)),
    Layer.SETUP_LINE: Ink(0.0, 0.45),
    Layer.FITTING: Ink(0.3, 0.15, (3, 1.5)),
    Layer.TICK: Ink(0.0, 0.2),
    Layer.GRID: Ink(0.4, 0.12),
    Layer.NEIGHBOUR: Ink(0.6, 0.12),
    Layer.GHOST: Ink(0.55, 0.15, (1, 1.5)),
    Layer.BEAM: Ink(0.0, 0.3),
    Layer.STATION: Ink(0.3, 0.15),
    Layer.DIMENSION: Ink(0.2, 0.15),
}


@cache
def _fonts() -> None:
    folder = resources.files("hollow_keel").joinpath("assets/fonts")
    for name, file in ((FONT, "Inter_400Regular.ttf"), (STRONG, "Inter_600SemiBold.ttf")):
        pdfmetrics.registerFont(TTFont(name, io.BytesIO(folder.joinpath(file).read_bytes())))


class Sheet:
    """A PDF being written page by page; all measures in mm from the page's lower left corner."""

    def __init__(self, title: str, correction: float = 1.0) -> None:
        """`correction` is what everything is drawn larger by, for a printer that prints small."""
        _fonts()
        self.correction = correction
        self._out = io.BytesIO()
        self.canvas: Any = Canvas(self._out, invariant=1, pageCompression=1)
        self.canvas.setTitle(title)
        self.canvas.setCreator("Hollow Keel")

    def page(self, width: float, height: float) -> None:
        """Begin a page of this size."""
        self.canvas.setPageSize((width * mm, height * mm))
        self.canvas.scale(self.correction, self.correction)

    def end_page(self) -> None:
        """Finish the page."""
        self.canvas.showPage()

    def finish(self) -> bytes:
        """The whole file."""
        self.canvas.save()
        return self._out.getvalue()

    def pen(self, ink: Ink) -> None:
        """Choose how lines are drawn."""
        self.canvas.setStrokeGray(ink.grey)
        self.canvas.setLineWidth(ink.width * mm)
        self.canvas.setDash([d * mm for d in ink.dash])

    def polyline(self, points: list[tuple[float, float]], *, closed: bool = False) -> None:
        """Lines through points."""
        path = self.canvas.beginPath()
        path.moveTo(points[0][0] * mm, points[0][1] * mm)
        for x, y in points[1:]:
            path.lineTo(x * mm, y * mm)
        if closed:
            path.close()
        self.canvas.drawPath(path, stroke=1, fill=0)

    def text(
        self,
        x: float,
        y: float,
        text: str,
        size: float = NOTE_MM,
        *,
        anchor: str = "left",
        strong: bool = False,
        back: bool = False,
    ) -> None:
        """A text with its foot at y; `back` clears the paper behind it."""
        font = STRONG if strong else FONT
        points = size * mm
        wide = pdfmetrics.stringWidth(text, font, points) / mm
        left = x - {"left": 0.0, "middle": wide / 2, "right": wide}[anchor]
        if back:
            self.canvas.setFillGray(1)
            self.canvas.rect((left - 0.6) * mm, (y - 0.25 * size) * mm, (wide + 1.2) * mm, 1.25 * size * mm, stroke=0, fill=1)
        self.canvas.setFillGray(0)
        self.canvas.setFont(font, points)
        self.canvas.drawString(left * mm, y * mm, text)

    def drawing(self, drawing: Drawing, shift: tuple[float, float], scale: float = 1.0) -> None:
        """A drawing with its origin at `shift`, at a scale (1 is full size)."""
        for stroke in drawing.strokes:
            self._stroke(stroke, shift, scale)
        for label in drawing.labels:
            self._label(label, shift, scale)

    def keep(self, name: str, drawing: Drawing) -> None:
        """Keep a drawing at full size in the file, to be shown on any number of pages by `show`."""
        self.canvas.beginForm(name, -1e5, -1e5, 1e5, 1e5)
        self.drawing(drawing, (0.0, 0.0))
        self.canvas.endForm()

    def show(self, name: str, shift: tuple[float, float], window: tuple[float, float, float, float]) -> None:
        """Show a kept drawing with its origin at `shift`, but only what lies in a window (left, bottom, width, height)."""
        canvas = self.canvas
        canvas.saveState()
        clip = canvas.beginPath()
        clip.rect(*(side * mm for side in window))
        canvas.clipPath(clip, stroke=0, fill=0)
        canvas.translate(shift[0] * mm, shift[1] * mm)
        canvas.doForm(name)
        canvas.restoreState()

    def _stroke(self, stroke: Stroke, shift: tuple[float, float], scale: float) -> None:
        ink = INKS.get(stroke.layer, Ink())
        if scale < 1.0:  # a small picture of a large thing wants finer lines
            ink = Ink(ink.grey, ink.width * 0.5, tuple(d * 0.35 for d in ink.dash))
        self.pen(ink)
        points = (stroke.points * scale + shift).tolist()
        self.polyline([(x, y) for x, y in points], closed=stroke.closed)

    def _label(self, label: Label, shift: tuple[float, float], scale: float) -> None:
        full = scale == 1.0
        size = STRONG_MM if label.strong and full else NOTE_MM if full or label.strong else 2.3
        x, y = label.at[0] * scale + shift[0], label.at[1] * scale + shift[1]
        y += {-1: -1.35 * size, 0: -0.35 * size, 1: 0.5 * size}[label.rise]
        self.text(x, y, label.text, size, anchor=label.anchor, strong=label.strong, back=True)

    def proof_bars(self, x: float, y: float) -> None:
        """A 100 mm and a 4 in bar to lay a rule on: if they measure wrong, the print is not full size."""
        self.canvas.setFillGray(1)
        self.canvas.rect((x - 2) * mm, (y - 2) * mm, 132 * mm, 13 * mm, stroke=0, fill=1)
        self.pen(Ink(0.0, 0.3))
        for row, (length, step, name) in enumerate(((100.0, 10.0, "100 mm"), (101.6, 25.4, "4 in"))):
            level = y + 6.0 * row
            self.polyline([(x, level), (x + length, level)])
            for k in range(round(length / step) + 1):
                self.polyline([(x + k * step, level), (x + k * step, level + (3 if k * step in (0, length) else 1.8))])
            self.text(x + length + 2, level, f"{name} exactly", 2.6)
