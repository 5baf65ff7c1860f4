"""End joints between pieces of a strip: the length they take, how strong they are, how they bend.

Length lost on thickness t: angle (the cut leans that far from square) t tan(angle), slope n:1 n t, butt nothing. Strength as a
share: butt and angles after a small bucket test, relative to the joint at 60° (common practice, no source); slopes as shares
of clear wood after the *Wood Handbook* (FPL-GTR-282), quoted from memory.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..rules import BUCKET_TEST, SCARFS
from ..settings.timber import JointKind, JointSettings, StockSettings


@dataclass(frozen=True)
class Joint:
    """`lost` mm of every joint's length is wood twice; `strength` a share `of` something; how it bends, in words."""

    lost: float
    strength: float
    of: str
    bends: str


def _between(value: float, table: tuple[tuple[float, float], ...]) -> float:
    at, values = np.array(table).T
    return float(np.interp(value, at, values))


def joint_of(settings: JointSettings, thickness: float) -> Joint:
    """The joint that was chosen, in strips of a thickness (mm)."""
    if settings.kind is JointKind.SLOPE:
        strength = _between(settings.slope, SCARFS)
        return Joint(
            settings.slope * thickness, strength, "clear wood (Wood Handbook, from memory)", "bends as fairly as the strip itself"
        )
    if settings.kind is JointKind.ANGLE:
        strength = _between(settings.angle, BUCKET_TEST)
        lost = thickness * math.tan(math.radians(settings.angle))
        fair = "bends fairly" if settings.angle >= 55 else "may show as a slight flat on a tight bend"
        return Joint(lost, strength, "a joint at 60° (common practice)", fair)
    if settings.kind is JointKind.BUTT:
        return Joint(
            0.0,
            BUCKET_TEST[0][1],
            "a joint at 60° (common practice)",
            "does not bend: keep it off tight bends, the panel carries the load",
        )
    return Joint(0.0, 1.0, "clear wood", "no joint")


def lost_in(stock: StockSettings) -> Callable[[float], float]:
    """The length a joint takes, mm, by the strips' thickness, mm."""
    return lambda thickness: joint_of(stock.joints, thickness).lost
