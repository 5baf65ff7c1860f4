"""Symmetric four-digit foil sections for the edges of keels and skegs.

Source: I. H. Abbott and A. E. von Doenhoff, Theory of Wing Sections (thickness distribution of the four-digit sections).
"""

from __future__ import annotations

import numpy as np

from ..errors import InputError
from ..findings import mm
from ..geometry.arrays import Array
from ..rules import FOIL

THINNEST, THICKEST = 0.02, 0.4
POINTS = 121


def half_thickness(chord: float, thickness: float, x: Array) -> Array:
    """Half the thickness at distances `x` (n,) from the leading edge; all mm. Its trailing edge is not quite sharp.

    Raises InputError for a section that is no foil.
    """
    if not chord > 0 or not THINNEST <= thickness / chord <= THICKEST:
        raise InputError(
            "this is no foil",
            value=f"{mm(thickness)} thick on {mm(chord)} of chord",
            mend=f"Give a thickness between {THINNEST:.0%} and {THICKEST:.0%} of the chord.",
        )
    s = np.clip(x / chord, 0.0, 1.0)
    a, b, c, d, e = FOIL
    result: Array = 5 * thickness * (a * np.sqrt(s) + b * s + c * s**2 + d * s**3 + e * s**4)
    return result


def foil_section(chord: float, thickness: float) -> Array:
    """The closed outline (n, 2) from the trailing edge over the upper side, round the nose and back; mm from the
    leading edge and from the centreline. Points crowd at the nose."""
    x = chord * (1 - np.cos(np.linspace(0, np.pi, POINTS))) / 2
    y = half_thickness(chord, thickness, x)
    upper = np.column_stack([x, y])[::-1]
    lower = np.column_stack([x, -y])[1:]
    return np.concatenate([upper, lower])


def leading_radius(chord: float, thickness: float) -> float:
    """Radius of the nose, mm: 1.1019 t² c with t the share of the chord."""
    return 1.1019 * (thickness / chord) ** 2 * chord
