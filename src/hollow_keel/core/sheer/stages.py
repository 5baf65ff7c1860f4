"""The line that a hull is trimmed to."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from ..hull.stages import HULL, WATERLINE
from ..molds.stages import MOLDS
from ..planking.stages import TICKS
from ..settings.beams import BeamSettings, beamed
from ..settings.sheer import TrimSettings, curved, railed, trimmed
from ..settings.veneers import strip_planked
from ..setup.stages import SETUP
from ..stage import Given, Stage, Turn, fields_of
from ..veneers.stages import FORM

if TYPE_CHECKING:
    from .beams import BeamPlan
    from .both_sides import BothSides
    from .by_eye import ByEye
    from .curve import TrimCurve
    from .heads import SheerMark, SheerPlan
    from .rails import Rails


def _sheer(given: Given) -> SheerPlan:
    from .heads import carry_sheer

    return carry_sheer(given[HULL], given[MOLDS].molds, given.job, given[WATERLINE].height, given[SETUP])


def _with_strips(given: Given) -> SheerPlan:
    from .heads import hooked

    plan, form = given[SHEER], given[FORM]
    ticks = given[TICKS] if strip_planked(given.job) else {}
    past = [r for r in form.ribbands if r.past_sheer] if form is not None else []

    def told(mark: SheerMark) -> SheerMark:
        own = replace(mark, gauge=next((hooked(ribband.outer, mark) for ribband in past), None))
        rows = ticks.get(mark.of_mold, ()) if mark.mold else ()
        return replace(own, strip=rows[0].number, below=rows[0].from_sheer) if rows else own

    return replace(plan, marks=tuple(told(mark) for mark in plan.marks))


def _rails(given: Given) -> Rails:
    from .rails import make_rails

    return make_rails(given[HULL], given[MOLDS].molds, given.job)


def _beams(given: Given) -> BeamPlan:
    from .beams import make_beams

    return make_beams(given[SHEER], given.job)


def _both_sides(given: Given) -> BothSides:
    from .both_sides import compare_sides

    return compare_sides(given[HULL], given[SHEER], given.job)


def _by_eye(given: Given) -> ByEye:
    from .by_eye import drawn_by_eye
    from .heads import sheer_ends

    return drawn_by_eye(given[SHEER], sheer_ends(given[HULL]), given.job)


def _curve(given: Given) -> TrimCurve:
    from .curve import trim_curve

    return trim_curve(given[HULL], given[SETUP], given.job)


OF_RAILS = ("rails", "rail_width", "rail_thickness", "rail_wood")
OF_READINGS = ("arcs", "eye", "eye_both", "curve_at", "curve_to", "curve_seen")
PUSHED = ("strips.hand_push", "strips.clamp_push")
SCARFED = ("stock.joints.slope", "stock.boards", "stock.buying.for_sale")
CROWN = ("trim.crown", "trim.crown_on", "trim.rule")
SHEER = Stage(
    "sheer",
    "sheer",
    "the sheer on the outside",
    (
        *fields_of(TrimSettings, "trim", but=("wanted", *OF_RAILS, *OF_READINGS)),
        "molds.skin",
        "molds.deduction",
        "molds.false_bottom",
    ),
    (HULL, MOLDS, WATERLINE, SETUP),
    _sheer,
    lambda plan: plan.findings,
    Turn.CHECKS,
    when=trimmed,
)
SHEER_STRIPS = Stage(
    "sheer-strips",
    "sheer",
    "strips and ribbands at the sheer",
    ("veneers.layers", "veneers.over_strips"),
    (SHEER, TICKS, FORM),
    _with_strips,
    turn=Turn.CHECKS,
    when=trimmed,
)
RAILS = Stage(
    "rails",
    "sheer",
    "the rails",
    ("trim.rail_width", "trim.rail_thickness", "trim.rail_wood", "molds.skin", *SCARFED, *PUSHED),
    (HULL, MOLDS),
    _rails,
    lambda rails: rails.findings,
    Turn.CHECKS,
    when=railed,
)
BEAMS = Stage(
    "beams",
    "sheer",
    "the beams",
    (*fields_of(BeamSettings, "beams", but=("wanted",)), *CROWN),
    (SHEER,),
    _beams,
    lambda plan: plan.findings,
    Turn.CHECKS,
    when=beamed,
)
BOTH_SIDES = Stage(
    "both-sides",
    "sheer",
    "both sides of the hull",
    ("trim.arcs", "setup.fairs_below"),
    (HULL, SHEER),
    _both_sides,
    lambda sides: sides.findings,
    Turn.CHECKS,
    when=lambda job: trimmed(job) and bool(job.trim.arcs),
)
BY_EYE = Stage(
    "by-eye",
    "sheer",
    "a curve by eye",
    ("trim.eye", "trim.eye_both", "setup.fairs_below"),
    (HULL, SHEER),
    _by_eye,
    lambda curve: curve.findings,
    Turn.CHECKS,
    when=lambda job: trimmed(job) and bool(job.trim.eye),
)
CURVE = Stage(
    "trim-curve",
    "sheer",
    "a trimming curve",
    ("trim.curve_at", "trim.curve_to", "trim.curve_seen"),
    (HULL, SETUP),
    _curve,
    lambda curve: curve.findings,
    Turn.CHECKS,
    when=curved,
)
STAGES = (SHEER, SHEER_STRIPS, RAILS, BEAMS, BOTH_SIDES, BY_EYE, CURVE)
