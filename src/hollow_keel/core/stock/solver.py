"""Least cost in whole numbers, by a general solver that is stopped by what it has done: stopped by the clock, a slower machine
would come to another plan."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from ..geometry.arrays import Array

if TYPE_CHECKING:
    from scipy.optimize import LinearConstraint, OptimizeResult

WORK = 200_000
"""Branches looked at, times numbers wanted: some three to seven seconds (measured), and over ten times what any job tried has
taken."""
LONGEST_SECONDS = 20.0
"""Nobody waits longer, on however slow a machine."""


def least_cost(cost: Array, constraints: Sequence[LinearConstraint], most: Array, exact: bool) -> OptimizeResult:
    """Whole numbers x (n,), none over `most` (n,), of least `cost` (n,): the solver's result. Its `x` is None where there are none
    or none were found, its status 0 where they are the best, to a ten-thousandth of the cost where they need not be `exact`."""
    from scipy.optimize import Bounds, milp  # loads slowly: not before it is needed

    options: dict[str, float] = {
        "time_limit": LONGEST_SECONDS,
        "node_limit": max(WORK // len(cost), 1),
        "mip_rel_gap": 0.0 if exact else 1e-4,
    }
    return milp(cost, constraints=constraints, integrality=np.ones(len(cost)), bounds=Bounds(0, most), options=options)
