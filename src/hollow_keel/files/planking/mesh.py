"""The planked hull as a mesh for other programs, one part a strip and side: OBJ and STL, millimetres."""

from __future__ import annotations

import io

import numpy as np

from ...core.geometry.arrays import Array
from ...core.planking.strips import Planking
from ...drawing.planking.mesh import HullMesh, planked_mesh


def _parts(mesh: HullMesh, of: str) -> list[tuple[str, np.ndarray]]:
    """Each part's name, with what it is of, and its quads."""
    half = len(mesh.quads) // 2
    found = []
    for side, rows in (("starboard", slice(0, half)), ("port", slice(half, None))):
        quads, numbers = mesh.quads[rows], mesh.strip[rows]
        found += [(f"{of}strip_{n}_{side}", quads[numbers == n]) for n in np.unique(numbers).tolist()]
    return found


def _meshes(hull: Planking, deck: Planking | None) -> list[tuple[str, HullMesh]]:
    return [("", planked_mesh(hull)), *([("deck_", planked_mesh(deck))] if deck is not None else [])]


def planked_obj(planking: Planking, deck: Planking | None = None) -> str:
    """Wavefront OBJ: a group a strip and side, of the hull and of its deck."""
    out = io.StringIO()
    out.write("# planked hull, millimetres: x aft, y to starboard, z up\n")
    before = 1
    for of, mesh in _meshes(planking, deck):
        out.writelines(f"v {x:.3f} {y:.3f} {z:.3f}\n" for x, y, z in mesh.points.tolist())
        for name, quads in _parts(mesh, of):
            out.write(f"g {name}\n")
            out.writelines("f {} {} {} {}\n".format(*(q + before)) for q in quads)
        before += len(mesh.points)
    return out.getvalue()


def planked_stl(planking: Planking, deck: Planking | None = None) -> str:
    """STL as text: a solid a strip and side, of the hull and of its deck; triangles without area are left out."""
    out = io.StringIO()
    for of, mesh in _meshes(planking, deck):
        for name, quads in _parts(mesh, of):
            out.write(f"solid {name}\n")
            corners = mesh.points[np.concatenate([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]])]
            for triangle in corners:
                _facet(out, triangle)
            out.write(f"endsolid {name}\n")
    return out.getvalue()


def _facet(out: io.StringIO, triangle: Array) -> None:
    normal = np.cross(triangle[1] - triangle[0], triangle[2] - triangle[0])
    size = float(np.linalg.norm(normal))
    if size < 1e-9:
        return
    x, y, z = (normal / size).tolist()
    out.write(f"facet normal {x:.6f} {y:.6f} {z:.6f}\nouter loop\n")
    out.writelines(f"vertex {a:.4f} {b:.4f} {c:.4f}\n" for a, b, c in triangle.tolist())
    out.write("endloop\nendfacet\n")
