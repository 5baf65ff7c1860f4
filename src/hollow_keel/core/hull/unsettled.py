"""How far the table settles the hull: two fair curves through the same points, and how far they lie apart.

One keeps its curvature continuous, as a batten does; the other takes at every point the tangent of the circle through it and
its neighbours. Where they agree any fair curve does; where they part, only one more offset tells. On the study of docs/method.md
the way between them is of the size of the true error: half of it to twice, as a rule.
"""

from __future__ import annotations

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
    place half-way between two offsets at which one more would settle it."""

    station: float
    by: float
    half_breadth: float
    height: float


def unsettled(lines: Lines) -> tuple[Unsettled, ...]:
    """Every station of the table, from the bow aft."""
    return tuple(_section(section.x, section.points, section.knuckles) for section in lines.stations)


def unsettled_at(stations: tuple[Unsettled, ...], x: float) -> float:
    """How far a section at x may lie out, mm: as at the stations next to it, whichever is told less well."""
    before = [s for s in stations if s.station <= x + 1e-6]
    after = [s for s in stations if s.station >= x - 1e-6]
    return max((s.by for s in (*before[-1:], *after[:1])), default=0.0)


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
        cell, place = np.unravel_index(int(np.argmax(apart)), apart.shape)
        if apart[cell, place] > best[0]:
            best = (float(apart[cell, place]), one[cell, 1])
    by, at = best
    return Unsettled(x, by, float(at[1]), float(at[2]))


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
