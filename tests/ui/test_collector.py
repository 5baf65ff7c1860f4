"""Garbage that holds Qt objects is never taken apart in another thread than the window's."""

from __future__ import annotations

import gc
import subprocess
import sys
import threading
import time
import weakref
from typing import Any

import pytest
from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QApplication, QProgressDialog, QWidget

from hollow_keel.core.errors import InputError
from hollow_keel.ui.background.aside import run_aside
from hollow_keel.ui.window.collector import Collector


class Ring(QObject):
    """Holds itself, as a widget with a lambda on its own signal does."""

    def __init__(self, ended_in: list[threading.Thread]) -> None:
        super().__init__()
        self.itself = self
        weakref.finalize(self, lambda: ended_in.append(threading.current_thread()))


def busy_thread() -> list[object]:
    """What a thread made: far more objects than Python lets pass before it collects."""
    kept: list[object] = []

    def work() -> None:
        for _ in range(200):
            kept.append([{} for _ in range(1000)])

    thread = threading.Thread(target=work)
    thread.start()
    thread.join()
    return kept


def test_collecting_waits_for_the_window(qtbot: Any, qapp: QApplication) -> None:
    collector = Collector(qapp)
    collector.settle()
    ended_in: list[threading.Thread] = []
    for _ in range(20):
        Ring(ended_in)
    made = busy_thread()
    assert not ended_in
    qtbot.waitUntil(lambda: len(ended_in) == 20, timeout=5_000)
    assert made
    assert set(ended_in) == {threading.main_thread()}
    collector.deleteLater()
    gc.unfreeze()


def test_a_window_at_rest_lets_go_of_what_is_old(qtbot: Any, qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    """A ring that has outlived two collections waits for Python's third, which comes after tens of thousands of objects more."""
    ended_in: list[threading.Thread] = []
    qtbot.wait(50)  # the collector of the test before is gone
    gc.collect()
    old = [Ring(ended_in)]
    gc.collect(0)
    gc.collect(1)
    monkeypatch.setattr("hollow_keel.ui.window.collector.REST_LOOKS", 2)
    monkeypatch.setattr(gc, "freeze", lambda: None)
    collector = Collector(qapp)
    collector.settle()
    old.clear()
    made = busy_thread()  # something is due, and then nothing
    qtbot.waitUntil(lambda: bool(ended_in), timeout=5_000)
    assert made
    collector.deleteLater()


def test_the_program_takes_collecting_over() -> None:
    """In a process of its own, since there is one application."""
    script = (
        "import gc; from hollow_keel.ui.window.start import make_application\n"
        "from hollow_keel.ui.window.collector import Collector\n"
        "app = make_application(); assert not gc.isenabled(); assert app.findChild(Collector)"
    )
    subprocess.run([sys.executable, "-c", script], check=True, timeout=60)


def test_work_beside_the_window_answers_or_raises(qtbot: Any) -> None:
    parent = QWidget()
    qtbot.addWidget(parent)
    assert run_aside(parent, "Working…", lambda: 42) == 42

    def refused() -> None:
        raise InputError("no good", value="7", mend="Take another.")

    with pytest.raises(InputError, match="no good"):
        run_aside(parent, "Working…", refused)


def test_work_given_up_is_let_go_of_in_the_window_s_thread(qtbot: Any, qapp: QApplication) -> None:
    parent = QWidget()
    qtbot.addWidget(parent)
    parent.show()
    go_on = threading.Event()
    ended_in: list[threading.Thread] = []

    def given_up() -> object:
        class Held(QObject):
            pass

        held = Held()
        weakref.finalize(held, lambda: ended_in.append(threading.current_thread()))

        def work() -> object:
            go_on.wait(10)
            return held.objectName()

        def give_up() -> None:
            box = parent.findChild(QProgressDialog)
            assert box is not None
            box.canceled.emit()
            box.cancel()

        QTimer.singleShot(50, give_up)
        return run_aside(parent, "Working…", work)

    assert given_up() is None
    go_on.set()
    started = time.monotonic()
    while not ended_in and time.monotonic() - started < 10:
        qapp.processEvents()
        time.sleep(0.01)
    assert ended_in == [threading.main_thread()]
