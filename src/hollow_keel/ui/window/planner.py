"""Asks a process of our own for results: the newest request wins, older ones are given up."""

from __future__ import annotations

import contextlib
import logging
import subprocess
import threading
from collections.abc import Mapping
from dataclasses import dataclass
from time import perf_counter

from PySide6.QtCore import QObject, QTimer, Signal

from ...app.processes.launch import Worker, start_worker
from ...app.processes.sender import Sender
from ...core.job import Job
from ...core.stages import BY_ID

log = logging.getLogger(__name__)
PATIENCE_SECONDS, SENT_SECONDS = 5.0, 1.0
LOOK_MS = 1000
DEAF_SECONDS, HUNG_SECONDS = 20.0, 120.0
"""A process that does not take a request for so long, or says nothing for so long while it works, hangs: it is ended."""
TWICE = "The computing process ended twice at {what}: that is given up until something is changed. Its log is under Help."


@dataclass
class _Request:
    """What was asked for, and when; whether the process was started again for it, and the stage that it is at."""

    job: Job
    known: Mapping[str, str]
    since: float
    again: bool = False
    stage: str = ""

    @property
    def what(self) -> str:
        """What the process is at, in words."""
        return BY_ID[self.stage].name if self.stage in BY_ID else "this job"


class Planner(QObject):
    """Signals arrive in the thread this object lives in. Every request ends in `done`, in `ended` or in a newer one."""

    found = Signal(object, float)
    """What a turn of stages came to, and how many seconds after the request."""
    done = Signal()
    ended = Signal(str)
    """Why there will be no more: the process ended in the middle of a request, and once more when it was started again for it, or
    it cannot read it. The next request is tried anew."""
    progress = Signal(float)
    _answered = Signal(object)

    def __init__(self, worker: Worker | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._number = 0
        self._asked: _Request | None = None
        self._stopping = False
        self._heard, self._taken = 0.0, True
        self._answered.connect(self._take)
        self._watch = QTimer(self)
        self._watch.setInterval(LOOK_MS)
        self._watch.timeout.connect(self._look)
        self._attach(worker or start_worker())

    def _attach(self, worker: Worker) -> None:
        self.worker = worker
        self._sender = Sender(worker)
        self._reader = threading.Thread(target=self._read, args=(worker,), name="planner", daemon=True)
        self._reader.start()

    def _read(self, worker: Worker) -> None:
        try:
            while True:
                self._answered.emit(worker.answers.recv())
        except (EOFError, OSError):
            if not self._stopping:
                self._answered.emit((self._number, "ended", worker))

    def request(self, job: Job, known: Mapping[str, str]) -> None:
        """Compute this job but for what is known, keys by stage; whatever was being computed is given up."""
        self._number, self._asked = self._number + 1, _Request(job, known, perf_counter())
        self._send(job, known)

    def cancel(self) -> None:
        """Give up what is being computed."""
        self._number, self._asked = self._number + 1, None
        self._send(None, {})

    def _send(self, job: Job | None, known: Mapping[str, str]) -> None:
        if self._stopping:
            return
        if self.worker.process.poll() is not None:
            self._start_again()
        self._heard, self._taken = perf_counter(), job is None
        self._watch.start()
        self._sender.send((self._number, job, known))

    def _start_again(self) -> None:
        self._sender.stop(PATIENCE_SECONDS)  # its pipe is broken: nothing is waited for
        self._reader.join()
        self.worker.close()
        self._attach(start_worker())

    def _look(self) -> None:
        """End a process that hangs: its reader says that it ended, and it is started again."""
        silent = perf_counter() - self._heard
        if not self._asked:
            self._watch.stop()
        elif silent > (HUNG_SECONDS if self._taken else DEAF_SECONDS):
            self._heard = perf_counter()
            self.worker.process.kill()

    def _take(self, answer: tuple[int, str, object]) -> None:
        number, kind, value = answer
        asked = self._asked
        if asked is None or self._stopping:
            return
        if kind == "ended":
            self._ended(asked, value)
            return
        if number != self._number:
            return
        self._heard, self._taken = perf_counter(), True
        if kind == "values":
            self.found.emit(value, perf_counter() - asked.since)
        elif kind == "stage":
            asked.stage = str(value)
        elif kind == "progress":
            self.progress.emit(value)
        elif kind != "began":
            self._asked = None
            if kind == "end":
                self.done.emit()
            else:
                self.ended.emit(str(value))

    def _ended(self, asked: _Request, worker: object) -> None:
        """A process is gone: another one is started, once for each request. One that has another in its place was told of."""
        if worker is not self.worker:
            return
        log.warning("the computing process ended at %s: %s", asked.what, self.worker.process.wait())
        if asked.again:
            self._asked = None
            self.ended.emit(TWICE.format(what=asked.what))
        else:
            asked.again = True
            self._send(asked.job, asked.known)

    def stop(self) -> None:
        """End the process and wait for it."""
        self._stopping = True
        self._watch.stop()
        self._number += 1
        if not self._sender.stop(SENT_SECONDS):  # it does not read
            self.worker.process.kill()
            self._sender.stop(PATIENCE_SECONDS)
        with contextlib.suppress(OSError):
            self.worker.requests.close()
        try:
            self.worker.process.wait(PATIENCE_SECONDS)
        except subprocess.TimeoutExpired:
            self.worker.process.kill()
            self.worker.process.wait()
        self._reader.join()
        self.worker.close()
