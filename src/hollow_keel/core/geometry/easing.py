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
