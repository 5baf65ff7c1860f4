"""What ties a mold's pieces together: gussets over the butt of two halves, the cross spall, and where screws go.

Screws stand clear of the skin, of every opening and of the butt (common practice: an inch from an edge).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import height_crossing
from ..job import MoldSettings, SetupSettings
from ..rules import BUTT_MM, GUSSET_HALF_MM, GUSSET_HIGH_MM, LEAST_GUSSET_MM2, LEAST_SCREWS, SCREW_MM, SET_BACK_MM
from .pieces import make_piece
from .stations import Mold
from .stringers import StringerNotch


@dataclass(frozen=True)
class Gusset:
    """A plate over the butt of two halves: its outline (n, 2) on the mold's own drawing and its screws (m, 2), mm."""

    name: str
    outline: Array
    screws: Array


def gussets(
    mold: Mold, settings: MoldSettings, setup: SetupSettings, level: float, stringers: Sequence[StringerNotch] = ()
) -> tuple[Gusset, ...]:
    """The plates of a mold in halves, at its foot (the strongback's top at height `level`, mm) and at its sheer, where there is
    room."""
    if not (settings.halves and settings.gussets):
        return ()
    piece = make_piece(mold, settings.model_copy(update={"halves": False}), setup, level, stringers)
    wood = shapely.buffer(shapely.Polygon(piece.outline, piece.holes), -SET_BACK_MM)
    high = float(mold.edge.sheer[1]) + settings.beyond_sheer - SET_BACK_MM
    start = _lowest_on_centreline(wood)
    bands = (("foot", start, start + GUSSET_HIGH_MM), ("head", high - GUSSET_HIGH_MM, high))
    found: list[Gusset] = []
    for name, bottom, top in bands:
        plate = shapely.intersection(wood, shapely.box(-GUSSET_HALF_MM, bottom, GUSSET_HALF_MM, top))
        plate = _largest(_beside_holes(plate))
        if plate is None or plate.area < LEAST_GUSSET_MM2:
            continue
        if found and shapely.Polygon(found[0].outline).intersects(plate):
            continue  # a low mold: one plate does for both
        screws = _screws(plate)
        if len(screws) >= LEAST_SCREWS:
            found.append(Gusset(name, frozen(np.asarray(plate.exterior.coords)[:-1]), screws))
    return tuple(found)


def _largest(shape: shapely.Geometry) -> shapely.Polygon | None:
    parts = [part for part in shapely.get_parts(shape) if part.geom_type == "Polygon" and part.area > 0]
    return max(parts, key=lambda part: part.area, default=None)


def _beside_holes(plate: shapely.Geometry) -> shapely.Geometry:
    """A plate without what lies level with an opening that it would close round."""
    rings = [ring for part in shapely.get_parts(plate) if part.geom_type == "Polygon" for ring in part.interiors]
    for ring in rings:
        _, low, _, high = ring.bounds
        plate = shapely.difference(plate, shapely.box(-1e6, low, 1e6, high))
    return plate


def _lowest_on_centreline(wood: shapely.Geometry) -> float:
    line = shapely.intersection(wood, shapely.LineString([(0.0, -1e6), (0.0, 1e6)]))
    return float(line.bounds[1]) if not line.is_empty else 0.0


def _screws(plate: shapely.Polygon) -> Array:
    """Four screws on each side of the butt, as near the plate's corners as they may stand, (8, 2); fewer in a small one."""
    right = shapely.intersection(shapely.buffer(plate, -SCREW_MM), shapely.box(BUTT_MM, -1e6, 1e6, 1e6))
    right = _largest(right)
    if right is None:
        return frozen(np.zeros((0, 2)))
    left, low, far, high = right.bounds
    corners = np.asarray(right.exterior.coords)[:-1]
    wanted = np.array([[left, low], [far, low], [left, high], [far, high]])
    nearest = {int(np.argmin(np.linalg.norm(corners - w, axis=1))) for w in wanted}
    own = corners[sorted(nearest)]
    return frozen(np.concatenate([own, own * [-1.0, 1.0]]))


def cross_spall(mold: Mold, settings: MoldSettings, waterline: float) -> tuple[float, float] | None:
    """Where the cross spall's marked edge lies: its height, and the mold's half-breadth there, mm; None where there is none."""
    if settings.spall_above is None:
        return None
    at = height_crossing(mold.edge.points, waterline + settings.spall_above)
    return None if at is None else (float(at[1]), float(at[0]))
