"""The stage graph: from a Job to results, each stage kept for as long as what it reads is the same."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from .errors import ImpossiblePlan
from .fairing.fairness import Fairness, judge_fairness
from .findings import Finding, Weight, mm
from .geometry.curves import KeptCurves
from .hull.build import Hull, build_hull
from .hull.measures import Measures, measure
from .hull.unsettled import Settled, settled, unsettled_findings
from .job import Job
from .molds.choices import MoldEdgeKind
from .molds.stations import MoldSet, make_molds
from .offsets.table import EndKind, Lines, OffsetsTable, read_lines
from .planking.as_planked import Looked, Replan, look, replanned
from .planking.bottom import centre_cuts, flat_findings
from .planking.choices import MeetOn
from .planking.courses import Fields
from .planking.crossings import crossings
from .planking.hollows import hollow_findings
from .planking.mechanics import Behaviour, behaviours, handling_findings, span_of
from .planking.plank import Work, laying_of, plank
from .planking.strips import Planking, nothing_laid
from .results import Results, Shape
from .setup.beam import SetUp, set_up
from .setup.schedule import clearances

if TYPE_CHECKING:
    from .stock.plan import StockPlan

Tick = Callable[[float], None]


class Pipeline:
    """Computes results, remembering each stage's last value with the inputs it came from.

    Not shared between threads: give each worker its own, or hold a lock.
    """

    def __init__(self) -> None:
        self._kept: dict[str, tuple[tuple[Any, ...], Any]] = {}
        self._curves = KeptCurves()

    def shape(self, job: Job) -> Shape:
        """Everything but the strips. Raises InputError where the table cannot be read."""
        lines: Lines = self._stage("lines", (job.offsets,), lambda: read_lines(job.offsets))
        outward = job.molds.skin if job.offsets.to_inside else 0.0
        hull: Hull = self._stage("hull", (lines, outward), lambda: build_hull(lines, outward, self._curves))
        waterline, assumed = _waterline(job, lines)
        measures: Measures = self._stage("measures", (hull, waterline), lambda: measure(hull, waterline))
        molds: MoldSet = self._stage(
            "molds", (hull, job.molds, waterline), lambda: make_molds(hull, job.molds, waterline)
        )
        setup: SetUp = self._stage(
            "setup", (hull, molds, job.setup, waterline), lambda: set_up(hull, molds, job.setup, waterline)
        )
        clear = clearances(hull, molds.molds, setup, job.setup)
        findings = (*hull.findings, *assumed, *molds.findings, *setup.findings, *clear)
        return Shape(job, lines, hull, waterline, measures, molds, setup, findings)

    def settled(self, shape: Shape) -> Settled:
        """How far the table settles the hull."""
        told: Settled = self._stage(
            "settled", (shape.lines, shape.hull), lambda: settled(shape.lines, shape.hull)
        )
        return told

    def planking(self, shape: Shape, tick: Tick = lambda _: None) -> Planking:
        """The strips. Raises ImpossiblePlan where they cannot be laid as asked, and what `tick` raises."""
        strips = shape.job.strips
        for own in (strips, *(strips.at_place(first) for first, _ in strips.zone_runs)):
            if own.cover <= 0:
                raise ImpossiblePlan(
                    f"A strip {mm(own.width)} wide with a cove {mm(own.cove)} deep covers nothing: "
                    "make the strip wider or the cove shallower."
                )
        girth = max(g for _, g in shape.hull.girths)
        if strips.cover > girth:
            raise ImpossiblePlan(
                f"One strip ({mm(strips.cover)}) is wider than the whole girth ({mm(round(girth))}): choose a narrower strip."
            )
        if girth / strips.cover > 1500:
            raise ImpossiblePlan(
                f"Strips {mm(strips.cover)} wide would need {girth / strips.cover:.0f} a side: choose a wider strip."
            )
        return self._worked(shape, tick)[1]

    def replan(self, shape: Shape) -> Replan:
        """How far the work has come, and what became of the rest. Raises as `planking` does."""
        plan, planking, looked = self._worked(shape, lambda _: None)
        job, molds = shape.job, shape.molds.molds
        made: Replan = self._stage(
            "replan", (plan, planking, looked, shape.molds, job.planked, job.strips),
            lambda: replanned(job, molds, plan, planking, looked),
        )  # fmt: skip
        return made

    def _worked(self, shape: Shape, tick: Tick) -> tuple[Planking, Planking, Looked | None]:
        """The plan as it was made, what is worked to, and what readings said of it."""
        job, hull = shape.job, shape.hull
        laying = laying_of(job.strips)

        def first() -> tuple[Planking, Fields]:
            fields: Fields = {}
            return plank(hull, laying, tick=tick, fields=fields), fields

        plan: Planking
        plan, fields = self._stage("plan", (hull, laying), first)
        looked: Looked | None = self._stage(
            "looked", (plan, shape.molds, job.planked, job.strips), lambda: look(job, shape.molds.molds, plan)
        )
        if looked is None or looked.drift is None:
            return plan, plan, looked
        work = Work(plan, looked.drift)

        def on() -> Planking | Finding:
            try:
                return plank(hull, laying, tick=tick, work=work, fields=fields)
            except ImpossiblePlan as error:
                return Finding(
                    "rest-impossible",
                    Weight.LOOK,
                    "planking",
                    "what is left",
                    f"The rest cannot be planned from these readings, and the plan is left as it is: {error}",
                )

        now: Planking | Finding = self._stage("on", (plan, hull, laying, looked.drift), on)
        if isinstance(now, Finding):
            looked = replace(looked, findings=(*looked.findings, now), drift=None)
            return plan, plan, looked
        return plan, now, looked

    def fairness(self, shape: Shape, tick: Tick = lambda _: None) -> Fairness:
        """How fair the lines are. Raises what `tick` raises."""
        job = shape.job
        outward = job.molds.skin if job.offsets.to_inside else 0.0

        def build(table: OffsetsTable) -> Hull:
            return build_hull(read_lines(table), outward, self._curves)

        fairness: Fairness = self._stage(
            "fairness", (shape.hull, shape.waterline),
            lambda: judge_fairness(job.offsets, shape.hull, shape.waterline, build, lambda: tick(0.0)),
        )  # fmt: skip
        return fairness

    def mold_checks(self, shape: Shape) -> tuple[Finding, ...]:
        """Whether every mold can be cut as asked, and stands proud of the planking nowhere."""
        from .molds.pieces import make_piece  # with shapely, which loads slowly
        from .molds.printed import changed_since
        from .molds.proof import proud_molds
        from .setup.judgement import survey_findings

        job = shape.job

        def check() -> tuple[Finding, ...]:
            pieces = [make_piece(m, job.molds, job.setup, shape.setup.beam_level) for m in shape.molds.molds]
            cut = [finding for piece in pieces for finding in piece.findings]
            proud = (
                proud_molds(shape.hull, shape.molds, job.molds, shape.waterline)
                if job.molds.edge is MoldEdgeKind.SQUARE
                else ()
            )
            changed = changed_since(job.printed, shape.molds.molds, pieces)
            doubts = unsettled_findings(self.settled(shape))
            return (*doubts, *cut, *proud, *changed, *survey_findings(job, shape.setup, shape.molds.molds))

        checks: tuple[Finding, ...] = self._stage(
            "mold-checks",
            (shape.lines, shape.molds, job.molds, job.setup, shape.setup, job.printed, job.surveys),
            check,
        )
        return checks

    def behaviours(self, shape: Shape, planking: Planking) -> dict[int, Behaviour]:
        """How every strip behaves over the molds, by its number."""
        strips, stations = shape.job.strips, [m.station for m in shape.molds.molds]
        found: dict[int, Behaviour] = self._stage(
            "behaviours", (planking, strips, shape.molds), lambda: behaviours(strips, planking, stations)
        )
        return found

    def handling(self, shape: Shape, planking: Planking) -> tuple[Finding, ...]:
        """What wants looking at about how strips go on."""
        strips, stations = shape.job.strips, [m.station for m in shape.molds.molds]
        found: tuple[Finding, ...] = self._stage(
            "handling", (planking, strips, shape.molds),
            lambda: (
                *handling_findings(strips, self.behaviours(shape, planking)),
                *hollow_findings(planking, span_of(stations)),
                *self._flat_of_keel(shape, planking),
            ),
        )  # fmt: skip
        return found

    def _flat_of_keel(self, shape: Shape, planking: Planking) -> list[Finding]:
        strips, molds = shape.job.strips, shape.molds.molds
        if strips.meet_on is MeetOn.KEEL_LINE:
            return []
        rows = {m.name: crossings(shape.hull, m, planking, strips) for m in molds}
        return flat_findings(centre_cuts(molds, rows, planking, strips.meet_on), planking)

    def stock(self, shape: Shape, planking: Planking, tick: Tick = lambda _: None) -> StockPlan:
        """How boards become strips; what is bought and used up."""
        from .stock.plan import plan_stock
        from .stock.used_up import shell_of

        job, molds = shape.job, shape.molds.molds

        def plan() -> StockPlan:
            found = self.behaviours(shape, planking)
            shell = shell_of(shape.measures.planked_area, molds, planking)
            return plan_stock(job, planking, found, molds, shell, tick)

        made: StockPlan = self._stage(
            "stock", (planking, shape.molds, job.strips, job.stock, shape.measures.planked_area), plan
        )
        return made

    def results(self, job: Job, tick: Tick = lambda _: None) -> Results:
        """Everything."""
        shape = self.shape(job)
        planking = self.planking(shape, tick)
        checks = (*self.mold_checks(shape), *self.handling(shape, planking))
        return Results(
            shape, planking, self.fairness(shape, tick), checks,
            self.behaviours(shape, planking), self.stock(shape, planking), self.settled(shape), self.replan(shape),
        )  # fmt: skip

    def results_for(self, job: Job, *, strips: bool) -> Results:
        """Everything; where `strips` are not asked for and cannot be laid, all but them and what follows from them."""
        try:
            return self.results(job)
        except ImpossiblePlan:
            if strips:
                raise
            shape = self.shape(job)
            return Results(
                shape,
                nothing_laid(job.strips),
                self.fairness(shape),
                self.mold_checks(shape),
                settled=self.settled(shape),
            )

    def _stage(self, name: str, reads: tuple[Any, ...], compute: Callable[[], Any]) -> Any:
        kept = self._kept.get(name)
        if kept is not None and all(_same(a, b) for a, b in zip(kept[0], reads, strict=True)):
            return kept[1]
        value = compute()
        self._kept[name] = (reads, value)
        return value


def _same(a: Any, b: Any) -> bool:
    """Results are the same if they are the same object; settings if they are equal."""
    if a is b:
        return True
    return type(a) is type(b) and not isinstance(a, (Lines, Hull, MoldSet, Planking)) and bool(a == b)


def _waterline(job: Job, lines: Lines) -> tuple[float, list[Finding]]:
    if job.waterline is not None:
        return job.waterline, []
    every = list(_all_points(lines))
    lowest = min(float(p[:, 2].min()) for p in every)
    sheer = min(float(s.points[-1, 2]) for s in lines.sections)
    level = round(lowest + (sheer - lowest) / 3)
    text = (
        f"No load waterline is given; it is taken at height {mm(level)}, a third of the way up from the keel. "
        "Any level line will do for setting up, but set the real one for volume and wetted area."
    )  # fmt: skip
    return float(level), [Finding("no-waterline", Weight.LOOK, "offsets", "the load waterline", text)]


def _all_points(lines: Lines) -> Iterator[Any]:
    for section in lines.sections:
        yield section.points
    for end in (lines.bow, lines.stern):
        if end.kind is not EndKind.OPEN:
            yield end.points
