"""The schedules of the log: the plan of work, when it is done, and what the log tells."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...core.amounts import Amounts, converted
from ...core.log.forecast import Milestone, iso_words
from ...core.log.plan_of_work import WhatIf, WorkPlan
from ...core.log.stages import WASTE, WORK
from ...core.log.tasks import Piece
from ..schedule import Field, Kind, Schedule


@dataclass(frozen=True)
class TaskRow:
    """A task with when it is done, where that is forecast, and what areas are told in."""

    piece: Piece
    milestone: Milestone | None
    told_in: Amounts

    def of(self, units: float) -> float:
        """So many of its units as they are told."""
        return round(converted(units, self.piece.unit, self.told_in)[0], 1)


def task_rows(work: WorkPlan) -> Iterator[TaskRow]:
    """The tasks in working order."""
    when = {milestone.task: milestone for milestone in work.forecast.milestones}
    for piece in work.pieces:
        yield TaskRow(piece, when.get(piece.task), work.told_in)


TASKS = Schedule(
    "tasks",
    "The plan of work",
    WORK,
    task_rows,
    (
        Field("task", "Task", lambda r: r.piece.task.value, Kind.WORD),
        Field("state", "Is", lambda r: r.piece.reason or r.piece.state, Kind.WORD),
        Field("units", "In all", lambda r: r.of(r.piece.units), Kind.NUMBER),
        Field("done", "Done", lambda r: r.of(r.piece.done), Kind.NUMBER),
        Field("unit", "Of", lambda r: converted(1.0, r.piece.unit, r.told_in)[1], Kind.WORD),
        Field("hours", "Hours by the plan", lambda r: round(r.piece.hours, 1), Kind.NUMBER),
        Field("logged", "Hours logged", lambda r: round(r.piece.logged, 1), Kind.NUMBER),
        Field("early", "Done, early", lambda r: iso_words(r.milestone.early) if r.milestone else None, Kind.WORD),
        Field("likely", "Done, likely", lambda r: iso_words(r.milestone.likely) if r.milestone else None, Kind.WORD),
        Field("late", "Done, late", lambda r: iso_words(r.milestone.late) if r.milestone else None, Kind.WORD),
        Field("caution", "Mind", lambda r: r.piece.caution, Kind.WORD),
    ),
    ticked=True,
    page=("task", "state", "units", "done", "hours", "logged", "early", "likely", "late"),
)


def _end(own: WhatIf, at: str) -> str | None:
    end = own.forecast.end
    return iso_words(getattr(end, at)) if end is not None else None


WHAT_IFS = Schedule(
    "what_if",
    "What if",
    WORK,
    lambda work: work.what_if,
    (
        Field("name", "What if", lambda w: w.name, Kind.WORD),
        Field("early", "All done, early", lambda w: _end(w, "early"), Kind.WORD),
        Field("likely", "All done, likely", lambda w: _end(w, "likely"), Kind.WORD),
        Field("late", "All done, late", lambda w: _end(w, "late"), Kind.WORD),
    ),
)
WANTED = Schedule(
    "wanted",
    "In the shed by then",
    WORK,
    lambda work: work.wanted,
    (
        Field("task", "For", lambda w: w.task.value, Kind.WORD),
        Field("what", "What", lambda w: w.what, Kind.WORD),
        Field("amount", "How much", lambda w: round(w.amount, 2), Kind.NUMBER),
        Field("unit", "Of", lambda w: w.unit, Kind.WORD),
        Field("by", "By", lambda w: iso_words(w.by), Kind.WORD),
    ),
    ticked=True,
)
BY_TASK = Schedule(
    "by_task",
    "Hours by task",
    WORK,
    lambda work: work.sums.tasks,
    (Field("name", "Task", lambda s: s.name, Kind.WORD), Field("hours", "Hours of all", lambda s: round(s.hours, 1), Kind.NUMBER)),
)
BY_PERSON = Schedule(
    "by_person",
    "Hours by person",
    WORK,
    lambda work: work.sums.people,
    (Field("name", "Who", lambda s: s.name, Kind.WORD), Field("hours", "Hours", lambda s: round(s.hours, 1), Kind.NUMBER)),
)
BY_WEEK = Schedule(
    "by_week",
    "Week by week",
    WORK,
    lambda work: work.sums.weeks,
    (
        Field("monday", "Week of", lambda w: w.monday.isoformat(), Kind.WORD),
        Field("hours", "Hours of all", lambda w: round(w.hours, 1), Kind.NUMBER),
        Field("strips", "Strips a side", lambda w: w.strips, Kind.NUMBER),
    ),
)
LATE_GLUE = Schedule(
    "late_glue",
    "Late glue",
    WORK,
    lambda work: work.sums.missed,
    (
        Field("day", "Day", lambda b: b.day.isoformat(), Kind.WORD),
        Field("used", "In use, minutes", lambda b: round(b.used), Kind.NUMBER),
        Field("holds", "It holds, minutes", lambda b: round(b.holds), Kind.NUMBER),
        Field("temperature", "At °C", lambda b: b.temperature, Kind.NUMBER),
    ),
)
WASTED = Schedule(
    "waste",
    "Waste of strips",
    WASTE,
    lambda waste: [waste] if waste.used else [],
    (
        Field("used", "Wood used up, m", lambda w: round(w.used, 1), Kind.NUMBER),
        Field("laid", "Strips laid, m", lambda w: round(w.laid, 1), Kind.NUMBER),
        Field("share", "Waste", lambda w: w.share, Kind.SHARE),
        Field("planned", "By the plan", lambda w: w.planned, Kind.SHARE),
    ),
)
LOG_SCHEDULES = (TASKS, WANTED, WHAT_IFS, BY_TASK, BY_PERSON, BY_WEEK, LATE_GLUE, WASTED)
"""All of them, in their order on paper."""
