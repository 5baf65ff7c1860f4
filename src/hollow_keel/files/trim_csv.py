"""The sheer on the outside as CSV: one head a row, from the bow aft."""

from __future__ import annotations

import csv
import io

from ..core.amounts import data_length, data_style
from ..core.results import Results
from ..core.trim.stages import SHEER_STRIPS
from ..core.units import plain_length


def sheer_csv(results: Results) -> str:
    """The text of the schedule of heads, in the job's units; heights above the set-up line."""
    style = results.job.units.style
    unit, exact = style.name, data_style(style).name
    plan = results[SHEER_STRIPS]
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["head", f"position {unit}", f"inside up {exact}", f"inside out {exact}", f"outside up {exact}", f"outside out {exact}",
         f"cut first at {exact}", f"round from the keel {exact}", "falls outboard deg", "rises aft deg", "strip",
         f"strip's lower edge below {exact}", f"hooked over the ribband {exact}",
         *(f"arc from {plain_length(float(base[0]), style)} {exact}" for base in plan.bases)]
    )  # fmt: skip
    for mark in plan.marks:
        lengths = (mark.inside_up, mark.inside[0], mark.outside_up, mark.outside[0], mark.cut_up, mark.girth)
        writer.writerow(
            [mark.name, plain_length(mark.station, style), *(data_length(float(value), style) for value in lengths),
             f"{mark.slope:.2f}", f"{mark.along:.2f}", "" if mark.strip is None else mark.strip,
             *("" if value is None else data_length(value, style) for value in (mark.below, mark.gauge)),
             *(data_length(radius, style) for radius in mark.radii)]
        )  # fmt: skip
    return out.getvalue()
