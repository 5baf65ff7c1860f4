"""Strips of constant width laid from a guide line: where their edges run and how each one bends.

Edge k is the front at k strip widths from the guide (geometry.front). Each panel between knuckles is
planked from its own upper or lower edge: a strip does not bend across a knuckle.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.front import between, curves, propagate
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from .edges import BOW_ENDS, STERN_ENDS, EdgePiece, edge_pieces, end_names
from .reach import greatest_distance

if TYPE_CHECKING:
    from scipy.interpolate import PPoly

CLOSE_CALL_MM = 3.0


@dataclass(frozen=True)
class Strip:
    """One strip of one side, numbered from the guide. Lengths mm, curvatures 1/mm, twist rad/mm."""

    number: int
    length: float
    near: tuple[EdgePiece, ...]
    far: tuple[EdgePiece, ...]
    pieces: int
    starts: str
    ends: str
    width_min: float
    width_max: float
    max_edge_set: float
    max_bend: float
    max_twist: float
    panel: int

    @property
    def near_length(self) -> float:
        """Length of the edge towards the guide, all pieces."""
        return sum(p.length for p in self.near)

    @property
    def far_length(self) -> float:
        """Length of the edge away from the guide, all pieces."""
        return sum(p.length for p in self.far)

    @property
    def runs_through(self) -> bool:
        """Whether its far edge runs from the bow end to the stern end of the hull."""
        return any(p.starts in BOW_ENDS and p.ends in STERN_ENDS for p in self.far)


@dataclass(frozen=True)
class Planking:
    """All strips of one side."""

    strips: tuple[Strip, ...]
    width: float
    guide: str
    findings: tuple[Finding, ...]

    @property
    def total_length(self) -> float:
        """Length of all strips of both sides, mm."""
        return 2 * sum(s.length for s in self.strips)


def plank(
    hull: Hull, width: float, guide: str = "sheer", tick: Callable[[float], None] = lambda _: None
) -> Planking:
    """Lay strips `width` mm wide from the `guide` ("sheer" or "keel") over the half hull.

    `tick` is told a share 0..1 and may raise to cancel.
    """
    strips: list[Strip] = []
    findings: list[Finding] = []
    order = list(enumerate(hull.panels))
    if guide == "sheer":
        order.reverse()
    shares = 1.0 / len(order)
    for turn, (index, panel) in enumerate(order):
        names = (panel.upper, panel.lower) if guide == "sheer" else (panel.lower, panel.upper)
        laid = _plank_panel(
            hull, panel.surface, index, width, guide == "sheer", names,
            lambda s, t=turn: tick((t + s) * shares),  # type: ignore[misc]
            findings,
        )  # fmt: skip
        strips += [replace(s, number=len(strips) + 1 + k) for k, s in enumerate(laid)]
    if len(hull.panels) > 1:
        findings.append(
            Finding(
                "knuckle-guide", Weight.INFORMATION, "planking", "the knuckle",
                "Strips do not bend across a knuckle: each part of the hull is planked from its own edge, "
                "and the knuckle is the guide of the part beyond it.",
            )
        )  # fmt: skip
    return Planking(tuple(strips), width, guide, tuple(findings))


def _plank_panel(
    hull: Hull, surface: TensorSurface, index: int, width: float, from_top: bool, names: tuple[str, str],
    tick: Callable[[float], None], findings: list[Finding],
) -> list[Strip]:  # fmt: skip
    girth = _rough_girth(surface)
    fronts = propagate(surface, 1.0 if from_top else 0.0, width, lambda d: tick(min(1.0, d / girth)))
    middles = curves([between(a, b) for a, b in zip(fronts[:-1], fronts[1:], strict=True)])
    ends = end_names(hull, names, from_top)
    lines = zip(fronts, curves(fronts), strict=True)
    edges = dict(enumerate(edge_pieces(own, f.distance == 0, from_top, ends) for f, own in lines))
    halves = dict(enumerate(edge_pieces(own, False, from_top, ends) for own in middles))
    reach = greatest_distance(fronts, from_top)
    count = max(1, math.ceil(reach / width - 1e-9))
    _say_close_call(reach, width, names[1], findings)
    none: list[EdgePiece] = []
    return [
        _strip(
            k + 1,
            width,
            edges.get(k, none),
            halves.get(k, none),
            edges.get(k + 1, none) if (k + 1) * width <= reach else none,
            middles,
            reach,
            index,
        )
        for k in range(count)
    ]


def _rough_girth(surface: TensorSurface) -> float:
    points = surface.points(np.linspace(0, 1, 9)[:, None], np.linspace(0, 1, 33)[None, :])
    return float(np.linalg.norm(np.diff(points, axis=1), axis=-1).sum(axis=1).max())


def _say_close_call(reach: float, width: float, far: str, findings: list[Finding]) -> None:
    left = reach % width
    if min(left, width - left) >= CLOSE_CALL_MM:
        return
    what = (
        f"The last strip is only {mm(round(left, 1))} wide at its widest" if left <= width - left
        else f"The last strip is full to within {mm(round(width - left, 1))}"
    )  # fmt: skip
    findings.append(
        Finding(
            "close-call", Weight.LOOK, "planking", f"the {far}",
            f"{what}: a small error decides whether it is needed. Have one more strip at hand.",
        )
    )  # fmt: skip


def _strip(
    number: int, width: float, near: list[EdgePiece], middle: list[EdgePiece], far: list[EdgePiece],
    middles: list[list[PPoly]], reach: float, panel: int,
) -> Strip:  # fmt: skip
    spans = _merged_overlaps([p.g for edge in (near, middle, far) for p in edge])
    measured = middle or near or far
    widest = min(width, reach - (number - 1) * width)
    worst = far or near
    return Strip(
        number=number,
        length=_own_length(middles, number - 1, spans, near, middle, far),
        near=tuple(near), far=tuple(far),
        pieces=max(1, len(spans)),
        starts=measured[0].starts if measured else "seam",
        ends=measured[-1].ends if measured else "seam",
        width_min=width if _full_width(near, far) else 0.0,
        width_max=widest,
        max_edge_set=max((p.edge_set for p in worst), default=0.0),
        max_bend=max((p.bend for p in worst), default=0.0),
        max_twist=max((p.twist for p in worst), default=0.0),
        panel=panel,
    )  # fmt: skip


def _full_width(near: list[EdgePiece], far: list[EdgePiece]) -> bool:
    """A strip keeps its width to its ends if both edges end on the same limits, in one piece."""
    return (
        len(near) == len(far) == 1
        and near[0].starts == far[0].starts and near[0].ends == far[0].ends
        and far[0].starts in BOW_ENDS and far[0].ends in STERN_ENDS
    )  # fmt: skip


def _merged_overlaps(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    joined: list[tuple[float, float]] = []
    for a, b in sorted(spans):
        if joined and a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(b, joined[-1][1]))
        else:
            joined.append((a, b))
    return joined


def _own_length(
    middles: list[list[PPoly]], number: int, spans: list[tuple[float, float]],
    near: list[EdgePiece], half: list[EdgePiece], far: list[EdgePiece],
) -> float:  # fmt: skip
    """Longest extent of the strip along its own middle, all pieces together (mm).

    The middle is followed beyond the hull's edge as far as the strip's corners need. Where no ray is
    left to follow it, the longest of the strip's own lines is used.
    """
    fallback = max(sum(p.length for p in edge) for edge in (near, half, far))
    if number >= len(middles):
        return fallback
    total = 0.0
    for a, b in spans:
        holding = [c for c in middles[number] if c.x[0] <= a and c.x[-1] >= b]
        if not holding:
            return fallback
        total += float(holding[0].integrate(a, b)[2])
    return max(total, fallback) if spans else fallback
