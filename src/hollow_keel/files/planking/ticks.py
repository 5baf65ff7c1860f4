"""Tick lists on paper: where every strip comes on every mold."""

from __future__ import annotations

from ...core.planking.bottom import in_words
from ...core.results import Results
from ...core.units import format_length
from ..paper.pages import Head, Pages
from ..paper.sheet import Sheet
from ..schedule import shown
from .schedules import TICK_ROWS, ticks_of

COLUMNS, LARGE_MM = 3, 4.4
HEADS = (Head("strip", 2), Head("down to its lower edge", 3, figures=True, strong=True))
FOOT = "Both sides alike. Check both against the sheer every few strips."


def ticks_pdf(results: Results) -> bytes:
    """One mold a page or more: strip, how far down its lower edge comes, a box to tick."""
    shape = results.shape
    style, units = shape.job.units.style, shape.job.units
    fields = TICK_ROWS.columns((), TICK_ROWS.paper)
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
        pages.table(HEADS, [[shown(row, f, units) for f in fields] for row in ticks_of(name, rows)], boxes=True, size=LARGE_MM)
        pages.close()
    return sheet.finish()
