"""The process that computes, so that the window never waits for arithmetic: python -m hollow_keel.app.worker

Requests and answers are pickled over this process's own pipes, each after its length. A request is
(number, job); a newer one, or (number, None), makes the running one give up. Answers are (number, kind, value):
"shape" a Shape, "progress" a share, "done" (Planking, how strips behave, the rest planned again, seconds), "checked" (findings
about the molds' pieces, how far the table settles the hull), "judged" a Fairness, "stocked" a StockPlan, "failed" a text.
"""

from __future__ import annotations

import pickle
import select
import struct
import sys
from time import perf_counter
from typing import Any, BinaryIO

HEAD = struct.Struct(">Q")
TICK_SECONDS = 0.08
FIRST_SECONDS = 2.0
"""So long a first request is waited for before what it does not need at once is loaded."""
PAUSE_SECONDS = 0.2
"""The lines are looked over when nothing was changed for so long: who types on is not kept waiting by it."""


def send(pipe: BinaryIO, message: Any) -> None:
    """Write one message. Raises OSError or ValueError where the other side is gone."""
    data = pickle.dumps(message, protocol=5)
    pipe.write(HEAD.pack(len(data)) + data)
    pipe.flush()


def receive(pipe: BinaryIO) -> Any:
    """Read one message. Raises EOFError at the end."""
    head = _exactly(pipe, HEAD.size)
    return pickle.loads(_exactly(pipe, HEAD.unpack(head)[0]))


def _exactly(pipe: BinaryIO, count: int) -> bytes:
    data = pipe.read(count) or b""
    while len(data) < count:  # an unbuffered pipe gives what it has
        more = pipe.read(count - len(data))
        if not more:
            raise EOFError
        data += more
    return data


class Requests:
    """What the window asks for, read when it is wanted: a thread that read it would have to wait for a busy interpreter.

    `pipe` is read unbuffered, so that what waits in it can be seen."""

    def __init__(self, pipe: BinaryIO) -> None:
        self._pipe = pipe

    def waits(self, seconds: float = 0.0) -> bool:
        """Whether a newer request (or the end) waits, or comes within so many seconds."""
        return bool(select.select([self._pipe], [], [], seconds)[0])

    def take(self) -> tuple[int, Any] | None:
        """The newest request, when there is one with a job; None at the end."""
        try:
            number, job = receive(self._pipe)
            while job is None or self.waits():
                number, job = receive(self._pipe)
        except EOFError:
            return None
        return number, job


def main() -> None:
    """Serve requests until the pipe closes."""
    with open(sys.stdin.fileno(), "rb", buffering=0, closefd=False) as pipe:
        _serve(Requests(pipe), sys.stdout.buffer)


def _serve(requests: Requests, answers: BinaryIO) -> None:
    sys.stdout = sys.stderr  # nothing but answers goes down the pipe
    from ..core.pipeline import Pipeline

    pipeline = Pipeline()
    if not requests.waits(FIRST_SECONDS):
        _load_slow()
    try:
        while (request := requests.take()) is not None:
            _compute(*request, pipeline, requests, answers)
    except (OSError, ValueError):
        return  # the window is gone


def _load_slow() -> None:
    """Load what strips and molds will need. The shape needs none of it, so a request that waits goes first."""
    import shapely  # noqa: F401


def _compute(number: int, job: Any, pipeline: Any, requests: Requests, answers: BinaryIO) -> None:
    from ..core.errors import Cancelled, HollowKeelError, ImpossiblePlan

    started = last = perf_counter()

    def tick(share: float) -> None:
        nonlocal last
        if requests.waits():
            raise Cancelled
        now = perf_counter()
        if now - last > TICK_SECONDS:
            last = now
            send(answers, (number, "progress", share))

    try:
        shape = pipeline.shape(job)
        tick(0.0)
        send(answers, (number, "shape", shape))
        planking = None
        try:
            planking = pipeline.planking(shape, tick)
            tick(1.0)
            found = pipeline.behaviours(shape, planking)
            send(
                answers, (number, "done", (planking, found, pipeline.replan(shape), perf_counter() - started))
            )
        except ImpossiblePlan as error:
            send(answers, (number, "failed", str(error)))
        requests.waits(PAUSE_SECONDS)
        tick(1.0)
        checks = pipeline.mold_checks(shape)
        if planking is not None:
            checks = (*checks, *pipeline.handling(shape, planking))
        send(answers, (number, "checked", (checks, pipeline.settled(shape))))
        tick(1.0)
        send(answers, (number, "judged", pipeline.fairness(shape, tick)))
        if planking is not None:
            send(answers, (number, "stocked", pipeline.stock(shape, planking, lambda _: tick(1.0))))
    except Cancelled:
        return
    except HollowKeelError as error:
        send(answers, (number, "failed", str(error)))
    except (OSError, MemoryError):
        raise
    except Exception as error:
        # A fault of ours must be seen and must not take the builder's work with it.
        send(
            answers,
            (number, "failed", f"Hollow Keel could not work this out ({type(error).__name__}: {error})."),
        )


if __name__ == "__main__":
    main()
