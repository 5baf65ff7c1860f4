"""Disks that take nothing more: a save is refused in words, and what was there stays whole."""

from __future__ import annotations

import os
import resource
import signal
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from hollow_keel.app.session import Session
from hollow_keel.app.unsaved import Origin, Unsaved
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.store.job_file import load_job

from .outcome import End, tried


def attacked() -> Iterator[tuple[str, str]]:
    """What was tried, and what came of it."""
    ways = {
        "a quota is used up": _quota,
        "the folder may not be written to": _read_only,
        "the folder may not be entered": _closed,
        "the folder is gone": _gone,
    }
    for name, spoil in ways.items():
        with tempfile.TemporaryDirectory() as folder:
            outcome = tried(lambda folder=folder, spoil=spoil: _saved_in(Path(folder), spoil), (InputError,), 20.0)
            yield (name, "refused in words, the old file whole" if outcome.end is End.READ else f"{outcome.end}: {outcome.what}")


def _saved_in(folder: Path, spoil: Callable[[Path], None]) -> None:
    """Raises AssertionError where something is lost or half-written."""
    place = folder / "jobs"
    place.mkdir()
    path = place / "a.hkeel"
    session = Session(demo_job("linnet"), None, folder / "versions")
    session.save(path)
    spoil(place)
    session.edit("name", change(session.job, "", name="lost?"))
    try:
        session.save(path)
    except InputError as error:
        assert error.mend
    else:
        raise AssertionError("it was saved")
    assert session.job.name == "lost?"
    assert session.changed
    if os.geteuid() == 65534:
        os.seteuid(0)
    where = path if path.exists() else folder / "elsewhere" / "a.hkeel"
    assert load_job(where).name == "Linnet"
    assert not list(where.parent.glob(".*.part"))
    try:
        Unsaved(place).keep(session.job, Origin())()
    except (InputError, OSError):
        return


def _quota(_folder: Path) -> None:
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_FSIZE, (2000, 2000))


def _read_only(folder: Path) -> None:
    folder.chmod(0o555)
    _as_somebody_else(folder)


def _closed(folder: Path) -> None:
    folder.chmod(0o000)
    _as_somebody_else(folder)


def _as_somebody_else(folder: Path) -> None:
    """Who may do everything is made somebody who may not."""
    if os.geteuid() == 0:
        folder.parent.chmod(0o755)
        os.seteuid(65534)


def _gone(folder: Path) -> None:
    folder.rename(folder.with_name("elsewhere"))
