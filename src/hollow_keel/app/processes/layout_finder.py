"""Weighs ways of laying a layer of veneers in a process of its own: python -m hollow_keel.app.processes.layout_finder"""

from __future__ import annotations

from typing import Any

from ...core.job import Job
from .beside import Beside, Send, found_one_by_one, serve


class FindLayout(Beside):
    """Ways of laying one layer of a job, sent as ("way", LaidWay), the present one first."""

    def __init__(self, job: Job, layer: int) -> None:
        super().__init__("layout_finder", (job, layer))


def _find(request: Any, tell: Send) -> None:
    from ...core.hull.stages import HULL
    from ...core.pipeline import Pipeline
    from ...core.veneers.find import search

    job, layer = request
    hull = Pipeline().results(job, [HULL])[HULL]
    ways = search(hull, job.veneers, layer, job.units.style.step_mm, job.laying.sheet_width, lambda share: tell("progress", share))
    found_one_by_one(ways, "way", tell)


if __name__ == "__main__":
    serve(_find)
