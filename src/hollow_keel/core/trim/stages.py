"""The line that a hull is trimmed to."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from ..hull.stages import HULL, WATERLINE
from ..molds.stages import MOLDS
from ..planking.stages import TICKS
from ..settings.trim import TrimSettings, railed, trimmed
from ..settings.veneers import strip_planked
from ..setup.stages import SETUP
from ..stage import Given, Stage, Turn, fields_of
from ..veneers.stages import FORM

if TYPE_CHECKING:
    from .rails import Rails
    from .sheer import SheerMark, SheerPlan


def _sheer(given: Given) -> SheerPlan:
    from .sheer import carry_sheer

    return carry_sheer(given[HULL], given[MOLDS].molds, given.job, given[WATERLINE].height, given[SETUP])


def _with_strips(given: Given) -> SheerPlan:
    plan, form = given[SHEER], given[FORM]
    ticks = given[TICKS] if strip_planked(given.job) else {}
    past = [r for r in form.ribbands if r.past_sheer] if form is not None else []
    gauges = {crossing.mold: -crossing.from_sheer for ribband in past for crossing in ribband.crossings}

    def told(mark: SheerMark) -> SheerMark:
        if not mark.mold:
            return mark
        rows = ticks.get(mark.of_mold, ())
        own = replace(mark, gauge=gauges.get(mark.of_mold))
        return replace(own, strip=rows[0].number, below=rows[0].from_sheer) if rows else own

    return replace(plan, marks=tuple(told(mark) for mark in plan.marks))


def _rails(given: Given) -> Rails:
    from .rails import make_rails

    return make_rails(given[HULL], given[MOLDS].molds, given.job)


OF_RAILS = ("rails", "rail_width", "rail_thickness", "rail_wood")
SHEER = Stage(
    "sheer", "trim", "the sheer on the outside",
    (*fields_of(TrimSettings, "trim", but=("wanted", *OF_RAILS)), "molds.skin", "molds.deduction", "molds.false_bottom"),
    (HULL, MOLDS, WATERLINE, SETUP), _sheer, lambda plan: plan.findings, Turn.CHECKS, when=trimmed,
)  # fmt: skip
SHEER_STRIPS = Stage(
    "sheer-strips", "trim", "strips and ribbands at the sheer", ("veneers.layers", "veneers.over_strips"),
    (SHEER, TICKS, FORM), _with_strips, turn=Turn.CHECKS, when=trimmed,
)  # fmt: skip
RAILS = Stage(
    "rails", "trim", "the rails",
    (
        "trim.rail_width", "trim.rail_thickness", "trim.rail_wood", "molds.skin", "stock.joints.slope", "stock.boards",
        "stock.buying.for_sale", "strips.hand_push", "strips.clamp_push",
    ),
    (HULL, MOLDS), _rails, lambda rails: rails.findings, Turn.CHECKS, when=railed,
)  # fmt: skip

STAGES = (SHEER, SHEER_STRIPS, RAILS)
