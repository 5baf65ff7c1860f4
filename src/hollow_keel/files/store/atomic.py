"""Writing files so that a crash leaves the old one or the new one, never a half; and what is no plain file stays what it is."""

from __future__ import annotations

import contextlib
import os
import stat
import tempfile
import time
from pathlib import Path

from ...core.errors import InputError

PART = ".part"
DEAD_S = 3600.0
"""A temporary file that is older was left by a program that is dead."""
KEPT_OF_NAME = 100
"""Bytes of a file's name that its temporary one has: the whole of it may be as long as names can be."""


def write_atomic(path: Path, data: bytes, mode: int | None = None, *, ours: bool = False) -> None:
    """Write `data` to a temporary file beside `path`, flush it to the disk and put it in place.

    A link stays a link, mode, owner and hard links stay where they can; a `mode` that is given is the file's from now on. A pipe
    or a device is written through, never replaced. One that is `ours` alone (the copy beside a job) is put in the place of whatever
    is there, be it a link or a file that may only be read.
    Raises InputError naming the place and the mend, also for what may only be read, a folder, a socket or a disk; nothing is left
    half-written.
    """
    try:
        there = None if ours else _there(path)
        if there is not None and not stat.S_ISREG(there.st_mode):
            _through(path, there.st_mode, data)
            return
        if there is not None and not there.st_mode & 0o222:
            raise InputError("this file may only be read", str(path), mend="Choose another name, or make it writable first.")
        _put(path if ours else Path(os.path.realpath(path)), data, there, mode)
    except OSError as error:
        raise InputError(
            "this file cannot be written",
            str(path),
            error.strerror or str(error),
            "Choose a folder that exists and that you may write to.",
        ) from None


def _there(path: Path) -> os.stat_result | None:
    """What a path leads to; None where there is nothing yet."""
    try:
        return os.stat(path)
    except FileNotFoundError:
        return None


def _through(path: Path, mode: int, data: bytes) -> None:
    """Into a pipe or a device that is there. Raises InputError for what takes no bytes, and OSError."""
    for kind, words in ((stat.S_ISDIR, "a folder"), (stat.S_ISSOCK, "a socket"), (stat.S_ISBLK, "a disk")):
        if kind(mode):
            raise InputError(f"this is {words}, no file", str(path), mend="Choose another name.")
    handle = os.open(path, os.O_WRONLY | os.O_NONBLOCK)  # a pipe that nobody reads is said, not waited for
    try:
        os.set_blocking(handle, True)
        left = memoryview(data)
        while left:
            left = left[os.write(handle, left) :]
    finally:
        os.close(handle)


def _put(path: Path, data: bytes, there: os.stat_result | None, mode: int | None) -> None:
    """A plain file in its place."""
    prefix = f".{os.fsdecode(os.fsencode(path.name)[:KEPT_OF_NAME])}."
    handle, temporary = tempfile.mkstemp(prefix=prefix, suffix=PART, dir=path.parent)
    try:
        _fill(handle, data)
        if there is not None and there.st_nlink > 1:
            _over(path, data, temporary)
        else:
            _in_its_place(path, temporary, there, mode)
    except _Kept:
        raise
    except BaseException:
        with contextlib.suppress(OSError):
            os.unlink(temporary)
        raise
    _clear_dead(path.parent, prefix)


class _Kept(InputError):
    """What was to be written is whole in a file beside it."""


def _in_its_place(path: Path, temporary: str, there: os.stat_result | None, mode: int | None) -> None:
    if there is not None:
        with contextlib.suppress(OSError):
            os.chown(temporary, there.st_uid, there.st_gid)
    own = stat.S_IMODE(there.st_mode) if there is not None else 0o666 & ~_mask()
    os.chmod(temporary, own if mode is None else mode)
    os.replace(temporary, path)
    _sync_folder(path.parent)


def _over(path: Path, data: bytes, temporary: str) -> None:
    """Another name is the same file, and stays so: it is written over, with the whole of it safe beside it meanwhile."""
    try:
        _fill(os.open(path, os.O_WRONLY | os.O_TRUNC), data)
    except OSError as error:
        raise _Kept(
            "this file could not be written whole", str(path), error.strerror or str(error), f"All of it is in {temporary}."
        ) from None
    os.unlink(temporary)


def _fill(handle: int, data: bytes) -> None:
    with os.fdopen(handle, "wb") as file:
        file.write(data)
        file.flush()
        os.fsync(file.fileno())


def _clear_dead(folder: Path, prefix: str) -> None:
    """Temporary files of this name that a program left when it was killed."""
    with contextlib.suppress(OSError), os.scandir(folder) as entries:
        for entry in entries:
            if entry.name.startswith(prefix) and entry.name.endswith(PART):
                with contextlib.suppress(OSError):
                    if entry.stat(follow_symlinks=False).st_mtime < time.time() - DEAD_S:
                        os.unlink(entry.path)


def _mask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def mode_of(path: Path) -> int | None:
    """Who may read and write a file; None where there is none."""
    try:
        return stat.S_IMODE(os.stat(path).st_mode)
    except OSError:
        return None


def is_same_file(a: Path, b: Path) -> bool:
    """Whether two paths lead to one file, by whatever spelling, link or hard link."""
    try:
        return os.path.samefile(a, b)
    except OSError:
        return os.path.realpath(a) == os.path.realpath(b)
