"""An upright mesh cut by planes: its stations from keel to sheer, its ends. Holes are bridged; how rough it is is told."""

from __future__ import annotations

import itertools
from functools import cached_property
from typing import Any

import numpy as np

from ...core.geometry.arrays import Array, ranges_of, rows_at
from ...core.geometry.polyline import runs_along
from ...core.offsets.from_curves import EndCurve
from ...core.offsets.over_deck import LEAST_POINTS, corner_of, is_decked, is_lid

STEEP = np.radians(25)
"""A profile steeper than this belongs to the end, flatter to the keel."""
NARROW = 0.05
"""An end narrower than this share of the hull's greatest half-breadth is a stem."""
END_SLICE = 0.008
"""The share of the length at an end that tells how broad it is."""
JOIN_MM = 0.01
LONG_TRIANGLES = (2.0, 16.0)
"""Triangles longer than so many middle ones are kept apart from the others."""
ONE_SIDE = 0.1
"""A mesh with less than this share of its half-beam on the other side is one half of a hull."""
TOUCHING_MM = 1e-7
OFF_MM = 0.02
"""A cut is made so far beside its place: triangles whose edge lies in the plane itself are cut twice or not at all."""
BRIDGE = 0.15
"""A hole no longer than this share of the girth is bridged."""
RAYLEIGH = 0.85
"""The median distance of points that scatter by 1, less what a smooth line through fifteen of them takes with it."""
SMOOTH_HALF = 7
"""That many points on either side are smoothed over."""
CHANGES = 0.2
"""A line whose points change sides so often scatters; a clean one bends one way, however coarse it is."""
FLAT_INSIDE = 0.002
"""A transom is cut so far inside its outline, as a share of the length: on it there may be nothing to cut."""
END_REACH = 0.35
"""The outline of an end is looked for in so great a share of the hull's length."""
SHARP = np.radians(55)
"""A line turns back inboard by so much at a sheer."""
LEVELS = 80
"""Heights at which the outline of an end is looked for."""


class _Ordered:
    """Triangles in the order of where they begin along an axis, long ones apart: those about a place are found without looking at
    the others."""

    def __init__(self, values: Array, faces: Any) -> None:
        corners = values[faces]
        begins = corners.min(axis=1)
        long = corners.max(axis=1) - begins
        limits = [*(float(np.median(long)) * np.array(LONG_TRIANGLES)), float(long.max())]
        self._kinds: list[tuple[float, Array, Any]] = []
        for shortest, longest in itertools.pairwise((-1.0, *limits)):
            own = np.flatnonzero((long > shortest) & (long <= longest))
            own = own[np.argsort(begins[own], kind="stable")]
            self._kinds.append((longest, begins[own], faces[own]))

    def about(self, value: float) -> Any:
        """Triangles (k, 3) that may reach across a place, all that do among them."""
        found = []
        for longest, begins, faces in self._kinds:
            first, last = np.searchsorted(begins, [value - longest - TOUCHING_MM, value + TOUCHING_MM])
            found.append(faces[first:last])
        return np.concatenate(found)


class MeshCutter:
    """Cuts an upright mesh."""

    def __init__(self, points: Array, faces: Any) -> None:
        self.points, self._faces = points, np.asarray(faces)
        self.half_beam = float(np.abs(points[:, 1]).max())
        self.reach = (float(points[:, 0].min()), float(points[:, 0].max()))
        self.full = self.reach
        """Sections are whole between these positions: a raked transom takes some off those beyond."""
        self._ordered: dict[int, _Ordered] = {}

    @cached_property
    def sides(self) -> int:
        """2 for a whole hull, 1 for a half."""
        return 2 if float(self.points[:, 1].min()) < -ONE_SIDE * self.half_beam else 1

    @cached_property
    def edge(self) -> float:
        """The middle length of its triangles' edges, mm."""
        ends = self.points[self._faces[:, :2]]
        return float(np.median(np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1)))

    def _near(self, axis: int, value: float) -> Any:
        """The triangles that may reach across a plane square to an axis."""
        if axis not in self._ordered:
            self._ordered[axis] = _Ordered(self.points[:, axis], self._faces)
        return self._ordered[axis].about(value)

    def _cut(self, at: Array, normal: Array) -> Array:
        """Segments (k, 2, 3) in which a plane cuts the mesh."""
        along = np.flatnonzero(normal)
        all_faces = self._near(int(along[0]), float(at[along[0]])) if len(along) == 1 else self._faces
        corners = self.points[all_faces]
        side = (corners - at) @ normal
        side[np.abs(side) < TOUCHING_MM] = TOUCHING_MM  # a corner in the plane itself counts as beyond it
        count = (side > 0).sum(axis=1)
        through = (count == 1) | (count == 2)
        corners, side = corners[through], side[through]
        following = np.roll(side, -1, axis=1)
        crossed = (side > 0) != (following > 0)  # two edges of each
        first, second = side[crossed], following[crossed]
        a, b = corners[crossed], np.roll(corners, -1, axis=1)[crossed]
        result: Array = (a + (first / (first - second))[:, None] * (b - a)).reshape(-1, 2, 3)
        return result

    def station(self, x: float) -> Array | None:
        """(half-breadth, height) from keel to sheer in the plane x."""
        line = self._line(self._across(x))
        return None if line is None else _to_sheer(line)

    def deck(self, x: float) -> Array | None:
        """(half-breadth, height) from the sheer over the deck to the centreline in the plane x; None where the mesh has no deck
        there, or an opening in it."""
        line = self._line(self._across(x))
        k = None if line is None else _sheer_of(line)
        if line is None or k is None or not is_decked(line):
            return None
        over = line[k:]
        high = float(over[:, 1].min()) > float(line[:, 1].mean())
        return over if len(over) >= LEAST_POINTS and high and not is_lid(over) else None

    def sides_at(self, x: float) -> list[Array]:
        """As `station` for each side of the hull, but neither cut at the sheer nor with what is shorter than an edge."""
        return self._sides_of(self._across(x))

    def _sides_of(self, cut: Array) -> list[Array]:
        both = (cut, cut * [-1.0, 1.0])[: self.sides]
        return [line for own in both if (line := self._line(own, self.edge)) is not None]

    def _across(self, x: float) -> Array:
        """Segments (k, 2, 2) of a cut across, (y, z)."""
        return self._cut(np.array([x + OFF_MM, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]))[..., 1:]

    def roughness(self) -> float:
        """How far the points of sections scatter about smooth lines, mm: 0 for a clean mesh, however coarse."""
        low, high = self.reach
        found = [_scatter(line) for share in (0.3, 0.4, 0.5, 0.6, 0.7) for line in self.sides_at(low + share * (high - low))]
        return float(np.median(found)) if found else 0.0

    def _line(self, segments: Array, least: float = 0.0) -> Array | None:
        """The longest line from the keel up on the side y >= 0, with the parts longer than `least` that belong to it."""
        import shapely

        if len(segments) == 0:
            return None
        lines = shapely.linestrings(np.round(segments, 3))
        merged = shapely.line_merge(shapely.multilinestrings(lines[shapely.length(lines) > 0]))
        found = [
            part
            for line in shapely.get_parts(merged)
            for part in _on_our_side(shapely.get_coordinates(line))
            if _length(part) > JOIN_MM
        ]
        if not found:
            return None
        line = max(found, key=_length)
        return _bridged(_from_low_end(line), [p for p in found if p is not line and _length(p) > least])

    @property
    def middle(self) -> float:
        """The position half-way between its ends."""
        return sum(self.reach) / 2

    def ends(self) -> list[EndCurve]:
        """Bow and stern, as far as they can be made out."""
        return [end for end in (self.end(bow=True), self.end(bow=False)) if end is not None]

    def end(self, *, bow: bool) -> EndCurve | None:
        """The stem or the transom at one end, foot to head."""
        low, high = self.reach
        long = high - low
        x = self.points[:, 0]
        at_end = x < low + END_SLICE * long if bow else x > high - END_SLICE * long
        blunt = float(np.abs(self.points[at_end, 1]).max()) > NARROW * 2 * self.half_beam
        profile = self._profile(bow)
        if profile is None:
            return None
        if not blunt:
            return EndCurve("stem_bow" if bow else "stem_stern", profile)
        foot, head = profile[0], profile[-1]
        flat = self._flat(foot, head, 1.0 if bow else -1.0)
        if flat is None:
            return None
        x = foot[0] + (flat[:, 1] - foot[2]) * (head[0] - foot[0]) / (head[2] - foot[2])
        return EndCurve("transom", np.column_stack([x, flat]))

    def _flat(self, foot: Array, head: Array, inward: float) -> Array | None:
        """A transom's edge (half-breadth, height): outline from `foot` to `head`; `inward` is 1 at the bow, -1 at the stern."""
        line = self._line(self._rake(foot, head, inward * FLAT_INSIDE * (self.reach[1] - self.reach[0])))
        return None if line is None else _to_sheer(line)

    def _rake(self, foot: Array, head: Array, aside: float) -> Array:
        """Segments (k, 2, 2) of a cut through a transom's rake, so many mm aft of it."""
        square = np.array([head[2] - foot[2], 0.0, -(head[0] - foot[0])])
        at = np.array([foot[0] + aside, 0.0, foot[2]])
        return self._cut(at, square / np.linalg.norm(square))[..., 1:]

    def _steep(self, slope: Array) -> Any:
        """Which pieces of an end's outline belong to the end, by their slopes, radians."""
        return slope >= STEEP

    def _outline(self, points: Array) -> Array:
        """The outline of an end from the outermost points at each level, (n, 3)."""
        return points

    def _profile(self, bow: bool) -> Array | None:
        """The end's outline, (position, half-breadth, height), from where it leaves the keel to its head."""
        bottom, top = (float(v) for v in (self.points[:, 2].min(), self.points[:, 2].max()))
        outline: list[Array] = []
        low, high = self.reach
        x = self.points[self._faces, 0]
        reach = END_REACH * (high - low)
        near = x.min(axis=1) < low + reach if bow else x.max(axis=1) > high - reach
        beside = MeshCutter(self.points, self._faces[near])
        for z in np.linspace(bottom, top, LEVELS)[1:-1]:
            cut = beside._cut(np.array([0.0, 0.0, z]), np.array([0.0, 0.0, 1.0])).reshape(-1, 3)
            if len(cut):
                x = cut[:, 0] if bow else -cut[:, 0]
                outermost = cut[x < x.min() + JOIN_MM]
                own = outermost[np.argmin(np.abs(outermost[:, 1]))]
                retreats = (own[0] - outline[-1][0]) * (1 if bow else -1) if outline else 0.0
                if retreats > 0.2 * (high - low):
                    break  # above this end's head only the other end is left
                outline.append(own)
        points = np.array(outline).reshape(-1, 3)
        points[:, 1] = np.abs(points[:, 1])
        slope = np.arctan2(np.diff(points[:, 2]), np.abs(np.diff(points[:, 0])) + 1e-9)
        steep = np.concatenate([[0], self._steep(slope).astype(int), [0]])
        starts, stops = np.flatnonzero(np.diff(steep) > 0), np.flatnonzero(np.diff(steep) < 0)
        if not len(starts):
            return None
        tallest = int(np.argmax(stops - starts))  # below it runs the keel, above it the sheer
        points = points[starts[tallest] : stops[tallest] + 1]
        return self._outline(points) if len(points) >= 4 else None


def _on_our_side(line: Array) -> list[Array]:
    """The parts of a line at y >= 0, ending where it crosses the middle plane."""
    ours = line[:, 0] >= -JOIN_MM
    if np.all(ours):
        return [line]
    if np.array_equal(line[0], line[-1]):  # a ring begins on the other side
        k = int(np.argmin(ours))
        line, ours = np.concatenate([line[k:-1], line[: k + 1]]), np.concatenate([ours[k:-1], ours[: k + 1]])
    return [_with_crossings(line, a, b) for a, b in ranges_of(ours).tolist()]


def _with_crossings(line: Array, first: int, after: int) -> Array:
    """Points first..after of a line with those where it comes from the other side and goes there."""
    own = [line[first:after]]
    for at, beyond in ((first, first - 1), (after - 1, after)):
        if 0 <= beyond < len(line) and line[at, 0] > 0:
            share = line[at, 0] / (line[at, 0] - line[beyond, 0])
            crossing = line[at] + share * (line[beyond] - line[at])
            own = [crossing[None], *own] if beyond < at else [*own, crossing[None]]
    result: Array = np.concatenate(own)
    return result


def _without_doubles(line: Array) -> Array:
    """A line without points that stand on the one before."""
    result: Array = line[np.concatenate([[True], np.diff(runs_along(line)) > JOIN_MM])]
    return result


def even_steps(line: Array, count: int) -> Array:
    """So many points at even steps of a line."""
    run = runs_along(line)
    even = np.linspace(0.0, run[-1], count)
    return rows_at(even, run, line)


def _scatter(line: Array) -> float:
    """How far the points of a line scatter about a smooth one, mm: only what changes sides from point to point is scatter."""
    line = _without_doubles(line)
    if len(line) < 12:
        return 0.0
    even = even_steps(line, max(len(line) // 2, 24))
    off = (
        even[SMOOTH_HALF:-SMOOTH_HALF]
        - np.lib.stride_tricks.sliding_window_view(even, 2 * SMOOTH_HALF + 1, axis=0) @ _middle_of_parabola()
    )
    changes = np.mean(np.sum(off[1:] * off[:-1], axis=1) < 0)
    return float(np.median(np.linalg.norm(off, axis=1))) / RAYLEIGH if changes > CHANGES else 0.0


def _middle_of_parabola() -> Array:
    """What the heights of a run of points weigh in the middle of the parabola that fits them best."""
    at = np.arange(-SMOOTH_HALF, SMOOTH_HALF + 1, dtype=float)
    result: Array = np.linalg.pinv(np.stack([np.ones_like(at), at, at**2], axis=1))[0]
    return result


def _length(line: Array) -> float:
    return float(runs_along(line)[-1])


def _bridged(line: Array, others: list[Array]) -> Array:
    """The line with the parts that a hole has cut off it: what begins within a bridge's length of one of its ends, and goes on from
    there the way it runs."""
    rest = list(others)
    while rest:
        reach = BRIDGE * (_length(line) + sum(map(_length, rest)))
        best: tuple[float, int, Array, bool] | None = None
        for k, other in enumerate(rest):
            for part in (other, other[::-1]):
                for at_end in (True, False):
                    gap = part[0] - line[-1] if at_end else line[0] - part[-1]
                    away = float(np.hypot(*gap))
                    way = line[-1] - line[-2] if at_end else line[1] - line[0]
                    on = part[1] - part[0] if at_end else part[-1] - part[-2]
                    if away < reach and float(gap @ way) >= 0 and float(on @ way) > 0 and (best is None or away < best[0]):
                        best = (away, k, part, at_end)
        if best is None:
            return line
        _, k, part, at_end = best
        line = np.concatenate([line, part] if at_end else [part, line])
        del rest[k]
    return line


def _from_low_end(line: Array) -> Array:
    """The line from its keel: its low end, or, where it is closed, the lowest point nearest to the centreline."""
    if np.linalg.norm(line[0] - line[-1]) < JOIN_MM:
        k = int(np.lexsort((line[:, 0], np.round(line[:, 1], 1)))[0])
        line = np.concatenate([line[k:], line[1 : k + 1]])
        if line[1, 0] < line[-2, 0] - JOIN_MM:
            line = line[::-1]
        return line
    return line[::-1] if line[-1, 1] < line[0, 1] else line


def _to_sheer(line: Array) -> Array | None:
    """A line that runs on past the sheer, over a deck or down inside, is cut at its sheer."""
    k = _sheer_of(line)
    return None if k is None else line[: k + 1]


def _sheer_of(line: Array) -> int | None:
    """Which point of a line from the keel up is its sheer: of one that goes on over a deck to the centreline where it turns inboard
    most; of another the first place above half its height where it comes back inboard by a sharp turn, or its highest point. None
    for a flat line."""
    top, bottom = float(line[:, 1].max()), float(line[:, 1].min())
    if top - bottom < 1.0:
        return None
    corner = corner_of(line) if is_decked(line) else None
    if corner is not None:
        return corner
    step = np.diff(line, axis=0)
    angle = np.arctan2(step[:, 1], step[:, 0])
    turn = np.angle(np.exp(1j * np.diff(angle)))
    for k in np.flatnonzero(turn > SHARP) + 1:
        if line[k, 1] > (top + bottom) / 2:
            return int(k)
    return int(np.argmax(line[:, 1]))
