"""The curve of sectional areas: how the volume below the waterline is spread along the hull."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array
from ...core.hull.hydro import Hydro
from ..model import Drawing, Label, Layer, Stroke, line

TALL = 0.32
"""Height of the curve as drawn, in shares of the hull's length."""


def curve_of_areas(hydro: Hydro) -> Drawing:
    """Areas below the waterline (both sides) over the positions of the stations, the greatest one `TALL` high."""
    places, areas = hydro.sections.T
    if len(places) < 2 or areas.max() <= 0:
        return Drawing("Curve of areas", (), true_to_scale=False)
    low, high = float(places[0]), float(places[-1])
    tall = TALL * (high - low) / float(areas.max())
    points: Array = np.column_stack([places, areas * tall])
    strokes = [line((low, 0), (high, 0), layer=Layer.CENTRELINE), Stroke(points, Layer.HULL)]
    strokes += [line((x, 0), (x, y), layer=Layer.GRID, key=f"station:{x!r}") for x, y in points.tolist()]
    strokes.append(Stroke(points, Layer.OFFSET, crosses=True))
    fullest = int(np.argmax(areas))
    centre = hydro.centre[0]
    strokes.append(line((centre, 0), (centre, TALL * (high - low)), layer=Layer.WATERLINE))
    labels = (
        Label((float(places[fullest]), float(points[fullest, 1])), f"{areas[fullest]:.3f} m²", rise=1),
        Label((centre, 0), "centre of buoyancy", Layer.WATERLINE, rise=-1),
    )
    return Drawing("Curve of areas", tuple(strokes), labels, true_to_scale=False)
