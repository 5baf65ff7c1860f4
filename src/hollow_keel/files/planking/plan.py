"""What the plan file tells of every strip, of a hull and of a deck alike. Lengths mm, curvatures 1/m, twist degrees a metre."""

from __future__ import annotations

import math
from typing import Any

from ...core.planking.mechanics import Behaviour
from ...core.planking.strips import Strip
from ..rounded import rounded


def strip_part(strip: Strip, own: Behaviour) -> dict[str, Any]:
    """One strip and how it goes on."""
    edge_set, bend, twist = strip.amidships
    return {
        "n": strip.number,
        "length": rounded(strip.length),
        "guide_edge": rounded(strip.near_length),
        "far_edge": rounded(strip.far_length),
        "pieces": strip.pieces,
        "starts": strip.starts,
        "ends": strip.ends,
        "width_min": rounded(strip.width_min),
        "width_max": rounded(strip.width_max),
        "max_edge_set": rounded(edge_set * 1000, 6),
        "max_bend": rounded(bend * 1000, 6),
        "max_twist": rounded(math.degrees(twist) * 1000),
        "course": strip.course.value,
        "edge_set_with_ends": rounded(strip.max_edge_set * 1000, 6),
        "bend_with_ends": rounded(strip.max_bend * 1000, 6),
        "twist_with_ends": rounded(math.degrees(strip.max_twist) * 1000),
        "goes_on": own.grade.value,
        "share_of_breaking": rounded(own.share, 4),
    }
