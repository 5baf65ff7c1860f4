"""A smooth way from nothing to all."""

from __future__ import annotations

import numpy as np

from .arrays import Array


def eased(t: Array) -> Array:
    """From 0 to 1 as t (any shape) goes there, level and without bend at both ends: the least polynomial of that kind."""
    result: Array = t**3 * (10 - 15 * t + 6 * t * t)
    return result


def eased_anywhere(t: Array) -> Array:
    """`eased` of t (any shape), level beyond both ends."""
    return eased(np.clip(t, 0.0, 1.0))


def smooth(t: Array) -> Array:
    """From 0 to 1 as t (any shape) goes there, level at both ends: the least polynomial of that kind."""
    result: Array = t * t * (3 - 2 * t)
    return result


def no_less(values: Array, least: float, soft: float) -> Array:
    """Values (any shape and unit) kept above a least one, bending over smoothly within about `soft` of it."""
    result: Array = least + soft * np.logaddexp(0.0, (values - least) / max(soft, 1e-12))
    return result


def greater(one: Array, other: Array, soft: float) -> Array:
    """The greater of two values (any shape and unit), neither less than nothing, passing smoothly from one to the other within
    about so great a share, `soft`, of them; never less than either."""
    most = np.maximum(np.maximum(one, other), 0.0)
    within = np.maximum(soft * most, 1e-12)
    result: Array = most + within / 6 * np.clip(1 - np.abs(one - other) / within, 0.0, None) ** 3
    return result
