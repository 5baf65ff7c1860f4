"""The layers' part of the plan file (see docs/plan-file.md). Lengths mm, areas m², angles degrees, curvatures 1/m."""

from __future__ import annotations

from typing import Any

import shapely

from ..core.geometry.arrays import Array
from ..core.results import Results
from ..core.settings.veneers import veneered
from ..core.veneers.layers import LayerPlan, glue_of
from ..core.veneers.stages import LAYERS
from ..core.veneers.veneer import Veneer, misfit
from .rounded import rounded

NEAR_MM = 0.05
"""Outlines leave out points that lie no farther off."""


def veneers_document(results: Results) -> dict[str, Any]:
    """Everything about the layers; empty where there are none."""
    job = results.job
    if not veneered(job):
        return {}
    plans = results[LAYERS]
    return {
        "skin": rounded(job.molds.skin),
        "over_strips": job.veneers.over_strips,
        "past_sheer": rounded(job.veneers.past_sheer),
        "glue_g": rounded(glue_of(plans, job.veneers), 1),
        "layers": [_layer(plan) for plan in plans],
    }


def _layer(plan: LayerPlan) -> dict[str, Any]:
    layer = plan.layer
    return {
        "n": plan.number, "wood": layer.wood, "thickness": rounded(layer.thickness), "angle": rounded(layer.degrees),
        "width": rounded(layer.width), "depth": rounded(plan.depth), "per_side": len(plan.veneers), "first": plan.first,
        "area": rounded(2 * plan.area / 1e6, 6), "cut_from": rounded(2 * plan.whole / 1e6, 6), "lost": rounded(plan.lost, 5),
        "widest": rounded(plan.widest, 1), "veneers": [_veneer(v) for v in plan.veneers],
    }  # fmt: skip


def _veneer(v: Veneer) -> dict[str, Any]:
    return {
        "n": v.number, "panel": v.panel, "length": rounded(v.length), "width": rounded(v.width), "least": rounded(v.least),
        "starts": v.starts, "ends": v.ends, "area": rounded(v.area / 1e6, 6), "strain": rounded(v.strain, 6),
        "misfit": rounded(misfit(v), 5),
        "bend": rounded(v.bend * 1000), "across": rounded(v.across * 1000),
        "spiling": [[rounded(x), rounded(y)] for x, y in v.spiling.tolist()],
        "flat": [[rounded(x, 2), rounded(y, 2)] for x, y in _thinned(v.flat).tolist()],
    }  # fmt: skip


def _thinned(flat: Array) -> Array:
    ring: Array = shapely.get_coordinates(shapely.simplify(shapely.LinearRing(flat), NEAR_MM))
    return ring[:-1]
