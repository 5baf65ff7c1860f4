"""Layers of veneer: each as it lies on the hull or unrolled, the form under them, every veneer flat at full size."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.settings.veneer_choices import Direction, FormKind, Hold
from ...core.units import LengthStyle, format_length
from ...core.veneers.flatten import WORST_MM
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.layer_remarks import OFF_MM
from ...core.veneers.ribbands import Form
from ...core.veneers.veneer import Veneer
from ..decided import decided
from ..model import STRIP_LAYERS, Drawing, Label, Layer, Ring, Stroke, line

SAID_MM = 0.6
"""A flat shape that is farther off when it is laid on again says so."""
SPILED_MM = 0.5
"""A veneer that is narrower than its piece by no more somewhere between its ends is cut parallel."""
TURN_SHARE = 0.09
"""The ring that turns a layer stands so far from its first place, as a share of the hull's length."""
NUMBERED = 5
ROWS_APART = 0.055
HELD = {Hold.STAPLED: "staples", Hold.BAGGED: "a vacuum bag"}
RUNS = {Direction.ALONG: "fore and aft", Direction.ACROSS: "square across"}


def layer_maps(plans: Sequence[LayerPlan]) -> list[Drawing]:
    """Every layer from starboard: along the hull across, heights up."""
    return [layer_map(plan) for plan in plans]


def layer_map(plan: LayerPlan) -> Drawing:
    """One layer from starboard."""
    drawing = _map(plan, lambda v: v.outline[:, [0, 2]])
    trims = tuple(Stroke(frozen(own[:, [0, 2]]), Layer.SHEER_MARK) for own in plan.trims)
    return replace(drawing, strokes=(*drawing.strokes, *trims))


def unrolled_map(plan: LayerPlan) -> Drawing:
    """One layer laid out: how far aft across, how far round from the keel up, at its own scale each way."""
    return _map(plan, lambda v: v.unrolled)


def _map(plan: LayerPlan, seen_as: Callable[[Veneer], Array]) -> Drawing:
    strokes, labels = [], []
    for v in plan.veneers:
        shade = STRIP_LAYERS[0] if v.number % 2 else STRIP_LAYERS[1]
        own = Layer.STRIP_ALT if v.number == plan.first else shade
        seen = frozen(seen_as(v))
        strokes.append(Stroke(seen, own, closed=True, filled=True, key=f"veneer:{plan.number}:{v.number}"))
        strokes.append(Stroke(seen, Layer.TICK, closed=True))
        if v.number == plan.first or v.number % NUMBERED == 0:
            middle = seen.mean(axis=0)
            labels.append(Label((float(middle[0]), float(middle[1])), str(v.number), Layer.NOTE))
    return Drawing(f"Layer {plan.number}", tuple(strokes), tuple(labels))


def layer_decisions(drawing: Drawing, plan: LayerPlan, style: LengthStyle) -> Drawing:
    """The map of a layer with what is decided about it, over the sheer; its first veneer is dragged along the hull, and turned by
    the ring beside it."""
    points = np.concatenate([stroke.points for stroke in drawing.strokes])
    low, high = points.min(axis=0), points.max(axis=0)
    long, up = float(high[0] - low[0]), float(high[1])
    path, layer = f"veneers.layers.{plan.number - 1}", plan.layer
    upper: list[tuple[str, str, str]] = [
        ("runs", RUNS.get(layer.direction, "at an angle"), "direction"),
        ("thick", format_length(layer.thickness, style), "thickness"),
        ("widest", format_length(layer.width, style), "width"),
        ("of", layer.wood, "wood"),
    ]
    if layer.direction is Direction.ANGLE:
        upper.insert(1, ("at", f"{layer.angle:g}°", "angle"))
    lower = [
        ("held by", HELD[layer.hold], "hold"),
        ("left open", format_length(layer.gap, style), "gap"),
        ("first one moved by", format_length(layer.shift, style), "shift"),
    ]
    labels = []
    for row, words in enumerate((lower, upper)):
        for k, (text, number, field) in enumerate(words):
            at = (float(low[0]) + (k + 0.5) / len(words) * long, up + row * ROWS_APART * long)
            labels.append(decided(at, text, number, f"{path}.{field}", anchor="middle"))
    rings = [_master(plan, float(low[0]), float(high[0]))]
    if layer.direction is Direction.ANGLE:
        rings.append(_turned(plan, long))
    return replace(drawing, labels=(*drawing.labels, *labels), rings=(*drawing.rings, *rings))


def _master(plan: LayerPlan, low: float, high: float) -> Ring:
    x, z = float(plan.place[0]), float(plan.place[2])
    return Ring((x, z), "veneers.master", x, (1.0, 0.0), low=low, high=high)


def _turned(plan: LayerPlan, long: float) -> Ring:
    """The ring that turns a layer about the place where its first veneer begins: as it is seen from the side."""
    seen = plan.along[[0, 2]]
    way = seen / max(float(np.hypot(*seen)), 1e-9)
    way = way if way[0] >= 0 else -way
    about = (float(plan.place[0]), float(plan.place[2]))
    far = TURN_SHARE * long
    at = (about[0] + far * float(way[0]), about[1] + far * float(way[1]))
    path = f"veneers.layers.{plan.number - 1}.angle"
    return Ring(at, path, plan.layer.angle, (float(way[0]), float(way[1])), low=-90.0, high=90.0, about=about)


def form_map(form: Form, plan: LayerPlan | None, style: LengthStyle) -> Drawing:
    """Ribbands or stringers from starboard, numbered from the keel; the sheer and where the hull is trimmed where a layer tells."""
    strokes, labels = [], []
    for r in form.ribbands:
        seen = frozen(r.line[:, [0, 2]])
        kind = Layer.SHEER_MARK if r.at_sheer else Layer.GHOST if r.past_sheer else Layer.MOLD
        strokes.append(Stroke(seen, kind, key=f"ribband:{r.number}"))
        x, z = (float(value) for value in seen[len(seen) // 2])
        text = f"{r.number}: {format_length(r.length, style)}"
        labels.append(Label((x, z), text, Layer.NOTE, "middle", 1, key=f"ribband:{r.number}"))
    if plan is not None:
        strokes += [Stroke(frozen(own[:, [0, 2]]), Layer.SHEER_MARK) for own in plan.trims[1:]]
    return Drawing("The form", tuple(strokes), tuple(labels))


def end_molds(form: Form, name: str, style: LengthStyle) -> list[Drawing]:
    """The molds at the ends of a form that goes on past a transom, whole, at full size: square to the centre plane, leaning as the
    transom does."""
    found = []
    for end, mold in form.ends:
        edge = np.concatenate([mold.edge[::-1] * [-1.0, 1.0], mold.edge])
        top = float(mold.edge[:, 1].max())
        stands = f"lowest at {format_length(mold.low, style)}, highest at {format_length(mold.high, style)}"
        labels = (
            Label((0.0, top / 2), f"END OF THE FORM, {end.upper()} · {name}", Layer.TITLE, rise=1, strong=True),
            Label((0.0, top / 2), stands, Layer.NOTE, rise=-1),
        )
        strokes = (Stroke(frozen(edge), Layer.MOLD, closed=True), line((0.0, 0.0), (0.0, top), layer=Layer.CENTRELINE))
        found.append(Drawing(f"End of the form, {end}", strokes, labels))
    return found


def form_decisions(drawing: Drawing, form: Form, spacing: float, style: LengthStyle) -> Drawing:
    """The form with what is decided about it: the ribbands' spacing, mm, and how wide and thick they or stringers are."""
    points = np.concatenate([stroke.points for stroke in drawing.strokes])
    low, high = points.min(axis=0), points.max(axis=0)
    part = "inside.stringer_" if form.kind is FormKind.STRINGERS else "form."
    words = [
        (word, format_length(size, style), part + name)
        for size, (word, name) in zip(form.section, (("wide", "width"), ("thick", "thickness")), strict=True)
    ]
    if form.kind is FormKind.RIBBANDS:
        words.insert(0, ("ribbands every", format_length(spacing, style), "form.spacing"))
    long = float(high[0] - low[0])
    labels = [
        decided((float(low[0]) + (k + 0.5) / len(words) * long, float(high[1])), text, number, path, anchor="middle")
        for k, (text, number, path) in enumerate(words)
    ]
    return replace(drawing, labels=(*drawing.labels, *labels))


def flat_veneers(plans: Sequence[LayerPlan], name: str, style: LengthStyle) -> list[Drawing]:
    """Every veneer that is not cut parallel all along, of one side; the other side's are turned over."""
    return [flat_veneer(plan, v, name, style) for plan in plans for v in plan.veneers if v.width - v.least > SPILED_MM]


def flat_veneer(plan: LayerPlan, v: Veneer, name: str, style: LengthStyle) -> Drawing:
    """One veneer flat, with how wide it is along its straight edge and the lines that it is trimmed to."""
    strokes = [Stroke(v.flat, Layer.MOLD, closed=True)]
    strokes += [Stroke(mark, Layer.SHEER_MARK) for mark in v.marks]
    out = ""
    if v.off > SAID_MM:
        mend = ": take it off the form" if v.off > OFF_MM else ""
        far = f"by up to {format_length(math.ceil(v.off), style)}" if v.off < WORST_MM else "who knows how far"
        out = f" · out {far}{mend}"
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
