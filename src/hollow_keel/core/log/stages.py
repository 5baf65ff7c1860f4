"""The log of the work."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..deck.strip_stages import DECK_PLAN
from ..errors import ImpossiblePlan
from ..hull.stages import HULL, MEASURES
from ..molds.stages import MOLDS
from ..planking.stages import LAYING as LAID
from ..planking.stages import PLANKING
from ..settings.log import LogSettings, logged
from ..settings.sheer import railed, trimmed
from ..settings.veneers import strip_planked, veneered
from ..sheer.stages import RAILS, SHEER
from ..stage import Given, Stage, Turn, fields_of
from ..stock.stages import STOCK
from ..veneers.stages import LAYERS, LAYING

if TYPE_CHECKING:
    from .plan_of_work import WorkPlan
    from .waste import Waste

WIDER_BY = 1.25
"""Strips so many times as wide are put beside those of the plan."""
OF_TWO = 2.0
"""Hours of layers are told for two people."""


def _wider(given: Given) -> int | None:
    """How many strips a side there are if they are wider; None where they cannot be laid so."""
    from ..planking.plank import laying_of, plank

    strips = given.job.strips
    wider = strips.model_copy(update={"width": WIDER_BY * strips.width})
    try:
        return len(plank(given[HULL], laying_of(wider), tick=given.tick).strips)
    except ImpossiblePlan:
        return None


def _work(given: Given) -> WorkPlan:
    from .plan_of_work import plan_work
    from .tasks import Amounts

    job = given.job
    layers, laying = (given[LAYERS], given[LAYING]) if veneered(job) else ((), None)
    planking = given[PLANKING] if strip_planked(job) else None
    rails, sheer = (given[RAILS] if railed(job) else None), (given[SHEER] if trimmed(job) else None)
    deck, used = given[DECK_PLAN], job.stock.used_up
    amounts = Amounts(
        len(given[MOLDS].molds),
        len(planking.strips) if planking is not None else 0,
        2 * sum(len(layer.veneers) for layer in layers),
        OF_TWO * sum(layer.hours for layer in laying.layers) if laying is not None else 0.0,
        given[MEASURES].planked_area,
        bool(used.cloth_out or used.cloth_in),
        2 * len(sheer.marks) if sheer is not None else 0,
        2 * sum(rail.length for rail in rails.rails) / 1000.0 if rails is not None else 0.0,
        len(deck.planking.strips) if deck is not None else 0,
        tuple(m.station for m in given[MOLDS].molds),
    )
    return plan_work(amounts, planking, job, given[WIDER] if planking is not None else None)


def _waste(given: Given) -> Waste:
    from .waste import waste_of

    plan = given[STOCK].plan
    return waste_of(given.job.log, given[PLANKING], plan.waste if plan is not None and plan.used else None)


WIDER = Stage(
    "wider-strips",
    "log",
    "wider strips",
    (*LAID, "strips.width"),
    (HULL,),
    _wider,
    turn=Turn.WOOD,
    shown=False,
    when=lambda job: logged(job) and strip_planked(job) and job.log.wider,
)
WORK = Stage(
    "work",
    "log",
    "the log",
    (
        *fields_of(LogSettings, "log", but=("wanted",)),
        "planked",
        "strips.minutes",
        "strips.thickness",
        "stock.used_up.temperature",
        "stock.used_up.pot_life",
        "stock.used_up.glue_line",
        "stock.used_up.glue_waste",
        "stock.used_up.cloth_out",
        "stock.used_up.cloth_in",
        "stock.used_up.overlap",
        "stock.used_up.resin_ratio",
        "units.unit",
        "units.amounts",
        "veneers.layers",
        "veneers.over_strips",
        "trim.rails",
        "trim.wanted",
    ),
    (MOLDS, PLANKING, LAYERS, LAYING, MEASURES, SHEER, RAILS, DECK_PLAN, WIDER),
    _work,
    lambda work: work.findings,
    Turn.WOOD,
    when=logged,
)

WASTE = Stage(
    "waste",
    "log",
    "waste against the plan",
    ("log.entries",),
    (PLANKING, STOCK),
    _waste,
    lambda waste: waste.findings,
    Turn.WOOD,
    when=lambda job: logged(job) and strip_planked(job),
)

STAGES = (WIDER, WORK, WASTE)
