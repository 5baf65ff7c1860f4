"""A smooth field over the skin of the hull, with what each offset would be if only its neighbours spoke.

A Gaussian process over (u, v) with a quadratic mean, its two length scales and its noise found by
maximum likelihood, half-breadths and heights sharing them. Leave-one-out by the closed form
e_i = (Q y)_i / Q_ii, with variance 1 / Q_ii: Rasmussen and Williams, Gaussian Processes for Machine
Learning, section 5.4.2 (from memory).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray

LENGTHS = (0.05, 4.0)
"""Least and greatest length scale, in u and v."""
NOISES = (1e-4, 0.3)
"""Least and greatest noise, as a share of the field's own size."""

ENOUGH = 300
STARTS = ((0.3, 0.3, 1e-3), (0.2, 0.4, 5e-4), (0.6, 0.9, 2e-3))
"""Where the search begins; from one start alone it can end in a wide, noisy field."""


@dataclass(frozen=True)
class Scales:
    """Length scales along (u) and up (v) the skin, and the noise as a share of the field's size."""

    along: float
    up: float
    noise: float


@dataclass(frozen=True)
class LeftOut:
    """What each value would be without itself: `miss` (n, d) = value less prediction, `spread` (n, d) standard
    deviations of the prediction, in the values' own units."""

    miss: Array
    spread: Array


def best_scales(at: Array, values: Array, near: Scales | None = None, tick: Callable[[], None] = lambda: None) -> Scales:
    """Scales of greatest likelihood for `values` (n, d) at `at` (n, 2); of very many, an even choice is asked.

    `near` are scales that were best for nearly the same values: the search then begins only there.
    `tick` is called every few milliseconds and may raise to cancel.
    """
    from scipy.optimize import minimize  # loads slowly: not before it is needed

    stride = -(-len(at) // ENOUGH)
    at, values = at[::stride], values[::stride]
    low = np.log([LENGTHS[0], LENGTHS[0], NOISES[0]])
    high = np.log([LENGTHS[1], LENGTHS[1], NOISES[1]])
    basis = _basis(at)
    gaps = _gaps(at)

    def cost(logs: Array) -> tuple[float, Array]:
        tick()
        return _unlikelihood(gaps, basis, values, logs)

    tries = [
        minimize(
            cost,
            np.log(start),
            jac=True,
            method="L-BFGS-B",
            bounds=list(zip(low, high, strict=True)),
            options={"maxiter": 40, "ftol": 1e-5},
        )
        for start in ([(near.along, near.up, near.noise)] if near else STARTS)
    ]
    found = min(tries, key=lambda t: float(t.fun))
    along, up, noise = np.exp(found.x).tolist()
    return Scales(along, up, noise)


def leave_one_out(at: Array, values: Array, scales: Scales) -> LeftOut:
    """Predict every value from all the others; places `at` (n, 2), mm of their plane, `values` (n, d) of any one unit, n > 6."""
    basis = _basis(at)
    q, weighted = _projected(_gaps(at), basis, values, scales)
    degrees = max(len(at) - basis.shape[1], 1)
    size = np.maximum(np.einsum("nd,nd->d", values, weighted), 0.0) / degrees
    diagonal = np.diag(q)[:, None]
    return LeftOut(weighted / diagonal, np.sqrt(size[None, :] / diagonal))


def smoothed(at: Array, values: Array, scales: Scales, trusted: BoolArray) -> Array:
    """The field at its own places, (n, d) in the unit of `values`: `trusted` values (n,) are taken as they are, the others as
    noisy."""
    cov = _kernel(*_gaps(at), scales)
    noise = np.where(trusted, 0.03 * scales.noise, scales.noise) ** 2 + 1e-10
    cov[np.diag_indices_from(cov)] += noise
    basis = _basis(at)
    _, solve = _cholesky(cov)
    against = solve(basis)
    trend = np.linalg.solve(basis.T @ against, against.T @ values)
    result: Array = values - noise[:, None] * solve(values - basis @ trend)
    return result


def _cholesky(cov: Array) -> tuple[Array, Callable[[Array], Array]]:
    """The lower factor of a covariance, and what solves with it."""
    from scipy.linalg import cho_factor, cho_solve  # loads slowly: not before it is needed

    factor = cho_factor(cov, lower=True)
    return factor[0], lambda right: cho_solve(factor, right)


def _basis(at: Array) -> Array:
    u, v = at[:, 0] - 0.5, at[:, 1] - 0.5
    if np.ptp(v) == 0:  # a line, not a skin
        return np.column_stack([np.ones_like(u), u, u * u])
    return np.column_stack([np.ones_like(u), u, v, u * u, u * v, v * v])


def _gaps(at: Array) -> tuple[Array, Array]:
    """Squares of the distances along and up between every two places, (n, n) each."""
    away = at[:, None, :] - at[None, :, :]
    return away[..., 0] ** 2, away[..., 1] ** 2


def _kernel(along: Array, up: Array, scales: Scales) -> Array:
    result: Array = np.exp(-0.5 * (along / scales.along**2 + up / scales.up**2))
    return result


def _correlation(gaps: tuple[Array, Array], scales: Scales) -> Array:
    cov = _kernel(*gaps, scales)
    cov[np.diag_indices_from(cov)] += scales.noise**2 + 1e-10
    return cov


def _projected(gaps: tuple[Array, Array], basis: Array, values: Array, scales: Scales) -> tuple[Array, Array]:
    """Q = C⁻¹ - C⁻¹B(BᵀC⁻¹B)⁻¹BᵀC⁻¹, which knows nothing of the quadratic mean, and Q·values."""
    inverse = _cholesky(_correlation(gaps, scales))[1](np.eye(len(basis)))
    against = inverse @ basis
    q = inverse - against @ np.linalg.solve(basis.T @ against, against.T)
    return q, q @ values


def _unlikelihood(gaps: tuple[Array, Array], basis: Array, values: Array, logs: Array) -> tuple[float, Array]:
    """Minus the restricted log likelihood, each column's size profiled out, and its slope in the logs."""
    along, up, noise = np.exp(logs)
    scales = Scales(float(along), float(up), float(noise))
    kernel = _kernel(*gaps, scales)
    cov = kernel.copy()
    cov[np.diag_indices_from(cov)] += noise**2 + 1e-10
    lower, solve = _cholesky(cov)
    inverse = solve(np.eye(len(cov)))
    against = inverse @ basis
    inner = basis.T @ against
    q = inverse - against @ np.linalg.solve(inner, against.T)
    weighted = q @ values
    squares = np.maximum(np.einsum("nd,nd->d", values, weighted), 1e-30)
    degrees, columns = len(cov) - basis.shape[1], values.shape[1]
    cost = columns * (np.log(np.diag(lower)).sum() + 0.5 * np.linalg.slogdet(inner)[1])
    cost += 0.5 * degrees * np.log(squares).sum()
    slopes = []
    for change in (kernel * gaps[0] / along**2, kernel * gaps[1] / up**2, None):
        if change is None:
            trace = 2 * noise**2 * np.trace(q)
            pull = 2 * noise**2 * np.einsum("nd,nd->d", weighted, weighted)
        else:
            trace = np.einsum("ij,ij->", q, change)
            pull = np.einsum("nd,nm,md->d", weighted, change, weighted, optimize=True)
        slopes.append(0.5 * columns * trace - 0.5 * degrees * (pull / squares).sum())
    return float(cost), np.array(slopes)
