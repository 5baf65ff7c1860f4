"""Every setting at its limits, and pairs of them, through the whole pipeline."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from enum import Enum
from functools import partial
from itertools import combinations, islice
from typing import Any

from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline, Run
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings_table import Record, all_settings
from hollow_keel.core.stage import Failed, FailureKind
from hollow_keel.core.stages import SHOWN
from hollow_keel.demo.jobs import demo_job

from .tally import Tally, tallied

LIMITS = {"gt": 1e-6, "ge": 0.0, "lt": -1e-6, "le": 0.0}
"""What the names of limits mean: how far beside the limit a value may still be."""
LEFT_ALONE = frozenset({"offsets.rows", "name"})
MOST_SECONDS = 60.0


class Fault(Exception):
    """A stage ended in a fault of ours."""


@dataclass(frozen=True)
class Extreme:
    """A setting at a value."""

    record: Record
    value: Any

    def __str__(self) -> str:
        return f"{self.record.path}={str(self.value)[:40]}"


def base_jobs() -> tuple[Job, Job]:
    """A strip-planked hull with every part that a job can have but a deck, and a cold-molded one; coarse, to be quick."""
    job = change(change(demo_job("pipit"), "strips", width=45.0), "molds", every=900.0, stations=())
    for part, fields in (
        ("trim", {"wanted": True, "rails": True}),
        ("beams", {"wanted": True}),
        ("outer", {"stems": True, "planks": True}),
        ("release", {"wanted": True}),
        ("inside", {"sole": True, "bulkheads": (1500.0,), "stringers": (0.5,)}),
        ("log", {"wanted": True, "entries": demo_job("linnet").log.entries}),
    ):
        job = change(job, part, **fields)
    sedge = demo_job("sedge")
    wide = tuple(layer.model_copy(update={"width": 300.0}) for layer in sedge.veneers.layers)
    return job, change(sedge, "veneers", layers=wide[:1])


def extremes() -> list[Extreme]:
    """Every setting at every limit, and at what else is odd."""
    return [
        Extreme(record, value) for record in all_settings().values() for value in _values(record) if record.path not in LEFT_ALONE
    ]


def _values(record: Record) -> Iterator[Any]:
    kind, default = record.setting.kind, record.default
    if record.may_be_none and default is not None:
        yield None
    if kind is Kind.FLAG or isinstance(default, bool):
        yield not default
        return
    if isinstance(default, Enum) or record.setting.choices:
        choices = record.setting.choices or {}
        yield from (value for value in (choices or type(default)) if value != default)
        return
    if kind in (Kind.LENGTHS, Kind.SHARES):
        one = 0.5 if kind is Kind.SHARES else 1000.0
        yield from ((), (one,), (one, one), (one, 2 * one), (-1e5,), tuple(one + k for k in range(40)))
        return
    if kind is Kind.RECORDS or kind is Kind.WORD:
        if default == () or isinstance(default, tuple):
            yield ()
        return
    found = {0.0, 1e-3, 1e5, -1e5}
    for name, limit in record.bounds.items():
        found.add(limit + LIMITS[name] * max(abs(limit), 1.0))
    if isinstance(default, int | float) and default:
        found |= {default * 10, default / 10}
    whole = kind is Kind.WHOLE
    yield from sorted({round(value) if whole else value for value in found})


def with_extremes(job: Job, chosen: Sequence[Extreme]) -> Job:
    """A job with some settings at their limits. Raises InputError for what may not be."""
    for own in chosen:
        job = change(job, own.record.part, **{own.record.field: own.value})
    return job.in_step()


def look_for_faults(run: Run) -> None:
    """Work out all that a job comes to. Raises Fault naming the stage that has a fault of ours."""
    for stage in SHOWN:
        value = run.attempt(stage).value
        if isinstance(value, Failed) and value.kind is FailureKind.FAULT:
            last = value.traceback.strip().splitlines()[-3:] if value.traceback else [value.message]
            raise Fault(f"{value.stage}: {' '.join(' '.join(last).split())[-160:]}")


class Tried:
    """A job, and what it comes to as it is: a setting at a limit has only what it changes worked out anew."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self.pipeline = Pipeline()
        self.worked_out(())  # what is needed is loaded before there are forks; and it has no fault

    def worked_out(self, chosen: Sequence[Extreme]) -> None:
        """All that the job comes to. Raises Fault naming the stage that has a fault of ours, InputError for what is refused."""
        look_for_faults(self.pipeline.run(with_extremes(self.job, chosen)))


def how_many() -> int:
    """How many settings at their limits there are, single and in pairs."""
    every = extremes()
    return len(every) + sum(1 for _ in _pairs(every))


def _pairs(every: Sequence[Extreme]) -> Iterator[tuple[Extreme, Extreme]]:
    return (pair for pair in combinations(every, 2) if pair[0].record.path != pair[1].record.path)


def attacked(seed: int, seconds: float, count: int, part: int = 0, parts: int = 1) -> tuple[Tally, list[str]]:
    """Single settings first, then pairs, in an order of the seed's, every `parts`-th of them from `part` on, in all `count` or as
    many as there is time for; what came of them, and the worst in words."""
    until = time.monotonic() + seconds
    dice, every = random.Random(seed), extremes()
    planked, molded = map(Tried, base_jobs())
    pairs = list(_pairs(every))
    dice.shuffle(pairs)

    def cases() -> Iterator[tuple[str, Callable[[], object]]]:
        for k, chosen in islice(enumerate((*((one,) for one in every), *pairs)), part, count, parts):
            for_veneers = any(own.record.path.startswith(("veneers", "form", "laying")) for own in chosen)
            own = molded if k % 5 == 4 or for_veneers else planked
            yield " ".join(map(str, chosen)), partial(own.worked_out, chosen)

    return tallied(cases(), until, MOST_SECONDS)
