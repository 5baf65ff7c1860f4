"""Tick lists: where every strip comes on every mold, as a table and on paper."""

from __future__ import annotations

import csv
import io
import math

from ..core.amounts import data_length, data_style
from ..core.planking.bottom import in_words
from ..core.planking.crossings import Crossing
from ..core.results import Results
from ..core.units import LengthStyle, format_length, plain_length
from .paper import PAPERS, Sheet
from .paper_pages import tick_box

MARGIN_MM, ROW_MM, COLUMN_MM = 14.0, 6.9, 60.0


def ticks_csv(results: Results) -> str:
    """One strip at one mold a row, lengths in the job's units."""
    style = results.shape.job.units.style
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    unit = style.name
    writer.writerow(
        [
            "mold",
            "strip",
            f"lower edge down from sheer {unit}",
            f"width here {data_style(style).name}",
            "bevel to next deg",
            f"planed off {data_style(style).name}",
            "cut",
        ]
    )
    for name, rows in results.ticks.items():
        for row in rows:
            writer.writerow([
                name, row.number, plain_length(row.from_sheer, style), data_length(row.width, style),
                "" if row.bevel is None else f"{math.degrees(row.bevel):.2f}",
                "" if row.planed is None else data_length(row.planed, style),
                "" if row.full else "cut",
            ])  # fmt: skip
    for cut in results.centre_cuts:
        writer.writerow(
            [
                cut.mold,
                f"{cut.on}, in {cut.strip}",
                plain_length(cut.from_sheer, style),
                data_length(cut.from_upper, style),
                "",
                "",
                "",
            ]
        )
    return out.getvalue()


def ticks_pdf(results: Results) -> bytes:
    """One mold a page or more: strip, how far down its lower edge comes, a box to tick."""
    shape = results.shape
    style = shape.job.units.style
    width, height = PAPERS["a4"]
    sheet = Sheet(f"{shape.job.name}: where strips come")
    cuts = {c.mold: c for c in results.centre_cuts}
    for name, rows in results.ticks.items():
        closing = ""
        if name in cuts:
            closing = in_words(cuts[name], lambda mm: format_length(mm, style))
        _mold_pages(
            sheet, (f"{shape.job.name}: strips on mold {name}", closing), rows, style, (width, height)
        )
    return sheet.finish()


def _mold_pages(
    sheet: Sheet,
    titles: tuple[str, str],
    rows: tuple[Crossing, ...],
    style: LengthStyle,
    size: tuple[float, float],
) -> None:
    width, height = size
    top = height - MARGIN_MM - 16
    a_column = int((top - MARGIN_MM - 8) // ROW_MM)
    a_page = a_column * int((width - 2 * MARGIN_MM) // COLUMN_MM)
    for first in range(0, max(len(rows), 1), a_page):
        sheet.page(width, height)
        sheet.text(MARGIN_MM, height - MARGIN_MM - 4, titles[0], 5.5, strong=True)
        sheet.text(
            MARGIN_MM,
            height - MARGIN_MM - 10,
            f"lower edges down from the sheer mark, along the mold; {style.name}. {titles[1]}",
            3.2,
        )
        for k, row in enumerate(rows[first : first + a_page]):
            x = MARGIN_MM + (k // a_column) * COLUMN_MM
            y = top - (k % a_column) * ROW_MM
            tick_box(sheet, x, y - 0.4)
            sheet.text(x + 6, y, f"{row.number}", 4.2)
            sheet.text(x + 46, y, format_length(row.from_sheer, style), 5.0, strong=True, anchor="right")
        sheet.text(
            MARGIN_MM, MARGIN_MM - 4, "Both sides alike. Check both against the sheer every few strips.", 3.0
        )
        sheet.end_page()
