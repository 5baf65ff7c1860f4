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

from ..findings import Finding, Weight
from ..geometry.arrays import Array, BoolArray, frozen
from ..geometry.front import SPACING, Front, between, over_g, propagate, runs
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..offsets.table import EndKind

if TYPE_CHECKING:
    from scipy.interpolate import CubicSpline

END_SHARE = 0.05
"""Share of an edge at each end that is left out of the greatest edge-set, bend and twist."""
CLOSE_CALL_MM = 3.0
EDGE_SAMPLES = 81
SHORTEST_PIECE_MM = 1.0
SCRAP_RAYS = 3
"""A piece that ends on no edge of the hull and spans fewer rays is what a dropped ghost left behind."""


@dataclass(frozen=True)
class EdgePiece:
    """One unbroken piece of a strip's edge on the hull, bow end first.

    `points` (n, 3) mm at even steps of the guide parameter; `g` its range; `starts`, `ends` where it ends.
    """

    points: Array
    g: tuple[float, float]
    length: float
    starts: str
    ends: str
    edge_set: float
    bend: float
    twist: float


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


BOW_ENDS = frozenset({"stem_bow", "transom", "open"})
STERN_ENDS = frozenset({"stem_stern", "transom", "open"})


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
    middles = [between(a, b) for a, b in zip(fronts[:-1], fronts[1:], strict=True)]
    ends = _end_names(hull, names, from_top)
    edges = dict(enumerate(_pieces(front, from_top, ends) for front in fronts))
    halves = dict(enumerate(_pieces(front, from_top, ends) for front in middles))
    reach = _greatest_distance(surface, fronts, from_top)
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


def _end_names(hull: Hull, names: tuple[str, str], from_top: bool) -> dict[str, str]:
    """What lies beyond each limit of the parameters: u < 0, u > 1, v < 0, v > 1."""

    def end(kind: EndKind, stem: str) -> str:
        return {EndKind.STEM: stem, EndKind.TRANSOM: "transom", EndKind.OPEN: "open"}[kind]

    def edge(name: str) -> str:
        return "seam" if name.startswith("chine") else name

    return {
        "bow": end(hull.lines.bow.kind, "stem_bow"),
        "stern": end(hull.lines.stern.kind, "stem_stern"),
        "far": edge(names[1]),
        "far_v": "0" if from_top else "1",
    }  # fmt: skip


def _pieces(front: Front, from_top: bool, ends: dict[str, str]) -> list[EdgePiece]:
    """The pieces of a front that lie on the hull, cut by roots at the hull's limits."""
    found: list[EdgePiece] = []
    far = 0.0 if from_top else 1.0
    for part in runs(front, SPACING):
        curve = over_g(front, part)
        low, high = float(front.g[part][0]), float(front.g[part][-1])
        cuts = {low, high}
        for column, value in ((0, 0.0), (0, 1.0), (1, far)):
            if front.distance == 0 and column == 1:
                continue
            at = _solve_column(curve, column, value)
            cuts.update(t for t in at if low < t < high)
        ordered = sorted(cuts)
        spans = [
            (a, b) for a, b in zip(ordered[:-1], ordered[1:], strict=True) if _is_inside(curve, (a + b) / 2)
        ]
        for a, b in _merged(spans):
            piece = _piece(curve, a, b, ends)
            scrap = "seam" in (piece.starts, piece.ends) and b - a < SCRAP_RAYS * SPACING
            if piece.length > SHORTEST_PIECE_MM and not scrap:
                found.append(piece)
    return found


def _solve_column(curve: CubicSpline, column: int, value: float) -> list[float]:
    """Where one column of a piecewise cubic takes a value: one root in each cell whose ends straddle it."""
    ends = np.append(curve.c[3, :, column], curve(curve.x[-1])[column]) - value
    found: list[float] = []
    for k in np.flatnonzero((ends[:-1] > 0) != (ends[1:] > 0)):
        a, b, c, d = (float(x) for x in curve.c[:, k, column])
        low, high = 0.0, float(curve.x[k + 1] - curve.x[k])
        t = low + (high - low) * float(ends[k] / (ends[k] - ends[k + 1]))
        for _ in range(12):
            slope = (3 * a * t + 2 * b) * t + c
            step = ((((a * t + b) * t + c) * t + d) - value) / slope if slope else 0.0
            t = min(max(t - step, low), high)
            if abs(step) < 1e-15:
                break
        found.append(float(curve.x[k]) + t)
    return found


def _is_inside(curve: CubicSpline, at: float) -> bool:
    u, v = curve(at)[:2]
    return bool(-1e-9 <= u <= 1 + 1e-9 and -1e-9 <= v <= 1 + 1e-9)


def _merged(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    joined: list[tuple[float, float]] = []
    for a, b in spans:
        if joined and joined[-1][1] == a:
            joined[-1] = (joined[-1][0], b)
        else:
            joined.append((a, b))
    return joined


def _piece(curve: CubicSpline, a: float, b: float, ends: dict[str, str]) -> EdgePiece:
    g = np.linspace(a, b, EDGE_SAMPLES)
    table = curve(g)
    stretch = table[:, 2]
    run = np.concatenate([[0.0], np.cumsum((stretch[1:] + stretch[:-1]) / 2 * np.diff(g))])
    middle = (run >= END_SHARE * run[-1]) & (run <= (1 - END_SHARE) * run[-1])
    most = np.abs(table[middle, 3:6]).max(axis=0) if np.any(middle) else np.zeros(3)
    return EdgePiece(
        points=frozen(table[:, 6:]),
        g=(a, b),
        length=float(curve.integrate(a, b)[2]),
        starts=_limit(table[0], True, ends),
        ends=_limit(table[-1], False, ends),
        edge_set=float(most[0]), bend=float(most[1]), twist=float(most[2]),
    )  # fmt: skip


def _limit(row: Array, bow: bool, ends: dict[str, str]) -> str:
    u, v = row[0], row[1]
    if abs(u if bow else u - 1) < 1e-6:
        return ends["bow" if bow else "stern"]
    if abs(v - float(ends["far_v"])) < 1e-6:
        return ends["far"]
    return "seam"


def _greatest_distance(surface: TensorSurface, fronts: list[Front], from_top: bool) -> float:
    """Greatest distance from the guide anywhere on the panel, mm.

    Along each ray the far edge is met at some distance; the greatest over the rays is refined by a
    parabola through it and its neighbours. Where the run leaves through an end, the last front inside counts.
    """
    far = 0.0 if from_top else 1.0
    last_inside = max((f.distance for f in fronts if _inside(f).any()), default=0.0)
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
    last = max(fronts, key=lambda f: (_inside(f).any(), f.distance))
    reach = max(last_inside, _focus(last, far))
    return max(reach, _peak(np.array(sorted(met.values())))) if met else reach


def _inside(front: Front) -> BoolArray:
    result: BoolArray = (front.u >= 0) & (front.u <= 1) & (front.v >= 0) & (front.v <= 1)
    return result


def _focus(front: Front, far: float) -> float:
    """How far the last front on the panel still runs before its rays meet each other or the far edge (mm)."""
    on = _inside(front)
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


def _say_close_call(reach: float, width: float, far: str, findings: list[Finding]) -> None:
    left = reach % width
    if min(left, width - left) >= CLOSE_CALL_MM:
        return
    what = (
        f"The last strip is only {left:.1f} mm wide at its widest" if left <= width - left
        else f"The last strip is full to within {width - left:.1f} mm"
    )  # fmt: skip
    findings.append(
        Finding(
            "close-call", Weight.LOOK, "planking", f"the {far}",
            f"{what}: a small error decides whether it is needed. Have one more strip at hand.",
        )
    )  # fmt: skip


def _strip(
    number: int, width: float, near: list[EdgePiece], middle: list[EdgePiece], far: list[EdgePiece],
    middles: list[Front], reach: float, panel: int,
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
    middles: list[Front], number: int, spans: list[tuple[float, float]],
    near: list[EdgePiece], half: list[EdgePiece], far: list[EdgePiece],
) -> float:  # fmt: skip
    """Longest extent of the strip along its own middle, all pieces together (mm).

    The middle is followed beyond the hull's edge as far as the strip's corners need. Where no ray is
    left to follow it, the longest of the strip's own lines is used.
    """
    fallback = max(sum(p.length for p in edge) for edge in (near, half, far))
    if number >= len(middles):
        return fallback
    front = middles[number]
    total = 0.0
    for a, b in spans:
        holding = [p for p in runs(front, SPACING) if front.g[p][0] <= a and front.g[p][-1] >= b]
        if not holding:
            return fallback
        total += float(over_g(front, holding[0]).integrate(a, b)[2])
    return max(total, fallback) if spans else fallback
