"""Photographs of the log: copied into a folder beside the job, so that they go where it goes.

In the job a photograph is a name from the job's own folder, or a whole path where it was not copied (a job that is not saved yet).
"""

from __future__ import annotations

import shutil
from collections.abc import Iterable
from pathlib import Path

FOLDER = " photos"
"""What the folder is called: the job's own name and this."""
MOST_OF_A_NAME = 999


def place_of(photo: str, beside: Path | None) -> Path:
    """Where a photograph is; `beside` is the folder of the job."""
    return beside / photo if beside is not None else Path(photo)


def copied(photo: Path, job: Path) -> str:
    """Copy a photograph beside a job, and tell what it is called there; one that is in the job's folder already stays where it
    is. Raises OSError."""
    beside = job.absolute().parent
    photo = photo.absolute()
    if photo.is_relative_to(beside):
        return str(photo.relative_to(beside))
    folder = beside / f"{job.stem}{FOLDER}"
    folder.mkdir(exist_ok=True)
    target = _free(folder, photo)
    if not target.exists():
        _copy(photo, target)
    return str(target.relative_to(beside))


def brought_along(photos: Iterable[str], old: Path, new: Path) -> list[str]:
    """Copy photographs with a job that is saved in another folder; those that cannot be. Those told by whole paths,
    or by a way out of the job's folder, stay where they are."""
    missing = []
    for photo in photos:
        source, target = old / photo, new / photo
        if Path(photo).is_absolute() or ".." in Path(photo).parts or target.exists():
            continue
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            _copy(source, target)
        except OSError:
            missing.append(photo)
    return missing


def _copy(photo: Path, target: Path) -> None:
    """Whole, or not at all."""
    part = target.with_name(f".{target.name}.part")
    shutil.copyfile(photo, part)
    part.replace(target)


def _free(folder: Path, photo: Path) -> Path:
    """A name for a photograph in a folder: its own, or with a number where another one has that."""
    for k in range(1, MOST_OF_A_NAME):
        own = folder / (photo.name if k == 1 else f"{photo.stem}-{k}{photo.suffix}")
        if not own.exists() or (own.stat().st_size == photo.stat().st_size and own.read_bytes() == photo.read_bytes()):
            return own
    raise FileExistsError(f"{MOST_OF_A_NAME} photographs are called {photo.name}")
