"""Photographs of the log: copied into a folder beside the job, so that they go where it goes.

In the job a photograph is a name from the job's own folder, or a whole path where it was not copied (a job that is not saved yet).
"""

from __future__ import annotations

import os
import stat
from collections.abc import Iterable
from pathlib import Path

FOLDER = " photos"
"""What the folder is called: the job's own name and this."""
MOST_OF_A_NAME = 999
MOST_BYTES = 64_000_000
"""A larger file is no photograph."""
RASTER = {
    b"\xff\xd8\xff": "jpeg",
    b"\x89PNG\r\n\x1a\n": "png",
    b"GIF8": "gif",
    b"BM": "bmp",
    b"RIFF": "webp",
    b"II*\0": "tiff",
    b"MM\0*": "tiff",
}
"""What a photograph begins with, and what it is then. Drawings are none: they may name other files."""


def place_of(photo: str, beside: Path | None) -> Path:
    """Where a photograph is; `beside` is the folder of the job."""
    return beside / photo if beside is not None else Path(photo)


def format_of(data: bytes) -> str | None:
    """What kind of photograph this is; None: none."""
    return next((name for begin, name in RASTER.items() if data.startswith(begin)), None)


def photo_bytes(photo: str, beside: Path | None) -> bytes:
    """What is in a photograph of a job. Jobs come from strangers: a pipe, a device, a drawing, what is too large, and what a link
    leads out of the job's folder to is not read. Raises OSError."""
    data = _own(photo, beside)
    if format_of(data) is None:
        raise OSError(f"{photo} is no photograph")
    return data


def _own(photo: str, beside: Path | None) -> bytes:
    place = place_of(photo, beside)
    if beside is not None and not Path(photo).is_absolute() and not place.resolve().is_relative_to(beside.resolve()):
        raise OSError(f"{place} lies outside the job's folder")
    return _regular(place)


def _regular(path: Path) -> bytes:
    """What is in a plain file that is not too large; never waits. Raises OSError."""
    handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    with os.fdopen(handle, "rb") as file:
        told = os.fstat(handle)
        if not stat.S_ISREG(told.st_mode):
            raise OSError(f"{path} is no plain file")
        if told.st_size > MOST_BYTES:
            raise OSError(f"{path} is larger than {MOST_BYTES // 1_000_000} MB")
        return file.read(MOST_BYTES)


def copied(photo: Path, job: Path) -> str:
    """Copy a photograph beside a job, and tell what it is called there; one that is in the job's folder already stays where it
    is. Raises OSError."""
    beside = job.absolute().parent
    photo = photo.absolute()
    if photo.is_relative_to(beside):
        return str(photo.relative_to(beside))
    folder = beside / f"{job.stem}{FOLDER}"
    folder.mkdir(exist_ok=True)
    data = _regular(photo)
    target = _free(folder, photo, data)
    if not target.exists():
        _put(data, target)
    return str(target.relative_to(beside))


def brought_along(photos: Iterable[str], old: Path, new: Path) -> list[str]:
    """Copy photographs with a job that is saved in another folder; those that cannot be. Those told by whole paths,
    or by a way out of the job's folder, stay where they are."""
    missing = []
    for photo in photos:
        target = new / photo
        if Path(photo).is_absolute() or ".." in Path(photo).parts or target.exists():
            continue
        try:
            data = _own(photo, old)
            target.parent.mkdir(parents=True, exist_ok=True)
            _put(data, target)
        except OSError:
            missing.append(photo)
    return missing


def _put(data: bytes, target: Path) -> None:
    """Whole, or not at all."""
    part = target.with_name(f".{target.name}.part")
    part.write_bytes(data)
    part.replace(target)


def _free(folder: Path, photo: Path, data: bytes) -> Path:
    """A name for a photograph in a folder: its own, or with a number where another one has that."""
    for k in range(1, MOST_OF_A_NAME):
        own = folder / (photo.name if k == 1 else f"{photo.stem}-{k}{photo.suffix}")
        if not own.exists() or (own.is_file() and own.stat().st_size == len(data) and _regular(own) == data):
            return own
    raise FileExistsError(f"{MOST_OF_A_NAME} photographs are called {photo.name}")
