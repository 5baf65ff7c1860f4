"""The whole job as tasks in working order: how much there is of each, what it takes by the plan, and how far the log says it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..job import Job
from ..rules import pot_life
from ..settings.log_entry import Entry, Task, Told
from ..settings.readings import is_of
from ..settings.sheer import railed, trimmed
from ..settings.veneers import strip_planked, veneered

CAUTIONS = {
    Task.MOLDS: "Saw with guards on; hold the offcut side, not the blade's.",
    Task.SETTING_UP: "Prove heights and centreline before the first strip.",
    Task.PLANKING: "Gloves and air with glue; batches no larger than their pot life.",
    Task.VENEERS: "Staples fly: glasses on; count them out again before the next layer.",
    Task.FAIRING: "Wear a mask; wood dust harms lungs and burns.",
    Task.GLASSING: "Gloves, air, and a mask against resin and glass; follow the maker's sheet.",
    Task.TURNING: "Enough people, padded cradles, nobody under it; spalls first.",
    Task.SHEER: "Spalls go on before molds come out.",
}
BY_HOURS = (Task.FAIRING, Task.GLASSING, Task.TURNING, Task.SHEER)
"""Of these nothing is counted: they are as far as their hours are, until they are said to be done."""
NEARLY = 0.9


@dataclass(frozen=True)
class Amounts:
    """How much there is to do: molds, strips a side, veneers of both sides with their hours, the outside in m², whether it is
    glassed, heads of both sides, rails in m, and strips of the deck a side; where the molds stand along the hull, mm."""

    molds: int = 0
    strips: int = 0
    veneers: int = 0
    veneer_hours: float = 0.0
    area: float = 0.0
    glassed: bool = False
    heads: int = 0
    rails: float = 0.0
    deck_strips: int = 0
    stand: tuple[float, ...] = ()


@dataclass(frozen=True)
class Piece:
    """A task: how much there is of it in its unit, hours for one by the plan, how many are done, person-hours logged, whether it is
    `done`, `started` or `waiting` and why; hours that nothing can be done after it until glue has set; and a caution."""

    task: Task
    units: float
    unit: str
    each: float
    done: float
    logged: float
    state: str
    reason: str
    wait: float
    caution: str

    @property
    def left(self) -> float:
        """How many are left."""
        return max(self.units - self.done, 0.0)

    @property
    def hours(self) -> float:
        """Person-hours of all of it by the plan."""
        return self.units * self.each


def pieces_of(amounts: Amounts, job: Job) -> tuple[Piece, ...]:
    """The tasks that a job has, in working order. Reads its log, its strips' minutes, and the shed's temperature."""
    own, minutes = job.log, job.strips.minutes
    cure = pot_life(own.cure, job.stock.used_up.temperature)  # sets as pot life shortens: one rule
    planked, layered = strip_planked(job), veneered(job)
    rows: list[tuple[Task, float, str, float, float]] = [
        (Task.MOLDS, amounts.molds, "molds", own.mold, 0.0),
        (Task.SETTING_UP, amounts.molds, "molds", own.set_up, 0.0),
        (Task.PLANKING, amounts.strips if planked else 0, "strips a side", 2 * minutes / 60.0, cure),
        (Task.VENEERS, amounts.veneers if layered else 0, "veneers", amounts.veneer_hours / max(amounts.veneers, 1), cure),
        (Task.FAIRING, amounts.area, "m²", own.fair, 0.0),
        (Task.GLASSING, amounts.area if amounts.glassed else 0.0, "m²", own.glass, cure),
        (Task.TURNING, 1.0, "turn", own.turn, 0.0),
        (Task.SHEER, amounts.heads if trimmed(job) else 0, "heads", _a_head(amounts, job), 0.0),
        (Task.DECK, amounts.deck_strips, "strips a side", 2 * minutes / 60.0, cure),
    ]
    entries = own.entries
    found: list[Piece] = []
    before = ""
    for task, units, unit, each, wait in rows:
        if units <= 0:
            continue
        mine = [entry for entry in entries if entry.task is task]
        logged = sum(entry.person_hours for entry in mine)
        done = _done(task, float(units), [entry for entry in mine if entry.told is Told.WORK], job, amounts.stand)
        if task in BY_HOURS and done < units and each > 0:
            done = min(logged / each, NEARLY * units)
        state, reason = _state(done, float(units), bool(mine), before)
        found.append(Piece(task, float(units), unit, each, done, logged, state, reason, wait, CAUTIONS.get(task, "")))
        if state != "done":
            before = before or task.value
    return tuple(found)


def _a_head(amounts: Amounts, job: Job) -> float:
    """Hours for a head with its share of the rails."""
    rails = job.log.rail * amounts.rails if railed(job) else 0.0
    return job.log.head + rails / max(amounts.heads, 1)


def _done(task: Task, units: float, entries: Sequence[Entry], job: Job, stand: Sequence[float]) -> float:
    """How many of a task's units are done. Strips are those of *So far*: one truth."""
    if any(entry.finished for entry in entries):
        return units
    if task in (Task.MOLDS, Task.SETTING_UP):
        ticked = {own for entry in entries for own in entry.ticked}
        there = {name for name, at in ticked if _stands(at, stand)}
        return float(min(len(there), units))
    if task is Task.PLANKING:
        return float(min(job.planked.strips if job.planked is not None else 0, units))
    if task is Task.VENEERS:
        laid = {(n, side) for e in entries if e.veneers for n in range(e.veneers[0], e.veneers[1] + 1) for side in e.sides}
        return float(min(len(laid), units))
    if task is Task.DECK:
        return float(min(max((run.last for e in entries for run in e.laid), default=0), units))
    return 0.0


def _stands(at: float | None, stand: Sequence[float]) -> bool:
    """Whether a mold stands still where one stood that was ticked off; without a place it is counted."""
    return at is None or any(is_of("", at, "", station) for station in stand)


def _state(done: float, units: float, touched: bool, before: str) -> tuple[str, str]:
    if done >= units:
        return "done", ""
    if touched or done > 0:
        return "started", ""
    return "waiting", f"after {before}" if before else "can begin"
