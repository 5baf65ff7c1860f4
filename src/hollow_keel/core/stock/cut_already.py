"""What has been cut is kept as it is."""

from __future__ import annotations

from .pieces import JointPlan
from .timber import MadeStrip


def cut_up_to(plan: JointPlan, strip: int) -> tuple[MadeStrip, ...]:
    """What is cut once every strip up to a number is: as planned, after those that were cut before."""
    return (*plan.stays, *(m.as_cut() for m in plan.made if m.need.strip <= strip))
