"""Sheets of plywood with the molds' parts laid on them."""

from __future__ import annotations

import numpy as np

from ..core.geometry.arrays import Array
from ..core.molds.layout import Layout, Placed
from ..core.molds.parts import MoldPart, mold_parts
from ..core.results import Shape
from .model import Drawing, Label, Layer, Stroke, box
from .mold import mold_drawing, widest_wood

BETWEEN_MM = 150.0
KEPT = frozenset({Layer.MOLD, Layer.HOLE, Layer.WATERLINE, Layer.SHEER_MARK, Layer.CENTRELINE})


def sheets_drawing(shape: Shape, layout: Layout, only: int | None = None) -> Drawing:
    """All sheets beside each other, or one of them (from 0), with every part's cuts and marks."""
    parts = {part.name: part for part in mold_parts(shape.job, shape.molds, shape.setup.beam_level)}
    molds = {mold.name: mold for mold in shape.molds.molds}
    drawn: dict[str, Drawing] = {}  # two halves share their mold's drawing
    strokes: list[Stroke] = []
    labels: list[Label] = []
    numbers = range(layout.pieces) if only is None else [only]
    right = 0.0
    for number in numbers:
        left = right + BETWEEN_MM if right else 0.0
        long, top = layout.size(number)
        right = left + long
        strokes.append(box(left, 0.0, right, top, Layer.BEAM))
        labels.append(Label((left, top), sheet_name(layout, number), Layer.NOTE, "left", 1, strong=True))
        for placed in (p for p in layout.placed if p.sheet == number and p.name in parts):
            part = parts[placed.name]
            name = part.mold
            if name not in drawn:
                drawn[name] = mold_drawing(shape, molds[name], shape.job.units.style)
            strokes += _laid(drawn[name], part, placed, left)
            ((y, z),) = _moved(part, placed, widest_wood(part.outline, part.holes)[None], left).tolist()
            labels.append(Label((y, z), placed.name, Layer.TITLE, strong=True))
    return Drawing("Sheets", tuple(strokes), tuple(labels))


def sheet_name(layout: Layout, number: int) -> str:
    """A sheet or an offcut by its number (from 0), for people."""
    if number < layout.count:
        return f"sheet {number + 1} of {layout.count}"
    return f"offcut {number - layout.count + 1} of {len(layout.offcuts)}"


def _laid(drawing: Drawing, part: MoldPart, placed: Placed, left: float) -> list[Stroke]:
    return [
        Stroke(_moved(part, placed, s.points, left), s.layer, s.closed, s.filled, f"part:{placed.name}")
        for s in drawing.strokes
        if s.layer in KEPT
    ]


def _moved(part: MoldPart, placed: Placed, points: Array, left: float) -> Array:
    result: Array = placed.moved(part.shown(points)) + np.array([left, 0.0])
    return result
