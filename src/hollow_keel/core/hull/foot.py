"""The line that a hull stands on: up the stem, along the keel, and up the stem at the other end."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array
from ..offsets.table import End, EndKind
from .build import Hull

PLACES = 161
STEEP = np.radians(60.0)
"""Where the foot climbs more steeply it is a stem, whatever it is called."""


def foot_slopes(hull: Hull, places: list[float]) -> list[tuple[float, bool]]:
    """At each position along the hull (x, mm) how the foot climbs there, radians, positive where it rises towards the
    stern, and whether a mold there stands over a stem."""
    keel = hull.panels[0].surface.points(np.linspace(0.0, 1.0, PLACES), np.zeros(PLACES))[:, [0, 2]]
    bow, stern = _stem(hull.lines.bow), _stem(hull.lines.stern)
    found: list[tuple[float, bool]] = []
    for x in places:
        line, on_stem = keel, False
        if x < keel[0, 0] and bow is not None:
            line, on_stem = bow, True
        elif x > keel[-1, 0] and stern is not None:
            line, on_stem = stern, True
        slope = np.gradient(line[:, 1], line[:, 0])
        climb = float(np.arctan(np.interp(x, line[:, 0], slope)))
        found.append((climb, on_stem or abs(climb) > STEEP))
    return found


def _stem(end: End) -> Array | None:
    """A stem's profile by position along the hull, (n, 2); None where it does not lean or there is none."""
    if end.kind is not EndKind.STEM:
        return None
    line = end.points[np.argsort(end.points[:, 0])][:, [0, 2]]
    kept = np.concatenate([[True], np.diff(line[:, 0]) > 1e-6])
    return line[kept] if kept.sum() > 1 else None
