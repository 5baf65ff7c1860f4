"""So many of something that nobody builds it: said before it is worked out, which would take all time and memory."""

from __future__ import annotations

import math

from .errors import ImpossiblePlan
from .findings import mm

MOST = 1000
"""No hull that is built of wood by hand has as many molds, frames, lines or ribbands."""


def count_of(length: float, each: float, what: str) -> int:
    """How many pieces a length (mm) comes to, each so long or less, one at least. Raises ImpossiblePlan where that is no plan."""
    count = length / each if each > 0 else math.inf
    if not count <= MOST:
        many = f"{count:,.0f}" if math.isfinite(count) else "endlessly many"
        raise ImpossiblePlan(
            f"Every {each:g} mm there would be {many} {what} on {mm(round(length))}: set them {mm(math.ceil(length / MOST))} apart "
            "or more."
        )
    return max(math.ceil(count - 1e-9), 1)
