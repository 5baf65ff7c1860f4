"""Sheets of plywood with the molds' parts laid on them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...core.geometry.arrays import Array
from ...core.results import Shape
from ...core.settings.layout import Layout, Placed, Sheets
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, box
from .parts import PartDrawer

BETWEEN_MM = 150.0
KEPT = frozenset({Layer.MOLD, Layer.HOLE, Layer.WATERLINE, Layer.SHEER_MARK, Layer.CENTRELINE, Layer.FITTING, Layer.SPALL})


def sheets_drawing(shape: Shape, layout: Layout, only: int | None = None) -> Drawing:
    """All sheets beside each other, or one of them (from 0), with every part's cuts and marks."""
    parts = {part.name: part for part in shape.parts.parts}
    draw = PartDrawer(shape)
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
            drawing = draw(parts[placed.name])
            strokes += _laid(drawing, placed, left)
            ((y, z),) = _moved(placed, np.array([drawing.labels[-1].at]), left).tolist()
            labels.append(replace(drawing.labels[-1], at=(y, z)))
    return Drawing("Sheets", tuple(strokes), tuple(labels))


def empty_sheet(sheets: Sheets, style: LengthStyle) -> Drawing:
    """One sheet with its margin, to be dragged and typed to size. On screen only."""
    long, wide, margin = sheets.length, sheets.width, sheets.margin
    strokes = [box(0.0, 0.0, long, wide, Layer.BEAM)]
    if 0 < margin < min(long, wide) / 2:
        strokes.append(box(margin, margin, long - margin, wide - margin, Layer.GHOST))
    labels = []
    for at, words, value, path, anchor, rise in (
        ((long / 2, 0.0), "long", long, "sheets.length", "middle", -1),
        ((long, wide / 2), "wide", wide, "sheets.width", "left", 0),
        ((margin, wide - margin), "margin", margin, "sheets.margin", "left", -1),
    ):
        labels.append(decided(at, words, format_length(value, style), path, Layer.DIMENSION, anchor, rise))
    rings = (
        Ring((long, 0.0), "sheets.length", long, (1.0, 0.0), low=50.0),
        Ring((0.0, wide), "sheets.width", wide, (0.0, 1.0), low=50.0),
    )
    return Drawing("A sheet", tuple(strokes), tuple(labels), rings=rings)


def sheet_name(layout: Layout, number: int) -> str:
    """A sheet or an offcut by its number (from 0), for people."""
    if number < layout.count:
        return f"sheet {number + 1} of {layout.count}"
    return f"offcut {number - layout.count + 1} of {len(layout.offcuts)}"


def _laid(drawing: Drawing, placed: Placed, left: float) -> list[Stroke]:
    return [
        Stroke(_moved(placed, s.points, left), s.layer, s.closed, s.filled, f"part:{placed.name}")
        for s in drawing.strokes
        if s.layer in KEPT
    ]


def _moved(placed: Placed, points: Array, left: float) -> Array:
    result: Array = placed.moved(points) + np.array([left, 0.0])
    return result
