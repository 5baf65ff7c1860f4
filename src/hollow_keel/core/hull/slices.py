"""Waterlines, buttocks and diagonals: where planes that run along the hull cut its skin."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.surface import TensorSurface
from ..offsets.table import LineKind, TableLine
from .build import Hull

TOUCHING_MM = 1e-3
"""A plane that meets the edge of the skin to within this is at it."""


@dataclass(frozen=True)
class Slice:
    """A plane a·half-breadth + b·height = level that runs along the hull."""

    out: float
    up: float
    level: float


def waterline_at(height: float) -> Slice:
    """The level plane at a height, mm."""
    return Slice(0.0, 1.0, height)


def buttock_at(half_breadth: float) -> Slice:
    """The upright plane at a half-breadth, mm."""
    return Slice(1.0, 0.0, half_breadth)


def diagonal_at(height: float, angle: float) -> Slice:
    """The plane from the centreline at a height, going down outward at `angle` (radians) from level."""
    return Slice(float(np.sin(angle)), float(np.cos(angle)), height * float(np.cos(angle)))


def slice_along(plane: TableLine) -> Slice:
    """The plane of a line of the table."""
    if plane.kind is LineKind.WATERLINE:
        return waterline_at(plane.level)
    if plane.kind is LineKind.BUTTOCK:
        return buttock_at(plane.level)
    return diagonal_at(plane.level, float(np.radians(plane.angle)))


def slice_hull(hull: Hull, planes: list[Slice], steps: int = 81) -> list[Array]:
    """Where each plane cuts the skin, bow to stern: rows (position, half-breadth, height), (n, 3) mm; empty where it does not.

    `steps` lines across the hull are looked at.
    """
    found: list[list[Array]] = [[] for _ in planes]
    u, v = np.linspace(0, 1, steps), np.linspace(0, 1, 49)
    for panel in hull.panels:
        grid = panel.surface.points(u[:, None], v[None, :])
        for k, plane in enumerate(planes):
            line = _crossing(panel.surface, grid, u, v, plane)
            if len(line):
                found[k].append(line)
    return [_in_order(parts) for parts in found]


def _crossing(surface: TensorSurface, grid: Array, u: Array, v: Array, plane: Slice) -> Array:
    level = grid[..., 1] * plane.out + grid[..., 2] * plane.up - plane.level
    rows, cells = np.nonzero((level[:, :-1] < 0) & (level[:, 1:] >= -TOUCHING_MM))
    if not len(rows):
        return np.zeros((0, 3))
    a, b = level[rows, cells], level[rows, cells + 1]
    at = np.minimum(v[cells] + (v[1] - v[0]) * a / (a - b), 1.0)
    for _ in range(3):
        jet = surface.jet(u[rows], at)
        steep = jet.dv[:, 1] * plane.out + jet.dv[:, 2] * plane.up
        miss = jet.point[:, 1] * plane.out + jet.point[:, 2] * plane.up - plane.level
        at = np.clip(at - miss / np.where(np.abs(steep) > 1e-9, steep, np.inf), 0.0, 1.0)
    return surface.points(u[rows], at)


def _in_order(parts: list[Array]) -> Array:
    if not parts:
        return np.zeros((0, 3))
    line = np.concatenate(parts)
    result: Array = line[np.argsort(line[:, 0], kind="stable")]
    return result
