"""Layers of veneer: each as it lies on the hull, and every veneer flat and at full size with its spiling."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..core.geometry.arrays import frozen
from ..core.settings.veneer_choices import Direction
from ..core.units import LengthStyle, format_length
from ..core.veneers.layers import LayerPlan
from ..core.veneers.veneer import Veneer
from .decided import decided
from .model import STRIP_LAYERS, Drawing, Label, Layer, Ring, Stroke, line

SAID_MM = 0.5
"""A flat shape that is farther off when it is laid on again says so."""
SPILED_MM = 0.5
"""A veneer that is narrower than its piece by no more somewhere between its ends is cut parallel."""


def layer_maps(plans: Sequence[LayerPlan]) -> list[Drawing]:
    """Every layer from starboard, bow to the right as positions fall: along the hull across, heights up."""
    return [layer_map(plan) for plan in plans]


def layer_map(plan: LayerPlan) -> Drawing:
    """One layer from starboard."""
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
    strokes += [Stroke(frozen(line[:, [0, 2]]), Layer.SHEER_MARK) for line in plan.trims]
    return Drawing(f"Layer {plan.number}", tuple(strokes), tuple(labels))


def layer_decisions(drawing: Drawing, plan: LayerPlan, style: LengthStyle) -> Drawing:
    """The map of a layer with what is decided about it, over the sheer; its first veneer is dragged along the hull."""
    points = np.concatenate([stroke.points for stroke in drawing.strokes])
    low, high = points.min(axis=0), points.max(axis=0)
    long, up = float(high[0] - low[0]), float(high[1])
    path, layer = f"veneers.layers.{plan.number - 1}", plan.layer
    said = (
        ("runs at", f"{layer.angle:g}°", "angle" if layer.direction is Direction.ANGLE else ""),
        ("thick", format_length(layer.thickness, style), "thickness"),
        ("widest", format_length(layer.width, style), "width"),
    )
    labels = [
        decided(
            (float(low[0]) + share * long, up),
            words,
            number,
            f"{path}.{field}" if field else "",
            anchor="middle",
        )
        for share, (words, number, field) in zip((0.3, 0.5, 0.7), said, strict=True)
    ]
    x, z = float(plan.place[0]), float(plan.place[2])
    master = Ring((x, z), "veneers.master", x, (1.0, 0.0), low=float(low[0]), high=float(high[0]))
    return replace(drawing, labels=(*drawing.labels, *labels), rings=(*drawing.rings, master))


def flat_veneers(plans: Sequence[LayerPlan], name: str, style: LengthStyle) -> list[Drawing]:
    """Every veneer that is not cut parallel all along, of one side; the other side's are turned over."""
    return [
        flat_veneer(plan, v, name, style)
        for plan in plans
        for v in plan.veneers
        if v.width - v.least > SPILED_MM
    ]


def flat_veneer(plan: LayerPlan, v: Veneer, name: str, style: LengthStyle) -> Drawing:
    """One veneer flat, with how wide it is along its straight edge."""
    strokes = [Stroke(v.flat, Layer.MOLD, closed=True)]
    strokes += [Stroke(mark, Layer.SHEER_MARK) for mark in v.marks]
    out = f" · out by up to {format_length(v.off, style)}: take it off the form" if v.off > SAID_MM else ""
    title = f"LAYER {plan.number} · VENEER {v.number} · {name} · both sides, one turned over{out}"
    labels = [
        Label((v.length / 2, 0.0), title, Layer.TITLE, rise=-1, strong=True),
        Label((0.0, 0.0), "measured from here along the straight edge", Layer.NOTE, "left", -1),
    ]
    for at, wide in v.spiling.tolist():
        strokes.append(line((at, 0.0), (at, max(wide, 1.0)), layer=Layer.TICK))
        text = f"{format_length(at, style)}: {format_length(wide, style)}"
        labels.append(Label((at, wide), text, Layer.NOTE, "left", 1))
    return Drawing(f"Layer {plan.number} veneer {v.number}", tuple(strokes), tuple(labels))
