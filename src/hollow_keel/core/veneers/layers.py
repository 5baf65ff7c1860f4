"""Layers of veneer over a hull, each on its own surface: as deep under the outside as what lies over it is thick."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..hull.measures import gauss_points
from ..job import Layer, VeneerSettings
from ..planking.edges import hull_end_names, limit_name
from ..rules import WITH_CLAMPS
from ..settings.woods import wood_of
from .faces import Face, faces_between
from .seams import seams_over, set_off
from .spread import Spread
from .veneer import Veneer, misfit, veneer_between

FLATTEN_STRAIN = 0.004
"""A veneer is pressed flat without puckering where that strains its edges by no more (common practice)."""
MOST_LOST = 0.35
"""A veneer that is spiled by a larger share of its width somewhere is told of."""
OVER_WIDTH = 0.02
MISFIT, SCRAP_MM2 = 0.01, 1e4
"""A flat shape that is larger or smaller than the veneer on the hull by a larger share is not to be cut from; scraps are not told
of."""
PAGE = "veneers"
SHEER_POINTS = 121


@dataclass(frozen=True)
class LayerPlan:
    """One layer, from 1 at the form: how it is decided, how deep its middle lies under the outside of the hull, mm; its veneers of
    one side, from the bow aft; which of them is laid first; the area that they cover, one side, mm²; the widest veneer that
    lies flat on it everywhere, mm; the place (3,) where the first one is set off, and the sheer
    (n, 3) as it lies on the layer, mm."""

    number: int
    layer: Layer
    depth: float
    veneers: tuple[Veneer, ...]
    first: int
    area: float
    widest: float
    place: Array
    sheer: Array
    findings: tuple[Finding, ...]

    @property
    def whole(self) -> float:
        """Area of the pieces that its veneers are cut from, one side, mm²."""
        return sum(v.length * v.width for v in self.veneers)

    @property
    def lost(self) -> float:
        """What spiling and ends take of all its pieces, a share."""
        return 1.0 - sum(v.area for v in self.veneers) / self.whole if self.whole > 0 else 0.0


def plan_layers(
    hull: Hull, settings: VeneerSettings, tick: Callable[[float], None] = lambda _: None
) -> tuple[LayerPlan, ...]:
    """All layers of a hull, from the form outward. `tick` is told a share and may raise."""
    layers = settings.layers
    found = []
    for k, layer in enumerate(layers):
        depth = sum(other.thickness for other in layers[k + 1 :]) + layer.thickness / 2
        found.append(_planned(hull, k + 1, layer, depth, settings, _part(tick, k, len(layers))))
    return tuple(found)


def glue_of(plans: Sequence[LayerPlan], settings: VeneerSettings) -> float:
    """Mixed glue between all layers, both sides, grams: under every layer but the first, and under that too where strips are."""
    glued = plans if settings.over_strips else plans[1:]
    return sum(2 * plan.area for plan in glued) / 1e6 * settings.glue_spread


def _part(tick: Callable[[float], None], k: int, of: int) -> Callable[[float], None]:
    return lambda share: tick((k + share) / of)


def _planned(
    hull: Hull, number: int, layer: Layer, depth: float, settings: VeneerSettings, tick: Callable[[float], None]
) -> LayerPlan:  # fmt: skip
    veneers: list[Veneer] = []
    area, first = 0.0, 0
    for index, panel in enumerate(hull.panels):
        last = index == len(hull.panels) - 1
        surface = layer_surface(panel.surface, depth, settings.past_sheer if last else 0.0)
        bow, stern = hull_end_names(hull)
        upper = "past the sheer" if last and settings.past_sheer > 0 else limit_name(panel.upper)
        own, start = laid_on(
            surface, layer, settings.master, index, (bow, stern, limit_name(panel.lower), upper), tick
        )
        first = first or (len(veneers) + start if own else 0)
        veneers += own
        area += surface_area(surface)
    veneers = [replace(v, number=k + 1) for k, v in enumerate(veneers)]
    strains = [v.strain / v.width**2 for v in veneers if v.width > 1]
    widest = math.sqrt(FLATTEN_STRAIN / max(strains)) if strains and max(strains) > 0 else math.inf
    place = frozen(surface.points(np.array([_station(surface, settings.master)]), np.array([0.5]))[0])
    plan = LayerPlan(
        number, layer, depth, tuple(veneers), first, area, min(widest, 1e4), place, _sheer(hull, depth), ()
    )
    return replace(plan, findings=tuple(_findings(plan)))


def _sheer(hull: Hull, depth: float) -> Array:
    u = np.linspace(0.0, 1.0, SHEER_POINTS)
    jet = hull.panels[-1].surface.jet(u, np.ones(SHEER_POINTS))
    return frozen(jet.point - depth * jet.normal)


def layer_surface(surface: TensorSurface, depth: float, past: float) -> TensorSurface:
    """A panel as deep as `depth` mm inside, carried on `past` mm beyond its upper edge, straight."""
    grid = surface.grid
    nu, nv = grid.shape[:2]
    u = np.linspace(0, 1, nu)
    if past > 0:
        size = np.linalg.norm(surface.jet(u, np.ones(nu)).dv, axis=1)
        tops = 1.0 + past / np.maximum(size, 1e-6)
    else:
        tops = np.ones(nu)
    v = np.linspace(0, 1, nv + (3 if past > 0 else 0))[None, :] * tops[:, None]
    every = np.repeat(u[:, None], v.shape[1], axis=1)
    jet = surface.jet(every.ravel(), v.ravel())
    moved: Array = (jet.point - depth * jet.normal).reshape(*v.shape, 3)
    return TensorSurface(moved)


def laid_on(
    surface: TensorSurface, layer: Layer, master: float | None, panel: int, names: tuple[str, str, str, str],
    tick: Callable[[float], None],
) -> tuple[list[Veneer], int]:  # fmt: skip
    """The veneers of one panel from the bow aft, and which of them is laid first, from 1."""
    start = set_off(surface, _station(surface, master), 0.5, math.radians(layer.degrees))
    back, ahead = faces_between(*seams_over(surface, start, layer.width, lambda: tick(0.5)))
    if _bow_of(surface, ahead) < _bow_of(surface, back):
        back, ahead = ahead, back
    spread = Spread(surface)
    made = [
        [veneer_between(surface, spread, face, 0, panel, names) for face in faces] for faces in (back, ahead)
    ]
    forward, aft = ([v for v in run if v is not None] for run in made)
    return forward[::-1] + aft, len(forward) + 1


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


def surface_area(surface: TensorSurface) -> float:
    """Area of one side of a surface, mm², by Gauss' rule in cells."""
    edges_u, edges_v = np.linspace(0, 1, 41), np.linspace(0, 1, 17)
    u, weight_u = gauss_points(edges_u[:-1], edges_u[1:])
    v, weight_v = gauss_points(edges_v[:-1], edges_v[1:])
    a, b = np.meshgrid(u.ravel(), v.ravel(), indexing="ij")
    jet = surface.jet(a.ravel(), b.ravel())
    density = np.linalg.norm(np.cross(jet.du, jet.dv), axis=1).reshape(a.shape)
    return float(weight_u.ravel() @ density @ weight_v.ravel())


def _findings(plan: LayerPlan) -> list[Finding]:
    where = f"layer {plan.number}"
    said = (_thin(plan), _taken_off(plan), _puckers(plan), _stiff(plan), _wide(plan), _spiled(plan))
    return [Finding(kind, weight, PAGE, where, text) for kind, weight, text in filter(None, said)]


Said = tuple[str, Weight, str] | None


def _thin(plan: LayerPlan) -> Said:
    if plan.veneers:
        return None
    return (
        "no-veneers",
        Weight.STOP,
        "No veneer of this layer lies on the hull: look at where the first one is.",
    )


def _puckers(plan: LayerPlan) -> Said:
    puckers = [v for v in plan.veneers if v.strain > FLATTEN_STRAIN]
    if not puckers:
        return None
    worst = max(puckers, key=lambda v: v.strain).number
    text = (
        f"{len(puckers)} of {len(plan.veneers)} veneers will not lie down without puckering, worst number {worst}: narrower than "
        f"{mm(round(plan.widest))} they do."
    )
    return "puckers", Weight.LOOK, text


def _taken_off(plan: LayerPlan) -> Said:
    bad = [str(v.number) for v in plan.veneers if misfit(v) > MISFIT and v.area > SCRAP_MM2]
    if not bad:
        return None
    text = f"Veneer {', '.join(bad)}: the hull turns too sharply there for a flat shape to be right. Take the shape off the form."
    return "veneer-misfit", Weight.LOOK, text


def _stiff(plan: LayerPlan) -> Said:
    wood = wood_of(plan.layer.wood, None, None)
    breaks = wood.strength / (wood.modulus * 1000.0)
    stiff = max(plan.veneers, key=lambda v: v.bend, default=None)
    if stiff is None or plan.layer.thickness / 2 * stiff.bend <= WITH_CLAMPS * breaks:
        return None
    share, thin = plan.layer.thickness / 2 * stiff.bend / breaks, WITH_CLAMPS * breaks * 2 / stiff.bend
    text = (
        f"Veneer {stiff.number} is bent along its length to {share:.0%} of what breaks the wood: {mm(round(thin, 1))} "
        f"thick it lies "
        "down, or run it another way there."
    )
    return "veneer-stiff", Weight.LOOK, text


def _wide(plan: LayerPlan) -> Said:
    wide = [v for v in plan.veneers if v.width > plan.layer.width * (1 + OVER_WIDTH)]
    if not wide:
        return None
    most = max(wide, key=lambda v: v.width)
    text = (
        f"{len(wide)} veneers need a piece wider than {mm(plan.layer.width)} at an end, the widest {mm(round(most.width))}, number "
        f"{most.number}: fill that corner with a second piece."
    )
    return "veneer-wide", Weight.INFORMATION, text


def _spiled(plan: LayerPlan) -> Said:
    spiled = [v for v in plan.veneers if v.least < (1 - MOST_LOST) * v.width]
    if not spiled:
        return None
    text = (
        f"{len(spiled)} of {len(plan.veneers)} veneers lose more than a third of their width somewhere, number "
        f"{min(spiled, key=lambda v: v.least / v.width).number} the most: narrower ones, or another angle, waste less."
    )
    return "spiling", Weight.INFORMATION, text
