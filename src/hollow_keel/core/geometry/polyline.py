"""Plain polylines in the plane: joining, trimming, loops. Shapes (n, 2), mm."""

from __future__ import annotations

import numpy as np

from .arrays import Array, IntArray, lengths, steps_along

CANDIDATES = 12
"""Segments that are looked at first for each of many points."""
LARGE = 60_000
"""Points times segments from which on it pays not to look at all."""


def crossing(first: Array, second: Array, near: Array) -> tuple[int, int, Array] | None:
    """Where two polylines (n, 2) and (m, 2), mm, cross, nearest to `near` (2,): number of the piece of each, and the point; else
    None."""
    import shapely  # loads slowly: not before it is needed
    from shapely.geometry import LineString, Point

    shared = LineString(first).intersection(LineString(second))
    points = [p for p in shapely.get_parts(shared) if isinstance(p, Point)]
    if not points:
        return None
    best = min(points, key=lambda p: float(np.hypot(p.x - near[0], p.y - near[1])))
    at = np.array([best.x, best.y])
    return projected(first, at)[0], projected(second, at)[0], at


def first_loop(line: Array) -> tuple[int, int, Array] | None:
    """The first place where a polyline crosses itself: its two segment indices and the point.

    None for a line that never does. Neighbouring segments share a point and do not count.
    """
    import shapely  # loads slowly: not before it is needed
    from shapely.geometry import LineString

    if len(line) < 4 or LineString(line).is_simple:
        return None
    segments = shapely.linestrings(np.stack([line[:-1], line[1:]], axis=1))
    tree = shapely.STRtree(segments)
    left, right = tree.query(segments, predicate="intersects")
    far = right - left > 1
    if not np.any(far):
        return None
    order = np.lexsort((-right[far], left[far]))[0]
    i, j = int(left[far][order]), int(right[far][order])
    at = shapely.get_coordinates(shapely.intersection(segments[i], segments[j]))
    return i, j, np.asarray(at[0], dtype=float)


def runs_along(points: Array) -> Array:
    """How far along a polyline (n, d) each of its points lies, (n,), from 0, in its own unit (mm)."""
    steps = steps_along(points)
    return np.concatenate([[0.0], np.cumsum(steps)])


def at_share(points: Array, share: float) -> tuple[Array, Array]:
    """The point at a share of the length of a polyline (n, 2), mm, from its start, and the unit direction there."""
    along = runs_along(points)
    wanted = share * along[-1]
    k = int(np.clip(np.searchsorted(along, wanted, side="right") - 1, 0, len(points) - 2))
    direction = (points[k + 1] - points[k]) / (along[k + 1] - along[k])
    return points[k] + (wanted - along[k]) * direction, direction


def feet(points: Array, line: Array, *, beyond: bool = False) -> tuple[IntArray, Array, Array]:
    """The places of a polyline (m, d) nearest to points (n, d): the segment (n,), the share of it (n,), and the foot (n, d).

    A share lies within 0 and 1, but where the line is carried on straight past its ends (`beyond`): there below 0 or above 1.
    """
    count = len(line) - 1
    if len(points) * count < LARGE or count <= CANDIDATES:
        cell, own = _nearest(points, line, np.arange(count)[None, :], beyond)
    else:
        cell, own = _nearest_of_many(points, line, beyond)
    return cell, own, line[cell] + own[:, None] * (line[cell + 1] - line[cell])


def _nearest_of_many(points: Array, line: Array, beyond: bool) -> tuple[IntArray, Array]:
    """As `_nearest`, of those segments only whose middles are nearest; where another one could be nearer still, of all. A line's
    first and last segment are always among them: carried on, they reach anywhere."""
    from scipy.spatial import KDTree  # loads slowly: not before it is needed

    count = len(line) - 1
    longest = float(steps_along(line).max())
    far, near = KDTree((line[:-1] + line[1:]) / 2).query(points, CANDIDATES)
    ends = np.broadcast_to([0, count - 1], (len(points), 2))
    cell, own = _nearest(points, line, np.concatenate([near, ends], axis=1), beyond)
    away = lengths(line[cell] + own[:, None] * (line[cell + 1] - line[cell]) - points)
    unsure = np.flatnonzero(far[:, -1] - longest / 2 < away)
    cell[unsure], own[unsure] = _nearest(points[unsure], line, np.arange(count)[None, :], beyond)
    return cell, own


def _nearest(points: Array, line: Array, cells: IntArray, beyond: bool) -> tuple[IntArray, Array]:
    """Which of some segments (n or 1, k) is nearest to each point, and the share of it, (n,) each."""
    count = len(line) - 1
    middle = line.mean(axis=0)
    start, step, places = line[:-1] - middle, np.diff(line, axis=0), points - middle
    size = np.maximum(np.vecdot(step, step), 1e-300)
    low, high = np.zeros(count), np.ones(count)
    if beyond:
        low[0], high[-1] = -np.inf, np.inf
    if len(cells) == 1:  # all of them, for every point
        by_step, by_start = places @ step.T, places @ start.T
    else:
        start, step, size, low, high = (table[cells] for table in (start, step, size, low, high))
        by_step, by_start = np.vecdot(places[:, None], step), np.vecdot(places[:, None], start)
    along = by_step - np.vecdot(start, step)
    share = np.clip(along / size, low, high)
    # by inner products: quick, and good enough to tell which foot is nearest
    away = np.vecdot(start, start) - 2 * by_start + share * (share * size - 2 * along)
    best = np.argmin(away, axis=1)
    rows = np.arange(len(points))
    cell: IntArray = np.broadcast_to(cells, away.shape)[rows, best]
    own: Array = share[rows, best]
    return cell, own


def projected(line: Array, point: Array) -> tuple[int, float, Array]:
    """The place on a polyline (n, 2) nearest to a point (2,): its segment, its share of that segment (0 to 1), and the foot."""
    cell, share, foot = feet(point[None], line)
    return int(cell[0]), float(share[0]), foot[0]


def met(line: Array, point: Array) -> tuple[float, Array, Array]:
    """Where a polyline (n, 2) is nearest to a point (2,): how far along it, mm, the place (2,), and the unit direction (2,)."""
    k, share, foot = projected(line, point)
    step = line[k + 1] - line[k]
    size = steps_along(line[: k + 2])
    return float(size[:k].sum() + share * size[k]), foot, step / max(float(np.hypot(*step)), 1e-150)


def nearest_on(line: Array, point: Array) -> tuple[Array, Array]:
    """The point of a polyline (n, 2) nearest to a point (2,), and the unit direction of the line there."""
    _, foot, direction = met(line, point)
    return foot, direction


def run_of(line: Array, point: Array) -> float:
    """How far along a polyline (n, 2) its point nearest to a point (2,) lies, mm."""
    return met(line, point)[0]


def runs_of(line: Array, points: Array) -> Array:
    """How far along a polyline (m, 2) its points nearest to points (n, 2) lie, mm (n,)."""
    if not len(points):
        return np.zeros(0)
    cell, share, _ = feet(points, line)
    along = runs_along(line)
    result: Array = along[cell] + share * (along[cell + 1] - along[cell])
    return result


def height_crossing(line: Array, height: float) -> Array | None:
    """The uppermost point of a polyline at a given height (second coordinate), or None."""
    low, high = line[:-1, 1], line[1:, 1]
    hits = np.nonzero((np.minimum(low, high) <= height) & (np.maximum(low, high) >= height) & (low != high))[0]
    if len(hits) == 0:
        return None
    k = int(hits[-1])
    share = (height - low[k]) / (high[k] - low[k])
    result: Array = line[k] + share * (line[k + 1] - line[k])
    return result
