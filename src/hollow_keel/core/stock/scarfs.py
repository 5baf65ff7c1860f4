"""From how many lengths of the boards at hand a long piece is scarfed."""

from __future__ import annotations

import math

from ..job import Job


def scarfed_from(length: float, thickness: float, job: Job) -> int:
    """How many lengths of the longest board a piece is glued from, each joint taking a scarf's length of both, mm; 0 where no board
    gives one. Reads the job's boards and the slope of its joints."""
    longest = max((board.usable for board in job.stock.given), default=0.0)
    scarf = job.stock.joints.slope * thickness
    if longest <= scarf:
        return 0
    return max(math.ceil((length - scarf) / (longest - scarf) - 1e-9), 1)
