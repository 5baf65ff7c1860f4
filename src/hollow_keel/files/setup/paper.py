"""The setting-up sheet: the beam with its molds and where they are marked, the strongback, and what was measured; landscape."""

from __future__ import annotations

from ...core.errors import InputError
from ...core.findings import in_words
from ...core.results import Shape
from ...core.setup.judgement import Direction
from ...core.units import LengthStyle, format_length
from ...drawing.setup.end_view import end_view
from ...drawing.setup.strongback import setup_drawing
from ...drawing.setup.survey import errors_drawing, measured_style
from ..paper.listed import listed
from ..paper.pages import Head, Pages
from ..paper.sheet import PAPERS, Sheet
from ..schedule import shown
from .schedules import MARKS, TIMBER, marks_told

SHARE = 0.52
"""Of the width, for the drawing beside the cut list."""
LARGE_MM, PICTURE_MM = 4.2, 62.0


def setting_up_pdf(shape: Shape, paper: str = "a4") -> bytes:
    """The sheet as PDF. Raises InputError for a paper that is not known."""
    if paper not in PAPERS:
        raise InputError("no such paper", value=paper, mend=f"Use one of: {', '.join(PAPERS)}.")
    height, width = PAPERS[paper]
    style = shape.job.units.style
    sheet = Sheet(f"{shape.job.name}: setting up")
    _marks_pages(sheet, shape, style, (width, height))
    if shape.molds.molds:
        _strongback_pages(sheet, shape, style, (width, height))
    if shape.surveys:
        _survey_pages(sheet, shape, style, (width, height))
    return sheet.finish()


def _marks_pages(sheet: Sheet, shape: Shape, style: LengthStyle, size: tuple[float, float]) -> None:
    """The beam with its molds, and where each of them is marked."""

    rows, fields = MARKS.told(marks_told(shape.job, shape.setup, shape.schedule), MARKS.paper)
    title, beside = f"{shape.job.name}: setting up", f"lengths in {style.name}, {style.rounding_name}"
    pages = Pages(title, beside, sheet, size, foot=_foot(shape, style))
    pages.page()
    pages.picture(setup_drawing(shape, style), PICTURE_MM)
    wide = {field.key: 2.0 if field.key == "mold" else 3.0 for field in fields}
    listed(pages, MARKS, rows, fields, shape.job.units, wide=wide, strong="from_zero", figures=False, size=LARGE_MM)
    pages.close()


def _foot(shape: Shape, style: LengthStyle) -> tuple[str, str]:
    end = shape.job.setup.zero_end.value
    way = "upright" if shape.setup.upright else "upside down"
    above = format_length(shape.setup.waterline_above, style, unit=True)
    most = format_length(style.step_mm / 2, style.fine, unit=True)
    return (
        f"Load waterline {above} above the upper face of the {shape.job.setup.strongback.value} at every mold, hull {way}. "
        f"All marks from one zero at the {end} end; never from the last mold.",
        f"Each number is rounded once from the exact one: off by at most {most}. "
        "Square lines to the centreline. Turning a hull takes enough hands.",
    )


def _strongback_pages(sheet: Sheet, shape: Shape, style: LengthStyle, size: tuple[float, float]) -> None:
    """The widest mold on the strongback with its dimensions, and what is to be cut, to be ticked off."""
    widest = max(shape.molds.molds, key=lambda m: float(m.edge.sheer[0]))
    pages = Pages(f"{shape.job.name}: the strongback", f"mold {widest.name}, the widest; {style.name}", sheet, size)
    pages.page()
    pages.picture_aside(end_view(shape, widest, style), SHARE)
    pages.line("to cut", strong=True)
    what, count, length, section = TIMBER.columns(shape.schedule)
    for timber in TIMBER.rows(shape.schedule):
        told = {f.key: shown(timber, f, shape.job.units) for f in (what, count, length, section)}
        long = f"{told['length']} long" if told["length"] else ""
        pages.item(f"{told['count']} × {told['what']}", ", ".join(part for part in (long, told["section"]) if part))
    pages.close()


MEASURED = (Head("mold", 1), Head("what to do", 5), Head("why", 7))


def _survey_pages(sheet: Sheet, shape: Shape, style: LengthStyle, size: tuple[float, float]) -> None:
    """What was measured last comes to: heights and centreline against plan, what to move, and the datum."""
    survey, judged = shape.job.surveys[-1], shape.surveys[-1]

    def say(value: float) -> str:
        return format_length(value, measured_style(style), unit=True)

    pages = Pages(f"{shape.job.name}: as measured, {survey.name}", f"lengths in {style.name}", sheet, size)
    for direction in (Direction.UP, Direction.ACROSS):
        drawing = errors_drawing(judged, direction, shape.job.setup.fairs_below, style)
        left, _, right, _ = drawing.bounds()
        if right > left:
            pages.line(drawing.title)
            pages.picture(drawing, 36)
    if judged.moves:
        rows = [(move.mold, in_words(move.mend, say), move.cause) for move in judged.moves]
        pages.table(MEASURED, rows, boxes=True)
    for text in judged.datum or ("Nothing that all molds share.",):
        pages.line(in_words(text, say))
    if not judged.moves and not judged.elsewhere:
        spacer = any(f.code == "spacer" for f in judged.findings)
        words = "Put that spacer right first, then measure again." if spacer else "No mold needs to be moved."
        pages.line(words, strong=True)
    pages.line("Measure again before you move anything, and once more after two or three strips.")
    pages.close()
