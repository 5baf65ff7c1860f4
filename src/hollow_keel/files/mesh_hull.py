"""A hull as a mesh (STL, OBJ): put upright in our frame and cut at stations into a table of offsets."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ..core.errors import InputError
from ..core.findings import mm
from ..core.geometry.arrays import Array
from ..core.geometry.polyline import feet
from ..core.hull.build import build_hull
from ..core.hull.restation import section_at
from ..core.offsets.from_curves import EndCurve, StationCurve, Taken, table_from_curves
from ..core.offsets.table import OffsetsTable, read_lines
from .mesh_pose import Pose, pose_of

LARGEST_BYTES = 300_000_000
AXES = ("x", "y", "z")
SEEN_DEG = 0.1
"""A lean of less is none."""
LEAST_FACES = 200
"""A mesh of fewer triangles tells too little of how it lies."""
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
ROUGH_MM = 0.8
"""Points that scatter by more (standard deviation) are smoothed."""
RAYLEIGH = 0.85
"""The median distance of points that scatter by 1, less what a smooth line through fifteen of them takes with it."""
CHANGES = 0.2
"""A line whose points change sides so often scatters; a clean one bends one way, however coarse it is."""
SMOOTH_OVER, CUTS, SHARES = 0.4, 11, 81
"""A rough mesh is smoothed over such a share of the spacing to either side of a station, in so many cuts, at so many places."""
SHORT = 0.03
"""A station whose keel or sheer lies off its neighbours' by more than this share of the hull's depth does not reach it."""
LEAN = 0.01
"""A difference of the two sheers amidships that is more than this share of the beam is a lean."""
END_REACH = 0.35
"""The outline of an end is looked for in so great a share of the hull's length."""
LEVELS = 80
"""Heights at which the outline of an end is looked for."""


@dataclass(frozen=True)
class MeshHull:
    """A mesh as it was read: vertices (n, 3) in the file's own numbers, triangles (m, 3), and whether it is closed."""

    vertices: Array
    faces: Any
    closed: bool
    pose: Pose | None = None
    """How it lies, found from its shape."""

    @property
    def sizes(self) -> Array:
        """Extent along each axis of the file."""
        result: Array = np.ptp(self.vertices, axis=0)
        return result


@dataclass(frozen=True)
class Placing:
    """How the file's axes lie: `along` and `up` are of x, y, z; the bow is at the low or the high end;
    `scale` is mm for one of the file's numbers. With a `pose` that was found from its shape it lies as that says: then the bow is
    where it was found, or (not `bow_low`) at the other end."""

    along: str
    up: str
    bow_low: bool
    scale: float
    pose: Pose | None = None


def read_mesh(path: Path) -> MeshHull:
    """Read a mesh. Raises InputError for a file that holds none."""
    import trimesh  # loads slowly

    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError("this mesh is too large", path.name, mend="Thin it out before bringing it here.")
        with path.open("rb") as source:
            mesh: Any = trimesh.load(source, file_type=path.suffix.lower().lstrip("."), force="mesh")
    except InputError:
        raise
    except OSError as error:
        raise InputError(
            "this file cannot be read", path.name, error.strerror or "", "Check that you may read it."
        ) from None
    except Exception as error:  # the readers of meshes raise whatever they stumble over
        raise InputError(
            "this is no mesh we can read", path.name, str(error)[:60], "Choose an STL or OBJ file."
        ) from None
    vertices, faces = np.asarray(mesh.vertices, dtype=np.float64), np.asarray(mesh.faces)
    if len(faces) == 0 or not np.all(np.isfinite(vertices)):
        raise InputError("there is no surface in this file", path.name, mend="Export the hull as triangles.")
    pose = pose_of(vertices, faces) if len(faces) >= LEAST_FACES else None
    return MeshHull(vertices, faces, bool(mesh.is_watertight), pose)


def likely_placing(hull: MeshHull) -> Placing:
    """A first proposal: as its shape says; else the longest axis along, z up (y where z is along), bow low. Numbers in mm; to be
    confirmed."""
    along = AXES[int(np.argmax(hull.sizes))]
    up = "y" if along == "z" else "z"
    return Placing(along, up, True, 1.0, hull.pose)


def offsets_from_mesh(hull: MeshHull, placing: Placing, spacing: float) -> Taken:
    """Cut the hull every `spacing` mm, the ends too. Raises InputError where it cannot be cut."""
    points, remarks = _upright(hull, placing)
    low, high = float(points[:, 0].min()), float(points[:, 0].max())
    if not (high - low) / 100 < spacing < (high - low) / 4:
        raise InputError(
            "this spacing does not suit the mesh", value=mm(spacing),
            mend=f"It is {mm(round(high - low))} long: is the unit right? Give a spacing that leaves four stations or more.",
        )  # fmt: skip
    if not hull.closed:
        remarks.append("The mesh is not closed; it was cut as it is.")
    cutter = _Cutter(points, hull.faces)
    ends = [end for end in (cutter.end(bow=True), cutter.end(bow=False)) if end is not None]
    reach = [(float(e.points[:, 0].min()), float(e.points[:, 0].max())) for e in ends]
    at_bow = max((b for a, b in reach if a < (low + high) / 2), default=low)
    at_stern = min((a for a, b in reach if b > (low + high) / 2), default=high)
    first, last = low + 0.02 * (high - low), high - 0.02 * (high - low)
    places = [float(x) for x in np.arange(np.ceil(first / spacing), np.floor(last / spacing) + 1) * spacing]
    if len(ends) < 2:
        remarks.append("An end of the hull could not be made out; it is left open, or type it in.")
    rough = cutter.roughness(low, high)
    if rough > ROUGH_MM:
        remarks.append(
            f"The mesh is rough: its points scatter by about {mm(round(rough, 1))}. Stations are smoothed within that, and over "
            f"{mm(round(SMOOTH_OVER * spacing))} to either side."
        )
    stations = []
    for x in places:
        curve = cutter.smooth_station(x, SMOOTH_OVER * spacing) if rough > ROUGH_MM else cutter.station(x)
        if curve is None:
            remarks.append(f"The cut at {x:g} gave no line from keel to sheer and was left out.")
        elif at_bow <= x <= at_stern or float(curve[0, 0]) < 0.2 * cutter.half_beam:
            stations.append(StationCurve(x, curve))
    stations = _that_reach(stations, remarks)
    taken = table_from_curves(stations, ends)
    own = [s.x for s in stations]
    between = [(a + b) / 2 for a, b in zip(own[:-1], own[1:], strict=True)]
    curves = {x: curve for x in between if (curve := cutter.station(x)) is not None}
    return Taken(taken.table, (*remarks, *taken.remarks, *_compared(taken.table, curves)))


def _compared(table: OffsetsTable, curves: Mapping[float, Array]) -> list[str]:
    """How far the hull that the table draws lies from the mesh where it was not cut: half-way between the stations."""
    try:
        hull = build_hull(read_lines(table))
    except InputError:
        return []
    gaps, places = [], []
    for x, curve in curves.items():
        parts = [part for k in range(len(hull.panels)) if (part := section_at(hull, k, x)) is not None]
        if parts:
            line = np.concatenate(parts)[:, 1:]
            _, _, foot = feet(curve, line)
            gaps.append(np.linalg.norm(foot - curve, axis=1))
            places += [(x, float(z)) for z in curve[:, 1]]
    if not gaps:
        return []
    every = np.concatenate(gaps)
    x, z = places[int(np.argmax(every))]
    return [
        f"Compared with the mesh half-way between the stations: {mm(round(float(np.median(every)), 1))} apart in the middle, "
        f"{mm(round(float(np.quantile(every, 0.95)), 1))} or less for 95 of 100 points, farthest "
        f"{mm(round(float(every.max()), 1))} at position {mm(round(x))}, height {mm(round(z))}."
    ]


def _that_reach(stations: list[StationCurve], remarks: list[str]) -> list[StationCurve]:
    """Without those that end short of keel or sheer at a hole; each of them is named."""
    if len(stations) < 5:
        return stations
    x = np.array([s.x for s in stations])
    depth = max(float(np.ptp(s.points[:, 1])) for s in stations)
    bad: dict[float, str] = {}
    for name, pick in (("keel", 0), ("sheer", -1)):
        values = np.array([s.points[[0, -1]][np.argsort(s.points[[0, -1], 1])[pick]] for s in stations])
        for k in range(1, len(x) - 1):
            share = (x[k] - x[k - 1]) / (x[k + 1] - x[k - 1])
            off = values[k] - (1 - share) * values[k - 1] - share * values[k + 1]
            short = off[1] > SHORT * depth if name == "keel" else off[1] < -SHORT * depth
            if short:
                bad[stations[k].x] = name
    for place, name in bad.items():
        remarks.append(
            f"The cut at {place:g} does not reach the {name}, at a hole of the mesh, and was left out."
        )
    return [s for s in stations if s.x not in bad]


def _upright(hull: MeshHull, placing: Placing) -> tuple[Array, list[str]]:
    """Vertices in our frame, mm: x from the bow aft, y from the middle of the hull, z up."""
    if placing.pose is not None:
        return _as_found(hull, placing, placing.pose)
    if placing.along == placing.up:
        raise InputError("the same axis cannot run along and up", value=placing.up, mend="Choose another.")
    along, up = AXES.index(placing.along), AXES.index(placing.up)
    out = 3 - along - up
    points = hull.vertices[:, [along, out, up]] * placing.scale
    if not placing.bow_low:
        points[:, 0] = -points[:, 0]
    points[:, 0] -= points[:, 0].min()
    remarks = ["Positions are counted from the foremost point of the mesh."]
    low, high = float(points[:, 1].min()), float(points[:, 1].max())
    wide = high - low
    if low > -0.02 * wide or high < 0.02 * wide:  # nothing to speak of on one side
        points[:, 1] = np.abs(points[:, 1])
        remarks.append("The mesh is one half of the hull; its centreline is taken at nothing.")
    else:
        middle = (low + high) / 2
        points[:, 1] -= middle
        if abs(middle) > 0.005 * wide:
            remarks.append(
                f"The centreline is taken in the middle of the mesh, {mm(round(middle, 1))} from its own nothing."
            )
        _say_lean(points, remarks)
    return points, remarks


def _as_found(hull: MeshHull, placing: Placing, pose: Pose) -> tuple[Array, list[str]]:
    """Vertices put upright as their own shape says, and what was put right."""
    points = pose.put(hull.vertices) * placing.scale
    if not placing.bow_low:
        points[:, 0] = -points[:, 0]
    points[:, 0] -= points[:, 0].min()
    remarks = ["Positions are counted from the foremost point of the mesh."]
    if pose.half:
        points[:, 1] = np.abs(points[:, 1])
        edge = float(np.quantile(points[:, 1], 0.002))
        remarks.append(
            "The mesh is one half of the hull. Its middle plane is taken "
            + (f"{mm(round(edge, 1))} inside its edge, at the file's own zero." if edge > 0.5 else
               "at its straight edge: if keel and stem have a half-siding, move it out by that in the file and bring it again.")
        )  # fmt: skip
    for words, angle in (("leaned", pose.lean), ("was turned in plan", pose.yaw)):
        if abs(angle) >= SEEN_DEG:
            remarks.append(f"It {words} by {abs(angle):.1f}°: that is put right by its own mirror image.")
    if not pose.up_clear:
        remarks.append("Which way is up is not plain from its shape: look at the body plan.")
    if not pose.bow_clear:
        remarks.append("Which end is the bow is not plain from its shape: both are about as fine.")
    return points, remarks


def _say_lean(points: Array, remarks: list[str]) -> None:
    """A whole hull whose two sheers do not stand level amidships leans; it is cut as it stands."""
    long = float(np.ptp(points[:, 0]))
    middle = points[np.abs(points[:, 0] - points[:, 0].min() - long / 2) < 0.05 * long]
    sides = [middle[side * middle[:, 1] > 0] for side in (1, -1)]
    if min(len(side) for side in sides) > 3:
        lean = float(sides[0][:, 2].max() - sides[1][:, 2].max())
        if abs(lean) > LEAN * float(np.ptp(points[:, 1])):
            remarks.append(
                f"One side stands {mm(round(abs(lean)))} higher than the other amidships: the mesh is not upright. "
                "Turn it upright and bring it again."
            )


class _Cutter:
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
        return self._half_line(
            self._cut(np.array([x + OFF_MM, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]))[..., 1:]
        )

    def _raw(self, x: float) -> Array | None:
        """As `station`, but neither cut at the sheer nor smoothed."""
        return self._line(self._cut(np.array([x + OFF_MM, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]))[..., 1:])

    def roughness(self, low: float, high: float) -> float:
        """How far the points of sections scatter about smooth lines, mm: 0 for a clean mesh, however coarse."""
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
        middle = np.median(table[:, -1], axis=0)
        sound = np.linalg.norm(table[:, -1] - middle, axis=1) < max(4 * ROUGH_MM, 0.05 * self.half_beam)
        if sound.sum() < 4:
            return None
        fit = np.polynomial.polynomial.polyfit(
            np.array(aside)[sound], table[sound].reshape(int(sound.sum()), -1), 2
        )
        result: Array = fit[0].reshape(SHARES, 2)
        result[:, 0] = np.maximum(result[:, 0], 0.0)
        return result

    def _half_line(self, segments: Array) -> Array | None:
        """The line from keel to sheer on the side y >= 0 among segments (k, 2, 2) of (out, up)."""
        line = self._line(segments)
        return None if line is None else _to_sheer(line)

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
        flat = self._half_line(cut[..., 1:])
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
        beside = _Cutter(self._points, self._faces[near])
        for z in np.linspace(bottom, top, LEVELS)[1:-1]:
            cut = beside._cut(np.array([0.0, 0.0, z]), np.array([0.0, 0.0, 1.0])).reshape(-1, 3)
            if len(cut):
                x = cut[:, 0] if bow else -cut[:, 0]
                outermost = cut[x < x.min() + JOIN_MM]
                own = outermost[np.argmin(np.abs(outermost[:, 1]))]
                if outline and abs(own[0] - outline[-1][0]) > 0.2 * (self._x[1] - self._x[0]):
                    break  # above this end's head only the other end is left
                outline.append(own)
        points = np.abs(np.array(outline).reshape(-1, 3) * [1, 1, 0]) + np.array(outline).reshape(-1, 3) * [
            0,
            0,
            1,
        ]
        slope = np.arctan2(np.diff(points[:, 2]), np.abs(np.diff(points[:, 0])) + 1e-9)
        steep = np.concatenate([[0], (slope >= STEEP).astype(int), [0]])
        starts, stops = np.flatnonzero(np.diff(steep) > 0), np.flatnonzero(np.diff(steep) < 0)
        if not len(starts):
            return None
        tallest = int(np.argmax(stops - starts))  # below it runs the keel, above it the sheer
        points = points[starts[tallest] : stops[tallest] + 1]
        return points if len(points) >= 4 else None


def _scatter(line: Array) -> float:
    """How far the points of a line scatter about a smooth one, mm: only what changes sides from point to point is scatter."""
    step = np.linalg.norm(np.diff(line, axis=0), axis=1)
    line = line[np.concatenate([[True], step > JOIN_MM])]
    if len(line) < 12:
        return 0.0
    from scipy.signal import savgol_filter

    even = _even(line, max(len(line) // 2, 24))
    off = even - savgol_filter(even, min(15, len(even) // 2 * 2 - 1), 2, axis=0)
    changes = np.mean(np.sum(off[1:] * off[:-1], axis=1) < 0)
    return float(np.median(np.linalg.norm(off, axis=1))) / RAYLEIGH if changes > CHANGES else 0.0


def _even(line: Array, count: int) -> Array:
    """So many points at even steps of a line."""
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])
    even = np.linspace(0.0, run[-1], count)
    return np.column_stack([np.interp(even, run, line[:, k]) for k in (0, 1)])


def _smooth(line: Array) -> Array:
    """A line through the middle of its scatter."""
    from scipy.interpolate import splev, splprep

    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])
    keep = np.concatenate([[True], np.diff(run) > JOIN_MM])
    own, at = line[keep], run[keep] / run[-1]
    scatter = max(_scatter(own), 0.05)
    knots, _ = splprep(own.T, u=at, s=len(own) * scatter**2 * 1.2)[:2] if len(own) > 5 else (None, None)
    if knots is None:
        return line
    return np.column_stack(splev(np.linspace(0.0, 1.0, 161), knots))


def _length(line: Array) -> float:
    return float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum())


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
