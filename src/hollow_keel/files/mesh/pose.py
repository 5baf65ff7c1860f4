"""How a scanned hull lies in its file: its middle plane, which way is up, which end is the bow; found from its own shape.

The middle plane of a whole hull is the one in which it is its own mirror image, wherever the file has its zero; a half hull ends
in it. Up is where the hull is open, or wider; the bow is its finer end. What is not clear is said, and asked.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from ...core.errors import InputError
from ...core.geometry.arrays import Array

SAMPLES, WITNESSES = 9000, 1500
MIRRORED = 0.012
"""Half of all points of a whole hull lie nearer to its mirror image than this share of its beam."""
MOST_LEAN = np.radians(12)
"""A hull that leans more is none: one half of a round hull is nearly its own mirror image in a plane aslant."""
CLEAR = 1.25
"""One end is the finer, and one way the wider, where they differ by so much; else it is not clear."""
END_SHARE = 0.12
EDGE_WITHIN, EDGE_SHARE = 0.2, 0.2
"""A half's edge is looked for within this share of its width from its outermost point, where so great a share of the rim lies."""
ON_PLANE, AT_ZERO, BINS = 0.02, 0.05, 40
"""A half's edge lies within such a share of its width of its middle plane, looked at in so many parts of its length; the file's own
zero is the middle plane where the edge stands no farther off it."""


@dataclass(frozen=True)
class Pose:
    """`turn` (3, 3) and `shift` (3,) put the file's points into our frame: turn @ p + shift, x from the foremost point aft, y from
    the middle plane, z up; in the file's own numbers. `half` tells one half of a hull. `lean` and `yaw` (degrees) are what was put
    right; `up_clear` and `bow_clear` whether these were plain to see."""

    turn: Array
    shift: Array
    half: bool
    lean: float
    yaw: float
    up_clear: bool
    bow_clear: bool

    def put(self, points: Array) -> Array:
        """Points (n, 3) of the file in our frame."""
        result: Array = points @ self.turn.T + self.shift
        return result


def pose_of(vertices: Array, faces: Any, rim: Array | None = None) -> Pose:
    """How a mesh lies; `rim` are the points where its skin ends, if they are known. The longest way is along the hull."""
    points, normals = _samples(vertices, faces)
    rim = vertices[rim_of(faces)] if rim is None else rim
    sizes = np.ptp(points, axis=0)
    along = int(np.argmax(sizes))
    fits: list[tuple[tuple[float, float, float, float], Array]] = []
    for frame in sorted((_frame(along, up) for up in range(3) if up != along), key=partial(_one_sided, points)):
        fits.append((_mirror(points @ frame.T, normals @ frame.T), frame))
        if fits[-1][0][0] < MIRRORED / 8:
            break  # plain enough
    (miss, lean, yaw, middle), frame = min(fits, key=lambda fit: fit[0][0])
    if miss > MIRRORED or abs(lean) > MOST_LEAN:
        return _half_pose(points, vertices, rim, along)
    turn = _turned(lean, yaw) @ frame
    return _finished(points, vertices, rim, turn, middle, half=False, lean=lean, yaw=yaw)


def _frame(along: int, up: int) -> Array:
    """Rows: along, out, up; right-handed or its mirror image."""
    return np.eye(3)[[along, 3 - along - up, up]]


def _one_sided(points: Array, frame: Array) -> float:
    """How little points lie alike to both sides, a first look: their middle off the middle of their extent, as a share of it."""
    out = points @ frame[1]
    low, high = float(out.min()), float(out.max())
    return abs(float(np.median(out)) - (low + high) / 2) / max(high - low, 1e-9)


def _samples(vertices: Array, faces: Any) -> tuple[Array, Array]:
    """Points spread over the surface by area, always the same ones, and the normals there."""
    corners = vertices[np.asarray(faces)]
    square = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    sizes = np.linalg.norm(square, axis=1)
    if not sizes.sum() > 0:
        raise InputError("there is no surface in this mesh", mend="All its triangles are without area: export it again.")
    rng = np.random.default_rng(1)
    chosen = rng.choice(len(sizes), size=SAMPLES, p=sizes / sizes.sum())
    a, b = np.sqrt(rng.random(SAMPLES))[:, None], rng.random(SAMPLES)[:, None]
    own = corners[chosen]
    points: Array = (1 - a) * own[:, 0] + a * (1 - b) * own[:, 1] + a * b * own[:, 2]
    return points, square[chosen] / sizes[chosen, None]


def _turned(lean: float, yaw: float) -> Array:
    """Turns by radians: `yaw` about up, then `lean` about along."""
    a, b = np.cos(yaw), np.sin(yaw)
    c, d = np.cos(lean), np.sin(lean)
    about_up = np.array([[a, -b, 0.0], [b, a, 0.0], [0.0, 0.0, 1.0]])
    about_along = np.array([[1.0, 0.0, 0.0], [0.0, c, -d], [0.0, d, c]])
    result: Array = about_along @ about_up
    return result


def _mirror(points: Array, normals: Array) -> tuple[float, float, float, float]:
    """The plane nearly square to y that mirrors points best: how far half of them miss their images, as a share of the beam; lean
    and yaw that make it the middle plane, radians; where it lies then."""
    from scipy.optimize import least_squares
    from scipy.spatial import cKDTree

    wide = float(np.ptp(points[:, 1]))
    tree = cKDTree(points)
    some = points[:WITNESSES]
    centre = points.mean(axis=0)

    def missed(guess: Array) -> Array:
        turn = _turned(guess[0], guess[1])
        own = (some - centre) @ turn.T
        own[:, 1] = 2 * guess[2] * wide - own[:, 1]
        own = own @ turn + centre
        near = tree.query(own)[1]
        # square to the surface: how far along it the nearest point happens to lie says nothing
        result: Array = np.vecdot(own - points[near], normals[near]) / wide
        return result

    best, value = np.zeros(3), np.inf
    for start in ((0.0, 0.0, 0.0), (0.06, 0.0, 0.0), (-0.06, 0.0, 0.0)):
        fit = least_squares(missed, start, loss="soft_l1", f_scale=0.003, diff_step=1e-4, x_scale=0.01, max_nfev=20)
        own = float(np.median(np.abs(missed(fit.x))))
        if own < value:
            best, value = fit.x, own
        if value < MIRRORED / 4:
            break
    lean, yaw, offset = best.tolist()
    middle = float((centre @ _turned(lean, yaw).T)[1]) + offset * wide
    return value, lean, yaw, middle


def _half_pose(points: Array, vertices: Array, rim: Array, along: int) -> Pose:
    """One half: its middle plane is at the side where its edge lies in a plane, along keel and stem."""
    witnesses = rim if len(rim) >= BINS else vertices
    best: tuple[int, float, Array, float] | None = None
    for up in (k for k in range(3) if k != along):
        frame = _frame(along, up)
        own, edge_of = points @ frame.T, witnesses @ frame.T
        wide = float(np.ptp(own[:, 1]))
        for side in (1.0, -1.0):
            edge, spread = _edge(side * edge_of[:, 1], wide)
            near = edge_of[np.abs(side * edge_of[:, 1] - edge) < ON_PLANE * wide + 2 * spread]
            parts = len(np.unique(np.floor((near[:, 0] - own[:, 0].min()) / max(np.ptp(own[:, 0]), 1e-9) * BINS)))
            if best is None or (parts, -spread) > best[:2]:
                turn = frame * np.array([[1.0], [side], [1.0]])
                at_zero = -2 * spread <= edge <= AT_ZERO * wide
                best = (parts, -spread, turn, 0.0 if at_zero else edge)
    assert best is not None
    *_, turn, middle = best
    return _finished(points, vertices, rim, turn, middle, half=True, lean=0.0, yaw=0.0)


def _edge(out: Array, wide: float) -> tuple[float, float]:
    """Where a half's edge lies along a way out from it, and how far its points scatter about that: the narrowest strip with a share
    of all points of the rim tells, so that neither scatter nor a far corner of the sheer moves it."""
    low = np.sort(out[out < out.min() + EDGE_WITHIN * wide])
    count = max(int(EDGE_SHARE * len(out)), 2)
    if len(low) <= count:
        return float(out.min()), 0.0
    first = int(np.argmin(low[count:] - low[:-count]))
    strip = float(low[first + count] - low[first])
    middle = (low[first + count] + low[first]) / 2
    near = low[np.abs(low - middle) <= 3 * strip + 1e-9 * wide]
    return float(np.median(near)), float(np.std(near))


def rim_of(faces: Any) -> Any:
    """The numbers of the vertices on the mesh's own edges."""
    ends = np.asarray(faces, dtype=np.int64)[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)
    count = int(ends.max()) + 1
    # an edge as one number: sorting pairs takes ten times as long
    own, counts = np.unique(ends.min(axis=1) * count + ends.max(axis=1), return_counts=True)
    alone = own[counts == 1]
    return np.unique(np.concatenate([alone // count, alone % count]))


def _finished(
    points: Array, vertices: Array, rim: Array, turn: Array, middle: float, *, half: bool, lean: float, yaw: float
) -> Pose:
    """Turned upright and bow first: points, vertices and rim as the file has them, `turn` and `middle` plane as they were found."""
    in_middle = np.array([0.0, middle, 0.0])
    placed = points @ turn.T - in_middle
    up, up_clear = _way_up(placed, rim @ turn.T - in_middle)
    bow_low, bow_clear = _bow_first(placed)
    # a half is turned over by its mirror image: its middle plane stays at its side
    over = np.array([1.0 if bow_low else -1.0, 1.0 if half else up, up])
    turn = over[:, None] * turn
    shift = np.array([-(vertices @ turn[0]).min(), -over[1] * middle, 0.0])
    return Pose(turn, shift, half, float(np.degrees(lean)), float(np.degrees(yaw)), up_clear, bow_clear)


def _way_up(points: Array, rim: Array) -> tuple[float, bool]:
    """1 where z is up, -1 where it is down: an open hull is open at its top, where its own edge (`rim`) is; a closed one is wider
    there."""
    low, high = float(points[:, 2].min()), float(points[:, 2].max())
    wide = float(np.abs(points[:, 1]).max())
    outer = rim[np.abs(rim[:, 1]) > 0.35 * wide]  # not the stem or keel of a half, nor a hole in the bottom
    if len(outer) >= 8:
        share = (float(np.median(outer[:, 2])) - low) / max(high - low, 1e-9)
        if abs(share - 0.5) > 0.12:
            return (1.0 if share > 0.5 else -1.0), True
    third = (high - low) / 3
    top = float(np.abs(points[points[:, 2] > high - third, 1]).mean())
    bottom = float(np.abs(points[points[:, 2] < low + third, 1]).mean())
    return (1.0 if top >= bottom else -1.0), max(top, bottom) > CLEAR * min(top, bottom)


def _bow_first(points: Array) -> tuple[bool, bool]:
    """Whether the low end is the finer, and whether that is plain."""
    low, high = float(points[:, 0].min()), float(points[:, 0].max())
    near = END_SHARE * (high - low)
    first = float(np.abs(points[points[:, 0] < low + near, 1]).mean())
    last = float(np.abs(points[points[:, 0] > high - near, 1]).mean())
    return first <= last, max(first, last) > CLEAR * min(first, last)
