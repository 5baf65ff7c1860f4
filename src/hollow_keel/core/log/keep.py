"""An entry kept or taken out: the log, and *So far* of the planking, stay one truth."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from datetime import date

from ..change import change
from ..job import Job
from ..settings.log_entry import Entry, Task
from ..settings.progress import Planked
from ..settings.readings import is_of
from .sums import strips_laid

TICKED = "ticked off at the bench"


def kept(job: Job, entry: Entry) -> Job:
    """The job with an entry in its log, after the others of that day; strips that came on are *So far* on the page Planking."""
    at = bisect_right(job.log.entries, entry.day, key=lambda other: other.day)
    return _with_entries(job, (*job.log.entries[:at], entry, *job.log.entries[at:]), entry)


def replaced(job: Job, number: int, entry: Entry | None) -> Job:
    """The job with the entry at a place of its log, from 0, put right; None: taken out. Raises IndexError."""
    before = job.log.entries[number]
    rest = (*job.log.entries[:number], *job.log.entries[number + 1 :])
    without = _with_entries(job, rest, before)
    return without if entry is None else kept(without, entry)


def put_right(old: Entry, entry: Entry, *, dated: bool) -> Entry:
    """An entry as it was typed anew in place of an old one: the photographs stay with it, the day where none was told, where its
    molds stood, and that it is one of ticks."""
    more: dict[str, object] = {"photos": old.photos, "day": entry.day if dated else old.day}
    stood = dict(old.ticked)
    if entry.molds and all(stood.get(name) is not None for name in entry.molds):
        more["stood"] = tuple(stood[name] for name in entry.molds)
    if old.what == TICKED and TICKED in entry.what:
        more |= {"what": TICKED, "task": old.task, "line": ""}
    return entry.model_copy(update=more)


def all_kept(job: Job, entries: Sequence[Entry]) -> tuple[Job, int]:
    """The job with entries of another log in its own, those that it has already left out, and how many were new; strips that came
    on are *So far*, as they are of an entry that is typed."""
    new = [entry for entry in entries if entry not in job.log.entries]
    together = tuple(sorted((*job.log.entries, *new), key=lambda entry: entry.day))
    changed = change(job, "log", entries=together, wanted=True)
    now, planked = strips_laid(together), job.planked or Planked()
    if now > planked.strips:
        last = max(entry.day for entry in together if entry.strips is not None)
        changed = changed.model_copy(update={"planked": planked.with_strips(now, last)})
    return changed, len(new)


def laid_by_hand(job: Job, planked: Planked, day: date) -> Job:
    """The job after *So far* was set by hand: strips more than before are an entry of that day, where a log is kept and has told of
    strips so far."""
    changed = job.model_copy(update={"planked": planked})
    told, now = strips_laid(job.log.entries), planked.strips
    if not told or now <= told:
        return changed
    entry = Entry(day=day, task=Task.PLANKING, strips=(told + 1, now), what="set on the page Planking")
    return kept(changed, entry)


def strip_ticked(job: Job, number: int, day: date) -> Job:
    """The job after a strip on both sides was ticked off: it is in the day's own entry of ticks, which grows by it."""
    for at in range(len(job.log.entries) - 1, -1, -1):
        own = job.log.entries[at]
        if own.day == day and own.what == TICKED and own.strips is not None and own.strips[1] == number - 1:
            return replaced(job, at, own.model_copy(update={"strips": (own.strips[0], number)}))
    return kept(job, Entry(day=day, task=Task.PLANKING, what=TICKED, strips=(number, number)))


def mold_ticked(job: Job, name: str, station: float, day: date) -> Job:
    """The job after a mold that stands at a place was ticked off as it was set up: it is in the day's own entry of ticks."""
    for at in range(len(job.log.entries) - 1, -1, -1):
        own = job.log.entries[at]
        if own.day == day and own.what == TICKED and own.task is Task.SETTING_UP and len(own.stood) == len(own.molds):
            if any(is_of(mold, place, name, station) for mold, place in own.ticked):
                return job
            more = {"molds": (*own.molds, name), "stood": (*own.stood, station)}
            return replaced(job, at, own.model_copy(update=more))
    return kept(job, Entry(day=day, task=Task.SETTING_UP, what=TICKED, molds=(name,), stood=(station,)))


def _with_entries(job: Job, entries: tuple[Entry, ...], touched: Entry) -> Job:
    """The job with other entries, of which one is new or gone."""
    changed = change(job, "log", entries=entries)
    if touched.strips is None:
        return changed
    before, now = strips_laid(job.log.entries), strips_laid(entries)
    planked = job.planked or Planked()
    if now > planked.strips or (now < before == planked.strips):
        return changed.model_copy(update={"planked": planked.with_strips(now, touched.day)})
    return changed
