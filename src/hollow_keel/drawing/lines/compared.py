"""How far the drawn hull lies from a scanned one, seen from the side and from ahead and astern."""

from __future__ import annotations

from typing import Any

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.offsets.compared import FAR_MM, NEAR_MM, Compared
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line
from ..setup.survey import measured_style

GRADES = ((0.0, Layer.SPALL), (NEAR_MM, Layer.BEVEL), (FAR_MM, Layer.SHEER_MARK))
"""From how many mm on a point is drawn in which look."""
BETWEEN = 0.35
"""Room between the two views, as a share of the hull's height."""


def compared_drawing(compared: Compared, style: LengthStyle) -> Drawing:
    """Points of the scan that the hull was not drawn through, each in the look of its grade: the profile below, above it the body
    plan with the forward half at the right."""
    x, y, z = compared.points.T
    low, high = float(z.min()), float(z.max())
    middle = float(x.min() + x.max()) / 2
    up = (high - low) * (1 + BETWEEN)
    body = np.column_stack([middle + np.where(x <= middle, y, -y), z + up])
    side = np.column_stack([x, z])
    grade = _grades(compared.gaps)
    strokes = [
        line((middle, low + up), (middle, high + up), layer=Layer.CENTRELINE),
        line((float(x.min()), low), (float(x.max()), low), layer=Layer.CENTRELINE),
    ]
    strokes += [Stroke(frozen(edge), Layer.STATION) for edge in _keel_and_sheer(side)]
    for k, (_, layer) in enumerate(GRADES):
        strokes += [Stroke(frozen(view[grade == k]), layer, crosses=True) for view in (side, body) if np.any(grade == k)]
    far, at = compared.worst
    labels = [
        Label((float(at[0]), float(at[2])), format_length(far, measured_style(style)), Layer.NOTE, "left", 1, strong=True),
        *_legend(grade, (float(x.min()), high + up), (high - low) / 9, style),
    ]
    return Drawing("The drawn hull beside the scanned one", tuple(strokes), tuple(labels))


def _keel_and_sheer(side: Array) -> tuple[Array, Array]:
    """The lowest and the highest point at each position."""
    places = np.unique(side[:, 0])
    heights = [side[side[:, 0] == x, 1] for x in places]
    low, high = (np.array([float(pick(z)) for z in heights]) for pick in (np.min, np.max))
    return np.column_stack([places, low]), np.column_stack([places, high])


def _grades(gaps: Array) -> Any:
    """The number of each gap's grade."""
    return np.searchsorted([limit for limit, _ in GRADES], gaps, side="right") - 1


def _of_100(share: float) -> str:
    return f"{share * 100:.0f}" if share >= 0.005 else "fewer than 1"


def _legend(grade: Any, at: tuple[float, float], step: float, style: LengthStyle) -> list[Label]:
    words = (f"up to {format_length(NEAR_MM, style)} apart", f"up to {format_length(FAR_MM, style)}", "more")
    return [
        Label((at[0], at[1] - k * step), f"{words[k]}: {_of_100(float(np.mean(grade == k)))} of 100", layer, "left", -1)
        for k, (_, layer) in enumerate(GRADES)
        if np.any(grade == k)
    ]
