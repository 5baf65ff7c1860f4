"""Writing files so that a crash leaves the old one or the new one, never a half."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path

from ..core.errors import InputError


def write_atomic(path: Path, data: bytes) -> None:
    """Write `data` to a temporary file beside `path`, flush it to the disk and put it in place.

    Raises InputError naming the place and the mend; nothing is left half-written.
    """
    temporary: str | None = None
    path = Path(os.path.realpath(path))  # a link stays one: what it leads to is written
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", suffix=".part", dir=path.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, _mode_for(path))
        os.replace(temporary, path)
        temporary = None
        _sync_folder(path.parent)
    except OSError as error:
        raise InputError(
            "this file cannot be written",
            str(path),
            error.strerror or str(error),
            "Choose a folder that exists and that you may write to.",
        ) from None
    finally:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)


def _mode_for(path: Path) -> int:
    if path.exists():
        return path.stat().st_mode & 0o777
    mask = os.umask(0)
    os.umask(mask)
    return 0o666 & ~mask


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
