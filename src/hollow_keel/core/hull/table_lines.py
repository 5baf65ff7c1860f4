"""The traditional table of offsets of a hull: what its stations measure on waterlines and buttocks."""

from __future__ import annotations

import numpy as np

from ..geometry.curves import LoftCurve
from ..offsets.table import Lines, Section, spans
from ..units import MM_PER_INCH

WATERLINES, BUTTOCKS = 7, 4
METRIC = (10.0, 20.0, 25.0, 50.0, 100.0, 200.0, 250.0, 500.0, 1000.0, 2000.0)
IMPERIAL = tuple(MM_PER_INCH * n for n in (0.5, 1, 2, 3, 4, 6, 8, 12, 24, 48, 96))
"""Round spacings of waterlines and buttocks, mm."""


def table_lines(lines: Lines, spacings: tuple[float, ...] = METRIC) -> list[tuple[float, dict[str, float]]]:
    """For each station its position and the value (mm) of each line by name, measured on its own drawn curve.

    Sheer and keel, chines where there is one, waterlines at round heights (half-breadths) and buttocks at
    round half-breadths (heights), `spacings` mm apart at best; a line that does not cross a station is left out there.
    """
    stations = lines.stations
    low = min(float(s.points[0, 2]) for s in stations)
    high = max(float(s.points[-1, 2]) for s in stations)
    wide = max(float(s.points[:, 1].max()) for s in stations)
    levels = _round_steps(low, high, WATERLINES, spacings)
    breadths = _round_steps(0.0, wide, BUTTOCKS, spacings)
    return [(s.x, _values(s, levels, breadths)) for s in stations]


def _round_steps(low: float, high: float, count: int, spacings: tuple[float, ...]) -> list[float]:
    """Round values strictly between two limits, about `count` of them."""
    rough = (high - low) / (count + 1)
    step = next((s for s in spacings if s >= rough), spacings[-1])
    return [float(v) for v in np.arange(np.floor(low / step) + 1, np.ceil(high / step)) * step]


def _values(section: Section, levels: list[float], breadths: list[float]) -> dict[str, float]:
    keel, sheer = section.points[0], section.points[-1]
    found = {
        "sheer height": float(sheer[2]),
        "sheer half-breadth": float(sheer[1]),
        "keel height": float(keel[2]),
        "keel half-breadth": float(keel[1]),
    }
    if len(section.knuckles) == 1:
        chine = section.points[section.knuckles[0]]
        found |= {"chine height": float(chine[2]), "chine half-breadth": float(chine[1])}
    for level in levels:
        value = _measured(section, 2, level)
        if value is not None:
            found[f"wl {level:.10g}"] = value
    for breadth in breadths:
        value = _measured(section, 1, breadth)
        if value is not None:
            found[f"buttock {breadth:.10g}"] = value
    return found


def _measured(section: Section, axis: int, value: float) -> float | None:
    """The other offset where a station's curve first takes a value: axis 2 a height, 1 a half-breadth."""
    for part in spans(len(section.points), section.knuckles):
        curve = LoftCurve(section.points[part])
        fraction = curve.fraction_where(axis, value)
        if fraction is not None:
            return float(curve.at_fractions(np.array([fraction]))[0, 3 - axis])
    return None
