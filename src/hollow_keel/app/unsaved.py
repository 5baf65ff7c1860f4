"""Unsaved work kept safe: every window keeps its own, and finds at its start what others that are gone left behind.

A window keeps the whole job some seconds after the last edit, and the one before beside it; what is told as kept in between (an
entry of the log) is added to a list at once, which takes no longer for a thick log than for a thin one. A lock that the system
takes away when a window ends, however it ends, tells work left behind from work in hand.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import secrets
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..core.errors import InputError
from ..core.job import Job
from ..core.log.keep import kept
from ..core.settings.log_entry import Entry
from ..files.store.atomic import write_atomic
from ..files.store.fingerprint import fingerprint_of, same_file
from ..files.store.job_file import BACKUP, SUFFIX, job_of, load_job, quick_text, read_document
from ..files.store.plain_json import read_json

FOLDER, LOCK, ADDED = "unsaved", ".lock", ".added"
EARLIER = "recovery" + SUFFIX
"""What earlier versions kept, one for all windows."""
NOTE = "kept"


@dataclass(frozen=True)
class Origin:
    """Where a job is saved, and what the file was like when it was last read or written; both empty for one without a file."""

    path: str = ""
    mark: str = ""


@dataclass(frozen=True)
class Found:
    """Work that a window left behind: the job (None where it cannot be read), when it was kept, where it is saved, and what there
    is to say of it."""

    kept_in: Path
    when: datetime
    job: Job | None
    origin: Origin
    said: str = ""
    saved: Job | None = None
    """The job as its file has it; None where it has none, or that cannot be read."""


class Unsaved:
    """The unsaved work of one window, in a folder of all of them."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder / FOLDER
        self.token = secrets.token_hex(6)
        self._turn = 0
        self._whole = 0
        """The number of the last whole job that was asked to be kept; 0: none is, entries go with the file that it is saved in."""
        self._lock = -1

    @property
    def path(self) -> Path:
        """Where this window's job is kept whole."""
        return self._folder / f"{self.token}{SUFFIX}"

    @property
    def _added(self) -> Path:
        return self._folder / f"{self.token}{ADDED}"

    def hold(self, origin: Origin) -> None:
        """Say that this window is there, and which file it has open. Without a disk to say it on nothing is said."""
        with contextlib.suppress(OSError):
            self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            if self._lock < 0:
                self._lock = os.open(self._folder / f"{self.token}{LOCK}", os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
                fcntl.flock(self._lock, fcntl.LOCK_EX)  # another that looks whether it is held has it for a moment
            os.ftruncate(self._lock, 0)
            os.pwrite(self._lock, os.fsencode(origin.path), 0)

    def let_go(self) -> None:
        """This window is about to end."""
        if self._lock >= 0:
            with contextlib.suppress(OSError):
                (self._folder / f"{self.token}{LOCK}").unlink(missing_ok=True)
            os.close(self._lock)
            self._lock = -1

    def keep(self, job: Job | None, origin: Origin) -> Callable[[], None]:
        """What to do now to keep a whole job (None: nothing is unsaved). Returned rather than done, since it waits for the disk: it
        may run in another thread. What that raises is InputError or OSError."""
        if job is None:
            self._whole = 0
            return partial(_clear, self.path)
        self._turn += 1
        self._whole = turn = self._turn

        def work() -> None:
            self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            note = {"turn": turn, "at": datetime.now().astimezone().isoformat(), "of": origin.path, "mark": origin.mark}
            data = f'{{"{NOTE}": {json.dumps(note)}, {quick_text(job)[1:]}'.encode()
            with contextlib.suppress(OSError):
                os.replace(self.path, self.path.with_name(self.path.name + BACKUP))
            write_atomic(self.path, data, 0o600)

        return work

    def add(self, entry: Entry, count: int, origin: Origin) -> bool:
        """Keep an entry of the log that was just kept, the log being `count` long with it; it is on the disk when this returns.
        False where that is not enough to find it again: the whole job has to be kept. Raises OSError."""
        if not self._whole and not origin.mark:
            return False
        self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        line = {"turn": self._whole, "count": count, "of": origin.path, "mark": origin.mark, "entry": entry.model_dump(mode="json")}
        with open(self._added, "ab") as file:
            file.write(json.dumps(line, ensure_ascii=True).encode() + b"\n")
            file.flush()
            os.fsync(file.fileno())
        return True


def clear(found: Found) -> None:
    """Work left behind is taken up, or thrown away."""
    _clear(found.kept_in)
    with contextlib.suppress(OSError):
        found.kept_in.with_suffix(LOCK).unlink(missing_ok=True)


def _clear(path: Path) -> None:
    # killed in between, the newest is left
    for own in (path.with_name(path.name + BACKUP), path.with_suffix(ADDED), path):
        with contextlib.suppress(OSError):
            own.unlink(missing_ok=True)


def left_behind(folder: Path) -> list[Found]:
    """What windows that are gone left, newest first."""
    places = {path.with_suffix(SUFFIX) for kind in (SUFFIX, SUFFIX + BACKUP, ADDED) for path in (folder / FOLDER).glob(f"*{kind}")}
    gone = [path for path in places if not _held(path.with_suffix(LOCK))]
    if (folder / EARLIER).is_file():
        gone.append(folder / EARLIER)
    found = [own for path in gone if (own := _read(path)) is not None]
    return sorted(found, key=lambda own: own.when, reverse=True)


def open_elsewhere(folder: Path, path: Path, but: str) -> bool:
    """Whether another window that is there has a file open (`but`: this one's token)."""
    for lock in (folder / FOLDER).glob(f"*{LOCK}"):
        if lock.stem == but or not _held(lock):
            continue
        with contextlib.suppress(OSError):
            if same_file(Path(os.fsdecode(lock.read_bytes())), path):
                return True
    return False


def _held(lock: Path) -> bool:
    """Whether a window that is there holds a lock."""
    try:
        handle = os.open(lock, os.O_RDWR | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False


def _read(path: Path) -> Found | None:
    """What was left at a place; None where it comes to nothing that its file does not hold."""
    lines = _lines(path.with_suffix(ADDED))
    said = ""
    for own in (path, path.with_name(path.name + BACKUP)):
        try:
            document = read_document(own)
            note, job = _noted(document), job_of(document)
        except InputError as error:
            if own.is_file():
                said = f"What was kept last is damaged ({error.problem}): this is the one before it."
            continue
        if own != path and not said:
            said = "What was kept last is missing: this is the one before it."
        when = _when(note.get("at"), own)
        origin = Origin(str(note.get("of", "")), str(note.get("mark", "")))
        turn = note.get("turn", 0)
        job = _with_added(job, lines, turn if isinstance(turn, int) else 0)
        saved = _in_file(origin)
        return None if job == saved else Found(path, when, job, origin, said, saved)
    if lines:
        return _of_file(path, lines)
    if said:
        when = _written(path) if path.is_file() else datetime.now().astimezone()
        return Found(path, when, None, Origin(), "What was kept is damaged, and so is the one before it.")
    return None


def _of_file(path: Path, lines: list[dict[str, Any]]) -> Found | None:
    """Entries that were added to a job as it is in its file."""
    origin = Origin(str(lines[-1].get("of", "")), str(lines[-1].get("mark", "")))
    when = _written(path.with_suffix(ADDED))
    try:
        file = load_job(Path(origin.path))
    except InputError as error:
        return Found(path, when, None, origin, f"Entries of the log were kept, but their job cannot be read: {error}")
    job = _with_added(file, [line for line in lines if line.get("of") == origin.path], 0)
    if job == file:
        return None
    said = (
        ""
        if fingerprint_of(Path(origin.path)) == origin.mark
        else "The file was saved since then: they are added to it as it is now."
    )
    return Found(path, when, job, origin, said, file)


def _in_file(origin: Origin) -> Job | None:
    """The job as its file has it; None where that cannot be told."""
    if not origin.path:
        return None
    try:
        return load_job(Path(origin.path))
    except InputError:
        return None


def _noted(document: dict[str, Any]) -> dict[str, Any]:
    """What was noted with a whole job."""
    note = document.get(NOTE)
    return note if isinstance(note, dict) else {}


def _written(path: Path) -> datetime:
    """When a file was last written."""
    return datetime.fromtimestamp(path.stat().st_mtime).astimezone()


def _when(text: Any, path: Path) -> datetime:
    try:
        return datetime.fromisoformat(str(text)).astimezone()
    except ValueError:
        return _written(path)


def _lines(path: Path) -> list[dict[str, Any]]:
    """The lines of a list as far as they are whole: the last one may have been cut off, and was not told as kept then."""
    try:
        texts = path.read_bytes().split(b"\n")[:-1]
    except OSError:
        return []
    found = []
    for text in texts:
        with contextlib.suppress(InputError, UnicodeDecodeError):
            line = read_json(text.decode("utf-8"))
            if isinstance(line, dict):
                found.append(line)
    return found


def _with_added(job: Job, lines: list[dict[str, Any]], turn: int) -> Job:
    """A job with those entries that came after it was kept whole, as number `turn`, and that it has not yet."""
    for line in lines:
        count, own = line.get("count"), line.get("turn")
        if not isinstance(own, int) or own < turn or not isinstance(count, int) or len(job.log.entries) >= count:
            continue
        with contextlib.suppress(ValidationError):
            job = kept(job, Entry.model_validate(line.get("entry")))
    return job
