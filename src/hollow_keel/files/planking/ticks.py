"""Tick lists: where every strip comes on every mold, as a table and on paper."""

from __future__ import annotations

import csv
import io
import math

from ...core.amounts import data_length, data_style
from ...core.planking.bottom import in_words
from ...core.results import Results
from ...core.units import format_length, plain_length
from ..paper.pages import Head, Pages
from ..paper.sheet import Sheet

COLUMNS, LARGE_MM = 3, 4.4
HEADS = (Head("strip", 2), Head("down to its lower edge", 3, figures=True, strong=True))
FOOT = "Both sides alike. Check both against the sheer every few strips."


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
            writer.writerow(
                [
                    name,
                    row.number,
                    plain_length(row.from_sheer, style),
                    data_length(row.width, style),
                    "" if row.bevel is None else f"{math.degrees(row.bevel):.2f}",
                    "" if row.planed is None else data_length(row.planed, style),
                    "" if row.full else "cut",
                ]
            )
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
    sheet = Sheet(f"{shape.job.name}: where strips come")
    cuts = {c.mold: c for c in results.centre_cuts}
    for name, rows in results.ticks.items():
        closing = (in_words(cuts[name], lambda mm: format_length(mm, style)),) if name in cuts else ()
        pages = Pages(
            f"{shape.job.name}: strips on mold {name}",
            f"lower edges down from the sheer mark, along the mold; {style.name}",
            sheet,
            columns=COLUMNS,
            foot=(*closing, FOOT),
        )
        pages.table(HEADS, [(f"{row.number}", format_length(row.from_sheer, style)) for row in rows], boxes=True, size=LARGE_MM)
        pages.close()
    return sheet.finish()
