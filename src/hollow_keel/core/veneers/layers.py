"""Layers of veneer over a hull, each on its own surface: as deep under the outside as what lies over it is thick."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..hull.reach import off_boat
from ..job import Layer, VeneerSettings
from ..planking.covering import surface_area
from ..planking.edges import hull_end_names, limit_name
from ..rules import FLATTEN_STRAIN
from ..settings.veneer_choices import AngleFrom
from .beyond import Beyond, Past, past_of, straight_carried_on, straightened
from .faces import Face, faces_between
from .layer_plan import LayerPlan
from .layer_remarks import layer_findings
from .seams import Setting, seams_over, set_off, sizes_of
from .veneer import Laid, Veneer, veneers_between

MOST_VENEERS = 1000
"""A layer of more is not worked out: no boat has so many."""
MIDDLE = 0.5
"""The first veneers begin half-way up the girth."""
WITHIN = (0.02, 0.98)
"""And stay so far inside the surface, in its parameters, however they are moved."""


def plan_layers(hull: Hull, settings: VeneerSettings, tick: Callable[[float], None] = lambda _: None) -> tuple[LayerPlan, ...]:
    """All layers of a hull, from the form outward. `tick` is told a share and may raise."""
    count, panels = len(settings.layers), _panels(hull, settings)
    return tuple(_planned(hull, panels, settings, k + 1, _part(tick, k, count)) for k in range(count))


def plan_layer(hull: Hull, settings: VeneerSettings, number: int, tick: Callable[[float], None] = lambda _: None) -> LayerPlan:
    """One layer of a hull, by its number from 1 at the form; as deep as what lies over it is thick."""
    return _planned(hull, _panels(hull, settings), settings, number, tick)


def _panels(hull: Hull, settings: VeneerSettings) -> list[tuple[TensorSurface, Past]]:
    """What all layers have in common: each panel's outside, and how far they go on past it."""
    pasts = [past_of(hull, settings, panel is hull.panels[-1]) for panel in hull.panels]
    return [
        (straightened(panel.surface, past.bow_stem, past.stern_stem), past) for panel, past in zip(hull.panels, pasts, strict=True)
    ]


def _part(tick: Callable[[float], None], k: int, of: int) -> Callable[[float], None]:
    return lambda share: tick((k + share) / of)


def _planned(
    hull: Hull, panels: list[tuple[TensorSurface, Past]], settings: VeneerSettings, number: int, tick: Callable[[float], None]
) -> LayerPlan:
    if off := off_boat(hull, settings.master):
        raise ImpossiblePlan(f"{off}. Let the first veneer lie between.")
    layer, over = settings.layers[number - 1], settings.layers[number:]
    depth = sum(other.thickness for other in over) + layer.thickness / 2
    veneers: list[Veneer] = []
    area, trimmed, first = 0.0, 0.0, 0
    bow, stern = hull_end_names(hull)
    trims: list[Array] = []
    for index, (panel, (outside, past)) in enumerate(zip(hull.panels, panels, strict=True)):
        last = index == len(hull.panels) - 1
        beyond = straight_carried_on(outside, depth, past)
        upper = "past the sheer" if last and settings.past_sheer > 0 else limit_name(panel.upper)
        names = (bow, stern, limit_name(panel.lower), upper)
        own, start = laid_on(beyond, layer, settings, index, names, tick)
        first = first or (len(veneers) + start if own else 0)
        veneers += own
        area += surface_area(beyond.surface)
        trimmed += beyond.spread.area(beyond.hull)
        trims += beyond.trims
    beneath = depth + layer.thickness / 2
    veneers = [replace(v, number=k + 1) for k, v in enumerate(veneers)]
    strains = [v.strain / v.width**2 for v in veneers if v.width > 1]
    widest = math.sqrt(FLATTEN_STRAIN / max(strains)) if strains and max(strains) > 0 else math.inf
    surface = beyond.surface
    start_at = _first(surface, layer, settings)
    jet = surface.jet(start_at.place[:1], start_at.place[1:])
    along = (start_at.along[0] * jet.du + start_at.along[1] * jet.dv)[0]
    plan = LayerPlan(
        number,
        layer,
        depth,
        tuple(veneers),
        first,
        area,
        trimmed,
        min(widest, 1e4),
        frozen(jet.point[0]),
        frozen(along / np.linalg.norm(along)),
        tuple(trims),
        (),
    )
    return replace(plan, findings=tuple(layer_findings(hull, plan, beneath)))


def laid_on(
    beyond: Beyond,
    layer: Layer,
    settings: VeneerSettings,
    panel: int,
    names: tuple[str, str, str, str],
    tick: Callable[[float], None],
) -> tuple[list[Veneer], int]:
    """The veneers of one panel from the bow aft, and which of them is laid first, from 1. Raises ImpossiblePlan for more of them
    than anybody lays, and where their seams do not get on over a folded hull."""
    surface = beyond.surface
    about = sum(sizes_of(surface)) / (layer.width + layer.gap)
    if about > MOST_VENEERS:
        raise ImpossiblePlan(
            f"Veneers {mm(layer.width)} wide would need some {about:.0f} a side: choose wider ones, or look at the offsets."
        )
    start = _first(surface, layer, settings)
    seams = seams_over(surface, start, layer.width + layer.gap, lambda: tick(0.5))
    if not seams[0]:
        return [], 0
    back, ahead = faces_between(*seams)
    if _bow_of(surface, ahead) < _bow_of(surface, back):
        back, ahead = ahead, back
    laid = Laid(beyond, layer.gap, panel, names)
    found = veneers_between(laid, back[::-1] + ahead)
    forward, aft = ([v for v in part if v is not None] for part in (found[: len(back)], found[len(back) :]))
    return forward + aft, len(forward) + 1


def _first(surface: TensorSurface, layer: Layer, settings: VeneerSettings) -> Setting:
    """Where the first seam of a layer is set off: at the master place, moved square to its run by what the layer says."""
    u = _station(surface, settings.master)
    angle = _angle(surface, layer, settings)
    start = set_off(surface, u, MIDDLE, angle)
    if layer.shift == 0.0:
        return start
    square = set_off(surface, u, MIDDLE, angle + math.pi / 2).along
    u, v = np.clip(start.place + layer.shift * square, *WITHIN).tolist()
    return set_off(surface, u, v, angle)


def _angle(surface: TensorSurface, layer: Layer, settings: VeneerSettings) -> float:
    """The angle, radians, of a layer from the hull's own run where its first veneer lies. Measured from the keel or from the load
    waterline, those are laid over to that place along the surface's normal."""
    angle = math.radians(layer.degrees)
    if settings.angle_from is AngleFrom.HULL:
        return angle
    u = np.array([_station(surface, settings.master)])
    jet = surface.jet(u, np.array([0.5]))
    normal = jet.normal[0]
    reference = np.array([1.0, 0.0, 0.0])
    if settings.angle_from is AngleFrom.WATERLINE:  # level, on the surface
        reference = np.cross(normal, [0.0, 0.0, 1.0])
        reference = reference * np.sign(reference[0] or 1.0)
    else:
        reference = surface.jet(u, np.array([0.0])).du[0]
    reference = reference - (reference @ normal) * normal
    ahead = jet.du[0] / np.linalg.norm(jet.du[0])
    up = np.cross(normal, ahead)
    up = up * np.sign(up @ jet.dv[0])
    return angle + math.atan2(float(reference @ up), float(reference @ ahead))


def _station(surface: TensorSurface, master: float | None) -> float:
    """The parameter u at which the middle of the girth stands at `master` mm; amidships where it is not told."""
    if master is None:
        return 0.5
    u = np.linspace(0.0, 1.0, 401)
    return float(np.interp(master, surface.points(u, np.full_like(u, 0.5))[:, 0], u))


def _bow_of(surface: TensorSurface, faces: list[Face]) -> float:
    """Where the outermost of some faces lies, mm aft; those of a layer that runs fore and aft go by height, the lowest first."""
    if not faces:
        return math.inf
    place = faces[-1].shape.representative_point()
    x, _, z = surface.points(np.array([place.x]), np.array([place.y]))[0]
    return float(x) + 1e-3 * float(z)
