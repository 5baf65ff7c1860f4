"""What ends a course of strips sideways: the keel, the sheer, a knuckle, or the seam to another course."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..geometry.arrays import Array

if TYPE_CHECKING:
    from scipy.interpolate import CubicSpline


@dataclass(frozen=True)
class Limit:
    """The line v = `edge`, or v(u) where a `seam` is given; `name` is what strips end on there."""

    name: str
    edge: float
    seam: CubicSpline | None = None

    def at(self, u: Array) -> Array:
        """Parameter v of the limit at parameters u (n,)."""
        if self.seam is None:
            return np.full_like(u, self.edge)
        result: Array = self.seam(self._within(u))
        return result

    def _within(self, u: Array) -> Array:
        assert self.seam is not None
        result: Array = np.clip(u, self.seam.x[0], self.seam.x[-1])
        return result


@dataclass(frozen=True)
class Bounds:
    """The part of a panel that a course covers: above `low`, below `high`; `bow` and `stern` are what strips end on there."""

    low: Limit
    high: Limit
    bow: str
    stern: str

    def far(self, upward: bool) -> Limit:
        """The limit that the course runs towards."""
        return self.high if upward else self.low
