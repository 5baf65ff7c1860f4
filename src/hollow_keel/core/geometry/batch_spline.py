"""Many cubic splines at once: rows of points over rows of knots, with not-a-knot ends.

The same curves as scipy.interpolate.CubicSpline makes one at a time; a hull needs some sixty of them
after every edit, and their set-up, not their arithmetic, is what takes time.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from .arrays import Array, frozen


def sample_splines(knots: Array, values: Array, even: Array) -> Array:
    """Evaluate splines with `knots` (b, n) rising from 0 to 1 and `values` (b, n, d) at `even` (m,); (b, m, d).

    Two knots give straight lines and three parabolas. Raises numpy.linalg.LinAlgError for knots that coincide.
    """
    steps = np.diff(knots, axis=1)
    rises = np.diff(values, axis=1) / steps[..., None]
    slopes = spline_slopes(steps, rises)
    cell = np.stack([np.clip(np.searchsorted(row, even, side="right") - 1, 0, row.size - 2) for row in knots])
    rows = np.arange(len(knots))[:, None]
    h = steps[rows, cell][..., None]
    t = (even[None, :, None] - knots[rows, cell][..., None]) / h
    low, high = values[rows, cell], values[rows, cell + 1]
    result: Array = (
        (1 + 2 * t) * (1 - t) ** 2 * low
        + t * (1 - t) ** 2 * h * slopes[rows, cell]
        + t * t * (3 - 2 * t) * high
        - t * t * (1 - t) * h * slopes[rows, cell + 1]
    )
    return result


def spline_slopes(steps: Array, rises: Array) -> Array:
    """First derivatives at the knots, (b, n, d): continuous second derivatives, not-a-knot ends.

    `steps` (b, n - 1) between knots, `rises` (b, n - 1, d) per unit. Two knots give a straight line, three a parabola.
    """
    count, n = steps.shape[0], steps.shape[1] + 1
    if n == 2:
        return np.repeat(rises, 2, axis=1)
    if n == 3:
        bend = np.diff(rises, axis=1) / steps.sum(axis=1)[:, None, None]
        first, last = rises[:, :1] - bend * steps[:, :1, None], rises[:, 1:] + bend * steps[:, 1:, None]
        return np.concatenate([first, rises[:, :1] + bend * steps[:, :1, None], last], axis=1)
    matrix = np.zeros((count, n, n))
    right = np.zeros((count, n, rises.shape[2]))
    inner = np.arange(1, n - 1)
    before, after = steps[:, :-1], steps[:, 1:]
    matrix[:, inner, inner - 1] = after
    matrix[:, inner, inner] = 2 * (before + after)
    matrix[:, inner, inner + 1] = before
    right[:, 1:-1] = 3 * (after[..., None] * rises[:, :-1] + before[..., None] * rises[:, 1:])
    for end, a, b, first, second in ((0, 0, 1, 0, 1), (n - 1, -1, -2, n - 1, n - 2)):
        near, next_ = steps[:, a], steps[:, b]
        both = near + next_
        matrix[:, end, first] = next_
        matrix[:, end, second] = both
        right[:, end] = (((near + 2 * both) * next_)[:, None] * rises[:, a] + (near**2)[:, None] * rises[:, b]) / both[:, None]
    result: Array = np.linalg.solve(matrix, right)
    return result


@lru_cache(maxsize=16)
def even_spline_slopes(n: int) -> Array:
    """The matrix (n, n) that takes values at n even knots over 0..1 to the not-a-knot spline's slopes there."""
    steps = np.full((1, n - 1), 1 / (n - 1))
    return frozen(spline_slopes(steps, np.diff(np.eye(n), axis=0)[None] * (n - 1))[0])


def even_slopes(values: Array, span: float) -> Array:
    """Slopes (k, n) of the not-a-knot splines through rows of values (k, n) at even knots over a `span`, per unit of it."""
    result: Array = values @ even_spline_slopes(values.shape[1]).T / span
    return result


def cubic_pieces(knots: Array, values: Array) -> Array:
    """Coefficients (4, n - 1, d), highest power first, of the cubics over rising `knots` (n,), n > 3, through `values` (n, d): as
    scipy.interpolate.CubicSpline makes them, in a tenth of the time for the hundred knots of a front."""
    from scipy.linalg import solve_banded

    steps = np.diff(knots)
    rises = np.diff(values, axis=0) / steps[:, None]
    bands, right = np.zeros((3, len(knots))), np.empty_like(values)
    before, after = steps[:-1], steps[1:]
    bands[0, 2:], bands[1, 1:-1], bands[2, :-2] = before, 2 * (before + after), after
    right[1:-1] = 3 * (after[:, None] * rises[:-1] + before[:, None] * rises[1:])
    for end, near, next_, a, b in ((0, steps[0], steps[1], 0, 1), (-1, steps[-1], steps[-2], -1, -2)):
        both = near + next_
        bands[1, end] = next_
        right[end] = ((near + 2 * both) * next_ * rises[a] + near**2 * rises[b]) / both
    bands[0, 1], bands[2, -2] = steps[0] + steps[1], steps[-1] + steps[-2]
    slopes = solve_banded((1, 1), bands, right, check_finite=False)
    h = steps[:, None]
    result = np.empty((4, len(steps), values.shape[1]))
    result[3], result[2] = values[:-1], slopes[:-1]
    result[1] = (3 * rises - 2 * slopes[:-1] - slopes[1:]) / h
    result[0] = (slopes[:-1] + slopes[1:] - 2 * rises) / (h * h)
    return result
