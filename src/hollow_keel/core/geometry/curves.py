"""Interpolating curves through drawn points, measured by their own length."""

from __future__ import annotations

import numpy as np

from ..newest import Newest
from .arrays import Array, BoolArray, lengths, steps_along
from .tangents import fair_slopes

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(6)
_PARTS = 4
"""Cells between two drawn points in which the length is summed."""
_MOST_STEPS, _SETTLED = 8, 1e-6
_MOST_TOLD = 6


DRAWN_POINTS = 33


class LoftCurve:
    """A cubic through points over their chord length, with not-a-knot ends and the slopes of `tangents.fair_slopes`.

    `points` has shape (n, d), n >= 2, no two neighbours equal. Two points give a straight line,
    three a parabola. Lengths in the unit of the points.
    """

    def __init__(self, points: Array) -> None:
        self.points = np.asarray(points, dtype=float)
        self._steps = steps_along(self.points)
        if len(self.points) < 2 or np.any(self._steps <= 0):
            raise ValueError("a curve needs at least two points, no two neighbours equal")
        self.chords = np.concatenate([[0.0], np.cumsum(self._steps)])
        self._told: dict[bytes, Array] = {}  # the newest answers of at_fractions: curves outlive an edit
        self._crossed: dict[tuple[float, ...], float | None] = {}
        self._powers = self._cells()
        fine = self.chords[:-1, None] + self._steps[:, None] * np.arange(_PARTS) / _PARTS
        self._grid = np.append(fine.ravel(), self.chords[-1])
        self._lengths = np.concatenate([[0.0], np.cumsum(self._length(self._grid[:-1], self._grid[1:]))])

    def _cells(self) -> Array:
        """Coefficients of t^0 … t^3 from each drawn point on, (n - 1, 4, d)."""
        h = self._steps[:, None]
        rises = np.diff(self.points, axis=0) / h
        start, stop = fair_slopes(self.points)
        square = (3 * rises - 2 * start - stop) / h
        cube = (start + stop - 2 * rises) / h**2
        return np.stack([self.points[:-1], start, square, cube], axis=1)

    def _at(self, chord: Array) -> tuple[Array, Array]:
        """Points and velocities at chord lengths of any shape; each has one more axis."""
        cell = np.clip(np.searchsorted(self.chords, chord, side="right") - 1, 0, len(self._steps) - 1)
        c0, c1, c2, c3 = np.moveaxis(self._powers[cell], -2, 0)
        t = (chord - self.chords[cell])[..., None]
        return c0 + t * (c1 + t * (c2 + t * c3)), c1 + t * (2 * c2 + 3 * t * c3)

    def _length(self, low: Array, high: Array) -> Array:
        """Lengths between chord lengths, each pair within one cell."""
        at = low[:, None] + (high - low)[:, None] * (_NODES + 1) / 2
        speed = lengths(self._at(at)[1])
        result: Array = (speed * _WEIGHTS).sum(axis=1) * (high - low) / 2
        return result

    @property
    def length(self) -> float:
        """Length of the whole curve, mm."""
        return float(self._lengths[-1])

    @property
    def fractions(self) -> Array:
        """Fraction of the length at which each drawn point stands; shape (n,), from 0 to 1."""
        result: Array = self._lengths[::_PARTS] / self.length
        return result

    def at_fractions(self, fractions: Array) -> Array:
        """Points, mm, at fractions (k,), 0 to 1, of the length; shape (k, d)."""
        asked = np.asarray(fractions, dtype=float)
        key = asked.tobytes()
        if key not in self._told:
            if len(self._told) >= _MOST_TOLD:
                del self._told[next(iter(self._told))]
            self._told[key] = self._at_lengths(asked * self.length)
        return self._told[key].copy()

    def _at_lengths(self, wanted: Array) -> Array:
        cell = np.clip(np.searchsorted(self._lengths, wanted, side="right") - 1, 0, len(self._grid) - 2)
        start, stop, left = self._grid[cell], self._grid[cell + 1], self._lengths[cell]
        at = start + (stop - start) * (wanted - left) / (self._lengths[cell + 1] - left)
        for _ in range(_MOST_STEPS):  # Newton on the length within the cell, which it never leaves
            step = (wanted - left - self._length(start, at)) / lengths(self._at(at)[1])
            at = np.clip(at + step, start, stop)
            if np.abs(step).max(initial=0.0) < _SETTLED * self.length:
                break
        return self._at(at)[0]

    def fraction_where(self, axis: int, value: float) -> float | None:
        """Smallest fraction of the length at which coordinate `axis` takes `value`, mm; None if never."""
        weights = np.zeros(self.points.shape[1])
        weights[axis] = 1.0
        return self.fraction_across(weights, value)

    def fraction_across(self, weights: Array, value: float) -> float | None:
        """Smallest fraction at which the sum of the coordinates times `weights` (d,) takes `value`, mm: the first
        crossing of a plane; None if never."""
        key = (*weights.tolist(), value)
        if key not in self._crossed:
            self._crossed[key] = self._first_across(weights, value)
        return self._crossed[key]

    def _first_across(self, weights: Array, value: float) -> float | None:
        powers = self._powers @ weights
        powers[:, 0] -= value
        for k in np.flatnonzero(_may_vanish(powers, self._steps)).tolist():
            c0, c1, c2, c3 = powers[k]
            roots = np.roots([c3, c2, c1, c0])
            real = roots[np.abs(roots.imag) < 1e-9].real
            inside = real[(real >= -1e-9) & (real <= self._steps[k] + 1e-9)]
            if len(inside):
                at = self.chords[k] + max(float(inside.min()), 0.0)
                cell = int(np.clip(np.searchsorted(self._grid, at, side="right") - 1, 0, len(self._grid) - 2))
                within = self._length(self._grid[cell : cell + 1], np.array([at]))[0]
                return float((self._lengths[cell] + within) / self.length)
        return None


def _may_vanish(powers: Array, steps: Array) -> BoolArray:
    """Which cubics (n, 4), low power first, may have a root within 0..step: those whose Bernstein coefficients do
    not all have one sign."""
    h = steps[:, None] ** np.arange(4)
    a, b, c, d = (powers * h).T
    net = np.stack([a, a + b / 3, a + 2 * b / 3 + c / 3, a + b + c + d])
    slack = 1e-9 * np.abs(net).max(axis=0)
    result: BoolArray = (net.min(axis=0) <= slack) & (net.max(axis=0) >= -slack)
    return result


class KeptCurves:
    """Makes LoftCurves and keeps the newest: after an edit all stations but one are as they were."""

    def __init__(self, most: int = 400) -> None:
        self._kept: Newest[bytes, LoftCurve] = Newest(most)

    def __call__(self, points: Array) -> LoftCurve:
        """The curve through `points` (n, 3)."""
        return self._kept.value(points.tobytes(), lambda: LoftCurve(points))


def cubics_through(points: Array, count: int = DRAWN_POINTS) -> Array:
    """The cubics over chords through points (n, 2 or 3), any one unit, n > 1, none on the one before: (count, 2 or 3), at even
    steps of the chords. The same as a `LoftCurve` makes, without its measuring."""
    steps = steps_along(points)
    chords = np.concatenate([[0.0], np.cumsum(steps)])
    at = np.linspace(0.0, chords[-1], count)
    cell = np.clip(np.searchsorted(chords, at, side="right") - 1, 0, len(steps) - 1)
    h, slopes = steps[cell, None], fair_slopes(points)
    t = (at - chords[cell])[:, None] / h
    drawn: Array = (
        (1 + 2 * t) * (1 - t) ** 2 * points[cell]
        + t * (1 - t) ** 2 * h * slopes[0][cell]
        + t * t * (3 - 2 * t) * points[cell + 1]
        - t * t * (1 - t) * h * slopes[1][cell]
    )
    return drawn
