"""A mold at full size with its marks, seen on its reference face."""

from __future__ import annotations

import numpy as np

from ..core.geometry.arrays import Array, frozen
from ..core.molds.shape import Face, section_outside
from ..core.molds.stations import Mold
from ..core.pipeline import Shape
from ..core.units import LengthStyle, format_length
from .model import Drawing, Label, Layer, Stroke, box, line

SHEER_TICK_MM = 30.0
DOUBLE_MARK_GAP_MM = 3.0


def mold_drawing(shape: Shape, mold: Mold, style: LengthStyle) -> Drawing:
    """The whole mold, both sides, upright as it stands in the hull; origin on the centreline at height 0."""
    edge = mold.edge
    outline = _both_sides(edge.points)
    strokes = [
        Stroke(outline, Layer.MOLD, closed=True, filled=True, key=f"mold:{mold.name}"),
        _hole(shape),
    ]
    outside = section_outside(shape.hull, mold.station)
    if len(outside):
        strokes.append(Stroke(_both_sides(outside), Layer.GHOST))
    bottom, top = float(outline[:, 1].min()), float(outline[:, 1].max())
    half = float(outline[:, 0].max())
    strokes.append(line((0, bottom), (0, top), layer=Layer.CENTRELINE))
    labels: list[Label] = []
    if edge.waterline is not None:
        y, z = edge.waterline
        strokes.append(line((-y, z), (y, z), layer=Layer.WATERLINE))
        labels.append(
            Label(
                (-0.5 * y, z), f"LOAD WATERLINE {format_length(z, style, unit=True)}", Layer.WATERLINE, rise=1
            )
        )
    strokes += _double_sheer_mark(edge.points)
    at = format_length(mold.station, style, unit=True)
    labels += [
        Label((half * 0.45, top - 0.3 * (top - bottom)), f"MOLD {mold.name}", Layer.TITLE, rise=1, strong=True),
        Label((half * 0.45, top - 0.3 * (top - bottom)), face_text(mold), Layer.NOTE, rise=-1),
        Label((-half * 0.45, top - 0.3 * (top - bottom)), shape.job.name, Layer.NOTE, rise=1),
        Label((-half * 0.45, top - 0.3 * (top - bottom)), f"station {at}", Layer.NOTE, rise=-1),
        Label((float(edge.sheer[0]), float(edge.sheer[1])), "sheer", Layer.SHEER_MARK, "left", 1),
        Label((0.0, top), "centreline", Layer.CENTRELINE, rise=1),
    ]  # fmt: skip
    return Drawing(f"Mold {mold.name}", tuple(strokes), tuple(labels))


def face_text(mold: Mold) -> str:
    """Which way this face looks, for the person holding the mold."""
    return "this face to the BOW" if mold.face is Face.FORWARD else "this face to the STERN"


def _both_sides(points: Array) -> Array:
    left = points[::-1] * [-1.0, 1.0]
    return frozen(np.concatenate([left, points]))


def _hole(shape: Shape) -> Stroke:
    setup, level = shape.job.setup, shape.setup.beam_level
    half = setup.beam_width / 2
    return box(-half, level, half, level + setup.beam_height, Layer.HOLE)


def _double_sheer_mark(points: Array) -> list[Stroke]:
    """Two short lines inward from the edge, square to it, at the sheer on both sides."""
    tip, before = points[-1], points[-2]
    along = (tip - before) / np.linalg.norm(tip - before)
    inward = np.array([-along[1], along[0]])
    strokes = []
    for back in (0.0, DOUBLE_MARK_GAP_MM):
        start = tip - back * along
        end = start + SHEER_TICK_MM * inward
        for side in (1.0, -1.0):
            strokes.append(line((side * start[0], start[1]), (side * end[0], end[1]), layer=Layer.SHEER_MARK))
    return strokes
