"""The hull so far within itself: what strips lie on that have layers of veneer over them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..geometry.arrays import Array
from ..geometry.surface import TensorSurface
from .build import Hull, moved_out

ON_IT_MM = 1e-3
"""So near the centreline is on it."""


def hull_within(hull: Hull, depth: float) -> Hull:
    """Each panel `depth` mm inside itself, square to the skin, and ended where it comes to the centreline: at a sharp stem or a
    keel with deadrise the inner skins of both sides meet before the outer ones do. At a knuckle both panels have their own edge."""
    if depth == 0.0:
        return hull
    panels = tuple(
        replace(panel, surface=TensorSurface(_own_side(moved_out(panel.surface.grid, -depth), lowest=k == 0)))
        for k, panel in enumerate(hull.panels)
    )
    return replace(hull, panels=panels)


def _own_side(grid: Array, *, lowest: bool) -> Array:
    """A grid (nu, nv, 3) of a surface whose ends and, of the `lowest` panel, then whose lower edge are where it comes to the
    centreline, as far as it lies past it."""
    u, v = np.linspace(0, 1, grid.shape[0])[:, None], np.linspace(0, 1, grid.shape[1])[None, :]
    bow, stern = (np.array([_share_past(line) for line in side]) for side in (grid[:, :, 1].T, grid[::-1, :, 1].T))
    if bow.any() or stern.any():
        grid = _at(grid, bow[None, :] + u * (1 - bow - stern)[None, :], v)
    low = np.array([_share_past(line) for line in grid[:, :, 1]]) if lowest else np.zeros(len(grid))
    return _at(grid, u, low[:, None] + v * (1 - low)[:, None]) if low.any() else grid


def _at(grid: Array, u: Array, v: Array) -> Array:
    """The places (nu, nv, 3) of a grid's surface at parameters that are spread out over all of them."""
    u, v = np.broadcast_arrays(u, v)
    points: Array = TensorSurface(grid).points(u.ravel(), v.ravel()).reshape(*u.shape, 3)
    return points


def _share_past(off: Array) -> float:
    """The share of a line, from its beginning, that lies past the centreline (off (n,) mm, its own side positive); none where all
    of it does or none."""
    there = np.flatnonzero(off >= -ON_IT_MM)
    if not len(there) or there[0] == 0:
        return 0.0
    k = int(there[0])
    return float((k - max(off[k], 0.0) / (off[k] - off[k - 1])) / (len(off) - 1))
