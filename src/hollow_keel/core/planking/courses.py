"""One course of strips: from a guide to a limit of a panel, of given widths or dividing the girth."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..geometry.arrays import Array
from ..geometry.front import Front, between, curves, propagate
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine
from .choices import Course, StripLayout
from .divided import CrossLines, Division, division_front, few_tapered, mixed, tapered
from .edges import BOW_ENDS, STERN_ENDS, STRETCH, EdgePiece, edge_pieces, integral
from .limits import Bounds
from .reach import greatest_distance
from .run_on import run_on
from .strips import Strip

if TYPE_CHECKING:
    from scipy.interpolate import PPoly

Widths = Callable[[int], float]
"""Width of hull that a strip covers by its place in the course, from 0."""
MIDDLE_SAMPLES = 2
SAME_MM = 0.01
GONE_MM = 0.5
"""A strip that fades out ends where it is narrower."""


@dataclass(frozen=True)
class Task:
    """Where a course is laid: from `guide` (the v of an edge, or a line) to the far limit of `bounds`, upward or downward."""

    surface: TensorSurface
    guide: float | SurfaceLine
    upward: bool
    bounds: Bounds
    panel: int

    @property
    def own_edge(self) -> float | None:
        """The v of the panel's edge that the guide is, if it is one."""
        return self.guide if isinstance(self.guide, float) else None

    @property
    def course(self) -> Course:
        """Its direction by name."""
        return Course.UP if self.upward else Course.DOWN


@dataclass(frozen=True)
class Laid:
    """The strips of a course, numbered from 1, how far they reach from the guide (mm), the numbers
    that fade out, and how many ends of edges ran on past the last square line from the guide."""

    strips: tuple[Strip, ...]
    reach: float
    faded: tuple[int, ...] = ()
    run_on: int = 0


def lay_fronts(task: Task, widths: Widths, tick: Callable[[float], None], most: int | None = None) -> Laid:
    """Strips whose edges are lines of equal distance from the guide; `most` of them, or until the limit is reached."""
    far = task.bounds.far(task.upward)
    girth = rough_girth(task.surface)
    fronts = propagate(
        task.surface, task.guide, widths, lambda d: tick(min(1.0, d / girth)), upward=task.upward, most=most
    )
    margin = task.bounds.low.margin if task.bounds.low.seam is not None else None
    tick(1.0)
    middles = curves([between(a, b) for a, b in zip(fronts[:-1], fronts[1:], strict=True)], margin)
    tick(1.0)
    own = task.own_edge

    def pieces(of: list[PPoly], *samples: int) -> list[EdgePiece]:
        tick(1.0)  # an edit need not wait for a hundred of them
        return edge_pieces(of, task.bounds, own, *samples)

    edges = [pieces(c) for c in curves(fronts, margin)]
    halves = [pieces(c, MIDDLE_SAMPLES) for c in middles]
    edges, more = run_on(task.surface, task.bounds, edges)
    reach = fronts[-1].distance if most is not None else greatest_distance(fronts, far)
    ends = [0.0]
    while ends[-1] < reach - 1e-9 * max(reach, 1.0):
        ends.append(ends[-1] + widths(len(ends) - 1))
    none: list[EdgePiece] = []

    def pick(table: list[list[EdgePiece]], k: int) -> list[EdgePiece]:
        return table[k] if k < len(table) else none

    strips = [
        _strip(
            task, k + 1, (pick(edges, k), pick(halves, k), pick(edges, k + 1) if ends[k + 1] <= reach + 1e-9 else none),
            middles[k] if k < len(middles) else [], widths(k), min(widths(k), reach - ends[k]),
        )
        for k in range(max(1, len(ends) - 1))
    ]  # fmt: skip
    while len(strips) > 1 and not strips[-1].length:  # no line of it was found on the hull
        strips.pop()
    return Laid(tuple(strips), reach, run_on=more)


def lay_division(
    task: Task,
    layout: StripLayout,
    width: float,
    least: float,
    between_places: tuple[float | None, float | None],
) -> Laid:
    """Strips that divide the girth between the guide and the limit. Raises ImpossiblePlan."""
    guide = (
        task.guide
        if isinstance(task.guide, SurfaceLine)
        else SurfaceLine.level(np.linspace(0, 1, 3), task.guide)
    )
    far = task.bounds.far(task.upward)
    lines = CrossLines.between(task.surface, guide, far, task.upward)
    exact = layout is StripLayout.TAPERED
    division = (
        tapered(lines, width, least) if exact
        else few_tapered(lines, width, least) if layout is StripLayout.FEW
        else mixed(lines, width, *between_places)
    )  # fmt: skip
    spread = (division.edges[1:] - division.edges[:-1]).max(axis=1) - (
        narrowest := (division.edges[1:] - division.edges[:-1]).min(axis=1)
    )
    shaped = spread > SAME_MM
    count = len(division.widest)
    fronts = [division_front(task.surface, lines, e, task.upward) for e in division.edges]
    middle_lines = (division.edges[1:] + division.edges[:-1]) / 2
    halves = [division_front(task.surface, lines, e, task.upward) for e in middle_lines]
    strips = []
    margin = task.bounds.low.margin if task.bounds.low.seam is not None else None
    whole, middles = curves(fronts, margin), curves(halves, margin)
    pieces = [
        edge_pieces(c, task.bounds, far if exact and k == count else task.own_edge)
        for k, c in enumerate(whole)
    ]
    for k in range(count):
        near, half, far_edge = (
            pieces[k],
            edge_pieces(middles[k], task.bounds, task.own_edge, MIDDLE_SAMPLES),
            pieces[k + 1],
        )
        own_middles = middles[k]
        if k + 1 in division.dropped:
            near, half, far_edge, own_middles = _faded(task, division, k, fronts, halves[k])
        strips.append(
            _strip(
                task, k + 1, (near, half, far_edge), own_middles, None if shaped[k] else width,
                float(division.widest[k]),
            )
        )  # fmt: skip
    strips = [
        replace(s, shaped=True) if own else s
        for s, own in zip(strips, shaped | (layout is not StripLayout.FEW), strict=True)
    ]
    if exact:
        strips = [_with_least(s, float(n)) for s, n in zip(strips, narrowest, strict=True)]
    return Laid(tuple(strips), float(lines.girth.max()), division.dropped)


def _with_least(strip: Strip, least: float) -> Strip:
    return replace(strip, width_min=max(least, 0.0) if least > GONE_MM else 0.0)


def _faded(
    task: Task, division: Division, k: int, fronts: list[Front], half: Front
) -> tuple[list[EdgePiece], list[EdgePiece], list[EdgePiece], list[PPoly]]:
    """The edges and the middle of a strip that comes to nothing before an end."""
    from ..geometry.front import kept

    wide = division.edges[k + 1] - division.edges[k] > GONE_MM
    margin = task.bounds.low.margin if task.bounds.low.seam is not None else None
    parts = curves([kept(fronts[k], wide), kept(half, wide), kept(fronts[k + 1], wide)], margin)
    near, middle, far = (edge_pieces(c, task.bounds, task.own_edge) for c in parts)
    return near, middle, far, parts[1]


def rough_girth(surface: TensorSurface) -> float:
    """Greatest girth of a panel, about, mm."""
    points = surface.points(np.linspace(0, 1, 9)[:, None], np.linspace(0, 1, 33)[None, :])
    return float(np.linalg.norm(np.diff(points, axis=1), axis=-1).sum(axis=1).max())


def _strip(
    task: Task, number: int, edges: tuple[list[EdgePiece], list[EdgePiece], list[EdgePiece]], middles: list[PPoly],
    constant: float | None, widest: float,
) -> Strip:  # fmt: skip
    near, middle, far = edges
    spans = _merged_overlaps([p.g for edge in edges for p in edge])
    worst = far or near
    return Strip(
        number=number,
        length=_own_length(middles, spans, near, middle, far),
        near=tuple(near), far=tuple(far),
        pieces=max(1, len(spans)),
        starts=_end((middle, near, far), 0),
        ends=_end((middle, near, far), 1),
        width_min=constant if constant is not None and _full_width(near, far) else 0.0,
        width_max=widest,
        max_edge_set=max((p.edge_set for p in worst), default=0.0),
        max_bend=max((p.bend for p in worst), default=0.0),
        max_twist=max((p.twist for p in worst), default=0.0),
        panel=task.panel,
        course=task.course,
    )  # fmt: skip


def _end(edges: tuple[list[EdgePiece], ...], stern: int) -> str:
    """What a strip ends on: as its middle does, or where the last square line does not reach so far as one of its edges does."""
    for edge in edges:
        if edge and edge[-stern].tips[stern] is None:
            return edge[-1].ends if stern else edge[0].starts
    return "seam"


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
    middles: list[PPoly], spans: list[tuple[float, float]],
    near: list[EdgePiece], half: list[EdgePiece], far: list[EdgePiece],
) -> float:  # fmt: skip
    """Longest extent of the strip along its own middle, all pieces together (mm).

    The middle is followed beyond the hull's edge as far as the strip's corners need. Where no ray is
    left to follow it, the longest of the strip's own lines is used.
    """
    fallback = max(sum(p.length for p in edge) for edge in (near, half, far))
    total = 0.0
    for a, b in spans:
        holding = [c for c in middles if c.x[0] <= a and c.x[-1] >= b]
        if not holding:
            return fallback
        total += integral(holding[0], STRETCH, a, b)
    return max(total, fallback) if spans else fallback


def seam_heights(edge: tuple[EdgePiece, ...]) -> tuple[Array, Array]:
    """The last edge of a course as v over rising u."""
    uv = max(edge, key=lambda piece: piece.length).uv
    rising = np.concatenate([[True], np.diff(np.maximum.accumulate(uv[:, 0])) > 1e-6])
    return uv[rising, 0], uv[rising, 1]
