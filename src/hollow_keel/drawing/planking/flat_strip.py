"""A strip that is cut to shape, flat and at full size, with its widths."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.planking.flat import flat_strip, varies
from ...core.planking.strips import Planking, Strip
from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line

EVERY_MM = 300.0


def flat_strips(shape: Shape, planking: Planking, style: LengthStyle) -> list[Drawing]:
    """Every strip of one side that has to be cut to shape."""
    found = []
    for strip in planking.strips:
        flat = flat_strip(strip, planking)
        if varies(flat):
            found.append(_drawing(shape, strip, flat, style))
    return found


def _drawing(shape: Shape, strip: Strip, flat: Array, style: LengthStyle) -> Drawing:
    long = float(flat[-1, 0])
    outline = np.concatenate([[[0.0, 0.0], [long, 0.0]], flat[::-1]])
    strokes = [Stroke(frozen(outline), Layer.MOLD, closed=True)]
    labels = [
        Label(
            (long / 2, 0.0),
            f"STRIP {strip.number} · {shape.job.name} · both sides, one turned over",
            Layer.TITLE,
            rise=-1,
            strong=True,
        ),
        Label((0.0, 0.0), "BOW END, straight edge towards the guide", Layer.NOTE, "left", -1),
    ]
    for at in np.arange(0.0, long, EVERY_MM).tolist():
        wide = float(np.interp(at, flat[:, 0], flat[:, 1]))
        strokes.append(line((at, 0.0), (at, max(wide, 1.0)), layer=Layer.TICK))
        text = f"{format_length(at, style)}: {format_length(wide, style)}"
        labels.append(Label((at, wide), text, Layer.NOTE, "left", 1))
    return Drawing(f"Strip {strip.number}", tuple(strokes), tuple(labels))
