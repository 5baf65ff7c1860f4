"""How fast this crew is against the plan: one factor for the crew and one for each task, from what is done so far.

The logarithm of a task's true hours over its planned ones is a crew's part and the task's own, both normal about nothing; what is
done so far tells of their sum, the better the more units there are. So a job's own rates are drawn towards the plan until there are
many of them, and a slow crew is expected to be slow at what it has not begun, too. (Linear Gaussian regression, any textbook of
statistics; how far crews, tasks and single pieces scatter is common practice, named here.)
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..rules import CREWS_SPREAD, PIECES_SPREAD, TASKS_SPREAD
from .tasks import BY_HOURS, Piece


@dataclass(frozen=True)
class Rates:
    """Of k tasks the logarithm of true hours over planned ones: its expectation (k,) and covariance (k, k)."""

    mean: Array
    covariance: Array

    def factors(self) -> Array:
        """What planned hours are to be multiplied with, at the middle, (k,)."""
        return np.exp(self.mean)


def rates_of(pieces: Sequence[Piece]) -> Rates:
    """The rates of tasks, by what is done of each."""
    count = len(pieces)
    prior = CREWS_SPREAD**2 * np.ones((count, count)) + TASKS_SPREAD**2 * np.eye(count)
    known = [
        k
        for k, p in enumerate(pieces)
        if p.done > 0 and p.logged > 0 and p.each > 0 and (p.task not in BY_HOURS or p.state == "done")
    ]
    if not known:
        return Rates(frozen(np.zeros(count)), frozen(prior))
    seen = np.array([np.log(pieces[k].logged / pieces[k].done / pieces[k].each) for k in known])
    noise = np.diag([PIECES_SPREAD**2 / max(pieces[k].done, 1.0) for k in known])
    cross = prior[:, known]
    gain = np.linalg.solve(prior[np.ix_(known, known)] + noise, cross.T).T
    return Rates(frozen(gain @ seen), frozen(prior - gain @ cross.T))
