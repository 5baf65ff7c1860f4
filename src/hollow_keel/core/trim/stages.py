"""The line that a hull is trimmed to."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from ..errors import ImpossiblePlan
from ..hull.stages import HULL, WATERLINE
from ..molds.stages import MOLDS, STRINGERS
from ..planking.stages import TICKS
from ..settings.beams import BeamSettings, beamed
from ..settings.inside import InsideSettings, insided
from ..settings.outer import kneed, outer_stemmed, plank_transom, stripped_keel
from ..settings.release import released
from ..settings.trim import TrimSettings, curved, railed, trimmed
from ..settings.veneers import strip_planked
from ..setup.stages import SETUP
from ..stage import Given, Stage, Turn, fields_of
from ..stock.stages import STOCK
from ..veneers.stages import FORM

if TYPE_CHECKING:
    from .beams import BeamPlan
    from .both_sides import BothSides
    from .by_eye import ByEye
    from .curve import TrimCurve
    from .inside import Inside
    from .knees import Knees
    from .outer import KeelStrip, OuterStems
    from .planks import PlankedTransoms
    from .rails import Rails
    from .release import Lift, Release
    from .sheer import SheerMark, SheerPlan


def _sheer(given: Given) -> SheerPlan:
    from .sheer import carry_sheer

    return carry_sheer(given[HULL], given[MOLDS].molds, given.job, given[WATERLINE].height, given[SETUP])


def _with_strips(given: Given) -> SheerPlan:
    from .sheer import hooked

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
    from .sheer import sheer_ends

    return drawn_by_eye(given[SHEER], sheer_ends(given[HULL]), given.job)


def _curve(given: Given) -> TrimCurve:
    from .curve import trim_curve

    return trim_curve(given[HULL], given[SETUP], given.job)


def _outer(given: Given) -> OuterStems:
    from .outer import outer_stems

    return outer_stems(given[HULL], given.job)


def _keel(given: Given) -> KeelStrip:
    from .outer import keel_strip

    return keel_strip(given[HULL], given.job)


def _planks(given: Given) -> PlankedTransoms:
    from ..molds.ends import transoms
    from .planks import no_transom, planked_transoms

    job = given.job
    try:
        pieces = transoms(given[HULL], job.molds.skin, job.molds.thickness)
    except ImpossiblePlan as error:
        return no_transom(f"{error} Leave its planks out.")
    return planked_transoms(pieces, given[SHEER].beam, job)


def _knees(given: Given) -> Knees:
    from .knees import make_knees

    return make_knees(given[HULL], given.job)


def _release(given: Given) -> Release:
    from .release import release

    return release(given[HULL], given[MOLDS].molds, given.job)


def _lift(given: Given) -> Lift:
    from .release import lift

    return lift(given[STOCK].weight, given.job)


def _inside(given: Given) -> Inside:
    from .inside import fit_inside

    return fit_inside(
        given[HULL], given[MOLDS].molds, given[STRINGERS].lines, given[SHEER].marks, given.job, given[WATERLINE].height
    )


OF_RAILS = ("rails", "rail_width", "rail_thickness", "rail_wood")
OF_READINGS = ("arcs", "eye", "eye_both", "curve_at", "curve_to", "curve_seen")
PUSHED = ("strips.hand_push", "strips.clamp_push")
SCARFED = ("stock.joints.slope", "stock.boards", "stock.buying.for_sale")
CROWN = ("trim.crown", "trim.crown_on", "trim.rule")
SHEER = Stage(
    "sheer",
    "trim",
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
    "trim",
    "strips and ribbands at the sheer",
    ("veneers.layers", "veneers.over_strips"),
    (SHEER, TICKS, FORM),
    _with_strips,
    turn=Turn.CHECKS,
    when=trimmed,
)
RAILS = Stage(
    "rails",
    "trim",
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
    "trim",
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
    "trim",
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
    "trim",
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
    "trim",
    "a trimming curve",
    ("trim.curve_at", "trim.curve_to", "trim.curve_seen"),
    (HULL, SETUP),
    _curve,
    lambda curve: curve.findings,
    Turn.CHECKS,
    when=curved,
)
OUTER = Stage(
    "outer-stems",
    "trim",
    "the outer stems",
    ("outer.let_in", "outer.molded", "outer.face_head", "outer.face_foot", "outer.ratio", "outer.spare", "outer.screws"),
    (HULL,),
    _outer,
    lambda outer: outer.findings,
    Turn.CHECKS,
    when=outer_stemmed,
)
KEEL = Stage(
    "keel-strip",
    "trim",
    "the keel strip",
    ("outer.keel_width", "outer.keel_thickness", "outer.ratio", "outer.screws"),
    (HULL,),
    _keel,
    turn=Turn.CHECKS,
    when=stripped_keel,
)
PLANKS = Stage(
    "transom-planks",
    "trim",
    "the transom's planks",
    (
        "outer.plank",
        "outer.clear",
        "outer.spline",
        "outer.head_waste",
        "molds.skin",
        "molds.thickness",
        "stock.boards",
        "stock.buying.for_sale",
        *CROWN,
    ),
    (HULL, SHEER),
    _planks,
    lambda planks: planks.findings,
    Turn.CHECKS,
    when=plank_transom,
)
KNEES = Stage(
    "knees",
    "trim",
    "the knees",
    ("outer.knee_radius", "outer.knee_molded", "outer.knee_leg", "outer.ratio"),
    (HULL,),
    _knees,
    lambda knees: knees.findings,
    Turn.CHECKS,
    when=kneed,
)
RELEASE = Stage(
    "release",
    "trim",
    "how the molds come out",
    ("release.spalls", "release.past", "veneers.layers", "veneers.over_strips"),
    (HULL, MOLDS),
    _release,
    lambda own: own.findings,
    Turn.CHECKS,
    when=released,
)
LIFT = Stage("lift", "trim", "what the shell weighs", ("release.kilograms",), (STOCK,), _lift, turn=Turn.WOOD, when=released)
INSIDE = Stage(
    "inside",
    "trim",
    "what goes inside",
    (*fields_of(InsideSettings, "inside"), "molds.skin", "molds.false_bottom", "stock.used_up.resin_ratio", *SCARFED, *PUSHED),
    (HULL, MOLDS, STRINGERS, SHEER, WATERLINE),
    _inside,
    lambda own: own.findings,
    Turn.CHECKS,
    when=insided,
)

STAGES = (SHEER, SHEER_STRIPS, RAILS, BEAMS, BOTH_SIDES, BY_EYE, CURVE, OUTER, KEEL, PLANKS, KNEES, RELEASE, LIFT, INSIDE)
