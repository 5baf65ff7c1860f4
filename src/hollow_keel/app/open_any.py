"""Opening what a builder has: a job file or a table of offsets."""

from __future__ import annotations

from pathlib import Path

from ..core.errors import InputError
from ..core.job import Job
from ..core.offsets.table import read_lines
from ..files.job_file import BACKUP, SUFFIX, load_job
from ..files.offsets_csv import OffsetsFile, read_offsets_csv
from ..files.offsets_json import parse_offsets_json
from ..files.text_table import read_text


def open_job(path: Path) -> Job:
    """A job from a job file or its backup, or a new one from a table of offsets. Raises InputError."""
    if is_job_file(path) or path.name.lower().endswith(SUFFIX + BACKUP):
        return load_job(path)
    return job_from_offsets(path)


def is_job_file(path: Path) -> bool:
    """Whether what is opened from here is saved here again; a backup and a table of offsets are not written over."""
    return path.suffix.lower() == SUFFIX


def job_from_offsets(path: Path) -> Job:
    """A new job around the table in a CSV or JSON file; the table's order is checked. Raises InputError."""
    given = _read_json(path) if path.suffix.lower() == ".json" else read_offsets_csv(path)
    read_lines(given.table)
    return Job(name=given.name or path.stem, offsets=given.table, waterline=given.waterline)


def _read_json(path: Path) -> OffsetsFile:
    try:
        return parse_offsets_json(read_text(path))
    except InputError as error:
        raise error.at(path.name) from None
