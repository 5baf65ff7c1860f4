"""Molds as numbers: points to prick through for those who loft with nails and a batten, and bevels to call out."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

import numpy as np

from ...core.geometry.arrays import Array
from ...core.molds.end_stages import StemBevels
from ...core.results import Shape
from ...core.units import LengthStyle, plain_length

STRAY_MM = 0.08
"""A straight line between two neighbouring prick points strays from the drawn edge by less, from the curve by a tenth."""


def prick_points(edge: Array, stray: float = STRAY_MM) -> list[int]:
    """Numbers of the points of an edge (n, 2) to prick through: closer where the curve is tight, its ends always.

    Each straight line between neighbours strays from the edge by at most `stray` mm where the edge's own points allow it.
    """
    chosen = [0]
    while chosen[-1] < len(edge) - 1:
        start = chosen[-1]
        stop = start + 1
        while stop + 1 < len(edge) and _strays(edge[start : stop + 2]) <= stray:
            stop += 1
        chosen.append(stop)
    return chosen


def _strays(part: Array) -> float:
    chord = part[-1] - part[0]
    long = float(np.hypot(*chord))
    if long == 0:
        return float(np.linalg.norm(part - part[0], axis=1).max())
    away = part - part[0]
    return float(np.abs(away[:, 0] * chord[1] - away[:, 1] * chord[0]).max() / long)


def prick_points_csv(shape: Shape) -> str:
    """Half-breadths and heights of every mold's edge in the job's units, to a tenth of a millimetre or a thousandth of an inch
    whatever the job rounds to, keel to sheer; an empty row between molds."""
    style = shape.job.units.style.fine
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["mold", "point", f"half-breadth ({style.name})", f"height ({style.name})", "what"])
    for mold in shape.molds.molds:
        chosen = prick_points(mold.edge.points)
        for n, k in enumerate(chosen, start=1):
            y, z = mold.edge.points[k].tolist()
            what = "keel" if k == 0 else "sheer" if k == len(mold.edge.points) - 1 else ""
            writer.writerow([mold.name, n, plain_length(y, style), plain_length(z, style), what])
        if mold.edge.waterline is not None:
            y, z = mold.edge.waterline.tolist()
            writer.writerow([mold.name, "", plain_length(y, style), plain_length(z, style), "load waterline"])
    return out.getvalue()


def stem_csv(stems: Sequence[StemBevels], style: LengthStyle) -> str:
    """Bevels of each stem from its foot up: position, height, the angle of the planking to the centre plane."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["stem", f"position ({style.name})", f"height ({style.name})", "bevel (degrees)"])
    for stem in stems:
        for x, z, angle in stem.bevels:
            name = "stern" if stem.stern else "bow"
            writer.writerow([name, plain_length(x, style), plain_length(z, style), f"{np.degrees(angle):.1f}"])
    return out.getvalue()


def bevels_csv(shape: Shape) -> str:
    """The call sheet: for each mold its bevels to the half degree and what that is across the mold's thickness."""
    style = shape.job.units.style
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "mold",
            f"from the keel along the edge ({style.name})",
            "bevel (degrees)",
            "seen from the reference face",
            f"across the sheet ({style.name})",
        ]
    )
    for mold in shape.molds.molds:
        for call in shape.marks[mold.name].bevels:
            across = plain_length(call.across(mold.thickness), style)
            writer.writerow([mold.name, plain_length(call.along, style), f"{call.called:g}", call.sense, across])
    return out.getvalue()
