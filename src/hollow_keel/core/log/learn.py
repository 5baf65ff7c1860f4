"""What a job teaches the next: hours by the plan as they really were."""

from __future__ import annotations

from ..change import change
from ..job import Job
from ..settings.log_entry import Task
from .plan_of_work import WorkPlan

HOURS = {
    Task.MOLDS: "mold",
    Task.SETTING_UP: "set_up",
    Task.FAIRING: "fair",
    Task.GLASSING: "glass",
    Task.TURNING: "turn",
    Task.SHEER: "head",
}
"""Where the hours for one of a task stand in the log's settings; those of strips are minutes with the strips."""
OF_THE_CREW = ("people", "week", "kept", "held", "a_day", "cure", "ahead", "rail", "hourly")


def learned(job: Job, work: WorkPlan) -> Job:
    """The job whose hours by the plan are those that its own log comes to, of every task that hours are logged for."""
    for piece, factor in zip(work.pieces, work.rates.factors().tolist(), strict=True):
        if piece.logged <= 0 or piece.done <= 0:
            continue
        if piece.task is Task.PLANKING:
            job = change(job, "strips", minutes=round(job.strips.minutes * factor, 2))
        elif piece.task in HOURS:
            name = HOURS[piece.task]
            job = change(job, "log", **{name: round(getattr(job.log, name) * factor, 4)})
    return job


def with_hours_of(job: Job, other: Job) -> Job:
    """A job with the hours by the plan, the crew and its week of another one."""
    names = (*HOURS.values(), *OF_THE_CREW)
    changed = change(job, "log", **{name: getattr(other.log, name) for name in names})
    return change(changed, "strips", minutes=other.strips.minutes)
