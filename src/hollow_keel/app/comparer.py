"""Weighs ways of planking in a process of its own: python -m hollow_keel.app.comparer"""

from __future__ import annotations

from typing import Any

from ..core.job import Job, StripSettings
from .beside import Beside, Send, found_one_by_one, serve


class CompareRun(Beside):
    """Plans weighed one by one, sent as ("plan", PlanSummary): those given, or where there are none all that are worth a try."""

    def __init__(self, job: Job, plans: tuple[StripSettings, ...]) -> None:
        super().__init__("comparer", (job, plans))


def _compare(request: Any, tell: Send) -> None:
    from ..core.pipeline import Pipeline
    from ..core.planking.compare import search, weigh

    job, plans = request
    shape = Pipeline().shape(job)
    stations = [m.station for m in shape.molds.molds]
    if plans:
        for k, settings in enumerate(plans):
            tell("plan", weigh(shape.hull, settings, stations))
            tell("progress", (k + 1) / len(plans))
        return
    found_one_by_one(
        search(
            shape.hull, job.strips, stations, job.units.style.step_mm, lambda share: tell("progress", share)
        ),
        "plan",
        tell,
    )


if __name__ == "__main__":
    serve(_compare)
