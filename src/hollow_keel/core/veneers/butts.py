"""Where veneers longer than a sheet are butted: apart from the butts of their neighbours, as the joints of strips are."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.polyline import runs_of
from ..sensible import count_of
from .veneer import Veneer

STEP_MM = 25.0
"""Places for a butt are tried at such steps."""
ON_EDGE_MM = 0.5
SAME_MM, NEAR_ENOUGH_MM = 0.01, 0.5


@dataclass(frozen=True)
class Butts:
    """The butts of a layer: how far along its straight edge each is, mm, by the number of the veneer (none: it is whole); and how
    far apart along them the nearest two in neighbours are, mm, and in which (None: there are no two)."""

    at: Mapping[int, tuple[float, ...]]
    apart: float | None = None
    between: tuple[int, int] = (0, 0)


def butts_of_layer(veneers: Sequence[Veneer], longest: float, apart: float, rows: int, least: float) -> Butts:
    """The butts of veneers, in their order, in parts no longer than `longest`: as few as there can be, and one more where they are
    not `apart` else from those of `rows` neighbours before; no part shorter than `least`, where there is a choice. Lengths mm."""
    if any(v.length > longest for v in veneers):
        count_of(max(v.length for v in veneers), longest, "parts of a veneer")
    at: dict[int, tuple[float, ...]] = {}
    laid: list[tuple[Veneer, Array]] = []
    nearest: tuple[float, tuple[int, int]] | None = None
    for veneer in veneers:
        edge = _edge(veneer)
        near = [
            (other, edge[0] + runs_of(edge[1], points)) for other, points in laid[-rows:] if rows and other.panel == veneer.panel
        ]
        taken = np.concatenate([runs for _, runs in near] or [np.zeros(0)])
        own = _cuts(veneer.length, longest, apart, least, taken)
        if own:
            at[veneer.number] = own
            for other, runs in near:
                off = min((abs(a - b) for a in own for b in runs.tolist()), default=math.inf)
                if nearest is None or off < nearest[0]:
                    nearest = off, (other.number, veneer.number)
        laid.append((veneer, _on(edge, np.array(own))))
    if nearest is None or math.isinf(nearest[0]):
        return Butts(at)
    return Butts(at, *nearest)


def _edge(veneer: Veneer) -> tuple[float, Array]:
    """Where along it a veneer's straight edge begins, mm, and that edge on the hull (n, 3)."""
    on = veneer.flat[:, 1] < ON_EDGE_MM
    if on.sum() < 2:
        on = np.ones(len(veneer.flat), dtype=bool)
    order = np.argsort(veneer.flat[on, 0], kind="stable")
    return float(veneer.flat[on, 0].min()), veneer.outline[on][order]


def _on(edge: tuple[float, Array], runs: Array) -> Array:
    """The places (n, 3) on the hull so far along a veneer."""
    start, line = edge
    steps = np.linalg.norm(np.diff(line, axis=0), axis=1)
    along = start + np.concatenate([[0.0], np.cumsum(steps)])
    return np.column_stack([np.interp(runs, along, line[:, k]) for k in range(3)])


def _cuts(length: float, longest: float, apart: float, least: float, taken: Array) -> tuple[float, ...]:
    """Where one veneer is butted, as far as may be from places that are taken (n,), mm."""
    parts = math.ceil(length / longest - SAME_MM / longest)
    if parts < 2:
        return ()
    enough = apart - NEAR_ENOUGH_MM
    best: tuple[float, tuple[float, ...]] = (-1.0, ())
    for count in (parts, parts + 1):
        for cuts in _ways(length, longest, count, least):
            off = min((abs(cut - x) for cut in cuts for x in taken.tolist()), default=math.inf)
            if min(off, enough) > best[0]:
                best = min(off, enough), cuts
        if best[0] >= enough:
            break
    return best[1]


def _ways(length: float, longest: float, count: int, least: float) -> list[tuple[float, ...]]:
    """The places of so many parts' joints: after a first part, the longest first, parts as long as may be, and a rest."""
    between = longest
    if count > 2:
        between = min(longest, max((length - 2 * least) / (count - 2), length / count))
    rest = length - (count - 2) * between
    low, high = max(least, rest - longest), min(longest, rest - least)
    if high < low:  # no way leaves every part so long
        low = high = min(longest, max(rest / 2, rest - longest))
    firsts = np.append(np.arange(high, low, -STEP_MM), low)
    return [tuple(first + k * between for k in range(count - 1)) for first in firsts.tolist()]
