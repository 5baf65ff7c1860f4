"""Tables of offsets made wrong as hands make them wrong, through the whole pipeline."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from functools import partial

from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import OffsetRow
from hollow_keel.core.pipeline import Pipeline

from .settings import MOST_SECONDS, base_jobs, look_for_faults
from .tally import Tally, tallied

Rows = list[OffsetRow]
FIELDS = ("station", "half_breadth", "height")
LABELS = ("keel", "sheer", "wl", "chine", "deck", "stem_bow", "stem_stern", "wl_chine", "butt", "rabbet", "x")


def _value(rows: Rows, dice: random.Random) -> None:
    """A value typed wrongly: a digit too many or too few, a sign, nought, that of another row, a little off."""
    at, field = dice.randrange(len(rows)), dice.choice(FIELDS)
    old = getattr(rows[at], field)
    other = getattr(dice.choice(rows), field)
    new = dice.choice((old * 10, old / 10, -old, 0.0, other, old + dice.uniform(-60, 60), old + 1e-7, 1e6, -1e6, old * 25.4))
    rows[at] = rows[at].model_copy(update={field: new})


def _label(rows: Rows, dice: random.Random) -> None:
    at = dice.randrange(len(rows))
    rows[at] = rows[at].model_copy(update={"label": dice.choice(LABELS)})


def _left_out(rows: Rows, dice: random.Random) -> None:
    for _ in range(dice.choice((1, 1, 3, 10))):
        if len(rows) > 1:
            del rows[dice.randrange(len(rows))]


def _station_out(rows: Rows, dice: random.Random) -> None:
    gone = dice.choice(rows).station
    rows[:] = [row for row in rows if row.station != gone] or rows


def _twice(rows: Rows, dice: random.Random) -> None:
    at = dice.randrange(len(rows))
    rows.insert(dice.randrange(len(rows) + 1), rows[at])


def _station_twice(rows: Rows, dice: random.Random) -> None:
    """A station typed once more a little farther on, or at the place of another."""
    own, other = dice.choice(rows).station, dice.choice(rows).station
    to = dice.choice((other, own + 1.0, own + 0.01))
    rows += [row.model_copy(update={"station": to}) for row in rows if row.station == own]


def _exchanged(rows: Rows, dice: random.Random) -> None:
    """Half-breadth and height of a station in each other's column."""
    at = dice.choice(rows).station
    for k, row in enumerate(rows):
        if row.station == at:
            rows[k] = row.model_copy(update={"half_breadth": row.height, "height": row.half_breadth})


def _whole(rows: Rows, dice: random.Random) -> None:
    """A column of all rows in another unit, turned round, or all alike."""
    field, way = dice.choice(FIELDS), dice.randrange(4)
    for k, row in enumerate(rows):
        value = getattr(row, field)
        new = (value * 25.4, -value, value / 1000, 100.0)[way]
        rows[k] = row.model_copy(update={field: new})


def _mixed(rows: Rows, dice: random.Random) -> None:
    dice.shuffle(rows)


def _cut_off(rows: Rows, dice: random.Random) -> None:
    del rows[dice.randrange(1, len(rows) + 1) :]


WAYS: tuple[Callable[[Rows, random.Random], None], ...] = (
    _value,
    _value,
    _value,
    _value,
    _label,
    _left_out,
    _station_out,
    _twice,
    _station_twice,
    _exchanged,
    _whole,
    _mixed,
    _cut_off,
)


def mutated(job: Job, dice: random.Random) -> Job:
    """A job with a table made wrong in one way or a few. Raises InputError for one that cannot be."""
    rows = list(job.offsets.rows)
    for _ in range(dice.choice((1, 1, 1, 2, 4))):
        dice.choice(WAYS)(rows, dice)
    return change(job, "", offsets=type(job.offsets)(rows=tuple(rows), lines=job.offsets.lines))


def attacked(seed: int, seconds: float, count: int, part: int = 0, parts: int = 1) -> tuple[Tally, list[str]]:
    """So many wrong tables, every `parts`-th of them from `part` on, or as many as there is time for: what came of them, and the
    worst, each by its number."""
    until = time.monotonic() + seconds
    jobs = base_jobs()
    for job in jobs:
        look_for_faults(Pipeline().run(job))
    cases = ((f"table {k}", partial(_worked_out, jobs[k % 3 == 2], f"{seed} {k}")) for k in range(part, count, parts))
    return tallied(cases, until, MOST_SECONDS)


def _worked_out(job: Job, seed: str) -> None:
    look_for_faults(Pipeline().run(mutated(job, random.Random(seed))))
