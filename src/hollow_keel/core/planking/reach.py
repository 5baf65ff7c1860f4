"""How far the hull reaches from the guide: what decides how many strips there are."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array, BoolArray
from ..geometry.front import Front, on_surface
from .limits import Limit


def greatest_distance(fronts: list[Front], far: Limit) -> float:
    """Greatest distance from the guide anywhere before the `far` limit, mm.

    Along each ray the limit is met at some distance; the greatest over the rays is refined by a
    parabola through it and its neighbours. Where the run leaves through an end, the last front inside counts.
    """
    last_inside = max((f.distance for f in fronts if _inside(f, far).any()), default=0.0)
    met = _met(fronts, far)
    last = max(fronts, key=lambda f: (_inside(f, far).any(), f.distance))
    reach = max(last_inside, _focus(last, far))
    return max(reach, _peak(met)) if len(met) else reach


def _inside(front: Front, far: Limit) -> BoolArray:
    on = on_surface(front)
    return on if far.seam is None else on & (far.margin(front) >= 0)


def _focus(front: Front, far: Limit) -> float:
    """How far the last front on the panel still runs before its rays meet each other or the far edge (mm)."""
    on = _inside(front, far)
    shrinking = -front.edge_set[on]
    to_meet = np.where(shrinking > 1e-12, 1 / np.maximum(shrinking, 1e-12), 0.0)
    margin, rate = far.margin(front)[on], far.rate(front)[on]
    approach = -rate * np.sign(margin)
    to_edge = np.where(approach > 1e-15, np.abs(margin) / np.maximum(approach, 1e-15), 0.0)
    return front.distance + float(np.minimum(to_meet, to_edge).max(initial=0.0))


def _met(fronts: list[Front], far: Limit) -> Array:
    """Where each ray first meets the far edge: rows (u, distance) in order of u."""
    rows: list[Array] = []  # g, u before, its rise, distance before, step, v and dv before and after
    for before, after in zip(fronts[:-1], fronts[1:], strict=True):
        shared, i, j = np.intersect1d(before.g, after.g, assume_unique=True, return_indices=True)
        a, b = far.margin(before)[i], far.margin(after)[j]
        crossed = np.flatnonzero(a * b <= 0)
        if len(crossed):
            i, j, step = i[crossed], j[crossed], after.distance - before.distance
            rows.append(
                np.column_stack([
                    shared[crossed], before.u[i], after.u[j] - before.u[i],
                    np.full(len(i), before.distance), np.full(len(i), step),
                    a[crossed], b[crossed], far.rate(before)[i] * step, far.rate(after)[j] * step,
                ])
            )  # fmt: skip
    if not rows:
        return np.zeros((0, 2))
    g, u, rise, start, step, a, b, slope_a, slope_b = np.concatenate(rows).T
    share = _hermite_roots(a, b, slope_a, slope_b)
    real = (start > 0) | (share > 1e-9)
    first = np.unique(g[real], return_index=True)[1]
    met = np.column_stack([u + share * rise, start + share * step])[real][first]
    result: Array = met[np.argsort(met[:, 0])]
    return result


def _hermite_roots(start: Array, end: Array, slope_start: Array, slope_end: Array) -> Array:
    """The shares 0..1 at which cubics with these end values and slopes (per unit share) are zero."""
    low, high = np.zeros_like(start), np.ones_like(start)
    for _ in range(40):
        t = (low + high) / 2
        value = (
            start * (1 + 2 * t) * (1 - t) ** 2 + slope_start * t * (1 - t) ** 2
            + end * t * t * (3 - 2 * t) - slope_end * t * t * (1 - t)
        )  # fmt: skip
        same = (value > 0) == (start > 0)
        low, high = np.where(same, t, low), np.where(same, high, t)
    return (low + high) / 2


def _peak(met: Array) -> float:
    """Greatest distance over 0 <= u <= 1 from rows (u, distance) in order of u, its corners included."""
    inside = met[(met[:, 0] >= 0) & (met[:, 0] <= 1)]
    corners = [float(np.interp(u, met[:, 0], met[:, 1])) for u in (0.0, 1.0) if met[0, 0] <= u <= met[-1, 0]]
    if len(inside) == 0:
        return max(corners, default=0.0)
    k = int(np.argmax(inside[:, 1]))
    best = max([float(inside[k, 1]), *corners])
    if 0 < k < len(inside) - 1:
        near = inside[k - 1 : k + 2]
        a, b, c = np.polyfit(near[:, 0] - inside[k, 0], near[:, 1], 2)
        top = -b / (2 * a) if a < 0 else np.inf
        if near[0, 0] <= inside[k, 0] + top <= near[-1, 0]:
            best = max(best, float(c - b * b / (4 * a)))
    return best
