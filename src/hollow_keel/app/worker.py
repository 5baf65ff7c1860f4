"""The process that computes, so that the window never waits for arithmetic: python -m hollow_keel.app.worker

Requests and answers are pickled over this process's own pipes, each after its length. A request is
(number, job); a newer one, or (number, None), makes the running one give up. Answers are (number, kind, value):
"shape" a Shape, "progress" a share, "done" (Planking, seconds), "checked" findings about the molds' pieces, "judged" a
Fairness, "stocked" a StockPlan, "failed" a text.
"""

from __future__ import annotations

import pickle
import struct
import sys
import threading
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
    data = pipe.read(count)
    if data is None or len(data) < count:
        raise EOFError
    return data


class _Newest:
    """The newest request, shared between the reading and the computing thread."""

    def __init__(self) -> None:
        self.changed = threading.Condition()
        self.number, self.job, self.closed = 0, None, False

    def read(self, pipe: BinaryIO) -> None:
        try:
            while True:
                number, job = receive(pipe)
                with self.changed:
                    self.number, self.job = number, job
                    self.changed.notify()
        except EOFError:
            with self.changed:
                self.closed, self.number = True, -1
                self.changed.notify()

    def wait_for_newer(self, number: int, seconds: float) -> None:
        """Wait a little, or until another request comes."""
        with self.changed:
            self.changed.wait_for(lambda: self.number != number, seconds)

    def take(self) -> tuple[int, Any] | None:
        with self.changed:
            while self.job is None and not self.closed:
                self.changed.wait()
            job, self.job = self.job, None
            return None if self.closed else (self.number, job)


def main() -> None:
    """Serve requests until the pipe closes."""
    requests, answers = sys.stdin.buffer, sys.stdout.buffer
    sys.stdout = sys.stderr  # nothing but answers goes down the pipe
    newest = _Newest()
    threading.Thread(target=newest.read, args=(requests,), name="requests", daemon=True).start()
    from ..core.pipeline import Pipeline

    pipeline = Pipeline()
    newest.wait_for_newer(0, FIRST_SECONDS)
    if newest.number == 0:
        _load_slow()
    try:
        while (request := newest.take()) is not None:
            _compute(*request, pipeline, newest, answers)
    except (OSError, ValueError):
        return  # the window is gone


def _load_slow() -> None:
    """Load what strips and molds will need. The shape needs none of it, so a request that waits goes first."""
    import shapely  # noqa: F401


def _compute(number: int, job: Any, pipeline: Any, newest: _Newest, answers: BinaryIO) -> None:
    from ..core.errors import Cancelled, HollowKeelError, ImpossiblePlan

    started = last = perf_counter()

    def tick(share: float) -> None:
        nonlocal last
        if number != newest.number:
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
            send(answers, (number, "done", (planking, perf_counter() - started)))
        except ImpossiblePlan as error:
            send(answers, (number, "failed", str(error)))
        newest.wait_for_newer(number, PAUSE_SECONDS)
        tick(1.0)
        checks = pipeline.mold_checks(shape)
        if planking is not None:
            checks = (*checks, *pipeline.handling(shape, planking))
        send(answers, (number, "checked", checks))
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
