"""Lines and ticks that are drawn on a mold so that it can be set up and planked: waterlines, buttocks, plank edges."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import nearest_on
from ..rules import LEAST_LINE_MM, SAME_LINE_MM
from ..sensible import count_of
from .pieces import Piece
from .stations import Mold

if TYPE_CHECKING:
    from ..planking.strips import Planking
    from .ends import Transom


def waterlines(piece: Piece, spacing: float, load: float) -> list[tuple[float, Array]]:
    """Heights at whole multiples of `spacing` mm and the bits of wood they run over, each (2, 2)."""
    return [(level, bit) for level, bit in _across_wood(piece, spacing, axis=1) if abs(level - load) > SAME_LINE_MM]


def up_transom(piece: Transom, foot: float, spacing: float, load: float) -> list[tuple[float, float]]:
    """The waterlines of a transom whose foot lies at a height: how high each is and how far up the rake it comes, mm. The load
    waterline is first, the others are those of the molds."""
    rake = math.cos(piece.rake)
    high = foot + rake * float(piece.after[:, 1].max())
    others = _multiples(foot, high, spacing) if spacing > 0 else []
    heights = [load, *(height for height in others if abs(height - load) > SAME_LINE_MM)]
    return [(height, (height - foot) / rake) for height in heights if foot < height < high]


def buttocks(piece: Piece, spacing: float) -> list[tuple[float, Array]]:
    """Half-breadths at whole multiples of `spacing` mm, both sides, and each bit of wood they run over, (2, 2) from end to
    end, mm."""
    return [(y, bit) for y, bit in _across_wood(piece, spacing, axis=0) if abs(y) > SAME_LINE_MM]


def _multiples(low: float, high: float, spacing: float) -> list[float]:
    """The whole multiples of a spacing from `low` to `high`, mm."""
    count_of(high - low, spacing, "lines on a mold")
    return [k * spacing for k in range(math.ceil(low / spacing), math.floor(high / spacing) + 1)]


def _across_wood(piece: Piece, spacing: float, axis: int) -> list[tuple[float, Array]]:
    if spacing <= 0:
        return []
    wood = shapely.Polygon(piece.outline, piece.holes)
    low, high = float(piece.outline[:, axis].min()), float(piece.outline[:, axis].max())
    found: list[tuple[float, Array]] = []
    for at in _multiples(low, high, spacing):
        ends = [(-1e5, at), (1e5, at)] if axis == 1 else [(at, -1e5), (at, 1e5)]
        cut = shapely.intersection(wood, shapely.LineString(ends))
        for part in shapely.get_parts(cut):
            if part.geom_type == "LineString" and part.length >= LEAST_LINE_MM:
                found.append((at, frozen(np.asarray(part.coords)[[0, -1]])))
    return found


def plank_edges(mold: Mold, planking: Planking) -> list[tuple[int, Array, Array]]:
    """Where the far edge of each strip comes to a mold: the strip's number, the point of the mold's edge nearest to it
    and the unit direction into the wood, (2,) each; the right-hand side."""
    found: list[tuple[int, Array, Array]] = []
    for strip in planking.strips:
        for piece in strip.far:
            x = piece.points[:, 0]
            crossed = np.flatnonzero((x[:-1] - mold.station) * (x[1:] - mold.station) <= 0)
            if not len(crossed):
                continue
            k = int(crossed[0])
            span = x[k + 1] - x[k]
            share = (mold.station - x[k]) / span if span else 0.0
            on_hull = piece.points[k, 1:] + share * (piece.points[k + 1, 1:] - piece.points[k, 1:])
            at, along = nearest_on(mold.edge.points, on_hull)
            found.append((strip.number, at, np.array([-along[1], along[0]])))
            break
    return found
