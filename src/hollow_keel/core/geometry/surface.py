"""A bicubic surface over the unit square, with its derivatives and its metric.

u runs bow -> stern, v from the lower edge to the upper; points are (x aft, y out, z up) in mm.
Beyond the unit square the surface is carried on, so that fronts and offsets can be followed past an
edge and trimmed there: past the ends with the curvature it has along the hull (second order), past the
lower and upper edge straight (first order).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arrays import Array, BoolArray, IntArray, lengths
from .batch_spline import even_spline_slopes


def cross(a: Array, b: Array) -> Array:
    """Cross product of rows (n, 3) with (n, 3), in the product of their units; several times faster than the general one on short
    arrays."""
    result = np.empty(np.broadcast_shapes(a.shape, b.shape))
    result[:, 0] = a[:, 1] * b[:, 2] - a[:, 2] * b[:, 1]
    result[:, 1] = a[:, 2] * b[:, 0] - a[:, 0] * b[:, 2]
    result[:, 2] = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    return result


def dot(a: Array, b: Array) -> Array:
    """Dot product of rows (n, 3) with (n, 3), (n,), in the product of their units."""
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

    def part(self, rows: slice | BoolArray) -> Jet:
        """Some of the n rows: a slice, or where an array (n,) is true."""
        return Jet(*(field[rows] for field in (self.point, self.du, self.dv, self.duu, self.duv, self.dvv)))

    def products(self) -> Array:
        """The inner products of du, dv, duu, duv and dvv (mm per unit of u, v) with each other, (5, 5, n), mm²."""
        table = np.empty((3, 5, len(self.du)))
        for k, field in enumerate((self.du, self.dv, self.duu, self.duv, self.dvv)):
            table[:, k] = field.T
        result: Array = np.einsum("kin,kjn->ijn", table, table)
        return result

    @property
    def normal(self) -> Array:
        """Unit normal, (n, 3), outward (to +y on the side of a hull)."""
        vector = cross(self.dv, self.du)
        size = lengths(vector)[..., None]
        result: Array = vector / np.where(size > 0, size, 1.0)
        return result


class TensorSurface:
    """Bicubic interpolation of a grid of points, shape (nu, nv, 3), at even steps of u and v. Past its ends it goes on with the
    curvature that it has there, or `straight_ends`."""

    def __init__(self, grid: Array, *, straight_ends: bool = False) -> None:
        nu, nv = grid.shape[:2]
        self.grid = grid
        self._cells = (nu - 1, nv - 1)
        self._counts = np.array([[nu - 1], [nv - 1]])
        slopes_u = np.tensordot(even_spline_slopes(nu), grid, 1)
        slopes_v = np.matmul(even_spline_slopes(nv), grid)
        twists = np.matmul(even_spline_slopes(nv), slopes_u)
        # (cell u, cell v, power of v, component, power of u): two small products give a jet
        cells = np.zeros((nu + 1, nv + 1, 4, 3, 4))
        lines, changes = np.empty((2, nu - 1, nv, 3, 4))  # along u, and how they change along v
        _fill_powers(np.moveaxis(lines, -1, 0), grid, slopes_u, 1.0 / (nu - 1))
        _fill_powers(np.moveaxis(changes, -1, 0), slopes_v, twists, 1.0 / (nu - 1))
        inner = cells[1:-1, 1:-1].transpose(2, 1, 0, 3, 4)
        _fill_powers(inner, lines.swapaxes(0, 1), changes.swapaxes(0, 1), 1.0 / (nv - 1))
        _continue(np.moveaxis(cells, 4, 1), 1.0 / (nu - 1), order=1 if straight_ends else 2)
        _continue(np.moveaxis(cells, (1, 2), (0, 1)), 1.0 / (nv - 1), order=1)
        self._coefficients = cells.reshape(nu + 1, nv + 1, 12, 4)

    def jet(self, u: Array, v: Array) -> Jet:
        """Point (mm) and derivatives (mm per unit of u, v) at (u, v), 0 to 1, arrays of one shape (n,)."""
        places = np.array([u, v], dtype=float)
        (iu, iv), (du, dv) = self._locate(places, self._counts)
        along, across = _powers(np.concatenate([du, dv])).reshape(2, -1, 4, 3)  # one call for both: short arrays
        along = np.matmul(self._coefficients[iu, iv], along)  # (n, kv · c, order u)
        full = np.matmul(across.transpose(0, 2, 1), along.reshape(-1, 4, 9))
        d = full.reshape(-1, 3, 3, 3)  # (n, order v, c, order u)
        return Jet(d[:, 0, :, 0], d[:, 0, :, 1], d[:, 1, :, 0], d[:, 0, :, 2], d[:, 1, :, 1], d[:, 2, :, 0])

    def points(self, u: Array, v: Array) -> Array:
        """Points, mm, at (u, v), 0 to 1, any one shape; the result has one more axis of 3."""
        u, v = np.asarray(u, dtype=float), np.asarray(v, dtype=float)
        if u.ndim == 2 and v.ndim == 2 and u.shape[1] == v.shape[0] == 1 and v.shape[1] > self._cells[1]:
            return self._on_net(u[:, 0], v[0], 1)[:, :, 0, :, 0]  # every u with every v
        u, v = np.broadcast_arrays(u, v)
        places = np.stack([u.ravel(), v.ravel()])
        (iu, iv), steps = self._locate(places, self._counts)
        powers = np.stack([np.ones_like(steps), steps, steps * steps, steps * steps * steps], axis=-1)
        along = np.einsum("nck,nk->nc", self._coefficients[iu, iv], powers[0])
        result: Array = np.einsum("nkc,nk->nc", along.reshape(-1, 4, 3), powers[1])
        return result.reshape(*u.shape, 3)

    def net(self, u: Array, v: Array) -> tuple[Array, Array, Array]:
        """Point (mm), du and dv (mm per unit of u, v) of every u (n,) with every v (m,), 0 to 1: (n, m, 3) each."""
        net = self._on_net(u, v, 2)
        return net[:, :, 0, :, 0], net[:, :, 0, :, 1], net[:, :, 1, :, 0]

    def densities(self, u: Array, v: Array) -> Array:
        """Area by unit of u and v, mm², of every u (n,) with every v (m,), 0 to 1: (n, m)."""
        _, du, dv = self.net(u, v)
        found: Array = lengths(cross(du.reshape(-1, 3), dv.reshape(-1, 3))).reshape(du.shape[:2])
        return found

    def _on_net(self, u: Array, v: Array, orders: int) -> Array:
        """Points and derivatives of every u (n,) with every v (m,), (n, m, order v, 3, order u): what depends on u alone is worked
        out once for all v."""
        (iu, du), (iv, dv) = self._locate(u, self._cells[0]), self._locate(v, self._cells[1])
        along = np.matmul(self._coefficients[iu], _powers(du)[:, None, :, :orders])[:, iv]
        full = np.matmul(_powers(dv)[:, :, :orders].transpose(0, 2, 1), along.reshape(len(u), len(v), 4, 3 * orders))
        result: Array = full.reshape(len(u), len(v), orders, 3, orders)
        return result

    def coefficients(self) -> Array:
        """The surface's polynomials, (nu + 1, nv + 1, 3, 16), mm: for each cell and each component the factors of u⁰ to u³ in turn
        for v⁰ to v³, u and v measured from where the cell begins. The first and last cells either way are what it goes on with."""
        cells = self._coefficients.reshape(*self._coefficients.shape[:2], 4, 3, 4)
        result: Array = cells.swapaxes(2, 3).reshape(*cells.shape[:2], 3, 16)
        return result

    @staticmethod
    def _locate(t: Array, cells: int | IntArray) -> tuple[Array, Array]:
        index = np.floor(t * cells)
        index = np.fmin(np.fmax(index, -1), cells)  # nan counts as before the first
        index = index - ((t >= 1.0) & (t <= 1.0 + 1e-12))  # the far edge has the surface's own curvature
        base = np.maximum(index, 0) / cells
        return index.astype(int) + 1, t - base  # cell 0 and cell n+1 are the continuations


def _fill_powers(powers: Array, values: Array, slopes: Array, width: float) -> None:
    """Fill in the coefficients of t^0 … t^3, four arrays, in each cell along axis 0 of values and slopes at its ends."""
    rise = (values[1:] - values[:-1]) / width
    first, second = slopes[:-1], slopes[1:]
    powers[0], powers[1] = values[:-1], first
    powers[2] = (3 * rise - 2 * first - second) / width
    powers[3] = (first + second - 2 * rise) / width**2


def _powers(t: Array) -> Array:
    """Powers 1, t, t², t³ and their first and second derivatives; shape (n, 4, 3 orders)."""
    square = t * t
    table = np.zeros((len(t), 4, 3))
    table[:, 0, 0] = 1.0
    table[:, 1, 0], table[:, 1, 1] = t, 1.0
    table[:, 2, 0], table[:, 2, 1], table[:, 2, 2] = square, 2 * t, 2.0
    table[:, 3, 0], table[:, 3, 1], table[:, 3, 2] = square * t, 3 * square, 6 * t
    return table


def _continue(cells: Array, width: float, order: int) -> None:
    """Fill the first and the last cell of axis 0 with their neighbours', cut off at `order`; powers stand on axis 1."""
    first, last = cells[1], cells[-2]
    cells[0, : order + 1] = first[: order + 1]
    cells[-1, 0] = last[0] + width * (last[1] + width * (last[2] + width * last[3]))
    cells[-1, 1] = last[1] + width * (2 * last[2] + 3 * width * last[3])
    if order > 1:
        cells[-1, 2] = last[2] + 3 * width * last[3]
