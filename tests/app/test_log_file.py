"""What goes wrong is written down with its traceback, where the user's state is kept; nothing is swallowed."""

from __future__ import annotations

import logging
import signal
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest

from hollow_keel.app import log


@pytest.fixture
def kept(monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    monkeypatch.setattr(threading, "excepthook", threading.excepthook)
    root = logging.getLogger()
    before, level = list(root.handlers), root.level
    path = log.keep_log("window")
    assert path is not None
    yield path
    for handler in root.handlers[:]:
        if handler not in before:
            root.removeHandler(handler)
            handler.close()
    root.setLevel(level)


def test_what_nobody_catches_is_written_down(kept: Path, capsys: pytest.CaptureFixture[str]) -> None:
    try:
        raise ZeroDivisionError("a fault of ours")
    except ZeroDivisionError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    text = kept.read_text(encoding="utf-8")
    assert "ZeroDivisionError: a fault of ours" in text
    assert "in test_what_nobody_catches_is_written_down" in text
    assert "a fault of ours" in capsys.readouterr().err, "it is said as well"


def test_a_full_log_is_turned_over(kept: Path) -> None:
    for k in range(40):
        logging.getLogger("hollow_keel").error("%d %s", k, "x" * 60_000)
    logs = sorted(kept.parent.glob("window.log*"))
    assert len(logs) == 1 + log.OLDER
    assert all(p.stat().st_size < log.BYTES + 70_000 for p in logs)


def test_a_folder_that_cannot_be_made_stops_nobody(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "file"))
    assert log.keep_log("window") is None


def test_a_fault_in_the_computing_process_is_in_its_log(tmp_path: Path) -> None:
    code = (
        "from hollow_keel.app import log; from hollow_keel.app.processes import launch\n"
        "w = launch.start_worker(); w.requests.send((1, 'not a job', {}))\n"
        "print(w.answers.recv()[1], w.answers.recv()[1]); w.requests.close(); w.process.wait(20); w.close()\n"
        "print(log.log_file('worker').read_text())\n"
    )
    import os

    env = {**os.environ, "XDG_STATE_HOME": str(tmp_path)}
    said = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
    assert said.startswith("began fault")
    assert "Traceback" in said
    assert "keys_of" in said


def test_where_a_process_crashed_is_in_its_log(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    code = (
        "import os; from hollow_keel.app import log\n"
        "log.keep_log('worker'); log.keep_crashes('worker')\n"
        "def planing():\n    os.abort()\n"
        "planing()\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, check=False)
    assert done.returncode == -signal.SIGABRT
    assert "in planing" in log.log_file("worker").read_text(encoding="utf-8")
