"""Veneers laid flat: every place of an outline as how far along the straight edge it is, and how far square off it.

Both are measured on the surface, along geodesics, as a builder measures with a bent batten (Fermi's coordinates about a geodesic,
in textbooks of differential geometry). A first guess comes from the straight distance; it is put right by laying the flat place on
the surface again and looking how far it is off.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray, IntArray, lengths, steps_along
from ..geometry.runge import stepped
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..geometry.surface_line import components, second_form, straight_on
from .lines import Lines
from .seams import Seam

CORRECTIONS = 2
STEPS = (1, 6, 24)
"""A place is followed in one step; where that does not come out, near a sharp stem, in more."""
GOOD_MM, ONCE_MM = 0.1, 0.05
SHORTEST_MM, SAME_MM = 1e-6, 3.0
APART_MM = 1e6
INNER, LAST, TURNS = (1, 3, 5), (0, 1, 2), 0.03
"""Places from its end by which it is told how a seam runs there, some 10, 30 and 50 mm in; its very last ones; and by which share
both may differ."""
WORST_MM, NEAR_MM = 100.0, 40.0
"""No place is said to be off by more; one that is farther off than the second is not put right step by step."""
GENTLE = 0.5
"""Where the surface turns by more on the way, in radians, near a sharp stem, expansions do not hold."""
TURNED, TURNED_MM = 0.003, 0.5
"""Which way a straight edge runs at its end is known so well, radians: what lies beyond is turned with it, by so much at most. The
worst of 80 veneers on a cone of 20°, against its development: 0.0039, and 0.58 mm; half of them are within 0.1."""
OFF_EDGE_MM = 0.5
"""Places nearer to the straight edge lie on it."""


@dataclass(frozen=True)
class Outline:
    """Places (n, 3) on a veneer on the hull, mm; the seam that its straight edge follows; and the whole outline (m, 3) of the
    veneer, which tells where along the seam that edge is."""

    points: Array
    straight: Seam
    whole: Array


def laid_flat(surface: TensorSurface, outlines: Sequence[Outline]) -> list[tuple[Array, float]]:
    """Each outline flat, (n, 2) mm, on the seam's own side (above it where it lies towards normal × direction); and how far it is
    off at the worst when it is laid on the surface again, mm. All together: short arrays cost as much."""
    if not outlines:
        return []
    lines = _Seams([own.straight for own in outlines], [own.whole for own in outlines])
    points = np.concatenate([own.points for own in outlines])
    of = np.repeat(np.arange(len(outlines)), [len(own.points) for own in outlines])
    flat = _guesses(surface, lines, of, points)
    away = np.flatnonzero(np.abs(flat[:, 1]) > OFF_EDGE_MM)
    off = np.zeros(len(flat))
    off[away] = WORST_MM
    for steps in STEPS:
        todo = away[off[away] > GOOD_MM]
        _put_right(surface, lines, of, flat, points, off, todo, steps)
    off += np.minimum(TURNED * lines.past(of, flat), TURNED_MM)
    ends = np.cumsum([len(own.points) for own in outlines])[:-1]
    worst = [float(part.max(initial=0.0)) for part in np.split(off, ends)]
    return list(zip(np.split(flat, ends), worst, strict=True))


def _put_right(
    surface: TensorSurface, lines: _Seams, of: IntArray, flat: Array, points: Array, off: Array, todo: IntArray, steps: int
) -> None:
    """Better flat places, and how far off they are at most, where `todo` says: one that is within ONCE_MM is moved once more, and
    said to be as far off as before."""
    tried = flat[todo]
    with np.errstate(all="ignore"):  # where the surface is drawn together to nothing what comes of it is not taken
        for _ in range(CORRECTIONS + 1):
            if not len(todo):
                return
            step, far = _missed(surface, lines, of[todo], tried, points[todo], steps)
            better = far < off[todo]
            last = better & (far < ONCE_MM)
            flat[todo[better]], off[todo[better]] = tried[better], far[better]
            flat[todo[last]] += step[last]
            on = better & (far < NEAR_MM) & ~last  # of the others no more can be had in these steps
            todo, tried = todo[on], (tried + step)[on]


class _Seams(Lines):
    """The parts of seams that are edges of veneers: flat places are told along them."""

    def __init__(self, seams: Sequence[Seam], veneers: Sequence[Array]) -> None:
        own = Lines.together([seam.points for seam in seams], [seam.uv for seam in seams]).apart(SHORTEST_MM)
        along = own.along()
        low, high = _touched(own, veneers)
        begin, end = along == low[own.of], along == high[own.of]
        # places close together tell badly how a seam runs: beside its end, and beside the one before
        far = steps_along(own.points) > SAME_MM
        clear = np.concatenate([[True], far]) & (np.append(far, True) | ~np.append(end[1:], False))
        own = own.only((along >= low[own.of]) & (along <= high[own.of]) & (clear | begin | end)).apart(SHORTEST_MM)
        super().__init__(own.points, own.uv, own.of)
        self.begins = low
        self._steps = np.diff(self.run)
        self._rate = self._rates()

    def _rates(self) -> Array:
        """How the parameters change along each seam, (n, 2) per mm: of the parabola through a place and those beside it."""
        slopes, h = np.diff(self.uv, axis=0) / self._steps[:, None], self._steps[:, None]
        rates: Array = np.empty_like(self.uv)
        rates[1:-1] = (slopes[1:] * h[:-1] + slopes[:-1] * h[1:]) / (h[:-1] + h[1:])
        for ends, way in ((self.first, 1), (self.last, -1)):
            rates[ends] = self._end_rates(ends, way)
        return rates

    def _end_rates(self, ends: IntArray, way: int) -> Array:
        """How the parameters change along each seam at one of its ends, (seams, 2) per mm: of the parabola through places farther
        in, for the last of a surface's cells lie straight across its edge, and turn what ends there; but of its very last places
        where these say something else, before a sharp stem."""
        inner, last = self._parabola(ends, way, INNER), self._parabola(ends, way, LAST)
        other = lengths(inner - last) > TURNS * lengths(last)
        found: Array = np.where((other | (self.last - self.first < INNER[-1]))[:, None], last, inner)
        return found

    def _parabola(self, ends: IntArray, way: int, places: Sequence[int]) -> Array:
        """The rates (seams, 2) at ends, per mm, of the parabola through three places so many from them."""
        at = [ends + way * np.minimum(k, self.last - self.first) for k in places]
        x = [np.abs(self.run[k] - self.run[ends]) for k in at]
        y = [self.uv[k] for k in at]
        first, second = ((y[k + 1] - y[k]) / np.maximum(x[k + 1] - x[k], SHORTEST_MM)[:, None] for k in (0, 1))
        bend = (second - first) / np.maximum(x[2] - x[0], SHORTEST_MM)[:, None]
        few = (self.last - self.first < places[-1])[:, None]
        rates: Array = way * np.where(few, first, first - bend * (x[0] + x[1])[:, None])
        return rates

    def past(self, of: IntArray, flat: Array) -> Array:
        """How far flat places (n, 2) lie from the end of a straight edge that they lie beyond, (n,) mm; 0 beside it."""
        x = flat[:, 0] - self.begins[of]
        beyond = x - np.clip(x, 0.0, self.long[of])
        far: Array = np.where(np.abs(beyond) > OFF_EDGE_MM, np.hypot(beyond, flat[:, 1]), 0.0)
        return far

    def at(self, of: IntArray, x: Array) -> tuple[Array, Array]:
        """(u, v, du, dv) so far along seams `of`, (n, 4), per mm, and how much farther that is than they lie on the hull, (n,) mm:
        less than nothing before it."""
        inside = np.clip(x - self.begins[of], 0.0, self.long[of])
        place = inside + self.run[self.first[of]]
        cell = np.searchsorted(self.run, place, side="right") - 1
        cell = np.clip(cell, self.first[of], self.last[of] - 1)
        share = ((place - self.run[cell]) / self._steps[cell])[:, None]
        uv = self.uv[cell] + share * (self.uv[cell + 1] - self.uv[cell])
        rate = self._rate[cell] + share * (self._rate[cell + 1] - self._rate[cell])
        return np.concatenate([uv, rate], axis=1), x - self.begins[of] - inside


def _touched(lines: Lines, veneers: Sequence[Array]) -> tuple[Array, Array]:
    """From where to where along each seam the outline of its veneer (n, 3) lies on it, mm, (seams,) both: at places of the seam,
    one more at each end; the whole seam where it does not lie on it."""
    of = np.repeat(np.arange(len(veneers)), [len(own) for own in veneers])
    points = np.concatenate(veneers)
    cell, share = _nearest(lines, of, points)
    step = lines.points[cell + 1] - lines.points[cell]
    on = lengths(points - lines.points[cell] - share[:, None] * step) < OFF_EDGE_MM
    along = lines.along()
    at = along[cell] + share * (along[cell + 1] - along[cell])
    low, high = np.full(len(veneers), np.inf), np.full(len(veneers), -np.inf)
    np.minimum.at(low, of[on], at[on])
    np.maximum.at(high, of[on], at[on])
    none = ~(high - low > SAME_MM)
    low[none], high[none] = 0.0, lines.long[none]
    # to the nearest places of the seam: where it crosses an edge of the hull it has one; past its own ends there are none
    ends = []
    for wanted in (low, high):
        off = np.abs(along - wanted[lines.of])
        best = np.minimum.reduceat(off, lines.first)
        nearest = off <= best[lines.of] + SHORTEST_MM
        ends.append(np.maximum.reduceat(np.where(nearest, along, -1.0), lines.first))
    one = ~(ends[1] - ends[0] > SAME_MM)  # a splinter that touches it at one place
    return np.where(one, 0.0, ends[0]), np.where(one, lines.long, ends[1])


def _missed(surface: TensorSurface, lines: _Seams, of: IntArray, flat: Array, points: Array, steps: int) -> tuple[Array, Array]:
    """How flat places (n, 2) are to be moved to come to lie on their `points` (n, 3), by how far they miss them on the surface, mm:
    the moves (n, 2), and how far they are off, (n,). What lies beyond the straight edge's end is told from there, its way straight
    to it: farther on there is no hull for that edge to lie on."""
    own, beyond = lines.at(of, flat[:, 0])
    jet = surface.jet(own[:, 0], own[:, 1])
    tangent, square = _frame(jet, own)
    way = np.column_stack([beyond, flat[:, 1]])
    start = np.concatenate([own[:, :2], np.column_stack(components(jet, way[:, :1] * tangent + way[:, 1:] * square))], axis=1).T
    end, rates = start, _rates(surface)
    known: Array | None = np.stack([start[2], start[3], *straight_on(jet, start[2], start[3])])
    for _ in range(steps):
        end, known = stepped(rates, 0.0, end, 1.0 / steps, known), None
    arrived = surface.jet(end[0], end[1])
    onward = end[2][:, None] * arrived.du + end[3][:, None] * arrived.dv
    onward /= np.maximum(lengths(onward)[:, None], 1e-12)
    missed = points - arrived.point
    ahead = way / np.maximum(lengths(way)[:, None], 1e-12)
    aside = ahead[:, ::-1] * [1.0, -1.0]
    move = dot(missed, onward)[:, None] * ahead + dot(missed, cross(onward, arrived.normal))[:, None] * aside
    return move, lengths(missed)


def _frame(jet: Jet, own: Array) -> tuple[Array, Array]:
    """The unit directions (n, 3) along seams and square to them in the surface, at places told with their rates, (n, 4)."""
    tangent = own[:, 2:3] * jet.du + own[:, 3:] * jet.dv
    tangent /= np.maximum(lengths(tangent)[:, None], 1e-12)
    return tangent, cross(jet.normal, tangent)


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
    line, uv, run = lines.points, lines.uv, lines.along() + lines.begins[lines.of]
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
    flat = np.column_stack([along + gentle * curved * twisted * square**3 / 6, square])
    past = np.flatnonzero((share < 0.0) | (share > 1.0))
    flat[past] = _guessed_past(surface, lines, of[past], points[past], share[past] > 1.0)
    return flat


def _guessed_past(surface: TensorSurface, lines: _Seams, of: IntArray, points: Array, ahead: BoolArray) -> Array:
    """First flat places (n, 2) of what lies beyond a seam's end (`ahead`: its last): the way straight to them from there, laid into
    the surface, as long as the arc that has it for its chord."""
    x = lines.begins[of] + np.where(ahead, lines.long[of], 0.0)
    own, _ = lines.at(of, x)
    jet = surface.jet(own[:, 0], own[:, 1])
    tangent, square = _frame(jet, own)
    away = points - jet.point
    way = np.column_stack([dot(away, tangent), dot(away, square)])
    flat_far, chord = np.maximum(lengths(way), SHORTEST_MM), lengths(away)
    # the chord leaves the surface by half the turn
    turn = np.arccos(np.clip(flat_far / np.maximum(chord, SHORTEST_MM), 0.0, 1.0))
    arc = chord * np.where(turn > 1e-6, turn / np.maximum(np.sin(turn), 1e-9), 1.0)
    return np.column_stack([x, np.zeros(len(x))]) + way * (arc / flat_far)[:, None]


def _nearest(lines: Lines, of: IntArray, points: Array) -> tuple[IntArray, Array]:
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
