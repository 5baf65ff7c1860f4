"""The planking unrolled: position along the hull across, distance from the guide up and down, every strip a band.

Every tenth strip is darker, so that they can be counted.
"""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.planking.edges import EdgePiece
from ...core.planking.strips import Planking, Strip
from ...core.results import Shape
from ...core.settings.strip_choices import Course, Guide
from ...core.units import INCHES, MM_PER_INCH, LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line
from .shades import LAYERS


def girth_map(shape: Shape, planking: Planking, style: LengthStyle, shades: tuple[int, ...] = ()) -> Drawing:
    """Heights of the drawing are the distance from the guide, mm, up or down as the strips go; `shades` tells the kind of each
    strip in order (empty: every tenth is darker)."""
    strokes: list[Stroke] = []
    levels = strip_levels(planking)
    for k, (strip, level) in enumerate(levels):
        plain = Layer.STRIP if strip.number % 10 else Layer.STRIP_ALT
        strokes += _bands(strip, level, LAYERS[shades[k]] if shades else plain)
    tops = [max(level, level + _way(s) * s.width_max) for s, level in levels]
    feet = [min(level, level + _way(s) * s.width_max) for s, level in levels]
    depth, height = -min(feet, default=0.0), max(tops, default=0.0)
    labels: list[Label] = []
    for mold in shape.molds.molds:
        key = f"mold:{mold.name}"
        ends = (mold.station, -depth - 25), (mold.station, height + 15)
        strokes.append(line(*ends, layer=Layer.GHOST, key=key))
        labels.append(Label(ends[0], mold.name, rise=-1, key=key))
    left = min((float(s.points[:, 0].min()) for s in strokes), default=0.0)
    step = 6 * MM_PER_INCH if style.unit in INCHES else 200.0
    for share in np.arange(-step * (height // step), depth, step).tolist():
        labels.append(Label((left - 40, -share), format_length(abs(share), style), anchor="right"))
    right = max((float(s.points[:, 0].max()) for s in strokes), default=0.0)
    labels.append(
        Label(
            (right, height + 15),
            f"up and down: from the {_guide_name(planking)}, {style.name}   ·   along: molds",
            anchor="right",
            rise=1,
        )
    )
    labels += [_tenth(strip, level, right) for strip, level in strip_levels(planking) if strip.number % 10 == 0]
    return Drawing("Girth map", tuple(strokes), tuple(labels), true_to_scale=False)


def _way(strip: Strip) -> float:
    return 1.0 if strip.course is Course.UP else -1.0


def _guide_name(planking: Planking) -> str:
    names = {
        "master": "master line",
        "both": "sheer; the strips from the keel below",
        "both-deck": "centreline; the strips from the sheer below",
    }
    return names.get(planking.guide, planking.guide)


def strip_levels(planking: Planking) -> list[tuple[Strip, float]]:
    """Each strip with the height of its edge towards the guide in the drawing."""
    deep = sum(s.width_max for s in planking.strips)
    at = {Course.DOWN: 0.0, Course.UP: -deep if planking.guide in (Guide.BOTH, "both-deck") else 0.0}
    found = []
    for strip in planking.strips:
        found.append((strip, at[strip.course]))
        at[strip.course] += _way(strip) * strip.width_max
    return found


def _tenth(strip: Strip, level: float, right: float) -> Label:
    return Label(
        (right + 30, level + _way(strip) * strip.width_max / 2), f"{strip.number}", anchor="left", key=f"strip:{strip.number}"
    )


def _bands(strip: Strip, near_level: float, layer: Layer) -> list[Stroke]:
    far_level = near_level + _way(strip) * strip.width_max
    key = f"strip:{strip.number}"
    bands: list[Stroke] = []
    for near in strip.near:
        far = [p for p in strip.far if _overlaps(p, near)]
        outer = _across(far, far_level) if far else np.array([[float(near.points[:, 0].mean()), far_level]])
        inner = _across([near], near_level)
        points = frozen(np.concatenate([inner, outer[::-1]]))
        bands.append(Stroke(points, layer, closed=True, filled=True, key=key))
    return bands


def _overlaps(a: EdgePiece, b: EdgePiece) -> bool:
    return a.g[0] < b.g[1] and b.g[0] < a.g[1]


def _across(pieces: list[EdgePiece], height: float) -> Array:
    ends = [(float(p.points[k, 0]), height) for p in pieces for k in (0, -1)]
    return np.array(ends)
