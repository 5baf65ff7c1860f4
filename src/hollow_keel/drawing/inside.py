"""What goes inside the hull and across it: the sole, bulkheads, stringers, and spalls before the molds come out."""

from __future__ import annotations

import numpy as np

from ..core.geometry.arrays import frozen
from ..core.inside.fit import Bulkhead, Inside, Sole
from ..core.job import Job
from ..core.release.molds_out import Release
from ..core.sheer.heads import SheerPlan
from ..core.units import LengthStyle, format_degrees, format_length
from .decided import decided
from .model import Drawing, Label, Layer, Ring, Stroke, line

NUMBERED = 2
TALL = 0.04
BEVELS = 9


def _sheer_from_above(plan: SheerPlan) -> list[Stroke]:
    """The outside of the hull at the sheer, from above, both sides."""
    side = np.array([[m.station, m.outside[0]] for m in plan.marks])
    return [Stroke(frozen(side * [1.0, sign]), Layer.HULL) for sign in (1.0, -1.0)] + [
        line((float(side[0, 0]), 0.0), (float(side[-1, 0]), 0.0), layer=Layer.CENTRELINE)
    ]


def inside_drawing(plan: SheerPlan, inside: Inside, job: Job, style: LengthStyle) -> Drawing:
    """The sole, bulkheads and stringers from above; where the sole begins and ends is dragged."""
    strokes, labels, rings = _sheer_from_above(plan), [], []
    sole = inside.sole
    if sole is not None:
        ring = np.concatenate([sole.edge, sole.edge[::-1] * [1.0, -1.0]])
        strokes.append(Stroke(frozen(ring), Layer.MOLD, closed=True, filled=True))
        height = format_length(sole.height, style)
        middle = (float(sole.edge[:, 0].mean()), 0.0)
        labels.append(decided(middle, "sole at height", height, "inside.height", anchor="middle", rise=1))
        for k, path in ((0, "inside.begins"), (-1, "inside.ends")):
            at = float(sole.edge[k, 0])
            rings.append(Ring((at, 0.0), path, at, (1.0, 0.0)))
            labels.append(decided((at, 0.0), "", format_length(at, style), path, anchor="middle", rise=-1))
    for bulkhead in inside.bulkheads:
        half = float(bulkhead.edge.points[:, 0].max())
        at = bulkhead.station
        strokes.append(line((at, -half), (at, half), layer=Layer.STATION, key=f"bulkhead:{bulkhead.name}"))
        labels.append(Label((at, half), f"{bulkhead.name} at {format_length(at, style)}", Layer.NOTE, "middle", 1))
    for stringer in inside.stringers:
        for sign in (1.0, -1.0):
            strokes.append(Stroke(frozen(stringer.line[:, :2] * [1.0, sign]), Layer.STRIP))
        labels.append(Label(tuple(stringer.line[-1, :2].tolist()), stringer.name, Layer.NOTE, "right", 1))
    return Drawing("Inside, from above", tuple(strokes), tuple(labels), rings=tuple(rings))


def spalls_drawing(plan: SheerPlan, release: Release, style: LengthStyle) -> Drawing:
    """The spalls across the hull from above, and when each mold may go."""
    strokes, labels = _sheer_from_above(plan), []
    for spall in release.spalls:
        half = spall.length / 2
        strokes.append(line((spall.station, -half), (spall.station, half), layer=Layer.SPALL, key=f"spall:{spall.name}"))
        labels.append(Label((spall.station, half), f"{spall.name}: {format_length(spall.length, style)}", Layer.NOTE, "middle", 1))
    halves = {m.of_mold: float(m.outside[0]) for m in plan.marks if m.mold}
    for going in release.molds:
        half = halves.get(going.mold, 0.0)
        strokes.append(line((going.station, -half), (going.station, half), layer=Layer.MOLD, key=f"mold:{going.mold}"))
        labels.append(Label((going.station, -half), f"{going.mold} {going.when}", Layer.NOTE, "middle", -1))
    return Drawing("Spalls, and when each mold may go", tuple(strokes), tuple(labels))


def sole_pattern(sole: Sole, job: Job, style: LengthStyle) -> Drawing:
    """Half of a sole at full size from its centreline, with the bevel of its edge."""
    edge = sole.edge
    ring = np.concatenate([edge, [[edge[-1, 0], 0.0], [edge[0, 0], 0.0]]])
    strokes = [Stroke(frozen(ring), Layer.MOLD, closed=True)]
    labels = []
    for k in np.unique(np.linspace(0, len(edge) - 1, BEVELS).astype(int)).tolist():
        x, y = edge[k].tolist()
        strokes.append(line((x, 0.0), (x, y), layer=Layer.TICK))
        words = f"{format_length(x, style)}: {format_length(y, style)} out, {format_degrees(sole.bevels[k])}"
        labels.append(Label((x, y), words, Layer.BEVEL, "middle", 1))
    height = format_length(sole.height, style, unit=True)
    text = f"SOLE, half · {job.name} · upper face at height {height}; the lower face is narrower by its bevel"
    labels.append(Label((float(edge[:, 0].mean()), 0.0), text, Layer.TITLE, rise=1, strong=True))
    labels.append(Label((float(edge[:, 0].mean()), 0.0), "centreline, turn over for the other side", Layer.NOTE, rise=-1))
    return Drawing("Sole", tuple(strokes), tuple(labels))


def bulkhead_pattern(bulkhead: Bulkhead, job: Job, style: LengthStyle) -> Drawing:
    """A bulkhead at full size, both sides, inside the skin with its gap, with bevels."""
    side = bulkhead.edge.points
    ring = np.concatenate([side, side[::-1] * [-1.0, 1.0]])
    bottom, top = float(side[:, 1].min()), float(side[:, 1].max())
    strokes = [Stroke(frozen(ring), Layer.MOLD, closed=True), line((0.0, bottom), (0.0, top), layer=Layer.CENTRELINE)]
    middle = np.array([0.0, (bottom + top) / 2])
    degrees = np.degrees(bulkhead.edge.narrowing)
    labels = [
        Label(tuple((middle + 0.88 * (side[k] - middle)).tolist()), f"{degrees[k]:+.1f}°", Layer.BEVEL)
        for k in range(8, len(side) - 1, max(len(side) // BEVELS, 1))
    ]
    where = format_length(bulkhead.station, style, unit=True)
    labels.append(Label((0.0, (bottom + top) / 2), bulkhead.name.upper(), Layer.TITLE, rise=1, strong=True))
    words = f"{job.name} · at {where} · {format_length(job.inside.gap, style.fine, unit=True)} clear of the skin"
    labels.append(Label((0.0, (bottom + top) / 2), words, rise=-1))
    labels.append(Label((0.0, bottom), "bevels: + where the hull narrows aft", Layer.NOTE, rise=-1))
    return Drawing(bulkhead.name.capitalize(), tuple(strokes), tuple(labels))
