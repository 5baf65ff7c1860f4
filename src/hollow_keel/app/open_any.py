"""Opening what a builder has: a job file or a table of offsets."""

from __future__ import annotations

from pathlib import Path

from ..core.job import Job
from ..core.offsets.table import read_lines
from ..files.job_file import SUFFIX, load_job
from ..files.offsets_csv import read_offsets_csv


def open_job(path: Path) -> Job:
    """A job from a .hkeel file, or a new one from an offsets CSV. Raises InputError."""
    if path.suffix.lower() == SUFFIX:
        return load_job(path)
    return job_from_offsets(path)


def job_from_offsets(path: Path) -> Job:
    """A new job around the table in a CSV; the table's order is checked. Raises InputError."""
    given = read_offsets_csv(path)
    read_lines(given.table)
    return Job(name=given.name or path.stem, offsets=given.table, waterline=given.waterline)
