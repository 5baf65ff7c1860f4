"""The layers of veneer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..findings import Finding, Weight, mm
from ..hull.stages import HULL
from ..settings.veneers import veneered
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from .layers import LayerPlan


def _layers(given: Given) -> tuple[LayerPlan, ...]:
    from .layers import plan_layers

    return plan_layers(given[HULL], given.job.veneers, given.tick)


def _layer_findings(layers: tuple[LayerPlan, ...] | None) -> list[Finding]:
    return [finding for layer in layers or () for finding in layer.findings]


def _skin(given: Given) -> tuple[Finding, ...]:
    total, skin = given.job.layers_total, given.job.molds.skin
    if total is None or abs(total - skin) < 1e-6:
        return ()
    text = f"The molds take off {mm(skin)}, the layers come to {mm(total)}: set the layers again, and the molds follow."
    return (Finding("skin-of-layers", Weight.STOP, "veneers", "the skin", text),)


LAYERS = Stage(
    "layers", "veneers", "the layers of veneer",
    ("veneers.layers", "veneers.master", "veneers.past_sheer"), (HULL,), _layers,
    _layer_findings, Turn.STRIPS, when=veneered,
)  # fmt: skip
LAYER_SKIN = Stage(
    "layer-skin", "veneers", "whether molds take off what the layers are", ("layers_total", "molds.skin"), (), _skin,
    lambda found: found or (), Turn.CHECKS, when=veneered,
)  # fmt: skip

STAGES = (LAYERS, LAYER_SKIN)
