"""A hull as a mesh (STL, OBJ): put upright in our frame and cut at stations into a table of offsets."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ..core.errors import InputError
from ..core.findings import mm
from ..core.geometry.arrays import Array
from ..core.offsets.from_curves import EndCurve, StationCurve, Taken, table_from_curves

LARGEST_BYTES = 300_000_000
SUFFIXES = (".stl", ".obj", ".ply")
AXES = ("x", "y", "z")
STEEP = np.radians(25)
"""A profile steeper than this belongs to the end, flatter to the keel."""
NARROW = 0.05
"""An end narrower than this share of the hull's greatest half-breadth is a stem."""
JOIN_MM = 0.01
LEAN = 0.01
"""A difference of the two sheers amidships that is more than this share of the beam is a lean."""
LEVELS = 80
"""Heights at which the outline of an end is looked for."""


@dataclass(frozen=True)
class MeshHull:
    """A mesh as it was read: vertices (n, 3) in the file's own numbers, triangles (m, 3), and whether it is closed."""

    vertices: Array
    faces: Any
    closed: bool

    @property
    def sizes(self) -> Array:
        """Extent along each axis of the file."""
        result: Array = np.ptp(self.vertices, axis=0)
        return result


@dataclass(frozen=True)
class Placing:
    """How the file's axes lie: `along` and `up` are of x, y, z; the bow is at the low or the high end;
    `scale` is mm for one of the file's numbers."""

    along: str
    up: str
    bow_low: bool
    scale: float


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
    return MeshHull(vertices, faces, bool(mesh.is_watertight))


def likely_placing(hull: MeshHull) -> Placing:
    """A first proposal: the longest axis along, z up (y where z is along), bow low, numbers in mm; to be confirmed."""
    along = AXES[int(np.argmax(hull.sizes))]
    up = "y" if along == "z" else "z"
    return Placing(along, up, True, 1.0)


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
    stations = []
    for x in places:
        curve = cutter.station(x)
        if curve is None:
            remarks.append(f"The cut at {x:g} gave no line from keel to sheer and was left out.")
        elif at_bow <= x <= at_stern or float(curve[0, 0]) < 0.2 * cutter.half_beam:
            stations.append(StationCurve(x, curve))
    taken = table_from_curves(stations, ends)
    return Taken(taken.table, (*remarks, *taken.remarks))


def _upright(hull: MeshHull, placing: Placing) -> tuple[Array, list[str]]:
    """Vertices in our frame, mm: x from the bow aft, y from the middle of the hull, z up."""
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
        import trimesh

        self._mesh = trimesh.Trimesh(points, faces, process=False)
        self.half_beam = float(np.abs(points[:, 1]).max())
        self._x = (float(points[:, 0].min()), float(points[:, 0].max()))

    def _cut(self, at: Array, normal: Array) -> Array:
        """Segments (k, 2, 3) in which a plane cuts the mesh."""
        from trimesh import intersections

        cut: Any = intersections.mesh_plane(self._mesh, normal, at)  # type: ignore[no-untyped-call]
        return np.asarray(cut, dtype=np.float64).reshape(-1, 2, 3)

    def station(self, x: float) -> Array | None:
        """(half-breadth, height) from keel to sheer in the plane x."""
        return self._half_line(self._cut(np.array([x + 1e-5, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]))[..., 1:])

    def _half_line(self, segments: Array) -> Array | None:
        """The line from keel to sheer on the side y >= 0 among segments (k, 2, 2) of (out, up)."""
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
        line = max(found, key=lambda p: float(np.linalg.norm(np.diff(p, axis=0), axis=1).sum()))
        return _to_sheer(_from_low_end(line))

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
        bottom, top = (float(v) for v in (self._mesh.vertices[:, 2].min(), self._mesh.vertices[:, 2].max()))
        outline: list[Array] = []
        for z in np.linspace(bottom, top, LEVELS)[1:-1]:
            cut = self._cut(np.array([0.0, 0.0, z]), np.array([0.0, 0.0, 1.0])).reshape(-1, 3)
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
