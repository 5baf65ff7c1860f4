"""What the log tells: hours by task, person and week, strips a day, glue against plan, batches used past their pot life, cost."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from ..findings import Finding, Weight
from ..job import Job
from ..planking.mechanics import named_strips
from ..rules import COLD_C, pot_life
from ..settings.log_entry import Entry, Task, Told
from ..settings.readings import Side

PAGE = "log"
OF_ALL = "all of us"


@dataclass(frozen=True)
class Spent:
    """Person-hours under one heading."""

    name: str
    hours: float


@dataclass(frozen=True)
class Week:
    """A week by its Monday: person-hours, and strips a side that came on."""

    monday: date
    hours: float
    strips: int


@dataclass(frozen=True)
class MissedBatch:
    """A batch that was in use longer than it holds at that temperature: the day, and both in minutes."""

    day: date
    used: float
    holds: float
    temperature: float


@dataclass(frozen=True)
class Sums:
    """What all entries come to. Hours are of all persons; glue in grams, by the plan for so many strips (None: no strips yet);
    `strips` a side that are on by the log, as far as *So far* counts them, and how far each side is; `told_of` as many as entries
    tell of, by which rates are reckoned; `cost` in the currency of Stock."""

    tasks: tuple[Spent, ...]
    people: tuple[Spent, ...]
    weeks: tuple[Week, ...]
    hours: float
    strips: int
    told_of: float
    strip_days: int
    hours_a_strip: float | None
    glue: float
    grams_a_strip: float | None
    planned_grams: float | None
    missed: tuple[MissedBatch, ...]
    port: int
    starboard: int
    cost: float
    findings: tuple[Finding, ...]

    @property
    def strips_a_day(self) -> float | None:
        """Strips a side on a day that any were laid, by the entries of those days."""
        return self.told_of / self.strip_days if self.strip_days else None


def sums_of(job: Job, planned_grams: float | None, strips: int) -> Sums:
    """The sums of a job's log. `planned_grams` is the glue of one strip of both sides by the plan, `strips` how many a side
    there are."""
    entries = job.log.entries  # hours go into mistakes, too
    tasks: dict[str, float] = defaultdict(float)
    people: dict[str, float] = defaultdict(float)
    for entry in entries:
        tasks[entry.task.value] += entry.person_hours
        for name, hours in (entry.hours_by_name or {OF_ALL: entry.person_hours}).items():
            people[name] += hours
        unnamed = entry.people - len(entry.names)
        if entry.names and unnamed > 0:
            people[OF_ALL] += entry.hours * unnamed
    planking = [e for e in entries if e.task is Task.PLANKING]
    laid = [e for e in planking if e.strips is not None and e.told is Told.WORK]
    on = sides_laid(entries)
    mean = (_laid_on(laid, "port") + _laid_on(laid, "starboard")) / 2
    glue = sum(batch.grams for entry in entries for batch in entry.batches)
    in_strips = sum(batch.grams for entry in planking for batch in entry.batches)
    spent = sum(e.person_hours for e in planking)
    missed = tuple(_missed(job, entries))
    total = sum(e.person_hours for e in entries)
    return Sums(
        tuple(Spent(t.value, tasks[t.value]) for t in Task if tasks.get(t.value)),
        tuple(Spent(name, hours) for name, hours in sorted(people.items(), key=lambda own: -own[1])),
        _weeks(entries),
        total,
        min(on.values()),
        mean,
        len({e.day for e in laid}),
        spent / mean if mean else None,
        glue,
        in_strips / mean if mean and in_strips else None,
        planned_grams,
        missed,
        on[Side.PORT],
        on[Side.STARBOARD],
        total * job.log.hourly,
        tuple(_findings(job, entries, missed, strips)),
    )


def strips_laid(entries: Sequence[Entry]) -> int:
    """How many strips the log says are on, on both sides."""
    return min(sides_laid(entries).values())


def sides_laid(entries: Sequence[Entry]) -> dict[Side, int]:
    """How many strips the log says are on, by side: up to the last that an entry tells of, for none is laid before those nearer to
    the guide."""
    last = dict.fromkeys(Side, 0)
    for entry in entries:
        for side, number in laid_by(entry):
            last[side] = max(last[side], number)
    return last


def laid_by(entry: Entry) -> list[tuple[Side, int]]:
    """The strips that an entry laid, side by side: of planking that was done."""
    if entry.strips is None or entry.task is not Task.PLANKING or entry.told is not Told.WORK:
        return []
    return [
        (side, k)
        for run in entry.laid
        for side in (tuple(Side) if run.side is None else (run.side,))
        for k in range(run.first, run.last + 1)
    ]


def _laid_on(entries: Sequence[Entry], side: str) -> int:
    """How many strips the log has on one side: different numbers, once each."""
    return len({number for entry in entries for own, number in laid_by(entry) if own.value == side})


def _weeks(entries: Sequence[Entry]) -> tuple[Week, ...]:
    """Every week from the first entry to the last, those without work too."""
    if not entries:
        return ()
    hours: dict[date, float] = defaultdict(float)
    strips: dict[date, list[Entry]] = defaultdict(list)
    for entry in entries:
        monday = entry.day - timedelta(days=entry.day.weekday())
        hours[monday] += entry.person_hours
        if entry.task is Task.PLANKING and entry.strips is not None and entry.told is Told.WORK:
            strips[monday].append(entry)
    found, monday = [], min(hours)
    while monday <= max(hours):
        own = strips[monday]
        count = (_laid_on(own, "port") + _laid_on(own, "starboard")) / 2
        found.append(Week(monday, hours[monday], round(count)))
        monday += timedelta(days=7)
    return tuple(found)


def _missed(job: Job, entries: Sequence[Entry]) -> list[MissedBatch]:
    """Batches that were in use longer than they hold at their temperature."""
    settings = job.stock.used_up
    found = []
    for entry in entries:
        for batch in entry.batches:
            used = batch.minutes
            if used is None:
                continue
            temperature = batch.temperature if batch.temperature is not None else settings.temperature
            holds = pot_life(settings.pot_life, temperature)
            if used > holds:
                found.append(MissedBatch(entry.day, used, holds, temperature))
    return found


def _findings(job: Job, entries: Sequence[Entry], missed: Sequence[MissedBatch], strips: int) -> list[Finding]:
    found = [
        Finding(
            "pot-life",
            Weight.LOOK,
            PAGE,
            batch.day.isoformat(),
            f"A batch was in use for {batch.used:.0f} minutes; at {batch.temperature:g} °C it holds {batch.holds:.0f}: look at "
            "those joints, and mix smaller batches.",
        )
        for batch in missed
    ]
    for entry in entries:
        cold = [b for b in entry.batches if b.temperature is not None and b.temperature < COLD_C]
        if cold:
            at = f"{cold[0].temperature:g} °C"
            text = f"Glue was used at {at}: many do not set below {COLD_C:g}; warm the shed, and test a joint."
            found.append(Finding("cold-glue", Weight.LOOK, PAGE, entry.day.isoformat(), text))
        last = max((run.last for run in entry.laid), default=0)
        if strips and entry.task is Task.PLANKING and last > strips:
            text = f"Strip {last} is not in the plan, which has {strips} a side."
            found.append(Finding("no-such-strip", Weight.LOOK, PAGE, entry.day.isoformat(), text))
    found += _twice(entries)
    found += _between(entries)
    laid = strips_laid(job.log.entries)
    so_far = job.planked.strips if job.planked is not None else 0
    if laid and laid != so_far:
        text = f"The log has {laid} strips a side, So far on the page Planking {so_far}: set that, or add what is missing here."
        found.append(Finding("log-so-far", Weight.LOOK, PAGE, "planking", text))
    return [*found, *_overlaps(entries)]


def _between(entries: Sequence[Entry]) -> list[Finding]:
    """Strips that no entry has laid though later ones are on: they are on, and hours and glue a strip are reckoned without them."""
    on: dict[Side, set[int]] = {side: set() for side in Side}
    for entry in entries:
        for side, number in laid_by(entry):
            on[side].add(number)
    # what came before the log began is nothing that is missing in it
    missing = {side: sorted(set(range(min(own, default=0), max(own, default=0))) - own) for side, own in on.items()}
    same = missing[Side.PORT] == missing[Side.STARBOARD]
    found = []
    for side, own in missing.items():
        if not own or (same and side is Side.STARBOARD):
            continue
        whose = ("them" if len(own) > 1 else "it") + ("" if same else f" to {side.value}")
        text = (
            f"No entry has {whose}, though strip {max(on[side])} is on: counted as laid, here and on the page Planking, but hours "
            "and glue a strip are reckoned without. Add what is missing, or put the entry right."
        )
        found.append(Finding("log-between", Weight.LOOK, PAGE, named_strips(own), text))
    return found


def _twice(entries: Sequence[Entry]) -> list[Finding]:
    """Strips that two entries have laid on the same side."""
    found = []
    on: dict[tuple[Side, int], date] = {}
    for entry in entries:
        own = laid_by(entry)
        before = [place for place in own if place in on]
        if before:
            side, number = before[0]
            text = f"Strip {number} on {side.value} was laid on {on[before[0]].isoformat()} already: put one of the two right."
            found.append(Finding("strip-twice", Weight.LOOK, PAGE, entry.day.isoformat(), text))
        on |= dict.fromkeys(own, entry.day)
    return found


def _overlaps(entries: Sequence[Entry]) -> list[Finding]:
    """Two entries of one person, or of all, at the same time of one day."""
    found = []
    timed = sorted((e for e in entries if e.begin is not None and e.end is not None), key=lambda e: (e.day, e.begin))
    for first, second in _at_once(timed):
        if _same_people(first, second):
            until = clock(min(first.end or 0, second.end or 0))
            text = f"Two entries overlap, from {clock(second.begin or 0)} to {until}: hours count twice."
            found.append(Finding("log-overlap", Weight.LOOK, PAGE, first.day.isoformat(), text))
    return found


def _at_once(timed: Sequence[Entry]) -> Iterator[tuple[Entry, Entry]]:
    """Every two of entries, in the order of their begins, of which one begins before the other ends: another's may lie between."""
    for k, first in enumerate(timed):
        for second in timed[k + 1 :]:
            if second.day != first.day or (second.begin or 0) >= (first.end or 0):
                break
            yield first, second


def _same_people(one: Entry, other: Entry) -> bool:
    """Whether somebody may stand in both: by name, or because one of them tells no names."""
    return not (one.names and other.names) or bool(set(one.names) & set(other.names))


def clock(minute: int) -> str:
    """A minute of the day as it is read off a clock."""
    return f"{minute // 60}:{minute % 60:02d}"
