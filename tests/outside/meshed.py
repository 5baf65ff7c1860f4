"""A surface as the fine mesh that a library of polyhedral geodesics is asked about."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.interpolate import CubicSpline

from hollow_keel.core.geometry.arrays import Array, IntArray
from hollow_keel.core.geometry.surface import TensorSurface


def meshed(surface: TensorSurface, along: int, up: int) -> tuple[Array, IntArray, IntArray, Array, Array]:
    """Points (n, 3), triangles (m, 3), numbers of the points (along, up), and the points' parameters u and v (along, up)."""
    points, faces, index, u, v, _ = meshed_about(surface, along, up, None, 0.5)
    return points, faces, index, u, v


def meshed_about(
    surface: TensorSurface, along: int, up: int, line: Array | None, share: float
) -> tuple[Array, IntArray, IntArray, Array, Array, Callable[[Array, Array], Array]]:
    """A mesh with a row at a `share` of its rows on a `line`, parameters (n, 2) over rising u (None: rows of constant v): points,
    triangles, numbers of the points, u and the share of the rows t (along, up), and t at parameters u and v (n,)."""
    height = (lambda u: np.full_like(u, share)) if line is None else CubicSpline(line[:, 0], line[:, 1])

    def rows(u: Array, t: Array) -> Array:
        middle = height(u)
        return np.where(t <= share, t / share * middle, middle + (t - share) / (1 - share) * (1 - middle))

    def place(u: Array, v: Array) -> Array:
        middle = height(u)
        return np.clip(np.where(v <= middle, v / middle * share, share + (v - middle) / (1 - middle) * (1 - share)), 0, 1)

    u, t = np.meshgrid(np.linspace(0, 1, along), np.linspace(0, 1, up), indexing="ij")
    v = np.clip(rows(u, t), 0, 1)
    index = np.arange(along * up).reshape(along, up)
    a, b, c, d = (x.ravel() for x in (index[:-1, :-1], index[1:, :-1], index[1:, 1:], index[:-1, 1:]))
    faces = np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])
    return surface.points(u, v).reshape(-1, 3), faces, index, u, t, place
