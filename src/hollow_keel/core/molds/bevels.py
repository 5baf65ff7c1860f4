"""Bevels along a mold's edge, as they are called out to the person at the saw."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import runs_along
from ..rules import CALL_MM
from .stations import Mold


@dataclass(frozen=True)
class BevelCall:
    """A bevel at a place of the edge: distance along it from the keel (mm), the point and the direction into the wood
    (2,), and the angle from square in degrees: positive a standing bevel, negative an under one."""

    along: float
    at: Array
    inward: Array
    degrees: float

    @property
    def called(self) -> float:
        """To the half degree, without its sense."""
        return round(abs(self.degrees) * 2) / 2

    @property
    def sense(self) -> str:
        """Which way it leans: standing, under, or square."""
        return "square" if self.called == 0 else "standing" if self.degrees > 0 else "under"

    def across(self, thickness: float) -> float:
        """What the bevel is across a sheet, mm: how far the two faces' edges lie apart."""
        return thickness * float(np.tan(np.radians(abs(self.degrees))))


def bevel_calls(mold: Mold, step: float = CALL_MM) -> list[BevelCall]:
    """At even steps of `step` mm along the edge from the keel, and at the sheer."""
    points = mold.edge.points
    along = runs_along(points)
    places = np.append(np.arange(0.0, along[-1] - step / 4, step), along[-1])
    degrees = np.degrees(np.interp(places, along, mold.standing))
    at = rows_at(places, along, points)
    ways = np.gradient(points, along, axis=0)
    way = rows_at(places, along, ways)
    way = way / np.linalg.norm(way, axis=1, keepdims=True)
    inward = np.column_stack([-way[:, 1], way[:, 0]])
    return [BevelCall(float(s), p, n, float(d)) for s, p, n, d in zip(places, at, inward, degrees, strict=True)]
