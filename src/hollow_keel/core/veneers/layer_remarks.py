"""What wants looking at about a layer of veneers."""

from __future__ import annotations

import math

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import lengths
from ..geometry.surface_line import components, second_form
from ..hull.build import Hull
from ..job import Layer
from ..planking.mechanics import named_ranges
from ..rules import FLATTEN_STRAIN, FOLDS_AT, MOST_LOST, MOST_OPEN_SHARE, OVER_WIDTH, WITH_CLAMPS
from ..settings.woods import wood_of
from ..words import counted, verb
from .flatten import WORST_MM
from .layer_plan import LayerPlan
from .veneer import Veneer, misfit

MISFIT, SCRAP_MM2 = 0.01, 1e4
"""A flat shape that is larger or smaller than the veneer on the hull by a larger share is not to be cut from; scraps are not told
of."""
TIGHT_PLACES = 41
OFF_MM = 2.0
"""Nor one that is farther off somewhere when it is laid on again."""
PAGE = "veneers"


def layer_findings(hull: Hull, plan: LayerPlan, beneath: float) -> list[Finding]:
    """What wants looking at about a layer that lies down to `beneath` mm under the outside of a hull."""
    where = f"layer {plan.number}"
    said = (_thin(plan), _open(plan), _taken_off(plan), _puckers(plan), _stiff(plan), _wide(plan), _spiled(plan))
    found = [Finding(kind, weight, PAGE, where, text) for kind, weight, text in filter(None, said)]
    return found + _of_hull(hull, plan, beneath)


def _of_hull(hull: Hull, plan: LayerPlan, beneath: float) -> list[Finding]:
    """What the hull asks of a layer that lies down to `beneath` mm under its outside."""
    where = f"layer {plan.number}"
    found = []
    tightest, place = _tightest(hull)
    if tightest * beneath > FOLDS_AT:
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
        across = jet.dv / lengths(jet.dv)[:, None]
        way = components(jet, across)
        round_out = -second_form(jet, normal, way, way)
        k = int(np.argmax(round_out))
        best = max(best, (float(round_out[k]), float(jet.point[k, 0])))
    return best


def puckers(veneer: Veneer) -> bool:
    """Whether a veneer will not lie down flat."""
    return veneer.strain > FLATTEN_STRAIN


def is_stiff(veneer: Veneer, layer: Layer) -> bool:
    """Whether a veneer is bent along its length past what clamps do."""
    return layer.thickness / 2 * veneer.bend > WITH_CLAMPS * wood_of(layer.wood, None, None).breaks


Said = tuple[str, Weight, str] | None


def _thin(plan: LayerPlan) -> Said:
    if plan.veneers:
        return None
    return ("no-veneers", Weight.STOP, "No veneer of this layer lies on the hull: look at where the first one is.")


def _puckers(plan: LayerPlan) -> Said:
    bad = [v for v in plan.veneers if puckers(v)]
    if not bad:
        return None
    worst = max(bad, key=lambda v: v.strain).number
    text = (
        f"{len(bad)} of {len(plan.veneers)} veneers will not lie down without puckering, worst number {worst}: narrower than "
        f"{mm(round(plan.widest))} they do."
    )
    return "puckers", Weight.LOOK, text


def _open(plan: LayerPlan) -> Said:
    gap, width = plan.layer.gap, plan.layer.width
    if gap <= MOST_OPEN_SHARE * width:
        return None
    text = f"{mm(gap)} are left open beside veneers of {mm(width)}: no glue fills that. Lay them closer, or wider ones."
    return "gap-wide", Weight.STOP if gap >= width else Weight.LOOK, text


def _taken_off(plan: LayerPlan) -> Said:
    bad = [v for v in plan.veneers if (misfit(v) > MISFIT or v.off > OFF_MM) and v.area > SCRAP_MM2]
    if not bad:
        return None
    worst = max(v.off for v in bad)
    out = f"it is out by up to {mm(math.ceil(worst))}" if worst < WORST_MM else "how far it is out cannot be said"
    text = (
        f"Veneer {named_ranges([v.number for v in bad])}: the hull turns too sharply there for a flat shape to be right, {out}. "
        "Take the shape off the form."
    )
    return "veneer-misfit", Weight.LOOK, text


def _stiff(plan: LayerPlan) -> Said:
    stiff = max(plan.veneers, key=lambda v: v.bend, default=None)
    if stiff is None or not is_stiff(stiff, plan.layer):
        return None
    breaks = wood_of(plan.layer.wood, None, None).breaks
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
        f"{counted(len(wide), 'veneer')} {verb(len(wide), 'needs', 'need')} "
        f"a piece wider than {mm(plan.layer.width)} at an end, the widest {mm(round(most.width))}, number "
        f"{most.number}: fill that corner with a second piece."
    )
    return "veneer-wide", Weight.INFORMATION, text


def _spiled(plan: LayerPlan) -> Said:
    spiled = [v for v in plan.veneers if v.two_seams and v.least < (1 - MOST_LOST) * v.width]
    if not spiled:
        return None
    text = (
        f"{len(spiled)} of {counted(len(plan.veneers), 'veneer')} {verb(len(spiled), 'loses', 'lose')} "
        f"more than a third of the width somewhere, number "
        f"{min(spiled, key=lambda v: v.least / v.width).number} the most: narrower ones, or another angle, waste less."
    )
    return "spiling", Weight.INFORMATION, text
