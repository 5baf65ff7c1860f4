"""The sheer and the ends: their schedules, and what is cut by a pattern at full size."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.errors import ImpossiblePlan
from ...core.release.stages import LIFT
from ...core.results import Results
from ...core.settings.beams import beamed
from ...core.settings.sheer import trimmed
from ...core.sheer.stages import BEAMS, SHEER, SHEER_STRIPS
from ...core.stage import Stage
from ...core.stages import STAGES
from ..export import Export, only_where
from .drawn import drawn, pattern

if TYPE_CHECKING:
    from ...drawing.model import Drawing

GROUP = "Sheer"
LACK = "The sheer of this job is not carried out: choose it by the menu Sheer, or set trim.wanted."
ALL_BUT_LIFT: tuple[Stage[Any], ...] = tuple(stage for stage in STAGES if stage.page == "sheer" and stage is not LIFT)


def _csv(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.sheer.schedules import HEADS

    return schedule_csv(results, HEADS).encode()


def _all_csv(results: Results) -> bytes:
    from ...files.schedule import schedules_csv
    from ...files.sheer.schedules import SCHEDULES

    return schedules_csv(results, SCHEDULES).encode()


def _pdf(results: Results) -> bytes:
    from ...files.sheer.paper import trim_pdf

    return trim_pdf(results)


def _camber(results: Results) -> list[Drawing]:
    from ...drawing.sheer.heads import camber_pattern

    job = results.job
    if job.trim.crown <= 0:
        raise ImpossiblePlan("The beams are flat: give their crown (trim.crown).")
    deep = job.beams.molded if beamed(job) else 0.0
    return [camber_pattern(results[SHEER], job.trim, job.name, job.units.style, deep)]


def _form(results: Results) -> list[Drawing]:
    from ...drawing.sheer.beams import form_drawing

    job, plan = results.job, results[BEAMS]
    if plan is None or not plan.blocks:
        raise ImpossiblePlan("There is no form: beams that are laminated have one (beams.made).")
    return [form_drawing(plan, job, job.units.style)]


def _tracing(results: Results) -> list[Drawing]:
    from ...drawing.sheer.sides import tracing_strip

    job = results.job
    return [tracing_strip(results[SHEER], job, job.units.style)]


def _document(results: Results) -> dict[str, Any]:
    from ...files.sheer.plan import trim_document

    return trim_document(results)


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
    *pattern(
        GROUP,
        "beam-form",
        "Form that beams are glued over, full size",
        BEAMS,
        _form,
        beamed,
        "The beams are not worked out: set beams.wanted.",
    ),
)
PLAN_PARTS = (("trim", _document),)
