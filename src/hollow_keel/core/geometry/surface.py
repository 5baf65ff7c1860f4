"""A bicubic surface over the unit square, with its derivatives and its metric.

u runs bow -> stern, v from the lower edge to the upper; points are (x aft, y out, z up) in mm.
Beyond the unit square the surface is carried on, so that fronts and offsets can be followed past an
edge and trimmed there: past the ends with the curvature it has along the hull (second order), past the
lower and upper edge straight (first order).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arrays import Array


def cross(a: Array, b: Array) -> Array:
    """Cross product of rows, (n, 3); several times faster than the general one on short arrays."""
    result = np.empty(np.broadcast_shapes(a.shape, b.shape))
    result[:, 0] = a[:, 1] * b[:, 2] - a[:, 2] * b[:, 1]
    result[:, 1] = a[:, 2] * b[:, 0] - a[:, 0] * b[:, 2]
    result[:, 2] = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    return result


def dot(a: Array, b: Array) -> Array:
    """Dot product of rows, (n, 3) with (n, 3)."""
    result: Array = np.vecdot(a, b)
    return result


@dataclass(frozen=True)
class Jet:
    """A point of the surface with its first and second derivatives; every field has shape (n, 3)."""

    point: Array
    du: Array
    dv: Array
    duu: Array
    duv: Array
    dvv: Array

    def part(self, rows: slice) -> Jet:
        """Some of the rows."""
        return Jet(*(field[rows] for field in (self.point, self.du, self.dv, self.duu, self.duv, self.dvv)))

    @property
    def normal(self) -> Array:
        """Unit normal, outward (to +y on the side of a hull)."""
        vector = cross(self.dv, self.du)
        size = np.linalg.norm(vector, axis=-1, keepdims=True)
        result: Array = vector / np.where(size > 0, size, 1.0)
        return result


class TensorSurface:
    """Bicubic interpolation of a grid of points, shape (nu, nv, 3), at even steps of u and v."""

    def __init__(self, grid: Array) -> None:
        from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

        nu, nv = grid.shape[:2]
        self.grid = grid
        self._cells = (nu - 1, nv - 1)
        along = CubicSpline(np.linspace(0, 1, nu), grid, axis=0).c  # (4, nu-1, nv, 3), high power first
        both = CubicSpline(np.linspace(0, 1, nv), along, axis=2).c  # (4, nv-1, 4, nu-1, 3)
        low_first = both[::-1, :, ::-1].transpose(3, 1, 2, 0, 4)  # (nu-1, nv-1, ku, kv, 3)
        widened = _continued(low_first, 1.0 / (nu - 1), order=2)
        widened = _continued(widened.transpose(1, 0, 3, 2, 4), 1.0 / (nv - 1), order=1).transpose(
            1, 0, 3, 2, 4
        )
        # (cell u, cell v, power of v · component, power of u): two small products give a jet
        ordered = np.ascontiguousarray(widened.transpose(0, 1, 3, 4, 2))
        self._coefficients = ordered.reshape(*ordered.shape[:2], 12, 4)

    def jet(self, u: Array, v: Array) -> Jet:
        """Point and derivatives at (u, v), arrays of one shape (n,)."""
        u, v = np.asarray(u, dtype=float), np.asarray(v, dtype=float)
        iu, du = self._locate(u, self._cells[0])
        iv, dv = self._locate(v, self._cells[1])
        along = np.matmul(self._coefficients[iu, iv], _powers(du))  # (n, kv · c, order u)
        full = np.matmul(_powers(dv).transpose(0, 2, 1), along.reshape(-1, 4, 9))
        d = full.reshape(-1, 3, 3, 3)  # (n, order v, c, order u)
        return Jet(d[:, 0, :, 0], d[:, 0, :, 1], d[:, 1, :, 0], d[:, 0, :, 2], d[:, 1, :, 1], d[:, 2, :, 0])

    def points(self, u: Array, v: Array) -> Array:
        """Points at (u, v), any one shape; result has one more axis of 3."""
        u, v = np.broadcast_arrays(np.asarray(u, dtype=float), np.asarray(v, dtype=float))
        shape = u.shape
        iu, du = self._locate(u.ravel(), self._cells[0])
        iv, dv = self._locate(v.ravel(), self._cells[1])
        along = np.matmul(self._coefficients[iu, iv], _powers(du)[:, :, :1])
        result: Array = np.matmul(_powers(dv)[:, None, :, 0], along.reshape(-1, 4, 3))
        result = result.reshape(*shape, 3)
        return result

    @staticmethod
    def _locate(t: Array, cells: int) -> tuple[Array, Array]:
        index = np.minimum(
            np.maximum(np.floor(t * cells).astype(int), -1), cells
        )  # np.clip takes twice as long
        index[(t >= 1.0) & (t <= 1.0 + 1e-12)] = cells - 1  # the far edge has the surface's own curvature
        base = np.minimum(np.maximum(index, 0), cells) / cells
        return index + 1, t - base  # cell 0 and cell n+1 are the continuations


def _powers(t: Array) -> Array:
    """Powers 1, t, t², t³ and their first and second derivatives; shape (n, 4, 3 orders)."""
    square = t * t
    table = np.zeros((len(t), 4, 3))
    table[:, 0, 0] = 1.0
    table[:, 1, 0], table[:, 1, 1] = t, 1.0
    table[:, 2, 0], table[:, 2, 1], table[:, 2, 2] = square, 2 * t, 2.0
    table[:, 3, 0], table[:, 3, 1], table[:, 3, 2] = square * t, 3 * square, 6 * t
    return table


def _continued(cells: Array, width: float, order: int) -> Array:
    """Add a cell of the given order before and after along axis 0, whose powers stand on axis 2."""
    before = np.zeros_like(cells[:1])
    before[:, :, : order + 1] = cells[:1, :, : order + 1]
    last = cells[-1:]
    after = np.zeros_like(last)
    after[:, :, 0] = last[:, :, 0] + width * (last[:, :, 1] + width * (last[:, :, 2] + width * last[:, :, 3]))
    after[:, :, 1] = last[:, :, 1] + width * (2 * last[:, :, 2] + 3 * width * last[:, :, 3])
    if order > 1:
        after[:, :, 2] = last[:, :, 2] + 3 * width * last[:, :, 3]
    return np.concatenate([before, cells, after])
