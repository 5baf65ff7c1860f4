"""Tells which choices cannot be laid, in a process of its own: python -m hollow_keel.app.processes.possible"""

from __future__ import annotations

from typing import Any

from ...core.job import Job
from .beside import Beside, Send, found_one_by_one, serve


class PossibleRun(Beside):
    """The choices of a setting of the strips that cannot be laid, sent one by one as ("cannot", (choice, why))."""

    def __init__(self, job: Job, path: str) -> None:
        super().__init__("possible", (job, path))


def _possible(request: Any, tell: Send) -> None:
    from ...core.pipeline import Pipeline
    from ...core.planking.possible import refusals
    from ...core.planking.stages import STRIP_HULL

    job, path = request
    found_one_by_one(refusals(Pipeline().value(job, STRIP_HULL), job, path), "cannot", tell)


if __name__ == "__main__":
    serve(_possible)
