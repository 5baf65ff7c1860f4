"""One veneer: the part of the hull between two seams, flattened along its straight edge, with what it asks of the wood."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import feet, runs_along
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import components, gaussian, second_form
from .faces import Face
from .seams import Seam
from .spread import Spread

EVERY_MM = 100.0
"""Spiling is told at such steps along the straight edge."""
DENSE_MM = 15.0
LEAST_AREA_MM2 = 50.0
LEAST_STEP = 3
"""Of a scribed edge's points every third is looked at for where the veneer is narrowest."""
NEAR_END_MM = 2.0


@dataclass(frozen=True)
class Veneer:
    """A veneer of one side, numbered along its layer. Lengths mm. `flat` (n, 2) is its outline as it is cut, the straight edge
    along y = 0; `spiling` (k, 2) distances along that edge and how wide it is there; `outline` (n, 3) its outline on the hull,
    place for place with `flat`. `length` and `width` of the piece that it is cut from; `least` the narrowest that it is between
    its ends; `starts` and `ends` what the straight edge ends on. `strain` is what flattening leaves at its edges (a bare number),
    `bend` and `across` the greatest curvatures along it and across, 1/mm; `area` on the hull, mm²."""

    number: int
    panel: int
    flat: Array
    spiling: Array
    outline: Array
    length: float
    width: float
    least: float
    starts: str
    ends: str
    strain: float
    bend: float
    across: float
    area: float

    @property
    def lost(self) -> float:
        """What spiling and its ends take of the piece that it is cut from, as a share of it."""
        whole = self.length * self.width
        return 1.0 - float(shapely.Polygon(self.flat).area) / whole if whole > 0 else 0.0


def misfit(veneer: Veneer) -> float:
    """By how much the flat shape is larger or smaller than the veneer is on the hull, a share: what flattening could not keep."""
    return abs(float(shapely.Polygon(veneer.flat).area) / veneer.area - 1.0)


def veneer_between(
    surface: TensorSurface, spread: Spread, face: Face, number: int, panel: int, names: tuple[str, str, str, str]
) -> Veneer | None:  # fmt: skip
    """The veneer that covers a face; `names` are what lies at u = 0, u = 1, v = 0 and v = 1. None where too little is left."""
    straight = face.straight
    uv = _dense(surface, np.asarray(face.shape.exterior.coords))
    points = surface.points(uv[:, 0], uv[:, 1])
    flat = _flattened(points, straight, surface)
    shape = shapely.Polygon(flat)
    if not shape.is_valid:
        shape = shapely.make_valid(shape)
    if shape.area < LEAST_AREA_MM2:
        return None
    side = 1.0 if float(np.mean(flat[:, 1])) >= 0 else -1.0
    flat = flat * [1.0, side]
    flat[:, 0] -= flat[:, 0].min()
    edge = flat[:, 1] < 0.5
    ends = uv[edge] if edge.sum() > 1 else uv
    order = np.argsort(flat[edge, 0] if edge.sum() > 1 else flat[:, 0])
    spiling = _spiling(flat)
    bend, across, strain = _asked(surface, uv, straight, float(flat[:, 1].max()))
    return Veneer(
        number, panel, frozen(flat), frozen(spiling), frozen(points), float(np.ptp(flat[:, 0])), float(flat[:, 1].max()),
        _least(surface, face, float(flat[:, 1].max())), _named(ends[order[0]], names), _named(ends[order[-1]], names), strain, bend,
        across, spread.area(face.shape),
    )  # fmt: skip


def _dense(surface: TensorSurface, ring: Array) -> Array:
    """An outline's parameters with more places where they lie far apart on the surface."""
    points = surface.points(ring[:, 0], ring[:, 1])
    gaps = np.linalg.norm(np.diff(points, axis=0), axis=1)
    counts = np.maximum(np.ceil(gaps / DENSE_MM), 1).astype(int)
    first = np.repeat(np.arange(len(gaps)), counts)
    share = (np.arange(len(first)) - np.repeat(np.cumsum(counts) - counts, counts)) / counts[first]
    dense: Array = ring[first] + share[:, None] * (ring[first + 1] - ring[first])
    return dense


def _flattened(points: Array, straight: Seam, surface: TensorSurface) -> Array:
    """Points (n, 3) laid flat along a seam: how far along it their foot lies, and how far off it they are on the surface, the side
    counted; (n, 2) mm. The way over a round is longer than the straight one c by the angle to its sine: asin(κc/2) / (κc/2)."""
    line = straight.points
    cell, share, foot = feet(points, line, beyond=True)
    run = runs_along(line)
    steps = np.diff(run)
    along = run[cell] + share * steps[cell]
    away = points - foot
    chord = np.linalg.norm(away, axis=1)
    tangent = (line[cell + 1] - line[cell]) / steps[cell][:, None]
    place = straight.uv[cell] + np.clip(share, 0, 1)[:, None] * (straight.uv[cell + 1] - straight.uv[cell])
    jet = surface.jet(place[:, 0], place[:, 1])
    normal = jet.normal
    inward = np.cross(normal, tangent)
    way = components(jet, inward)
    curved = second_form(jet, normal, way, way)
    side = np.sign(np.vecdot(away, inward))
    half = np.abs(curved) * chord / 2
    round_over = np.where(half > 1e-6, np.arcsin(np.minimum(half, 1.0)) / np.maximum(half, 1e-6), 1.0)
    return np.column_stack([along, side * chord * round_over])


def _spiling(flat: Array) -> Array:
    """How wide a veneer is at even steps along its straight edge, (k, 2) mm, its ends among them."""
    length = float(flat[:, 0].max())
    places = np.unique(np.concatenate([np.arange(0.0, length, EVERY_MM), [length]]))
    own = np.clip(places, 1e-6, length - 1e-6)[:, None]
    first, step = flat, np.roll(flat, -1, axis=0) - flat
    with np.errstate(divide="ignore", invalid="ignore"):
        share = (own - first[:, 0]) / step[:, 0]  # (place, side of the outline)
        heights = np.where((share >= 0.0) & (share <= 1.0), first[:, 1] + share * step[:, 1], 0.0)
    widths = np.maximum(heights.max(axis=1), 0.0)
    return np.column_stack([places, widths])


def _least(surface: TensorSurface, face: Face, width: float) -> float:
    """The narrowest that a veneer is between its two seams, its ends left out, mm; where it has only one seam its whole width."""
    if face.scribed is None:
        return width
    points = face.scribed.points[face.scribed.on][::LEAST_STEP]
    if len(face.straight.points) < 2 or not len(points):
        return width
    flat = _flattened(points, face.straight, surface)
    ends = (
        runs_along(face.straight.points)[np.flatnonzero(face.straight.on)[[0, -1]]]
        if face.straight.on.any()
        else (0.0, 0.0)
    )
    beside = (flat[:, 0] > ends[0] - NEAR_END_MM) & (flat[:, 0] < ends[1] + NEAR_END_MM)
    return float(min(np.abs(flat[beside, 1]).min(initial=width), width))


def _asked(surface: TensorSurface, uv: Array, straight: Seam, width: float) -> tuple[float, float, float]:
    """The greatest bend along the veneer and across it, 1/mm, and the strain that flattening leaves at its edges: K w²/8 for a
    width w, where K is the surface's curvature both ways (by expansion of the length of a line beside a geodesic)."""
    inside = straight.on if straight.on.sum() > 2 else np.ones(len(straight.uv), dtype=bool)
    places = np.concatenate([straight.uv[inside], np.clip(uv[::4], 0.0, 1.0)])
    tangent = np.gradient(straight.points, axis=0)[inside]
    mean = tangent.mean(axis=0)
    direction = np.concatenate([tangent, np.tile(mean, (len(places) - len(tangent), 1))])
    jet = surface.jet(np.clip(places[:, 0], 0.004, 0.996), places[:, 1])
    normal = jet.normal
    direction = direction - np.vecdot(direction, normal)[:, None] * normal
    direction /= np.maximum(np.linalg.norm(direction, axis=1, keepdims=True), 1e-12)
    square = np.cross(normal, direction)
    a, b = components(jet, direction), components(jet, square)
    along, across, both = second_form(jet, normal, a, a), second_form(jet, normal, b, b), gaussian(jet)
    good = np.isfinite(both)
    return (
        float(np.quantile(np.abs(along[good]), 0.98)), float(np.quantile(np.abs(across[good]), 0.98)),
        float(np.quantile(np.abs(both[good]), 0.98)) * width**2 / 8,
    )  # fmt: skip


def _named(uv: Array, names: tuple[str, str, str, str]) -> str:
    """What lies at a place on the hull's edge: the edge that it is nearest to."""
    off = (abs(uv[0]), abs(1 - uv[0]), abs(uv[1]), abs(1 - uv[1]))
    return names[int(np.argmin(off))]
