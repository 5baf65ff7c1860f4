"""How the seams of one layer lie to those of the next, and how wide veneers may be in each part of the hull."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..rules import FLATTEN_STRAIN, PARALLEL_DEG, TOGETHER_MM, UNSPILED_MM
from .layer_plan import LayerPlan
from .layer_remarks import PAGE
from .veneer import Veneer

LEAST_TOGETHER = 0.02
"""A smaller share of the seams' length that lies so near is where they happen to meet."""
ZONES = 3
WIDEST_MM = 1e4


@dataclass(frozen=True)
class Neighbours:
    """A layer and the next over it, from 1: the angle between their veneers, degrees; whether they run the same way; how near
    their seams come to each other, mm, and where (mm along); the share of the outer one's seams that lies within TOGETHER_MM;
    where they cross, how far apart the crossings are along a seam, mm (0: they do not)."""

    inner: int
    outer: int
    angle: float
    parallel: bool
    nearest: float
    where: float
    together: float
    crossings: float


@dataclass(frozen=True)
class ZoneWidth:
    """A part of a layer: the widest veneer that lies down there, mm, the widest that may be laid without spiling, and the share of
    a veneer's width that spiling takes at its narrowest."""

    layer: int
    name: str
    by_strain: float
    unspiled: float
    spiled: float


@dataclass(frozen=True)
class Seams:
    """All neighbouring layers, and how wide veneers may be in each part of every layer."""

    neighbours: tuple[Neighbours, ...]
    zones: tuple[ZoneWidth, ...]
    findings: tuple[Finding, ...]


def seams_of(plans: Sequence[LayerPlan]) -> Seams:
    """What the seams of planned layers come to."""
    pairs = tuple(_pair(a, b) for a, b in zip(plans[:-1], plans[1:], strict=True) if a.veneers and b.veneers)
    zones = tuple(zone for plan in plans for zone in _zones(plan))
    return Seams(pairs, zones, tuple(_findings(pairs, plans)))


def straight_edge(veneer: Veneer) -> Array:
    """The straight edge of a veneer on the hull, (n, 3) mm, along its length."""
    on = veneer.flat[:, 1] < 0.5
    points: Array = veneer.outline[on][np.argsort(veneer.flat[on, 0])]
    return points


def _pair(inner: LayerPlan, outer: LayerPlan) -> Neighbours:
    from scipy.spatial import KDTree  # loads slowly: not before it is needed

    apart = abs(inner.layer.degrees - outer.layer.degrees) % 180.0
    angle = min(apart, 180.0 - apart)
    parallel = angle < PARALLEL_DEG
    lines = [np.concatenate([straight_edge(v) for v in plan.veneers]) for plan in (inner, outer)]
    away, _ = KDTree(lines[0]).query(lines[1])
    away = np.sqrt(np.maximum(away**2 - (inner.depth - outer.depth) ** 2, 0.0))  # seen square to the skin
    k = int(np.argmin(away))
    crossings = 0.0 if parallel else (inner.layer.width + inner.layer.gap) / math.sin(math.radians(angle))
    return Neighbours(
        inner.number,
        outer.number,
        angle,
        parallel,
        float(away[k]),
        float(lines[1][k, 0]),
        float(np.mean(away < TOGETHER_MM)),
        crossings,
    )


def _zones(plan: LayerPlan) -> list[ZoneWidth]:
    """The parts of a layer: thirds along the hull, of one that runs fore and aft thirds from the keel up."""
    if len(plan.veneers) < ZONES:
        return []
    across = abs(plan.layer.degrees) < PARALLEL_DEG
    names = ("low", "half way up", "high") if across else ("bow third", "middle third", "stern third")
    places = [float(v.unrolled[:, 1 if across else 0].mean()) for v in plan.veneers]
    low, high = min(places), max(places)
    found = []
    for k, name in enumerate(names):
        own = [
            v
            for v, at in zip(plan.veneers, places, strict=True)
            if min(int((at - low) / max(high - low, 1e-9) * ZONES), ZONES - 1) == k and v.width > 1.0
        ]
        if own:
            found.append(
                ZoneWidth(
                    plan.number,
                    name,
                    min(_by_strain(v) for v in own),
                    min(_unspiled(v) for v in own),
                    max((1.0 - v.least / v.width for v in own if v.two_seams), default=0.0),
                )
            )
    return found


def _by_strain(veneer: Veneer) -> float:
    """The width at which a veneer's strain would be what it takes: strain goes with the width squared."""
    return min(veneer.width * math.sqrt(FLATTEN_STRAIN / veneer.strain) if veneer.strain > 0 else WIDEST_MM, WIDEST_MM)


def _unspiled(veneer: Veneer) -> float:
    """The width at which the gap beside it would be what glue fills: gaps go with the width; at a corner of the hull there is
    none."""
    if not veneer.two_seams:
        return WIDEST_MM
    lost = 1.0 - veneer.least / veneer.width
    return min(UNSPILED_MM / lost if lost > 1e-6 else WIDEST_MM, WIDEST_MM)


def _findings(pairs: Sequence[Neighbours], plans: Sequence[LayerPlan]) -> list[Finding]:
    found = []
    for pair in pairs:
        if not pair.parallel or pair.together < LEAST_TOGETHER:
            continue
        width = plans[pair.outer - 1].layer.width
        text = (
            f"{pair.together:.0%} of its seams lie within {mm(TOGETHER_MM)} of those of layer {pair.inner}, nearest near position "
            f"{mm(round(pair.where))}: move its first veneer by {mm(round(width / 2))}."
        )
        found.append(Finding("seams-together", Weight.LOOK, PAGE, f"layer {pair.outer}", text))
    return found
