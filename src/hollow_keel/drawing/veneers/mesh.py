"""The laid hull as a mesh: every veneer of every layer, both sides, or the layers peeled back one by one."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ...core.geometry.arrays import Array
from ...core.planking.faces import ALONG
from ...core.rules import PARALLEL_DEG
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.veneer import Veneer, crossed
from ..planking.mesh import HullMesh

SHADES = 4
APART_MM = 8.0
"""Peeled layers are drawn so much farther apart than they lie."""


def veneer_numbers(plans: Sequence[LayerPlan]) -> list[tuple[int, int]]:
    """Layer and number of every veneer in the order in which a mesh counts them, from 1."""
    return [(plan.number, v.number) for plan in plans for v in plan.veneers]


def laid_mesh(plans: Sequence[LayerPlan], *, peeled: bool = False, along: int = ALONG) -> HullMesh:
    """Layers from the form outward, both sides; y mirrored for the second. `peeled`: of each layer only what lies aft of where the
    one below it is left bare, drawn farther apart than they lie, and its seams where nothing lies over them. Every veneer has
    `along` places along it."""
    points: list[Array] = []
    quads: list[np.ndarray] = []
    numbers: list[np.ndarray] = []
    seams: list[Array] = []
    count, number = 0, 0
    low, high = _reach(plans)
    for k, plan in enumerate(plans):
        bare = low + (high - low) * k / len(plans) if peeled else -math.inf
        inmost = k == 0  # seen from inside the hull all along
        covered = low + (high - low) * (k + 1) / len(plans) if peeled and not inmost else math.inf
        for v in plan.veneers:
            number += 1
            near, far = edges_of(v, along)
            if peeled:
                near, far = _lifted(near, far, k * APART_MM)
            middle = (near + far)[:, 0] / 2
            shown = _shown(plan, middle, bare)
            if not shown.any():
                continue
            seams.append(_seen(near, bare if _along(plan) else -math.inf, covered if k + 1 < len(plans) else math.inf))
            a = count + np.flatnonzero(shown)
            quads.append(np.column_stack([a, a + 1, a + along + 1, a + along]))
            numbers.append(np.full(len(a), number))
            points += [near, far]
            count += 2 * along
    if not points:
        return HullMesh(np.zeros((0, 3)), np.zeros((0, 4), int), np.zeros(0, int), np.zeros((0, along, 3)), 1.0)
    half, corners, of = np.concatenate(points), np.concatenate(quads), np.concatenate(numbers)
    lines, mirror = np.array(seams), np.array([1.0, -1.0, 1.0])
    return HullMesh(
        np.concatenate([half, half * mirror]),
        np.concatenate([corners, corners[:, ::-1] + len(half)]),
        np.concatenate([of, of]),
        np.concatenate([lines, lines * mirror]),
        min(plan.layer.width for plan in plans),
        tuple((plan.number - 1) % SHADES for plan in plans for _ in plan.veneers),
    )


def _reach(plans: Sequence[LayerPlan]) -> tuple[float, float]:
    every = [v.outline[:, 0] for plan in plans for v in plan.veneers]
    return (min(float(x.min()) for x in every), max(float(x.max()) for x in every)) if every else (0.0, 0.0)


def _lifted(near: Array, far: Array, by: float) -> tuple[Array, Array]:
    """Both edges of a veneer, (n, 3) mm, moved `by` mm outward: faces are flat from edge to edge, and would else cut through those
    of the layer below."""
    across = far - near
    outward = np.cross(np.gradient(near + far, axis=0), across)
    outward *= np.sign(outward[:, 1:2] + np.where(outward[:, 1:2] == 0, 1.0, 0.0))
    outward /= np.maximum(np.linalg.norm(outward, axis=1, keepdims=True), 1e-9)
    return near + by * outward, far + by * outward


def _seen(line: Array, bare: float, covered: float) -> Array:
    """The part of a seam aft of what is left bare and ahead of where the next layer begins: as many places, the rest of them at its
    ends."""
    on = np.flatnonzero((line[:, 0] >= bare) & (line[:, 0] < covered))
    if not len(on):
        return np.repeat(line[:1], len(line), axis=0)
    return line[np.clip(np.arange(len(line)), on[0], on[-1])]


def _shown(plan: LayerPlan, middle: Array, bare: float) -> np.ndarray:
    """Which pieces along a veneer are seen: whole veneers of a layer that runs across, of one along the hull what is aft."""
    if _along(plan):
        return (middle[:-1] + middle[1:]) / 2 >= bare
    return np.full(len(middle) - 1, bool(middle.mean() >= bare))


def _along(plan: LayerPlan) -> bool:
    """Whether a layer runs along the hull."""
    return abs(plan.layer.degrees) < PARALLEL_DEG


def edges_of(veneer: Veneer, count: int) -> tuple[Array, Array]:
    """Both edges of a veneer on the hull at `count` even places along it, (count, 3) mm each: the straight one and the other."""
    flat, outline = veneer.flat, veneer.outline
    ahead = np.roll(np.arange(len(flat)), -1)
    inset = 1e-6 * veneer.length
    place, side, share, heights = crossed(flat, np.linspace(inset, veneer.length - inset, count))
    points = outline[side] + np.clip(share, 0.0, 1.0)[:, None] * (outline[ahead[side]] - outline[side])
    every = np.arange(count)
    low, high = (
        order[np.searchsorted(place[order], every)] for order in (np.lexsort((heights, place)), np.lexsort((-heights, place)))
    )
    return points[low], points[high]
