"""The process that computes, so that the window never waits for arithmetic: python -m hollow_keel.app.worker

A request is (number, job, known): `known` are the keys of the values that the window holds, by stage. A newer one, or one whose
job is None, makes the running one give up. Answers are (number, kind, value): "progress" a share; "values" what a turn of stages
came to, those that the window holds already left out; "end" when there is no more; "fault" a text where nothing can be told at all.
"""

from __future__ import annotations

import logging
from collections.abc import Mapping
from multiprocessing.connection import Connection
from time import perf_counter
from typing import Any

from .launch import own_pipes

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


def main() -> None:
    """Serve requests until the pipe closes."""
    asked, answers = own_pipes()
    with asked, answers:
        _serve(Requests(asked), answers)


def _serve(requests: Requests, answers: Connection) -> None:
    from ..core.pipeline import Pipeline
    from .log import keep_log

    keep_log("worker")
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


def _compute(
    number: int, job: Any, known: Mapping[str, str], pipeline: Any, requests: Requests, answers: Connection
) -> None:
    from ..core.errors import Cancelled
    from ..core.stage import Turn
    from ..core.stages import turns

    last = perf_counter()

    def tick(share: float) -> None:
        nonlocal last
        if requests.waits():
            raise Cancelled
        now = perf_counter()
        if now - last > TICK_SECONDS:
            last = now
            answers.send((number, "progress", share))

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
                found.append(run.attempt(stage))
                tick(1.0)
            answers.send((number, "values", tuple(found)))
        answers.send((number, "end", None))
    except Cancelled:
        return
    except (OSError, MemoryError):
        raise
    except Exception as error:
        log.exception("request %d", number)
        answers.send(
            (number, "fault", f"Hollow Keel could not read this job ({type(error).__name__}: {error}).")
        )


if __name__ == "__main__":
    main()
