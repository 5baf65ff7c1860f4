"""A way of planking in pictures: on the hull, as its girth map, and its fore end from the side, where strips are hardest to
believe."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.job import StripSettings
from ...core.planking.mechanics import GRADES, behaviours
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...core.units import LengthStyle
from ..model import Drawing, Layer, Stroke
from .girth_map import girth_map
from .mesh import HullMesh, planked_mesh

SEEN = 0.22
"""The share of the hull that is seen, from its foremost point."""


@dataclass(frozen=True)
class Pictured:
    """A way of planking as it would lie: its bow from the side, the hull, and its girth map, these two coloured by how strips go
    on."""

    settings: StripSettings
    bow: Drawing
    hull: HullMesh
    girth_map: Drawing


def pictured(shape: Shape, settings: StripSettings, planking: Planking, style: LengthStyle) -> Pictured:
    """Strips that were laid by these settings."""
    stations = [m.station for m in shape.molds.molds]
    found = behaviours(settings, planking, stations)
    shades = tuple(GRADES.index(found[s.number].grade) for s in planking.strips)
    return Pictured(settings, bow_of_plan(planking), planked_mesh(planking, shades), girth_map(shape, planking, style, shades))


def bow_of_plan(planking: Planking) -> Drawing:
    """Edges of strips forward of a place, positions across and heights up, mm; the outline of the hull there is the guide, the
    limit and the bow end."""
    first = min(float(p.points[:, 0].min()) for s in planking.strips for p in (*s.near, *s.far))
    last = max(float(p.points[:, 0].max()) for s in planking.strips for p in (*s.near, *s.far))
    to = first + SEEN * (last - first)
    strokes: list[Stroke] = []
    for strip in planking.strips:
        layer = Layer.STRIP if strip.number % 10 else Layer.STRIP_ALT
        strokes += _forward([p.points for p in strip.far], to, layer)
    outline = [*planking.limits.values(), *(bow for bow, _ in planking.ends.values())]
    outline += [p.points for s in planking.strips if s.number == 1 for p in s.near]
    strokes += _forward(outline, to, Layer.HULL)
    return Drawing("The bow from the side", tuple(strokes))


def _forward(lines: list[Array], to: float, layer: Layer) -> list[Stroke]:
    """The parts of lines (n, 3) forward of a position, seen from the side."""
    found = []
    for points in lines:
        x, z = points[:, 0], points[:, 2]
        inside = x < to
        if inside.sum() < 2:
            continue
        side = np.column_stack([x, z])[inside]
        if not inside.all() and x[-1] > to and inside[0]:  # cut off at the place itself
            side = np.vstack([side, [to, float(np.interp(to, x, z))]])
        found.append(Stroke(frozen(side), layer))
    return found
