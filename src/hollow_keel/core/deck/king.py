"""The part of a deck that strips cover where a king plank lies on the centreline: from the sheer to the plank's edge."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..geometry.arrays import Array
from ..geometry.surface import TensorSurface
from ..hull.build import Hull, Panel

LEAST_SHARE = 0.02
"""Where the king plank takes the whole deck, strips still have so small a share of it: a sliver."""


def beside_king(deck: Hull, width: float, at_ends: float | None) -> Hull:
    """The deck without a king plank `width` mm wide (and `at_ends` mm at its ends, tapered straight to both from the middle), one
    half of it. Its last panel ends on the plank's edge, `king`."""
    if width <= 0:
        return deck
    last = deck.panels[-1]
    grid = last.surface.grid
    half = _half_widths(grid, width, width if at_ends is None else at_ends)
    return replace(deck, panels=(*deck.panels[:-1], Panel(TensorSurface(_cut(last.surface, half)), last.lower, "king")))


def _half_widths(grid: Array, width: float, at_ends: float) -> Array:
    """Half the plank's width at each step along the deck, (nu,), mm."""
    x = grid[:, -1, 0]
    middle, reach = (x[0] + x[-1]) / 2, max(float(x[-1] - x[0]) / 2, 1e-9)
    share = np.clip(np.abs(x - middle) / reach, 0.0, 1.0)
    result: Array = (width + share * (at_ends - width)) / 2
    return result


def _cut(surface: TensorSurface, half: Array) -> Array:
    """The grid of a surface ended where it is `half` (nu,) mm from the centre plane."""
    nu, nv = surface.grid.shape[:2]
    u, fine = np.linspace(0, 1, nu), np.linspace(0, 1, 401)
    stops = np.empty(nu)
    breadth = surface.points(u[:, None], fine[None, :])[..., 1]
    for k in range(nu):
        inward = np.minimum.accumulate(breadth[k])
        stops[k] = np.interp(-half[k], -inward, fine)
    stops = np.clip(stops, LEAST_SHARE, 1.0)
    for _ in range(3):  # Newton: on the plank's edge to a thousandth
        jet = surface.jet(u, stops)
        move = (half - jet.point[:, 1]) / np.where(np.abs(jet.dv[:, 1]) > 1e-6, jet.dv[:, 1], -1.0)
        stops = np.clip(stops + np.clip(move, -0.05, 0.05), LEAST_SHARE, 1.0)
    result: Array = surface.points(np.repeat(u[:, None], nv, axis=1), stops[:, None] * np.linspace(0, 1, nv)[None, :])
    return result
