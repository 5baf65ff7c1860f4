"""Asks a process of our own for results: the newest request wins, older ones are given up."""

from __future__ import annotations

import contextlib
import subprocess
import threading
from collections.abc import Mapping
from time import perf_counter

from PySide6.QtCore import QObject, Signal

from ..app.launch import Worker, start_worker
from ..core.job import Job

PATIENCE_SECONDS = 5.0
GONE = "The computing process ended. Change something and it is started again."


class Planner(QObject):
    """Signals arrive in the thread this object lives in. Every request ends in `done`, in `ended` or in a newer one."""

    found = Signal(object, float)
    """What a turn of stages came to, and how many seconds after the request."""
    done = Signal()
    ended = Signal(str)
    """Why there will be no more: the process is gone in the middle of a request, or cannot read it; the next one is tried anew."""
    progress = Signal(float)
    _answered = Signal(object)

    def __init__(self, worker: Worker | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._number = 0
        self._asked = False
        self._since = 0.0
        self._stopping = False
        self._answered.connect(self._take)
        self._attach(worker or start_worker())

    def _attach(self, worker: Worker) -> None:
        self.worker = worker
        self._reader = threading.Thread(target=self._read, args=(worker,), name="planner", daemon=True)
        self._reader.start()

    def _read(self, worker: Worker) -> None:
        try:
            while True:
                self._answered.emit(worker.answers.recv())
        except (EOFError, OSError):
            if not self._stopping:
                self._answered.emit((self._number, "ended", None))

    def request(self, job: Job, known: Mapping[str, str]) -> None:
        """Compute this job but for what is known, keys by stage; whatever was being computed is given up."""
        self._number, self._asked, self._since = self._number + 1, True, perf_counter()
        self._send(job, known)

    def cancel(self) -> None:
        """Give up what is being computed."""
        self._number, self._asked = self._number + 1, False
        self._send(None, {})

    def _send(self, job: Job | None, known: Mapping[str, str]) -> None:
        if self._stopping:
            return
        if self.worker.process.poll() is not None:
            self._reader.join()
            self.worker.close()
            self._attach(start_worker())
        with contextlib.suppress(OSError):  # it ended just now: its reader says so
            self.worker.requests.send((self._number, job, known))

    def _take(self, answer: tuple[int, str, object]) -> None:
        number, kind, value = answer
        if number != self._number or not self._asked or self._stopping:
            return
        if kind == "values":
            self.found.emit(value, perf_counter() - self._since)
        elif kind == "progress":
            self.progress.emit(value)
        else:
            self._asked = False
            if kind == "end":
                self.done.emit()
            else:
                self.ended.emit(value or GONE)

    def stop(self) -> None:
        """End the process and wait for it."""
        self._stopping = True
        self._number += 1
        with contextlib.suppress(OSError):
            self.worker.requests.close()
        try:
            self.worker.process.wait(PATIENCE_SECONDS)
        except subprocess.TimeoutExpired:
            self.worker.process.kill()
            self.worker.process.wait()
        self._reader.join()
        self.worker.close()
