"""The sheer and the ends: their schedules, and what is cut by a pattern at full size."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from ...core.errors import ImpossiblePlan
from ...core.results import Results
from ...core.settings.beams import beamed
from ...core.settings.inside import bulkheaded, soled
from ...core.settings.outer import outer_stemmed, plank_transom
from ...core.settings.trim import trimmed
from ...core.stage import Stage
from ...core.trim.stages import BEAMS, INSIDE, LIFT, OUTER, PLANKS, SHEER, SHEER_STRIPS, STAGES
from ..export import Export, only_where
from .drawn import drawn

if TYPE_CHECKING:
    from ...core.job import Job
    from ...drawing.model import Drawing

GROUP = "Sheer & ends"
LACK = "The sheer of this job is not carried out: choose it by the menu Sheer, or set trim.wanted."
ALL_BUT_LIFT: tuple[Stage[Any], ...] = tuple(stage for stage in STAGES if stage is not LIFT)


def _csv(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.trim_schedules import HEADS

    return schedule_csv(results, HEADS).encode()


def _all_csv(results: Results) -> bytes:
    from ...files.schedule import schedules_csv
    from ...files.trim_schedules import SCHEDULES

    return schedules_csv(results, SCHEDULES).encode()


def _pdf(results: Results) -> bytes:
    from ...files.trim_pdf import trim_pdf

    return trim_pdf(results)


def _camber(results: Results) -> list[Drawing]:
    from ...drawing.trim import camber_pattern

    job = results.job
    if job.trim.crown <= 0:
        raise ImpossiblePlan("The beams are flat: give their crown (trim.crown).")
    deep = job.beams.molded if beamed(job) else 0.0
    return [camber_pattern(results[SHEER], job.trim, job.name, job.units.style, deep)]


def _form(results: Results) -> list[Drawing]:
    from ...drawing.trim_beams import form_drawing

    job, plan = results.job, results[BEAMS]
    if plan is None or not plan.blocks:
        raise ImpossiblePlan("There is no form: beams that are laminated have one (beams.made).")
    return [form_drawing(plan, job, job.units.style)]


def _outer(results: Results) -> list[Drawing]:
    from ...drawing.trim_ends import outer_stem_drawing

    job, outer = results.job, results[OUTER]
    if not outer.stems:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in outer.findings))
    return [outer_stem_drawing(stem, job, job.units.style) for stem in outer.stems]


def _planks(results: Results) -> list[Drawing]:
    from ...drawing.trim_ends import planks_drawing

    job, planks = results.job, results[PLANKS]
    if not planks.planks:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in planks.findings))
    return [planks_drawing(own, job, job.units.style) for own in planks.transoms if own.planks]


def _inside(results: Results) -> list[Drawing]:
    from ...drawing.trim_inside import bulkhead_pattern, sole_pattern

    job, inside = results.job, results[INSIDE]
    style = job.units.style
    found = [sole_pattern(inside.sole, job, style)] if inside.sole is not None else []
    found += [bulkhead_pattern(bulkhead, job, style) for bulkhead in inside.bulkheads]
    if not found:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in inside.findings))
    return found


def _tracing(results: Results) -> list[Drawing]:
    from ...drawing.trim_sides import tracing_strip

    job = results.job
    return [tracing_strip(results[SHEER], job, job.units.style)]


def _document(results: Results) -> dict[str, Any]:
    from ...files.trim_json import trim_document

    return trim_document(results)


def _pattern(
    kind: str, name: str, stage: Stage[Any], make: Callable[[Results], list[Drawing]], has: Callable[[Job], bool], lack: str
) -> tuple[Export, Export]:
    """A pattern at full size as PDF and as DXF, for jobs that have it."""
    return tuple(
        only_where(has, lack, Export(f"{kind}-{form}", GROUP, f"{name} ({form.upper()})", f".{form}", (stage,), drawn(make, form)))
        for form in ("pdf", "dxf")
    )  # type: ignore[return-value]


ALL = (
    Export("sheer-csv", GROUP, "The sheer on the outside, head by head (CSV)", ".csv", (SHEER_STRIPS,), _csv, shop=True),
    Export("trim-csv", GROUP, "All schedules of the sheer and the ends (CSV)", ".csv", ALL_BUT_LIFT, _all_csv, glad_of=(LIFT,)),
    Export(
        "trim-pdf",
        GROUP,
        "All schedules of the sheer and the ends, with what to tick (PDF)",
        ".pdf",
        ALL_BUT_LIFT,
        _pdf,
        glad_of=(LIFT,),
        shop=True,
    ),
    Export("tracing-pdf", GROUP, "Tracing strip of all marks, hinged at the keel (PDF)", ".pdf", (SHEER,), drawn(_tracing, "pdf")),
    Export("camber-pdf", GROUP, "Camber pattern, full size (PDF)", ".pdf", (SHEER,), drawn(_camber, "pdf")),
    Export("camber-dxf", GROUP, "Camber pattern (DXF)", ".dxf", (SHEER,), drawn(_camber, "dxf")),
)
EXPORTS = (
    *(only_where(trimmed, LACK, export) for export in ALL),
    *_pattern(
        "beam-form",
        "Form that beams are glued over, full size",
        BEAMS,
        _form,
        beamed,
        "The beams are not worked out: set beams.wanted.",
    ),
    *_pattern(
        "outer-stem", "Outer stems, full size", OUTER, _outer, outer_stemmed, "The outer stems are not worked out: set outer.stems."
    ),
    *_pattern(
        "transom-planks",
        "Transom of planks, full size",
        PLANKS,
        _planks,
        plank_transom,
        "The transom is not divided into planks: set outer.planks.",
    ),
    *_pattern(
        "inside",
        "Sole and bulkheads, full size",
        INSIDE,
        _inside,
        lambda job: soled(job) or bulkheaded(job),
        "There is no sole and no bulkhead: set inside.sole or inside.bulkheads.",
    ),
)
PLAN_PARTS = (("trim", _document),)
