"""Interpolating curves through drawn points, measured by their own length."""

from __future__ import annotations

import numpy as np

from .arrays import Array

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(6)


class LoftCurve:
    """A cubic through points over their chord length, with not-a-knot ends.

    `points` has shape (n, d), n >= 2, no two neighbours equal. Two points give a straight line,
    three a parabola. Lengths in the unit of the points.
    """

    def __init__(self, points: Array) -> None:
        self.points = np.asarray(points, dtype=float)
        steps = np.linalg.norm(np.diff(self.points, axis=0), axis=1)
        if len(self.points) < 2 or np.any(steps <= 0):
            raise ValueError("a curve needs at least two points, no two neighbours equal")
        self.chords = np.concatenate([[0.0], np.cumsum(steps)])
        from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

        self._spline = CubicSpline(self.chords, self.points)
        self._velocity = self._spline.derivative()
        # Cumulative length on a grid eight times finer than the points.
        fine = [np.linspace(a, b, 9)[:-1] for a, b in zip(self.chords[:-1], self.chords[1:], strict=True)]
        self._grid = np.append(np.concatenate(fine), self.chords[-1])
        self._lengths = np.concatenate([[0.0], np.cumsum(self._cell_lengths())])

    def _cell_lengths(self) -> Array:
        low, high = self._grid[:-1, None], self._grid[1:, None]
        at = low + (high - low) * (_NODES + 1) / 2
        speed = np.linalg.norm(self._velocity(at), axis=-1)
        result: Array = (speed * _WEIGHTS).sum(axis=1) * (high - low)[:, 0] / 2
        return result

    @property
    def length(self) -> float:
        """Length of the whole curve."""
        return float(self._lengths[-1])

    def length_to_point(self, index: int) -> float:
        """Length from the first point to the given point, along the curve."""
        return float(np.interp(self.chords[index], self._grid, self._lengths))

    def at_fractions(self, fractions: Array) -> Array:
        """Points at fractions (0..1) of the length; shape (k, d)."""
        wanted = np.asarray(fractions, dtype=float) * self.length
        cell = np.clip(np.searchsorted(self._lengths, wanted, side="right") - 1, 0, len(self._grid) - 2)
        start, stop = self._grid[cell], self._grid[cell + 1]
        left = self._lengths[cell]
        at = start + (stop - start) * (wanted - left) / (self._lengths[cell + 1] - left)
        for _ in range(3):  # Newton on the length within the cell
            nodes = start[:, None] + (at - start)[:, None] * (_NODES + 1) / 2
            speed = np.linalg.norm(self._velocity(nodes), axis=-1)
            reached = left + (speed * _WEIGHTS).sum(axis=1) * (at - start) / 2
            at = at + (wanted - reached) / np.linalg.norm(self._velocity(at), axis=-1)
        points: Array = self._spline(at)
        return points

    def fraction_where(self, axis: int, value: float) -> float | None:
        """Smallest fraction of the length at which coordinate `axis` takes `value`; None if never."""
        roots = self._spline.solve(value, extrapolate=False)[axis]
        roots = roots[np.isfinite(roots)]
        if len(roots) == 0:
            return None
        at = float(np.min(roots))
        cell = int(np.clip(np.searchsorted(self._grid, at, side="right") - 1, 0, len(self._grid) - 2))
        start = self._grid[cell]
        nodes = start + (at - start) * (_NODES + 1) / 2
        within = float((np.linalg.norm(self._velocity(nodes), axis=-1) * _WEIGHTS).sum() * (at - start) / 2)
        return float((self._lengths[cell] + within) / self.length)
