"""The trimming curve and the hull's edge near it, from the side or from above; its points are dragged and typed there."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.job import Job
from ...core.settings.sheer_choices import SeenFrom
from ...core.sheer.curve import TrimCurve
from ...core.sheer.heads import SheerPlan
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, line

MARGIN = 0.15
"""So much of the curve's length the hull's edge is drawn beyond it."""


def curve_drawing(curve: TrimCurve, plan: SheerPlan, job: Job, style: LengthStyle) -> Drawing:
    """The curve by its points: each is dragged up and down where it is, and along the hull by the foot under it."""
    own = job.trim
    given = np.array(list(zip(own.curve_at, own.curve_to, strict=False)), dtype=float).reshape(-1, 2)
    if not len(given):
        return Drawing("The trimming curve", ())
    side = own.curve_seen is SeenFrom.SIDE
    edge = _edge(plan, given[:, 0], 1 if side else 0)
    lowest = min(given[:, 1].min(), edge[:, 1].min())
    foot = float(lowest - max(MARGIN * np.ptp(given[:, 1]), 0.05 * np.ptp(edge[:, 0]), 1.0))
    strokes = [
        Stroke(frozen(edge), Layer.HULL),
        Stroke(frozen(curve.line[:, [0, 2 if side else 1]]), Layer.SHEER_MARK),
        line((float(edge[0, 0]), foot), (float(edge[-1, 0]), foot), layer=Layer.CENTRELINE),
    ]
    labels, rings = ([Label((float(edge[0, 0]), float(edge[0, 1])), "the sheer, outside", Layer.NOTE, "left", 1)], [])
    for k, (at, to) in enumerate(given.tolist()):
        key = f"curve point {k}"
        strokes += [line((at, foot), (at, to), layer=Layer.GHOST), Stroke(frozen([(at, to)]), Layer.OFFSET, crosses=True, key=key)]
        paths = f"trim.curve_at.{k}", f"trim.curve_to.{k}"
        rings += [Ring((at, to), paths[1], to, (0.0, 1.0), moves=key), Ring((at, foot), paths[0], at, (1.0, 0.0))]
        words = f"{k + 1}: {'height' if side else 'out'}"
        labels += [
            decided((at, to), words, format_length(to, style), paths[1], key=key, after=_where(curve, at, style, side)),
            decided((at, foot), "at", format_length(at, style), paths[0], anchor="middle", rise=-1),
        ]
    seen = "from the side" if side else "from above"
    return Drawing(f"The trimming curve of {job.name}, {seen}", tuple(strokes), tuple(labels), rings=tuple(rings))


def _edge(plan: SheerPlan, at: Array, column: int) -> Array:
    """The hull's edge by its heads (n, 2), from before a curve to after it: position, and height (1) or half-breadth (0)."""
    edge = np.array([[m.station, m.outside[column]] for m in plan.marks])
    margin = MARGIN * max(float(np.ptp(at)), 100.0)
    low, high = float(at.min()) - margin, float(at.max()) + margin
    places = np.unique(np.concatenate([edge[(edge[:, 0] > low) & (edge[:, 0] < high), 0], np.clip([low, high], *edge[[0, -1], 0])]))
    return np.column_stack([places, np.interp(places, edge[:, 0], edge[:, 1])])


def _where(curve: TrimCurve, at: float, style: LengthStyle, side: bool) -> str:
    """What is told of a point besides: from the set-up line, and how far out; that it is off the skin."""
    place = next((p for p in curve.places if p.given and abs(p.station - at) < 0.5), None)
    if place is None:
        return ", not on the skin"
    way = "above" if place.up >= 0 else "below"
    out = f", {format_length(place.half, style)} out" if side else ""
    return f" ({format_length(abs(place.up), style)} {way} the line{out})"
