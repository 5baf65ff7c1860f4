"""Volume and areas of a hull, by quadrature on its own surface."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, lengths
from ..geometry.surface import TensorSurface, cross
from .build import Hull

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(3)
LOOKED, FINER = 80, 3
"""Cells that the widest place is looked for in, and how many times in finer ones."""
_CELLS_U, _CELLS_V = 28, 16


@dataclass(frozen=True)
class Measures:
    """Whole hull, both sides. Lengths mm, areas m², volume m³; volume counted from the centre plane."""

    length: float
    beam: float
    volume: float
    wetted_area: float
    planked_area: float


def measure(hull: Hull, waterline: float) -> Measures:
    """Measures of the hull; volume and wetted area lie below height `waterline` (mm)."""
    volume, wetted, planked = np.sum([_integrals(p.surface, waterline) for p in hull.panels], axis=0)
    even = np.linspace(0, 1, 201)
    cloud = np.concatenate([p.surface.points(even[:, None], even[None, ::10]).reshape(-1, 3) for p in hull.panels])
    return Measures(
        length=float(np.ptp(cloud[:, 0])),
        beam=2 * max(_half_breadth(p.surface) for p in hull.panels),
        volume=float(2 * volume * 1e-9),
        wetted_area=float(2 * wetted * 1e-6),
        planked_area=float(2 * planked * 1e-6),
    )


def _half_breadth(surface: TensorSurface) -> float:
    """The greatest half-breadth of a surface, mm: of even places, and then of finer ones about the widest of them."""
    u, v, cell = np.linspace(0, 1, LOOKED + 1), np.linspace(0, 1, LOOKED + 1), 1.0 / LOOKED
    for _ in range(FINER):
        half = surface.points(u[:, None], v[None, :])[..., 1]
        i, j = np.unravel_index(int(np.argmax(half)), half.shape)
        u, v = (np.linspace(max(at - cell, 0.0), min(at + cell, 1.0), LOOKED // 2 + 1) for at in (u[i], v[j]))
        cell /= LOOKED / 4
    return float(half.max())


def _integrals(surface: TensorSurface, height: float) -> tuple[float, float, float]:
    """Half volume (mm³, from the centre plane) and half area (mm²) below a height, and half area of the whole."""
    u, u_weight = gauss_points(np.linspace(0, 1, _CELLS_U + 1)[:-1], np.linspace(0, 1, _CELLS_U + 1)[1:])
    u, u_weight = u.ravel(), u_weight.ravel()
    edges = np.linspace(0, 1, _CELLS_V + 1)
    z = surface.points(u[:, None], edges[None, :])[..., 2]
    low, high = wet_part(surface, u, edges, z, height)
    cut_below = low > edges[:-1]
    dry_low, dry_high = np.where(cut_below, edges[:-1], high), np.where(cut_below, low, edges[1:])
    v, v_weight = gauss_points(np.stack([low, dry_low]), np.stack([high, dry_high]))  # (wet or dry, nu, cells, nodes)
    weight = u_weight[:, None, None] * v_weight
    some = weight > 0
    jet = surface.jet(np.broadcast_to(u[:, None, None], v.shape)[some], v[some])
    product = cross(jet.dv, jet.du)
    area = weight[some] * lengths(product)
    wet = int(np.count_nonzero(some[0]))
    volume = float(np.sum((weight[some] * jet.point[:, 1] * product[:, 1])[:wet]))
    return volume, float(area[:wet].sum()), float(area.sum())


def gauss_points(low: Array, high: Array) -> tuple[Array, Array]:
    """Three points of Gauss and their weights between `low` and `high`, of any one shape and unit; one axis of three more each."""
    half = (high - low)[..., None] / 2
    return low[..., None] + half * (_NODES + 1), half * _WEIGHTS


def wet_part(surface: TensorSurface, u: Array, edges: Array, z: Array, height: float) -> tuple[Array, Array]:
    """Low and high ends, (n, m) each, of the part of each of m cells in v that lies below `height`, mm, at each u (n,). The cells
    have `edges` (m + 1,), at heights z (n, m + 1), mm. Cells wholly above are empty."""
    low = np.broadcast_to(edges[:-1], (len(u), len(edges) - 1)).copy()
    high = np.broadcast_to(edges[1:], low.shape).copy()
    wet_low, wet_high = z[:, :-1] < height, z[:, 1:] < height
    dry = ~wet_low & ~wet_high
    high[dry] = low[dry]
    cut = wet_low != wet_high
    if np.any(cut):
        rows, columns = np.nonzero(cut)
        a, b = z[rows, columns], z[rows, columns + 1]
        at = edges[columns] + (height - a) / (b - a) * (edges[1] - edges[0])
        for _ in range(3):
            jet = surface.jet(u[rows], at)
            at = np.clip(at + (height - jet.point[:, 2]) / jet.dv[:, 2], edges[columns], edges[columns + 1])
        rising = wet_low[rows, columns]
        high[rows[rising], columns[rising]] = at[rising]
        low[rows[~rising], columns[~rising]] = at[~rising]
    return low, high
