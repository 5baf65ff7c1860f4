"""What has been cut is kept as it is."""

from __future__ import annotations

from ..job import Job
from ..settings.timber import StockSettings
from .bought import bought
from .plan import StockPlan


def cut_up_to(stock: StockSettings, plan: StockPlan, strip: int) -> StockSettings:
    """The settings once every strip up to a number is cut as planned, after those that were cut before; boards to buy that pieces
    come from are on hand then."""
    if plan.plan is None:
        return stock
    fresh = [m for m in plan.plan.made if m.need.strip <= strip]
    boards = {p.sawn.rpartition(".")[0] for m in fresh for p in m.pieces}
    used = [lot for lot in plan.lots if lot.bought and boards.intersection(lot.boards)]
    cut = (*plan.plan.stays, *(m.as_cut() for m in fresh))
    return bought(stock, used).model_copy(update={"cut": cut})


def laid_but_not_cut(job: Job) -> int:
    """The last strip that is on the hull, if pieces up to there are not all marked as cut; otherwise 0."""
    laid = job.planked.strips if job.planked is not None else 0
    cut = {made.strip for made in job.stock.cut}
    return laid if any(strip not in cut for strip in range(1, laid + 1)) else 0
