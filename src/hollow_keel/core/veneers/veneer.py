"""One veneer: the part of the hull between two seams, flattened along its straight edge, with what it asks of the wood."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, BoolArray, IntArray, frozen, steps_along
from ..geometry.polyline import runs_along
from ..geometry.surface import TensorSurface
from .asked import Asked, asked_of
from .beyond import Beyond
from .faces import Face
from .flatten import Outline, laid_flat
from .seams import Seam

EVERY_MM = 100.0
"""Spiling is told at such steps along the straight edge."""
DENSE_MM, LEFT_MM = 15.0, 35.0
"""Outlines have places so far apart along the hull's edges; what is no longer than the second, between two corners of a seam, is
left as it is."""
LEAST_AREA_MM2 = 50.0
NEAR_END_MM = 2.0
TENTHS = np.linspace(0.1, 0.9, 9)
ON_SEAM = 1e-7
"""Places of an outline lie on a seam that are no farther off, in parameters."""


@dataclass(frozen=True)
class Veneer:
    """A veneer of one side, numbered along its layer. Lengths mm. `flat` (n, 2) is its outline as it is cut, the straight edge
    along y = 0; `spiling` (k, 2) distances along that edge and how wide it is there; `outline` (n, 3) its outline on the hull,
    place for place with `flat`. `length` and `width` of the piece that it is cut from; `least` the narrowest that it is between
    its ends; `starts` and `ends` what the straight edge ends on. `strain` is what flattening leaves at its edges (a bare number),
    `bend` and `across` the greatest curvatures along it and across, 1/mm; `area` on the form, and `trimmed` what of it is left on
    the hull, mm²; `off` how far its flat shape, laid on the hull again, is from its outline at the worst, mm; `marks` the lines
    (k, 2) on its flat shape that the hull is trimmed to. `unrolled` (n, 2) is its outline place for place as how far aft and how
    far round from the keel it lies, mm; `two_seams` whether it lies between two, not beside one alone at a corner of the hull."""

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
    trimmed: float
    off: float
    marks: tuple[Array, ...]
    unrolled: Array
    two_seams: bool

    @property
    def lost(self) -> float:
        """What spiling and its ends take of the piece that it is cut from, as a share of it."""
        whole = self.length * self.width
        return 1.0 - float(shapely.Polygon(self.flat).area) / whole if whole > 0 else 0.0


def misfit(veneer: Veneer) -> float:
    """By how much the flat shape is larger or smaller than the veneer is on the hull, a share: what flattening could not keep."""
    return abs(float(shapely.Polygon(veneer.flat).area) / veneer.area - 1.0)


@dataclass(frozen=True)
class Laid:
    """What a layer's veneers have in common on one panel: its surface, the gap left between two (mm), the number
    of the panel, and what lies at u = 0, u = 1, v = 0 and v = 1."""

    beyond: Beyond
    gap: float
    panel: int
    names: tuple[str, str, str, str]


def veneers_between(laid: Laid, faces: Sequence[Face]) -> list[Veneer | None]:
    """The veneers that cover faces, in their order, not numbered yet; None where one is too small."""
    if not faces:
        return []
    beyond = laid.beyond
    places = _dense(beyond.surface, [np.asarray(face.shape.exterior.coords) for face in faces])
    outlines = [Outline(points, face.straight, points) for points, face in zip(_points(beyond.surface, places), faces, strict=True)]
    marks = _trim_lines(beyond, faces)
    flats = laid_flat(beyond.surface, outlines + [Outline(mark, faces[k].straight, outlines[k].points) for k, mark in marks])
    areas = beyond.spread.areas([face.shape for face in faces])
    kept = _kept(beyond, faces, areas)
    unrolled = _split(beyond.spread.unrolled(np.concatenate(places)), places)
    asked = asked_of(beyond.surface, faces)
    found: list[Veneer | None] = []
    for k, face in enumerate(faces):
        own = tuple(flat for (of, _), (flat, _) in zip(marks, flats[len(faces) :], strict=True) if of == k)
        shape = _Flat(places[k], outlines[k].points, *flats[k], own, unrolled[k], float(areas[k]), float(kept[k]), asked[k])
        found.append(_veneer(laid, face, shape) if _large(shape.flat) else None)
    return found


@dataclass(frozen=True)
class _Flat:
    """An outline in parameters, on the hull and flat, how far off it is when it is laid on again, and the trim lines on it;
    unrolled; its area and what of it is kept, mm²; and what it asks of the wood."""

    uv: Array
    points: Array
    flat: Array
    off: float
    marks: tuple[Array, ...]
    unrolled: Array
    area: float
    kept: float
    asked: Asked


def _large(flat: Array) -> bool:
    """Whether a flat shape is more than a splinter."""
    shape = shapely.Polygon(flat)
    return bool(shape.area >= LEAST_AREA_MM2 or shapely.make_valid(shape).area >= LEAST_AREA_MM2)


def _veneer(laid: Laid, face: Face, own: _Flat) -> Veneer:
    straight, uv = face.straight, own.uv
    side = np.array([1.0, 1.0 if float(np.mean(own.flat[:, 1])) >= 0 else -1.0])
    flat = own.flat * side
    scribed = _on(uv, face.scribed)
    if laid.gap > 0:
        flat[scribed, 1] -= np.clip(flat[scribed, 1], 0.0, laid.gap)
    start = float(flat[:, 0].min())
    flat[:, 0] -= start
    edge = flat[:, 1] < 0.5
    ends = uv[edge] if edge.sum() > 1 else uv
    order = np.argsort(flat[edge, 0] if edge.sum() > 1 else flat[:, 0])
    width, asked = float(flat[:, 1].max()), own.asked
    return Veneer(
        0,
        laid.panel,
        frozen(flat),
        frozen(_spiling(flat)),
        frozen(own.points),
        float(np.ptp(flat[:, 0])),
        width,
        _least(flat, scribed, straight, start, width),
        _named(ends[order[0]], laid.names),
        _named(ends[order[-1]], laid.names),
        asked.curvature * width**2 / 8,
        asked.bend,
        asked.across,
        own.area,
        own.kept,
        own.off,
        tuple(frozen(mark * side - [start, 0.0]) for mark in own.marks),
        frozen(own.unrolled),
        bool(scribed.any() and straight.on.any()),
    )


def _on(uv: Array, seam: Seam | None) -> BoolArray:
    """Which places of an outline in parameters lie on a seam."""
    if seam is None or len(seam.uv) < 2:
        return np.zeros(len(uv), dtype=bool)
    line = shapely.LineString(seam.corners)
    shapely.prepare(line)
    on: BoolArray = shapely.dwithin(line, shapely.points(uv), ON_SEAM)
    return on


def _kept(beyond: Beyond, faces: Sequence[Face], areas: Array) -> Array:
    """What is left of faces of some areas when the hull is trimmed, (n,) mm² both."""
    if not beyond.lines:
        return areas
    shapes = np.array([face.shape for face in faces])
    shapely.prepare(beyond.hull)
    cut = np.flatnonzero(~shapely.contains_properly(beyond.hull, shapes))
    parts, of = shapely.get_parts(shapely.intersection(beyond.hull, shapes[cut]), return_index=True)
    polygons = shapely.get_type_id(parts) == shapely.GeometryType.POLYGON
    left = areas.copy()
    left[cut] = np.bincount(of[polygons], beyond.spread.areas(parts[polygons]), minlength=len(cut))
    return left


def _trim_lines(beyond: Beyond, faces: Sequence[Face]) -> list[tuple[int, Array]]:
    """The parts of what the hull is trimmed to that lie on faces: on which, and (n, 3) mm."""
    shapes = np.array([face.shape for face in faces])
    found: list[tuple[int, Array]] = []
    for line in beyond.lines:
        parts, of = shapely.get_parts(shapely.intersection(shapely.LineString(line), shapes), return_index=True)
        own = [(int(k), shapely.get_coordinates(part)) for k, part in zip(of, parts, strict=True)]
        own = [(k, uv) for k, uv in own if len(uv) > 1]
        if own:
            dense = _dense(beyond.surface, [uv for _, uv in own])
            whole = [np.concatenate([uv, last[-1:]]) for uv, (_, last) in zip(dense, own, strict=True)]
            found += [(k, points) for (k, _), points in zip(own, _points(beyond.surface, whole), strict=True)]
    return sorted(found, key=lambda mark: mark[0])


def _split(rows: Array, like: Sequence[Array]) -> list[Array]:
    """Rows of all of some arrays (n, d), apart again."""
    return np.split(rows, np.cumsum([len(own) for own in like])[:-1])


def _points(surface: TensorSurface, places: Sequence[Array]) -> list[Array]:
    """The points (n, 3) at places (n, 2) of several outlines; all together, for short arrays cost as much."""
    uv = np.concatenate(places)
    return _split(surface.points(uv[:, 0], uv[:, 1]), places)


def _dense(surface: TensorSurface, rings: Sequence[Array]) -> list[Array]:
    """Outlines' parameters with more places where they lie far apart on the surface; without the last of each."""
    uv, ends = np.concatenate(rings), np.cumsum([len(ring) for ring in rings])
    apart = steps_along(surface.points(uv[:, 0], uv[:, 1]))
    counts = np.where(apart > LEFT_MM, np.ceil(apart / DENSE_MM), 1).astype(int)
    counts[ends[:-1] - 1] = 0  # from one outline to the next
    before = np.concatenate([[0], np.cumsum(counts)])
    first = np.repeat(np.arange(len(apart)), counts)
    share = (np.arange(len(first)) - before[first]) / counts[first]
    dense = uv[first] + share[:, None] * (uv[first + 1] - uv[first])
    return np.split(dense, before[ends[:-1]])


def _spiling(flat: Array) -> Array:
    """How wide a veneer is at even steps along its straight edge, (k, 2) mm, its ends and where it is widest among them."""
    length = float(flat[:, 0].max())
    places = np.unique(np.concatenate([np.arange(0.0, length, EVERY_MM), [float(flat[np.argmax(flat[:, 1]), 0]), length]]))
    place, _, _, heights = crossed(flat, np.clip(places, 1e-6, length - 1e-6))
    widths = np.zeros_like(places)
    np.maximum.at(widths, place, heights)
    return np.column_stack([places, widths])


def crossed(flat: Array, places: Array) -> tuple[IntArray, IntArray, Array, Array]:
    """Where lines square to the straight edge at rising places along it, mm (k,), cross an outline (n, 2): the number of the place
    and of the side, the share of the side and the height there, mm, (m,) each; not where a side stands square to the edge."""
    start, end = flat, np.roll(flat, -1, axis=0)
    low, high, step = np.minimum(start[:, 0], end[:, 0]), np.maximum(start[:, 0], end[:, 0]), end - start
    first = np.searchsorted(places, low)
    counts = np.searchsorted(places, high, side="right") - first
    counts[step[:, 0] == 0.0] = 0
    side = np.repeat(np.arange(len(flat)), counts)
    place = np.arange(len(side)) - (np.cumsum(counts) - counts - first)[side]
    share = (places[place] - start[side, 0]) / step[side, 0]
    return place, side, share, start[side, 1] + share * step[side, 1]


def _least(flat: Array, scribed: BoolArray, straight: Seam, start: float, width: float) -> float:
    """The narrowest that a veneer is between its two seams, its ends left out, mm; where it has only one seam, as it runs out on an
    edge of the hull, the narrowest of its spiling and of every tenth of its length."""
    if not scribed.any() or not straight.on.any():
        return _narrowest(flat)
    low, high = runs_along(straight.points)[np.flatnonzero(straight.on)[[0, -1]]] - start
    beside = scribed & (flat[:, 0] > low - NEAR_END_MM) & (flat[:, 0] < high + NEAR_END_MM)
    return float(min(flat[beside, 1].min(initial=width), width))


def _narrowest(flat: Array) -> float:
    """The narrowest that a flat shape is at every EVERY_MM and every tenth of its length between its ends, mm."""
    length = float(flat[:, 0].max())
    places = np.unique(np.concatenate([np.arange(EVERY_MM, length, EVERY_MM), length * TENTHS]))
    place, _, _, heights = crossed(flat, np.clip(places, 1e-6, length - 1e-6))
    widths = np.zeros_like(places)
    np.maximum.at(widths, place, heights)
    return float(widths.min())


def _named(uv: Array, names: tuple[str, str, str, str]) -> str:
    """What lies at a place on the hull's edge: the edge that it is nearest to."""
    off = (abs(uv[0]), abs(1 - uv[0]), abs(uv[1]), abs(1 - uv[1]))
    return names[int(np.argmin(off))]
