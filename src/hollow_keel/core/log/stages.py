"""The log of the work."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..deck.strip_stages import DECK_PLAN
from ..hull.stages import MEASURES
from ..molds.stages import MOLDS
from ..planking.stages import PLANKING
from ..settings.log import LogSettings, logged
from ..settings.trim import railed, trimmed
from ..settings.veneers import strip_planked, veneered
from ..stage import Given, Stage, Turn, fields_of
from ..trim.stages import RAILS, SHEER
from ..veneers.stages import LAYERS, LAYING

if TYPE_CHECKING:
    from .plan_of_work import WorkPlan

OF_TWO = 2.0
"""Hours of layers are told for two people."""


def _work(given: Given) -> WorkPlan:
    from .plan_of_work import plan_work
    from .tasks import Amounts

    job = given.job
    layers, laying = (given[LAYERS], given[LAYING]) if veneered(job) else ((), None)
    planking = given[PLANKING] if strip_planked(job) else None
    rails, sheer = (given[RAILS] if railed(job) else None), (given[SHEER] if trimmed(job) else None)
    deck, used = given[DECK_PLAN], job.stock.used_up
    amounts = Amounts(
        len(given[MOLDS].molds), len(planking.strips) if planking is not None else 0,
        2 * sum(len(layer.veneers) for layer in layers),
        OF_TWO * sum(layer.hours for layer in laying.layers) if laying is not None else 0.0, given[MEASURES].planked_area,
        bool(used.cloth_out or used.cloth_in), 2 * len(sheer.marks) if sheer is not None else 0,
        2 * sum(rail.length for rail in rails.rails) / 1000.0 if rails is not None else 0.0,
        len(deck.planking.strips) if deck is not None else 0,
    )  # fmt: skip
    return plan_work(amounts, planking, job)


WORK = Stage(
    "work", "log", "the log",
    (
        *fields_of(LogSettings, "log", but=("wanted",)), "planked", "strips.minutes", "strips.thickness",
        "stock.used_up.temperature", "stock.used_up.pot_life", "stock.used_up.glue_line", "stock.used_up.glue_waste",
        "stock.used_up.cloth_out", "stock.used_up.cloth_in", "veneers.layers", "veneers.over_strips", "trim.rails",
    ),
    (MOLDS, PLANKING, LAYERS, LAYING, MEASURES, SHEER, RAILS, DECK_PLAN), _work, lambda work: work.findings, Turn.WOOD,
    when=logged,
)  # fmt: skip

STAGES = (WORK,)
