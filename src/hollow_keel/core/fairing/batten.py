"""A batten sprung through ducks: the elastic curve, its curvature, where it turns from hollow to round.

For small slopes a springy batten takes the shape of least bending energy: the natural cubic spline
through ducks that hold it, and the natural cubic smoothing spline where ducks give way. Source: any
text on splines (natural cubic spline; smoothing splines, de Boor, A Practical Guide to Splines; from memory).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray, frozen

SAMPLES = 241
FLAT = 0.02
"""Share of a line's greatest curvature below which it counts as straight."""


@dataclass(frozen=True)
class Sprung:
    """A batten as it lies. `at` (n,) places along the line, `value` (n,) mm, `curvature` (n,) 1/mm (positive where
    it turns upward); `on_ducks` (k,) where it lies at every duck; `turns` places where it turns from hollow
    to round or back."""

    at: Array
    value: Array
    curvature: Array
    on_ducks: Array
    turns: tuple[float, ...]


def spring(at: Array, values: Array, held: BoolArray, give: float = 0.0) -> Sprung:
    """The shape of a batten past ducks at places `at` (k,), rising, that stand at `values` (k,) mm.

    Only `held` ducks touch it; at least two must. `give` is how far, in mm, it lifts off the ducks on the
    whole (root mean square): 0 for one that touches every held duck. Raises ValueError for fewer than two.
    """
    if int(held.sum()) < 2:
        raise ValueError("a batten needs at least two ducks")
    curve = _curve(at[held], values[held], give)
    dense = np.linspace(at[0], at[-1], SAMPLES)
    slope, bend = curve(dense, 1), curve(dense, 2)
    curvature = bend / (1 + slope**2) ** 1.5
    return Sprung(frozen(dense), frozen(curve(dense)), frozen(curvature), frozen(curve(at)), _turns(dense, curvature))


def bending(at: Array, values: Array) -> float:
    """Bending energy ∫ q″² dx of the batten through all ducks at (n,) with values (n,), mm, per unit stiffness, 1/mm."""
    sprung = spring(at, values, np.ones(len(at), dtype=bool))
    return float(np.trapezoid(sprung.curvature**2, sprung.at))


def _curve(at: Array, values: Array, give: float) -> Callable[..., Array]:
    if len(at) == 2:
        slope = (values[1] - values[0]) / (at[1] - at[0])
        return lambda t, order=0: values[0] + slope * (t - at[0]) if order == 0 else np.full_like(t, slope if order == 1 else 0.0)
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    through: Callable[..., Array] = CubicSpline(at, values, bc_type="natural")
    if give <= 0 or len(at) < 5:
        return through
    return _giving(at, values, give)


def _giving(at: Array, values: Array, give: float) -> Callable[..., Array]:
    """The smoothing spline whose root mean square distance from the ducks is `give`, or a straight line if none is so far."""
    from scipy.interpolate import make_smoothing_spline

    span = at[-1] - at[0]
    t = (at - at[0]) / span  # the penalty's size must not depend on the unit

    def off(log: float) -> float:
        curve = make_smoothing_spline(t, values, lam=10.0**log)
        return float(np.sqrt(np.mean((curve(t) - values) ** 2))) - give

    low, high = -12.0, 2.0
    if off(high) < 0:
        low = high
    for _ in range(40):
        middle = (low + high) / 2
        if off(middle) < 0:
            low = middle
        else:
            high = middle
    curve = make_smoothing_spline(t, values, lam=10.0**low)
    return lambda x, order=0: curve((x - at[0]) / span, nu=order) / span**order


def _turns(at: Array, curvature: Array) -> tuple[float, ...]:
    floor = FLAT * float(np.abs(curvature).max(initial=0.0))
    strong = np.flatnonzero(np.abs(curvature) > max(floor, 1e-12))
    return tuple(
        float((at[a] + at[b]) / 2) for a, b in zip(strong[:-1], strong[1:], strict=True) if curvature[a] * curvature[b] < 0
    )
