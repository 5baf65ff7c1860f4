"""Copying to the other side: the arcs of a head, a strip with all marks hinged at the keel, and a curve drawn by eye."""

from __future__ import annotations

import numpy as np

from ...core.findings import in_words
from ...core.geometry.arrays import frozen
from ...core.job import Job
from ...core.sheer.by_eye import ByEye, EyeNail
from ...core.sheer.heads import SheerMark, SheerPlan
from ...core.units import LengthStyle, format_length
from ...core.words import times
from ..decided import decided
from ..model import Drawing, Label, Layer, Stroke, box, line

STRIP_WIDE_MM, ROWS = 60.0, 4
END_MM = 40.0
SEEN_MM = 0.05


def arcs_drawing(plan: SheerPlan, mark: SheerMark, job: Job, style: LengthStyle) -> Drawing:
    """From the side: where arcs are swung from, and how far the chosen head's mark is from each."""
    sheer = np.array([[m.station, m.outside[1]] for m in plan.marks])
    strokes = [Stroke(frozen(sheer), Layer.SHEER_MARK)]
    labels = []
    at = (mark.station, float(mark.outside[1]))
    for k, (base, name) in enumerate(zip(plan.bases, plan.base_names, strict=True)):
        place = (float(base[0]), float(base[2]))
        strokes += [line(place, at, layer=Layer.SPALL), Stroke(frozen([place]), Layer.OFFSET, crosses=True)]
        middle = (0.7 * place[0] + 0.3 * at[0], 0.7 * place[1] + 0.3 * at[1])
        words = f"arc {k + 1}: {format_length(mark.radii[k], style)}"
        labels.append(Label(middle, words, Layer.DIMENSION, "middle", 1, strong=True))
        called = in_words(name, lambda v: format_length(v, style))
        labels.append(Label(place, called, Layer.NOTE, "middle", -1))
    labels.append(Label(at, mark.name, Layer.NOTE, "middle", 1))
    low = min(float(base[2]) for base in plan.bases) if plan.bases else at[1]
    given = ", ".join(format_length(v, style) for v in job.trim.bases) or "a tenth and nine tenths of the length"
    foot = (float(sheer[:, 0].mean()), low - 0.06 * float(np.ptp(sheer[:, 0])))
    labels.append(decided(foot, "arcs are swung from", given, "trim.bases", anchor="middle", rise=-1))
    return Drawing(f"Arcs to {mark.name}: the same on both sides", tuple(strokes), tuple(labels), room=(foot,))


def tracing_strip(plan: SheerPlan, job: Job, style: LengthStyle) -> Drawing:
    """A strip at full size, hinged at the keel: laid round the planking from there it shows every head's mark, and turned over the
    keel the other side's."""
    if not plan.marks:
        return Drawing("Tracing strip", ())
    long = max(m.girth for m in plan.marks) + END_MM
    row = STRIP_WIDE_MM / ROWS
    strokes = [box(-END_MM, 0.0, long, STRIP_WIDE_MM, Layer.MOLD), line((0.0, 0.0), (0.0, STRIP_WIDE_MM), layer=Layer.CENTRELINE)]
    turned = f"TRACING STRIP · {job.name} · turn it over the keel for the other side"
    labels = [
        Label((0.0, STRIP_WIDE_MM), "HINGE: on the keel's centreline", Layer.TITLE, "left", 1, strong=True),
        Label((long, STRIP_WIDE_MM), turned, Layer.NOTE, "right", 1),
    ]
    for k, mark in enumerate(sorted(plan.marks, key=lambda m: m.girth)):
        low = row * (k % ROWS)
        strokes.append(line((mark.girth, low), (mark.girth, low + row), layer=Layer.TICK))
        words = f"{mark.name} {format_length(mark.girth, style)}"
        labels.append(Label((mark.girth, low + row / 2), words, Layer.NOTE, "left", 0))
    return Drawing("Tracing strip", tuple(strokes), tuple(labels))


def by_eye_drawing(eye: ByEye, style: LengthStyle) -> Drawing:
    """The batten through the heights that were read, from the end of the sheer; seen stretched."""
    nails = np.array([[n.far, n.height] for n in eye.nails])
    if not len(nails):
        return Drawing("A curve by eye", ())
    strokes = [Stroke(frozen(nails), Layer.OFFSET, crosses=True)]
    if len(eye.batten):
        strokes.append(Stroke(eye.batten, Layer.SHEER_MARK))
    labels = [Label((n.far, n.height), _nail_words(n, style), Layer.NOTE, "middle", 1, key=f"head:{n.head}") for n in eye.nails]
    turns = "it does not turn" if not eye.turns else f"it turns from hollow to round {times(eye.turns)}"
    title = f"By eye at the {eye.end}, {eye.side.value}: {turns}"
    return Drawing(title, tuple(strokes), tuple(labels), true_to_scale=False)


def _nail_words(nail: EyeNail, style: LengthStyle) -> str:
    words = f"{nail.head}: {format_length(nail.height, style.fine)}"
    if nail.off is None or abs(nail.off) < SEEN_MM:
        return words
    way = "above" if nail.off > 0 else "below"
    return f"{words}, {format_length(abs(nail.off), style.fine)} {way} the others"
