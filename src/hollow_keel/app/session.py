"""The session: the current job, its history of edits, its file. No interface code."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from enum import Enum, auto
from pathlib import Path

from ..core.change import look_at
from ..core.errors import InputError
from ..core.job import Job
from ..files.store.backups import keep_version
from ..files.store.fingerprint import fingerprint, fingerprint_of, one_at_a_time, same_file
from ..files.store.job_file import as_job_file, save_job
from .open_any import is_job_file, open_job
from .unsaved import Origin

NOT_LOOKED_AT = ("log",)
"""Thousands of entries, each looked at when it is made, are not looked at again."""
MOST_SAID = 120


class OnDisk(Enum):
    """How a job's file is, against what was last read or written."""

    SAME = auto()
    CHANGED = auto()
    GONE = auto()


@dataclass(frozen=True)
class Edit:
    """One edit: what it was called and the job before it."""

    label: str
    job: Job


class ChangedOnDisk(InputError):
    """The file is not what this session read or wrote: somebody else saved it since."""


class Session:
    """Holds the one current job; every change goes through `edit`, `undo`, `redo` or `start`."""

    def __init__(self, job: Job, path: Path | None = None, versions: Path | None = None) -> None:
        """`versions` is the folder in which earlier versions of all jobs are kept; None: none are."""
        self.job = job
        self.path = path
        self.versions = versions
        self.mark = fingerprint_of(path) if path is not None else None
        """What the job's file was like when it was last read or written."""
        self.listeners: list[Callable[[], None]] = []
        self._undo: list[Edit] = []
        self._redo: list[Edit] = []
        self._saved = job
        self._before: Job | None = None

    @property
    def changed(self) -> bool:
        """Whether there is anything that the file does not hold yet."""
        return self.job is not self._saved and self.job != self._saved

    @property
    def undo_label(self) -> str:
        """What undo would take back, or an empty text."""
        return self._undo[-1].label if self._undo else ""

    @property
    def redo_label(self) -> str:
        """What redo would do again, or an empty text."""
        return self._redo[-1].label if self._redo else ""

    def edit(self, label: str, job: Job) -> None:
        """Make `job` current as one named, undoable step; nothing happens if it is the same. Raises InputError, and nothing is
        changed, where it holds what it may not: it could be saved, and not be opened again."""
        job = job.in_step()
        before = self._before or self.job
        try:
            look_at(job, before, NOT_LOOKED_AT)
        except InputError:
            self.give_up()
            raise
        self._before = None
        if job == before:
            if job != self.job:
                self._now(job)
            return
        self._undo.append(Edit(label, before))
        self._redo.clear()
        if job is self.job:
            self._tell()  # what was tried is kept
        else:
            self._now(job)

    def attempt(self, job: Job) -> None:
        """Show `job` while it is being typed or dragged: no step yet. The next `edit` is one step from the job before it."""
        job = job.in_step()
        if job == self.job:
            return
        if self._before is None:
            self._before = self.job
        self._now(job)

    @property
    def attempting(self) -> bool:
        """Whether the job is only being tried."""
        return self._before is not None

    def give_up(self) -> None:
        """The job as it was before what was tried."""
        if self._before is not None:
            before, self._before = self._before, None
            self._now(before)

    def undo(self) -> None:
        """Take back the last edit, or what is being tried."""
        if self.attempting:
            self.give_up()
        elif self._undo:
            step = self._undo.pop()
            self._redo.append(Edit(step.label, self.job))
            self._now(step.job)

    def redo(self) -> None:
        """Do the last undone edit again."""
        self.give_up()
        if self._redo:
            step = self._redo.pop()
            self._undo.append(Edit(step.label, self.job))
            self._now(step.job)

    def start(self, job: Job, path: Path | None = None, *, saved: bool = True, mark: str | None = None) -> None:
        """Begin with another job and an empty history; its file was once like `mark`, or is as it is now."""
        self.path = path
        self.mark = mark or (fingerprint_of(path) if path is not None else None)
        self._before = None
        self._undo.clear()
        self._redo.clear()
        self._saved = job if saved else Job()
        self._now(job)

    def open(self, path: Path) -> str:
        """Open a job file, or its backup or a table of offsets as a new job, set up as it suits: what was chosen so, in words.
        Raises InputError; the session is then unchanged."""
        from ..core.setup_that_suits import suited  # loads what cuts molds: not before it is needed

        own = is_job_file(path)
        mark = fingerprint_of(path) if own else None  # before it is read: what comes in between is noticed at the next save
        job, words = (open_job(path), "") if own else suited(open_job(path))
        self.start(job, path if own else None, saved=own, mark=mark)
        return words

    @property
    def origin(self) -> Origin:
        """Where the job is saved, and what its file was like."""
        return Origin(str(self.path.absolute()), self.mark or "") if self.path is not None else Origin()

    @property
    def unsaved(self) -> Job | None:
        """The job, if there is anything that its file does not hold yet."""
        return self.job if self.changed else None

    def on_disk(self) -> OnDisk:
        """How the job's file is now."""
        if self.path is None or self.mark is None:
            return OnDisk.SAME
        now = fingerprint_of(self.path)
        return OnDisk.GONE if now is None else OnDisk.SAME if now == self.mark else OnDisk.CHANGED

    def save(self, path: Path | None = None, *, over: bool = False) -> Path:
        """Write the job, by default where it came from; `over` what somebody else saved there since. What it replaces is kept as an
        earlier version. Raises ChangedOnDisk, or InputError; nothing is then half-written."""
        target = path or self.path
        if target is None:
            raise InputError("this job has no file yet", mend="Use Save as and choose where to keep it.")
        target = as_job_file(target)
        with one_at_a_time(target.parent):
            changed = self.path is not None and same_file(target, self.path) and self.on_disk() is OnDisk.CHANGED
            if changed and not over:
                raise ChangedOnDisk(
                    "this job was saved by another window or program since it was opened",
                    str(target),
                    mend="Look at what is there, save under another name, or save over it: it is kept as an earlier version.",
                )
            self._keep_version(target, must=changed)
            self.mark = fingerprint(save_job(self.job, target))
            self.path, self._saved = target, self.job
        self._tell()
        return target

    def _keep_version(self, target: Path, *, must: bool) -> None:
        """What is about to be replaced stays as an earlier version; where it cannot, the copy beside the job is all there is.
        Raises InputError where it `must`, for that was said."""
        if self.versions is None:
            return
        try:
            keep_version(self.versions, target, target.read_bytes(), datetime.now().astimezone())
        except (OSError, InputError) as error:  # there may be no file yet
            if must:
                raise InputError(
                    "what somebody else saved there cannot be kept as an earlier version, so it is not written over",
                    str(target),
                    str(error)[:MOST_SAID],
                    "Save under another name.",
                ) from None

    def _now(self, job: Job) -> None:
        self.job = job
        self._tell()

    def _tell(self) -> None:
        for listener in list(self.listeners):
            listener()
