"""When each task is done: some thousand runs of the rest of the work, by the crew's rates, its week, and what waits for glue."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from ..geometry.arrays import Array, BoolArray, IntArray
from ..rules import KEPT_EVENINGS, PIECES_SPREAD
from ..settings.log import LogSettings
from ..settings.log_entry import Task
from .days import spans
from .rates import Rates
from .tasks import Piece

RUNS, SEED = 2000, 11
EARLY, LATE = 0.1, 0.9
"""The span told holds eight runs of ten."""
LONGEST_DAYS = 3650
NO_DAY = date.min
"""A Monday: where nothing tells when work begins only weeks are told."""
SPARE, LEAST_DAYS = 4.0, 90
LEAST_HOURS = 1e-6
"""What takes no time takes so long, for arithmetic's sake."""


@dataclass(frozen=True)
class Milestone:
    """When a task is done: early, likely and late, so that eight of ten runs lie between; None: not within ten years."""

    task: Task
    early: date | None
    likely: date | None
    late: date | None


@dataclass(frozen=True)
class Forecast:
    """From which day it counts; the tasks that are left, in working order; hours of the plan that the crew takes for one."""

    starts: date
    milestones: tuple[Milestone, ...]
    factor: float
    free: tuple[tuple[date, date], ...] = ()
    """Days without work from then on, each span its first and its last."""

    @property
    def end(self) -> Milestone | None:
        """The last of them."""
        return self.milestones[-1] if self.milestones else None


def is_dated(day: date) -> bool:
    """Whether a day of a forecast is one of the calendar: it counts from NO_DAY where no day is known."""
    return day.year > LONGEST_DAYS // 365 + 1


def week_words(day: date) -> str:
    """A day that is none of the calendar: the week of the work that it lies in."""
    return f"week {(day - NO_DAY).days // 7 + 1}"


def iso_words(day: date | None) -> str | None:
    """A day of a forecast as tables and files tell it."""
    if day is None:
        return None
    return day.isoformat() if is_dated(day) else week_words(day)


def first_day(log: LogSettings) -> date:
    """The day from which the forecast counts: as it is said, the one after the last entry, or NO_DAY."""
    days = [entry.day for entry in log.entries]
    if log.starts is not None and (not days or log.starts > max(days)):
        return log.starts
    return max(days) + timedelta(days=1) if days else NO_DAY


def attendance(log: LogSettings) -> tuple[float, float]:
    """How sure it is that an evening of the week is kept: both parameters of a beta distribution, by what is said and by the
    log."""
    share = min(log.kept / 100.0, 0.999)
    worked = {entry.day for entry in log.entries if entry.hours > 0}
    own, missed = 0, 0
    if worked:
        day, last = min(worked), max(worked)
        while day <= last:
            if day in worked:
                own += 1
            elif log.week[day.weekday()] > 0 and day not in log.holidays:
                missed += 1
            day += timedelta(days=1)
    return share * KEPT_EVENINGS + own, (1 - share) * KEPT_EVENINGS + missed


def forecast(pieces: Sequence[Piece], rates: Rates, log: LogSettings, runs: int = RUNS) -> Forecast:
    """When each task that is left is done. The same job comes to the same dates: the runs are seeded."""
    rng = np.random.default_rng(SEED)
    starts = first_day(log)
    left = [k for k, p in enumerate(pieces) if p.left > 0]
    factor = float(np.mean(rates.factors())) if len(pieces) else 1.0
    free = tuple(spans(day for day in log.holidays if day >= starts)) if is_dated(starts) else ()
    weekly = sum(log.week)
    if not left or weekly <= 0:
        return Forecast(starts, tuple(Milestone(pieces[k].task, None, None, None) for k in left), factor, free)
    slow = _factors(rates, runs, rng)
    open_hours = _open_hours(pieces, rates, log, starts)
    kept = rng.beta(*attendance(log), size=(runs, 1))
    came: BoolArray = rng.random((runs, len(open_hours)), dtype=np.float32) < kept
    hours: NDArray[np.float32] = came * open_hours.astype(np.float32) * np.float32(log.people)
    begun: IntArray = np.zeros(runs, dtype=np.intp)
    milestones = []
    for k in left:
        piece = pieces[k]
        scatter = np.exp(rng.normal(0.0, PIECES_SPREAD / math.sqrt(max(piece.left, 1.0)), runs))
        each = np.maximum(piece.each * slow[:, k] * scatter, LEAST_HOURS)
        most = log.most_a_day if piece.task in (Task.PLANKING, Task.DECK) else math.inf
        ended = _ended(hours, begun, piece.left, each, most)
        milestones.append(_milestone(piece.task, ended, starts, len(open_hours)))
        begun = np.minimum(ended + 1 + math.ceil(max(piece.wait - 12.0, 0.0) / 24.0), len(open_hours))
    return Forecast(starts, tuple(milestones), factor, free)


def _factors(rates: Rates, runs: int, rng: np.random.Generator) -> Array:
    """What planned hours of each task are to be multiplied with, in each run, (runs, k)."""
    return np.exp(rng.multivariate_normal(rates.mean, rates.covariance, size=runs, method="cholesky"))


def _open_hours(pieces: Sequence[Piece], rates: Rates, log: LogSettings, starts: date) -> Array:
    """Hours of the week on each day from the first, (days,): as many days as the work may take, and more."""
    factors = rates.factors()
    need = sum(p.left * p.each * f for p, f in zip(pieces, factors, strict=True)) / max(log.people, 1)
    held = sum(p.left / log.most_a_day for p in pieces if p.task in (Task.PLANKING, Task.DECK))
    evenings = sum(h > 0 for h in log.week)
    weeks = (need / sum(log.week) + held / evenings) / (log.kept / 100.0)
    days = int(min(max(SPARE * 7 * weeks, LEAST_DAYS), LONGEST_DAYS))
    week = np.array(log.week)
    first = starts.weekday()
    hours = week[(first + np.arange(days)) % 7]
    for holiday in log.holidays:
        at = (holiday - starts).days
        if 0 <= at < days:
            hours[at] = 0.0
    return hours


def _ended(hours: NDArray[np.float32], begun: IntArray, left: float, each: Array, most: float) -> IntArray:
    """The day on which so many units are done in each run, (runs,), from the day each begins it; units take `each` hours, and no
    more than `most` are done in a day. The number of days where it is not done at all."""
    rate = hours / each[:, None].astype(np.float32)
    done = np.minimum(rate, np.float32(most)) if math.isfinite(most) else rate
    total = np.cumsum(done, axis=1)
    rows = np.arange(len(begun))
    before = np.where(begun > 0, total[rows, np.minimum(np.maximum(begun - 1, 0), total.shape[1] - 1)], 0.0)
    reached = total >= (before + left)[:, None] - 1e-4
    found: IntArray = np.where(reached[:, -1], reached.argmax(axis=1), total.shape[1])
    return found


def _milestone(task: Task, ended: IntArray, starts: date, days: int) -> Milestone:
    def at(share: float) -> date | None:
        day = float(np.quantile(ended, share))
        return None if day >= days else starts + timedelta(days=math.ceil(day))

    return Milestone(task, at(EARLY), at(0.5), at(LATE))
