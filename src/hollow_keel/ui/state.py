"""What the pages are shown: the job, the newest results, what is selected, how lengths are written."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from ..core.findings import Finding, Weight
from ..core.job import Job
from ..core.units import LengthStyle, format_length, spoken_length
from .theme import LIGHT, Theme

if TYPE_CHECKING:
    from ..core.fairing.fairness import Fairness
    from ..core.hull.unsettled import Settled
    from ..core.molds.stations import Mold
    from ..core.offsets.table import OffsetsTable
    from ..core.planking.as_planked import Replan
    from ..core.planking.mechanics import Behaviour
    from ..core.planking.strips import Planking, Strip
    from ..core.results import Shape
    from ..core.stock.plan import StockPlan


@dataclass(frozen=True)
class State:
    """One moment of the window. `shape` and `planking` may be of an earlier job (`stale`)."""

    job: Job
    shape: Shape | None = None
    planking: Planking | None = None
    behaviours: Mapping[int, Behaviour] = field(default_factory=dict)
    """How the strips of `planking` behave, by their numbers."""
    replan: Replan | None = None
    """How far the planking has come, and what became of the rest."""
    stale: bool = False
    fairness: Fairness | None = None
    judged: bool = False
    """Whether `fairness` is of this very job."""
    problem: str = ""
    """Why this very job could not be worked out."""
    problem_stage: str = ""
    """Where that lies: at the "offsets", so that nothing is known of this job, or at the "planking", after its molds."""
    theme: Theme = LIGHT
    mold_checks: tuple[Finding, ...] = ()
    """What was noticed about the pieces of the molds and how strips go on; a moment older than the shape."""
    settled: Settled | None = None
    """How far the table settles the hull; of the same moment as `mold_checks`."""
    stock: StockPlan | None = None
    stocked: bool = False
    """Whether `stock` is of this very job."""
    mold_number: int = 0
    strip_number: int = 1

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

    def say_length(self, mm: float) -> str:
        """A length within a sentence, with its unit."""
        return spoken_length(mm, self.style)

    def write_error(self) -> str:
        """The most that rounding for the tape can move any one number, in mm."""
        return f"±{self.style.step_mm / 2:.2g} mm"

    def stopped(self, stage: str) -> bool:
        """Whether what a stage shows is of an earlier job: the problem lies there, or before it."""
        return self.problem_stage == "offsets" or (
            self.problem_stage == "planking" and stage in ("planking", "stock")
        )

    def drawn_from(self, table: OffsetsTable) -> Shape | None:
        """The shape, where it was drawn from exactly this table."""
        drawn = self.shape is not None and self.problem_stage != "offsets" and self.shape.job.offsets is table
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

    def findings(self, stage: str) -> list[Finding]:
        """What wants looking at on one page (not mere information)."""
        every: tuple[Finding, ...] = ()
        if self.shape is not None:
            every += self.shape.findings + self.mold_checks
        if self.planking is not None:
            every += self.planking.findings
        if self.replan is not None:
            every += self.replan.findings
        if self.fairness is not None:
            every += self.fairness.remarks
        if self.stock is not None and self.job.stock.given:
            every += self.stock.findings
        return [
            f.said(self.say_length) for f in every if f.stage == stage and f.weight is not Weight.INFORMATION
        ]
