"""What has to be in the shed by the time each task may begin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..amounts import converted, in_amounts, quantity
from ..job import Job
from ..settings.log_entry import Task
from ..stock.used_up import cloth_and_resin
from .forecast import Forecast
from .tasks import Amounts, Piece


@dataclass(frozen=True)
class Wanted:
    """So much of something, in the unit that the job tells amounts in, for what is left of a task, by the day that it may begin
    (None: not known)."""

    task: Task
    what: str
    amount: float
    unit: str
    by: date | None


def wanted(
    pieces: Sequence[Piece], amounts: Amounts, grams: float | None, metres: float, when: Forecast, job: Job
) -> tuple[Wanted, ...]:
    """The list, in working order. `grams` is the glue of one strip of both sides, `metres` how long both are together. Reads the
    job's cloth, resin and overlap, and its units."""
    used = job.stock.used_up
    found: list[tuple[Task, str, float, str]] = []
    for piece in pieces:
        if piece.left <= 0:
            continue
        if piece.task is Task.PLANKING:
            found.append((piece.task, "strips", piece.left * metres, "m"))
            if grams is not None:
                found.append((piece.task, "glue, mixed", piece.left * grams / 1000.0, "kg"))
        elif piece.task is Task.GLASSING:
            left = amounts.area * piece.left / piece.units
            for face, weight in (("outside", used.cloth_out), ("inside", used.cloth_in)):
                if weight > 0:
                    cloth, resin = cloth_and_resin(left, weight, used)
                    found.append((piece.task, f"cloth of {_weight(weight, job)}, {face}", cloth, "m²"))
                    found.append((piece.task, f"resin for it, {face}", resin, "kg"))
        elif piece.task is Task.SHEER and amounts.rails > 0:
            found.append((piece.task, "rails", amounts.rails * piece.left / piece.units, "m"))
    begins = _begins(pieces, when)
    return tuple(
        Wanted(task, what, *converted(amount, unit, job.units.told_in), begins.get(task)) for task, what, amount, unit in found
    )


def _weight(grams: float, job: Job) -> str:
    """The weight of a cloth, g/m², as it is told."""
    return in_amounts(quantity(grams, "g/m²"), job.units.told_in)


def _begins(pieces: Sequence[Piece], when: Forecast) -> dict[Task, date | None]:
    """When each task may begin at the earliest: as the one before it is done early."""
    ends = {milestone.task: milestone.early for milestone in when.milestones}
    begins: dict[Task, date | None] = {}
    at: date | None = when.starts
    for piece in pieces:
        begins[piece.task] = at
        if piece.task in ends:
            at = ends[piece.task]
    return begins
