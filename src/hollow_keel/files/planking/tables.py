"""The strip schedule as CSV, one strip of one side a row."""

from __future__ import annotations

import csv
import io
import math

from ...core.amounts import data_length, data_style, far_length
from ...core.planking.bottom import meets
from ...core.planking.end_cuts import EndCut
from ...core.planking.strips import Strip
from ...core.results import Results
from ...core.settings.strip_choices import Meeting, StripLayout
from ...core.units import INCHES, LengthStyle, plain_length

_STEM_NAMES = {"stem_bow": "stem", "stem_stern": "sternpost"}


def end_name(end: str) -> str:
    """An end in the builder's words."""
    return _STEM_NAMES.get(end, end)


def strips_csv(results: Results, style: LengthStyle | None = None) -> str:
    """The text of the schedule; lengths in a style (the job's own if none is given), the unit named in the headings. Tapered strips
    come with their width at every mold. Widths are decimal and exact, for they are added up."""
    job, planking = results.shape.job, results.planking
    style = style or job.units.style
    found, ends = results.behaviours, results.strip_ends
    at = results.ticks if job.strips.layout is not StripLayout.PARALLEL else {}
    widths = {name: {row.number: row.width for row in rows} for name, rows in at.items()}
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    unit, exact = style.name, data_style(style).name
    far = "ft" if style.unit in INCHES else "m"
    writer.writerow(
        [
            "strip",
            f"length {unit}",
            f"guide edge {unit}",
            f"far edge {unit}",
            "pieces",
            "forward end",
            "after end",
            f"narrowest {exact}",
            f"widest {exact}",
            f"tightest edge-set radius {far}",
            f"tightest bend radius {far}",
            "most twist deg/m",
            "course",
            "side",
            f"cut to {unit}",
            "wood",
            "goes on",
            "push N",
            "forward cut deg",
            "forward bevel deg",
            "after cut deg",
            "after bevel deg",
            f"second side shorter {unit}",
            *(f"width at mold {name} {exact}" for name in widths),
        ]
    )
    for s in planking.strips:
        own = found[s.number]
        cut_to = s.length + 2 * job.strips.allowance + sum(ends[s.number].past)
        writer.writerow(
            [
                s.number,
                *(plain_length(x, style) for x in (s.length, s.near_length, s.far_length)),
                s.pieces,
                end_name(s.starts),
                end_name(s.ends),
                data_length(s.width_min, style),
                data_length(s.width_max, style),
                _radius(s.max_edge_set, style),
                _radius(s.max_bend, style),
                f"{math.degrees(s.max_twist) * 1000:.1f}",
                s.course.value,
                "both",
                plain_length(cut_to, style),
                own.wood,
                own.grade.value,
                f"{own.push:.0f}",
                *_cuts(cuts := ends[s.number].cuts, s, job.strips.meeting),
                _second_side(cuts, s, job.strips.meeting, style),
                *("" if s.number not in rows else data_length(rows[s.number], style) for rows in widths.values()),
            ]
        )
    return out.getvalue()


def _cuts(cuts: tuple[EndCut | None, EndCut | None], strip: Strip, meeting: Meeting) -> list[str]:
    """Both ends, across the face and off square; empty where an end comes to a point."""
    cells: list[str] = []
    for cut in cuts:
        met = meets(cut, strip.width_max, meeting) or cut
        cells.append("" if met is None else f"{met.across:.1f}")
        cells.append("" if cut is None or cut.bevel is None else f"{cut.bevel:.1f}")
    return cells


def _second_side(cuts: tuple[EndCut | None, EndCut | None], strip: Strip, meeting: Meeting, style: LengthStyle) -> str:
    """How much shorter the strip of the side that is laid second is, both ends together; empty where both are alike."""
    found = [met.second for cut in cuts if (met := meets(cut, strip.width_max, meeting)) is not None]
    return plain_length(sum(found), style) if any(found) else ""


def _radius(curvature_per_mm: float, style: LengthStyle) -> str:
    return far_length(1 / curvature_per_mm, style, 2).split()[0] if curvature_per_mm > 1e-8 else "straight"
