"""The laid hull as a mesh for other programs, one part a veneer and side: OBJ, millimetres."""

from __future__ import annotations

import io
from collections.abc import Sequence

import numpy as np

from ...core.veneers.layer_plan import LayerPlan
from ...drawing.veneers.mesh import laid_mesh, veneer_numbers

PLACES = 61
"""Places along every veneer."""


def laid_obj(plans: Sequence[LayerPlan]) -> str:
    """Wavefront OBJ: a group a veneer and side, named by its layer from the form outward and its number."""
    mesh, names = laid_mesh(plans, along=PLACES), veneer_numbers(plans)
    half = len(mesh.quads) // 2
    out = io.StringIO()
    out.write("# layers of veneer, millimetres: x aft, y to starboard, z up\n")
    out.writelines(f"v {x:.3f} {y:.3f} {z:.3f}\n" for x, y, z in mesh.points.tolist())
    for side, rows in (("starboard", slice(0, half)), ("port", slice(half, None))):
        quads, numbers = mesh.quads[rows], mesh.strip[rows]
        for n in np.unique(numbers).tolist():
            layer, veneer = names[n - 1]
            out.write(f"g layer_{layer}_veneer_{veneer}_{side}\n")
            out.writelines("f {} {} {} {}\n".format(*(q + 1)) for q in quads[numbers == n])
    return out.getvalue()
