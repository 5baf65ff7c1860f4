"""The forecast. Truth: invented crews whose work is lived through day by day in plain numbers, and hand sums."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.log.forecast import attendance, first_day, forecast
from hollow_keel.core.log.plan_of_work import plan_work
from hollow_keel.core.log.rates import rates_of
from hollow_keel.core.log.tasks import Amounts, pieces_of
from hollow_keel.core.settings.log import Held, LogSettings
from hollow_keel.core.settings.log_entry import Entry, Task
from hollow_keel.core.settings.progress import Planked

AMOUNTS = Amounts(molds=12, strips=40, area=11.0, glassed=True)
START = date(2026, 3, 2)


def job_of(*entries: Entry, strips: int = 0, **log: object) -> Job:
    job = Job(log=LogSettings(wanted=True, entries=entries, **log))  # type: ignore[arg-type]
    return job.model_copy(update={"planked": Planked(strips=strips)})


def end_of(job: Job, amounts: Amounts = AMOUNTS, runs: int = 600) -> tuple[date | None, date | None, date | None]:
    pieces = pieces_of(amounts, job)
    end = forecast(pieces, rates_of(pieces), job.log, runs).end
    assert end is not None
    return end.early, end.likely, end.late


@dataclass
class Lived:
    """An invented job: what was logged until a third of its hours were done, and the day on which it was really done."""

    entries: list[Entry]
    strips: int
    ended: date


def lived(seed: int) -> Lived:
    """A crew of its own pace goes through the tasks one after another, an evening at a time, some of which it misses."""
    rng = random.Random(seed)
    plain = job_of()
    pieces = pieces_of(AMOUNTS, plain)
    crew, keeps = math.exp(rng.gauss(0, 0.3)), rng.uniform(0.65, 0.95)
    own = {p.task: crew * math.exp(rng.gauss(0, 0.25)) for p in pieces}
    whole = sum(p.hours * own[p.task] for p in pieces)
    day, spent, entries, strips, cut = START, 0.0, [], 0, False
    kept: list[Entry] = []
    strips_kept = 0
    for piece in pieces:
        left, number = piece.units, 0
        need = piece.each * own[piece.task] * math.exp(rng.gauss(0, 0.4))
        while left > 1e-9:
            open_hours = plain.log.week[day.weekday()]
            if open_hours and rng.random() < keeps:
                room, done_today, first = open_hours, 0, number + 1
                most = plain.log.most_a_day if piece.task is Task.PLANKING else math.inf
                while room > 1e-9 and left > 1e-9 and done_today < most:
                    step = min(need, room)
                    room, need = room - step, need - step
                    if need <= 1e-9:
                        left, number, done_today = max(left - 1.0, 0.0), number + 1, done_today + 1
                        share = min(left, 1.0) if 0 < left < 1 else 1.0
                        need = share * piece.each * own[piece.task] * math.exp(rng.gauss(0, 0.4))
                worked = open_hours - room
                spent += worked
                fields: dict[str, object] = {}
                if piece.task in (Task.MOLDS, Task.SETTING_UP) and number >= first:
                    fields["molds"] = tuple(str(k) for k in range(first, number + 1))
                if piece.task is Task.PLANKING:
                    strips = number
                    if number >= first:
                        fields["strips"] = (first, number)
                entries.append(
                    Entry(day=day, task=piece.task, hours=worked, finished=left <= 1e-9, **fields)  # type: ignore[arg-type]
                )
                if not cut and spent >= whole / 3:
                    cut, kept, strips_kept = True, list(entries), strips
            day += timedelta(days=1)
    return Lived(kept, strips_kept, day - timedelta(days=1))


def test_of_two_hundred_invented_jobs_the_true_end_lies_in_the_span_for_about_eight_of_ten() -> None:
    inside = 0
    for seed in range(200):
        own = lived(seed)
        early, _, late = end_of(job_of(*own.entries, strips=own.strips))
        inside += early is not None and late is not None and early <= own.ended <= late
    assert 0.70 <= inside / 200 <= 0.90


def test_without_scatter_the_likely_end_is_a_hand_sum() -> None:
    """36 molds of 0.75 h and half an hour to set up each: 45 hours, at nine a week five weeks; all evenings kept, many pieces."""
    job = job_of(kept=100.0, turn=0.0, fair=0.0, starts=START)
    pieces = pieces_of(Amounts(molds=36), job)
    none = rates_of(pieces)
    exact = type(none)(np.zeros(len(pieces)), 1e-12 * np.eye(len(pieces)))
    found = forecast(pieces, exact, job.log)
    by_task = {m.task: m for m in found.milestones}
    likely = by_task[Task.SETTING_UP].likely
    assert likely is not None
    assert abs((likely - (START + timedelta(days=33))).days) <= 5  # the Saturday of the fifth week


def test_strips_in_clamps_take_a_day_each_however_many_hands_there_are() -> None:
    amounts = Amounts(strips=30)
    alone = end_of(job_of(kept=100.0, starts=START, people=1, turn=0.0), amounts)[1]
    many = end_of(job_of(kept=100.0, starts=START, people=9, turn=0.0), amounts)[1]
    screws = end_of(job_of(kept=100.0, starts=START, people=9, held=Held.SCREWS, turn=0.0), amounts)[1]
    assert alone is not None
    assert many is not None
    assert screws is not None
    assert (many - START).days >= 30 * 7 / 3 - 7  # three evenings a week, a strip a side on each
    assert (alone - many).days < 14
    assert (screws - START).days < 0.5 * (many - START).days


def test_a_slow_crew_is_expected_to_be_slow_at_what_it_has_not_begun() -> None:
    """Twelve molds at twice the hours: the crew's factor lies between the plan's and its own, for molds and for strips, and less so
    for strips."""
    entry = Entry(day=START, task=Task.MOLDS, hours=18.0, molds=tuple(str(k) for k in range(1, 13)))
    pieces = pieces_of(AMOUNTS, job_of(entry))
    factors = dict(zip([p.task for p in pieces], rates_of(pieces).factors().tolist(), strict=True))
    assert 1.0 < factors[Task.PLANKING] < factors[Task.MOLDS] < 2.0
    none = rates_of(pieces_of(AMOUNTS, job_of()))
    assert none.factors() == pytest.approx(1.0)


def test_rates_follow_the_textbook_of_one_normal_measured_once() -> None:
    """One task measured by n units: the mean is y v / (v + s²/n), v the variance of crew and task together."""
    entry = Entry(day=START, task=Task.MOLDS, hours=9.0, molds=("1", "2", "3", "4"))
    pieces = pieces_of(AMOUNTS, job_of(entry))
    seen, variance, noise = math.log(9.0 / 4 / 0.75), 0.35**2 + 0.25**2, 0.5**2 / 4
    assert rates_of(pieces).mean[0] == pytest.approx(seen * variance / (variance + noise))


def test_the_week_that_is_kept_is_learned() -> None:
    """Of six evenings of two weeks four were kept: as much is added to what is said."""
    days = [date(2026, 3, 3), date(2026, 3, 5), date(2026, 3, 7), date(2026, 3, 14)]
    log = LogSettings(entries=tuple(Entry(day=day, hours=2.0) for day in days))
    assert attendance(log) == pytest.approx((0.8 * 6 + 4, 0.2 * 6 + 2))
    assert first_day(log) == date(2026, 3, 15)
    assert first_day(log.model_copy(update={"starts": date(2026, 4, 1)})) == date(2026, 4, 1)
    holidays = log.model_copy(update={"holidays": (date(2026, 3, 10),)})
    assert attendance(holidays)[1] == pytest.approx(0.2 * 6 + 1)


def test_no_hours_in_the_week_give_no_date() -> None:
    assert end_of(job_of(week=(0.0,) * 7, starts=START)) == (None, None, None)


def test_what_if_more_hands_and_screws_end_no_later() -> None:
    job = change(job_of(starts=START), "strips", minutes=45.0)
    work = plan_work(AMOUNTS, None, job, wider=32)
    assert [own.name for own in work.what_if] == [
        "2 more hands",
        "edge screws instead of clamps",
        "joints made the day before",
        "strips a quarter wider: 32 a side in all",
        "a shed ten degrees warmer",
    ]
    plain = work.forecast.end
    assert plain is not None
    assert plain.likely is not None
    for own in work.what_if:
        assert own.forecast.end is not None
        assert own.forecast.end.likely is not None
        assert own.forecast.end.likely <= plain.likely + timedelta(days=7)
