"""A surface as the fine mesh that a library of polyhedral geodesics is asked about."""

from __future__ import annotations

import numpy as np

from hollow_keel.core.geometry.arrays import Array, IntArray
from hollow_keel.core.geometry.surface import TensorSurface


def meshed(surface: TensorSurface, along: int, up: int) -> tuple[Array, IntArray, IntArray, Array, Array]:
    """Points (n, 3), triangles (m, 3), numbers of the points (along, up), and the points' parameters u and v (along, up)."""
    u, v = np.meshgrid(np.linspace(0, 1, along), np.linspace(0, 1, up), indexing="ij")
    index = np.arange(along * up).reshape(along, up)
    a, b, c, d = (x.ravel() for x in (index[:-1, :-1], index[1:, :-1], index[1:, 1:], index[:-1, 1:]))
    faces = np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])
    return surface.points(u, v).reshape(-1, 3), faces, index, u, v
