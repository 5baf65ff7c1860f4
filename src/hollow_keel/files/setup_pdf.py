"""The setting-up sheet: the beam with its molds and the schedule of marks, one landscape page or more."""

from __future__ import annotations

from ..core.errors import InputError
from ..core.findings import in_words
from ..core.results import Shape
from ..core.setup.beam import Mark
from ..core.setup.schedule import cut_list
from ..core.units import LengthStyle, format_length
from ..drawing.setup import setup_drawing
from .paper import PAPERS, Ink, Sheet

MARGIN_MM = 14.0
ROW_MM = 7.0
HEADINGS = (
    "mold",
    "from zero",
    "face on the mark",
    "lies towards",
    "spacing",
    "gap to next",
    "keel above it",
    "done",
)


def setting_up_pdf(shape: Shape, paper: str = "a4") -> bytes:
    """The sheet as PDF. Raises InputError for a paper that is not known."""
    if paper not in PAPERS:
        raise InputError("no such paper", value=paper, mend=f"Use one of: {', '.join(PAPERS)}.")
    height, width = PAPERS[paper]
    style = shape.job.units.style
    sheet = Sheet(f"{shape.job.name}: setting up")
    rows = list(shape.setup.marks)
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
        rows = _table(sheet, rows, style, top, width)
        _foot(sheet, shape, style)
        sheet.end_page()
        first = False
    return sheet.finish()


def _picture(sheet: Sheet, shape: Shape, style: LengthStyle, top: float, width: float) -> float:
    drawing = setup_drawing(shape, style)
    left, bottom, right, high = drawing.bounds()
    scale = min((width - 2 * MARGIN_MM - 12) / (right - left), 62 / (high - bottom))
    sheet.drawing(drawing, (MARGIN_MM + 6 - left * scale, top - 4 - high * scale), scale)
    return top - (high - bottom) * scale - 20


def _cells(mark: Mark, style: LengthStyle) -> tuple[str, ...]:
    def write(value: float | None) -> str:
        return "–" if value is None else format_length(value, style)

    return (
        mark.mold, write(mark.from_zero), mark.face.value, f"the {mark.body_towards}",
        write(mark.spacing_to_next), write(mark.gap_to_next), write(mark.keel_above), "",
    )  # fmt: skip


def _table(sheet: Sheet, rows: list[Mark], style: LengthStyle, top: float, width: float) -> list[Mark]:
    columns = [MARGIN_MM + k * (width - 2 * MARGIN_MM) / len(HEADINGS) for k in range(len(HEADINGS))]
    for x, heading in zip(columns, HEADINGS, strict=True):
        sheet.text(x + 1, top, heading, 3.0, strong=True)
    sheet.pen(Ink(0.0, 0.3))
    sheet.polyline([(MARGIN_MM, top - 2), (width - MARGIN_MM, top - 2)])
    y = top - ROW_MM
    while rows and y > MARGIN_MM + 16:
        mark = rows[0]
        for k, (x, cell) in enumerate(zip(columns, _cells(mark, style), strict=True)):
            sheet.text(x + 1, y, cell, 4.2, strong=k == 1)
        sheet.pen(Ink(0.0, 0.2))
        box = columns[-1] + 1
        sheet.polyline([(box, y - 0.5), (box + 4, y - 0.5), (box + 4, y + 3.5), (box, y + 3.5)], closed=True)
        sheet.pen(Ink(0.6, 0.1))
        sheet.polyline([(MARGIN_MM, y - 2), (width - MARGIN_MM, y - 2)])
        rows = rows[1:]
        y -= ROW_MM
    return rows


def _foot(sheet: Sheet, shape: Shape, style: LengthStyle) -> None:
    end = shape.job.setup.zero_end.value
    above = format_length(shape.setup.waterline_above, style, unit=True)
    said = []
    for timber in cut_list(shape.setup, shape.job.setup):
        length = format_length(timber.length, style) if timber.length else ""
        section = in_words(timber.section, lambda value: format_length(value, style, unit=True))
        said.append(" ".join(word for word in (f"{timber.count} ×", timber.what, length, section) if word))
    sheet.text(MARGIN_MM, MARGIN_MM + 10, "To cut: " + "; ".join(said), 3.2)
    sheet.text(
        MARGIN_MM, MARGIN_MM + 5,
        f"Load waterline {above} above the {shape.job.setup.strongback.value}'s upper face at every mold, hull upside down. "
        f"All marks from one zero at the {end} end; never from the last mold.", 3.2,
    )  # fmt: skip
    sheet.text(
        MARGIN_MM, MARGIN_MM,
        f"Each number is rounded once from the exact one: off by at most {style.step_mm / 2:.2g} mm. "
        "Square lines to the centreline. Turning a hull takes enough hands.", 3.2,
    )  # fmt: skip
