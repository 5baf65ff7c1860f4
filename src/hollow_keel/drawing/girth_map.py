"""The planking unrolled: position along the hull across, distance from the guide down, every strip a band.

Every tenth strip is darker, so that they can be counted.
"""

from __future__ import annotations

import numpy as np

from ..core.geometry.arrays import Array, frozen
from ..core.planking.edges import EdgePiece
from ..core.planking.strips import Planking, Strip
from ..core.results import Shape
from ..core.units import INCHES, MM_PER_INCH, LengthStyle, format_length
from .model import Drawing, Label, Layer, Stroke, line


def girth_map(shape: Shape, planking: Planking, style: LengthStyle) -> Drawing:
    """Heights of the drawing are minus the distance from the guide, mm."""
    strokes: list[Stroke] = []
    for strip, level in _levels(planking):
        strokes += _bands(strip, level)
    depth = sum(s.width_max for s in planking.strips)
    labels: list[Label] = []
    for mold in shape.molds.molds:
        strokes.append(
            line((mold.station, -depth - 25), (mold.station, 15), layer=Layer.GHOST, key=f"mold:{mold.name}")
        )
        labels.append(Label((mold.station, -depth - 25), mold.name, rise=-1, key=f"mold:{mold.name}"))
    left = min((float(s.points[:, 0].min()) for s in strokes), default=0.0)
    step = 6 * MM_PER_INCH if style.unit in INCHES else 200.0
    for share in np.arange(0.0, depth, step).tolist():
        labels.append(Label((left - 40, -share), format_length(share, style), anchor="right"))
    right = max((float(s.points[:, 0].max()) for s in strokes), default=0.0)
    labels.append(
        Label(
            (right, 15),
            f"down: from the {planking.guide}, {style.name}   ·   along: molds",
            anchor="right",
            rise=1,
        )
    )
    labels += [_tenth(strip, level, right) for strip, level in _levels(planking) if strip.number % 10 == 0]
    return Drawing("Girth map", tuple(strokes), tuple(labels), true_to_scale=False)


def _levels(planking: Planking) -> list[tuple[Strip, float]]:
    """Each strip with the height of its upper edge in the drawing."""
    tops = np.concatenate([[0.0], -np.cumsum([s.width_max for s in planking.strips])[:-1]])
    return list(zip(planking.strips, tops.tolist(), strict=True))


def _tenth(strip: Strip, level: float, right: float) -> Label:
    return Label(
        (right + 30, level - strip.width_max / 2),
        f"{strip.number}",
        anchor="left",
        key=f"strip:{strip.number}",
    )


def _bands(strip: Strip, top: float) -> list[Stroke]:
    layer = Layer.STRIP if strip.number % 10 else Layer.STRIP_ALT
    bottom = top - strip.width_max
    key = f"strip:{strip.number}"
    bands: list[Stroke] = []
    for near in strip.near:
        far = [p for p in strip.far if _overlaps(p, near)]
        low = _across(far, bottom) if far else np.array([[float(near.points[:, 0].mean()), bottom]])
        high = _across([near], top)
        bands.append(
            Stroke(frozen(np.concatenate([high, low[::-1]])), layer, closed=True, filled=True, key=key)
        )
    return bands


def _overlaps(a: EdgePiece, b: EdgePiece) -> bool:
    return a.g[0] < b.g[1] and b.g[0] < a.g[1]


def _across(pieces: list[EdgePiece], height: float) -> Array:
    ends = [(float(p.points[k, 0]), height) for p in pieces for k in (0, -1)]
    return np.array(ends)
