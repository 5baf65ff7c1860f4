"""Places on a picture of a lines plan, by marks whose places on the hull are known.

The simplest map that the marks agree with is taken: turned and scaled; stretched or askew besides, as copies are; seen aslant, as
photographs are.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..errors import InputError
from ..geometry.arrays import Array

LEAST_PIXELS = 20.0
LEAST_MM = 1.0
SKEW = math.radians(3.0)
"""Marks on a sheet turned by more than this were likely taken in the wrong place."""
AGREE_PIXELS = 2.0
"""A mark is clicked no closer than this: a map that misses all of them by no more is taken."""
IN_LINE = 0.02
"""Marks that lie within this share of their spread of one line tell nothing across it."""


@dataclass(frozen=True)
class KnownPoint:
    """A point of the picture (pixels, x right, y down) and what it stands for (mm, across and up)."""

    pixel: tuple[float, float]
    mm: tuple[float, float]


@dataclass(frozen=True)
class Calibration:
    """From pixels to mm by a projective map (3, 3) of (x right, y up, 1); `misses` is how far it puts each mark off its place, mm.
    A mirrored view has its bow to the right."""

    matrix: Array
    misses: tuple[float, ...]
    about: tuple[float, float]
    """The middle of the marks, pixels."""

    def place(self, x: float, y: float) -> tuple[float, float]:
        """(across, up) in mm of a pixel (x right, y down)."""
        across, up = _placed(self.matrix, np.array([[x, -y]]))[0].tolist()
        return across, up

    @property
    def _steps(self) -> Array:
        """What one pixel to the right and one up are amid the marks, mm: the columns of (2, 2)."""
        x, y = self.about
        middle, right, above = _placed(self.matrix, np.array([[x, -y], [x + 1, -y], [x, 1 - y]]))
        return np.column_stack([right - middle, above - middle])

    @property
    def mirrored(self) -> bool:
        """Whether right and left are exchanged."""
        return bool(np.linalg.det(self._steps) < 0)

    @property
    def mm_per_pixel(self) -> float:
        """How much one pixel is amid the marks: no point can be read closer."""
        return math.sqrt(abs(float(np.linalg.det(self._steps))))

    @property
    def turned(self) -> float:
        """By how much the picture is turned, radians."""
        across, up = (self._steps[:, 0] * (-1 if self.mirrored else 1)).tolist()
        return math.atan2(up, across)

    @property
    def off_pixels(self) -> float:
        """How far the worst mark is off, pixels."""
        return max(self.misses) / self.mm_per_pixel


def calibrate(*marks: KnownPoint) -> Calibration:
    """The calibration through two marks or more. With two the picture is taken as mirrored where that turns it less.

    Raises InputError for marks too near to each other, or that fit no straight picture.
    """
    pixels = np.array([(m.pixel[0], -m.pixel[1]) for m in marks], dtype=np.float64).reshape(-1, 2)
    places = np.array([m.mm for m in marks], dtype=np.float64).reshape(-1, 2)
    if len(marks) < 2 or _spread(pixels) < LEAST_PIXELS or _spread(places) < LEAST_MM:
        raise InputError(
            "the two marks are too near to each other",
            value=f"{_spread(pixels):.0f} pixels apart",
            mend="Take two places far apart whose measures you know, best corners of the grid.",
        )
    ways: list[Callable[[Array, Array], Array]] = [_similar]
    if len(marks) >= 3 and not _in_line(pixels) and not _in_line(places):
        ways.append(_affine)
        if len(marks) >= 4:
            ways.append(_projective)
    x, y = pixels.mean(axis=0).tolist()
    for way in ways:
        matrix = way(pixels, places)
        off = np.linalg.norm(_placed(matrix, pixels) - places, axis=1)
        found = Calibration(matrix, tuple(off.tolist()), (x, -y))
        if found.off_pixels <= AGREE_PIXELS:
            break
    return found


def _placed(matrix: Array, points: Array) -> Array:
    moved = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    result: Array = moved[:, :2] / moved[:, 2:]
    return result


def _spread(points: Array) -> float:
    """The greatest extent of points in a direction of the axes, or aslant."""
    return float(np.linalg.norm(np.ptp(points, axis=0))) if len(points) else 0.0


def _in_line(points: Array) -> bool:
    sizes = np.linalg.svd(points - points.mean(axis=0), compute_uv=False)
    return bool(sizes[1] < IN_LINE * sizes[0])


def _similar(pixels: Array, places: Array) -> Array:
    """Turned, scaled and moved, or that of the mirror image, by least squares."""
    wanted = places[:, 0] + 1j * places[:, 1]
    found: list[tuple[float, float, Array]] = []
    for side in (1.0, -1.0):
        at = side * pixels[:, 0] + 1j * pixels[:, 1]
        equations = np.column_stack([at, np.ones(len(at))])
        (factor, shift), *_ = np.linalg.lstsq(equations, wanted, rcond=None)
        a, b = float(factor.real), float(factor.imag)
        matrix = np.array([[side * a, -b, shift.real], [side * b, a, shift.imag], [0.0, 0.0, 1.0]])
        miss = float(np.abs(equations @ [factor, shift] - wanted).max())
        found.append((miss if len(pixels) > 2 else 0.0, abs(math.atan2(b, a)), matrix))
    return min(found, key=lambda one: one[:2])[2]


def _affine(pixels: Array, places: Array) -> Array:
    """Stretched and askew besides, by least squares."""
    fit, *_ = np.linalg.lstsq(np.column_stack([pixels, np.ones(len(pixels))]), places, rcond=None)
    return np.vstack([fit.T, [0.0, 0.0, 1.0]])


def _projective(pixels: Array, places: Array) -> Array:
    """Seen aslant: the direct linear transformation of points brought to like size (R. Hartley, A. Zisserman, *Multiple View
    Geometry*, 2nd edition, algorithm 4.2; from memory)."""
    a, b = _sized(pixels), _sized(places)
    p, q = _placed(a, pixels), _placed(b, places)
    one, none = np.ones(len(p)), np.zeros((len(p), 3))
    own = np.column_stack([p, one])
    rows = np.vstack([np.hstack([own, none, -q[:, :1] * own]), np.hstack([none, own, -q[:, 1:] * own])])
    fit = np.linalg.svd(rows)[2][-1].reshape(3, 3)
    result: Array = np.linalg.inv(b) @ fit @ a
    return result


def _sized(points: Array) -> Array:
    """The map (3, 3) that brings points about nothing, the usual one a unit away."""
    middle = points.mean(axis=0)
    size = float(np.linalg.norm(points - middle, axis=1).mean()) or 1.0
    return np.array([[1 / size, 0, -middle[0] / size], [0, 1 / size, -middle[1] / size], [0, 0, 1.0]])
