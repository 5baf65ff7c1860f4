"""A smooth way from nothing to all."""

from __future__ import annotations

from .arrays import Array


def eased(t: Array) -> Array:
    """From 0 to 1 as t (any shape) goes there, level and without bend at both ends: the least polynomial of that kind."""
    result: Array = t**3 * (10 - 15 * t + 6 * t * t)
    return result


def smooth(t: Array) -> Array:
    """From 0 to 1 as t (any shape) goes there, level at both ends: the least polynomial of that kind."""
    result: Array = t * t * (3 - 2 * t)
    return result
