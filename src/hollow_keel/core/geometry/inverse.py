"""The places of a surface that lie nearest to given points."""

from __future__ import annotations

import numpy as np

from .arrays import Array, lengths
from .surface import TensorSurface

TIMES, SETTLED = 12, 1e-9
OVER = 0.02
"""So far past its ends, in parameters, a surface is looked at still."""


def inverted(surface: TensorSurface, points: Array, inside: float = 0.0, over: float = OVER) -> tuple[Array, Array]:
    """The parameters (n, 2) of a surface's places nearest to points (n, 3), and how far off they are, mm: by Gauss and Newton.
    With `inside`, of what lies so far inside the surface, square to it, mm (small beside its radii); it is looked at `over` its
    ends, too, by so much in parameters."""
    from scipy.spatial import KDTree  # loads slowly: not before it is needed

    even = np.linspace(0.0, 1.0, 41)
    grid = surface.points(even[:, None], even[None, :]).reshape(-1, 3)
    _, near = KDTree(grid).query(points)
    uv = np.column_stack([even[near // 41], even[near % 41]])
    for _ in range(TIMES):
        jet = surface.jet(uv[:, 0], uv[:, 1])
        both = np.stack([jet.du, jet.dv], axis=2)
        away = points - jet.point
        if inside:
            away = away + inside * jet.normal
        step = np.linalg.pinv(both) @ away[:, :, None]
        before, uv = uv, np.clip(uv + step[:, :, 0], -over, 1.0 + over)
        if np.abs(uv - before).max(initial=0.0) < SETTLED:
            break
    jet = surface.jet(uv[:, 0], uv[:, 1])
    at = jet.point - inside * jet.normal if inside else jet.point
    return uv, lengths(points - at)
