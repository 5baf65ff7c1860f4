"""An upright mesh cut by planes: its stations from keel to sheer, its ends. Holes are bridged, scatter is smoothed."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..core.geometry.arrays import Array
from ..core.geometry.polyline import runs_along
from ..core.offsets.from_curves import EndCurve

STEEP = np.radians(25)
"""A profile steeper than this belongs to the end, flatter to the keel."""
NARROW = 0.05
"""An end narrower than this share of the hull's greatest half-breadth is a stem."""
JOIN_MM = 0.01
TOUCHING_MM = 1e-7
OFF_MM = 0.02
"""A cut is made so far beside its place: triangles whose edge lies in the plane itself are cut twice or not at all."""
BRIDGE = 0.15
"""A hole no longer than this share of the girth is bridged."""
RAYLEIGH = 0.85
"""The median distance of points that scatter by 1, less what a smooth line through fifteen of them takes with it."""
CHANGES = 0.2
"""A line whose points change sides so often scatters; a clean one bends one way, however coarse it is."""
CUTS, SHARES = 11, 81
"""A station of a rough mesh is smoothed in so many cuts, at so many places."""
END_REACH = 0.35
"""The outline of an end is looked for in so great a share of the hull's length."""
LEVELS = 80
"""Heights at which the outline of an end is looked for."""
LIKE_MM, LIKE_SHARE = 3.2, 0.05
"""Cuts whose sheer lies farther from that of most of them, in mm and as a share of the half-beam, have lost their way."""


class MeshCutter:
    """Cuts an upright mesh."""

    def __init__(self, points: Array, faces: Any) -> None:
        self._points, self._faces = points, np.asarray(faces)
        self.half_beam = float(np.abs(points[:, 1]).max())
        self._x = (float(points[:, 0].min()), float(points[:, 0].max()))

    def _cut(self, at: Array, normal: Array) -> Array:
        """Segments (k, 2, 3) in which a plane cuts the mesh."""
        side = (self._points - at) @ normal
        side[np.abs(side) < TOUCHING_MM] = TOUCHING_MM  # a corner in the plane itself counts as beyond it
        beyond = (side > 0)[self._faces]
        count = beyond.sum(axis=1)
        faces = self._faces[(count == 1) | (count == 2)]
        ends = np.stack([faces, np.roll(faces, -1, axis=1)], axis=-1)  # (k, 3 edges, 2)
        own = side[ends]
        crossed = (own[..., 0] > 0) != (own[..., 1] > 0)  # two edges of each
        first, second = own[crossed].T
        a, b = self._points[ends[crossed][:, 0]], self._points[ends[crossed][:, 1]]
        result: Array = (a + (first / (first - second))[:, None] * (b - a)).reshape(-1, 2, 3)
        return result

    def station(self, x: float) -> Array | None:
        """(half-breadth, height) from keel to sheer in the plane x."""
        line = self._raw(x)
        return None if line is None else _to_sheer(line)

    def _raw(self, x: float) -> Array | None:
        """As `station`, but neither cut at the sheer nor smoothed."""
        return self._line(self._cut(np.array([x + OFF_MM, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]))[..., 1:])

    def roughness(self) -> float:
        """How far the points of sections scatter about smooth lines, mm: 0 for a clean mesh, however coarse."""
        low, high = self._x
        found = [
            _scatter(line)
            for share in (0.3, 0.4, 0.5, 0.6, 0.7)
            if (line := self._raw(low + share * (high - low))) is not None
        ]
        return float(np.median(found)) if found else 0.0

    def smooth_station(self, x: float, over: float) -> Array | None:
        """As `station`, of a rough mesh: cuts about the place smoothed along themselves, and along the hull by a parabola."""
        aside, lines = [], []
        for off in np.linspace(-over, over, CUTS):
            raw = self._raw(x + float(off))
            line = None if raw is None or len(raw) < 8 else _to_sheer(_smooth(raw))
            if line is not None:
                lines.append(_even(line, SHARES))
                aside.append(off)
        if len(lines) < CUTS // 2:
            return None
        table = np.array(lines)
        off_middle = np.linalg.norm(table[:, -1] - np.median(table[:, -1], axis=0), axis=1)
        sound = off_middle < max(LIKE_MM, LIKE_SHARE * self.half_beam)
        if sound.sum() < 4:
            return None
        own = table[sound]
        fit = np.polynomial.polynomial.polyfit(np.array(aside)[sound], own.reshape(len(own), -1), 2)
        result: Array = fit[0].reshape(SHARES, 2)
        result[:, 0] = np.maximum(result[:, 0], 0.0)
        return result

    def _line(self, segments: Array) -> Array | None:
        """The longest line from the keel up on the side y >= 0."""
        import shapely

        if len(segments) == 0:
            return None
        lines = shapely.linestrings(np.round(segments, 3))
        merged = shapely.line_merge(shapely.multilinestrings(lines[shapely.length(lines) > 0]))
        side = shapely.box(-JOIN_MM, -1e7, 1e7, 1e7)
        parts = shapely.get_parts(shapely.intersection(merged, side))
        whole = shapely.line_merge(
            shapely.multilinestrings([p for p in parts if p.geom_type == "LineString"])
        )
        found = [np.asarray(shapely.get_coordinates(p)) for p in shapely.get_parts(whole)]
        found = [p for p in found if len(p) > 1]
        if not found:
            return None
        line = max(found, key=_length)
        return _bridged(_from_low_end(line), [p for p in found if p is not line])

    def end(self, *, bow: bool) -> EndCurve | None:
        """The stem or the transom at one end, foot to head."""
        low, high = self._x
        long = high - low
        near = low + 0.006 * long if bow else high - 0.006 * long
        curve = self.station(near)
        blunt = curve is not None and float(curve[:, 0].max()) > NARROW * 2 * self.half_beam
        profile = self._profile(bow)
        if profile is None:
            return None
        if not blunt:
            return EndCurve("stem_bow" if bow else "stem_stern", profile)
        foot, head = profile[0], profile[-1]
        rake = np.array([head[2] - foot[2], 0.0, -(head[0] - foot[0])])
        rake = rake / np.linalg.norm(rake)
        inside = np.array([0.002 * long if bow else -0.002 * long, 0.0, 0.0])
        cut = self._cut(np.array([foot[0], 0.0, foot[2]]) + inside, rake)
        line = self._line(cut[..., 1:])
        flat = None if line is None else _to_sheer(line)
        if flat is None:
            return None
        x = foot[0] + (flat[:, 1] - foot[2]) * (head[0] - foot[0]) / (head[2] - foot[2])
        return EndCurve("transom", np.column_stack([x, flat]))

    def _profile(self, bow: bool) -> Array | None:
        """The end's outline, (position, half-breadth, height), from where it leaves the keel to its head."""
        bottom, top = (float(v) for v in (self._points[:, 2].min(), self._points[:, 2].max()))
        outline: list[Array] = []
        low, high = self._x
        x = self._points[self._faces, 0]
        reach = END_REACH * (high - low)
        near = x.min(axis=1) < low + reach if bow else x.max(axis=1) > high - reach
        beside = MeshCutter(self._points, self._faces[near])
        for z in np.linspace(bottom, top, LEVELS)[1:-1]:
            cut = beside._cut(np.array([0.0, 0.0, z]), np.array([0.0, 0.0, 1.0])).reshape(-1, 3)
            if len(cut):
                x = cut[:, 0] if bow else -cut[:, 0]
                outermost = cut[x < x.min() + JOIN_MM]
                own = outermost[np.argmin(np.abs(outermost[:, 1]))]
                if outline and abs(own[0] - outline[-1][0]) > 0.2 * (self._x[1] - self._x[0]):
                    break  # above this end's head only the other end is left
                outline.append(own)
        points = np.array(outline).reshape(-1, 3)
        points[:, :2] = np.abs(points[:, :2])
        slope = np.arctan2(np.diff(points[:, 2]), np.abs(np.diff(points[:, 0])) + 1e-9)
        steep = np.concatenate([[0], (slope >= STEEP).astype(int), [0]])
        starts, stops = np.flatnonzero(np.diff(steep) > 0), np.flatnonzero(np.diff(steep) < 0)
        if not len(starts):
            return None
        tallest = int(np.argmax(stops - starts))  # below it runs the keel, above it the sheer
        points = points[starts[tallest] : stops[tallest] + 1]
        return points if len(points) >= 4 else None


def _without_doubles(line: Array) -> Array:
    """A line without points that stand on the one before."""
    result: Array = line[np.concatenate([[True], np.diff(runs_along(line)) > JOIN_MM])]
    return result


def _even(line: Array, count: int) -> Array:
    """So many points at even steps of a line."""
    run = runs_along(line)
    even = np.linspace(0.0, run[-1], count)
    return np.column_stack([np.interp(even, run, line[:, k]) for k in (0, 1)])


def _scatter(line: Array) -> float:
    """How far the points of a line scatter about a smooth one, mm: only what changes sides from point to point is scatter."""
    line = _without_doubles(line)
    if len(line) < 12:
        return 0.0
    from scipy.signal import savgol_filter

    even = _even(line, max(len(line) // 2, 24))
    off = even - savgol_filter(even, min(15, len(even) // 2 * 2 - 1), 2, axis=0)
    changes = np.mean(np.sum(off[1:] * off[:-1], axis=1) < 0)
    return float(np.median(np.linalg.norm(off, axis=1))) / RAYLEIGH if changes > CHANGES else 0.0


def _smooth(line: Array) -> Array:
    """A line through the middle of its scatter."""
    from scipy.interpolate import splev, splprep

    own = _without_doubles(line)
    if len(own) < 6:
        return line
    run = runs_along(own)
    scatter = max(_scatter(own), 0.05)
    knots, _ = splprep(own.T, u=run / run[-1], s=len(own) * scatter**2 * 1.2)
    return np.column_stack(splev(np.linspace(0.0, 1.0, 161), knots))


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
                    if (
                        away < reach
                        and float(gap @ way) >= 0
                        and float(on @ way) > 0
                        and (best is None or away < best[0])
                    ):
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
    """A line that runs on past the sheer, over a deck or down inside, is cut at its sheer: the first place above
    half its height where it comes back inboard by a sharp turn, or its highest point."""
    top, bottom = float(line[:, 1].max()), float(line[:, 1].min())
    if top - bottom < 1.0:
        return None
    step = np.diff(line, axis=0)
    angle = np.arctan2(step[:, 1], step[:, 0])
    turn = np.angle(np.exp(1j * np.diff(angle)))
    for k in np.flatnonzero(turn > np.radians(55)) + 1:
        if line[k, 1] > (top + bottom) / 2:
            return line[: k + 1]
    return line[: int(np.argmax(line[:, 1])) + 1]
