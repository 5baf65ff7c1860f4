"""The process that computes, so that the window never waits for arithmetic: python -m hollow_keel.app.processes.worker

A request is (number, job, known): `known` are the keys of the values that the window holds, by stage. A newer one, or one whose
job is None, makes the running one give up: at the next tick, or wherever it is when the window sends LOOK after it. Answers are
(number, kind, value): "began" when it is taken; "stage" the id of what is worked out now, so that it can be told what the process
ended at; "progress" a share; "values" what a turn of stages came to, those that the window holds already left out; "end" when there
is no more, or it was given up; "fault" a text where nothing can be told at all.
"""

from __future__ import annotations

import logging
import os
import select
import signal
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from multiprocessing.connection import Connection
from threading import Thread
from time import perf_counter
from types import FrameType
from typing import Any

from .launch import LOOK, own_pipes

log = logging.getLogger(__name__)
TICK_SECONDS = 0.08
FIRST_SECONDS = 2.0
"""So long a first request is waited for before what it does not need at once is loaded."""
PAUSE_SECONDS = 0.2
"""What comes after the strips waits until nothing was changed for so long: who types on is not kept waiting by it."""


class Requests:
    """What the window asks for, read when it is wanted: a thread that read it would have to wait for a busy interpreter."""

    def __init__(self, pipe: Connection) -> None:
        self._pipe = pipe

    def waits(self, seconds: float = 0.0) -> bool:
        """Whether a newer request (or the end) waits, or comes within so many seconds."""
        return self._pipe.poll(seconds)

    def take(self) -> tuple[int, Any, Mapping[str, str]] | None:
        """The newest request, when there is one with a job; None at the end."""
        try:
            number, job, known = self._pipe.recv()
            while job is None or self.waits():
                number, job, known = self._pipe.recv()
        except EOFError:
            return None
        return number, job, known


class Interrupted:
    """Gives work up between two steps of its own, for stages that do not tick for long: on LOOK the pipe is looked at, as a tick
    does it. Only while something is worked out: an answer is always sent whole."""

    def __init__(self, requests: Requests) -> None:
        self._requests = requests
        self._busy = False
        signal.signal(LOOK, self._look)

    @contextmanager
    def busy(self, now: bool) -> Iterator[None]:
        """Whether something is worked out in here, that may be broken off."""
        before, self._busy = self._busy, now
        try:
            yield
        finally:
            self._busy = before

    def _look(self, _number: int, frame: FrameType | None) -> None:
        if not self._busy or _loading(frame) or not self._requests.waits():
            return
        from ...core.errors import Cancelled  # not before: what is being loaded now may be this

        self._busy = False
        raise Cancelled


def _loading(frame: FrameType | None) -> bool:
    """Whether a module is being loaded: one broken off halfway cannot be loaded again."""
    while frame is not None:
        if "importlib" in frame.f_code.co_filename:
            return True
        frame = frame.f_back
    return False


def end_with_the_window(asked: Connection) -> None:
    """End this process once the other end of a pipe is closed, whatever it is at and however long that says nothing: nobody wants
    it any more."""

    def wait() -> None:
        look = select.poll()
        look.register(asked.fileno(), 0)  # that it is closed is always told
        look.poll()
        os._exit(0)

    Thread(target=wait, name="window", daemon=True).start()


def main() -> None:
    """Serve requests until the pipe closes."""
    asked, answers = own_pipes()
    end_with_the_window(asked)
    with asked, answers:
        _serve(Requests(asked), answers)


def _serve(requests: Requests, answers: Connection) -> None:
    interrupted = Interrupted(requests)
    from ...core.pipeline import Pipeline
    from ..log import keep_crashes, keep_log

    keep_log("worker")
    keep_crashes("worker")
    pipeline = Pipeline()
    if not requests.waits(FIRST_SECONDS):
        _load_slow()
    try:
        while (request := requests.take()) is not None:
            answers.send((request[0], "began", None))
            _compute(*request, pipeline, requests, answers, interrupted)
    except (OSError, ValueError):
        log.info("the window is gone", exc_info=True)


def _load_slow() -> None:
    """Load what strips and molds will need. The shape needs none of it, so a request that waits goes first."""
    import shapely  # noqa: F401


def _compute(
    number: int,
    job: Any,
    known: Mapping[str, str],
    pipeline: Any,
    requests: Requests,
    answers: Connection,
    interrupted: Interrupted,
) -> None:
    from ...core.errors import Cancelled
    from ...core.geometry.curves import KeptCurves
    from ...core.stage import Turn
    from ...core.stages import turns

    last = perf_counter()

    def tick(share: float) -> None:
        nonlocal last
        if requests.waits():
            raise Cancelled
        now = perf_counter()
        if now - last > TICK_SECONDS:
            last = now
            say("progress", share)

    def say(kind: str, value: object) -> None:
        with interrupted.busy(False):
            answers.send((number, kind, value))

    try:
        run = pipeline.run(job, tick)
        for turn, stages in enumerate(turns()):
            wanted = [stage for stage in stages if known.get(stage.id) != run.keys[stage.id]]
            if not wanted:
                continue
            if turn > Turn.STRIPS:
                requests.waits(PAUSE_SECONDS)
            found = []
            for stage in wanted:
                say("stage", stage.id)
                with interrupted.busy(True):
                    found.append(run.attempt(stage))
                tick(1.0)
            say("values", tuple(found))
        say("end", None)
    except Cancelled:
        pipeline.curves = KeptCurves()  # it may have been broken off in the middle of them
        say("end", None)
    except (OSError, MemoryError):
        raise
    except Exception as error:
        log.exception("request %d", number)
        say("fault", f"Hollow Keel could not read this job ({type(error).__name__}: {error}).")


if __name__ == "__main__":
    main()
