"""The plan of the sheets on paper: each sheet on a page, to scale, with its parts named."""

from __future__ import annotations

from ...core.results import Shape
from ...core.settings.layout import Layout
from ...core.units import given_length
from ...core.words import counted
from ...drawing.molds.sheets import sheet_name, sheets_drawing
from ..paper.sheet import PAPERS, Sheet

MARGIN_MM = 14.0
HEAD_MM = 16.0


def sheets_pdf(shape: Shape, layout: Layout) -> bytes:
    """One A4 page on its side for each sheet."""
    high, wide = PAPERS["a4"]
    style = shape.job.units.style
    sheet = Sheet(f"{shape.job.name}: molds on sheets")
    for number in range(layout.pieces):
        length, width = layout.size(number)
        scale = min((wide - 2 * MARGIN_MM) / length, (high - 2 * MARGIN_MM - HEAD_MM) / width)
        sheet.page(wide, high)
        names = [p.name for p in layout.placed if p.sheet == number]
        title = f"{shape.job.name}: {sheet_name(layout, number)}"
        sheet.text(MARGIN_MM, high - 12, title, 5.0, strong=True)
        long, broad, thick = (given_length(own, style, unit=True) for own in (length, width, shape.job.molds.thickness))
        what = f"{long} by {broad}, {thick} thick, scale 1:{1 / scale:.1f}"
        sheet.text(MARGIN_MM, high - 18, f"{what} · {counted(len(names), 'part')}: {', '.join(names)}", 3.0)
        sheet.drawing(sheets_drawing(shape, layout, number), (MARGIN_MM, MARGIN_MM), scale)
        sheet.end_page()
    return sheet.finish()
