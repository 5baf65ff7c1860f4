"""From where to where a hull reaches, and what is said of a place that she does not reach to."""

from __future__ import annotations

import numpy as np

from ..findings import mm
from .build import Hull

NEAR_MM = 1.0
"""So little past an end is on the boat yet."""
EDGE = 33


def reach(hull: Hull) -> tuple[float, float]:
    """The positions of the foremost and the aftermost point of the ends of the surface, mm."""
    v = np.linspace(0.0, 1.0, EDGE)
    ends = [panel.surface.points(np.full_like(v, u), v)[:, 0] for panel in hull.panels for u in (0.0, 1.0)]
    return float(min(x.min() for x in ends)), float(max(x.max() for x in ends))


def off_boat(hull: Hull, place: float | None) -> str:
    """That there is no hull at a place along her, mm; empty where there is, or where none is given."""
    low, high = reach(hull)
    if place is None or low - NEAR_MM <= place <= high + NEAR_MM:
        return ""
    return f"There is no hull at position {mm(place)}: she reaches from {mm(round(low))} to {mm(round(high))}"
