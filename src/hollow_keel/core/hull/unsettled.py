"""How far the table settles the hull: two fair curves through the same points, and how far they lie apart; and what the table was
rounded to.

One keeps its curvature continuous, as a batten does; the other takes at every point the tangent of the circle through it and
its neighbours. Where they agree any fair curve does; where they part, only one more offset tells. Along the hull the curves are the
surface's own lengthwise lines from station to station, and what counts is how far they part square to the skin.

How far a mold may be out is made of the three by a law of errors, with weights that were calibrated on ten hulls of closed form
(tests/hulls_of_form.py), each in thirty tables of 5 to 13 stations, of 7 or 11 points each, exact or rounded to 1 mm or an eighth
of an inch: at stations and between them what is told covers forty-nine places of fifty and nineteen molds of twenty wholly,
and is twice the greatest true error of a mold in the median (docs/method.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, lengths, steps_along
from ..geometry.surface import TensorSurface
from ..geometry.tangents import arc_slopes, fair_slopes
from ..offsets.table import Lines, spans
from .build import Hull

SHOWN_MM = 1.0
"""What a builder would see: smaller doubts are not told."""
PLACES = np.array([0.25, 0.5, 0.75])
MOST_SAID = 6
SHOWN_ALONG_MM, MUCH_MM = 4.0, 10.0
"""Between stations less than the first is not told apart, and less than the second for information: a batten over the molds shows
it."""
OUT_SHARE = 0.4
"""On a hull of known form, stations far apart or close, the surface was out by 0.2 to 0.45 of the way between the two."""
SECTION, HALF_WAY, BESIDE, ROUNDED, LEAST_MM = 2.45, 4.5, 0.5, 0.62, 0.25
"""What tells of an error: how far two sections part, how far two lengthwise lines part, by how far from a station the place is and
all along the gap, the step that offsets are rounded to; and what is never less. Calibrated, see above."""
AT_ENDS, END_GAPS = 1.4, 2
"""In so many gaps at each end of the hull lengthwise lines are so many times less to be trusted."""
STEPS_MM = (25.4, 12.7, 10.0, 6.35, 5.0, 3.175, 2.0, 1.5875, 1.0, 0.79375, 0.5, 0.396875, 0.25, 0.1)
MULTIPLES, SAME = 0.95, 0.02
"""Steps that tables are rounded to, and what share of the offsets has to be multiples of one, to such a share of it."""
ALONG, ACROSS, LOWEST, LEAST_GAP_MM = 161, 10, 0.1, 5.0


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


@dataclass(frozen=True)
class Between:
    """From one station to the next, `first` to `last` (mm along the hull; the ends of the hull count): how far the skin may lie out
    there, on one `panel`, at places `v` (n,) up it, mm square to the skin (n,); whether it is one of the gaps at an end."""

    first: float
    last: float
    panel: int
    v: Array
    apart: Array
    at_end: bool = False

    @property
    def trust(self) -> float:
        """How many times less its lines are to be trusted."""
        return AT_ENDS if self.at_end else 1.0

    @property
    def by(self) -> float:
        """The most, mm."""
        return float(self.apart.max())

    def at(self, x: float) -> float:
        """The share of it at a position: all of it half-way, nothing at the stations."""
        t = (x - self.first) / (self.last - self.first)
        return 4 * t * (1 - t) if 0 < t < 1 else 0.0


@dataclass(frozen=True)
class Settled:
    """How far a table settles the hull: at its `stations`, and `between` them, both from the bow aft; the `step`, mm, that its
    offsets are rounded to (0: none)."""

    stations: tuple[Unsettled, ...] = ()
    between: tuple[Between, ...] = ()
    step: float = 0.0

    @property
    def told(self) -> tuple[tuple[float, float], ...]:
        """Every place and how far it is open, mm: what tells two of them apart."""
        return (*((s.station, s.by) for s in self.stations), *((g.first, g.by) for g in self.between))


def unsettled(lines: Lines) -> tuple[Unsettled, ...]:
    """Every station of the table, from the bow aft."""
    return tuple(_section(section.x, section.points, section.knuckles) for section in lines.stations)


def settled(lines: Lines, hull: Hull) -> Settled:
    """Stations, what lies between them, and what they are rounded to."""
    stations = np.array([s.x for s in lines.stations])
    found = [gap for k, panel in enumerate(hull.panels) for gap in _between(panel.surface, k, stations)]
    return Settled(unsettled(lines), tuple(sorted(found, key=lambda gap: gap.first)), rounding_of(lines))


def rounding_of(lines: Lines) -> float:
    """The step, mm, that the offsets of a table are rounded to: the greatest that nearly all of them are multiples of; 0 where
    there is none."""
    values = np.concatenate([s.points[:, 1:].ravel() for s in lines.stations])
    values = values[np.abs(values) > 1e-6]
    for step in STEPS_MM:
        off = np.abs(values / step - np.round(values / step))
        if len(values) and float(np.mean(off < SAME)) >= MULTIPLES:
            return step
    return 0.0


def unsettled_at(told: Settled, x: float) -> float:
    """How far a section at x may lie out, mm: as at the stations next to it, whichever is told less well, as the lines between them
    are open, and as offsets are rounded."""
    before = [s for s in told.stations if s.station <= x + 1e-6]
    after = [s for s in told.stations if s.station >= x - 1e-6]
    section = max((s.by for s in (*before[-1:], *after[:1])), default=0.0)
    here = [gap for gap in told.between if gap.first - 1e-6 <= x <= gap.last + 1e-6]
    lines = max((gap.trust * gap.by * _open(gap, x) for gap in here), default=0.0)
    return _together(told, section, lines)


def _open(gap: Between, x: float) -> float:
    """How much of what its lines part by counts at a position."""
    return float(np.hypot(HALF_WAY * gap.at(x), BESIDE))


def _together(told: Settled, section: float, lines: float) -> float:
    return float(np.sqrt((SECTION * section) ** 2 + lines**2 + (ROUNDED * told.step) ** 2 + LEAST_MM**2))


def strip_unsettled(told: Settled, panel: int, edges: Sequence[tuple[Array, Array]]) -> float:
    """How far the hull under a strip of a panel may lie out, mm: where its `edges`, each points (n, 3) and places (n, 2) on the
    surface, cross the stations of the table and half-way between them."""
    worst = _together(told, 0.0, 0.0) if edges else 0.0
    for points, uv in edges:
        x = points[:, 0]
        for station in told.stations:
            k = np.flatnonzero((x[:-1] - station.station) * (x[1:] - station.station) <= 0)
            if len(k):
                worst = max(worst, _together(told, float(station.beside(points[k]).max()), 0.0))
        for gap in told.between:
            middle = (gap.first + gap.last) / 2
            k = np.flatnonzero((x[:-1] - middle) * (x[1:] - middle) <= 0)
            if gap.panel == panel and len(k):
                apart = gap.trust * float(np.interp(uv[k, 1], gap.v, gap.apart).max()) * _open(gap, middle)
                worst = max(worst, _together(told, 0.0, apart))
    return worst


def half_way(gap: Between) -> float:
    """How far the skin may lie out half-way along a gap by its lines alone, mm."""
    return gap.trust * gap.by * float(np.hypot(HALF_WAY, BESIDE))


def unsettled_findings(told: Settled) -> list[Finding]:
    """What an offset more would settle, the worst first; and where a station more would."""
    worst = sorted((s for s in told.stations if s.by > SHOWN_MM), key=lambda s: -s.by)
    gaps = sorted((g for g in told.between if half_way(g) > SHOWN_ALONG_MM), key=lambda g: -half_way(g))
    along = [
        Finding(
            "unsettled-along",
            Weight.LOOK if half_way(gap) > MUCH_MM else Weight.INFORMATION,
            "offsets",
            f"position {mm(round((gap.first + gap.last) / 2))}",
            f"Half-way between two stations the skin may lie {mm(round(half_way(gap), 1))} either way: they are too far apart to "
            "tell. One more station here settles it.",
        )
        for gap in gaps[:MOST_SAID]
    ]
    return along + [
        Finding(
            "unsettled",
            Weight.LOOK,
            "offsets",
            f"station {mm(s.station)}",
            f"Between two of its offsets the section may lie {mm(round(SECTION * s.by, 1))} either way: the points are too few "
            f"to tell. One more, near half-breadth {mm(round(s.half_breadth))} and height {mm(round(s.height))}, settles it.",
        )
        for s in worst[:MOST_SAID]
    ]


def _between(surface: TensorSurface, number: int, stations: Array) -> list[Between]:
    u, v = np.linspace(0.0, 1.0, ALONG), np.linspace(LOWEST, 1.0, ACROSS)
    lines = surface.points(u[:, None], v[None, :])[..., 0]
    lines = np.maximum.accumulate(lines, axis=0) + np.arange(ALONG)[:, None] * 1e-9
    bow, stern = float(lines[0, -1]), float(lines[-1, -1])
    inside = [stations[(stations > x[0] + LEAST_GAP_MM) & (stations < x[-1] - LEAST_GAP_MM)] for x in lines.T]
    at = [np.concatenate([[0.0], np.interp(own, x, u), [1.0]]) for own, x in zip(inside, lines.T, strict=True)]
    cuts = np.cumsum([len(own) for own in at])[:-1]
    heights = np.repeat(v, [len(own) for own in at])
    points = np.split(surface.points(np.concatenate(at), heights), cuts)
    places = [own[:-1, None] + np.diff(own)[:, None] * PLACES for own in at]
    normals = surface.jet(np.concatenate([p.ravel() for p in places]), np.repeat(v, [p.size for p in places])).normal
    found: dict[tuple[float, float], list[tuple[float, float]]] = {}
    ends = np.cumsum([p.size for p in places])[:-1]
    for height, own, stand, normal in zip(v.tolist(), points, inside, np.split(normals, ends), strict=True):
        apart = _drawn(own, arc_slopes(own)) - _drawn(own, fair_slopes(own))
        out = OUT_SHARE * np.abs((apart * normal.reshape(apart.shape)).sum(axis=2)).max(axis=1)
        edges = [_before(stations, bow, own[0, 0]), *stand.tolist(), -_before(-stations[::-1], -stern, -own[-1, 0])]
        for first, last, by in zip(edges, edges[1:], out.tolist(), strict=False):
            found.setdefault((first, last), []).append((height, by))
    starts = sorted(first for first, last in found if last - first > LEAST_GAP_MM)
    outer = {*starts[:END_GAPS], *starts[-END_GAPS:]}
    return [
        Between(first, last, number, np.array([v for v, _ in told]), np.array([by for _, by in told]), first in outer)
        for (first, last), told in found.items()
        if last - first > LEAST_GAP_MM
    ]


def _before(stations: Array, bow: float, start: float) -> float:
    """The station next before a line's own start, or the end of the hull."""
    passed = stations[stations < start - LEAST_GAP_MM]
    return float(passed[-1]) if len(passed) else bow


def _section(x: float, points: Array, knuckles: tuple[int, ...]) -> Unsettled:
    best = (0.0, points[0])
    places: list[Array] = []
    for part in spans(len(points), knuckles):
        own = points[part]
        if len(own) < 3:
            continue
        one, other = _drawn(own, fair_slopes(own)), _drawn(own, arc_slopes(own))
        chord = np.diff(own, axis=0)
        chord /= lengths(chord)[:, None]
        off = other - one
        off -= (off * chord[:, None]).sum(axis=2, keepdims=True) * chord[:, None]
        apart = np.linalg.norm(off, axis=2)
        places.append(np.column_stack([one[..., 1].ravel(), one[..., 2].ravel(), apart.ravel()]))
        places.append(np.column_stack([own[:, 1], own[:, 2], np.zeros(len(own))]))
        cell, place = np.unravel_index(int(np.argmax(apart)), apart.shape)
        if apart[cell, place] > best[0]:
            best = (float(apart[cell, place]), one[cell, 1])
    by, at = best
    return Unsettled(x, by, float(at[1]), float(at[2]), np.concatenate(places) if places else np.zeros((0, 3)))


def _drawn(points: Array, slopes: tuple[Array, Array]) -> Array:
    """Places within every cell of the cubics with these slopes, (cells, places, 3)."""
    steps = steps_along(points)[:, None, None]
    t = PLACES[None, :, None]
    low, high = points[:-1, None], points[1:, None]
    start, stop = slopes[0][:, None] * steps, slopes[1][:, None] * steps
    drawn: Array = (1 + 2 * t) * (1 - t) ** 2 * low + t * (1 - t) ** 2 * start + t * t * (3 - 2 * t) * high - t * t * (1 - t) * stop
    return drawn
