"""What the hull measures below a waterline: volume and its centre, sections, waterplane, coefficients.

Measures of shape for the eye and for checking one against another; not an assessment of stability.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.curves import LoftCurve
from ..geometry.surface import TensorSurface, cross
from ..offsets.table import spans
from .build import Hull
from .measures import gauss_points, wet_part
from .slices import slice_hull, waterline_at

_CELLS_U, _CELLS_V = 40, 16
_WATERLINE_STEPS = 241
_SECTION_STEPS = 400


@dataclass(frozen=True)
class Hydro:
    """Whole hull, both sides, below height `waterline`. Lengths and places mm, areas m², volume m³.

    `centre` (along the hull, height) of the volume; `flotation` the middle of the waterplane along the hull;
    `sections` rows (position, area m²) at each station of the table; coefficients are None where nothing is
    under water. Volume is counted from the centre plane to the outside of the planking.
    """

    waterline: float
    volume: float
    centre: tuple[float, float]
    length: float
    beam: float
    draft: float
    waterplane: float
    flotation: float
    sections: Array
    largest: float
    simpson: float | None
    trapezoid: float

    @property
    def block(self) -> float | None:
        """Volume as a share of the box of waterline length, beam and draft."""
        return _ratio(self.volume, self.length * self.beam * self.draft * 1e-9)

    @property
    def prismatic(self) -> float | None:
        """Volume as a share of the largest section drawn out over the waterline length."""
        return _ratio(self.volume, self.largest * self.length * 1e-3)

    @property
    def midship(self) -> float | None:
        """Largest section as a share of beam times draft."""
        return _ratio(self.largest, self.beam * self.draft * 1e-6)

    @property
    def waterplane_coefficient(self) -> float | None:
        """Waterplane as a share of length times beam."""
        return _ratio(self.waterplane, self.length * self.beam * 1e-6)


def _ratio(a: float, b: float) -> float | None:
    return a / b if b > 1e-12 else None


def hydro(hull: Hull, waterline: float) -> Hydro:
    """Measures below height `waterline` (mm)."""
    moments = np.zeros(3)
    for panel in hull.panels:
        moments += _moments(panel.surface, waterline)
    volume = float(moments[0])
    centre = (float(moments[1] / volume), float(moments[2] / volume)) if volume > 0 else (0.0, 0.0)
    line = slice_hull(hull, [waterline_at(waterline)], _WATERLINE_STEPS)[0]
    x, y = (line[:, 0], line[:, 1]) if len(line) else (np.zeros(2), np.zeros(2))
    plane = float(np.trapezoid(y, x))
    lowest = min(float(p.surface.grid[..., 2].min()) for p in hull.panels)
    sections = np.array([(s.x, section_area(s.points, s.knuckles, waterline)) for s in hull.lines.stations])
    ends = (float(x[0]), float(x[-1]))
    wet = _with_ends(sections, ends)
    return Hydro(
        waterline=waterline,
        volume=2 * volume * 1e-9,
        centre=centre,
        length=ends[1] - ends[0],
        beam=2 * float(y.max()),
        draft=max(waterline - lowest, 0.0),
        waterplane=2 * plane * 1e-6,
        flotation=float(np.trapezoid(x * y, x) / plane) if plane > 0 else 0.0,
        sections=frozen(sections),
        largest=_largest(sections),
        simpson=simpson_volume(wet),
        trapezoid=float(np.trapezoid(wet[:, 1], wet[:, 0])) * 1e-3,
    )


def _moments(surface: TensorSurface, height: float) -> Array:
    """Half volume below a height and its moments along the hull and upward (mm³, mm⁴), from the centre plane."""
    even = np.linspace(0, 1, _CELLS_U + 1)
    u, u_weight = (a.ravel() for a in gauss_points(even[:-1], even[1:]))
    edges = np.linspace(0, 1, _CELLS_V + 1)
    z = surface.points(u[:, None], edges[None, :])[..., 2]
    low, high = wet_part(surface, u, edges, z, height)
    v, v_weight = gauss_points(low, high)
    jet = surface.jet(np.broadcast_to(u[:, None, None], v.shape).ravel(), v.ravel())
    part = (u_weight[:, None, None] * v_weight).ravel() * jet.point[:, 1] * cross(jet.dv, jet.du)[:, 1]
    return np.array([part.sum(), (part * jet.point[:, 0]).sum(), (part * jet.point[:, 2]).sum()])


def section_area(points: Array, knuckles: tuple[int, ...], height: float) -> float:
    """Area (m², both sides) of a station below a height, from its own drawn points (n, 3)."""
    even = np.linspace(0, 1, _SECTION_STEPS + 1)
    line = np.concatenate([LoftCurve(points[part]).at_fractions(even) for part in spans(len(points), knuckles)])
    y, z = line[:, 1], line[:, 2]
    low, high = np.minimum(z[:-1], height), np.minimum(z[1:], height)
    share = np.where(z[1:] != z[:-1], (high - low) / np.where(z[1:] != z[:-1], z[1:] - z[:-1], 1.0), 0.0)
    cut = np.where(z[:-1] < height, y[:-1] + (y[1:] - y[:-1]) * np.abs(share), y[:-1])
    first = np.where(z[:-1] < height, y[:-1], y[1:])
    last = np.where(z[1:] < height, y[1:], cut)
    return 2e-6 * float(np.sum((first + last) / 2 * (high - low)))


def _with_ends(sections: Array, ends: tuple[float, float]) -> Array:
    """The sections under water with the ends of the waterline, where nothing is under water, added."""
    wet = sections[sections[:, 1] > 0]
    if not len(wet):
        return np.zeros((1, 2))
    first = [[ends[0], 0.0]] if ends[0] < wet[0, 0] - 1e-6 else []
    last = [[ends[1], 0.0]] if ends[1] > wet[-1, 0] + 1e-6 else []
    return np.array([*first, *wet.tolist(), *last])


def _largest(sections: Array) -> float:
    """The largest section: of the stations, or between them by a parabola through the largest three."""
    k = int(np.argmax(sections[:, 1]))
    if not 0 < k < len(sections) - 1:
        return float(sections[k, 1])
    near = sections[k - 1 : k + 2]
    a, b, c = np.polyfit(near[:, 0] - near[1, 0], near[:, 1], 2)
    return float(c - b * b / (4 * a)) if a < 0 else float(near[1, 1])


def simpson_volume(sections: Array) -> float | None:
    """Volume (m³) by Simpson's first rule over rows (position mm, area m²); None unless they stand evenly,
    an odd number of them."""
    steps = np.diff(sections[:, 0])
    if len(sections) < 3 or len(sections) % 2 == 0 or np.ptp(steps) > 1e-6 * steps.max():
        return None
    area = sections[:, 1]
    total = area[0] + area[-1] + 4 * area[1:-1:2].sum() + 2 * area[2:-1:2].sum()
    return float(total * steps[0] / 3 * 1e-3)
