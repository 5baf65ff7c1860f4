"""Layers of veneer over a hull, each on its own surface: as deep under the outside as what lies over it is thick."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import components, second_form
from ..hull.build import Hull
from ..hull.measures import gauss_points
from ..job import Layer, VeneerSettings
from ..planking.edges import hull_end_names, limit_name
from ..planking.mechanics import named_ranges
from ..rules import WITH_CLAMPS
from ..settings.veneer_choices import AngleFrom
from ..settings.woods import wood_of
from .beyond import Beyond, carried_on, past_of
from .faces import Face, faces_between
from .flatten import WORST_MM
from .seams import Setting, seams_over, set_off
from .spread import Spread
from .veneer import Laid, Veneer, misfit, veneers_between

FLATTEN_STRAIN = 0.004
"""A veneer is pressed flat without puckering where that strains its edges by no more (common practice)."""
MOST_LOST = 0.35
"""A veneer that is spiled by a larger share of its width somewhere is told of."""
OVER_WIDTH = 0.02
MISFIT, SCRAP_MM2 = 0.01, 1e4
"""A flat shape that is larger or smaller than the veneer on the hull by a larger share is not to be cut from; scraps are not told
of."""
MOST_OPEN = 0.1
"""A larger share of a veneer's width left open beside it is a slip (common practice: a millimetre or two)."""
FOLDS = 0.5
"""Layers whose depth is more than such a share of the radius that they are bent round do not lie down on each other (common
practice)."""
TIGHT_PLACES = 41
OFF_MM = 2.0
"""Nor one that is farther off somewhere when it is laid on again."""
PAGE = "veneers"
MIDDLE = 0.5
"""The first veneers begin half-way up the girth."""
WITHIN = (0.02, 0.98)
"""And stay so far inside the surface, in its parameters, however they are moved."""


@dataclass(frozen=True)
class LayerPlan:
    """One layer, from 1 at the form: how it is decided, how deep its middle lies under the outside of the hull, mm; its veneers of
    one side, from the bow aft; which of them is laid first; the area that they cover, one side, and what of it lies on the hull
    once that is trimmed, mm²; the widest veneer that lies flat on it everywhere, mm; the place (3,) where the first one is set off
    and the unit direction (3,) along it, and the lines (n, 3) that the hull is trimmed to, as they lie on the layer, mm."""

    number: int
    layer: Layer
    depth: float
    veneers: tuple[Veneer, ...]
    first: int
    area: float
    trimmed: float
    widest: float
    place: Array
    along: Array
    trims: tuple[Array, ...]
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
    count = len(settings.layers)
    return tuple(plan_layer(hull, settings, k + 1, _part(tick, k, count)) for k in range(count))


def plan_layer(
    hull: Hull, settings: VeneerSettings, number: int, tick: Callable[[float], None] = lambda _: None
) -> LayerPlan:
    """One layer of a hull, by its number from 1 at the form; as deep as what lies over it is thick."""
    layer, over = settings.layers[number - 1], settings.layers[number:]
    depth = sum(other.thickness for other in over) + layer.thickness / 2
    return _planned(hull, number, layer, depth, settings, tick)


def _part(tick: Callable[[float], None], k: int, of: int) -> Callable[[float], None]:
    return lambda share: tick((k + share) / of)


def _planned(
    hull: Hull, number: int, layer: Layer, depth: float, settings: VeneerSettings, tick: Callable[[float], None]
) -> LayerPlan:  # fmt: skip
    veneers: list[Veneer] = []
    area, trimmed, first = 0.0, 0.0, 0
    bow, stern = hull_end_names(hull)
    trims: list[Array] = []
    for index, panel in enumerate(hull.panels):
        last = index == len(hull.panels) - 1
        beyond = carried_on(panel.surface, depth, past_of(hull, settings, last))
        upper = "past the sheer" if last and settings.past_sheer > 0 else limit_name(panel.upper)
        names = (bow, stern, limit_name(panel.lower), upper)
        own, start = laid_on(beyond, layer, settings, index, names, tick)
        first = first or (len(veneers) + start if own else 0)
        veneers += own
        area += surface_area(beyond.surface)
        trimmed += Spread(beyond.surface).area(beyond.hull)
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
        number, layer, depth, tuple(veneers), first, area, trimmed, min(widest, 1e4), frozen(jet.point[0]),
        frozen(along / np.linalg.norm(along)), tuple(trims), (),
    )  # fmt: skip
    return replace(plan, findings=(*_findings(plan), *_of_hull(hull, plan, beneath)))


def laid_on(
    beyond: Beyond, layer: Layer, settings: VeneerSettings, panel: int, names: tuple[str, str, str, str],
    tick: Callable[[float], None],
) -> tuple[list[Veneer], int]:  # fmt: skip
    """The veneers of one panel from the bow aft, and which of them is laid first, from 1."""
    surface = beyond.surface
    start = _first(surface, layer, settings)
    seams = seams_over(surface, start, layer.width + layer.gap, lambda: tick(0.5))
    if not seams[0]:
        return [], 0
    back, ahead = faces_between(*seams)
    if _bow_of(surface, ahead) < _bow_of(surface, back):
        back, ahead = ahead, back
    laid = Laid(beyond, Spread(surface), layer.gap, panel, names)
    forward, aft = veneers_between(laid, back), veneers_between(laid, ahead)
    return forward[::-1] + aft, len(forward) + 1


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
    said = (
        _thin(plan),
        _open(plan),
        _taken_off(plan),
        _puckers(plan),
        _stiff(plan),
        _wide(plan),
        _spiled(plan),
    )
    return [Finding(kind, weight, PAGE, where, text) for kind, weight, text in filter(None, said)]


def _of_hull(hull: Hull, plan: LayerPlan, beneath: float) -> list[Finding]:
    """What the hull asks of a layer that lies down to `beneath` mm under its outside."""
    where = f"layer {plan.number}"
    found = []
    tightest, place = _tightest(hull)
    if tightest * beneath > FOLDS:
        text = (
            f"All layers come to {mm(beneath)}, and near position {mm(round(place))} the hull is round to a radius of "
            f"{mm(round(1 / tightest))}: they cannot be bent so sharply one inside the other. Thinner layers, or build that corner "
            "up."
        )
        found.append(Finding("layers-fold", Weight.LOOK, PAGE, where, text))
    if len(hull.panels) > 1:
        over, under = ("lower", "upper") if plan.number % 2 else ("upper", "lower")
        text = (
            f"At the knuckle let the {over} panel's veneers of this layer run over the edge of the {under} one's and trim them "
            "there; the next layer the other way round, so that no joint lies over a joint."
        )
        found.append(Finding("knuckle-joint", Weight.INFORMATION, PAGE, where, text))
    return found


def _tightest(hull: Hull) -> tuple[float, float]:
    """The greatest curvature of a hull across its frames, round to the outside, 1/mm, and where it is, mm along."""
    even = np.linspace(0.02, 0.98, TIGHT_PLACES)
    u, v = (axis.ravel() for axis in np.meshgrid(even, even, indexing="ij"))
    best = (0.0, 0.0)
    for panel in hull.panels:
        jet = panel.surface.jet(u, v)
        normal = jet.normal
        across = jet.dv / np.linalg.norm(jet.dv, axis=1, keepdims=True)
        way = components(jet, across)
        round_out = -second_form(jet, normal, way, way)
        k = int(np.argmax(round_out))
        best = max(best, (float(round_out[k]), float(jet.point[k, 0])))
    return best


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


def _open(plan: LayerPlan) -> Said:
    gap, width = plan.layer.gap, plan.layer.width
    if gap <= MOST_OPEN * width:
        return None
    text = f"{mm(gap)} are left open beside veneers of {mm(width)}: no glue fills that. Lay them closer, or wider ones."
    return "gap-wide", Weight.STOP if gap >= width else Weight.LOOK, text


def _taken_off(plan: LayerPlan) -> Said:
    bad = [v for v in plan.veneers if (misfit(v) > MISFIT or v.off > OFF_MM) and v.area > SCRAP_MM2]
    if not bad:
        return None
    worst = max(v.off for v in bad)
    out = (
        f"it is out by up to {mm(math.ceil(worst))}"
        if worst < WORST_MM
        else "how far it is out cannot be said"
    )
    text = (
        f"Veneer {named_ranges([v.number for v in bad])}: the hull turns too sharply there for a flat shape to be right, {out}. "
        "Take the shape off the form."
    )
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
