"""Restless hands on a window for as long as there is time: memory, threads, processes and idle time: python -m tools.attack.hands
MINUTES JOB SEED"""

from __future__ import annotations

import faulthandler
import json
import logging
import os
import signal
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from types import TracebackType

import pytest
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication, QMessageBox, QProgressDialog
from tests.ui.test_restless import Hands, do_something, with_answers

from hollow_keel.core.job import Job
from hollow_keel.core.stages import SHOWN
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.window.start import make_application
from hollow_keel.ui.window.window import MainWindow

from .outcome import processor

IDLE_SECONDS = 10.0
STILL_SECONDS = 60.0
"""Nothing that is waited for takes as long."""
REST_SECONDS = 12.0
"""When all is known and so long has passed, a window is at rest, and has let go of what is old."""
A_DAY = 400
"""After so many things the job is begun anew: a history without end would be memory that is meant to be held."""
PAGE = os.sysconf("SC_PAGE_SIZE")


def memory(pid: int) -> float:
    """Resident memory of a process, MB."""
    return int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * PAGE / 1e6


def children() -> list[int]:
    """Processes that are ours."""
    found: list[int] = []
    for task in Path("/proc/self/task").iterdir():
        with suppress(FileNotFoundError):  # a thread that ended meanwhile
            found += map(int, (task / "children").read_text().split())
    return found


class StandsStill(QTimer):
    """Gives up what is waited for too long, and notes it as a fault."""

    def __init__(self, window: MainWindow, hands: Hands, faults: list[str]) -> None:
        super().__init__(interval=round(STILL_SECONDS * 500))
        self._window, self._hands, self._faults = window, hands, faults
        self._since, self._at = time.monotonic(), 0
        self.timeout.connect(self._look)
        self.start()

    def _look(self) -> None:
        now, at = time.monotonic(), len(self._hands.done)
        if at != self._at:
            self._since, self._at = now, at
        elif now - self._since > STILL_SECONDS:
            state = self._window.state
            open_still = [stage.id for stage in SHOWN if not state.answered([stage])]
            self._faults.append(f"stands still after {self._hands.done[-6:]}, {open_still} not known")
            print(self._faults[-1], self._window.planner._asked is not None, flush=True)
            for box in self._window.findChildren(QProgressDialog):
                box.canceled.emit()  # as its button does: cancel() tells nobody


def another_day(app: QApplication, window: MainWindow, name: str) -> None:
    """Begin the job anew and let it come to rest: what is held then is held whatever was done before."""
    window.session.start(demo_job(name))
    window.go_to(0)
    _events(app, STILL_SECONDS, lambda: window.state.answered(SHOWN))
    _events(app, REST_SECONDS)


def _events(app: QApplication, seconds: float, done: Callable[[], bool] = lambda: False) -> None:
    """Let the window work for some time, or until it is done."""
    until = time.monotonic() + seconds
    while time.monotonic() < until and not done():
        app.processEvents()
        time.sleep(0.01)


def main(minutes: float, name: str, seed: int) -> None:
    """Poke, and print a line of figures a minute, and one of memory whenever a job was begun."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    faulthandler.register(signal.SIGUSR1)  # says where it is, should it stand still
    app = make_application()
    logging.basicConfig()
    hands, faults = Hands(seed), []

    def noted(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        faults.append(f"{kind.__name__}: {error}")
        sys.__excepthook__(kind, error, trace)

    sys.excepthook = noted
    with tempfile.TemporaryDirectory() as folder, pytest.MonkeyPatch.context() as patch:
        with_answers(hands, Path(folder), patch)
        patch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Discard)
        patch.setattr(QMessageBox, "warning", lambda *_: QMessageBox.StandardButton.Ok)
        window = MainWindow(demo_job(name), Path(folder) / "own")
        window.show()
        still = StandsStill(window, hands, faults)
        began = minute = time.monotonic()
        steps = 0
        while time.monotonic() - began < 60 * minutes:
            do_something(hands, window)
            steps += 1
            if steps % A_DAY == 0:
                another_day(app, window, name)
                at_rest = memory(os.getpid()) + memory(window.planner.worker.process.pid)
                print(json.dumps({"begun": round((time.monotonic() - began) / 60, 1), "rest": round(at_rest)}), flush=True)
            if time.monotonic() - minute > 60 or time.monotonic() - began > 60 * minutes - 1:
                minute = time.monotonic()
                worker = window.planner.worker.process.pid
                figures = {
                    "minute": round((minute - began) / 60, 1),
                    "steps": steps,
                    "window": round(memory(os.getpid())),
                    "worker": round(memory(worker)),
                    "threads": threading.active_count(),
                    "processes": len(children()),
                    "faults": len(faults),
                }
                print(json.dumps(figures), flush=True)
        still.stop()
        window.session.start(Job())
        _events(app, REST_SECONDS)
        pids = [os.getpid(), *children()]
        used = sum(map(processor, pids))
        idle = time.monotonic()
        loop = QEventLoop()
        QTimer.singleShot(int(IDLE_SECONDS * 1000), loop.quit)
        loop.exec()
        share = (sum(map(processor, pids)) - used) / (time.monotonic() - idle)
        window.close()
        print(json.dumps({"idle": round(100 * share, 2), "left": len(children()), "faults": faults[:5]}), flush=True)


if __name__ == "__main__":
    main(float(sys.argv[1]), sys.argv[2], int(sys.argv[3]))
