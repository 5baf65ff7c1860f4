"""Where the hull is hollow along the strips: there they stand off the molds by themselves and have to be pulled in."""

from __future__ import annotations

import numpy as np

from ..findings import Finding, Weight, mm
from ..rules import SAGS_MM
from .mechanics import named_strips
from .strips import Planking


def hollow_findings(planking: Planking, span: float) -> list[Finding]:
    """The strips whose line is hollow enough to stand off by more than `SAGS_MM` over molds `span` mm apart."""
    deepest: dict[int, tuple[float, float]] = {}
    for strip in planking.strips:
        for piece in strip.far or strip.near:
            sag = -piece.curvatures[:, 1] * span**2 / 8
            worst = int(np.argmax(sag))
            if sag[worst] > max(SAGS_MM, deepest.get(strip.number, (0.0, 0.0))[0]):
                deepest[strip.number] = float(sag[worst]), float(piece.points[worst, 0])
    if not deepest:
        return []
    worst_strip = max(deepest, key=lambda n: deepest[n][0])
    sag_mm, place = deepest[worst_strip]
    text = (
        f"The hull is hollow along them, most at strip {worst_strip} near position {mm(round(place))}: left to themselves they "
        f"stand {mm(round(sag_mm, 1))} off between two molds. Pull them in with a screw or a staple at every mold, or set "
        "a mold in between."
    )
    return [Finding("hollow", Weight.INFORMATION, "planking", named_strips(list(deepest)), text)]
