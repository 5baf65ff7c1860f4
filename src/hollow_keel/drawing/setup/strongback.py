"""The strongback from the side with every mold on it as it stands, and its marks from zero."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.molds.shape import Face
from ...core.results import Shape
from ...core.settings.setup_choices import Strongback
from ...core.setup.schedule import middle_gap, strongback_length
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, box, line
from .survey import measured_style

FAULT_UP_MM = 130.0
"""What is wrong with a mold is written so far over it."""
WEDGE_MM = 110.0
"""Wedges are drawn so high."""


def setup_drawing(shape: Shape, style: LengthStyle) -> Drawing:
    """Heights are measured upward from the beam's upper face; positions from the zero of the beam."""
    setup = shape.setup
    beam = shape.job.setup.beam_height
    from_stern = shape.job.setup.zero_end.value == "stern"
    sign = -1.0 if from_stern else 1.0

    def along(x: float) -> float:
        return sign * (x - setup.zero_at)

    long = strongback_length(setup, shape.job.setup)
    strokes: list[Stroke] = [box(0, -beam, max(long, 1.0), 0, Layer.BEAM, filled=True)]
    labels: list[Label] = []
    by_name = {m.name: m for m in shape.molds.molds}
    even = np.linspace(0, 1, 81)
    keel = shape.hull.panels[0].surface.points(even, np.zeros_like(even))
    strokes.append(Stroke(frozen(np.column_stack([sign * (keel[:, 0] - setup.zero_at), setup.above(keel[:, 2])])), Layer.GHOST))
    lowest = min([min(setup.above(by_name[m.mold].top), m.keel_above) for m in setup.marks] + [-beam, -shape.job.setup.top])
    for row, mark in enumerate(setup.marks):
        mold = by_name[mark.mold]
        a, b = along(mold.body[0]), along(mold.body[1])
        key = f"mold:{mark.mold}"
        low, high = sorted((setup.above(mold.top), mark.keel_above))
        strokes.append(box(min(a, b), low, max(a, b), high, Layer.MOLD, key, filled=True))
        if low > 0:  # it stands on legs, or on a post under the keel
            strokes.append(box(min(a, b), 0.0, max(a, b), low, Layer.STATION, key))
        at = mark.from_zero
        drop = lowest - 60 if row % 2 == 0 else lowest - 150
        strokes.append(line((at, drop), (at, high + 25), layer=Layer.DIMENSION, key=key))
        labels.append(Label((at, high + 25), mark.mold, Layer.TITLE, rise=1, key=key, strong=True))
        labels.append(Label((at, drop), format_length(at, style), Layer.DIMENSION, rise=-1, key=key))
        arrow = 40.0 if (mold.face is Face.FORWARD) != from_stern else -40.0
        strokes.append(line((at, -beam / 2), (at + arrow, -beam / 2), layer=Layer.DIMENSION, key=key))
    at_wedges = middle_gap(setup)
    if shape.job.setup.strongback is Strongback.BEAM and shape.job.setup.wedges and at_wedges is not None:
        mark = setup.marks[at_wedges]
        away = (mark.body_towards == "stern") != from_stern
        end = mark.from_zero + (by_name[mark.mold].thickness if away else 0.0) + (mark.gap_to_next or 0.0)
        strokes += _wedges(end, shape.job.setup.wedges)
    right = max(long, setup.beam_length)
    left = -0.11 * right
    strokes.append(line((left, setup.waterline_above), (right, setup.waterline_above), layer=Layer.WATERLINE))
    strokes.append(line((0, lowest - 60), (0, 40), layer=Layer.CENTRELINE, key="zero"))
    strokes += _floor(shape, left, right)
    above, top = setup.waterline_above, shape.job.setup.top
    labels += [
        decided((left, above), "waterline", format_length(above, style), "setup.waterline_above", Layer.WATERLINE),
        decided(
            (0, lowest - 60),
            "zero, along the hull",
            format_length(setup.zero_at, style),
            "setup.zero_at",
            Layer.CENTRELINE,
            "right",
            -1,
        ),
        decided((long, -beam / 2), "long", format_length(long, style), "setup.length", Layer.BEAM),
    ]
    rings = [
        Ring((left, above), "setup.waterline_above", above, (0.0, 1.0)),
        Ring((0.0, lowest - 60), "setup.zero_at", setup.zero_at, (1.0, 0.0), per=sign, moves="zero"),
        Ring((long, -beam / 2), "setup.length", long, (1.0, 0.0), low=100.0),
    ]
    if top:
        place = (right, -top)
        labels.append(decided(place, "above the floor", format_length(top, style), "setup.top", Layer.STATION))
        rings.append(Ring(place, "setup.top", top, (0.0, -1.0), low=1.0))
    where = f"Molds on the {shape.job.setup.strongback.value}, {'upright' if setup.upright else 'upside down'}"
    return Drawing(where, tuple(strokes), tuple(labels), rings=tuple(rings))


def with_faults(drawing: Drawing, shape: Shape, style: LengthStyle) -> Drawing:
    """The set-up as it was last measured: molds that are to be moved are marked, with how far they are out."""
    if not shape.surveys:
        return drawing
    marks = {mark.mold: mark for mark in shape.setup.marks}
    labels: list[Label] = []
    for move in (m for m in shape.surveys[-1].moves if m.mold in marks):
        mark = marks[move.mold]
        place = (mark.from_zero, max(mark.sheer_above, mark.keel_above) + FAULT_UP_MM)
        text = f"▲ {format_length(abs(move.error), measured_style(style), unit=True)} out"
        labels.append(Label(place, text, Layer.SHEER_MARK, "middle", 1, f"mold:{move.mold}", leads=True))
    return replace(drawing, labels=(*drawing.labels, *labels))


def _floor(shape: Shape, left: float, right: float) -> list[Stroke]:
    """The floor, and what the strongback stands on it with."""
    top = shape.job.setup.top
    if not top:
        return []
    strokes = [line((left, -top), (right - left, -top), layer=Layer.STATION)]
    beam = shape.job.setup.beam_height
    for share in (0.12, 0.5, 0.88):
        x = share * right
        strokes.append(line((x - 40, -beam), (x - 70, -top), layer=Layer.GRID))
        strokes.append(line((x + 40, -beam), (x + 70, -top), layer=Layer.GRID))
    return strokes


def _wedges(end: float, thick: float) -> list[Stroke]:
    """The pair of folding wedges, driven in before the mold whose near side stands at `end`."""
    start = end - thick
    corners = [(end, 0.0), (end, WEDGE_MM), (start, WEDGE_MM), (start, 0.0)]
    return [
        Stroke(frozen(corners[:3]), Layer.FITTING, closed=True, filled=True, key="wedges"),
        Stroke(frozen([*corners[2:], corners[0]]), Layer.FITTING, closed=True, filled=True, key="wedges"),
    ]
