"""The computing process killed, stopped, ended by every stage: the window goes on, and says what it was at."""

from __future__ import annotations

import os
import signal
from collections.abc import Iterator
from time import perf_counter
from typing import Any

import pytest
from PySide6.QtWidgets import QApplication

from hollow_keel.core.change import change
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.stages import BY_ID
from hollow_keel.demo.jobs import demo_job, pipit
from hollow_keel.ui.window import planner as module
from hollow_keel.ui.window.planner import Planner

WAIT_MS = 60_000


@pytest.fixture
def planner(qapp: QApplication) -> Iterator[Planner]:
    own = Planner()
    yield own
    own.stop()


def killed_at(planner: Planner, stage: str) -> list[int]:
    """The process is killed whenever it says that it is at a stage; those that were."""
    killed: list[int] = []

    def kill(answer: tuple[int, str, object]) -> None:
        if answer[1] == "stage" and answer[2] == stage and planner.worker.process.pid not in killed:
            killed.append(planner.worker.process.pid)
            planner.worker.process.kill()

    planner._answered.connect(kill)
    return killed


def found_in(planner: Planner) -> list[str]:
    found: list[str] = []
    planner.found.connect(lambda values, _: found.extend(value.stage for value in values))
    return found


def test_killed_once_it_comes_back_by_itself(planner: Planner, qtbot: Any) -> None:
    killed, found, said = killed_at(planner, "planking"), found_in(planner), []
    planner.ended.connect(said.append)

    def once(_: object) -> None:
        if killed:
            planner._answered.disconnect()
            planner._answered.connect(planner._take)

    planner.progress.connect(once)
    planner.found.connect(lambda *_: once(None))
    first = planner.worker.process
    planner.request(pipit(), {})
    qtbot.waitUntil(lambda: bool(killed), timeout=WAIT_MS)
    once(None)
    qtbot.waitUntil(lambda: PLANKING.id in found and not planner._asked, timeout=WAIT_MS)
    assert said == []
    assert planner.worker.process.pid != first.pid
    assert first.returncode == -signal.SIGKILL  # waited for: no zombie


@pytest.mark.parametrize("stage", ["lines", "planking", "stock"])
def test_killed_twice_it_says_at_what_and_goes_on_at_the_next_edit(planner: Planner, qtbot: Any, stage: str) -> None:
    killed, said = killed_at(planner, stage), []
    planner._answered.connect(lambda answer: said.append(answer[2]) if answer[1] == "stage" else None)
    with qtbot.waitSignal(planner.ended, timeout=WAIT_MS) as ended:
        planner.request(pipit(), {})
    assert len(killed) == 2
    assert stage in said
    # a short stage may be over before the kill comes
    assert f"ended twice at {BY_ID[said[-1]].name}" in ended.args[0]
    planner._answered.disconnect()
    planner._answered.connect(planner._take)
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        planner.request(change(pipit(), "", name="Again"), {})


def test_the_end_of_one_that_has_another_in_its_place_is_no_end(planner: Planner, qtbot: Any) -> None:
    """Its reader may say so when the next request is under way already: that one was waited for, for ever."""
    said: list[str] = []
    planner.ended.connect(said.append)
    first = planner.worker
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        planner.request(pipit(), {})
    first.process.kill()
    first.process.wait()
    planner.request(change(pipit(), "strips", width=21.0), {})
    second = planner.worker
    planner._answered.emit((planner._number, "ended", first))
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        pass
    assert planner.worker is second is not first
    assert said == []


@pytest.mark.parametrize("taken", [True, False])
def test_one_that_hangs_is_ended_and_started_again(
    planner: Planner, qtbot: Any, monkeypatch: pytest.MonkeyPatch, taken: bool
) -> None:
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        planner.request(pipit(), {})
    monkeypatch.setattr(module, "HUNG_SECONDS", 0.4 if taken else 60.0)
    monkeypatch.setattr(module, "DEAF_SECONDS", 60.0 if taken else 0.4)
    hung = planner.worker.process
    if not taken:
        os.kill(hung.pid, signal.SIGSTOP)

    def stop_there(answer: tuple[int, str, object]) -> None:
        if answer[1] == "stage" and planner.worker.process is hung:
            os.kill(hung.pid, signal.SIGSTOP)
            monkeypatch.setattr(module, "DEAF_SECONDS", 60.0)

    planner._answered.connect(stop_there)
    planner.request(change(pipit(), "strips", width=21.0), {})
    qtbot.waitUntil(lambda: planner.worker.process is not hung, timeout=WAIT_MS)
    monkeypatch.setattr(module, "HUNG_SECONDS", 60.0)
    monkeypatch.setattr(module, "DEAF_SECONDS", 60.0)
    qtbot.waitUntil(lambda: not planner._asked, timeout=WAIT_MS)
    assert hung.returncode == -signal.SIGKILL


def test_a_process_that_does_not_read_keeps_no_request_waiting(planner: Planner, qtbot: Any) -> None:
    """A stopped process (swapped out, under a debugger): after some dozens of edits its pipe is full, and the window hung for good.
    The newest is what it is at when it goes on."""
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        planner.request(pipit(), {})
    os.kill(planner.worker.process.pid, signal.SIGSTOP)
    known = {f"stage-{k}": "x" * 1000 for k in range(100)}  # some 100 kB a request: the pipe holds ten
    longest = 0.0
    for k in range(60):
        before = perf_counter()
        planner.request(change(pipit(), "", name=f"Edit {k}"), known)
        longest = max(longest, perf_counter() - before)
    assert longest < 1.0
    os.kill(planner.worker.process.pid, signal.SIGCONT)
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        pass
    assert planner._asked is None
    assert planner._number == 61


def test_a_request_is_written_down_when_it_is_made(planner: Planner, qtbot: Any) -> None:
    """A job remembers what was asked of it (its table as lines): written down in another thread meanwhile it changed in size, and
    the thread that sends was gone, and with it every later request."""
    known = {f"stage-{k}": "x" for k in range(20_000)}
    planner.request(pipit(), known)
    for k in range(20_000):
        known[f"more-{k}"] = "x"
    with qtbot.waitSignal(planner.done, timeout=WAIT_MS):
        pass
    assert planner._sender._thread.is_alive()


def test_a_process_that_does_not_read_is_ended_with_the_window(qapp: QApplication) -> None:
    own = Planner()
    os.kill(own.worker.process.pid, signal.SIGSTOP)
    own.request(pipit(), {"stage": "x" * 4_000_000})
    stopped = own.worker.process
    own.stop()
    assert stopped.returncode == -signal.SIGKILL


def test_a_newer_request_breaks_off_a_stage_that_does_not_tick(planner: Planner, qtbot: Any) -> None:
    """Layers of veneer take most of a second each without a tick: they are left where they are."""
    came: list[str] = []

    def ask_newer(answer: tuple[int, str, object]) -> None:
        came.append(f"{answer[0]} {answer[1]} {answer[2] if answer[1] == 'stage' else ''}".strip())
        if came[-1] == "1 stage layers":
            planner.request(pipit(), {})

    planner._answered.connect(ask_newer)
    planner.request(demo_job("sedge"), {})
    qtbot.waitUntil(lambda: "2 end" in came, timeout=WAIT_MS)
    rest = came[came.index("1 stage layers") + 1 : came.index("2 began")]
    assert rest == ["1 end"]
