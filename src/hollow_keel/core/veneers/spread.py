"""Areas on a surface of parts of its parameters, and its places laid out flat."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from ..geometry.arrays import Array
from ..geometry.surface import TensorSurface
from ..hull.measures import gauss_points

PARTS = (1, 2)
"""The surface's own density is summed in so many parts of each of its cells, along and across: within one it is smooth."""
SHORT = 0.02
"""Edges of a part are taken in pieces no longer, in parameters."""


class Spread:
    """The area of a surface as a function over its parameters, so that a part's is one walk about its edge.

    Source: Green's theorem, any textbook of analysis: with F(u, v) the density summed from 0 to u, the area of a part is the
    integral of F dv about it.
    """

    def __init__(self, surface: TensorSurface) -> None:
        from scipy.interpolate import RectBivariateSpline, RegularGridInterpolator  # load slowly: not before they are needed

        edges, v = (
            np.linspace(0.0, 1.0, parts * (count - 1) + 1) for parts, count in zip(PARTS, surface.grid.shape[:2], strict=True)
        )
        u, weight = gauss_points(edges[:-1], edges[1:])
        density = surface.densities(u.ravel(), v).reshape(*u.shape, len(v))
        cells = np.einsum("ij,ijk->ik", weight, density)
        along = surface.points(edges[:, None], v[None, :])
        steps = np.linalg.norm(np.diff(along, axis=1), axis=2)
        girths = np.concatenate([np.zeros((len(edges), 1)), np.cumsum(steps, axis=1)], axis=1)
        self._unrolled = RegularGridInterpolator((edges, v), np.stack([along[:, :, 0], girths], axis=2))
        self._sum = RectBivariateSpline(edges, v, np.concatenate([np.zeros((1, len(v))), np.cumsum(cells, axis=0)]))

    def area(self, part: shapely.Polygon) -> float:
        """Area on the surface, mm², of a part of its parameters."""
        return float(self.areas([part])[0])

    def areas(self, parts: Sequence[shapely.Polygon]) -> Array:
        """Areas on the surface, mm², of parts of its parameters, (n,); all together, for short arrays cost as much."""
        if not len(parts):
            return np.zeros(0)
        rings = shapely.segmentize(shapely.get_exterior_ring(np.asarray(parts)), SHORT)
        ring, of = shapely.get_coordinates(rings, return_index=True)
        along = of[:-1] == of[1:]
        first, second, of = ring[:-1][along], ring[1:][along], of[:-1][along]
        step = second - first
        walked = np.zeros(len(first))
        for share in (0.5 - 0.5 / np.sqrt(3.0), 0.5 + 0.5 / np.sqrt(3.0)):
            place = first + share * step
            walked += self._sum.ev(place[:, 0], place[:, 1]) * step[:, 1] / 2
        found: Array = np.abs(np.bincount(of, walked, minlength=len(parts)))
        return found

    def unrolled(self, uv: Array) -> Array:
        """How far aft places (n, 2) lie, and how far round from the lower edge, (n, 2) mm: exact enough to be looked at."""
        found: Array = self._unrolled(np.clip(uv, 0.0, 1.0))
        return found
