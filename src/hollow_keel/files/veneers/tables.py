"""Layers of veneer as CSV: one veneer of one side a row, and what each is wide every so often along its straight edge."""

from __future__ import annotations

import csv
import io

from ...core.amounts import Amounts, converted, data_length, data_style
from ...core.results import Results
from ...core.units import plain_length
from ...core.veneers.stages import FORM, LAYERS, LAYING
from ..planking.tables import end_name


def veneers_csv(results: Results) -> str:
    """The text of the schedule, in the job's units: each layer's veneers from the bow aft."""
    style = results.job.units.style
    unit, exact = style.name, data_style(style).name
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "layer",
            "veneer",
            "laid first",
            f"length {unit}",
            f"piece wide {exact}",
            f"narrowest {exact}",
            "starts on",
            "ends on",
            f"flat shape within {exact}",
            "wood",
            f"thick {exact}",
        ]
    )
    for plan in results[LAYERS]:
        for v in plan.veneers:
            first = "yes" if v.number == plan.first else ""
            writer.writerow(
                [
                    plan.number,
                    v.number,
                    first,
                    plain_length(v.length, style),
                    data_length(v.width, style),
                    data_length(v.least, style),
                    end_name(v.starts),
                    end_name(v.ends),
                    data_length(v.off, style),
                    plan.layer.wood,
                    data_length(plan.layer.thickness, style),
                ]
            )
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
            writer.writerows([plan.number, v.number, data_length(x, style), data_length(y, style)] for x, y in v.spiling.tolist())
    return out.getvalue()


def ribbands_csv(results: Results) -> str:
    """The text of the schedule of ribbands or stringers of one side, in the job's units: where each crosses every mold."""
    style = results.job.units.style
    unit, exact = style.name, data_style(style).name
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["ribband", f"length {unit}", "of sticks", "goes on", "sheer", "mold", f"from keel {exact}", f"from sheer {exact}", "lies"]
    )
    for r in results[FORM].ribbands:
        sheer = "on it" if r.at_sheer else "past it" if r.past_sheer else ""
        writer.writerows(
            [
                r.number,
                plain_length(r.length, style),
                r.pieces,
                r.behaviour.grade.value,
                sheer,
                c.mold,
                data_length(c.from_keel, style),
                data_length(c.from_sheer, style),
                r.lies,
            ]
            for c in r.crossings
        )
    return out.getvalue()


def laying_csv(results: Results) -> str:
    """The text of what laying each layer takes, both sides."""
    style, told = results.job.units.style, results.job.units.told_in
    metric = told is Amounts.METRIC
    glue, per_gram, places = ("glue g", 1.0, 0) if metric else ("glue lb", converted(0.001, "kg", told)[0], 2)
    bag, weight = converted(1.0, "m²", told), converted(1.0, "kg", told)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "layer",
            "veneers",
            glue,
            "staples",
            "staples out again",
            f"scrap strips {style.name}",
            f"bag {bag[1]}",
            "hours of two",
            "sheets",
            "joints",
            "used of the sheets",
            f"weight {weight[1]}",
        ]
    )
    plans = results[LAYERS]
    for plan, own in zip(plans, results[LAYING].layers, strict=True):
        writer.writerow(
            [
                own.number,
                2 * len(plan.veneers),
                f"{own.glue * per_gram:.{places}f}",
                own.staples,
                own.pulled,
                plain_length(own.scrap, style),
                f"{own.bag * bag[0]:.2f}",
                f"{own.hours:.1f}",
                own.sheets,
                own.joints,
                f"{own.used:.3f}",
                f"{own.weight * weight[0]:.2f}",
            ]
        )
    return out.getvalue()
