"""What the builder decides on the planked hull and its map: the master line, and where strips keep their full width. On screen
only."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ...core.geometry.arrays import Array
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...core.settings.strip_choices import Course, Guide, MasterKind, StripLayout
from ...core.settings.strips import StripSettings
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, line
from .girth_map import strip_levels

LAID_PATH, LAID_SHARE = "planked.strips", 0.2
"""What says how many strips are laid, and where along the map it is written."""
LEAST_RISE = 0.05
"""A girth that climbs less for its length says nothing of a height."""
BY_HEIGHT = (MasterKind.HEIGHT, MasterKind.NATURAL, MasterKind.DIAGONAL)


@dataclass(frozen=True)
class HullRing:
    """A ring on the hull in three dimensions: its place (3,), the setting and its value there, and the way (3,) along which a
    millimetre is one of the value."""

    at: Array
    decides: str
    value: float
    way: Array


def _master(planking: Planking) -> Array | None:
    """The master line (n, 3), the edge that the first strips lie along."""
    strip = planking.strips[0] if planking.strips else None
    return strip.near[0].points if strip is not None and strip.near else None


def _amidships(points: Array, shape: Shape) -> Array:
    """The point of a line half-way along the hull."""
    ends = [float(shape.lines.bow.points[:, 0].mean()), float(shape.lines.stern.points[:, 0].mean())]
    order = np.argsort(points[:, 0])
    x = (ends[0] + ends[1]) / 2
    return np.array([np.interp(x, points[order, 0], points[order, k]) for k in range(3)])


def master_ring(shape: Shape, planking: Planking) -> HullRing | None:
    """The ring by which the master line is moved up and down on the hull; None where there is none, or it has no one height."""
    strips = shape.job.strips
    points = _master(planking)
    if strips.guide is not Guide.MASTER or strips.master.kind not in BY_HEIGHT or points is None:
        return None
    at = _amidships(points, shape)
    return HullRing(at, "strips.master.height", _height(strips, at), np.array([0.0, 0.0, 1.0]))


def _height(strips: StripSettings, at: Array) -> float:
    given = strips.master.height
    return float(at[2]) if given is None else given


def map_decisions(drawing: Drawing, shape: Shape, planking: Planking, style: LengthStyle) -> Drawing:
    """The girth map with what is decided on it."""
    left, bottom, right, top = drawing.bounds()
    strips = shape.job.strips
    rings: list[Ring] = []
    labels: list[Label] = []
    strokes = []
    if strips.guide is Guide.MASTER:
        middle = (left + right) / 2
        strokes.append(line((left, 0.0), (right, 0.0), layer=Layer.HULL, key="master"))
        found = _master_on_map(shape, planking, middle)
        if found is not None:
            ring, words, number = found
            rings.append(ring)
            labels.append(decided((middle, 0.0), words, number, ring.decides, Layer.TITLE, key="master"))
    if strips.layout is StripLayout.MIXED:
        level = bottom + 0.15 * (top - bottom)
        for path, given, other in (
            ("strips.mixed_from", strips.mixed_from, left + 0.3 * (right - left)),
            ("strips.mixed_to", strips.mixed_to, left + 0.7 * (right - left)),
        ):
            at = other if given is None else given
            number = "by girth" if given is None else format_length(at, style)
            strokes.append(line((at, bottom), (at, top), layer=Layer.SPALL, key=path))
            rings.append(Ring((at, level), path, at, (1.0, 0.0), low=left, high=right, moves=path))
            words = "full width from" if path.endswith("from") else "full width to"
            labels.append(decided((at, level), words, number, path, Layer.SPALL, key=path))
    laid = _laid(shape, planking, left, right)
    if laid is not None:
        strokes.append(laid[0])
        rings.append(laid[1])
        labels.append(laid[2])
    return replace(drawing, strokes=(*drawing.strokes, *strokes), labels=(*drawing.labels, *labels), rings=tuple(rings))


def _laid(shape: Shape, planking: Planking, left: float, right: float) -> tuple[Stroke, Ring, Label] | None:
    """How far the planking has come: under the last strip that is on, or at the guide before the first."""
    count = shape.job.planked.strips if shape.job.planked is not None else 0
    levels = [(strip, level) for strip, level in strip_levels(planking) if strip.course is planking.strips[0].course]
    if not levels or count >= len(levels):
        return None
    strip, level = levels[count]  # the first one that is still to come
    at = left + LAID_SHARE * (right - left)
    way = -1.0 if strip.course is Course.DOWN else 1.0
    return (
        line((left, level), (right, level), layer=Layer.SPALL, key="laid"),
        Ring((at, level), LAID_PATH, float(count), (0.0, way), 1.0 / max(planking.width, 1.0), 0.0, float(len(levels)), "laid"),
        decided((at, level), "laid so far", f"{count}", LAID_PATH, Layer.SPALL, rise=-1, key="laid"),
    )


def _master_on_map(shape: Shape, planking: Planking, middle: float) -> tuple[Ring, str, str] | None:
    """The ring on the master line, what it is called, and its value as it is typed."""
    strips, style = shape.job.strips, shape.job.units.style
    points = _master(planking)
    if points is None:
        return None
    at = _amidships(points, shape)
    rise, girth = _climb(shape, at)
    if strips.master.kind is MasterKind.GIRTH:
        ring = Ring((middle, 0.0), "strips.master.share", strips.master.share, (0.0, 1.0), 1 / girth, 0.05, 0.95, "master")
        return ring, "master line at", f"{100 * strips.master.share:g} %"
    if strips.master.kind not in BY_HEIGHT:
        return None
    value = _height(strips, at)
    ring = Ring((middle, 0.0), "strips.master.height", value, (0.0, 1.0), max(rise, LEAST_RISE), moves="master")
    return ring, "master line, amidships at", format_length(value, style)


def _climb(shape: Shape, at: Array) -> tuple[float, float]:
    """How much a mold's edge climbs for its length at a height amidships, and its whole girth, mm."""
    mold = min(shape.molds.molds, key=lambda m: abs(m.station - float(at[0])), default=None)
    if mold is None:
        return 1.0, 1000.0
    edge = mold.edge.points
    steps = np.diff(edge, axis=0)
    k = int(np.argmin(np.abs(edge[:-1, 1] - float(at[2]))))
    return float(abs(steps[k, 1]) / max(np.linalg.norm(steps[k]), 1e-9)), mold.edge.girth
