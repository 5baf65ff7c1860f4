"""Layers of veneer as CSV: one veneer of one side a row, and what each is wide every so often along its straight edge."""

from __future__ import annotations

import csv
import io

from ..core.amounts import data_length, data_style
from ..core.results import Results
from ..core.units import plain_length
from ..core.veneers.stages import LAYERS
from .strips_csv import end_name


def veneers_csv(results: Results) -> str:
    """The text of the schedule, in the job's units: each layer's veneers from the bow aft."""
    style = results.job.units.style
    unit, exact = style.name, data_style(style).name
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["layer", "veneer", "laid first", f"length {unit}", f"piece wide {exact}", f"narrowest {exact}", "starts on", "ends on",
         "wood", f"thick {exact}"]
    )  # fmt: skip
    for plan in results[LAYERS]:
        for v in plan.veneers:
            first = "yes" if v.number == plan.first else ""
            writer.writerow(
                [plan.number, v.number, first, plain_length(v.length, style), data_length(v.width, style),
                 data_length(v.least, style), end_name(v.starts), end_name(v.ends), plan.layer.wood,
                 data_length(plan.layer.thickness, style)]
            )  # fmt: skip
    return out.getvalue()


def spiling_csv(results: Results) -> str:
    """The text of the spiling, in the job's units: how wide every veneer is at places along its straight edge."""
    style = results.job.units.style
    exact = data_style(style).name
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["layer", "veneer", f"along the straight edge {exact}", f"wide {exact}"])
    for plan in results[LAYERS]:
        for v in plan.veneers:
            writer.writerows(
                [plan.number, v.number, data_length(x, style), data_length(y, style)]
                for x, y in v.spiling.tolist()
            )
    return out.getvalue()
