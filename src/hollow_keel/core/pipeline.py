"""Works stages out: from a Job to their values, each kept for as long as its key is the same."""

from __future__ import annotations

import logging
import traceback
from collections.abc import Iterable
from typing import Any, TypeVar

from .errors import Cancelled, HollowKeelError, ImpossiblePlan, InputError
from .geometry.curves import KeptCurves
from .job import Job
from .results import SHAPE, Results, Shape
from .stage import Failed, FailureKind, Stage, Tick, Value
from .stages import SHOWN, keys_of, needed_for

T = TypeVar("T")
log = logging.getLogger(__name__)


def no_tick(_share: float) -> None:
    """Nobody wants to know the share that is done."""


class Pipeline:
    """Keeps the newest value of every stage. Not shared between threads: give each worker its own."""

    def __init__(self) -> None:
        self.kept: dict[str, tuple[str, Any]] = {}
        self.curves = KeptCurves()

    def run(self, job: Job, tick: Tick = no_tick) -> Run:
        """A job to be worked out, stage by stage as they are asked for."""
        return Run(self, job, tick)

    def value(self, job: Job, stage: Stage[T], tick: Tick = no_tick) -> T:
        """What one stage comes to. Raises InputError, ImpossiblePlan and what `tick` raises."""
        return self.run(job, tick)[stage]

    def shape(self, job: Job) -> Shape:
        """Everything but the strips and what looks at the whole more closely. Raises as `value` does."""
        return self.results(job, SHAPE).shape

    def results(
        self, job: Job, wanted: Iterable[Stage[Any]] = SHOWN, tick: Tick = no_tick, glad_of: Iterable[Stage[Any]] = ()
    ) -> Results:
        """The stages that are wanted and what they need, nothing else; those that one would be `glad_of` may fail. Raises as
        `value` does."""
        run = self.run(job, tick)
        found = {s.id: Value(s.id, run.keys[s.id], run[s]) for s in needed_for(wanted, job)}
        found |= {s.id: run.attempt(s) for s in glad_of}
        return Results(job, found)


def completed(results: Results, wanted: Iterable[Stage[Any]], tick: Tick = no_tick) -> Results:
    """Results with those of some stages that they lack, worked out from the rest. Raises what `tick` raises."""
    missing = [s for s in wanted if s.id not in results.values]
    if not missing:
        return results
    pipeline = Pipeline()
    good = (v for v in results.values.values() if not isinstance(v.value, Failed))
    pipeline.kept = {v.stage: (v.key, v.value) for v in good}
    run = pipeline.run(results.job, tick)
    return Results(results.job, results.values | {s.id: run.attempt(s) for s in missing})


class Run:
    """One job on its way through the stages."""

    def __init__(self, pipeline: Pipeline, job: Job, tick: Tick) -> None:
        self.job, self.tick, self.curves = job, tick, pipeline.curves
        self.keys = keys_of(job)
        self._kept = pipeline.kept
        self._failed: dict[str, Failed] = {}

    def __getitem__(self, stage: Stage[T]) -> T:
        """The value of a stage, worked out if it must be. Raises what working it out raised."""
        failed = self._failed.get(stage.id)
        if failed is not None:
            raise failed.raised()
        kept = self._kept.get(stage.id)
        if kept is not None and kept[0] == self.keys[stage.id]:
            value: T = kept[1]
            return value
        value = self._worked_out(stage)
        self._kept[stage.id] = (self.keys[stage.id], value)
        return value

    def _worked_out(self, stage: Stage[T]) -> T:
        if not stage.when(self.job):
            nothing: Any = None
            return nothing  # type: ignore[no-any-return]
        for need in stage.needs:
            try:
                self[need]
            except Exception:
                if need.id in self._failed:  # it went wrong there, not here
                    self._failed[stage.id] = self._failed[need.id]
                raise
        try:
            return stage.compute(_Given(self, stage))
        except Cancelled:
            raise
        except Exception as error:
            self._failed[stage.id] = _failure(stage, error)
            raise

    def attempt(self, stage: Stage[Any]) -> Value:
        """What a stage comes to, or why it comes to nothing. Raises what `tick` raises."""
        try:
            value = self[stage]
        except Cancelled:
            raise
        except Exception:
            value = self._failed[stage.id]
        return Value(stage.id, self.keys[stage.id], value)


class _Given:
    """What a stage may see: the job, and the values of the stages that it names."""

    def __init__(self, run: Run, stage: Stage[Any]) -> None:
        self.job, self.tick, self.curves = run.job, run.tick, run.curves
        self._run, self._stage = run, stage

    def __getitem__(self, need: Stage[T]) -> T:
        if need not in self._stage.needs:
            raise LookupError(f"{self._stage.id} does not name {need.id} among what it needs")
        return self._run[need]


def _failure(stage: Stage[Any], error: Exception) -> Failed:
    if isinstance(error, InputError):
        return Failed(stage.id, FailureKind.INPUT, str(error), error=error)
    if isinstance(error, ImpossiblePlan | HollowKeelError):
        return Failed(stage.id, FailureKind.IMPOSSIBLE, str(error), error=error)
    # a fault of ours must be seen where it happened, and must not take the rest with it
    text = f"Hollow Keel could not work out {stage.name} ({type(error).__name__}: {error})."
    log.error("stage %s failed", stage.id, exc_info=error)
    return Failed(stage.id, FailureKind.FAULT, text, "".join(traceback.format_exception(error)), error)
