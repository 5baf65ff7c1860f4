"""What closes the hull at its ends: outer stems, the keel strip, a transom of planks, knees."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..errors import ImpossiblePlan
from ..hull.stages import HULL
from ..settings.ends import kneed, outer_stemmed, plank_transom, stripped_keel
from ..sheer.stages import CROWN, SHEER
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from .knees import Knees
    from .outer import KeelStrip, OuterStems
    from .planks import PlankedTransoms


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


OUTER = Stage(
    "outer-stems",
    "sheer",
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
    "sheer",
    "the keel strip",
    ("outer.keel_width", "outer.keel_thickness", "outer.ratio", "outer.screws"),
    (HULL,),
    _keel,
    turn=Turn.CHECKS,
    when=stripped_keel,
)
PLANKS = Stage(
    "transom-planks",
    "sheer",
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
    "sheer",
    "the knees",
    ("outer.knee_radius", "outer.knee_molded", "outer.knee_leg", "outer.ratio"),
    (HULL,),
    _knees,
    lambda knees: knees.findings,
    Turn.CHECKS,
    when=kneed,
)
STAGES = (OUTER, KEEL, PLANKS, KNEES)
