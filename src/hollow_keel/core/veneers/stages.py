"""The layers of veneer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..findings import Finding, Weight, mm
from ..hull.stages import HULL
from ..molds.stages import MOLDS, STRINGERS
from ..settings.form import formed
from ..settings.veneers import veneered
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..job import Job
    from .layer_plan import LayerPlan
    from .laying import Laying
    from .neighbours import Seams
    from .ribbands import Form


STEP_MM = 1e-6
WORDS = {"skin": "the skin", "strapping": "the strapping", "beyond_sheer": "past the sheer"}


def _layers(given: Given) -> tuple[LayerPlan, ...]:
    from .layers import plan_layers

    return plan_layers(given[HULL], given.job.veneers, given.tick)


def _seams(given: Given) -> Seams:
    from .neighbours import seams_of

    plans = given[LAYERS]
    return seams_of(plans)


def _laying(given: Given) -> Laying:
    from .laying import what_it_takes

    plans = given[LAYERS]
    return what_it_takes(plans, given.job)


def _form(given: Given) -> Form:
    from .ribbands import make_form

    return make_form(given[HULL], given[MOLDS].molds, given[STRINGERS].lines, given.job)


def _layer_findings(layers: tuple[LayerPlan, ...]) -> list[Finding]:
    return [finding for layer in layers for finding in layer.findings]


def _skin(given: Given) -> tuple[Finding, ...]:
    molds, follows = given.job.molds, given.job.molds_of_layers
    found = []
    for name, value in follows.items():
        now = getattr(molds, name)
        if abs(now - value) > STEP_MM:
            text = f"The molds have {mm(now)}, the layers and their form ask for {mm(value)}: set the layers again, they follow."
            found.append(Finding("skin-of-layers", Weight.STOP, "veneers", WORDS[name], text))
    return (*found, *_past_sheer(given.job))


def _past_sheer(job: Job) -> list[Finding]:
    """What veneers that go on past the sheer lie on there."""
    past, found = job.veneers.past_sheer, []
    if past > 0 and job.closed_under is not None:
        text = (
            f"The molds are closed under the deck: veneers that go {mm(past)} past the sheer have nothing under them there, and no "
            "ribband lies past the molds' corner."
        )
        found.append(Finding("form-closed", Weight.LOOK, "veneers", "past the sheer", text))
    elif past > 0 and job.veneers.over_strips:
        text = (
            f"The strips end at the sheer, the veneers go {mm(past)} past it: lay so much more of them, or a batten as thick, "
            "before the veneers."
        )
        found.append(Finding("strips-end", Weight.LOOK, "veneers", "past the sheer", text))
    return found


LAID_BY = tuple(f"veneers.{name}" for name in ("layers", "master", "angle_from", "past_sheer", "past_transom", "past_stem"))
LAYERS = Stage("layers", "veneers", "the layers of veneer", LAID_BY, (HULL,), _layers, _layer_findings, Turn.STRIPS, when=veneered)
LAYER_SKIN = Stage(
    "layer-skin",
    "veneers",
    "whether molds take off what the layers are",
    ("molds_of_layers", "molds", "closed_under", "veneers"),
    (),
    _skin,
    lambda found: found,
    Turn.CHECKS,
    when=veneered,
)
FORM = Stage(
    "form",
    "veneers",
    "the form under the layers",
    (
        "form",
        "molds.skin",
        "molds.strapping",
        "molds.false_bottom",
        "closed_under",
        "veneers.past_sheer",
        "veneers.past_transom",
        "veneers.past_stem",
        "strips.hand_push",
        "strips.clamp_push",
        "inside.stringer_width",
        "inside.stringer_thickness",
        "inside.stringer_wood",
    ),
    (HULL, MOLDS, STRINGERS),
    _form,
    lambda form: form.findings,
    Turn.CHECKS,
    when=formed,
)
SEAMS = Stage(
    "layer-seams",
    "veneers",
    "how seams of layers lie to each other",
    (),
    (LAYERS,),
    _seams,
    lambda seams: seams.findings,
    Turn.CHECKS,
    when=veneered,
)
LAYING = Stage(
    "laying",
    "veneers",
    "what laying the layers takes",
    (
        "laying",
        "veneers.layers",
        "veneers.over_strips",
        "veneers.glue_spread",
        "strips.wood",
        "strips.modulus",
        "strips.strength",
        "strips.thickness",
        "stock.used_up.temperature",
        "stock.joints.stagger",
        "stock.joints.rows",
        "stock.joints.least_piece",
    ),
    (LAYERS,),
    _laying,
    lambda laying: laying.findings,
    Turn.CHECKS,
    when=veneered,
)

STAGES = (LAYERS, LAYER_SKIN, FORM, SEAMS, LAYING)
