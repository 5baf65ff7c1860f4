"""The edges of strips: the pieces of a front that lie on the hull, cut by roots at the hull's limits."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.front import SPACING
from ..hull.build import Hull
from ..offsets.table import EndKind
from .limits import Bounds, Limit

if TYPE_CHECKING:
    from scipy.interpolate import PPoly

END_SHARE = 0.05
"""Share of an edge at each end that is left out of the greatest edge-set, bend and twist."""
EDGE_SAMPLES = 81
SHORTEST_PIECE_MM = 1.0
ON_SEAM = 1e-6
MARGIN = 9
"""The column of a front's curves that tells its margin above a seam."""
SCRAP_RAYS = 3
"""A piece that ends on no edge of the hull and spans fewer rays is what a dropped ghost left behind."""


@dataclass(frozen=True)
class EdgePiece:
    """One unbroken piece of a strip's edge on the hull, bow end first.

    `points` (n, 3) mm at guide parameters `at` (n,); `g` their range; `starts`, `ends` where it ends. `run` (n,) is the
    length from the bow end, `curvatures` (n, 3) edge-set, bend and twist at the points, per mm, with their signs (bend positive
    where the hull is convex), `uv` (n, 2) their place on the surface; `edge_set`, `bend` and `twist` are the greatest
    sizes without the ends.
    """

    points: Array
    at: Array
    g: tuple[float, float]
    length: float
    starts: str
    ends: str
    edge_set: float
    bend: float
    twist: float
    run: Array
    curvatures: Array
    uv: Array


BOW_ENDS = frozenset({"stem_bow", "transom", "open"})
STERN_ENDS = frozenset({"stem_stern", "transom", "open"})


def hull_end_names(hull: Hull) -> tuple[str, str]:
    """What strips end on at the bow and at the stern."""

    def end(kind: EndKind, stem: str) -> str:
        return {EndKind.STEM: stem, EndKind.TRANSOM: "transom", EndKind.OPEN: "open"}[kind]

    return end(hull.lines.bow.kind, "stem_bow"), end(hull.lines.stern.kind, "stem_stern")


def limit_name(edge: str) -> str:
    """What a strip ends on at an edge of a panel."""
    return "seam" if edge.startswith("chine") else edge


def edge_pieces(lines: list[PPoly], bounds: Bounds, own: float | Limit | None = None) -> list[EdgePiece]:
    """The pieces of a front, given by its curves, that lie within bounds, cut by roots there. `own` is the v of the panel's
    edge that the fronts come from, or the limit that one lies on: it is not looked for (None: none)."""
    limits: list[tuple[int, float]] = [(0, 0.0), (0, 1.0)]
    for limit in (bounds.low, bounds.high):
        if limit is own:
            continue
        if limit.seam is not None:
            limits.append((MARGIN, 0.0))
        elif limit.edge != own:
            limits.append((1, limit.edge))
    found: list[EdgePiece] = []
    for curve in lines:
        low, high = curve.x[[0, -1]].tolist()
        cuts = {low, high}
        for t in _crossed(curve, limits):
            if low < t < high:
                cuts.add(t)
        ordered = sorted(cuts)
        spans = [
            (a, b)
            for a, b in zip(ordered[:-1], ordered[1:], strict=True)
            if _is_inside(curve, (a + b) / 2, bounds)
        ]
        for a, b in _merged(spans):
            piece = _piece(curve, a, b, bounds)
            scrap = "seam" in (piece.starts, piece.ends) and b - a < SCRAP_RAYS * SPACING
            if piece.length > SHORTEST_PIECE_MM and not scrap:
                found.append(piece)
    return found


def _crossed(curve: PPoly, limits: list[tuple[int, float]]) -> list[float]:
    """Where columns of a piecewise cubic take values: one root in each cell whose ends straddle one."""
    columns = [column for column, _ in limits]
    x, pieces = curve.x, curve.c  # asking for either takes longer than the arithmetic
    a, b, c, d = pieces[:, -1, columns]
    h = float(x[-1] - x[-2])
    ends = np.concatenate([pieces[3][:, columns], [((a * h + b) * h + c) * h + d]]) - [v for _, v in limits]
    above = ends > 0
    found: list[float] = []
    for k, which in np.argwhere(above[1:] != above[:-1]).tolist():
        column, value = limits[which]
        a, b, c, d = pieces[:, k, column].tolist()
        low, high = 0.0, float(x[k + 1] - x[k])
        t = low + (high - low) * float(ends[k, which] / (ends[k, which] - ends[k + 1, which]))
        for _ in range(12):
            slope = (3 * a * t + 2 * b) * t + c
            step = ((((a * t + b) * t + c) * t + d) - value) / slope if slope else 0.0
            t = min(max(t - step, low), high)
            if abs(step) < 1e-15:
                break
        found.append(float(x[k]) + t)
    return found


def _is_inside(curve: PPoly, at: float, bounds: Bounds) -> bool:
    row = curve(at)
    u, v = row[:2]
    inside = -1e-9 <= u <= 1 + 1e-9 and -1e-9 <= v <= 1 + 1e-9
    if inside and bounds.low.seam is not None:
        inside = row[MARGIN] >= -ON_SEAM
    return bool(inside)


def _merged(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    joined: list[tuple[float, float]] = []
    for a, b in spans:
        if joined and joined[-1][1] == a:
            joined[-1] = (joined[-1][0], b)
        else:
            joined.append((a, b))
    return joined


def _piece(curve: PPoly, a: float, b: float, bounds: Bounds) -> EdgePiece:
    g = np.linspace(a, b, EDGE_SAMPLES)
    table = curve(g)
    speed = np.linalg.norm(curve(np.linspace(a, b, 2 * EDGE_SAMPLES - 1), 1)[:, 6:9], axis=1)
    cell = (speed[:-2:2] + 4 * speed[1::2] + speed[2::2]) * (b - a) / (EDGE_SAMPLES - 1) / 6  # Simpson's rule
    run = np.concatenate([[0.0], np.cumsum(cell)])
    first, last = np.searchsorted(run, [END_SHARE * run[-1], (1 - END_SHARE) * run[-1]])
    most = np.abs(table[first:last, 3:6]).max(axis=0) if last > first else np.zeros(3)
    starts, ends = _limit(table[0], True, bounds), _limit(table[-1], False, bounds)
    return EdgePiece(
        points=frozen(table[:, 6:9]),
        at=frozen(g),
        g=(a, b),
        length=float(run[-1]),
        starts=starts or "seam",
        ends=ends or "seam",
        edge_set=float(most[0]), bend=float(most[1]), twist=float(most[2]),
        run=frozen(run), curvatures=frozen(table[:, 3:6]),
        uv=frozen(table[:, :2]),
    )  # fmt: skip


def _limit(row: Array, bow: bool, bounds: Bounds) -> str:
    u, v = row[0], row[1]
    if abs(u if bow else u - 1) < 1e-6:
        return bounds.bow if bow else bounds.stern
    for limit in (bounds.low, bounds.high):
        if abs(row[MARGIN] if limit.seam is not None else v - limit.edge) < 1e-6:
            return limit.name
    return ""
