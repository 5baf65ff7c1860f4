"""From how many lengths of a board a long piece is scarfed."""

from __future__ import annotations

import math


def scarfed_from(length: float, longest: float, scarf: float) -> int:
    """How many lengths a piece is glued from, each joint taking a scarf's length of both, mm; 0 where no board gives one."""
    if longest <= scarf:
        return 0
    return max(math.ceil((length - scarf) / (longest - scarf) - 1e-9), 1)
