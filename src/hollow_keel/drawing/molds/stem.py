"""The inner stem in profile at full size, and the mold on the centre plane that carries it."""

from __future__ import annotations

import math

import numpy as np

from ...core.geometry.arrays import Array, frozen, rows_at
from ...core.geometry.polyline import height_crossing, runs_along
from ...core.molds.end_stages import StemPiece
from ...core.molds.stem import Lamination, Stem
from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line
from ..tidy import apart

CALL_MM = 100.0
LINE_MM = 6.0


def stem_drawings(shape: Shape, piece: StemPiece) -> list[Drawing]:
    """The inner stem at one end, and its mold where it has one."""
    drawings = [_stem(shape, piece.stem, piece.stern)]
    if piece.mold is not None:
        drawings.append(_mold(shape, piece.stem, piece.mold.outline, piece.mold.nearest, piece.stern))
    return drawings


def _end(stern: bool) -> str:
    return "STERN" if stern else "BOW"


def _stem(shape: Shape, stem: Stem, stern: bool) -> Drawing:
    style, settings = shape.job.units.style, shape.job.stem
    strokes = [
        Stroke(frozen(np.concatenate([stem.outer, stem.inner[::-1]])), Layer.MOLD, closed=True, filled=True),
        Stroke(stem.rabbet, Layer.GHOST),
    ]
    labels: list[Label] = []
    for at, across, degrees in _calls(stem):
        strokes.append(line(at, across, layer=Layer.TICK))
        labels.append(Label(at, f"{degrees:g}°", Layer.BEVEL, "left" if stern else "right"))
    load = height_crossing(stem.outer, shape.waterline), height_crossing(stem.inner, shape.waterline)
    if load[0] is not None and load[1] is not None:
        strokes.append(Stroke(frozen([load[0], load[1]]), Layer.WATERLINE))
        labels.append(
            Label((float(load[1][0]), float(load[1][1])), "LOAD WATERLINE", Layer.WATERLINE, "right" if stern else "left")
        )
    words = (
        f"{format_length(settings.siding, style, unit=True)} wide, {format_length(settings.molded, style, unit=True)} deep, "
        f"forward face {format_length(settings.face, style, unit=True)} wide",
        *lamination_words(stem.lamination, style),
        "bevels: planking to the centre plane, square to the edge, both sides; offer up a strip before the last shaving",
    )
    middle = stem.inner[len(stem.inner) // 2]
    place = (float(middle[0]) + (-30.0 if stern else 30.0), float(middle[1]))
    anchor = "right" if stern else "left"
    labels.append(Label(place, f"INNER STEM, {_end(stern)}", Layer.TITLE, anchor, 1, strong=True))
    labels += [Label((place[0], place[1] - LINE_MM * k), text, Layer.NOTE, anchor, -1) for k, text in enumerate(words)]
    head = stem.outer[-1]
    labels.append(Label((float(head[0]), float(head[1])), "sheer", Layer.SHEER_MARK, anchor, 1))
    return Drawing(f"Inner stem, {_end(stern).lower()}", tuple(strokes), apart(tuple(labels)))


def lamination_words(plan: Lamination, style: LengthStyle) -> list[str]:
    """How the stem is laminated, in words."""
    long = format_length(plan.length, style, unit=True)
    if not math.isfinite(plan.radius):
        return [f"straight: one piece {long} long does it"]
    radius = format_length(plan.radius, style, unit=True)
    thick = format_length(plan.thickness, style.fine, unit=True)
    if plan.count == 1:
        return [f"one piece {thick} thick takes the tightest bend, {radius} radius; {long} long"]
    back = f"{100 * plan.springback:.1f} %" if plan.springback >= 0.001 else "less than 0.1 %"
    return [
        f"{plan.count} laminations of {thick}, each {long} long; tightest bend {radius} radius",
        f"allow {back} of the bend for springback",
    ]


def _calls(stem: Stem) -> list[tuple[tuple[float, float], tuple[float, float], float]]:
    """Places along the forward edge, the after edge opposite, and the bevel there to the half degree."""
    along = runs_along(stem.outer)
    places = np.append(np.arange(0.0, along[-1] - CALL_MM / 4, CALL_MM), along[-1])

    degrees = np.degrees(np.interp(places, along, stem.bevels))
    return [
        ((float(a[0]), float(a[1])), (float(b[0]), float(b[1])), round(float(d) * 2) / 2)
        for a, b, d in zip(*(rows_at(places, along, edge) for edge in (stem.outer, stem.inner)), degrees, strict=True)
    ]


def _mold(shape: Shape, stem: Stem, outline: Array, nearest: str, stern: bool) -> Drawing:
    low, high = float(outline[:, 1].min()), float(outline[:, 1].max())
    left, right = float(outline[:, 0].min()), float(outline[:, 0].max())
    strokes = [
        Stroke(outline, Layer.MOLD, closed=True, filled=True),
        Stroke(stem.outer, Layer.GHOST),
        line((left, high), (right, high), layer=Layer.SETUP_LINE),
    ]
    middle = ((left + right) / 2, high - 0.3 * (high - low))
    face = right if not stern else left
    labels = [
        Label(middle, f"STEM MOLD, {_end(stern)}", Layer.TITLE, rise=1, strong=True),
        Label(middle, f"{shape.job.name} · on the centre plane, this edge to mold {nearest}", Layer.NOTE, rise=-1),
        Label((middle[0], middle[1] - LINE_MM), "tape the edge the inner stem lies on", Layer.NOTE, rise=-1),
        Label((face, middle[1]), f"mold {nearest}", Layer.NOTE, "right" if not stern else "left", -1),
        Label((middle[0], high), "level with the sheer or the strongback", Layer.SETUP_LINE, rise=1),
    ]
    at_load = height_crossing(outline[:-2], shape.waterline)
    if at_load is not None:
        side = "right" if not stern else "left"
        strokes.append(line((float(at_load[0]), shape.waterline), (face, shape.waterline), layer=Layer.WATERLINE))
        labels.append(Label((face, shape.waterline), "LOAD WATERLINE", Layer.WATERLINE, side, 1))
    return Drawing(f"Stem mold, {_end(stern).lower()}", tuple(strokes), apart(tuple(labels)))
