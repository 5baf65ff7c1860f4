"""What the pages are shown: the job, what is known of it, what is selected, how lengths are written."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

from ...app.known import Known
from ...core.amounts import in_amounts, quantity
from ...core.fairing.stages import FAIRNESS
from ...core.findings import Finding, Weight
from ...core.hull.stages import DECK
from ...core.job import Job
from ...core.planking.stages import BEHAVIOURS, PLANKING, REPLAN
from ...core.results import CUT, FORM, SHAPE, Results, Shape
from ...core.stage import Failed, FailureKind, Stage, Turn, Value
from ...core.stages import BY_ID, SHOWN, STAGES, Texts, keys_of
from ...core.stock.stages import STOCK
from ...core.units import LengthStyle, format_length, spoken_length
from .theme import LIGHT, Theme

if TYPE_CHECKING:
    from ...core.fairing.fairness import Fairness
    from ...core.molds.stations import Mold
    from ...core.offsets.table import OffsetsTable
    from ...core.planking.as_planked import Replan
    from ...core.planking.mechanics import Behaviour
    from ...core.planking.strips import Planking, Strip
    from ...core.stock.plan import StockPlan

SOON = tuple(s for s in SHOWN if s.turn <= Turn.STRIPS)
"""Shape and strips, and what is looked at with them."""


@dataclass(frozen=True)
class State:
    """One moment of the window. What is `known` may be of an earlier job; `shape_job` is the one that its shape is of."""

    job: Job
    known: Known = field(default_factory=Known)
    shape_job: Job | None = None
    shape_keys: Mapping[str, str] = field(default_factory=dict)
    """The keys of the job that the shape is of."""
    theme: Theme = LIGHT
    mold_number: int = 0
    strip_number: int = 1
    keys: Mapping[str, str] = field(default_factory=dict)
    """The keys of the job's own values."""
    folder: Path | None = None
    """Where the job is saved."""
    texts: Texts = field(default_factory=Texts, compare=False, repr=False)

    def __post_init__(self) -> None:
        if not self.keys:
            object.__setattr__(self, "keys", keys_of(self.job, self.texts))

    # -- how it goes on -----------------------------------------------------------------------------

    def of(self, job: Job) -> State:
        """The same moment after an edit; what failed is tried again."""
        shape_job, shape_keys = (self.job, self.keys) if self.shape_known else (self.shape_job, self.shape_keys)
        known = self.known.hopeful() if job.offsets.rows else Known()
        return replace(self, job=job, keys=keys_of(job, self.texts), shape_job=shape_job, shape_keys=shape_keys, known=known)

    def told(self, values: Iterable[Value]) -> State:
        """With what some stages came to."""
        return replace(self, known=self.known.put(values))

    def given_up(self, message: str) -> State:
        """What is not known yet will not be: it was stopped, or what works it out is gone."""
        missing = [s for s in SHOWN if not self.answered([s])]
        if not missing:
            return self
        first = missing[0] if missing[0] in SHAPE else PLANKING
        failed = Failed(first.id, FailureKind.FAULT, message)
        return self.told([Value(s.id, self.keys[s.id], failed) for s in missing])

    # -- what is known ------------------------------------------------------------------------------

    def is_known(self, stage: Stage[Any]) -> bool:
        """Whether the value of a stage is of this very job."""
        return self.known.is_of(stage, self.keys)

    def answered(self, stages: Iterable[Stage[Any]]) -> bool:
        """Whether it is known of all these what they come to, good or bad."""
        return all(self.is_known(s) or s.id in self.failed for s in stages)

    @cached_property
    def shape_known(self) -> bool:
        """Whether the shape is of this very job."""
        return all(self.is_known(s) for s in FORM)

    @cached_property
    def shape(self) -> Shape | None:
        """Everything but the strips; perhaps of an earlier job."""
        if not all(s.id in self.known.values for s in FORM):
            return None
        known = self.shape_known
        job, keys = (self.job, self.keys) if known or self.shape_job is None else (self.shape_job, self.shape_keys)
        # of an earlier hull, or of one of whose molds some were made anew before a stage failed: not to be drawn with this one
        whole = known or all(self.known.is_of(s, keys) for s in FORM)
        late = {s.id for s in (*CUT, DECK) if not whole or not self.known.is_of(s, keys)}
        return Results(job, {name: value for name, value in self.known.values.items() if name not in late}).shape

    @property
    def is_cut(self) -> bool:
        """Whether pieces, marks and readings are known of the shape that is shown."""
        return self.shape is not None and self.shape.is_cut

    @property
    def drawn_job(self) -> Job:
        """The job that the shape is drawn from."""
        return self.shape.job if self.shape is not None else self.job

    @cached_property
    def results(self) -> Results:
        """All that is known of this very job, with what failed."""
        good = {s.id: self.known.values[s.id] for s in STAGES if self.is_known(s)}
        bad = {name: Value(name, self.keys[name], failed) for name, failed in self.failed.items()}
        return Results(self.job, good | bad)

    @property
    def planking(self) -> Planking | None:
        """The strips; perhaps of an earlier job."""
        return self.known.get(PLANKING)

    @property
    def behaviours(self) -> Mapping[int, Behaviour]:
        """How the strips behave, by their numbers."""
        return self.known.get(BEHAVIOURS) or {}

    @property
    def replan(self) -> Replan | None:
        """How far the planking has come, and what became of the rest."""
        return self.known.get(REPLAN)

    @property
    def fairness(self) -> Fairness | None:
        """How fair the lines are; perhaps of an earlier job."""
        return self.known.get(FAIRNESS)

    @property
    def judged(self) -> bool:
        """Whether the fairness is of this very job."""
        return self.is_known(FAIRNESS)

    @property
    def stock(self) -> StockPlan | None:
        """The wood; perhaps of an earlier job."""
        return self.known.get(STOCK)

    @property
    def stocked(self) -> bool:
        """Whether the wood is of this very job."""
        return self.is_known(STOCK)

    @cached_property
    def stale(self) -> bool:
        """Whether shape or strips are not of this very job."""
        return bool(self.job.offsets.rows) and not all(self.is_known(s) for s in SOON)

    @cached_property
    def working(self) -> bool:
        """Whether shape or strips of this very job are still being worked out: not what cannot be made of it."""
        return bool(self.job.offsets.rows) and not self.answered(SOON)

    def key(self, *stages: Stage[Any]) -> tuple[str, ...]:
        """The keys of what is known of some stages: as long as they are the same, so is all that is drawn of them."""
        return tuple(self.known.keys.get(s.id, "") for s in stages)

    # -- what went wrong ----------------------------------------------------------------------------

    @cached_property
    def failed(self) -> Mapping[str, Failed]:
        """What of this very job came to nothing, by stage, and why."""
        return self.known.failed(self.keys)

    @cached_property
    def failure(self) -> Failed | None:
        """What went wrong first, in order of work; None where nothing did."""
        return next((self.failed[s.id] for s in SHOWN if s.id in self.failed), None)

    @property
    def problem(self) -> str:
        """Why some of this very job could not be worked out."""
        return self.failure.message if self.failure is not None else ""

    @property
    def problem_stage(self) -> str:
        """The page where that lies."""
        return BY_ID[self.failure.stage].page if self.failure is not None else ""

    def stopped(self, page: str) -> bool:
        """Whether what a page shows is of an earlier job for good: the problem lies there, or before it."""
        return any(s.page == page and s.id in self.failed for s in SHOWN)

    def waits(self, page: str) -> bool:
        """Whether what a page is about is still being worked out for this very job."""
        late = (Turn.STRIPS, Turn.LINES, Turn.WOOD)
        return any(s.page == page and s.turn in late and not self.is_known(s) for s in SHOWN)

    # -- how lengths are written --------------------------------------------------------------------

    @property
    def style(self) -> LengthStyle:
        """How lengths are written."""
        return self.job.units.style

    def write(self, mm: float, *, unit: bool = False) -> str:
        """A length in the builder's units."""
        return format_length(mm, self.style, unit=unit)

    def write_fine(self, mm: float) -> str:
        """What a caliper measures, with its unit."""
        return format_length(mm, self.style.fine, unit=True)

    def amount(self, value: float, unit: str, spec: str = "g") -> str:
        """An area, a volume or a weight in a metric unit as it is told, with its unit."""
        return in_amounts(quantity(value, unit, spec), self.job.units.told_in)

    def say_length(self, mm: float) -> str:
        """A length within a sentence, with its unit."""
        return spoken_length(mm, self.style)

    def write_error(self) -> str:
        """The most that rounding for the tape can move any one number."""
        return f"±{self.write_fine(self.style.step_mm / 2)}"

    # -- what is shown ------------------------------------------------------------------------------

    def drawn_from(self, table: OffsetsTable) -> Shape | None:
        """The shape, where it was drawn from exactly this table."""
        drawn = self.shape is not None and not self.stopped("offsets") and self.shape.job.offsets is table
        return self.shape if drawn else None

    @property
    def has_molds(self) -> bool:
        """Whether there is any mold, as far as is known."""
        return self.shape is None or bool(self.shape.molds.molds)

    @property
    def mold(self) -> Mold | None:
        """The current mold."""
        if self.shape is None or not self.shape.molds.molds:
            return None
        molds = self.shape.molds.molds
        return molds[min(self.mold_number, len(molds) - 1)]

    @property
    def strip(self) -> Strip | None:
        """The current strip."""
        if self.planking is None or not self.planking.strips:
            return None
        strips = self.planking.strips
        return strips[min(max(self.strip_number, 1), len(strips)) - 1]

    def findings(self, page: str) -> list[Finding]:
        """What wants looking at on one page (not mere information)."""
        if page == "stock" and not self.job.stock.given:
            return []
        return [f.said(self.say_length) for f in self.known.findings if f.stage == page and f.weight is not Weight.INFORMATION]
