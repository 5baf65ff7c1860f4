"""How far a hull that was drawn lies from what it was drawn after."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array

NEAR_MM, FAR_MM = 3.0, 10.0
"""A drawn hull this near is as good as the same, one farther off has missed something: house values for hulls of boats."""


@dataclass(frozen=True)
class Compared:
    """Points of what was given, (n, 3) mm, x aft, y out, z up, n > 0; and how far the drawn hull lies from each, (n,) mm, >= 0."""

    points: Array
    gaps: Array

    @property
    def middle(self) -> float:
        """Half of the points lie no farther, mm."""
        return float(np.median(self.gaps))

    @property
    def most(self) -> float:
        """95 of 100 points lie no farther, mm."""
        return float(np.quantile(self.gaps, 0.95))

    @property
    def worst(self) -> tuple[float, Array]:
        """The farthest point: how far, mm, and (x, y, z)."""
        k = int(np.argmax(self.gaps))
        return float(self.gaps[k]), self.points[k]
