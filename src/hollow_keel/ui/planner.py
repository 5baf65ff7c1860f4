"""Asks a process of our own for results: the newest request wins, older ones are given up."""

from __future__ import annotations

import contextlib
import subprocess
import threading
from dataclasses import replace

from PySide6.QtCore import QObject, Signal

from ..app.launch import start_worker
from ..app.worker import receive, send
from ..core.job import Job
from ..core.results import Results, Shape

PATIENCE_SECONDS = 5.0


class Planner(QObject):
    """Signals arrive in the thread this object lives in. Every request ends in
    `done` and then `judged`, in `failed` or in a newer one."""

    shape_ready = Signal(object)
    done = Signal(object, float)
    judged = Signal(object, object)
    checked = Signal(object, object)
    stocked = Signal(object, object)
    failed = Signal(object, str)
    progress = Signal(float)
    _answered = Signal(object)

    def __init__(self, worker: subprocess.Popen[bytes] | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._number = 0
        self._job: Job | None = None
        self._shape: Shape | None = None
        self._stopping = False
        self._answered.connect(self._take)
        self._attach(worker or start_worker())

    def _attach(self, worker: subprocess.Popen[bytes]) -> None:
        self._worker = worker
        self._reader = threading.Thread(target=self._read, args=(worker,), name="planner", daemon=True)
        self._reader.start()

    def _read(self, worker: subprocess.Popen[bytes]) -> None:
        assert worker.stdout is not None
        try:
            while True:
                self._answered.emit(receive(worker.stdout))
        except (EOFError, OSError):
            if not self._stopping:
                self._answered.emit((self._number, "ended", None))

    def request(self, job: Job) -> None:
        """Compute this job; whatever was being computed is given up."""
        self._number, self._job, self._shape = self._number + 1, job, None
        self._send(job)

    def cancel(self) -> None:
        """Give up what is being computed."""
        self._number, self._job = self._number + 1, None
        self._send(None)

    def _send(self, job: Job | None) -> None:
        if self._stopping:
            return
        if self._worker.poll() is not None:
            self._reader.join()
            self._close_pipes()
            self._attach(start_worker())
        assert self._worker.stdin is not None
        with contextlib.suppress(OSError):  # it ended just now: its reader says so
            send(self._worker.stdin, (self._number, job))

    def _take(self, answer: tuple[int, str, object]) -> None:
        number, kind, value = answer
        if number != self._number or self._job is None or self._stopping:
            return
        if kind == "shape":
            assert isinstance(value, Shape)
            self._shape = replace(value, job=self._job)
            self.shape_ready.emit(self._shape)
        elif kind == "progress":
            self.progress.emit(value)
        elif kind == "done":
            assert self._shape is not None
            assert isinstance(value, tuple)
            planking, behaviours, replan, seconds = value
            self.done.emit(Results(self._shape, planking, behaviours=behaviours, replan=replan), seconds)
        elif kind == "checked":
            self.checked.emit(self._job, value)
        elif kind == "judged":
            self.judged.emit(self._job, value)
        elif kind == "stocked":
            self.stocked.emit(self._job, value)
        elif kind == "failed":
            self.failed.emit(self._job, str(value))
        else:
            self.failed.emit(
                self._job, "The computing process ended. Change something and it is started again."
            )

    def stop(self) -> None:
        """End the process and wait for it."""
        self._stopping = True
        self._number += 1
        assert self._worker.stdin is not None
        with contextlib.suppress(OSError):
            self._worker.stdin.close()
        try:
            self._worker.wait(PATIENCE_SECONDS)
        except subprocess.TimeoutExpired:
            self._worker.kill()
            self._worker.wait()
        self._reader.join()
        self._close_pipes()

    def _close_pipes(self) -> None:
        for pipe in (self._worker.stdin, self._worker.stdout):
            if pipe is not None:
                with contextlib.suppress(OSError):
                    pipe.close()
