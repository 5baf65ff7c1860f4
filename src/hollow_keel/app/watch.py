"""The stop-watch's note on disk, and the machine's clocks."""

from __future__ import annotations

import time
from pathlib import Path

from ..core.log.stopwatch import Started, as_text, from_text
from ..files.store.atomic import write_atomic

NOTE = "stop-watch.json"
BOOT_ID = Path("/proc/sys/kernel/random/boot_id")


def now() -> Started:
    """Both clocks as they stand."""
    try:
        run = BOOT_ID.read_text(encoding="ascii").strip()
    except OSError:
        run = ""
    return Started(time.time(), time.clock_gettime(time.CLOCK_BOOTTIME), run)


def running(folder: Path) -> Started | None:
    """When the stop-watch was started; None where it does not run."""
    try:
        return from_text((folder / NOTE).read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError):
        return None


def start(folder: Path) -> None:
    """Start it now. Raises InputError where nothing can be written."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    write_atomic(folder / NOTE, as_text(now()).encode())


def stop(folder: Path) -> None:
    """Forget it."""
    (folder / NOTE).unlink(missing_ok=True)
