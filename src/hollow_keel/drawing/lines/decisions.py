"""What the builder decides on body plan and profile: the load waterline. On screen only."""

from __future__ import annotations

from dataclasses import replace

from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Layer, Ring


def lines_decisions(drawing: Drawing, shape: Shape, style: LengthStyle) -> Drawing:
    """The drawing with the load waterline to be dragged or typed."""
    level = shape.waterline
    ends = [float(s.points[:, 0].max()) for s in drawing.strokes if s.layer is Layer.WATERLINE]
    if not ends:
        return drawing
    number = format_length(level, style)
    at = (max(ends), level)
    strokes = tuple(replace(s, key="waterline") if s.layer is Layer.WATERLINE else s for s in drawing.strokes)
    labels = tuple(text for text in drawing.labels if text.layer is not Layer.WATERLINE)
    named = decided(at, "load waterline", number, "waterline", Layer.WATERLINE, "right", key="waterline")
    ring = Ring(at, "waterline", level, (0.0, 1.0), moves="waterline")
    return replace(drawing, strokes=strokes, labels=(*labels, named), rings=(ring,))
