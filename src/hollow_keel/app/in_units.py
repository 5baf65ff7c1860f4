"""A job whose lengths are shown, and whose bare numbers are read, in another unit."""

from __future__ import annotations

from ..core.change import change
from ..core.inch_sizes import with_sizes_of
from ..core.job import Job
from ..core.settings.units import UnitSettings
from .typed import sheet_in


def job_in_units(job: Job, units: UnitSettings) -> Job:
    """The job in these units. Where there are no offsets yet, sizes that nobody has given become those that are usual in them. A
    table that is being typed in the job's own unit follows: its headings are in the other one, and nothing typed means anything
    else."""
    changed = change(job, "", units=units)
    if not job.offsets.rows:
        changed = with_sizes_of(changed, job.units)
    if job.typed is not None:
        changed = change(changed, "", typed=sheet_in(job.typed, job.units.unit, units.unit))
    return changed
