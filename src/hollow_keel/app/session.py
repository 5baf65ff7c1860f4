"""The session: the current job, its history of edits, its file. No interface code."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ..core.errors import InputError
from ..core.job import Job
from ..files.job_file import BACKUP, SUFFIX, save_job
from .open_any import is_job_file, open_job


@dataclass(frozen=True)
class Edit:
    """One edit: what it was called and the job before it."""

    label: str
    job: Job


def clear_recovery(path: Path) -> None:
    """Forget the kept work."""
    with contextlib.suppress(OSError):
        path.unlink(missing_ok=True)
        path.with_name(path.name + BACKUP).unlink(missing_ok=True)


class Session:
    """Holds the one current job; every change goes through `edit`, `undo`, `redo` or `start`."""

    def __init__(self, job: Job, path: Path | None = None) -> None:
        self.job = job
        self.path = path
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
        """Make `job` current as one named, undoable step; nothing happens if it is the same."""
        job = job.in_step()
        before, self._before = self._before or self.job, None
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

    def start(self, job: Job, path: Path | None = None, *, saved: bool = True) -> None:
        """Begin with another job and an empty history."""
        self.path = path
        self._before = None
        self._undo.clear()
        self._redo.clear()
        self._saved = job if saved else Job()
        self._now(job)

    def open(self, path: Path) -> None:
        """Open a job file, or its backup or a table of offsets as a new job. Raises InputError; the session is then
        unchanged."""
        own = is_job_file(path)
        self.start(open_job(path), path if own else None, saved=own)

    def save(self, path: Path | None = None) -> Path:
        """Write the job, by default where it came from. Raises InputError; nothing is then half-written."""
        target = path or self.path
        if target is None:
            raise InputError("this job has no file yet", mend="Use Save as and choose where to keep it.")
        if target.suffix.lower() != SUFFIX:
            target = target.with_name(target.name + SUFFIX)
        save_job(self.job, target)
        self.path, self._saved = target, self.job
        self._tell()
        return target

    def recovery(self, path: Path) -> Callable[[], None]:
        """What to do now so that unsaved work can be found after a crash: keep it, or clear what is kept.

        Returned rather than done, since it waits for the disk: it may run in another thread.
        """
        job = self.job if self.changed else None

        def keep() -> None:
            if job is not None:
                path.parent.mkdir(parents=True, exist_ok=True)
                save_job(job, path, quick=True)
            else:
                clear_recovery(path)

        return keep

    def _now(self, job: Job) -> None:
        self.job = job
        self._tell()

    def _tell(self) -> None:
        for listener in list(self.listeners):
            listener()
