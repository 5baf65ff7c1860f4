"""Which of a row of readings are out, when all of them lie on an unknown smooth sweep and are read with noise.

Readings are taken as a level and a slope that nobody knows, a smooth sweep (a beam that sags or bends), noise, and for a
few of them an error of their own. The most probable set of those few is searched for exactly: every set of up to
three, and larger ones by growing the best of those. The sweep is a Gaussian process over the distance along the
strongback, so that nothing has to be known of its shape but that it is smooth (Rasmussen and Williams, *Gaussian Processes
for Machine Learning*, chapter 5, for the marginal likelihood; from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from ..geometry.arrays import Array, frozen
from ..rules import DATUM_MM, FAULT_MM, RARE, SMOOTH_SHARE, SWEEP_MM

EXACT = 3
LIKELY_STEPS = 4
MOST = 6


@dataclass(frozen=True)
class Judged:
    """`out` numbers of the readings with an error of their own, rising; `sweep` (n,) the datum under all of them, mm;
    `error` (n,) each reading less the sweep; `sure` (n,) standard deviation of `error`, mm. `step` is the number of the
    first reading from which on all are off by one same amount, and that amount, mm; it is part of the sweep."""

    out: tuple[int, ...]
    sweep: Array
    error: Array
    sure: Array
    step: tuple[int, float] | None = None


def judge_row(places: Array, values: Array, noise: float, sweep: float = SWEEP_MM, *, steps: bool = False) -> Judged:
    """Judge readings `values` (n,) mm taken at `places` (n,) mm along the strongback; `noise` is the standard deviation
    of one reading, `sweep` that of a smooth sag. With `steps`, all readings from one on may be off together, as where a
    spacer is wrong. With fewer than four readings none is named."""
    count = len(values)
    if count == 0:
        empty = frozen(np.zeros(0))
        return Judged((), empty, empty, empty)
    smooth = _smooth(places, sweep)
    spread = smooth + noise**2 * np.eye(count)
    out, gain = _most_probable(spread, values) if count >= 4 else ((), 0.0)
    step = _step(spread, values, gain) if steps and count >= 5 else None
    if step is not None:
        off = np.where(np.arange(count) >= step[0], step[1], 0.0)
        inner = judge_row(places, values - off, noise, sweep)
        return Judged(inner.out, frozen(inner.sweep + off), inner.error, inner.sure, step)
    return _measured(out, smooth, noise, values)


def _step(spread: Array, values: Array, gain: float) -> tuple[int, float] | None:
    """The reading from which on all are off together and by how much, where that explains them better than `gain`."""
    inverse = np.linalg.inv(spread)
    ups = np.triu(np.ones((len(values), len(values))))[2:-1]  # each row: off from its own number on
    block = np.einsum("ki,ij,kj->k", ups, inverse, ups)
    own = ups @ inverse @ values
    gains = 0.5 * own**2 / (block + 1 / FAULT_MM**2) - 0.5 * np.log1p(block * FAULT_MM**2)
    gains += np.log(RARE / len(values))
    best: tuple[int, float] | None = None
    for k in np.argsort(-gains)[:LIKELY_STEPS].tolist():  # a mold that is out besides may blur where the step is
        size = float(own[k] / (block[k] + 1 / FAULT_MM**2))
        both = float(gains[k]) + _most_probable(spread, values - size * ups[k])[1]
        if both > max(gain, 0.0) and gains[k] > 0:
            best, gain = (k + 2, size), both
    return best


def _smooth(places: Array, sweep: float) -> Array:
    """Covariance (n, n) of the datum: level, slope and sweep."""
    length = max(float(np.ptp(places)), 1.0)
    t = (places - places.mean()) / length
    apart = (t[:, None] - t[None, :]) / SMOOTH_SHARE
    result: Array = DATUM_MM**2 * (1.0 + 4.0 * np.outer(t, t)) + sweep**2 * np.exp(-0.5 * apart**2)
    return result


def _most_probable(spread: Array, values: Array) -> tuple[tuple[int, ...], float]:
    """The set of readings whose own errors make all of them most probable, and the logarithm of by how much."""
    inverse: Array = np.linalg.inv(spread).astype(np.float64)
    pull: Array = inverse @ values
    best: tuple[int, ...] = ()
    gain = 0.0
    for size in range(1, min(EXACT, len(values) - 3) + 1):
        sets = _every_set(len(values), size)
        gains = _gains(inverse, pull, sets)
        k = int(np.argmax(gains))
        if gains[k] > gain:
            gain, best = float(gains[k]), tuple(sets[k].tolist())
    while best and len(best) >= EXACT and len(best) < min(MOST, len(values) - 3):
        sets = np.array([sorted((*best, k)) for k in range(len(values)) if k not in best])
        gains = _gains(inverse, pull, sets)
        k = int(np.argmax(gains))
        if gains[k] <= gain:
            break
        gain, best = float(gains[k]), tuple(sets[k].tolist())
    return best, gain


@lru_cache(maxsize=64)
def _every_set(count: int, size: int) -> NDArray[np.intp]:
    sets = np.array(list(combinations(range(count), size)), dtype=np.intp)
    sets.flags.writeable = False
    return sets


def _gains(inverse: Array, pull: Array, sets: NDArray[np.intp]) -> Array:
    """By how much each set (m, k) of own errors raises the logarithm of the probability over that of no error.

    With D the readings of a set and an own error of variance f² on each, the inverse of the changed covariance follows
    from the k by k matrix I / f² + inverse[D, D] alone (Sherman, Morrison and Woodbury).
    """
    size = sets.shape[1]
    block = inverse[sets[:, :, None], sets[:, None, :]] + np.eye(size) / FAULT_MM**2
    own = pull[sets]
    gains = np.full(len(sets), size * np.log(RARE / (1 - RARE)))
    for k in range(size):  # elimination of all the small blocks at once: the pivots give fit and determinant
        pivot = block[:, k, k]
        gains += 0.5 * own[:, k] ** 2 / pivot - 0.5 * np.log(pivot * FAULT_MM**2)
        share = block[:, k + 1 :, k] / pivot[:, None]
        block[:, k + 1 :, k + 1 :] -= share[:, :, None] * block[:, None, k, k + 1 :]
        own[:, k + 1 :] -= share * own[:, k : k + 1]
    return gains


def _measured(out: tuple[int, ...], smooth: Array, noise: float, values: Array) -> Judged:
    """The datum from the readings that are not out, and what each reading differs from it."""
    kept = np.array([k for k in range(len(values)) if k not in out])
    inner = smooth[np.ix_(kept, kept)] + noise**2 * np.eye(len(kept))
    weights = np.linalg.solve(inner, smooth[kept])
    sweep = weights.T @ values[kept]
    left = np.diag(smooth) - np.einsum("ij,ij->j", smooth[kept], weights)
    sure = np.sqrt(np.maximum(left, 0.0) + noise**2)
    return Judged(out, frozen(sweep), frozen(values - sweep), frozen(sure))
