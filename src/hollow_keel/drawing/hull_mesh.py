"""The planked hull as a mesh: one colour number a strip, both sides, and the seams between."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..core.geometry.arrays import Array
from ..core.planking.edges import EdgePiece
from ..core.planking.strips import Planking

ALONG = 41
"""Points along a strip: at this spacing the chords lie within a millimetre or two of the hull."""
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


def planked_mesh(planking: Planking, shades: tuple[int, ...] = ()) -> HullMesh:
    """Both sides; y mirrored for the second. `shades` is the kind of each strip in order."""
    points: list[Array] = []
    quads: list[np.ndarray] = []
    numbers: list[np.ndarray] = []
    seams: list[Array] = []
    count = 0
    for strip in planking.strips:
        for near in strip.near:
            top = _even(near.points)
            far = [p for p in strip.far if p.g[0] < near.g[1] and near.g[0] < p.g[1]]
            bottom = (
                _even(np.concatenate([p.points for p in far]))
                if far
                else _closing(planking.limits[strip.panel, strip.course], near)
            )
            seams.append(top)
            points += [top, bottom]
            a = count + np.arange(ALONG - 1)
            b = a + ALONG
            quads.append(np.column_stack([a, a + 1, b + 1, b]))
            numbers.append(np.full(ALONG - 1, strip.number))
            count += 2 * ALONG
    if not points:
        return HullMesh(
            np.zeros((0, 3)), np.zeros((0, 4), int), np.zeros(0, int), np.zeros((0, ALONG, 3)), planking.width
        )
    half, faces, number, lines = (
        np.concatenate(points),
        np.concatenate(quads),
        np.concatenate(numbers),
        np.array(seams),
    )
    mirror = np.array([1.0, -1.0, 1.0])
    return HullMesh(
        np.concatenate([half, half * mirror]),
        np.concatenate([faces, faces[:, ::-1] + len(half)]),
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


def _closing(limit: Array, near: EdgePiece) -> Array:
    """The line that the course ends on between the ends of a strip's last edge."""
    x = np.linspace(near.points[0, 0], near.points[-1, 0], ALONG)
    result: Array = np.column_stack(
        [x, np.interp(x, limit[:, 0], limit[:, 1]), np.interp(x, limit[:, 0], limit[:, 2])]
    )
    return result
