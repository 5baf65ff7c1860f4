"""The section at a mold with the edge of every strip ticked, and how far down from the sheer it comes."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.molds.stations import Mold
from ...core.planking.crossings import Crossing
from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line

IN_MM, LONG_MM, EVERY = 16.0, 34.0, 5


def section_drawing(shape: Shape, mold: Mold, strips: tuple[Crossing, ...], marked: int, style: LengthStyle) -> Drawing:
    """Half-breadths to the right and to the left, as planned both sides alike; the strip numbered `marked` with its distances."""
    edge = mold.edge.points
    strokes = [
        Stroke(frozen(np.concatenate([edge[::-1] * [-1.0, 1.0], edge])), Layer.MOLD),
        line((0.0, float(edge[0, 1]) - 20.0), (0.0, float(edge[-1, 1]) + 20.0), layer=Layer.CENTRELINE),
        line(
            (-float(edge[:, 0].max()) - 30, shape.waterline), (float(edge[:, 0].max()) + 30, shape.waterline), layer=Layer.WATERLINE
        ),
    ]
    labels: list[Label] = []
    for row in strips:
        outline = frozen([row.near[1:], row.far[1:]])
        key = f"strip:{row.number}"
        layer = Layer.STRIP_ALT if row.number % 10 == 0 else Layer.STRIP
        for side in (1.0, -1.0):
            strokes.append(Stroke(frozen(outline * [side, 1.0]), Layer.HULL if layer is Layer.STRIP else layer, key=key))
        inward = _inward(row)
        long = row.number % EVERY == 0 or row.number == marked
        end = row.far[1:] + (LONG_MM if long else IN_MM) * inward
        for side in (1.0, -1.0):
            strokes.append(Stroke(frozen(np.array([row.far[1:], end]) * [side, 1.0]), Layer.TICK, key=key))
        if long:
            y, z = end.tolist()
            text = f"{row.number}"
            labels.append(Label((y, z), text, Layer.TICK, "right", key=key, strong=row.number == marked))
            down = format_length(row.from_sheer, style)
            labels.append(Label((-y, z), down, Layer.DIMENSION, "left", key=key, strong=row.number == marked))
    title = f"Section at mold {mold.name}: strips at the right, their lower edges down from the sheer at the left"
    return Drawing(title, tuple(strokes), tuple(labels))


def _inward(row: Crossing) -> np.ndarray:
    along = row.far[1:] - row.near[1:]
    size = float(np.linalg.norm(along))
    if size < 1e-6:
        return np.array([-1.0, 0.0])
    along = along / size
    inward = np.array([along[1], -along[0]])
    return -inward if inward[0] > 0 else inward
