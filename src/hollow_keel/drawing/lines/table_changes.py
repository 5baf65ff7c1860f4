"""What a change of the whole table does: the hull as it is, faintly, and as it would be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.hull.slices import slice_along, slice_hull
from ...core.offsets.table import LineKind, TableLine
from ...core.results import Shape
from ..model import Drawing, Label, Layer, Stroke, line
from .plan import body_plan, profile

BELOW_MM = 60.0


def _profile_lines(shape: Shape) -> list[Array]:
    return [s.points for s in profile(shape).strokes if s.layer is Layer.HULL]


def scaled_over(shape: Shape, length: float, depth: float) -> Drawing:
    """The profile as it is, and with its length and depth grown by factors."""
    own = _profile_lines(shape)
    strokes = [Stroke(points, Layer.GHOST) for points in own]
    strokes += [Stroke(frozen(points * [length, depth]), Layer.HULL) for points in own]
    return Drawing("As it is, dotted, and as it would be", tuple(strokes))


def baseline_under(shape: Shape, lowered: float) -> Drawing:
    """The profile with the baseline as it is, and lowered by so much (mm)."""
    own = _profile_lines(shape)
    every = np.concatenate(own)
    low, high = float(every[:, 0].min()) - BELOW_MM, float(every[:, 0].max()) + BELOW_MM
    strokes = [Stroke(points, Layer.HULL) for points in own]
    strokes.append(line((low, 0.0), (high, 0.0), layer=Layer.GHOST))
    strokes.append(line((low, -lowered), (high, -lowered), layer=Layer.SETUP_LINE))
    labels = [Label((low, -lowered), "new baseline", Layer.SETUP_LINE, "left", -1 if lowered >= 0 else 1)]
    return Drawing("Baseline", tuple(strokes), tuple(labels))


def stations_at(shape: Shape, places: Sequence[float]) -> Drawing:
    """The profile with stations at places along the hull (mm); those it has stand dotted."""
    own = _profile_lines(shape)
    every = np.concatenate(own)
    low, high = float(every[:, 1].min()), float(every[:, 1].max())
    strokes = [Stroke(points, Layer.HULL) for points in own]
    strokes += [line((s.x, low), (s.x, high), layer=Layer.GHOST) for s in shape.lines.stations]
    strokes += [line((x, low - BELOW_MM), (x, high + BELOW_MM), layer=Layer.SPALL) for x in places]
    return Drawing("Stations", tuple(strokes))


def plane_on(shape: Shape, plane: TableLine) -> Drawing:
    """The body plan with a waterline, buttock or diagonal on it, and where it cuts the hull along its length below."""
    drawn = body_plan(shape)
    reach = max(float(s.points[:, 1].max()) for s in shape.lines.stations)
    if plane.kind is LineKind.WATERLINE:
        own = [line((-reach, plane.level), (reach, plane.level), layer=Layer.SPALL)]
    elif plane.kind is LineKind.BUTTOCK:
        _, bottom, _, top = drawn.bounds()
        own = [line((side * plane.level, bottom), (side * plane.level, top), layer=Layer.SPALL) for side in (1.0, -1.0)]
    else:
        fall = float(np.tan(np.radians(plane.angle))) * reach
        own = [line((0.0, plane.level), (side * reach, plane.level - fall), layer=Layer.SPALL) for side in (1.0, -1.0)]
    (cut,) = slice_hull(shape.hull, [slice_along(plane)])
    words = "it cuts the hull" if len(cut) > 1 else "it does not cut the hull"
    return replace(drawn, title=f"Body plan: {words}", strokes=(*drawn.strokes, *own), labels=drawn.labels)
