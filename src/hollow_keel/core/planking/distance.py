"""How far every place of the hull lies from a guide, measured on the surface.

Rays shot square off the guide know their own way exactly. Between them the distance follows from the nearest ones: how far a
place lies along the ray, and aside of it, with the curvature of the front there. Where several tell of one place the least is
the distance: what rays that have crossed each other say is never less, so that no ghost of theirs is left.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from ..geometry.arrays import Array, BoolArray, IntArray
from ..geometry.front import Front, kept, on_surface
from ..geometry.runge import stepped
from ..geometry.surface import TensorSurface, cross, dot
from ..geometry.surface_line import components, straight_on

NEIGHBOURS = 8
INNER = 0.01
VOTES, LOW_MM, LOW_SHARE = 8, 0.5, 0.02
"""So many neighbours judge what a ray says, by so much and this share of the way to it."""
CORNER_G, FLAT_SINE = 0.004, 0.25
"""A guide and an end of the hull that meet at so small an angle make no corner."""
SIDE_STEP_MM, FARTHEST, OUTSIDE = 12.0, 0.4, 0.02
"""A front goes straight on in such steps, no farther than this share of the hull's length, and so little past its rim."""
LOCAL = 1.6
"""A ray tells of what lies about it so many spacings of rays far; beyond, only that it is no farther than by way of it."""
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
    edge-set and stretch of the front there, (n,)."""

    point: Array
    ray: Array
    normal: Array
    run: Array
    g: Array
    edge_set: Array
    stretch: Array

    def part(self, keep: BoolArray) -> Sample:
        """Some of its n places: where `keep` (n,) is true."""
        return Sample(*(getattr(self, f.name)[keep] for f in fields(Sample)))

    @classmethod
    def together(cls, parts: Sequence[Sample]) -> Sample:
        """All of several."""
        return cls(*(np.concatenate([getattr(p, f.name) for p in parts]) for f in fields(cls)))


class DistanceField:
    """Distances from a guide, from the fronts of its rays."""

    def __init__(self, surface: TensorSurface, fronts: Sequence[Front]) -> None:
        self.surface = surface
        own = _sound_fronts(surface, fronts)
        sample = Sample.together([_samples(surface, own), *_sideways(surface, own)])
        first = fronts[0]
        step = fronts[1].distance - first.distance if len(fronts) > 1 else 0.0
        self._spacing = max(step, float(np.median(np.linalg.norm(np.diff(first.point, axis=0), axis=1))))
        guide = first.point
        sample = sample.part(sample.run > _nearest_way(sample.point, guide) - 0.02 * sample.run - 0.5)
        self._take(sample)
        gap, near = self._nearest(sample.point, VOTES + 1)
        told, *_, far = self._told(sample.point, gap[:, 1:], near[:, 1:])
        # what most of its neighbours call too near has lost its way
        low = ((told > (sample.run + LOW_MM)[:, None] + LOW_SHARE * gap[:, 1:]) & ~far).sum(axis=1)
        if (low > VOTES * 0.6).any():
            self._take(sample.part(low <= VOTES * 0.6))

    def _take(self, sample: Sample) -> None:
        from scipy.spatial import cKDTree

        self._sample = sample
        frame = np.stack([sample.ray, cross(sample.ray, sample.normal), sample.normal])
        self._frame = np.ascontiguousarray(np.moveaxis(frame, -1, 1))  # (ray, aside, normal; x, y, z; n)
        self._place = np.ascontiguousarray(sample.point.T)
        self._tree = cKDTree(sample.point)

    def _nearest(self, points: Array, count: int) -> tuple[Array, IntArray]:
        """How far the nearest samples lie from points (n, 3), and which they are, (n, k)."""
        gap, near = self._tree.query(points, k=min(count, len(self._sample.run)))
        return gap, near

    def _told(
        self, points: Array, gap: Array, near: IntArray
    ) -> tuple[Array, Array, Array, Array, BoolArray]:
        """What each of the nearest samples (n, k) says of points (n, 3): the distance; along and aside of its ray; its edge-set;
        and whether it lies too far away to tell more than a bound."""
        own = self._sample
        # by columns: a product of each place's own 3x3 takes three times as long
        x, y, z = (column[:, None] - place[near] for column, place in zip(points.T, self._place, strict=True))
        along, aside, height = (a[near] * x + b[near] * y + c[near] * z for a, b, c in self._frame)
        flat = np.maximum(np.hypot(along, aside), 1e-9)
        # over a round the way is longer than the straight one: an arc of chord c and rise h has the curvature 2h/c²
        bent = 2 * height / np.maximum(gap, 1e-9)
        longer = np.where(flat > 1e-6, gap * (1 + bent * bent / 24) / flat, 1.0)
        along, aside = along * longer, aside * longer
        kappa = own.edge_set[near]
        turn = np.clip(kappa * aside / np.maximum(1 + kappa * along, 0.2), -MOST_BEND, MOST_BEND)
        far = gap > LOCAL * self._spacing
        return own.run[near] + np.where(far, gap, along + turn * aside / 2), along, aside, kappa, far

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
        distance, g, _, _ = self._weighed(points)
        return distance, g

    def _weighed(self, points: Array) -> tuple[Array, Array, Array, IntArray]:
        """Distance and guide parameter of points (n, 3); the samples that tell of each, and what each of them counts, (n, k)."""
        own = self._sample
        gap, near = self._nearest(points, NEIGHBOURS)
        told, along, aside, kappa, far = self._told(points, gap, near)
        best = np.argmin(told, axis=1)
        rows = np.arange(len(points))
        distance = np.maximum(told[rows, best], 0.0)
        # those that agree with the nearest one: what they say of the foot of a place is weighed, for it must not jump
        agree = ~far & (told <= distance[:, None] + self._spacing)
        weight = np.where(agree, 1 / (gap**2 + 1.0), 0.0)
        weight[rows, best] += 1e-12
        share = weight / weight.sum(axis=1, keepdims=True)
        spread = np.maximum(own.stretch[near] * np.maximum(1 + kappa * along, 0.2), 1e-9)
        g = (share * (own.g[near] + np.where(far, 0.0, aside / spread))).sum(axis=1)
        return distance, g, share, near


def _samples(surface: TensorSurface, fronts: Sequence[Front]) -> Sample:
    def every(name: str) -> Array:
        result: Array = np.concatenate([getattr(f, name) for f in fronts])
        return result

    jet = surface.jet(every("u"), every("v"))
    ray = jet.du * every("du")[:, None] + jet.dv * every("dv")[:, None]
    size = np.linalg.norm(ray, axis=1)
    sound = np.isfinite(size) & (size > 0.5) & (size < 2.0)
    run = np.repeat([f.distance for f in fronts], [len(f.g) for f in fronts])
    return Sample(
        every("point")[sound], ray[sound] / size[sound, None], jet.normal[sound],
        run[sound], every("g")[sound], every("edge_set")[sound], every("stretch")[sound],
    )  # fmt: skip


def _sound_fronts(surface: TensorSurface, fronts: Sequence[Front]) -> list[Front]:
    """Fronts without the rays that have been where the surface's continuation turns its back: past an end that runs smoothly into
    the keel it folds over."""
    dead = _past_flat_corners(surface, fronts[0])
    u, v, g = (np.concatenate([getattr(f, name) for f in fronts]) for name in ("u", "v", "g"))
    out = (u < 0) | (u > 1) | (v < 0) | (v > 1)
    if out.any():
        there = surface.jet(u[out], v[out]).normal
        inside = surface.jet(np.clip(u[out], INNER, 1 - INNER), np.clip(v[out], INNER, 1 - INNER)).normal
        turned = dot(there, inside) < 0
        first: dict[float, int] = {}
        which = np.repeat(np.arange(len(fronts)), [len(f.g) for f in fronts])[out]
        for ray, k in zip(g[out][turned].tolist(), which[turned].tolist(), strict=True):
            first[ray] = min(k, first.get(ray, k))
    else:
        first = {}
    found = []
    for k, front in enumerate(fronts):
        gone = dead | {ray for ray, since in first.items() if since <= k}
        keep = (
            np.array([ray not in gone for ray in front.g.tolist()], dtype=bool)
            if gone
            else np.ones(len(front.g), dtype=bool)
        )
        found.append(kept(front, keep))
    return found


def _past_flat_corners(surface: TensorSurface, guide: Front) -> set[float]:
    """The rays that start past an end of the hull where it and the guide meet in a straight angle, and in that very corner: there
    is no square to the guide there, nor a surface beyond."""
    dead: set[float] = set()
    for u, beyond in ((0.0, guide.g <= CORNER_G), (1.0, guide.g >= 1 - CORNER_G)):
        v = np.interp(u, guide.u, guide.v)
        jet = surface.jet(np.array([u]), np.array([v]))
        size = float(np.linalg.norm(jet.du) * np.linalg.norm(jet.dv))
        if float(np.linalg.norm(cross(jet.du, jet.dv))) < FLAT_SINE * size:
            dead |= set(guide.g[beyond].tolist())
    return dead


def _sideways(surface: TensorSurface, fronts: Sequence[Front]) -> list[Sample]:
    """Where the last ray of a front stands on the hull, the front goes straight on from it, as a strip would."""
    starts: list[Array] = []  # u, v, du, dv, run, g, g per mm, which way the aside turns
    for front in fronts:
        if len(front.g) < 2 or front.distance == 0.0:
            continue
        on = on_surface(front)
        for k, way in ((0, -1.0), (-1, 1.0)):
            if on[k] and abs(front.u[k] - 0.5) < 0.5 - INNER / 4:
                jet = surface.jet(front.u[[k]], front.v[[k]])
                ray = jet.du * front.du[k] + jet.dv * front.dv[k]
                aside = cross(ray, jet.normal)
                turn = float(np.sign((aside[0] * (front.point[k] - front.point[1 if k == 0 else -2])).sum()))
                du, dv = components(jet, turn * aside)
                rate = way / max(float(front.stretch[k]), 1e-6)
                starts.append(
                    np.array([front.u[k], front.v[k], du[0], dv[0], front.distance, front.g[k], rate, turn])
                )
    if not starts:
        return []
    table = np.array(starts)
    state = table[:, :4].T.copy()
    size = float(np.linalg.norm(surface.grid[-1, -1] - surface.grid[0, -1]))
    rates = _straight_on(surface)
    alive: BoolArray = np.asarray(np.isfinite(state).all(axis=0))
    before = surface.points(state[0], state[1])
    found = []
    with np.errstate(all="ignore"):
        for n in range(1, int(FARTHEST * size / SIDE_STEP_MM)):
            state[:, alive] = stepped(rates, 0.0, state[:, alive], SIDE_STEP_MM)
            alive &= np.isfinite(state).all(axis=0) & (np.abs(state[:2] - 0.5) < 0.5 + OUTSIDE).all(axis=0)
            if not alive.any():
                break
            jet = surface.jet(state[0, alive], state[1, alive])
            walked = np.linalg.norm(jet.point - before[alive], axis=1)
            straight = np.abs(walked - SIDE_STEP_MM) < 0.1 * SIDE_STEP_MM
            index = np.flatnonzero(alive)
            alive[index[~straight]] = False
            index = index[straight]
            if not len(index):
                break
            jet = jet.part(straight)
            before[index] = jet.point
            turn = table[index, 7][:, None]
            path = jet.du * state[2, index][:, None] + jet.dv * state[3, index][:, None]
            path /= np.linalg.norm(path, axis=1, keepdims=True)
            ray = cross(jet.normal, turn * path)
            gone = n * SIDE_STEP_MM
            found.append(
                Sample(
                    jet.point, ray, jet.normal, table[index, 4], table[index, 5] + gone * table[index, 6],
                    np.zeros(len(index)), 1.0 / np.abs(table[index, 6]),
                )
            )  # fmt: skip
    return found


def _straight_on(surface: TensorSurface) -> Callable[[float, Array], Array]:
    """How u, v, du and dv of what runs straight on over a surface change per mm."""

    def rates(_t: float, y: Array) -> Array:
        return np.stack([y[2], y[3], *straight_on(surface.jet(y[0], y[1]), y[2], y[3])])

    return rates


def _nearest_way(points: Array, line: Array) -> Array:
    """The straight way to a line of many points, less what lies between two of them: no way over the hull is shorter."""
    from scipy.spatial import cKDTree

    step = np.linalg.norm(np.diff(line, axis=0), axis=1).max() / 2
    gap = cKDTree(line).query(points)[0]
    result: Array = np.sqrt(np.maximum(gap * gap - step * step, 0.0))
    return result
