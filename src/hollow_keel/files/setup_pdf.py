"""The setting-up sheet: the beam with its molds and the schedule of marks, one landscape page or more."""

from __future__ import annotations

from ..core.errors import InputError
from ..core.findings import in_words
from ..core.results import Shape
from ..core.setup.beam import Mark
from ..core.setup.judgement import Direction
from ..core.units import LengthStyle, format_length
from ..drawing.end_view import end_view
from ..drawing.setup import setup_drawing
from ..drawing.survey import errors_drawing, measured_style
from .paper import PAPERS, Ink, Sheet
from .paper_pages import Head, Pages, tick_box

MARGIN_MM = 14.0
ROW_MM = 7.0
SHARE = 0.52
"""Of the width, for the drawing beside the cut list."""
HEADINGS = (
    "mold",
    "from zero",
    "face on the mark",
    "lies towards",
    "spacing",
    "gap to next",
    "keel above it",
)
STANDING = (
    ("leg", "leg"),
    ("past each rail", "reach"),
    ("spall above it", "spall_above"),
    ("post under keel", "post"),
)
"""Columns that only some set-ups have."""

Own = dict[str, dict[str, float | None]]


def setting_up_pdf(shape: Shape, paper: str = "a4") -> bytes:
    """The sheet as PDF. Raises InputError for a paper that is not known."""
    if paper not in PAPERS:
        raise InputError("no such paper", value=paper, mend=f"Use one of: {', '.join(PAPERS)}.")
    height, width = PAPERS[paper]
    style = shape.job.units.style
    sheet = Sheet(f"{shape.job.name}: setting up")
    rows = list(shape.setup.marks)
    stands = shape.schedule.standings
    own = {
        heading: {s.mold: getattr(s, field) for s in stands}
        for heading, field in STANDING
        if any(getattr(s, field) is not None for s in stands)
    }
    first = True
    while rows or first:
        sheet.page(width, height)
        top = height - MARGIN_MM
        sheet.text(MARGIN_MM, top - 4, f"{shape.job.name}: setting up", 5.5, strong=True)
        sheet.text(
            width - MARGIN_MM, top - 4, f"lengths in {style.name}, {style.rounding_name}", 3.2, anchor="right"
        )
        top -= 12
        if first:
            top = _picture(sheet, shape, style, top, width)
        rows = _table(sheet, rows, style, (top, width), own)
        _foot(sheet, shape, style)
        sheet.end_page()
        first = False
    if shape.molds.molds:
        _strongback_page(sheet, shape, style, (width, height))
    if shape.surveys:
        _survey_pages(sheet, shape, style, (width, height))
    return sheet.finish()


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


def _picture(sheet: Sheet, shape: Shape, style: LengthStyle, top: float, width: float) -> float:
    drawing = setup_drawing(shape, style)
    left, bottom, right, high = drawing.bounds()
    scale = min((width - 2 * MARGIN_MM - 12) / (right - left), 62 / (high - bottom))
    sheet.drawing(drawing, (MARGIN_MM + 6 - left * scale, top - 4 - high * scale), scale)
    return top - (high - bottom) * scale - 20


def _strongback_page(sheet: Sheet, shape: Shape, style: LengthStyle, size: tuple[float, float]) -> None:
    """The widest mold on the strongback with its dimensions, and what is to be cut, to be ticked off."""
    width, height = size
    sheet.page(width, height)
    top = height - MARGIN_MM - 4
    sheet.text(MARGIN_MM, top, f"{shape.job.name}: the strongback", 5.5, strong=True)
    widest = max(shape.molds.molds, key=lambda m: float(m.edge.sheer[0]))
    view = end_view(shape, widest, style)
    left, bottom, right, high = view.bounds()
    scale = min(
        SHARE * (width - 2 * MARGIN_MM) / (right - left), (height - 2 * MARGIN_MM - 30) / (high - bottom)
    )
    sheet.text(MARGIN_MM, top - 10, f"mold {widest.name}, the widest", 3.2)
    sheet.drawing(view, (MARGIN_MM - left * scale, top - 18 - high * scale), scale)
    at, y = MARGIN_MM + SHARE * (width - 2 * MARGIN_MM) + 8, top - 10
    sheet.text(at, y, "to cut", 3.2, strong=True)
    y -= ROW_MM
    for timber in shape.schedule.timber:
        if y < MARGIN_MM + 2 * ROW_MM:
            sheet.end_page()
            sheet.page(width, height)
            at, y = MARGIN_MM, top
        length = format_length(timber.length, style) if timber.length else ""
        section = in_words(timber.section, lambda value: format_length(value, style, unit=True))
        tick_box(sheet, at, y - 0.5)
        sheet.text(at + 7, y, f"{timber.count} × {timber.what}", 3.8, strong=True)
        said = ", ".join(part for part in (f"{length} long" if length else "", section) if part)
        if said:
            y -= 5
            sheet.text(at + 7, y, said, 3.8)
        y -= ROW_MM
    sheet.end_page()


def _cells(mark: Mark, style: LengthStyle, own: Own) -> tuple[str, ...]:
    def write(value: float | None) -> str:
        return "–" if value is None else format_length(value, style)

    return (
        mark.mold, write(mark.from_zero), mark.face.value, f"the {mark.body_towards}",
        write(mark.spacing_to_next), write(mark.gap_to_next), write(mark.keel_above),
        *(write(values[mark.mold]) for values in own.values()), "",
    )  # fmt: skip


def _table(
    sheet: Sheet, rows: list[Mark], style: LengthStyle, place: tuple[float, float], own: Own
) -> list[Mark]:
    top, width = place
    headings = (*HEADINGS, *own, "done")
    columns = [MARGIN_MM + k * (width - 2 * MARGIN_MM) / len(headings) for k in range(len(headings))]
    for x, heading in zip(columns, headings, strict=True):
        sheet.text(x + 1, top, heading, 3.0, strong=True)
    sheet.pen(Ink(0.0, 0.3))
    sheet.polyline([(MARGIN_MM, top - 2), (width - MARGIN_MM, top - 2)])
    y = top - ROW_MM
    while rows and y > MARGIN_MM + 16:
        mark = rows[0]
        for k, (x, cell) in enumerate(zip(columns, _cells(mark, style, own), strict=True)):
            sheet.text(x + 1, y, cell, 4.2, strong=k == 1)
        tick_box(sheet, columns[-1] + 1, y - 0.5)
        sheet.pen(Ink(0.6, 0.1))
        sheet.polyline([(MARGIN_MM, y - 2), (width - MARGIN_MM, y - 2)])
        rows = rows[1:]
        y -= ROW_MM
    return rows


def _foot(sheet: Sheet, shape: Shape, style: LengthStyle) -> None:
    end = shape.job.setup.zero_end.value
    way = "upright" if shape.setup.upright else "upside down"
    above = format_length(shape.setup.waterline_above, style, unit=True)
    sheet.text(
        MARGIN_MM, MARGIN_MM + 5,
        f"Load waterline {above} above the {shape.job.setup.strongback.value}'s upper face at every mold, hull {way}. "
        f"All marks from one zero at the {end} end; never from the last mold.", 3.2,
    )  # fmt: skip
    sheet.text(
        MARGIN_MM, MARGIN_MM,
        f"Each number is rounded once from the exact one: off by at most {style.step_mm / 2:.2g} mm. "
        "Square lines to the centreline. Turning a hull takes enough hands.", 3.2,
    )  # fmt: skip
