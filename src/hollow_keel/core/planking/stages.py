"""The strips: the plan, what is worked to since strips were laid, how they behave, where they come on the molds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight, mm
from ..hull.stages import HULL, SETTLED
from ..job import StripSettings
from ..molds.stages import MOLDS
from ..settings.strip_choices import MeetOn
from ..settings.veneers import strip_planked
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..hull.build import Hull
    from .as_planked import Looked, Replan
    from .bottom import CentreCut
    from .courses import Fields
    from .crossings import Crossing
    from .end_cuts import EndCut
    from .mechanics import Behaviour
    from .strips import Planking

LAYING = (
    "strips.cover",
    "strips.other_covers",
    "strips.guide",
    "strips.layout",
    "strips.master",
    "strips.least_width",
    "strips.bottom",
    "strips.mixed_from",
    "strips.mixed_to",
)
"""What the lines of strips depend on."""
READINGS = ("planked.left", "planked.measured_strips", "planked.way")
WOOD = (
    "strips.width",
    "strips.thickness",
    "strips.zones",
    "strips.layout",
    "strips.wood",
    "strips.modulus",
    "strips.strength",
    "strips.hand_push",
    "strips.clamp_push",
)
"""What the behaviour of strips depends on."""
MOST_STRIPS, MOST_GIRTH_MM = 1500, 100_000.0


@dataclass(frozen=True)
class Now:
    """What is worked to now: the plan, or the rest of it laid anew; what readings said of the plan."""

    planking: Planking
    looked: Looked | None


@dataclass(frozen=True)
class StripEnds:
    """The ends of one strip: its forward and its after cut; how much longer each is past the keel line, mm; and how far the hull
    under the strip may be out, mm."""

    cuts: tuple[EndCut | None, EndCut | None]
    past: tuple[float, float]
    uncertain_by: float


def _strip_hull(given: Given) -> Hull:
    from ..hull.within import hull_within

    return hull_within(given[HULL], given.job.over_strips)


def _distances(_given: Given) -> Fields:
    from .courses import Fields

    return Fields()


def _plan(given: Given) -> Planking:
    from .plank import laying_of, plank
    from .strips import nothing_laid

    hull, strips = given[STRIP_HULL], given.job.strips
    if not strip_planked(given.job):
        return nothing_laid(strips)
    _check_covers(hull, strips)
    return plank(hull, laying_of(strips), tick=given.tick, fields=given[DISTANCES])


def _check_covers(hull: Hull, strips: StripSettings) -> None:
    for first, cover in ((0, strips.cover), *((first, cover) for first, _, cover in strips.other_covers)):
        if cover <= 0:
            own = strips.at_place(first)
            raise ImpossiblePlan(
                f"A strip {mm(own.width)} wide with a cove {mm(own.cove)} deep covers nothing: "
                "make the strip wider or the cove shallower."
            )
    girth = max(g for _, g in hull.girths)
    if girth > MOST_GIRTH_MM:
        raise ImpossiblePlan(
            f"The hull is {mm(round(girth))} round a side: no strips are laid on that. Look at the offsets and their unit."
        )
    if strips.cover > girth:
        raise ImpossiblePlan(
            f"One strip ({mm(strips.cover)}) is wider than the whole girth ({mm(round(girth))}): choose a narrower strip."
        )
    if girth / strips.cover > MOST_STRIPS:
        raise ImpossiblePlan(f"Strips {mm(strips.cover)} wide would need {girth / strips.cover:.0f} a side: choose a wider strip.")


def _looked(given: Given) -> Looked | None:
    from .as_planked import look

    return look(given.job, given[MOLDS].molds, given[PLAN])


def _worked_to(given: Given) -> Now:
    from .plank import Work, laying_of, plank

    plan, looked = given[PLAN], given[LOOKED]
    if looked is None or looked.drift is None:
        return Now(plan, looked)
    work = Work(plan, looked.drift)
    try:
        on = plank(given[STRIP_HULL], laying_of(given.job.strips), tick=given.tick, work=work, fields=given[DISTANCES])
    except ImpossiblePlan as error:
        text = f"The rest cannot be planned from these readings, and the plan is left as it is: {error}"
        said = Finding("rest-impossible", Weight.LOOK, "planking", "what is left", text)
        return Now(plan, replace(looked, findings=(*looked.findings, said), drift=None))
    return Now(on, looked)


def _planking(given: Given) -> Planking:
    return given[WORKED_TO].planking


def _replan(given: Given) -> Replan:
    from .as_planked import replanned

    now = given[WORKED_TO]
    return replanned(given.job, given[MOLDS].molds, given[PLAN], now.planking, now.looked)


def _behaviours(given: Given) -> Mapping[int, Behaviour]:
    from .mechanics import behaviours

    stations = [m.station for m in given[MOLDS].molds]
    return behaviours(given.job.strips, given[PLANKING], stations)


def _ticks(given: Given) -> Mapping[str, tuple[Crossing, ...]]:
    from .crossings import crossings

    found = {}
    for mold in given[MOLDS].molds:
        found[mold.name] = crossings(given[STRIP_HULL], mold, given[PLANKING], given.job.strips)
        given.tick(1.0)
    return found


def _centre_cuts(given: Given) -> tuple[CentreCut, ...]:
    from .bottom import centre_cuts

    return centre_cuts(given[MOLDS].molds, given[TICKS], given[PLANKING], given.job.strips.meet_on)


def _flat_of_keel(given: Given) -> list[Finding]:
    from .bottom import flat_findings

    return flat_findings(given[CENTRE_CUTS], given[PLANKING])


def _handling(given: Given) -> tuple[Finding, ...]:
    from .hollows import hollow_findings
    from .mechanics import handling_findings, span_of

    strips, planking = given.job.strips, given[PLANKING]
    stations = [m.station for m in given[MOLDS].molds]
    return (*handling_findings(strips, given[BEHAVIOURS]), *hollow_findings(planking, span_of(stations)))


def _ends(given: Given) -> Mapping[int, StripEnds]:
    from ..hull.unsettled import strip_unsettled
    from .bottom import past_keel_line
    from .end_cuts import end_cuts

    hull, told, meet_on = given[STRIP_HULL], given[SETTLED], given.job.strips.meet_on
    return {
        s.number: StripEnds(
            end_cuts(hull, s),
            past_keel_line(s, meet_on),
            strip_unsettled(told, s.panel, [(p.points, p.uv) for p in (*s.near, *s.far)]),
        )
        for s in given[PLANKING].strips
    }


STRIP_HULL = Stage(
    "strip-hull", "planking", "what strips lie on", ("over_strips",), (HULL,), _strip_hull, turn=Turn.STRIPS, shown=False
)
"""The outside of the strips: the hull's own, or within it where layers of veneer lie over them."""
DISTANCES = Stage("distances", "planking", "distances from guides", (), (STRIP_HULL,), _distances, turn=Turn.STRIPS, shown=False)
"""Kept for every plan of one hull; filled as guides are asked for, for they depend on nothing else."""
PLAN = Stage(
    "plan",
    "planking",
    "the strips",
    (*LAYING, "veneers.layers", "veneers.over_strips"),
    (STRIP_HULL, DISTANCES),
    _plan,
    turn=Turn.STRIPS,
    shown=False,
)
LOOKED = Stage(
    "looked",
    "planking",
    "what was measured of the planking",
    (*READINGS, "strips.cover", "strips.layout", "strips.least_width"),
    (PLAN, MOLDS),
    _looked,
    turn=Turn.STRIPS,
    shown=False,
    when=lambda job: job.planked is not None and job.planked.is_measured,
)
WORKED_TO = Stage(
    "worked-to",
    "planking",
    "the rest of the strips",
    LAYING,
    (STRIP_HULL, DISTANCES, PLAN, LOOKED),
    _worked_to,
    turn=Turn.STRIPS,
    shown=False,
)
PLANKING = Stage("planking", "planking", "the strips", (), (WORKED_TO,), _planking, lambda planking: planking.findings, Turn.STRIPS)
BEHAVIOURS = Stage("behaviours", "planking", "how strips behave", WOOD, (PLANKING, MOLDS), _behaviours, turn=Turn.STRIPS)
REPLAN = Stage(
    "replan",
    "planking",
    "the rest planned again",
    ("planked.strips", *READINGS, "strips.cover", "strips.layout", "strips.least_width"),
    (PLAN, WORKED_TO, MOLDS),
    _replan,
    lambda plan: plan.findings,
    Turn.STRIPS,
)
TICKS = Stage(
    "ticks",
    "planking",
    "where strips come on the molds",
    ("strips.thickness", "strips.zones", "strips.edge"),
    (STRIP_HULL, MOLDS, PLANKING),
    _ticks,
    turn=Turn.CHECKS,
)
CENTRE_CUTS = Stage(
    "centre-cuts",
    "planking",
    "where both sides meet",
    ("strips.meet_on",),
    (MOLDS, TICKS, PLANKING),
    _centre_cuts,
    turn=Turn.CHECKS,
)
FLAT_OF_KEEL = Stage(
    "flat-of-keel",
    "planking",
    "what the flat of the keel takes",
    (),
    (CENTRE_CUTS, PLANKING),
    _flat_of_keel,
    lambda found: found,
    Turn.CHECKS,
    when=lambda job: job.strips.meet_on is not MeetOn.KEEL_LINE,
)
HANDLING = Stage(
    "handling", "planking", "how strips go on", WOOD, (PLANKING, MOLDS, BEHAVIOURS), _handling, lambda found: found, Turn.CHECKS
)
STRIP_ENDS = Stage(
    "strip-ends",
    "planking",
    "how the ends of strips are cut",
    ("strips.meet_on",),
    (STRIP_HULL, SETTLED, PLANKING),
    _ends,
    turn=Turn.CHECKS,
)

STAGES = (
    STRIP_HULL,
    DISTANCES,
    PLAN,
    LOOKED,
    WORKED_TO,
    PLANKING,
    BEHAVIOURS,
    REPLAN,
    TICKS,
    CENTRE_CUTS,
    HANDLING,
    FLAT_OF_KEEL,
    STRIP_ENDS,
)
