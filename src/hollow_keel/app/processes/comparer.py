"""Weighs ways of planking in a process of its own: python -m hollow_keel.app.processes.comparer"""

from __future__ import annotations

from typing import Any

from ...core.job import Job, StripSettings
from .beside import Beside, Send, serve

MOST = 6
"""How many ways stand side by side, with the present one."""


class CompareRun(Beside):
    """Plans weighed one by one, sent as ("plan", PlanSummary): those given, or where there are none all that are worth a try. Those
    given, or the best that were found, follow as ("picture", Pictured)."""

    def __init__(self, job: Job, plans: tuple[StripSettings, ...]) -> None:
        super().__init__("comparer", (job, plans))


def _compare(request: Any, tell: Send) -> None:
    from ...core.pipeline import Pipeline
    from ...core.planking.compare import search, weigh
    from ...core.planking.courses import Fields
    from ...core.planking.plank import laying_of, plank
    from ...core.planking.stages import STRIP_HULL
    from ...drawing.planking.pictures import pictured

    job, plans = request
    pipeline = Pipeline()
    shape, hull = pipeline.shape(job), pipeline.value(job, STRIP_HULL)
    stations = [m.station for m in shape.molds.molds]
    fields = Fields()
    found = []
    if plans:
        for k, settings in enumerate(plans):
            found.append(weigh(hull, settings, stations, fields=fields))
            tell("plan", found[-1])
            tell("progress", (k + 1) / len(plans))
    else:
        step = job.units.style.step_mm
        for plan in search(hull, job.strips, stations, step, lambda share: tell("progress", share), fields):
            found.append(plan)
            tell("plan", plan)
        found = sorted(found, key=lambda p: p.order)[:MOST]
    for plan in found:
        if not plan.refused:
            planking = plank(hull, laying_of(plan.settings), fields=fields)
            tell("picture", pictured(shape, plan.settings, planking, job.units.style))


if __name__ == "__main__":
    serve(_compare)
