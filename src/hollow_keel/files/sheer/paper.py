"""The schedules of the sheer and the ends on paper, each under its title, with what is to be ticked off."""

from __future__ import annotations

from ...core.release.stages import RELEASE
from ...core.results import Results
from ...core.sheer.stages import SHEER
from ...core.units import LengthStyle
from ...drawing.inside import spalls_drawing
from ...drawing.model import Drawing
from ...drawing.sheer.heads import sheer_line
from ..paper.listed import listed
from ..paper.pages import Pages
from ..paper.sheet import PAPERS
from ..release import SPALLS
from .schedules import SCHEDULES

PICTURE_MM = 42.0
CAUTIONS = (
    "A planked hull is heavy and springs: cross spalls go on before molds come out.",
    "Turn and lift it with enough people, on padded cradles, nobody under it; local rules and licensed practice go first.",
)


def trim_pdf(results: Results) -> bytes:
    """All schedules that the job has. Landscape: tables of heads are wide."""
    job = results.job
    style = job.units.style
    height, width = PAPERS["a4"]
    pages = Pages(
        f"{job.name}: the sheer and the ends",
        f"lengths in {style.name}, {style.rounding_name}",
        size=(width, height),
        foot=CAUTIONS,
    )
    pages.page()
    pages.picture(sheer_line(results[SHEER], style, job.trim), PICTURE_MM, stretched=True)
    for schedule in SCHEDULES:
        rows, fields = schedule.told(schedule.value_in(results, job))
        if not rows:
            continue
        pages.heading(schedule.title)
        if schedule is SPALLS:
            pages.picture(_spalls(results, style), PICTURE_MM)
        listed(pages, schedule, rows, fields, job.units)
    return pages.finish()


def _spalls(results: Results, style: LengthStyle) -> Drawing:
    return spalls_drawing(results[SHEER], results[RELEASE], style)
