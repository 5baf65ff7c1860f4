"""How far it is from a guide to the line that its course ends on, along the rays square to the guide.

Rays that land on that line tell it. Where they land on a stem or a transom instead there is nothing to measure: there it goes on as
it came, so that strips run off at the hull's end as a batten does, and are not drawn together by it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..geometry.arrays import Array
from ..geometry.batch_spline import even_slopes
from ..geometry.easing import eased_anywhere, no_less
from ..geometry.runge import stepped
from .distance import DistanceField, Spread
from .levels import Grid, Patch

PLACES = 401
"""Places of the line that is landed on."""
NODES = 241
"""Guide parameters at which ways are told."""
TELLING_MM = 120.0
"""So much of the line is smoothed over: it is known to some hundredths of a millimetre."""
SLOPE_MM = 250.0
"""The last so many millimetres along the guide tell how the way goes on past where rays land."""
STRAIGHT_MM, DIES_MM = 600.0, 600.0
"""There it goes on so over the first of these, then its slope dies away, to a third of it over the second."""
LEAST_LEFT, SOFT = 0.3, 0.04
"""It never comes to less than such a share of what it is where the last ray lands, and bends as gently as this share of it
tells."""
LEAST_LANDINGS, STEEP = 8, 0.5
"""So many rays have to land on the line to tell it; no edge is taken to lean more."""


@dataclass(frozen=True)
class Ways:
    """The `whole` way, mm (n,), to the line that a course ends on, by even guide parameters `g` (n,); rays land on that line
    between `landing` of them, elsewhere it is carried on; how the rays `spread` on the way; and how wide a strip that
    were alone would be, square to itself, at its widest place on the hull, mm."""

    g: Array
    whole: Array
    landing: tuple[float, float]
    spread: Spread
    widest: float

    @classmethod
    def of(cls, patch: Patch, field: DistanceField, grid: Grid) -> Ways:
        """Measure them over all guide parameters that the rays of a patch have."""
        u = np.linspace(0.0, 1.0, PLACES)
        there, feet = field.feet(patch.surface.points(*patch.places(u, np.ones_like(u))))
        there = np.where(patch.open_at(u), there, 0.0)
        g = np.linspace(min(float(grid.g.min()), 0.0), max(float(grid.g.max()), 1.0), NODES)
        spread = field.spread(g)
        speed = spread.at(np.zeros_like(g))
        some = _rising(feet, there)
        if len(some) < LEAST_LANDINGS:
            return cls(g, np.full_like(g, float(there.max())), (g[0], g[-1]), spread, float(there.max()))
        landed, known = feet[some], there[some]
        first, last = float(landed[0]), float(landed[-1])
        whole = np.interp(g, landed, known)
        inside = (g >= first) & (g <= last)
        if inside.sum() > LEAST_LANDINGS:
            whole[inside] = _smooth(landed, known, speed)(g[inside])
        for end, sign in ((first, -1.0), (last, 1.0)):
            whole = _carried_on(g, whole, (landed, known), end, sign, float(np.interp(end, g, speed)))
        whole = np.maximum(whole, 0.0)
        return cls(g, whole, (first, last), spread, _widest(g, whole, grid))

    def parallels(self, edge: Array, width: float, count: int) -> Array:
        """Lines as many times `width`, mm, beyond an edge that lies `edge` mm (n,) from the guide, square to it over the hull:
        their distances from the guide (count, n), mm. Where an edge leans to the guide's parallels its own are farther apart along
        the rays: dD/dw = √(1 + (D'/s)²), s the mm along the front that a unit of g is (the eikonal equation in these
        coordinates)."""
        found = np.zeros((count, len(edge)))

        def rates(_w: float, own: Array) -> Array:
            lean = even_slopes(own[None], float(self.g[-1] - self.g[0]))[0] / self.spread.at(own)
            return np.asarray(np.sqrt(1 + np.clip(lean, -STEEP, STEEP) ** 2))

        own = edge
        for k in range(count):
            own = stepped(rates, 0.0, own, width)
            found[k] = own
        return found

    def less(self, laid: Array, grid: Grid) -> Ways:
        """What is left of them beyond an edge that lies so far from the guide, mm (n,)."""
        left = np.maximum(self.whole - laid, 0.0)
        return replace(self, whole=left, widest=_widest(self.g, left, grid, laid))


def _widest(g: Array, whole: Array, grid: Grid, laid: Array | None = None) -> float:
    """The greatest width square to itself, mm, that a strip has which is as wide as all of the way, anywhere on the hull beyond
    what is laid: where ways change along the guide its sides lean, and it is narrower than along the ray."""
    before = np.zeros_like(whole) if laid is None else laid
    at, distance = grid.g.ravel(), grid.distance.ravel()
    own, start = np.interp(at, g, whole), np.interp(at, g, before)
    share = (distance - start) / np.maximum(own, 1e-9)
    on = (share >= 0) & (share <= 1.001) & (own > 0)
    if not on.any():
        return 0.0
    slope = np.interp(at, g, np.gradient(before, g)) + share * np.interp(at, g, np.gradient(whole, g))
    lean = slope / np.maximum(grid.stretch.ravel(), 1e-9)
    return float((own / np.sqrt(1 + lean * lean))[on].max())


def _rising(feet: Array, there: Array):  # type: ignore[no-untyped-def]
    """The landings (indices) whose guide parameters rise steadily, from the farthest one both ways."""
    middle = int(np.argmax(there))
    ahead = middle + np.flatnonzero(feet[middle:] >= np.maximum.accumulate(feet[middle:]))
    back = middle - np.flatnonzero(feet[middle::-1] <= np.minimum.accumulate(feet[middle::-1]))
    some = np.concatenate([back[:0:-1], ahead])
    apart = np.concatenate([[True], np.diff(feet[some]) > 1e-7])
    return some[apart]


def _smooth(at: Array, values: Array, speed: Array):  # type: ignore[no-untyped-def]
    from scipy.interpolate import make_interp_spline, make_lsq_spline

    long = (at[-1] - at[0]) * float(np.median(speed))
    cells = int(np.clip(long / TELLING_MM, 1, len(at) // 4))
    knots = np.interp(np.linspace(0, len(at) - 1, cells + 1), np.arange(len(at)), at)
    full = np.concatenate([np.repeat(knots[0], 3), knots, np.repeat(knots[-1], 3)])
    try:
        return make_lsq_spline(at, values, full, k=3)
    except (ValueError, np.linalg.LinAlgError):  # too few places between two knots
        return make_interp_spline(at, values, k=1)


def _carried_on(g: Array, whole: Array, landings: tuple[Array, Array], end: float, sign: float, speed: float) -> Array:
    """Ways (n,) by g, told between landings (their g and ways), carried on past the first (`sign` -1) or the last (1) of them, at
    `end`: as the last of them run, into which the ways merge before."""
    landed, known = landings
    off = (landed - end) * sign * speed  # mm past the end: none is
    near = off >= -SLOPE_MM
    slope = _slope(off[near], known[near]) if near.sum() > 2 else 0.0
    start = max(0.0, float(known[near].mean() - slope * off[near].mean()))
    past = (g - end) * sign * speed
    reach = np.minimum(past, STRAIGHT_MM) + DIES_MM * (1 - np.exp(-np.maximum(past - STRAIGHT_MM, 0.0) / DIES_MM))
    line = no_less(start + slope * reach, LEAST_LEFT * start, SOFT * start)
    share = eased_anywhere(1 + past / SLOPE_MM)
    result: Array = (1 - share) * whole + share * line
    return result


def _slope(run: Array, values: Array) -> float:
    """The slope of a straight line through values (n,) at places (n,)."""
    off = run - run.mean()
    return float((off * values).sum() / max(float((off * off).sum()), 1e-12))
