"""Lines on a surface that are worked on together, for short arrays cost as much as long ones."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..geometry.arrays import Array, BoolArray, IntArray, lengths, steps_along

BETWEEN_MM = 1000.0
"""Lines are taken to follow each other so far apart: no stretch that is looked at reaches over to the next."""


class Lines:
    """Lines, all their places in turn: `points` (n, 3), mm, and surface parameters `uv` (n, 2); `of` (n,) which line each belongs
    to; `run` (n,) how far along, mm, on from each line to the next; `first` and `last` each line's own, and `long` (lines,) its
    length, mm. Every line has a place."""

    def __init__(self, points: Array, uv: Array, of: IntArray) -> None:
        self.points, self.uv, self.of = points, uv, of
        self.first = np.searchsorted(of, np.arange(of[-1] + 1))
        self.last = np.append(self.first[1:], len(of)) - 1
        steps = steps_along(points)
        steps[self.last[:-1]] = BETWEEN_MM
        self.run = np.concatenate([[0.0], np.cumsum(steps)])
        self.long = self.run[self.last] - self.run[self.first]

    @classmethod
    def together(cls, points: Sequence[Array], uv: Sequence[Array]) -> Lines:
        """Of lines told by their points (n, 3), mm, and their parameters (n, 2)."""
        of = np.repeat(np.arange(len(points)), [len(own) for own in points])
        return Lines(np.concatenate(points), np.concatenate(uv), of)

    def only(self, some: BoolArray) -> Lines:
        """Some of the places (n,), of every line one at least."""
        return Lines(self.points[some], self.uv[some], self.of[some])

    def apart(self, least: float) -> Lines:
        """Without places that lie no farther than `least` mm from the one before."""
        far = np.concatenate([[True], steps_along(self.points) > least])
        far[self.first] = True
        return self.only(far)

    def along(self) -> Array:
        """How far along its own line each place lies, (n,) mm."""
        along: Array = self.run - self.run[self.first][self.of]
        return along

    def directions(self) -> Array:
        """Unit directions (n, 3) along the lines; nothing where one is a point."""
        place = np.arange(len(self.of))
        after, before = (np.minimum(place + 1, self.last[self.of]), np.maximum(place - 1, self.first[self.of]))
        return unit_rows(self.points[after] - self.points[before])


def unit_rows(ways: Array) -> Array:
    """Directions (n, 3) of ways (n, 3), mm; nothing where there is no way."""
    unit: Array = ways / np.maximum(lengths(ways), 1e-12)[:, None]
    return unit
