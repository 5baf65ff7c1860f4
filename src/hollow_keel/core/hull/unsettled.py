"""How far the table settles the hull: two fair curves through the same points, and how far they lie apart.

One keeps its curvature continuous, as a batten does; the other takes at every point the tangent of the circle through it and
its neighbours. Where they agree any fair curve does; where they part, only one more offset tells. On the study of docs/method.md
the way between them is of the size of the true error: half of it to twice, as a rule.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.tangents import arc_slopes, fair_slopes
from ..offsets.table import Lines, spans

SHOWN_MM = 1.0
"""What a builder would see: smaller doubts are not told."""
PLACES = np.array([0.25, 0.5, 0.75])
MOST_SAID = 6


@dataclass(frozen=True)
class Unsettled:
    """At a station, mm along the hull: how far two fair sections lie apart at most, mm, and where: half-breadth and height of the
    place half-way between two offsets at which one more would settle it. `places` (n, 3) are half-breadths, heights and how far the
    two lie apart there, keel to sheer."""

    station: float
    by: float
    half_breadth: float
    height: float
    places: Array

    def beside(self, points: Array) -> Array:
        """How far apart the two lie where they come nearest to points (m, 3) of the hull, mm (m,)."""
        if not len(self.places):
            return np.zeros(len(points))
        away = np.linalg.norm(points[:, None, 1:] - self.places[None, :, :2], axis=2)
        result: Array = self.places[np.argmin(away, axis=1), 2]
        return result


def unsettled(lines: Lines) -> tuple[Unsettled, ...]:
    """Every station of the table, from the bow aft."""
    return tuple(_section(section.x, section.points, section.knuckles) for section in lines.stations)


def unsettled_at(stations: tuple[Unsettled, ...], x: float) -> float:
    """How far a section at x may lie out, mm: as at the stations next to it, whichever is told less well."""
    before = [s for s in stations if s.station <= x + 1e-6]
    after = [s for s in stations if s.station >= x - 1e-6]
    return max((s.by for s in (*before[-1:], *after[:1])), default=0.0)


def strip_unsettled(stations: tuple[Unsettled, ...], edges: Sequence[Array]) -> float:
    """How far the hull under a strip may lie out, mm: at the stations of the table that its `edges`, each (n, 3), cross."""
    worst = 0.0
    for points in edges:
        for station in stations:
            x = points[:, 0]
            k = np.flatnonzero((x[:-1] - station.station) * (x[1:] - station.station) <= 0)
            if len(k):
                worst = max(worst, float(station.beside(points[k]).max()))
    return worst


def unsettled_findings(stations: tuple[Unsettled, ...]) -> list[Finding]:
    """What an offset more would settle, the worst first."""
    worst = sorted((s for s in stations if s.by > SHOWN_MM), key=lambda s: -s.by)
    return [
        Finding(
            "unsettled", Weight.LOOK, "offsets", f"station {mm(s.station)}",
            f"Between two of its offsets the section may lie {mm(round(s.by, 1))} either way: the points are too few to tell. "
            f"One more, near half-breadth {mm(round(s.half_breadth))} and height {mm(round(s.height))}, settles it.",
        )
        for s in worst[:MOST_SAID]
    ]  # fmt: skip


def _section(x: float, points: Array, knuckles: tuple[int, ...]) -> Unsettled:
    best = (0.0, points[0])
    places: list[Array] = []
    for part in spans(len(points), knuckles):
        own = points[part]
        if len(own) < 3:
            continue
        one, other = _drawn(own, fair_slopes(own)), _drawn(own, arc_slopes(own))
        chord = np.diff(own, axis=0)
        chord /= np.linalg.norm(chord, axis=1, keepdims=True)
        off = other - one
        off -= (off * chord[:, None]).sum(axis=2, keepdims=True) * chord[:, None]
        apart = np.linalg.norm(off, axis=2)
        places.append(np.column_stack([one[..., 1].ravel(), one[..., 2].ravel(), apart.ravel()]))
        places.append(np.column_stack([own[:, 1], own[:, 2], np.zeros(len(own))]))
        cell, place = np.unravel_index(int(np.argmax(apart)), apart.shape)
        if apart[cell, place] > best[0]:
            best = (float(apart[cell, place]), one[cell, 1])
    by, at = best
    return Unsettled(
        x, by, float(at[1]), float(at[2]), np.concatenate(places) if places else np.zeros((0, 3))
    )


def _drawn(points: Array, slopes: tuple[Array, Array]) -> Array:
    """Places within every cell of the cubics with these slopes, (cells, places, 3)."""
    steps = np.linalg.norm(np.diff(points, axis=0), axis=1)[:, None, None]
    t = PLACES[None, :, None]
    low, high = points[:-1, None], points[1:, None]
    start, stop = slopes[0][:, None] * steps, slopes[1][:, None] * steps
    drawn: Array = (
        (1 + 2 * t) * (1 - t) ** 2 * low
        + t * (1 - t) ** 2 * start
        + t * t * (3 - 2 * t) * high
        - t * t * (1 - t) * stop
    )
    return drawn
