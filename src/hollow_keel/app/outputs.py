"""What an output may not be written over: what it is made from, and a job."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from ..core.errors import InputError
from ..files.store.atomic import is_same_file
from ..files.store.job_file import BACKUP, FORMAT, SUFFIX

HEAD = 400
"""A job file says what it is within so many bytes."""


def refuse_over(out: Path, made_from: Iterable[Path], *, force: bool = False) -> None:
    """Raises InputError where an output would be written over what it is made from, or over a job that nobody said to give up."""
    for source in made_from:
        if is_same_file(out, source):
            raise InputError("the output is the file that it is made from", str(out), mend="Give it another name.")
    if not force and _is_job(out):
        raise InputError("a job is kept there", str(out), mend="Give another name; on the command line --force writes over it.")


def _is_job(path: Path) -> bool:
    try:
        if not path.is_file():
            return False
        if path.name.lower().endswith((SUFFIX, SUFFIX + BACKUP)):
            return True
        with path.open("rb") as file:
            return f'"format": "{FORMAT}"'.encode() in file.read(HEAD)
    except OSError:
        return False
