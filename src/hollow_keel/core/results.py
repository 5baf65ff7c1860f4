"""What a Job comes to. Loads nothing of what computes it: the window shows results and never works them out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .fairing.fairness import Fairness
    from .findings import Finding
    from .hull.build import Hull
    from .hull.measures import Measures
    from .hull.unsettled import Settled
    from .job import Job
    from .molds.stations import MoldSet
    from .offsets.table import Lines
    from .planking.as_planked import Replan
    from .planking.mechanics import Behaviour
    from .planking.strips import Planking
    from .setup.beam import SetUp
    from .stock.plan import StockPlan


@dataclass(frozen=True)
class Shape:
    """Results that follow an edit at once: everything but the strips."""

    job: Job
    lines: Lines
    hull: Hull
    waterline: float
    measures: Measures
    molds: MoldSet
    setup: SetUp
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class Results:
    """All results of a Job."""

    shape: Shape
    planking: Planking
    fairness: Fairness | None = None
    """None where nobody has looked yet."""
    mold_checks: tuple[Finding, ...] = ()
    """What was noticed about the pieces of the molds, and about how strips go on."""
    behaviours: Mapping[int, Behaviour] = field(default_factory=dict)
    """How every strip behaves, by its number; empty where there is no planking."""
    stock: StockPlan | None = None
    """None where nobody has planned it yet."""
    settled: Settled | None = None
    """How far the table settles the hull; None where nobody has looked yet."""
    replan: Replan | None = None
    """How far the planking has come and what became of the rest; None where there is no planking."""

    @property
    def findings(self) -> tuple[Finding, ...]:
        """Everything that was noticed, in order of work."""
        remarks = self.fairness.remarks if self.fairness else ()
        stock = self.stock.findings if self.stock else ()
        rest = self.replan.findings if self.replan else ()
        return remarks + self.shape.findings + self.mold_checks + self.planking.findings + rest + stock
