"""The layers' part of the plan file (see docs/plan-file.md). Lengths mm, areas m², angles degrees, curvatures 1/m."""

from __future__ import annotations

from typing import Any

import shapely

from ...core.geometry.arrays import Array
from ...core.results import Results
from ...core.settings.form import formed
from ...core.settings.veneers import veneered
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.laying import LayerTakes, Laying
from ...core.veneers.neighbours import Seams
from ...core.veneers.ribbands import Form
from ...core.veneers.stages import FORM, LAYERS, LAYING, SEAMS
from ...core.veneers.veneer import Veneer, misfit
from ..rounded import rounded

NEAR_MM = 0.05
"""Outlines leave out points that lie no farther off."""


def veneers_document(results: Results) -> dict[str, Any]:
    """Everything about the layers; empty where there are none."""
    job = results.job
    if not veneered(job):
        return {}
    plans, laying = results[LAYERS], results[LAYING]
    return {
        "skin": rounded(job.molds.skin),
        "over_strips": job.veneers.over_strips,
        "past_sheer": rounded(job.veneers.past_sheer),
        "past_transom": rounded(job.veneers.past_transom),
        "past_stem": rounded(job.veneers.past_stem),
        "glue_g": rounded(laying.glue, 1),
        "layers": [_layer(plan, takes) for plan, takes in zip(plans, laying.layers, strict=True)],
        **_takes(laying),
        **_seams(results[SEAMS]),
        "form": _form(results[FORM]) if formed(job) else {},
    }


def _takes(laying: Laying) -> dict[str, Any]:
    return {
        "hours": rounded(laying.hours, 2),
        "weight": rounded(laying.weight, 2),
        "sheets_to_buy": laying.buy,
        "open_time": rounded(laying.open_time, 1),
        "spread_time": rounded(laying.spread, 1),
    }


def _seams(seams: Seams) -> dict[str, Any]:
    return {
        "neighbours": [
            {
                "inner": n.inner,
                "outer": n.outer,
                "angle": rounded(n.angle),
                "parallel": n.parallel,
                "nearest": rounded(n.nearest, 2),
                "where": rounded(n.where),
                "together": rounded(n.together, 5),
                "crossings": rounded(n.crossings),
            }
            for n in seams.neighbours
        ],
        "zones": [
            {
                "layer": z.layer,
                "zone": z.name,
                "by_strain": rounded(z.by_strain, 1),
                "unspiled": rounded(z.unspiled, 1),
                "spiled": rounded(z.spiled, 5),
            }
            for z in seams.zones
        ],
    }


def _form(form: Form) -> dict[str, Any]:
    return {
        "kind": form.kind.value,
        "sticks": form.sticks,
        "total": rounded(form.total),
        "ends": {
            name: {
                "low": rounded(end.low),
                "high": rounded(end.high),
                "off_plane": rounded(end.off_plane, 2),
                "edge": [[rounded(y, 2), rounded(z, 2)] for y, z in end.edge.tolist()],
            }
            for name, end in form.ends
        },
        "ribbands": [
            {
                "n": r.number,
                "panel": r.panel,
                "length": rounded(r.length),
                "at_sheer": r.at_sheer,
                "past_sheer": r.past_sheer,
                "at_knuckle": r.at_knuckle,
                "grade": r.behaviour.grade.value,
                "share": rounded(r.behaviour.share, 5),
                "push": rounded(r.behaviour.push, 1),
                "pieces": r.pieces,
                "crossings": [
                    {"mold": c.mold, "from_keel": rounded(c.from_keel), "from_sheer": rounded(c.from_sheer)} for c in r.crossings
                ],
            }
            for r in form.ribbands
        ],
    }


def _layer(plan: LayerPlan, takes: LayerTakes) -> dict[str, Any]:
    layer = plan.layer
    return {
        "n": plan.number,
        "wood": layer.wood,
        "thickness": rounded(layer.thickness),
        "angle": rounded(layer.degrees),
        "width": rounded(layer.width),
        "depth": rounded(plan.depth),
        "per_side": len(plan.veneers),
        "first": plan.first,
        "area": rounded(2 * plan.area / 1e6, 6),
        "cut_from": rounded(2 * plan.whole / 1e6, 6),
        "lost": rounded(plan.lost, 5),
        "trimmed": rounded(2 * plan.trimmed / 1e6, 6),
        "gap": rounded(layer.gap),
        "shift": rounded(layer.shift),
        "hold": layer.hold.value,
        "glue_g": rounded(takes.glue, 1),
        "staples": takes.staples,
        "staples_out": takes.pulled,
        "scrap": rounded(takes.scrap),
        "bag": rounded(takes.bag, 4),
        "hours": rounded(takes.hours, 2),
        "sheets": takes.sheets,
        "used": rounded(takes.used, 5),
        "joints": takes.joints,
        "weight": rounded(takes.weight, 3),
        "widest": rounded(plan.widest, 1),
        "veneers": [_veneer(v) for v in plan.veneers],
    }


def _veneer(v: Veneer) -> dict[str, Any]:
    return {
        "n": v.number,
        "panel": v.panel,
        "length": rounded(v.length),
        "width": rounded(v.width),
        "least": rounded(v.least),
        "starts": v.starts,
        "ends": v.ends,
        "area": rounded(v.area / 1e6, 6),
        "trimmed": rounded(v.trimmed / 1e6, 6),
        "strain": rounded(v.strain, 6),
        "misfit": rounded(misfit(v), 5),
        "off": rounded(v.off, 2),
        "bend": rounded(v.bend * 1000),
        "across": rounded(v.across * 1000),
        "spiling": [[rounded(x), rounded(y)] for x, y in v.spiling.tolist()],
        "flat": [[rounded(x, 2), rounded(y, 2)] for x, y in _thinned(v.flat).tolist()],
    }


def _thinned(flat: Array) -> Array:
    ring: Array = shapely.get_coordinates(shapely.simplify(shapely.LinearRing(flat), NEAR_MM))
    return ring[:-1]
