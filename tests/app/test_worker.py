"""The computing process, spoken to over its pipes as the window does."""

from __future__ import annotations

import random
import signal
import subprocess
import sys
import time
from collections.abc import Iterator, Mapping
from multiprocessing import Pipe
from types import ModuleType
from typing import Any

import pytest

from hollow_keel.app.overrides import apply_override
from hollow_keel.app.processes.launch import LOOK, Worker, start_worker
from hollow_keel.app.processes.worker import Interrupted, Requests
from hollow_keel.core.change import change
from hollow_keel.core.errors import Cancelled
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.stage import Failed, FailureKind, Turn, Value
from hollow_keel.core.stages import STAGES, keys_of
from hollow_keel.demo.jobs import linnet, pipit


@pytest.fixture
def worker() -> Iterator[Worker]:
    own = start_worker()
    yield own
    own.requests.close()
    assert own.process.wait(20) == 0, "the process ends by itself when the window is gone"
    own.close()


def turns(worker: Worker, number: int, last: str = "") -> Iterator[tuple[Value, ...]]:
    """What comes in answer to a request, turn by turn, to its end or until a stage has come."""
    while True:
        told, kind, value = worker.answers.recv()
        if told != number:
            continue
        if kind == "end":
            return
        if kind == "values":
            yield value
            if last in {v.stage for v in value}:
                return


def answers(worker: Worker, job: object, number: int = 1, known: Mapping[str, str] | None = None, last: str = "") -> dict[str, Any]:
    """All values in answer to one request, by stage."""
    worker.requests.send((number, job, known or {}))
    return {v.stage: v.value for turn in turns(worker, number, last) for v in turn}


def test_a_job_comes_back_turn_by_turn_under_its_own_keys(worker: Worker) -> None:
    job = pipit()
    worker.requests.send((1, job, {}))
    found = list(turns(worker, 1))
    by_id = {s.id: s for s in STAGES}
    assert [{by_id[v.stage].turn for v in turn} for turn in found] == [{turn} for turn in Turn]
    values = {v.stage: v for turn in found for v in turn}
    assert {name: v.key for name, v in values.items()} == {
        s.id: key for s, key in zip(STAGES, map(keys_of(job).get, by_id), strict=True) if s.shown
    }
    assert len(values["molds"].value.molds) == 9
    assert len(values["planking"].value.strips) == 42
    assert set(values["behaviours"].value) == set(range(1, 43))
    assert values["stock"].value.needs


def test_what_the_window_holds_is_not_sent_again(worker: Worker) -> None:
    job = pipit()
    first = keys_of(job)
    answers(worker, job)
    assert answers(worker, job, 2, first) == {}
    thicker = change(job, "molds", skin=9.0)
    again = answers(worker, thicker, 3, first)
    assert {"molds", "pieces", "setup"} <= set(again)
    assert not {"lines", "hull", "measures", "planking", "fairness"} & set(again)


def test_the_newest_request_wins(worker: Worker) -> None:
    for number, width in enumerate(("9mm", "10mm", "11mm"), start=1):
        worker.requests.send((number, apply_override(linnet(), "strip.width", width), {}))
    found = answers(worker, apply_override(linnet(), "strip.width", "40mm"), 4, last="planking")
    assert found["planking"].width == 40


def test_a_newer_request_ends_long_work_at_once(worker: Worker) -> None:
    worker.requests.send((1, linnet(), {}))
    while not any(v.stage == "fairness" for v in next(turns(worker, 1))):
        pass
    worker.requests.send((2, pipit(), {}))  # while Linnet's boards are being planned, which takes a second or more
    seen: list[tuple[int, str]] = []
    while (2, "planking") not in seen:
        number, kind, value = worker.answers.recv()
        seen += [(number, v.stage) for v in value] if kind == "values" else []
    assert (1, "stock") not in seen


REQUESTS = 50


def test_work_may_be_broken_off_anywhere(worker: Worker) -> None:
    """A newer request comes after any time: a thread of a library, left at work on what its caller gave back, ended the process."""
    dice = random.Random(7)
    for number in range(REQUESTS):
        job = apply_override(linnet(), "strip.width", str(20 + number / 100))
        worker.requests.send((number, job, {}))
        worker.process.send_signal(LOOK)
        until = time.monotonic() + dice.uniform(0.0, 0.25)
        while worker.answers.poll(max(0.0, until - time.monotonic())):
            worker.answers.recv()
    assert worker.process.poll() is None
    assert PLANKING.id in {value.stage for turn in turns(worker, REQUESTS - 1, PLANKING.id) for value in turn}


def test_a_request_while_it_loads_waits_its_turn(monkeypatch: pytest.MonkeyPatch) -> None:
    """It came while the module with the very word for giving up was half loaded, and ended the process."""
    asked, window = Pipe(duplex=False)
    before = signal.getsignal(LOOK)
    with asked, window:
        interrupted = Interrupted(Requests(asked))
        try:
            window.send((1, Job(), {}))
            with monkeypatch.context() as half:
                half.setitem(sys.modules, "hollow_keel.core.errors", ModuleType("hollow_keel.core.errors"))
                signal.raise_signal(LOOK)
            with pytest.raises(Cancelled), interrupted.busy(True):
                signal.raise_signal(LOOK)
        finally:
            signal.signal(LOOK, before)


def test_it_ends_with_the_window_whatever_it_is_at() -> None:
    """Work that never ticks, and nobody who would say that it is to be looked at: one went on for two hours."""
    code = (
        "from hollow_keel.app.processes import launch, worker\n"
        "asked, _ = launch.own_pipes()\n"
        "worker.end_with_the_window(asked)\n"
        "print('at work', file=__import__('sys').stderr, flush=True)\n"
        "while True:\n    pass\n"
    )
    process = subprocess.Popen([sys.executable, "-c", code], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    with process:
        assert process.stdin is not None
        assert process.stderr is not None
        assert process.stderr.readline() == b"at work\n"
        assert process.poll() is None
        process.stdin.close()
        assert process.wait(20) == 0


def test_what_went_wrong_stands_where_it_did(worker: Worker) -> None:
    assert "empty" in answers(worker, Job())["lines"].message
    rows = tuple(r for r in linnet().offsets.rows if r.label != "sheer")
    found = answers(worker, linnet().model_copy(update={"offsets": OffsetsTable(rows=rows)}), 2)
    failed = {
        name: v for name, v in found.items() if v is not None and name not in ("moved", "table-slips")
    }  # what has nothing to do cannot fail
    assert len(failed) > 15
    assert all(isinstance(v, Failed) and v.stage == "lines" for v in failed.values())
    assert "no sheer" in found["hull"].message
    found = answers(worker, apply_override(linnet(), "strip.width", "9m"), 3)
    assert "wider" in found["planking"].message
    assert found["planking"].kind is FailureKind.IMPOSSIBLE
    assert len(found["molds"].molds) == 12
    assert found["fairness"].hydro.volume > 0


def test_a_fault_of_ours_is_said_and_the_process_goes_on(worker: Worker) -> None:
    worker.requests.send((1, "not a job at all", {}))
    assert worker.answers.recv() == (1, "began", None)
    told, kind, _ = worker.answers.recv()
    assert (told, kind) == (1, "fault")
    assert len(answers(worker, pipit(), 2, last="planking")["planking"].strips) == 42
