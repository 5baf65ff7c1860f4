"""The job file: one readable, versioned JSON document (.hkeel), written atomically with a backup kept."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ... import __version__
from ...core.errors import InputError
from ...core.job import Job
from ...core.refusal import refusal
from .atomic import mode_of, write_atomic
from .earlier_jobs import as_now, brought_up
from .plain_json import read_json

FORMAT = "hollow-keel-job"
VERSION = 11
"""2: texts as written, notes and the designer's own lines in the table of offsets. 3: pieces, set-ups and surveys, guides, layouts
and what is planked. 4: boards, joints and what is cut, days of planking, how the bottom closes. 5: readings of what is left
stay with the strips that were on, how the rest is laid. 6: a deck, notches for stringers, layers of veneer. 7: the form under the
layers: strapping under them was typed with the molds before, and is read as ribbands. 8: what is fitted to the sheer and the ends,
and the log. 9: what molds take off without their layers, the places that arcs and heights were read at.
10: stringers are set once, inside the hull, and molds are notched for them where they lie; the places that molds were measured and
ticked off at; strips of a deck that differ, and how many come from its sheer. Files of earlier versions read as they
are otherwise. A test holds what a job can hold, and fails until this number is raised."""
SUFFIX = ".hkeel"
BACKUP = "~"
"""What the name of the file that a job was saved over ends in."""
LARGEST_BYTES = 50_000_000


def quick_text(job: Job) -> str:
    """The whole document on one line, which is many times quicker: for what is kept in case of a crash."""
    head = json.dumps({"format": FORMAT, "version": VERSION, "written_by": f"Hollow Keel {__version__}"}, ensure_ascii=False)
    return f'{head[:-1]}, "job": {job.model_dump_json()}}}\n'


def job_text(job: Job) -> str:
    """The whole document."""
    document = {
        "format": FORMAT,
        "version": VERSION,
        "written_by": f"Hollow Keel {__version__}",
        "job": job.model_dump(mode="json"),
    }
    return json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def as_job_file(path: Path) -> Path:
    """A path with the suffix of a job file."""
    return path if path.suffix.lower() == SUFFIX else path.with_name(path.name + SUFFIX)


def save_job(job: Job, path: Path) -> bytes:
    """Write the job; the file it replaces is kept beside it with `~` added. What was written. Raises InputError."""
    data = job_text(job).encode()
    try:
        old = _read_bytes(path) if path.is_file() else data
    except OSError:  # a folder that may not be entered: writing says so
        old = data
    if old != data:
        write_atomic(path.with_name(path.name + BACKUP), old, mode_of(path), ours=True)
    write_atomic(path, data)
    return data


def load_job(path: Path) -> Job:
    """Read a job. Raises InputError naming the place and the mend."""
    try:
        return parse_job(_read_bytes(path))
    except InputError as error:
        raise error if error.where.startswith(str(path)) else error.at(path.name) from None


def _read_bytes(path: Path) -> bytes:
    try:
        if os.stat(path).st_size > LARGEST_BYTES:
            raise InputError("this file is too large to be a job", mend=f"Choose a {SUFFIX} file.")
        return path.read_bytes()
    except OSError as error:
        raise InputError(
            "this file cannot be read", value=error.strerror or str(error), mend="Check that it is there and that you may read it."
        ) from None


def parse_job(data: bytes) -> Job:
    """Read the document. Raises InputError."""
    return job_of(_document(data))


def read_document(path: Path) -> dict[str, Any]:
    """What a job file holds, the job not yet looked at. Raises InputError."""
    return _document(_read_bytes(path))


def _document(data: bytes) -> dict[str, Any]:
    if not data.strip():
        raise InputError("this file is empty", mend="Look for the backup beside it (its name ends in ~).")
    try:
        document = read_json(data.decode("utf-8"))
    except UnicodeDecodeError:
        raise InputError("this is not a job file", mend=f"Choose a {SUFFIX} file or an offsets CSV.") from None
    except InputError as error:
        raise InputError(
            "this job file is damaged", error.where, error.value, "Open the backup beside it (its name ends in ~)."
        ) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise InputError("this is not a job file", mend=f"Choose a {SUFFIX} file or an offsets CSV.")
    return document


def job_of(document: dict[str, Any]) -> Job:
    """The job in a document, of whatever version. Raises InputError."""
    version = document.get("version")
    if not isinstance(version, int) or version < 1:
        raise InputError("this job file gives no version", "version", str(version), "Open the backup beside it.")
    if version > VERSION:
        raise InputError(
            "this job was saved by a newer Hollow Keel",
            "version",
            str(version),
            f"It is left untouched; this one reads version {VERSION}. Open it with the newer one.",
        )
    return brought_up(_validated(as_now(document.get("job"), version)), version)


def _validated(content: Any) -> Job:
    try:
        return Job.model_validate(content)
    except ValidationError as error:
        place = " › ".join(str(own) for own in error.errors()[0]["loc"])
        found = refusal(error, Job)
        mend = f"{found.mend} Mend that value in a text editor, or open the backup beside it."
        raise InputError("this job file has a fault", place, found.value, mend) from None
