"""Earlier versions of a job: what every save replaced, the last few, thinned by age.

They are kept away from the job, in the user's own folder, so that a share or a stick that is pulled out does not take them along.
"""

from __future__ import annotations

import contextlib
import os
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from .atomic import mode_of, write_atomic
from .fingerprint import fingerprint, fingerprint_of
from .job_file import SUFFIX

KEPT = 5
STAMP = "%Y%m%d-%H%M%S-%f"
NAMED = "of.txt"
"""Beside the versions of a job: where it was saved."""


@dataclass(frozen=True)
class Version:
    """A job as it was until `when`."""

    path: Path
    when: datetime


def folder_of(folder: Path, job: Path) -> Path:
    """Where the versions of a job are kept, under a folder of all of them."""
    return folder / fingerprint(os.fsencode(job.absolute()))[:16]


def keep_version(folder: Path, job: Path, data: bytes, now: datetime) -> None:
    """Keep what a save of a job is about to replace. Raises InputError or OSError where it cannot be kept."""
    own = folder_of(folder, job)
    own.mkdir(parents=True, exist_ok=True, mode=0o700)
    versions = versions_of(folder, job)
    if versions and fingerprint_of(versions[0].path) == fingerprint(data):
        return
    if not (own / NAMED).exists():
        write_atomic(own / NAMED, os.fsencode(job.absolute()))
    write_atomic(own / f"{now.strftime(STAMP)}{SUFFIX}", data, mode_of(job))
    for version in thinned(versions_of(folder, job), now):
        version.path.unlink(missing_ok=True)


def versions_of(folder: Path, job: Path) -> list[Version]:
    """The versions of a job, newest first; those of a time that is not yet (a clock was wrong) after all others."""
    found = []
    with contextlib.suppress(OSError):
        for path in folder_of(folder, job).glob(f"*{SUFFIX}"):
            with contextlib.suppress(ValueError):
                found.append(Version(path, datetime.strptime(path.stem, STAMP).astimezone()))
    now = datetime.now().astimezone()
    return sorted(found, key=lambda version: (version.when <= now, version.when), reverse=True)


def thinned(versions: Sequence[Version], now: datetime) -> list[Version]:
    """Which versions of too many go, newest first given: the newest and the oldest stay, and between them those go first that stand
    closest together for their age, so that some minutes, hours, days and weeks back one is left. Before them go those of a time
    that is not yet: of what age they are nobody knows."""
    left, gone = list(versions), []
    for version in [version for version in versions if version.when > now][: max(len(left) - KEPT, 0)]:
        left.remove(version)
        gone.append(version)
    while len(left) > KEPT:
        ages = [max((now - version.when).total_seconds(), 1.0) for version in left]
        k = min(range(1, len(left) - 1), key=lambda k: ages[k + 1] / ages[k - 1])
        gone.append(left.pop(k))
    return gone
