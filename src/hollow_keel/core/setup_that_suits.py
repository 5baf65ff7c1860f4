"""A set-up that suits the hull at hand where the builder has chosen none: a beam that all molds can carry, or another one."""

from __future__ import annotations

from .change import change
from .findings import Weight
from .job import Job, SetupSettings
from .molds.cut_stages import PIECES
from .pipeline import Pipeline
from .settings.setup_choices import Strongback
from .setup.stages import SETUP
from .stage import Failed
from .stages import findings_of
from .units import format_length

MOST_ROWS = 1500
"""A larger table is not tried while the window waits."""
BEAMS_MM = (90.0, 70.0, 60.0, 50.0)
"""Sides of square beams that are tried, the stiffest first: common practice, no source."""


def suited(job: Job) -> tuple[Job, str]:
    """The job with such a set-up, and what was chosen, in words; as it is and nothing where the builder has chosen one, where there
    is nothing to choose or too much to try it at once, or where none suits."""
    if job.setup != SetupSettings() or len(job.offsets.rows) > MOST_ROWS:
        return job, ""
    pipeline = Pipeline()
    for own, words in _tries(job):
        run = pipeline.run(own)
        values = {stage.id: run.attempt(stage) for stage in (SETUP, PIECES)}
        if any(isinstance(value.value, Failed) for value in values.values()):
            continue
        if not any(finding.weight is Weight.STOP for finding in findings_of(values)):
            return own, words
    return job, ""


def _tries(job: Job) -> list[tuple[Job, str]]:
    style = job.units.style
    tries = []
    for side in BEAMS_MM:
        size = format_length(side, style, unit=True)
        words = "" if side == BEAMS_MM[0] else f"The molds are set on a beam {size} square: a thicker one breaks out of them."
        tries.append((change(job, "setup", beam_width=side, beam_height=side), words))
    on_table = "The molds are set on a table: a beam through all of them would break out of some."
    return [*tries, (change(job, "setup", strongback=Strongback.TABLE), on_table)]
