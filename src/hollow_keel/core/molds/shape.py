"""The edge of a mold: the inner face of the planking cut by the plane of its reference face.

The true school takes the skin's thickness off square to the hull's surface; the in-plane school
takes it off within the plane of the section, which is right only where the hull runs parallel to
its centreline. Both are cut at the same plane.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, BoolArray, frozen, ranges_of
from ..geometry.polyline import crossing, first_loop, height_crossing
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..hull.build import Hull
from ..offsets.table import EndKind
from ..settings.mold_choices import Deduction

EDGE_POINTS = 97
KNUCKLE_REACH = 0.18
"""How far beyond a knuckle each panel is followed before the two edges are cut to each other (of its girth)."""
CONVERGED_MM, SOLVED_IN = 1e-6, 8


class Face(StrEnum):
    """The face of a mold that stands on the station line."""

    FORWARD = "forward"
    AFT = "aft"


@dataclass(frozen=True)
class MoldEdge:
    """One mold's edge on its reference face, keel to sheer.

    `points` (n, 2) half-breadth and height, mm; `narrowing` (n,) radians by which the hull's surface leans from
    the square edge, positive where the hull narrows towards the stern; `waterline` the point of the edge at the load
    waterline, None where it does not reach that height. `corners` are the points (2,) where two panels meet in it, by the number of
    the upper one.
    """

    face_at: float
    points: Array
    narrowing: Array
    waterline: Array | None
    findings: tuple[Finding, ...]
    corners: Mapping[int, Array] = field(default_factory=dict)

    @property
    def bevels(self) -> Array:
        """The angle between the hull's surface and the square edge at each point, radians, (n,)."""
        result: Array = np.abs(self.narrowing)
        return result

    @property
    def girth(self) -> float:
        """Length of the edge from keel to sheer, mm."""
        return float(np.linalg.norm(np.diff(self.points, axis=0), axis=1).sum())

    @property
    def keel(self) -> Array:
        """The lowest point (2,) of the edge, half-breadth and height, mm (at the keel, the stem, or on the centreline)."""
        result: Array = self.points[0]
        return result

    @property
    def sheer(self) -> Array:
        """The point (2,) of the edge, half-breadth and height, mm, that the sheer's inside comes to."""
        result: Array = self.points[-1]
        return result


@dataclass(frozen=True)
class _Edge:
    points: Array
    narrowing: Array
    corners: Mapping[int, Array] = field(default_factory=dict)


def mold_edge(hull: Hull, face_at: float, skin: float, school: Deduction, waterline: float) -> MoldEdge | None:
    """The mold whose reference face stands at x = `face_at`; None where that plane misses the hull.

    `skin` is the whole deduction in mm.
    """
    return mold_edges(hull, [face_at], skin, school, waterline)[0]


def mold_edges(
    hull: Hull, faces: list[float], skin: float, school: Deduction, waterline: float, bottom: float = 0.0, *, on_centre: bool = True
) -> list[MoldEdge | None]:
    """The molds whose reference faces stand at `faces` (x, mm); solved all at once. See mold_edge.

    `bottom` mm more are deducted below the lowest chine; a hull without one has no bottom of its own. Edges begin on the centreline
    where they would begin past it, unless it is not there that they begin (`on_centre`).
    """
    skins = [skin + (bottom if k == 0 < len(hull.panels) - 1 else 0.0) for k in range(len(hull.panels))]
    solved = _solve_panels(hull, faces, skins if school is Deduction.NORMAL else [0.0] * len(skins))
    edges: list[MoldEdge | None] = []
    for k, face_at in enumerate(faces):
        findings: list[Finding] = []
        name = f"station {mm(face_at)}"
        inner = _joined(hull, face_at, skins, school, [panel[k] for panel in solved], name, findings)
        edges.append(None if inner is None else _finished(inner, face_at, waterline, name, findings, on_centre))
    return edges


def _finished(
    inner: _Edge, face_at: float, waterline: float, name: str, findings: list[Finding], on_centre: bool
) -> MoldEdge | None:
    edge = _without_loops(inner, name, findings)
    edge = _above_centreline(edge) if on_centre else edge
    if len(edge.points) < 2:
        return None
    at_waterline = height_crossing(edge.points, waterline)
    return MoldEdge(
        face_at,
        frozen(edge.points),
        frozen(edge.narrowing),
        None if at_waterline is None else frozen(at_waterline),
        tuple(findings),
        edge.corners,
    )


def section_outside(hull: Hull, at: float) -> Array:
    """The outside of the planking in the plane x = `at`, keel to sheer, (n, 2) mm; empty where it misses the hull."""
    return sections_outside(hull, [at])[0]


def sections_outside(hull: Hull, places: list[float]) -> list[Array]:
    """As `section_outside`, (n, 2) mm each, in the planes of several places (mm) at once, which is quicker."""
    bare = [0.0] * len(hull.panels)
    panels = _solve_panels(hull, places, bare)
    found = []
    for k, at in enumerate(places):
        edge = _joined(hull, at, bare, Deduction.NORMAL, [panel[k] for panel in panels], "", [])
        found.append(np.zeros((0, 2)) if edge is None else edge.points)
    return found


@dataclass(frozen=True)
class _Solved:
    """Where the inner face of the skin comes to a plane: u and the surface there for each v, and where that succeeded."""

    v: Array
    u: Array
    jet: Jet
    good: BoolArray


def _solve_panels(hull: Hull, faces: list[float], depths: list[float]) -> list[list[_Solved]]:
    """For each panel, the solution of each face over the panel's v, a little beyond its knuckles."""
    last = len(hull.panels) - 1
    found: list[list[_Solved]] = []
    for k, panel in enumerate(hull.panels):
        v = np.linspace(-KNUCKLE_REACH if k > 0 else 0.0, 1.0 + (KNUCKLE_REACH if k < last else 0.0), EDGE_POINTS)
        about = _about(panel.surface, np.array(faces, dtype=float), v).ravel()
        u, jet, good = _solve(panel.surface, np.repeat(faces, EDGE_POINTS), depths[k], np.tile(v, len(faces)), about)
        parts = [slice(i * EDGE_POINTS, (i + 1) * EDGE_POINTS) for i in range(len(faces))]
        found.append([_Solved(v, u[p], jet.part(p), good[p]) for p in parts])
    return found


def _joined(
    hull: Hull, face_at: float, skins: list[float], school: Deduction, solved: list[_Solved], name: str, findings: list[Finding]
) -> _Edge | None:
    open_ends = (hull.lines.bow.kind is EndKind.OPEN, hull.lines.stern.kind is EndKind.OPEN)
    joined: _Edge | None = None
    for number, (panel, skin, own) in enumerate(zip(hull.panels, skins, solved, strict=True)):
        floor = 0.0 if joined is None else -np.inf
        part = _panel_edge(panel.surface, face_at, skin, school, own, floor, open_ends)
        if part is not None:
            joined = part if joined is None else _cut_together(joined, part, number, name, findings)
    return joined


def _knuckle_near(lower: _Edge, upper: _Edge) -> Array:
    """Where the two panels of a section come nearest: a first guess of their corner."""
    gaps = np.linalg.norm(lower.points[:, None] - upper.points[None], axis=-1)
    i, j = np.unravel_index(int(np.argmin(gaps)), gaps.shape)
    result: Array = (lower.points[i] + upper.points[j]) / 2
    return result


def _cut_together(lower: _Edge, upper: _Edge, number: int, name: str, findings: list[Finding]) -> _Edge:
    hit = crossing(lower.points, upper.points, _knuckle_near(lower, upper))
    if hit is None:
        findings.append(
            Finding(
                "knuckle-open",
                Weight.LOOK,
                "molds",
                name,
                "The edges below and above the knuckle do not meet here; they are joined by a straight line.",
            )
        )
        keep_low, keep_high, corner = len(lower.points) - 1, -1, upper.points[:0]
    else:
        keep_low, keep_high, point = hit
        corner = point[None]
    lean = lower.narrowing[keep_low : keep_low + 1][: len(corner)]
    corners = {**lower.corners, **({number: corner[0]} if len(corner) else {})}
    return _Edge(
        np.concatenate([lower.points[: keep_low + 1], corner, upper.points[keep_high + 1 :]]),
        np.concatenate([lower.narrowing[: keep_low + 1], lean, upper.narrowing[keep_high + 1 :]]),
        corners,
    )


def _panel_edge(
    surface: TensorSurface, face_at: float, skin: float, school: Deduction, own: _Solved, floor: float, open_ends: tuple[bool, bool]
) -> _Edge | None:
    depth = skin if school is Deduction.NORMAL else 0.0
    v, u, jet, good = own.v, own.u, own.jet, own.good
    low_limit = -0.05 if open_ends[0] else -1e-7
    high_limit = 1.05 if open_ends[1] else 1 + 1e-7
    inside = good & (u >= low_limit) & (u <= high_limit) & (v >= floor)
    if not np.any(inside):
        return None
    start, stop = _longest_run(inside)
    low = _limit(surface, face_at, depth, own, start, -1, floor)
    high = _limit(surface, face_at, depth, own, stop, 1, floor)
    if low > v[0] or high < v[-1]:
        v = np.linspace(low, high, EDGE_POINTS)
        u, jet, good = _solve(surface, np.full_like(v, face_at), depth, v, np.interp(v, own.v, own.u))
    normal = jet.normal
    flat = jet.point[:, 1:]
    if school is Deduction.NORMAL:
        points = flat - skin * normal[:, 1:]
    else:
        within = normal[:, 1:]
        points = flat - skin * within / np.linalg.norm(within, axis=1, keepdims=True)
    narrowing = np.arcsin(np.clip(normal[:, 0], -1, 1))
    return _Edge(points[good], narrowing[good])


def _limit(surface: TensorSurface, face_at: float, depth: float, own: _Solved, at: int, step: int, floor: float) -> float:
    """Where the run that ends at v[at] really ends: there, or at the stem or transom on the way to the next v."""
    v, beyond = own.v, at + step
    if not 0 <= beyond < len(v):
        return float(v[at])
    if v[beyond] < floor:
        return floor
    return _end_of_run(surface, face_at, depth, v[beyond], v[at], float(np.round(own.u[at])))


def _solve(surface: TensorSurface, face_at: Array, depth: float, v: Array, near: Array) -> tuple[Array, Jet, BoolArray]:
    """u at which the inner face of the skin comes to x = `face_at`, for each v (both (n,)), looked for from `near` (n,); and where
    that succeeded."""
    u = near
    for _ in range(SOLVED_IN):
        jet = surface.jet(u, v)
        normal = jet.normal
        miss = jet.point[:, 0] - depth * normal[:, 0] - face_at
        if np.all(np.abs(miss) < CONVERGED_MM):
            break
        slope = jet.du[:, 0]
        if depth:
            slope = slope - depth * _normal_du(jet, normal)[:, 0]
        u = np.clip(u - miss / np.where(np.abs(slope) > 1e-9, slope, 1e-9), -0.5, 1.5)
    else:
        jet = surface.jet(u, v)
        miss = jet.point[:, 0] - depth * jet.normal[:, 0] - face_at
    good: BoolArray = np.abs(miss) < 1e-3
    return u, jet, good


def _about(surface: TensorSurface, faces: Array, v: Array) -> Array:
    """About where a surface comes to each x of `faces` (m,) at each v (n,): u, (m, n), between five places along it."""
    ends = surface.points(np.array([[0.0], [0.25], [0.5], [0.75], [1.0]]), v[None, :])[..., 0]
    cell = np.clip((ends[None, 1:-1] < faces[:, None, None]).sum(axis=1), 0, 3)
    column = np.arange(len(v))
    low, high = ends[cell, column], ends[cell + 1, column]
    # where the hull stands still anywhere is as good
    with np.errstate(divide="ignore", invalid="ignore"):
        share = (faces[:, None] - low) / (high - low)
    result: Array = np.clip((cell + np.nan_to_num(share, nan=0.5)) / 4, -0.5, 1.5)
    return result


def _normal_du(jet: Jet, normal: Array) -> Array:
    product = cross(jet.dv, jet.du)
    change = cross(jet.duv, jet.du) + cross(jet.dv, jet.duu)
    size = np.linalg.norm(product, axis=1, keepdims=True)
    result: Array = (change - normal * dot(normal, change)[:, None]) / size
    return result


def _longest_run(mask: BoolArray) -> tuple[int, int]:
    runs = ranges_of(mask)
    first, stop = runs[int(np.argmax(runs[:, 1] - runs[:, 0]))].tolist()
    return first, stop - 1


def _end_of_run(surface: TensorSurface, face_at: float, depth: float, outside: float, inside: float, end: float) -> float:
    """The v between `inside` and `outside` at which the inner face of the skin comes to the plane at the very end
    of the surface, u = `end`; `inside` where it does not."""
    for _ in range(4):  # seventeen times finer each time
        tries = np.linspace(inside, outside, 18)
        jet = surface.jet(np.full_like(tries, end), tries)
        miss = jet.point[:, 0] - depth * jet.normal[:, 0] - face_at
        turned = np.flatnonzero(np.diff(np.sign(miss)) != 0)
        if not len(turned):
            return inside
        inside, outside = float(tries[turned[0]]), float(tries[turned[0] + 1])
    return inside


def _without_loops(edge: _Edge, name: str, findings: list[Finding]) -> _Edge:
    """Cut off the loops that an offset makes where the section is tighter than the deduction."""
    cut = 0
    while (loop := first_loop(edge.points)) is not None and cut < 20:
        i, j, at = loop
        edge = _Edge(
            np.concatenate([edge.points[: i + 1], at[None], edge.points[j + 1 :]]),
            np.concatenate([edge.narrowing[: i + 1], edge.narrowing[i : i + 1], edge.narrowing[j + 1 :]]),
            edge.corners,
        )
        cut += 1
        findings.append(
            Finding(
                "tight-section",
                Weight.LOOK,
                "molds",
                f"{name}, height {mm(round(at[1]))}",
                "The section is tighter here than the skin is thick: the edge is cut to a clean corner; "
                "the strips will need backing out or the inside will not touch.",
            )
        )
    return edge


def _above_centreline(edge: _Edge) -> _Edge:
    """Drop what lies across the centreline at the keel and end the edge on it."""
    across = np.flatnonzero(edge.points[:, 0] < 0)
    if len(across) == 0:
        return edge
    k = int(across[-1])
    if k + 1 >= len(edge.points):
        return replace(edge, points=edge.points[:0], narrowing=edge.narrowing[:0])
    a, b = edge.points[k], edge.points[k + 1]
    share = -a[0] / (b[0] - a[0])
    at = a + share * (b - a)
    at[0] = 0.0
    lean = edge.narrowing[k] + share * (edge.narrowing[k + 1] - edge.narrowing[k])
    return _Edge(np.concatenate([at[None], edge.points[k + 1 :]]), np.concatenate([[lean], edge.narrowing[k + 1 :]]), edge.corners)
