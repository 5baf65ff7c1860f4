"""A closed curve out of a DXF: the outline of an opening drawn elsewhere."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import shapely

from ...core.errors import InputError
from ...core.geometry.arrays import Array
from .dxf import read_dxf

CLOSES = 1e-3
"""A curve whose ends lie apart by no more than this share of its length is closed."""
MOST_POINTS = 240


def largest_closed_curve(path: Path) -> Array:
    """The largest closed curve of a drawing, (n, 2), mm: position along the hull and distance to starboard, as it is drawn. A
    drawing without a unit is in mm. Raises InputError for a file that is no drawing or holds no closed curve."""
    drawing = read_dxf(path)
    scale = drawing.mm or 1.0
    best: tuple[float, Array] | None = None
    for curves in drawing.layers.values():
        for curve in curves:
            length = float(np.linalg.norm(np.diff(curve, axis=0), axis=1).sum())
            if len(curve) < 4 or np.linalg.norm(curve[0] - curve[-1]) > CLOSES * length:
                continue
            shape = shapely.Polygon(curve)
            if shape.is_valid and (best is None or shape.area > best[0]):
                best = shape.area, curve
    if best is None:
        raise InputError(
            "this drawing has no closed curve", path.name, "", "Draw the opening as one closed polyline, spline, circle or ellipse."
        )
    points = np.round(best[1][:-1] * scale, 3)
    step = max(1, -(-len(points) // MOST_POINTS))
    return points[::step]
