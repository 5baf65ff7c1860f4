"""Places on a picture of a lines plan, by two marks whose places on the hull are known."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import InputError

LEAST_PIXELS = 20.0
LEAST_MM = 1.0
SKEW = math.radians(3.0)
"""Marks on a sheet turned by more than this were likely taken in the wrong place."""


@dataclass(frozen=True)
class KnownPoint:
    """A point of the picture (pixels, x right, y down) and what it stands for (mm, across and up)."""

    pixel: tuple[float, float]
    mm: tuple[float, float]


@dataclass(frozen=True)
class Calibration:
    """From pixels to mm: turn and scale by a complex factor, then shift. A mirrored view has its bow to the right."""

    factor: complex
    shift: complex
    mirrored: bool

    def place(self, x: float, y: float) -> tuple[float, float]:
        """(across, up) in mm of a pixel (x right, y down)."""
        at = complex(-x if self.mirrored else x, -y) * self.factor + self.shift
        return at.real, at.imag

    @property
    def mm_per_pixel(self) -> float:
        """How much one pixel is: no point can be read closer."""
        return abs(self.factor)

    @property
    def turned(self) -> float:
        """By how much the picture is turned, radians."""
        return math.atan2(self.factor.imag, self.factor.real)


def calibrate(first: KnownPoint, second: KnownPoint) -> Calibration:
    """The calibration through two marks. The picture is taken as mirrored where that turns it less.

    Raises InputError for marks too near to each other, or that fit no straight picture.
    """
    pixels = math.dist(first.pixel, second.pixel)
    if pixels < LEAST_PIXELS or math.dist(first.mm, second.mm) < LEAST_MM:
        raise InputError(
            "the two marks are too near to each other", value=f"{pixels:.0f} pixels apart",
            mend="Take two places far apart whose measures you know, best corners of the grid.",
        )  # fmt: skip
    found = [_through(first, second, mirrored) for mirrored in (False, True)]
    return min(found, key=lambda c: abs(c.turned))


def _through(first: KnownPoint, second: KnownPoint, mirrored: bool) -> Calibration:
    a, b = (complex(-m.pixel[0] if mirrored else m.pixel[0], -m.pixel[1]) for m in (first, second))
    p, q = complex(*first.mm), complex(*second.mm)
    factor = (q - p) / (b - a)
    return Calibration(factor, p - a * factor, mirrored)
