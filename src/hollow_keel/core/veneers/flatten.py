"""Veneers laid flat: every place of an outline as how far along the straight edge it is, and how far square off it.

Both are measured on the surface, along geodesics, as a builder measures with a bent batten (Fermi's coordinates about a geodesic,
in textbooks of differential geometry). A first guess comes from the straight distance; it is put right by laying the flat place on
the surface again and looking how far it is off.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, IntArray, lengths
from ..geometry.runge import stepped
from ..geometry.surface import TensorSurface, cross, dot
from ..geometry.surface_line import components, second_form, straight_on
from .lines import Lines
from .seams import Seam

CORRECTIONS = 2
STEPS = (1, 6)
"""A place is followed in one step; where that does not come out, near a sharp stem, in more."""
GOOD_MM, ONCE_MM = 0.1, 0.05
SHORTEST_MM, SAME_MM = 1e-9, 1e-6
APART_MM = 1e6
WORST_MM, NEAR_MM = 100.0, 40.0
"""No place is said to be off by more; one that is farther off than the second is not put right step by step."""
GENTLE = 0.5
"""Where the surface turns by more on the way, in radians, near a sharp stem, expansions do not hold."""
OFF_EDGE_MM = 0.5
"""Places nearer to the straight edge lie on it."""


@dataclass(frozen=True)
class Outline:
    """Places (n, 3) of a veneer on the hull, mm, and the seam that its straight edge follows."""

    points: Array
    straight: Seam


def laid_flat(surface: TensorSurface, outlines: Sequence[Outline]) -> list[tuple[Array, float]]:
    """Each outline flat, (n, 2) mm, on the seam's own side (above it where it lies towards normal × direction); and how far it is
    off at the worst when it is laid on the surface again, mm. All together: short arrays cost as much."""
    if not outlines:
        return []
    lines = _Seams([own.straight for own in outlines])
    points = np.concatenate([own.points for own in outlines])
    of = np.repeat(np.arange(len(outlines)), [len(own.points) for own in outlines])
    flat = _guesses(surface, lines, of, points)
    away = np.flatnonzero(np.abs(flat[:, 1]) > OFF_EDGE_MM)
    off = np.zeros(len(flat))
    off[away] = WORST_MM
    for steps in STEPS:
        todo = away[off[away] > GOOD_MM]
        _put_right(surface, lines, of, flat, points, off, todo, steps)
    ends = np.cumsum([len(own.points) for own in outlines])[:-1]
    worst = [float(part.max(initial=0.0)) for part in np.split(off, ends)]
    return list(zip(np.split(flat, ends), worst, strict=True))


def _put_right(
    surface: TensorSurface, lines: _Seams, of: IntArray, flat: Array, points: Array, off: Array, todo: IntArray, steps: int
) -> None:  # fmt: skip
    """Better flat places, and how far off they are at most, where `todo` says: one that is within ONCE_MM is moved once more, and
    said to be as far off as before."""
    tried = flat[todo]
    with np.errstate(
        all="ignore"
    ):  # where the surface is drawn together to nothing what comes of it is not taken
        for _ in range(CORRECTIONS + 1):
            if not len(todo):
                return
            along, square, missed = _missed(surface, lines, of[todo], tried, points[todo], steps)
            far = lengths(missed)
            better = far < off[todo]
            step = np.column_stack([dot(missed, along), dot(missed, square)])
            last = better & (far < ONCE_MM)
            flat[todo[better]], off[todo[better]] = tried[better], far[better]
            flat[todo[last]] += step[last]
            on = better & (far < NEAR_MM) & ~last  # of the others no more can be had in these steps
            todo, tried = todo[on], (tried + step)[on]


class _Seams(Lines):
    """Seams that flat places are told along."""

    def __init__(self, seams: Sequence[Seam]) -> None:
        own = Lines.together([seam.points for seam in seams], [seam.uv for seam in seams]).apart(SAME_MM)
        super().__init__(own.points, own.uv, own.of)
        self._steps = np.diff(self.run)
        self._rate = self._rates()

    def _rates(self) -> Array:
        """How the parameters change along each seam, (n, 2) per mm: of the parabola through a place and those beside it."""
        slopes, h = np.diff(self.uv, axis=0) / self._steps[:, None], self._steps[:, None]
        rates: Array = np.empty_like(self.uv)
        rates[1:-1] = (slopes[1:] * h[:-1] + slopes[:-1] * h[1:]) / (h[:-1] + h[1:])
        rates[self.first] = slopes[np.minimum(self.first, len(slopes) - 1)]
        rates[self.last] = slopes[self.last - 1]
        return rates

    def at(self, of: IntArray, x: Array) -> Array:
        """(u, v, du, dv) so far along seams `of`, (n, 4), per mm; on straight past the ends."""
        inside = np.clip(x, 0.0, self.long[of])
        place = inside + self.run[self.first[of]]
        cell = np.searchsorted(self.run, place, side="right") - 1
        cell = np.clip(cell, self.first[of], self.last[of] - 1)
        share = ((place - self.run[cell]) / self._steps[cell])[:, None]
        uv = self.uv[cell] + share * (self.uv[cell + 1] - self.uv[cell])
        rate = self._rate[cell] + share * (self._rate[cell + 1] - self._rate[cell])
        return np.concatenate([uv + (x - inside)[:, None] * rate, rate], axis=1)


def _missed(
    surface: TensorSurface, lines: _Seams, of: IntArray, flat: Array, points: Array, steps: int
) -> tuple[Array, Array, Array]:
    """Where flat places (n, 2) come to lie on the surface: the directions (n, 3) there of more along and of more off the straight
    edge, and how far it still is from there to their `points` (n, 3), mm."""
    own = lines.at(of, flat[:, 0])
    jet = surface.jet(own[:, 0], own[:, 1])
    tangent = own[:, 2:3] * jet.du + own[:, 3:] * jet.dv
    tangent /= np.maximum(lengths(tangent)[:, None], 1e-12)
    square = np.column_stack(components(jet, cross(jet.normal, tangent)))
    start = np.concatenate([own[:, :2], square * flat[:, 1:]], axis=1).T
    end, rates = start, _rates(surface)
    known: Array | None = np.stack([start[2], start[3], *straight_on(jet, start[2], start[3])])
    for _ in range(steps):
        end, known = stepped(rates, 0.0, end, 1.0 / steps, known), None
    arrived = surface.jet(end[0], end[1])
    outward = np.sign(flat[:, 1])[:, None] * (end[2][:, None] * arrived.du + end[3][:, None] * arrived.dv)
    outward /= np.maximum(lengths(outward)[:, None], 1e-12)
    return cross(outward, arrived.normal), outward, points - arrived.point


def _rates(surface: TensorSurface) -> Callable[[float, Array], Array]:
    """How (u, v, du, dv), (4, n), change along geodesics of a surface, per unit of their own measure."""

    def rates(_t: float, own: Array) -> Array:
        jet = surface.jet(own[0], own[1])
        return np.stack([own[2], own[3], *straight_on(jet, own[2], own[3])])

    return rates


def _guesses(surface: TensorSurface, lines: _Seams, of: IntArray, points: Array) -> Array:
    """First flat shapes, all places in turn, (n, 2) mm: how far along its seam the nearest place is, and how far off that, w, the
    side counted. The way over a round is longer than the straight one c by the angle to its sine: asin(κc/2) / (κc/2). Where the
    surface twists by τ on the way, the place that lies nearest is not the one the way is square to, but κτw³/6 before it (by
    expansion of a geodesic in its length, as in any textbook of differential geometry)."""
    line, uv, run = lines.points, lines.uv, lines.along()
    cell, share = _nearest(lines, of, points)
    step = line[cell + 1] - line[cell]
    along = run[cell] + share * (run[cell + 1] - run[cell])
    away = points - line[cell] - share[:, None] * step
    chord = lengths(away)
    tangent = step / np.maximum(lengths(step)[:, None], SHORTEST_MM)
    place = uv[cell] + np.clip(share, 0, 1)[:, None] * (uv[cell + 1] - uv[cell])
    jet = surface.jet(place[:, 0], place[:, 1])
    normal = jet.normal
    inward = cross(normal, tangent)
    way = components(jet, inward)
    curved, twisted = (second_form(jet, normal, way, other) for other in (way, components(jet, tangent)))
    half = np.abs(curved) * chord / 2
    round_over = np.where(half > 1e-6, np.arcsin(np.minimum(half, 1.0)) / np.maximum(half, 1e-6), 1.0)
    square = np.sign(dot(away, inward)) * chord * round_over
    gentle = np.maximum(np.abs(curved), np.abs(twisted)) * chord < GENTLE
    return np.column_stack([along + gentle * curved * twisted * square**3 / 6, square])


def _nearest(lines: _Seams, of: IntArray, points: Array) -> tuple[IntArray, Array]:
    """For every one of some points (n, 3) the segment of its own seam `of` that it is nearest to, counted over the places of all
    seams, and the share of it, (n,) each; on past the ends. Of the two segments at the nearest point: seams turn little from one
    to the next."""
    from scipy.spatial import KDTree  # loads slowly: not before it is needed

    line, first, last = lines.points, lines.first[of], lines.last[of] - 1
    # each seam on a level of its own: none is found from another's veneer
    tree = KDTree(np.column_stack([line, APART_MM * lines.of]))
    _, near = tree.query(np.column_stack([points, APART_MM * of]))
    best_cell = np.zeros(len(points), dtype=np.intp)
    best_share, least = np.zeros(len(points)), np.full(len(points), np.inf)
    for cell in (np.maximum(near - 1, first), np.minimum(near, last)):
        step = line[cell + 1] - line[cell]
        share = dot(points - line[cell], step) / np.maximum(dot(step, step), SHORTEST_MM**2)
        share = np.clip(share, np.where(cell == first, -np.inf, 0.0), np.where(cell == last, np.inf, 1.0))
        away = lengths(points - line[cell] - share[:, None] * step)
        nearer = away < least
        best_cell[nearer], best_share[nearer], least[nearer] = cell[nearer], share[nearer], away[nearer]
    return best_cell, best_share
