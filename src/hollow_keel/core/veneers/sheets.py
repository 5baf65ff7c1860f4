"""Veneers laid out on the sheets that they are cut from, in lanes along the sheet."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from ..job import LayingSettings
from ..settings.timber import JointSettings
from .butts import Butts, butts_of_layer
from .layer_plan import LayerPlan


@dataclass(frozen=True)
class Cut:
    """A veneer, or a part of it from `start` along its straight edge, mm, as it lies on a sheet (from 0): `along` and `across` it,
    `length` and `width` as they are cut, mm. `port` tells the veneers that are turned over."""

    veneer: int
    port: bool
    start: float
    length: float
    width: float
    sheet: int
    along: float
    across: float


@dataclass(frozen=True)
class Sheeted:
    """A layer on its sheets: every cut, how many sheets, joints end to end, the veneers that are wider than a sheet, and where
    they are butted."""

    layer: int
    cuts: tuple[Cut, ...]
    sheets: int
    joints: int
    too_wide: tuple[int, ...]
    butts: Butts


@dataclass
class _Lane:
    sheet: int
    across: float
    width: float
    used: float


def lay_on_sheets(plan: LayerPlan, laying: LayingSettings, joints: JointSettings) -> Sheeted:
    """A layer's veneers of both sides on sheets: the widest first, each where the narrowest lane that takes it has room, else in a
    lane of its own on the first sheet that is wide enough. Veneers longer than a sheet are butted, as far from their neighbours'
    butts as joints of strips are."""
    long, wide, kerf = laying.sheet_length, laying.sheet_width, laying.kerf
    too_wide = tuple(v.number for v in plan.veneers if v.width > wide)
    butts = butts_of_layer(plan.veneers, long, joints.stagger, joints.rows, joints.least_piece)
    pieces = sorted(
        (
            (width, length, v.number, port, start)
            for v in plan.veneers
            if v.width <= wide
            for start, length, width in parts_of(v.spiling.tolist(), v.length, v.width, butts.at.get(v.number, ()))
            for port in (False, True)
        ),
        key=lambda p: (-p[0], -p[1], p[2], p[3]),
    )
    lanes: list[_Lane] = []
    filled: list[float] = []
    cuts = []
    for width, length, number, port, start in pieces:
        own = min(
            (lane for lane in lanes if lane.width >= width and long - lane.used >= length),
            key=lambda lane: (lane.width - width, long - lane.used - length),
            default=None,
        )
        if own is None:
            sheet = next((k for k, across in enumerate(filled) if wide - across >= width), len(filled))
            if sheet == len(filled):
                filled.append(0.0)
            own = _Lane(sheet, filled[sheet], width, 0.0)
            filled[sheet] += width + kerf
            lanes.append(own)
        cuts.append(Cut(number, port, start, length, width, own.sheet, own.used, own.across))
        own.used += length + kerf
    jointed = sum(c.start > 0 for c in cuts)
    return Sheeted(plan.number, tuple(cuts), len(filled), jointed, too_wide, butts)


def parts_of(
    spiling: Sequence[Sequence[float]], length: float, width: float, cuts: Sequence[float]
) -> list[tuple[float, float, float]]:
    """A veneer in parts between its butts, mm: where each begins, how long it is, how wide (by the spiling (n, 2), the steps
    beside it too)."""
    if not cuts:
        return [(0.0, length, width)]
    found = []
    for start, end in itertools.pairwise((0.0, *cuts, length)):
        places = [float(x) for x, _ in spiling]
        low = max((k for k, x in enumerate(places) if x <= start), default=0)
        high = min((k for k, x in enumerate(places) if x >= end), default=len(places) - 1)
        found.append((start, end - start, max(float(w) for _, w in spiling[low : high + 1])))
    return found
