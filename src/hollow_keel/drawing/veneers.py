"""Layers of veneer: each as it lies on the hull, and every veneer flat and at full size with its spiling."""

from __future__ import annotations

from collections.abc import Sequence

from ..core.geometry.arrays import frozen
from ..core.units import LengthStyle, format_length
from ..core.veneers.layers import LayerPlan
from ..core.veneers.veneer import Veneer
from .model import STRIP_LAYERS, Drawing, Label, Layer, Stroke, line

SPILED_MM = 0.5
"""A veneer that is narrower than its piece by no more somewhere between its ends is cut parallel."""


def layer_maps(plans: Sequence[LayerPlan]) -> list[Drawing]:
    """Every layer from starboard, bow to the right as positions fall: along the hull across, heights up."""
    return [_map(plan) for plan in plans]


def _map(plan: LayerPlan) -> Drawing:
    strokes, labels = [], []
    for v in plan.veneers:
        shade = STRIP_LAYERS[0] if v.number % 2 else STRIP_LAYERS[1]
        own = Layer.STRIP_ALT if v.number == plan.first else shade
        seen = frozen(v.outline[:, [0, 2]])
        strokes.append(Stroke(seen, own, closed=True, filled=True, key=f"veneer:{plan.number}:{v.number}"))
        strokes.append(Stroke(seen, Layer.TICK, closed=True))
        if v.number == plan.first or v.number % 5 == 0:
            middle = v.outline.mean(axis=0)
            labels.append(Label((float(middle[0]), float(middle[2])), str(v.number), Layer.NOTE))
    return Drawing(f"Layer {plan.number}", tuple(strokes), tuple(labels))


def flat_veneers(plans: Sequence[LayerPlan], name: str, style: LengthStyle) -> list[Drawing]:
    """Every veneer that is not cut parallel all along, of one side; the other side's are turned over."""
    return [
        _flat(plan, v, name, style) for plan in plans for v in plan.veneers if v.width - v.least > SPILED_MM
    ]


def _flat(plan: LayerPlan, v: Veneer, name: str, style: LengthStyle) -> Drawing:
    strokes = [Stroke(v.flat, Layer.MOLD, closed=True)]
    title = f"LAYER {plan.number} · VENEER {v.number} · {name} · both sides, one turned over"
    labels = [
        Label((v.length / 2, 0.0), title, Layer.TITLE, rise=-1, strong=True),
        Label((0.0, 0.0), f"straight edge, from the {v.starts.replace('_', ' ')}", Layer.NOTE, "left", -1),
    ]
    for at, wide in v.spiling.tolist():
        strokes.append(line((at, 0.0), (at, max(wide, 1.0)), layer=Layer.TICK))
        text = f"{format_length(at, style)}: {format_length(wide, style)}"
        labels.append(Label((at, wide), text, Layer.NOTE, "left", 1))
    return Drawing(f"Layer {plan.number} veneer {v.number}", tuple(strokes), tuple(labels))
