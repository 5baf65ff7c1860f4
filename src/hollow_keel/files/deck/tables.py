"""The deck's strips as CSV, one strip of one side a row, with what openings take of it."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable

from ...core.amounts import data_length, data_style
from ...core.deck.openings import saved_by_strip
from ...core.deck.strip_stages import DECK_BEHAVIOURS, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS
from ...core.planking.end_cuts import EndCut
from ...core.results import Results
from ...core.units import plain_length
from ..planking.tables import end_name


def deck_csv(results: Results) -> str:
    """The text of the schedule, in the job's units."""
    style, planking = results.job.units.style, results[DECK_PLAN].planking
    found, ends = results[DECK_BEHAVIOURS], results[DECK_STRIP_ENDS]
    saved = saved_by_strip(results[DECK_OPENINGS].openings)
    unit, exact = style.name, data_style(style).name
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "strip",
            f"length {unit}",
            f"outer or guide edge {unit}",
            f"far edge {unit}",
            "forward end",
            "after end",
            f"narrowest {exact}",
            f"widest {exact}",
            "forward cut deg",
            f"forward cut long {unit}",
            "after cut deg",
            f"after cut long {unit}",
            f"left out for openings, port {unit}",
            f"left out for openings, starboard {unit}",
            "wood",
            "goes on",
        ]
    )
    for s in planking.strips:
        cuts = [cell for cut in ends[s.number] for cell in _cut(cut, s.width_max, lambda x: plain_length(x, style))]
        left = [plain_length(saved[s.number, side], style) if (s.number, side) in saved else "" for side in ("port", "starboard")]
        own = found[s.number]
        writer.writerow(
            [
                s.number,
                *(plain_length(x, style) for x in (s.length, s.near_length, s.far_length)),
                end_name(s.starts),
                end_name(s.ends),
                data_length(s.width_min, style),
                data_length(s.width_max, style),
                *cuts,
                *left,
                own.wood,
                own.grade.value,
            ]
        )
    return out.getvalue()


def _cut(cut: EndCut | None, width: float, write: Callable[[float], str]) -> tuple[str, str]:
    if cut is None:
        return "", ""
    return f"{cut.across:.1f}", write(cut.long(width))
