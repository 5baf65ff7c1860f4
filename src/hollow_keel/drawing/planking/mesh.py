"""The planked hull as a mesh: one colour number a strip, both sides, and the seams between."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ...core.geometry.arrays import Array
from ...core.planking.faces import ALONG, faces
from ...core.planking.strips import Planking

FRAME = 0.92
"""Width of a picture in sizes of the hull: a little less than one, since seen aslant the hull is shorter."""


@dataclass(frozen=True)
class HullMesh:
    """`points` (n, 3), `quads` (m, 4) with `strip` (m,) numbers from 1, `seams` polylines (k, ALONG, 3); `width` of a strip, mm."""

    points: Array
    quads: np.ndarray
    strip: np.ndarray
    seams: Array
    width: float
    shades: tuple[int, ...] = ()
    """The kind of each strip by its number less one, 0 to 3; empty: every tenth is darker."""

    @cached_property
    def middle(self) -> Array:
        """Middle (3,) of the box around it, mm."""
        middle: Array = (self.points.min(axis=0) + self.points.max(axis=0)) / 2
        return middle

    @cached_property
    def size(self) -> float:
        """Diagonal of the box around it, mm."""
        return float(np.linalg.norm(np.ptp(self.points, axis=0)))


def planked_mesh(planking: Planking, shades: tuple[int, ...] = (), along: int = ALONG) -> HullMesh:
    """Both sides; y mirrored for the second. `shades` is the kind of each strip in order, `along` how many points its faces
    have."""
    points: list[Array] = []
    quads: list[np.ndarray] = []
    numbers: list[np.ndarray] = []
    seams: list[Array] = []
    count = 0
    for strip in planking.strips:
        seams += [_even(near.points) for near in strip.near]
        for face in faces(strip, planking, along):
            count_here = len(face.near)
            points += [face.near, face.far]
            a = count + np.arange(count_here - 1)
            b = a + count_here
            quads.append(np.column_stack([a, a + 1, b + 1, b]))
            numbers.append(np.full(count_here - 1, strip.number))
            count += 2 * count_here
    if not points:
        return HullMesh(np.zeros((0, 3)), np.zeros((0, 4), int), np.zeros(0, int), np.zeros((0, ALONG, 3)), planking.width)
    half, corners, number, lines = (np.concatenate(points), np.concatenate(quads), np.concatenate(numbers), np.array(seams))
    mirror = np.array([1.0, -1.0, 1.0])
    return HullMesh(
        np.concatenate([half, half * mirror]),
        np.concatenate([corners, corners[:, ::-1] + len(half)]),
        np.concatenate([number, number]),
        np.concatenate([lines, lines * mirror]),
        planking.width,
        shades,
    )


def _even(points: Array) -> Array:
    if len(points) % (ALONG - 1) == 1:  # what an edge in one piece comes with: no need to interpolate
        return points[:: len(points) // (ALONG - 1)]
    at = np.linspace(0, len(points) - 1, ALONG)
    result: Array = np.column_stack([np.interp(at, np.arange(len(points)), points[:, c]) for c in range(3)])
    return result
