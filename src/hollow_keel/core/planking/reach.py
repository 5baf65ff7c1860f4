"""How far the hull reaches from the guide: what decides how many strips there are."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array
from ..geometry.front import Front, on_surface


def greatest_distance(fronts: list[Front], from_top: bool) -> float:
    """Greatest distance from the guide anywhere on the panel, mm.

    Along each ray the far edge is met at some distance; the greatest over the rays is refined by a
    parabola through it and its neighbours. Where the run leaves through an end, the last front inside counts.
    """
    far = 0.0 if from_top else 1.0
    last_inside = max((f.distance for f in fronts if on_surface(f).any()), default=0.0)
    met: dict[float, tuple[float, float]] = {}
    for before, after in zip(fronts[:-1], fronts[1:], strict=True):
        shared, i, j = np.intersect1d(before.g, after.g, assume_unique=True, return_indices=True)
        crossed = (before.v[i] - far) * (after.v[j] - far) <= 0
        for g, a, b in zip(shared[crossed], i[crossed], j[crossed], strict=True):
            step = after.distance - before.distance
            share = _hermite_root(
                before.v[a] - far, after.v[b] - far, before.dv[a] * step, after.dv[b] * step
            )
            if float(g) not in met and (before.distance > 0 or share > 1e-9):
                u = before.u[a] + share * (after.u[b] - before.u[a])
                met[float(g)] = (u, before.distance + share * step)
    last = max(fronts, key=lambda f: (on_surface(f).any(), f.distance))
    reach = max(last_inside, _focus(last, far))
    return max(reach, _peak(np.array(sorted(met.values())))) if met else reach


def _focus(front: Front, far: float) -> float:
    """How far the last front on the panel still runs before its rays meet each other or the far edge (mm)."""
    on = on_surface(front)
    shrinking = -front.edge_set[on]
    to_meet = np.where(shrinking > 1e-12, 1 / np.maximum(shrinking, 1e-12), 0.0)
    approach = front.dv[on] * (1 if far > 0.5 else -1)
    to_edge = np.where(approach > 1e-15, np.abs(far - front.v[on]) / np.maximum(approach, 1e-15), 0.0)
    return front.distance + float(np.minimum(to_meet, to_edge).max(initial=0.0))


def _hermite_root(start: float, end: float, slope_start: float, slope_end: float) -> float:
    """The share 0..1 at which a cubic with these end values and slopes (per unit share) is zero."""
    low, high = 0.0, 1.0
    for _ in range(40):
        t = (low + high) / 2
        value = (
            start * (1 + 2 * t) * (1 - t) ** 2 + slope_start * t * (1 - t) ** 2
            + end * t * t * (3 - 2 * t) - slope_end * t * t * (1 - t)
        )  # fmt: skip
        if (value > 0) == (start > 0):
            low = t
        else:
            high = t
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
