"""Whether a file on the disk is still the one that was read or written."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
from collections.abc import Iterator
from pathlib import Path
from time import perf_counter, sleep

from ...core.errors import InputError

HELD_SECONDS, TRY_SECONDS = 1.0, 0.02
"""So long a lock of another program is waited for, and tried again."""


def fingerprint(data: bytes) -> str:
    """A short text, other for other contents."""
    return hashlib.blake2b(data, digest_size=16).hexdigest()


def fingerprint_of(path: Path) -> str | None:
    """That of a file as it is on the disk; None where there is none, or it cannot be read."""
    try:
        return fingerprint(path.read_bytes()) if path.is_file() else None
    except OSError:
        return None


def same_file(one: Path, other: Path) -> bool:
    """Whether two paths name one file, however they are spelt: links followed, and hard links too where it is there."""
    with contextlib.suppress(OSError):
        return os.path.samefile(one, other)
    return os.path.realpath(one) == os.path.realpath(other)


def _lock(handle: int, folder: Path) -> None:
    since = perf_counter()
    while True:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            if perf_counter() - since > HELD_SECONDS:
                raise InputError(
                    "another program is at the files of this folder and does not let go",
                    value=str(folder),
                    mend="Save again in a moment, or save it in another folder.",
                ) from None
            sleep(TRY_SECONDS)
        except OSError:  # no locks here
            return
        else:
            return


@contextlib.contextmanager
def one_at_a_time(folder: Path) -> Iterator[None]:
    """Only one of our windows at a time looks at a folder's files and writes them; where a disk knows no locks, all may. Raises
    InputError where somebody else goes on holding it."""
    handle = -1
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
    try:
        if handle >= 0:
            _lock(handle, folder)
        yield
    finally:
        if handle >= 0:
            os.close(handle)
