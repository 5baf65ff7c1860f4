"""What a Job comes to: the values of its stages. Loads nothing of what computes them: the window shows results and never works
them out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any, TypeVar

from .fairing.stages import FAIRNESS
from .hull.stages import DECK, HULL, LINES, MEASURES, SETTLED, WATERLINE
from .molds.cut_stages import MARKS, PARTS, PIECES
from .molds.stages import MOLDS, STRINGERS
from .planking.stages import BEHAVIOURS, CENTRE_CUTS, PLANKING, REPLAN, STRIP_ENDS, TICKS
from .settings.deck import decked
from .settings.log import logged
from .settings.sheer import trimmed
from .settings.veneers import strip_planked, veneered
from .setup.stages import SCHEDULE, SETUP, SURVEYS
from .stage import Failed, Stage, Value
from .stages import findings_of
from .stock.stages import STOCK

if TYPE_CHECKING:
    from .fairing.fairness import Fairness
    from .findings import Finding
    from .hull.build import Hull
    from .hull.deck import Deck
    from .hull.measures import Measures
    from .hull.unsettled import Settled
    from .job import Job
    from .molds.mold_marks import MoldMarks
    from .molds.parts import CutParts
    from .molds.pieces import Piece
    from .molds.stations import MoldSet
    from .molds.stringers import Stringers
    from .offsets.table import Lines
    from .planking.as_planked import Replan
    from .planking.bottom import CentreCut
    from .planking.crossings import Crossing
    from .planking.mechanics import Behaviour
    from .planking.stages import StripEnds
    from .planking.strips import Planking
    from .setup.beam import SetUp
    from .setup.judgement import SurveyJudgement
    from .setup.schedule import Schedule
    from .stock.plan import StockPlan

T = TypeVar("T")
FORM: tuple[Stage[Any], ...] = (LINES, HULL, WATERLINE, MEASURES, MOLDS, SETUP, SCHEDULE)
"""What follows an edit at once: the hull, where molds stand and how."""
ONLY_WHERE = {"deck": decked, "veneers": veneered, "planking": strip_planked, "sheer": trimmed, "log": logged}
"""Pages of what not every job has."""


CUT: tuple[Stage[Any], ...] = (STRINGERS, SURVEYS, PIECES, MARKS, PARTS)
"""What follows a moment later: what is cut and marked, and what was measured."""
SHAPE = (*FORM, *CUT)
"""Everything but the strips and what looks at the whole more closely."""


def has_page(job: Job, page: str) -> bool:
    """Whether a job has anything of a page's kind."""
    return page not in ONLY_WHERE or ONLY_WHERE[page](job)


@dataclass(frozen=True)
class Shape:
    """The values of `FORM` together, and the job they are of; those of `CUT` as far as they are known (`is_cut`: all of them)."""

    job: Job
    lines: Lines
    hull: Hull
    waterline: float
    measures: Measures
    molds: MoldSet
    setup: SetUp
    schedule: Schedule
    cut: Results
    """Where the values of `CUT` are had from."""
    findings: tuple[Finding, ...]
    key: tuple[str, ...] = ()
    """The keys of the values: two shapes of the same key are the same."""

    @property
    def is_cut(self) -> bool:
        """Whether all that is cut, marked and measured is known."""
        return all(self.cut.get(stage) is not None for stage in CUT)

    @property
    def deck(self) -> Deck | None:
        """The deck; None where there is none, or it cannot be drawn."""
        return self.cut.get(DECK)

    @property
    def surveys(self) -> tuple[SurveyJudgement, ...]:
        """What was measured, round by round. Raises as `Results.__getitem__` does, like all that follow."""
        return self.cut[SURVEYS]

    @property
    def stringers(self) -> Stringers:
        """Where stringers lie, and their notches in the molds."""
        return self.cut[STRINGERS]

    @property
    def pieces(self) -> Mapping[str, Piece]:
        """What is cut for each mold, by its name."""
        return self.cut[PIECES]

    @property
    def marks(self) -> Mapping[str, MoldMarks]:
        """What is marked on each mold, by its name."""
        return self.cut[MARKS]

    @property
    def parts(self) -> CutParts:
        """All parts that are cut."""
        return self.cut[PARTS]


def deck_of_table(shape: Shape) -> Hull | None:
    """The deck's surface where the table gives it: new stations are measured on it; None where it is none of the table's."""
    return shape.deck.surface if shape.deck is not None and shape.job.offsets.has_deck else None


class Results:
    """Values of stages for one job. A stage that was not asked for is not there; one that failed raises what went wrong."""

    def __init__(self, job: Job, values: Mapping[str, Value]) -> None:
        self.job = job
        self.values = dict(values)

    def __getitem__(self, stage: Stage[T]) -> T:
        """The value of a stage. Raises LookupError where nobody asked for it, and what working it out raised."""
        found = self.values.get(stage.id)
        if found is None:
            raise LookupError(f"{stage.id} was not asked for")
        if isinstance(found.value, Failed):
            raise found.value.raised()
        value: T = found.value
        return value

    def get(self, stage: Stage[T]) -> T | None:
        """The value of a stage; None where it was not asked for or failed."""
        found = self.values.get(stage.id)
        return None if found is None or isinstance(found.value, Failed) else found.value

    @cached_property
    def shape(self) -> Shape:
        """Everything but the strips; pieces, marks and readings as far as they are known. Raises as `[]` does."""
        return Shape(
            self.job,
            self[LINES],
            self[HULL],
            self[WATERLINE].height,
            self[MEASURES],
            self[MOLDS],
            self[SETUP],
            self[SCHEDULE],
            self,
            findings_of(self.values, SHAPE),
            tuple(self.values[s.id].key for s in SHAPE if s.id in self.values),
        )

    @property
    def planking(self) -> Planking:
        """The strips as they are worked to."""
        return self[PLANKING]

    @property
    def behaviours(self) -> Mapping[int, Behaviour]:
        """How every strip behaves, by its number."""
        return self[BEHAVIOURS]

    @property
    def ticks(self) -> Mapping[str, tuple[Crossing, ...]]:
        """Every strip at every mold, by the mold's name, from the sheer down."""
        return self[TICKS]

    @property
    def centre_cuts(self) -> tuple[CentreCut, ...]:
        """Where both sides meet, at every mold where they do."""
        return self[CENTRE_CUTS]

    @property
    def strip_ends(self) -> Mapping[int, StripEnds]:
        """How the ends of every strip are cut, by its number."""
        return self[STRIP_ENDS]

    @property
    def replan(self) -> Replan:
        """How far the planking has come and what became of the rest."""
        return self[REPLAN]

    @property
    def stock(self) -> StockPlan | None:
        """The wood; None where nobody has planned it yet."""
        return self.get(STOCK)

    @property
    def fairness(self) -> Fairness | None:
        """How fair the lines are; None where nobody has looked yet."""
        return self.get(FAIRNESS)

    @property
    def settled(self) -> Settled | None:
        """How far the table settles the hull; None where nobody has looked yet."""
        return self.get(SETTLED)

    @property
    def findings(self) -> tuple[Finding, ...]:
        """Everything that was noticed, in order of work; nothing of what the job does not have: strips under no veneers, say."""
        return tuple(f for f in findings_of(self.values) if has_page(self.job, f.stage))
