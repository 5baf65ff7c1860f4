"""Whether a file on the disk is still the one that was read or written."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
from collections.abc import Iterator
from pathlib import Path


def fingerprint(data: bytes) -> str:
    """A short text, other for other contents."""
    return hashlib.blake2b(data, digest_size=16).hexdigest()


def fingerprint_of(path: Path) -> str | None:
    """That of a file as it is on the disk; None where there is none, or it cannot be read."""
    try:
        return fingerprint(path.read_bytes()) if path.is_file() else None
    except OSError:
        return None


@contextlib.contextmanager
def one_at_a_time(folder: Path) -> Iterator[None]:
    """Only one of our windows at a time looks at a folder's files and writes them; where a disk knows no locks, all may."""
    handle = -1
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        fcntl.flock(handle, fcntl.LOCK_EX)
    try:
        yield
    finally:
        if handle >= 0:
            os.close(handle)
