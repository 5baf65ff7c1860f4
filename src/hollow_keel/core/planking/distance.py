"""How far every place of the hull lies from a guide, measured on the surface.

Rays shot square off the guide know their own way exactly. Between them the distance follows from the nearest ones: how far a
place lies along the ray, and aside of it, with the curvature of the front there. Where several tell of one place the least is
the distance: what rays that have crossed each other say is never less, so that no ghost of theirs is left.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

import numpy as np

from ..geometry.arrays import Array, BoolArray, IntArray
from ..geometry.front import REGULAR, SPACING, Front
from ..geometry.surface import TensorSurface, cross, dot

NEIGHBOURS = 14
INNER = 0.01
AGREE_MM, AGREE_SHARE = 0.2, 0.02
"""Samples that say no more than so much, and this share of the way to them, above the least of them speak of one front."""
ASTRAY_COSINE = 0.95
"""A ray whose direction differs more from those beside it has lost its way."""
VOTES, ELECTIONS, LOW_MM, LOW_SHARE = 8, 1, 0.5, 0.02
"""So many neighbours judge what a ray says, so often, by so much and this share of the way to it."""
WEIGHED, LEAST_APART_MM = 1.8, 5.0
"""What a sample says counts less the farther it stands, and nothing from so many rays or steps on; rays that nearly meet are taken
to stand so far apart."""
OFF_HULL = 0.02
"""What is told off the hull counts for so little beside what is told on it."""
LOCAL, WIDEST, BEYOND = 1.6, 3.0, 12.0
"""A ray tells of what lies about it so many spacings of rays far; beyond, only that it is no farther than by way of it."""
STRAIGHT = 0.8
"""Rays beside each other whose directions differ more (a cosine) tell nothing of the front between them."""
MOST_BEND = 0.35
"""The front's curvature counts up to this times what lies aside: more is the noise of a spoilt ray."""


@dataclass(frozen=True)
class Told:
    """What a field says of places (n,): their distance from the guide, mm; the guide parameter square to them; the direction of
    the ray there (n, 3); the edge-set that a line of equal distance has there, per mm."""

    distance: Array
    g: Array
    ray: Array
    edge_set: Array

    def put(self, rows: IntArray, new: Told) -> Told:
        """With what is told anew of some places: `rows` (k,) of the n that there are."""
        changed = [getattr(self, f.name).copy() for f in fields(Told)]
        for own, f in zip(changed, fields(Told), strict=True):
            own[rows] = getattr(new, f.name)
        return Told(*changed)


@dataclass(frozen=True)
class Sample:
    """What rays have left behind: points (n, 3), their rays' directions, the surface's normals; way walked, guide parameter,
    edge-set and stretch of the front there, how that grows with the guide parameter, how far the next rays stand, mm, (n,); how far
    they are trusted: 1 on the hull, less on its continuation; and which have no ray beside them."""

    point: Array
    ray: Array
    normal: Array
    run: Array
    g: Array
    edge_set: Array
    stretch: Array
    widening: Array
    apart: Array
    on: Array
    outer: BoolArray

    def part(self, keep: BoolArray) -> Sample:
        """Some of its n places: where `keep` (n,) is true."""
        return Sample(*(getattr(self, f.name)[keep] for f in fields(Sample)))

    @classmethod
    def together(cls, parts: Sequence[Sample]) -> Sample:
        """All of several."""
        return cls(*(np.concatenate([getattr(p, f.name) for p in parts]) for f in fields(cls)))


@dataclass(frozen=True)
class Spread:
    """How many mm along the front a unit of the guide parameter is, at distances `run` (k,), mm, and guide parameters (n,): (k,
    n)."""

    run: Array
    table: Array

    def at(self, distance: Array) -> Array:
        """At a distance of each guide parameter, mm (n,)."""
        last = len(self.run) - 1
        if last < 1:
            return np.array(self.table[0])
        at = np.clip(distance / (self.run[-1] / last), 0.0, last)
        k = np.minimum(at.astype(int), last - 1)
        columns = np.arange(self.table.shape[1])
        t = at - k
        result: Array = (1 - t) * self.table[k, columns] + t * self.table[k + 1, columns]
        return result


class DistanceField:
    """Distances from a guide, from the fronts of its rays."""

    def __init__(self, surface: TensorSurface, fronts: Sequence[Front]) -> None:
        self.surface = surface
        self._fronts = [(f.distance, f.g, f.stretch) for f in fronts if len(f.g) > 1]
        sample = _samples(surface, fronts)
        first = fronts[0]
        self.guided = (float(first.g[0]), float(first.g[-1]))
        """The guide parameters between which rays start from the guide itself."""
        self._way = _to_larger_g(surface, first)
        step = fronts[1].distance - first.distance if len(fronts) > 1 else 0.0
        self._spacing = max(step, float(np.median(np.linalg.norm(np.diff(first.point, axis=0), axis=1))))
        self._step = max(step, 1.0)
        beside = (sample.g < first.g[0]) | (sample.g > first.g[-1])  # rays that did not start on the guide are nearer than it
        sample = sample.part(beside | (sample.run > _nearest_way(sample.point, first.point) - 0.02 * sample.run - 0.5))
        self._take(sample)
        for _ in range(ELECTIONS):
            sound = self._elected()
            if sound.all():
                break
            self._take(self._sample.part(sound))

    def _elected(self) -> BoolArray:
        """Which samples, (n,), most of their neighbours do not call too near, or gone another way than theirs."""
        own = self._sample
        gap, near = self._nearest(own.point, VOTES + 1)
        gap, near = gap[:, 1:], near[:, 1:]
        told, *_, far = self._told(own.point, gap, near)
        low = (told > (own.run + LOW_MM)[:, None] + LOW_SHARE * gap) & ~far
        along = sum(own.ray[:, None, k] * own.ray[near, k] for k in range(3))
        askew = (along < ASTRAY_COSINE) & ~far & (np.abs(told - own.run[:, None]) < self._spacing)
        most = 0.6 * VOTES
        result: BoolArray = (low.sum(axis=1) <= most) & (askew.sum(axis=1) <= most)
        return result

    def _take(self, sample: Sample) -> None:
        from scipy.spatial import cKDTree

        self._sample = sample
        frame = np.stack([sample.ray, self._way * cross(sample.ray, sample.normal), sample.normal])
        self._frame = np.ascontiguousarray(np.moveaxis(frame, -1, 1))  # (ray, aside, normal; x, y, z; n)
        self._place = np.ascontiguousarray(sample.point.T)
        self._bends, linked = self._bent_towards()
        # where rays part they tell of more, and on the side where no other follows
        self._reach = np.tile(LOCAL * np.clip(sample.apart, self._spacing, WIDEST * self._spacing), (2, 1))
        self._reach[sample.outer & ~linked] *= BEYOND
        self._tree = cKDTree(sample.point)

    def _nearest(self, points: Array, count: int) -> tuple[Array, IntArray]:
        """How far the nearest samples lie from points (n, 3), and which they are, (n, k)."""
        gap, near = self._tree.query(points, k=min(count, len(self._sample.run)))
        return gap, near

    def _told(self, points: Array, gap: Array, near: IntArray) -> tuple[Array, Array, Array, Array, BoolArray]:
        """What each of the nearest samples (n, k) says of points (n, 3): the distance; along and aside of its ray; its edge-set;
        and whether it lies too far away to tell more than a bound."""
        own = self._sample
        along, aside = self._seen_from(points, gap, near)
        kappa = own.edge_set[near]
        side = (aside < 0).astype(int)
        square, cube, until = (column[side, near] for column in self._bends)
        within = np.minimum(np.abs(aside), until)
        towards = (square + cube * within) * within**2
        turn = np.clip(kappa * aside / np.maximum(1 + kappa * along, 0.2), -MOST_BEND, MOST_BEND)
        far = gap > self._reach[side, near]
        return (own.run[near] + np.where(far, gap, along + turn * aside / 2 + towards), along, aside, kappa, far)

    def _seen_from(self, points: Array, gap: Array, near: IntArray) -> tuple[Array, Array]:
        """How far points (n, 3) lie along and aside of the rays of samples `near` (n, k), mm over the hull; `gap` is the straight
        way to them."""
        # by columns: a product of each place's own 3x3 takes three times as long
        x, y, z = (column[:, None] - place[near] for column, place in zip(points.T, self._place, strict=True))
        along, aside, height = (a[near] * x + b[near] * y + c[near] * z for a, b, c in self._frame)
        flat = np.maximum(np.hypot(along, aside), 1e-9)
        # over a round the way is longer than the straight one: an arc of chord c, rising h from its tangent, is c · asin(h/c) /
        # (h/c)
        rise = (height / np.maximum(gap, 1e-9)) ** 2
        longer = np.where(flat > 1e-6, gap * (1 + rise * (1 / 6 + rise * 3 / 40)) / flat, 1.0)
        return along * longer, aside * longer

    def _bent_towards(self) -> tuple[Array, BoolArray]:
        """How the front leaves the arc of its own edge-set towards the next ray on either side of each sample, (3, 2, n): towards
        larger guide parameters, then smaller ones; with the square and with the cube of the way aside, and how far, mm: beyond
        it leaves it no more. And whether there is a next ray there, (2, n).

        It is the cubic through both rays' places, square to both of them. What the front's own edge-set there says of it would do
        where that is even; beside a stem into which a hull rounds it changes within a ray's spacing, and two neighbours would tell
        of the place between them by a millimetre apart."""
        own = self._sample
        count = len(own.run)
        result, linked = np.zeros((3, 2, count)), np.zeros((2, count), dtype=bool)
        order = np.lexsort((own.g, own.run))
        before, after = order[:-1], order[1:]
        beside = (own.run[before] == own.run[after]) & (own.g[after] - own.g[before] < REGULAR)
        before, after = before[beside], after[beside]
        gap = np.linalg.norm(own.point[after] - own.point[before], axis=1)[:, None]
        for side, (here, there) in enumerate(((before, after), (after, before))):
            along, aside = (x[:, 0] for x in self._seen_from(own.point[there], gap, here[:, None]))
            front = self._frame[1][:, there]
            rise, run = ((self._frame[k][:, here] * front).sum(axis=0) for k in (0, 1))
            slope = rise / np.maximum(run, 0.1)
            more = (2 * along / aside - slope) / aside**2
            even = -along / aside**2 - more * aside
            sound = (own.on[there] == 1.0) & (run > STRAIGHT) & (np.abs(along) < MOST_BEND * np.abs(aside)) & (np.abs(aside) > 1.0)
            square = even - own.edge_set[here] / 2
            result[:, side, here[sound]] = np.stack([square, more * np.sign(aside), np.abs(aside)])[:, sound]
            linked[side, here] = True
        return result, linked

    def at(self, points: Array) -> Told:
        """What is known of points (n, 3), mm, of the hull."""
        own = self._sample
        distance, g, share, near = self._weighed(points)
        ray = np.stack([(share * column[near]).sum(axis=1) for column in self._frame[0]], axis=1)
        ray /= np.maximum(np.linalg.norm(ray, axis=1, keepdims=True), 1e-12)
        return Told(distance, g, ray, (share * own.edge_set[near]).sum(axis=1))

    def feet(self, points: Array) -> tuple[Array, Array]:
        """Distance of points (n, 3) of the hull from the guide, mm, and the guide parameter square to them: `at` without the
        rest."""
        distance, g, *_ = self._weighed(points)
        return distance, g

    def spread(self, g: Array) -> Spread:
        """How rays at guide parameters g (n,) spread on their way."""
        run = np.array([distance for distance, *_ in self._fronts])
        return Spread(run, np.array([np.interp(g, own, stretch) for _, own, stretch in self._fronts]))

    def stretched(self, points: Array) -> tuple[Array, Array, Array]:
        """Distance and guide parameter of points (n, 3), and how many mm along the front a unit of that parameter is, (n,) each."""
        distance, g, share, near = self._weighed(points)
        return distance, g, (share * self._sample.stretch[near]).sum(axis=1)

    def _weighed(self, points: Array) -> tuple[Array, Array, Array, IntArray]:
        """Distance and guide parameter of points (n, 3); the samples that tell of each, and what each of them counts, (n, k)."""
        own = self._sample
        gap, near = self._nearest(points, NEIGHBOURS)
        told, along, aside, kappa, far = self._told(points, gap, near)
        on = own.on[near]
        trusted = (on == 1.0) & ~far
        distance = np.maximum(_least_agreed(np.where(trusted | ~trusted.any(axis=1, keepdims=True), told, np.inf)), 0.0)
        best = np.argmin(np.abs(told - distance[:, None]), axis=1)
        rows = np.arange(len(points))
        # those that agree with the least one are weighed by how many rays and steps away they stand: a line must not jump where
        # another sample comes to be the nearest
        agree = ~far & (np.abs(told - distance[:, None]) <= AGREE_MM + AGREE_SHARE * gap)
        away = (aside / own.apart[near]) ** 2 + (along / self._step) ** 2
        weight = np.where(agree, on * np.maximum(1 - away / WEIGHED**2, 0.0) ** 2, 0.0)
        weight[rows, best] += 1e-9
        share = weight / weight.sum(axis=1, keepdims=True)
        distance = np.maximum((share * told).sum(axis=1), 0.0)
        grown = np.maximum(1 + kappa * along, 0.2)
        spread = np.maximum(own.stretch[near] * grown, 1e-9)
        ahead = aside / spread
        ahead *= 1 - np.clip(own.widening[near] * grown * ahead / (2 * spread), -MOST_BEND, MOST_BEND)
        g = (share * (own.g[near] + np.where(far, 0.0, ahead))).sum(axis=1)
        return distance, g, share, near


def _least_agreed(told: Array) -> Array:
    """The least of what samples tell (n, k) that two more, or else one, agree with; the least of all where none does, (n,)."""
    ordered = np.sort(told, axis=1)
    result: Array = ordered[:, 0].copy()
    with np.errstate(invalid="ignore"):
        for others in (1, 2):
            if ordered.shape[1] <= others:
                break
            agreed = ordered[:, others:] - ordered[:, :-others] <= AGREE_MM
            some = agreed.any(axis=1)
            result[some] = ordered[some, np.argmax(agreed[some], axis=1)]
    return result


def _samples(surface: TensorSurface, fronts: Sequence[Front]) -> Sample:
    u, v, du, dv, point, g, edge_set, stretch = (
        np.concatenate([getattr(f, name) for f in fronts]) for name in ("u", "v", "du", "dv", "point", "g", "edge_set", "stretch")
    )
    jet = surface.jet(u, v)
    ray = jet.du * du[:, None] + jet.dv * dv[:, None]
    size = np.linalg.norm(ray, axis=1)
    run = np.repeat([f.distance for f in fronts], [len(f.g) for f in fronts])
    outer = np.concatenate([_outermost(f) for f in fronts])
    apart = np.maximum(stretch * SPACING, LEAST_APART_MM)
    widening = np.concatenate([np.gradient(f.stretch, f.g) if len(f.g) > 1 else np.zeros(len(f.g)) for f in fronts])
    every = Sample(
        point, ray / np.maximum(size, 1e-12)[:, None], jet.normal, run, g, edge_set, stretch, widening, apart, _trust(u, v), outer
    )
    return every.part(np.isfinite(size) & (size > 0.5) & (size < 2.0))


def _to_larger_g(surface: TensorSurface, guide: Front) -> float:
    """1 or -1: which way of a ray's direction, turned in the surface from its normal, the guide parameter grows."""
    jet = surface.jet(guide.u, guide.v)
    ray = jet.du * guide.du[:, None] + jet.dv * guide.dv[:, None]
    aside = cross(ray, jet.normal)
    ahead = np.diff(guide.point, axis=0)
    return 1.0 if float(np.median(dot(ahead, aside[:-1]))) >= 0 else -1.0


def _outermost(front: Front) -> BoolArray:
    """Which of a front's rays (n,) have no other beside them on one side."""
    apart = np.diff(front.g) > REGULAR
    result: BoolArray = np.concatenate([[True], apart]) | np.concatenate([apart, [True]])
    return result


def _trust(u: Array, v: Array) -> Array:
    """How far what is told at parameters (n,) is trusted: past its edges the surface is only carried on."""
    out = (np.abs(u - 0.5) > 0.5 + 1e-9) | (np.abs(v - 0.5) > 0.5 + 1e-9)
    return np.where(out, OFF_HULL, 1.0)


def _nearest_way(points: Array, line: Array) -> Array:
    """The straight way to a line of many points, less what lies between two of them: no way over the hull is shorter."""
    from scipy.spatial import cKDTree

    step = np.linalg.norm(np.diff(line, axis=0), axis=1).max() / 2
    gap = cKDTree(line).query(points)[0]
    result: Array = np.sqrt(np.maximum(gap * gap - step * step, 0.0))
    return result
