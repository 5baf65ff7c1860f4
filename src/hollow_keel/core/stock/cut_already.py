"""What has been cut is kept as it is."""

from __future__ import annotations

from .pieces import JointPlan
from .timber import MadePiece, MadeStrip


def cut_up_to(plan: JointPlan, strip: int) -> tuple[MadeStrip, ...]:
    """What is cut once every strip up to a number is: as planned, after those that were cut before."""
    fresh = [
        MadeStrip(
            strip=m.need.strip, side=m.need.side, part=m.need.part,
            pieces=tuple(MadePiece(stick=p.stick, length=p.length) for p in m.pieces), joints=m.joints,
        )
        for m in plan.made
        if m.need.strip <= strip
    ]  # fmt: skip
    return (*plan.stays, *fresh)
