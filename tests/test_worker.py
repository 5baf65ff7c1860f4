"""The computing process, spoken to over its pipes as the window does."""

from __future__ import annotations

import io
import subprocess
from collections.abc import Iterator
from typing import Any

import pytest

from hollow_keel.app.launch import start_worker
from hollow_keel.app.overrides import apply_override
from hollow_keel.app.worker import receive, send
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.demo.jobs import linnet, pipit


@pytest.fixture
def worker() -> Iterator[subprocess.Popen[bytes]]:
    process = start_worker()
    yield process
    assert process.stdin is not None
    assert process.stdout is not None
    process.stdin.close()
    assert process.wait(20) == 0, "the process ends by itself when the window is gone"
    process.stdout.close()


def answers(worker: subprocess.Popen[bytes], number: int) -> dict[str, Any]:
    """All answers to one request, by kind; ends at done or failed."""
    found: dict[str, Any] = {}
    while not {"done", "failed"} & set(found):
        told, kind, value = receive(worker.stdout)
        if told == number:
            found[kind] = value
    return found


def test_messages_go_through_whole() -> None:
    pipe = io.BytesIO()
    for message in ((1, "shape", b"x" * 100_000), (2, "done", None)):
        send(pipe, message)
    pipe.seek(0)
    assert receive(pipe)[2] == b"x" * 100_000
    assert receive(pipe) == (2, "done", None)
    with pytest.raises(EOFError):
        receive(pipe)
    with pytest.raises(EOFError):
        receive(io.BytesIO(b"\0\0\0\0\0\0\0\5ab"))


def test_a_job_comes_back_as_shape_and_strips(worker: subprocess.Popen[bytes]) -> None:
    send(worker.stdin, (1, pipit()))
    found = answers(worker, 1)
    assert len(found["shape"].molds.molds) == 9
    planking, handling, _, seconds = found["done"]
    assert set(handling) == set(range(1, 43))
    assert len(planking.strips) == 42
    assert seconds > 0


def test_the_newest_request_wins(worker: subprocess.Popen[bytes]) -> None:
    for number, width in enumerate(("9mm", "10mm", "11mm", "40mm"), start=1):
        send(worker.stdin, (number, apply_override(linnet(), "strip.width", width)))
    planking, *_ = answers(worker, 4)["done"]
    assert planking.width == 40


def test_a_newer_request_ends_long_work_at_once(worker: subprocess.Popen[bytes]) -> None:
    send(worker.stdin, (1, linnet()))
    while receive(worker.stdout)[:2] != (1, "judged"):
        pass
    send(worker.stdin, (2, pipit()))  # while Linnet's boards are being planned, which takes a second or more
    kinds: list[tuple[int, str]] = []
    while not kinds or kinds[-1] != (2, "done"):
        kinds.append(receive(worker.stdout)[:2])
    assert (1, "stocked") not in kinds


def test_boards_are_planned_last(worker: subprocess.Popen[bytes]) -> None:
    send(worker.stdin, (1, pipit()))
    kinds: list[str] = []
    while "stocked" not in kinds:
        kinds.append(receive(worker.stdout)[1])
    assert [k for k in kinds if k != "progress"] == ["shape", "done", "checked", "judged", "stocked"]


def test_faults_come_back_as_texts(worker: subprocess.Popen[bytes]) -> None:
    send(worker.stdin, (1, Job()))
    assert "empty" in answers(worker, 1)["failed"]
    rows = tuple(r for r in linnet().offsets.rows if r.label != "sheer")
    send(worker.stdin, (2, linnet().model_copy(update={"offsets": OffsetsTable(rows=rows)})))
    assert "no sheer" in answers(worker, 2)["failed"]
    send(worker.stdin, (3, apply_override(linnet(), "strip.width", "9m")))
    found = answers(worker, 3)
    assert "wider" in found["failed"]
    assert "shape" in found


def test_a_fault_of_ours_is_said_and_the_process_goes_on(worker: subprocess.Popen[bytes]) -> None:
    send(worker.stdin, (1, "not a job at all"))
    assert "could not work this out" in answers(worker, 1)["failed"]
    send(worker.stdin, (2, pipit()))
    assert "done" in answers(worker, 2)
