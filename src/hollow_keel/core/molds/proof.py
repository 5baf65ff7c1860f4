"""The proof that a square-edged mold stands proud of the planking's inner face nowhere across its thickness."""

from __future__ import annotations

import shapely

from ..findings import Finding, Weight, mm
from ..hull.build import Hull
from ..job import MoldSettings
from ..rules import PROUD_MM
from .shape import mold_edges
from .stations import MoldSet


def proud_molds(hull: Hull, molds: MoldSet, settings: MoldSettings, waterline: float) -> tuple[Finding, ...]:
    """Molds (waterline at a height, mm) whose face away from the station line stands out of the inner face of the skin there, and
    where."""
    far = [mold.body[1] if mold.body[0] == mold.station else mold.body[0] for mold in molds.molds]
    edges = mold_edges(hull, far, settings.deducted, settings.deduction, waterline, settings.false_bottom)
    found: list[Finding] = []
    for mold, other in zip(molds.molds, edges, strict=True):
        if other is None:
            continue
        inside = shapely.Polygon(
            [(0.0, 1e5), (0.0, float(other.points[0, 1])), *other.points.tolist(), (float(other.points[-1, 0]), 1e5)]
        )
        points = shapely.points(mold.edge.points[mold.edge.points[:, 0] > 1.0])
        away = shapely.distance(points, inside)
        if len(away) and away.max() > PROUD_MM:
            at = shapely.get_coordinates(points)[int(away.argmax())]
            found.append(
                Finding(
                    "proud",
                    Weight.LOOK,
                    "molds",
                    f"mold {mold.name}, height {mm(round(float(at[1])))}",
                    f"With a square edge the far face stands {mm(round(float(away.max()), 1))} proud of the planking here: "
                    "turn the reference face, or bevel this edge.",
                )
            )
    return tuple(found)
