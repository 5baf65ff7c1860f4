"""The strip schedule as CSV, one strip of one side a row."""

from __future__ import annotations

import csv
import io
import math

from ..core.planking.strips import Planking
from ..core.units import LengthStyle, format_length

_STEM_NAMES = {"stem_bow": "stem", "stem_stern": "sternpost"}


def end_name(end: str) -> str:
    """An end in the builder's words."""
    return _STEM_NAMES.get(end, end)


def strips_csv(planking: Planking, style: LengthStyle) -> str:
    """The text of the schedule; lengths in the given style, the unit named in the headings."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    unit = style.name
    writer.writerow(
        ["strip", f"length {unit}", f"guide edge {unit}", f"far edge {unit}", "pieces", "forward end", "after end",
         f"narrowest {unit}", f"widest {unit}", "tightest edge-set radius m", "tightest bend radius m",
         "most twist deg/m"]
    )  # fmt: skip
    for s in planking.strips:
        writer.writerow(
            [s.number, *(_plain(x, style) for x in (s.length, s.near_length, s.far_length)), s.pieces,
             end_name(s.starts), end_name(s.ends), _plain(s.width_min, style), _plain(s.width_max, style),
             _radius(s.max_edge_set), _radius(s.max_bend), f"{math.degrees(s.max_twist) * 1000:.1f}"]
        )  # fmt: skip
    return out.getvalue()


def _plain(mm: float, style: LengthStyle) -> str:
    return format_length(mm, style).replace("\u202f", "")


def _radius(curvature_per_mm: float) -> str:
    return f"{1e-3 / curvature_per_mm:.2f}" if curvature_per_mm > 1e-8 else "straight"
