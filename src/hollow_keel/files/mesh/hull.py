"""A hull as a mesh (STL, OBJ, PLY): read, and put upright in our frame."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ...core.errors import InputError
from ...core.findings import mm
from ...core.geometry.arrays import Array
from .pose import Pose, pose_of, rim_of

LARGEST_BYTES = 300_000_000
MIXERS = np.array([0x9E3779B97F4A7C15, 0xC2B2AE3D27D4EB4F, 0x165667B19E3779F9], dtype=np.uint64)
AXES = ("x", "y", "z")
SEEN_DEG = 0.1
"""A lean of less is none."""
FARTHEST = 1e9
"""Numbers of a mesh are smaller, in whatever unit."""
LEAST_FACES = 200
"""A mesh of fewer triangles tells too little of how it lies."""
LEAN = 0.01
"""A difference of the two sheers amidships that is more than this share of the beam is a lean."""


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
            kind = path.suffix.lower().lstrip(".")
            scene = trimesh.load_scene(source, file_type=kind, process=False)
        only = next(iter(scene.geometry.values())) if len(scene.geometry) == 1 else None
        mesh: Any = only if isinstance(only, trimesh.Trimesh) else scene.to_mesh()  # the only one is not copied first
    except InputError:
        raise
    except OSError as error:
        raise InputError("this file cannot be read", path.name, error.strerror or "", "Check that you may read it.") from None
    except MemoryError:
        raise
    except Exception as error:  # the readers of meshes raise whatever they stumble over
        raise InputError("this is no mesh we can read", path.name, str(error)[:60], "Choose an STL or OBJ file.") from None
    vertices, faces = np.asarray(mesh.vertices, dtype=np.float64), np.asarray(mesh.faces)
    sound = _sound(vertices, faces)
    vertices, faces = welded(vertices, faces) if sound else (vertices, faces[:0])
    if len(faces) == 0:
        raise InputError("there is no surface in this file", path.name, mend="Export the hull as triangles.")
    rim = rim_of(faces)
    pose = pose_of(vertices, faces, vertices[rim]) if len(faces) >= LEAST_FACES else None
    return MeshHull(vertices, faces, len(rim) == 0, pose)


def _sound(vertices: Array, faces: Any) -> bool:
    """Whether triangles stand on vertices that are there, and are numbers of a hull."""
    if vertices.ndim != 2 or vertices.shape[1] != 3 or faces.ndim != 2 or faces.shape[1] != 3 or not len(faces):
        return False
    near = bool(np.all(np.abs(vertices) < FARTHEST))  # what is no number is not less
    return near and int(faces.min()) >= 0 and int(faces.max()) < len(vertices)


def welded(vertices: Array, faces: Any) -> tuple[Array, Any]:
    """Vertices (n, 3) that lie in the very same place made one, and the triangles (m, 3) over them, those without area left out: an
    STL gives every triangle corners of its own. A place is known by a sum of its numbers' bits, each times an odd number: that two
    of a million places share one is less likely than one in ten million."""
    bits = np.ascontiguousarray(vertices + 0.0).view(np.uint64)  # -0.0 and 0.0 are one place
    mixed = (bits ^ (bits >> np.uint64(29))) * MIXERS
    keys = (mixed ^ (mixed >> np.uint64(32))).sum(axis=1, dtype=np.uint64)
    _, first, which = np.unique(keys, return_index=True, return_inverse=True)
    triangles = which.ravel()[faces]
    a, b, c = triangles.T
    return vertices[first], triangles[(a != b) & (b != c) & (a != c)]


def likely_placing(hull: MeshHull) -> Placing:
    """A first proposal: as its shape says; else the longest axis along, z up (y where z is along), bow low. Numbers in mm; to be
    confirmed."""
    along = AXES[int(np.argmax(hull.sizes))]
    up = "y" if along == "z" else "z"
    return Placing(along, up, True, 1.0, hull.pose)


def upright(hull: MeshHull, placing: Placing) -> tuple[Array, list[str]]:
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
            remarks.append(f"The centreline is taken in the middle of the mesh, {mm(round(middle, 1))} from its own nothing.")
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
            + (
                f"{mm(round(edge, 1))} inside its edge, at the file's own zero."
                if edge > 0.5
                else "at its straight edge: if keel and stem have a half-siding, move it out by that in the file, bring it again."
            )
        )
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
