"""All that the log comes to for one job: what there is to do, how far it is, the sums, and when it will be done."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ..amounts import Amounts as Measures
from ..findings import Finding
from ..job import Job
from ..planking.strips import Planking
from ..rules import GLUE_KG_PER_L, MORE_HANDS, WARMER_C
from ..settings.log import Held, LogSettings
from ..stock.used_up import seam_glue
from .forecast import Forecast, forecast
from .rates import Rates, rates_of
from .sums import Sums, sums_of
from .tasks import Amounts, Piece, pieces_of
from .wanted import Wanted, wanted


@dataclass(frozen=True)
class WhatIf:
    """What would be otherwise, in words, and the forecast then."""

    name: str
    forecast: Forecast


@dataclass(frozen=True)
class WorkPlan:
    """The tasks in working order, the crew's rates, when each is done, the same if something were otherwise, what the log tells,
    and what areas are told in."""

    pieces: tuple[Piece, ...]
    rates: Rates
    forecast: Forecast
    what_if: tuple[WhatIf, ...]
    sums: Sums
    wanted: tuple[Wanted, ...]
    told_in: Measures = Measures.METRIC

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What wants looking at in the log."""
        return self.sums.findings


def plan_work(amounts: Amounts, planking: Planking | None, job: Job, wider: int | None = None) -> WorkPlan:
    """The plan of work. Reads the job's log, how far it is planked, its strips' minutes, glue line and waste, and the shed's
    temperature. `wider` is how many strips a side there are if they are wider (None: not known)."""
    pieces = pieces_of(amounts, job)
    rates = rates_of(pieces)
    grams, when = _grams(planking, job), forecast(pieces, rates, job.log)
    metres = planking.total_length / len(planking.strips) / 1000.0 if planking is not None and planking.strips else 0.0
    return WorkPlan(
        pieces,
        rates,
        when,
        tuple(_what_if(amounts, rates, job, wider)),
        sums_of(job, grams, amounts.strips),
        wanted(pieces, amounts, grams, metres, when, job),
        job.units.told_in,
    )


def _grams(planking: Planking | None, job: Job) -> float | None:
    """Glue for a strip on both sides by the plan, g; None where there are no strips."""
    if planking is None or not planking.strips:
        return None
    each = planking.total_length / len(planking.strips)
    return seam_glue(each, job.strips.thickness, job.stock.used_up) * GLUE_KG_PER_L


def _what_if(amounts: Amounts, rates: Rates, job: Job, wider: int | None) -> list[WhatIf]:
    """The forecast with more hands, with strips held otherwise, with joints made the day before, in a warmer shed, with wider
    strips."""
    own, used = job.log, job.stock.used_up
    found: list[tuple[str, Job, LogSettings, Amounts]] = [
        (f"{MORE_HANDS} more hands", job, own.model_copy(update={"people": own.people + MORE_HANDS}), amounts)
    ]
    if amounts.strips:
        if own.held is Held.CLAMPS:
            screws = own.model_copy(update={"held": Held.SCREWS, "a_day": None})
            found.append(("edge screws instead of clamps", job, screws, amounts))
        quicker = job.strips.model_copy(update={"minutes": job.strips.minutes * (1 - own.ahead / 100)})
        found.append(("joints made the day before", job.model_copy(update={"strips": quicker}), own, amounts))
        if wider is not None:
            left = replace(amounts, strips=_as_wide(amounts.strips, wider, job))
            found.append((f"strips a quarter wider: {wider} a side in all", job, own, left))
    warmer = used.model_copy(update={"temperature": used.temperature + WARMER_C})
    warm = job.model_copy(update={"stock": job.stock.model_copy(update={"used_up": warmer})})
    found.append(("a shed ten degrees warmer", warm, own, amounts))
    return [WhatIf(name, forecast(pieces_of(own_amounts, other), rates, log)) for name, other, log, own_amounts in found]


def _as_wide(strips: int, wider: int, job: Job) -> int:
    """How many strips there are, those that are on and the rest of wider ones."""
    done = min(job.planked.strips if job.planked is not None else 0, strips)
    return done + math.ceil((strips - done) * wider / strips)
