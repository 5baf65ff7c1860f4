"""One step of the classical Runge-Kutta method of fourth order (any textbook of numerical analysis)."""

from __future__ import annotations

from collections.abc import Callable

from .arrays import Array


def stepped(rates: Callable[[float, Array], Array], t: float, y: Array, h: float, first: Array | None = None) -> Array:
    """The state `y` (any shape, any units) at t + h, where `rates(t, y)` tells how it changes; `first` are the rates at the start,
    where they are known already. The error of a step is of the order h⁵."""
    a = rates(t, y) if first is None else first
    b = rates(t + h / 2, y + h / 2 * a)
    c = rates(t + h / 2, y + h / 2 * b)
    d = rates(t + h, y + h * c)
    result: Array = y + h / 6 * (a + 2 * b + 2 * c + d)
    return result
