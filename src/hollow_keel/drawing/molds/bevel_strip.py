"""The bevels along one mold's edge as a strip: the edge upright, keel below, the angle to the right."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.molds.stations import Mold
from ...core.results import Shape
from ...core.units import LengthStyle, LengthUnit, format_length
from ..model import Drawing, Label, Layer, Stroke, line

PER_DEGREE = 10.0
LEAST_DEGREES = 8.0
ROOM = 1.5
LABELS = 7
"""So many bevels are written out at most."""
SEEN_MM = 0.05
"""A smaller difference between the schools is not worth writing."""


def bevel_strip(shape: Shape, mold: Mold, style: LengthStyle) -> Drawing:
    """Lengths along the edge are mm, degrees PER_DEGREE each: not true to scale."""
    points = mold.edge.points
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    degrees = np.degrees(mold.standing)
    marks = shape.marks[mold.name]
    wide = PER_DEGREE * max(LEAST_DEGREES, float(np.abs(degrees).max()))
    strokes = [
        line((0.0, 0.0), (0.0, float(along[-1])), layer=Layer.CENTRELINE),
        Stroke(frozen(np.column_stack([PER_DEGREE * np.abs(degrees), along])), Layer.OFFSET),
        line((0.0, 0.0), (ROOM * wide, 0.0), layer=Layer.GRID),  # long enough to keep room for the words
    ]
    labels = [Label((0.0, float(along[-1])), "sheer", Layer.SHEER_MARK, "right"), Label((0.0, 0.0), "keel", Layer.NOTE, "right")]
    calls = marks.bevels
    for call in calls[:: max(1, -(-len(calls) // LABELS))]:
        more = float(np.interp(call.along, along, marks.excess))
        under = " under" if call.sense == "under" else ""
        text = f"{call.called:g}°{under}"
        if more >= SEEN_MM:
            text += f" · {_small(more, style)}"
        labels.append(Label((PER_DEGREE * abs(call.degrees), call.along), text, Layer.BEVEL, "left"))
    return Drawing("Bevel · in-plane larger by", tuple(strokes), tuple(labels), true_to_scale=False)


def _small(mm: float, style: LengthStyle) -> str:
    """A difference well below the tape's own steps."""
    if style.unit is LengthUnit.MM or style.step < 0.01:
        return f"{mm:.1f}" if style.unit is LengthUnit.MM else format_length(mm, style)
    return f"{mm / 25.4:.3f} in"
