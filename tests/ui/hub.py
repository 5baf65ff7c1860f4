"""One computing process for all windows of a test run. It remembers what it came to: a window of a job that was planned before has
its results at once. They are the real ones; only nobody waits for the same ones twice."""

from __future__ import annotations

import subprocess
import sys
import threading
from contextlib import chdir, suppress
from multiprocessing import Pipe
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from hollow_keel.app.processes.launch import Worker, started

ROOT = Path(__file__).parents[2]
PATIENCE_SECONDS = 0.2


class SharedProcess:
    """The real process as one window sees it: it outlives the window."""

    def __init__(self, process: subprocess.Popen[bytes]) -> None:
        self._process = process
        self.pid = process.pid

    def poll(self) -> int | None:
        return self._process.poll()

    def wait(self, _seconds: float | None = None) -> int:
        """As far as a window waits for its own to end; one that was killed has."""
        try:
            return self._process.wait(PATIENCE_SECONDS if self._process.poll() is None and _seconds is None else 0)
        except subprocess.TimeoutExpired:
            return 0

    def kill(self) -> None:
        self._process.kill()

    def send_signal(self, number: int) -> None:
        self._process.send_signal(number)


class Hub:
    """Hands requests of the newest window on, and answers back."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._number = 0
        self._window: tuple[Connection, int] | None = None
        self._real: Worker | None = None

    def worker(self) -> Worker:
        """What a new window takes for its computing process."""
        if self._real is None or self._real.process.poll() is not None:
            with chdir(ROOT):
                self._real = started([sys.executable, "-m", "tests.remembering_worker"])
            threading.Thread(target=self._answer, args=(self._real,), name="hub-answers", daemon=True).start()
        asked, requests = Pipe(duplex=False)
        answers, answered = Pipe(duplex=False)
        own = (self._real, asked, answered)
        threading.Thread(target=self._ask, args=own, name="hub-requests", daemon=True).start()
        process: Any = SharedProcess(self._real.process)
        return Worker(process, requests, answers)

    def _ask(self, real: Worker, asked: Connection, answered: Connection) -> None:
        """Requests of one window, until it goes."""
        with asked, answered:
            try:
                while True:
                    number, job, known = asked.recv()
                    with self._lock:
                        self._number += 1
                        self._window = (answered, number)
                        real.requests.send((self._number, job, known))
            except (EOFError, OSError):
                pass
            with self._lock:
                if self._window is not None and self._window[0] is answered:
                    self._window = None
                    self._number += 1
                    with suppress(OSError):
                        real.requests.send((self._number, None, {}))

    def _answer(self, real: Worker) -> None:
        """Answers of the real process, until it ends."""
        try:
            while True:
                number, kind, value = real.answers.recv()
                with self._lock:
                    if number == self._number and self._window is not None:
                        with suppress(OSError):
                            self._window[0].send((self._window[1], kind, value))
        except (EOFError, OSError):
            with self._lock:
                if self._window is not None:
                    self._window[0].close()  # the window is told that it is gone
                    self._window = None

    def close(self) -> None:
        """End the process."""
        if self._real is not None:
            self._real.process.kill()
            self._real.process.wait()
            self._real.close()
