"""One veneer: the part of the hull between two seams, flattened along its straight edge, with what it asks of the wood."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, BoolArray, frozen
from ..geometry.polyline import runs_along
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import components, gaussian, second_form
from .beyond import Beyond
from .faces import Face
from .flatten import Outline, laid_flat
from .seams import Seam

EVERY_MM = 100.0
"""Spiling is told at such steps along the straight edge."""
DENSE_MM = 15.0
ASKED_EVERY = 4
"""Bends are looked for at every so many places: some 50 mm apart."""
LEAST_AREA_MM2 = 50.0
NEAR_END_MM = 2.0
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
    far round from the keel it lies, mm."""

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


def veneers_between(laid: Laid, faces: Sequence[Face]) -> list[Veneer]:
    """The veneers that cover faces, in their order, not numbered yet; without those that are too small."""
    surface = laid.beyond.surface
    places = [_dense(surface, np.asarray(face.shape.exterior.coords)) for face in faces]
    outlines = [
        Outline(surface.points(uv[:, 0], uv[:, 1]), face.straight)
        for uv, face in zip(places, faces, strict=True)
    ]
    marks = [(k, mark) for k, face in enumerate(faces) for mark in _trim_lines(laid.beyond, face)]
    flats = laid_flat(surface, outlines + [Outline(mark, faces[k].straight) for k, mark in marks])
    found = []
    for k, face in enumerate(faces):
        own = tuple(flat for (of, _), (flat, _) in zip(marks, flats[len(faces) :], strict=True) if of == k)
        shape = _Flat(places[k], outlines[k].points, *flats[k], own)
        if shapely.make_valid(shapely.Polygon(shape.flat)).area >= LEAST_AREA_MM2:
            found.append(_veneer(laid, face, shape))
    return found


@dataclass(frozen=True)
class _Flat:
    """An outline in parameters, on the hull and flat, how far off it is when it is laid on again, and the trim lines on it."""

    uv: Array
    points: Array
    flat: Array
    off: float
    marks: tuple[Array, ...]


def _veneer(laid: Laid, face: Face, own: _Flat) -> Veneer:
    surface, straight, uv = laid.beyond.surface, face.straight, own.uv
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
    width = float(flat[:, 1].max())
    area = laid.beyond.spread.area(face.shape)
    bend, across, strain = _asked(surface, uv, straight, width)
    return Veneer(
        0, laid.panel, frozen(flat), frozen(_spiling(flat)), frozen(own.points), float(np.ptp(flat[:, 0])), width,
        _least(flat, scribed, straight, start, width), _named(ends[order[0]], laid.names),
        _named(ends[order[-1]], laid.names), strain, bend, across, area, _kept(laid, face, area), own.off,
        tuple(frozen(mark * side - [start, 0.0]) for mark in own.marks), frozen(laid.beyond.spread.unrolled(uv)),
    )  # fmt: skip


def _on(uv: Array, seam: Seam | None) -> BoolArray:
    """Which places of an outline in parameters lie on a seam."""
    if seam is None or len(seam.uv) < 2:
        return np.zeros(len(uv), dtype=bool)
    line = shapely.LineString(seam.uv)
    shapely.prepare(line)
    on: BoolArray = shapely.dwithin(line, shapely.points(uv), ON_SEAM)
    return on


def _kept(laid: Laid, face: Face, area: float) -> float:
    """What is left of a face of an `area` when the hull is trimmed, mm² both."""
    if not laid.beyond.lines or laid.beyond.hull.contains_properly(face.shape):
        return area
    left = shapely.intersection(laid.beyond.hull, face.shape)
    return sum(
        laid.beyond.spread.area(part) for part in shapely.get_parts(left) if isinstance(part, shapely.Polygon)
    )


def _trim_lines(beyond: Beyond, face: Face) -> list[Array]:
    """The parts of what the hull is trimmed to that lie on a face, (n, 3) mm."""
    found = []
    for line in beyond.lines:
        for part in shapely.get_parts(shapely.intersection(shapely.LineString(line), face.shape)):
            uv = shapely.get_coordinates(part)
            if len(uv) > 1:
                uv = np.concatenate([_dense(beyond.surface, uv), uv[-1:]])
                found.append(beyond.surface.points(uv[:, 0], uv[:, 1]))
    return found


def _dense(surface: TensorSurface, ring: Array) -> Array:
    """An outline's parameters with more places where they lie far apart on the surface."""
    points = surface.points(ring[:, 0], ring[:, 1])
    gaps = np.linalg.norm(np.diff(points, axis=0), axis=1)
    counts = np.maximum(np.ceil(gaps / DENSE_MM), 1).astype(int)
    first = np.repeat(np.arange(len(gaps)), counts)
    share = (np.arange(len(first)) - np.repeat(np.cumsum(counts) - counts, counts)) / counts[first]
    dense: Array = ring[first] + share[:, None] * (ring[first + 1] - ring[first])
    return dense


def _spiling(flat: Array) -> Array:
    """How wide a veneer is at even steps along its straight edge, (k, 2) mm, its ends and where it is widest among them."""
    length = float(flat[:, 0].max())
    places = np.unique(
        np.concatenate([np.arange(0.0, length, EVERY_MM), [float(flat[np.argmax(flat[:, 1]), 0]), length]])
    )
    _, heights = crossed(flat, np.clip(places, 1e-6, length - 1e-6))
    widths = np.nan_to_num(heights, nan=0.0).max(axis=1)
    return np.column_stack([places, np.maximum(widths, 0.0)])


def crossed(flat: Array, places: Array) -> tuple[Array, Array]:
    """Where lines square to the straight edge at some places along it (k,) cross an outline (n, 2): the share of each of its sides
    and the height there, (k, n) both; the height is nan where a side is not crossed."""
    step = np.roll(flat, -1, axis=0) - flat
    with np.errstate(divide="ignore", invalid="ignore"):
        share = (places[:, None] - flat[:, 0]) / step[:, 0]
        heights = np.where((share >= 0.0) & (share <= 1.0), flat[:, 1] + share * step[:, 1], np.nan)
    return share, heights


def _least(flat: Array, scribed: BoolArray, straight: Seam, start: float, width: float) -> float:
    """The narrowest that a veneer is between its two seams, its ends left out, mm; where it has only one seam its whole width."""
    if not scribed.any() or not straight.on.any():
        return width
    low, high = runs_along(straight.points)[np.flatnonzero(straight.on)[[0, -1]]] - start
    beside = scribed & (flat[:, 0] > low - NEAR_END_MM) & (flat[:, 0] < high + NEAR_END_MM)
    return float(min(flat[beside, 1].min(initial=width), width))


def _asked(surface: TensorSurface, uv: Array, straight: Seam, width: float) -> tuple[float, float, float]:
    """The greatest bend along the veneer and across it, 1/mm, and the strain that flattening leaves at its edges: K w²/8 for a
    width w, where K is the surface's curvature both ways (by expansion of the length of a line beside a geodesic)."""
    inside = np.flatnonzero(straight.on if straight.on.sum() > 2 else np.ones(len(straight.uv), dtype=bool))
    inside = inside[:: max(min(ASKED_EVERY, len(inside) // 3), 1)]
    places = np.concatenate([straight.uv[inside], np.clip(uv[::ASKED_EVERY], 0.0, 1.0)])
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
