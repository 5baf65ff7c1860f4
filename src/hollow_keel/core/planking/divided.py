"""Courses whose edges divide the girth: the same number of strips everywhere, or full width amidships and tapered beyond.

Distances are measured over the surface's own cross lines (u constant), which always run from one lengthwise edge to the
other; a plane station forward of the forefoot has next to no girth. What is measured is the width square to the surface's
lengthwise lines, which the edges follow closely: the width that a strip is cut to.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array
from ..geometry.easing import eased
from ..geometry.front import Front, front_along
from ..geometry.surface import TensorSurface, cross
from ..geometry.surface_line import SurfaceLine
from ..rules import EASED, FADES, LEAST_SHARE, LEVEL_SHARE, ROOM_TO_TAPER
from .limits import Limit

ALONG, ACROSS = 161, 96
LEAST_GIRTH = 0.02
"""A girth of so small a share of the greatest is none."""
FULL_GIRTH = 0.9


NO_TAPER_MM = 0.01
SOFT = 0.08
"""How smoothly a strip comes down to its least width, as a share of what it tapers by."""


@dataclass(frozen=True)
class CrossLines:
    """The cross lines of a panel between a guide and the limit its strips run to: at each u (n,) the girth between them, square to
    the lengthwise lines, and v at any distance from the guide."""

    u: Array
    girth: Array
    _v: Array
    _run: Array
    _speed: Array

    @classmethod
    def between(cls, surface: TensorSurface, guide: SurfaceLine, far: Limit, upward: bool) -> CrossLines:
        """Measure them; `guide` is asked at rising u over 0..1. Where the limit lies behind the guide there is no girth."""
        u = np.linspace(0.0, 1.0, ALONG)
        start = np.interp(u, guide.u, guide.v)
        stop = np.maximum(far.at(u), start) if upward else np.minimum(far.at(u), start)
        share = np.linspace(0.0, 1.0, 2 * ACROSS + 1)
        v = start[:, None] + (stop - start)[:, None] * share
        jet = surface.jet(np.repeat(u, len(share)), v.ravel())
        square = np.linalg.norm(cross(jet.du, jet.dv), axis=1) / np.linalg.norm(jet.du, axis=1)
        speed = square.reshape(v.shape) * np.abs(stop - start)[:, None]
        cell = (speed[:, :-2:2] + 4 * speed[:, 1::2] + speed[:, 2::2]) / 6 / ACROSS  # Simpson's rule
        run = np.concatenate([np.zeros((len(u), 1)), np.cumsum(cell, axis=1)], axis=1)
        return cls(u, run[:, -1], v[:, ::2], run, speed[:, ::2] / ACROSS)

    def at(self, distance: Array) -> Array:
        """v at a distance, mm (n,), from the guide along each cross line; beyond the limit the line runs on evenly."""
        rows = np.arange(len(self.u))
        k = np.clip((self._run <= distance[:, None]).sum(axis=1) - 1, 0, ACROSS - 1)
        a, b = self._run[rows, k], self._run[rows, k + 1]
        sa, sb = self._speed[rows, k], self._speed[rows, k + 1]
        t = np.clip((distance - a) / np.maximum(b - a, 1e-12), 0.0, 1.0)
        for _ in range(5):
            value = a + (b - a) * t * t * (3 - 2 * t) + sa * t * (1 - t) ** 2 - sb * t * t * (1 - t)
            rate = 6 * (b - a) * t * (1 - t) + sa * (1 - t) * (1 - 3 * t) - sb * t * (2 - 3 * t)
            t = np.clip(t - (value - distance) / np.maximum(rate, 1e-9), 0.0, 1.0)
        over = np.maximum(distance - self.girth, 0.0) / np.maximum(sb, 1e-9)
        result: Array = self._v[rows, k] + (self._v[rows, k + 1] - self._v[rows, k]) * (t + over)
        return result


@dataclass(frozen=True)
class Division:
    """Distances of edges from the guide along every cross line, (count + 1, n), the widest each strip is (count,), and the numbers
    of strips that come to nothing before an end."""

    edges: Array
    widest: Array
    dropped: tuple[int, ...]


def tapered(lines: CrossLines, width: float, least: float) -> Division:
    """Every girth divided into as many parts, no wider than `width` mm, as the greatest needs; where they would be narrower than
    `least` mm some strips fade out and leave their room to the others. Raises ImpossiblePlan where no strip may be so wide."""
    _check_room(width, least)
    count = max(1, math.ceil(float(lines.girth.max()) / width - 1e-9))
    shares = np.ones((count, len(lines.u)))
    dropped: set[int] = set()
    middle = int(np.argmax(lines.girth))
    for end, walk in ((0, range(middle, -1, -1)), (len(lines.u) - 1, range(middle, len(lines.u)))):
        kept = max(1, int(float(lines.girth[end]) / least))
        if kept >= count:
            continue
        own = _evenly(count, count - kept)
        dropped.update(k + 1 for k in own)
        thin = next((i for i in walk if lines.girth[i] / count < least), end)
        reach = FADES * (lines.u[end] - lines.u[thin])
        start, stop = lines.u[thin] - reach, lines.u[thin] + reach
        t = np.clip((lines.u - start) / (stop - start), 0.0, 1.0) if stop != start else np.zeros(len(lines.u))
        faded = 1 - eased(t)
        needed = np.clip((lines.girth / width - (count - len(own))) / len(own), 0.0, 1.0)
        shares[own] *= np.maximum(faded, needed)  # no earlier than the others can do without them
    widths = lines.girth * shares / shares.sum(axis=0)
    edges = np.concatenate([np.zeros((1, len(lines.u))), np.cumsum(widths, axis=0)])
    return Division(edges, widths.max(axis=1), tuple(sorted(dropped)))


def mixed(lines: CrossLines, first: float | None, last: float | None) -> Array:
    """The share of its full width that a strip has at each cross line, (n,): all of it between two places 0..1 along the hull
    (None: where the girth is at least nine tenths of the greatest), and beyond them less as the girth is. Raises
    ImpossiblePlan."""
    girth = lines.girth
    full = lines.u[girth >= FULL_GIRTH * girth.max()]
    first = float(full[0]) if first is None else first
    last = float(full[-1]) if last is None else last
    if first >= last:
        raise ImpossiblePlan(
            "The stations between which strips keep their full width are the wrong way round, or off the hull."
        )
    factor = np.ones(len(lines.u))
    for place, end in ((first, 0.0), (last, 1.0)):
        whole = float(np.interp(place, lines.u, girth))
        if whole < LEAST_GIRTH * float(girth.max()):
            raise ImpossiblePlan(
                "There is next to nothing to plank at one of the stations between which strips keep their full width: "
                "choose others, or another guide."
            )
        beyond = (lines.u - place) * np.sign(end - place) if place != end else np.zeros(len(lines.u))
        t = np.clip(beyond / min(EASED, max(abs(end - place), 1e-9)), 0.0, 1.0)
        factor *= 1 - eased(t) * (1 - np.minimum(girth / whole, 1.0))
    return np.maximum(factor, LEAST_SHARE)


@dataclass(frozen=True)
class FewTapered:
    """`count` strips after the `first` ones taper: at places `u` (n,) along the hull they keep a `share` (n,) of their width."""

    first: int
    count: int
    u: Array
    share: Array


def few_tapered(lines: CrossLines, width: float, least: float) -> FewTapered | None:
    """The fewest strips tapered between `least` and `width` mm, half-way, past which the run is level with the limit over most of
    the hull; where not even a third of all would bring that about, a third. None where the run is level by itself. Raises
    ImpossiblePlan."""
    _check_room(width, least)
    girth = lines.girth
    count = max(1, math.ceil(float(girth.max()) / width - 1e-9))
    short = girth.max() - girth
    most = max(1, count // 3)
    own, many = np.full(len(lines.u), width), 0
    for many in range(1, most + 1):
        own = _no_less(width - short / many, least, SOFT * (width - least))
        level = short - many * (width - own) < width / 2
        if float(np.mean(level)) >= LEVEL_SHARE:
            break
    if float(np.ptp(own)) < NO_TAPER_MM:
        return None
    return FewTapered((count - many) // 2, many, lines.u, np.minimum(own / width, 1.0))


def _no_less(values: Array, least: float, soft: float) -> Array:
    """Values kept above a least one, bending over smoothly: a strip has no corners."""
    result: Array = least + soft * np.logaddexp(0.0, (values - least) / soft)
    return result


def _check_room(width: float, least: float) -> None:
    if least > ROOM_TO_TAPER * width:
        raise ImpossiblePlan(
            f"The least width ({mm(least)}) leaves a strip of {mm(width)} no room to taper: allow narrower ends."
        )


def _evenly(count: int, chosen: int) -> list[int]:
    """`chosen` numbers out of 0 … count - 1, spread evenly and clear of both edges where there is room."""
    return sorted({min(count - 1, int((k + 0.5) * count / chosen)) for k in range(chosen)})


def division_front(surface: TensorSurface, lines: CrossLines, distance: Array, upward: bool) -> Front:
    """An edge of a division, `distance` (n,) mm from the guide, as a front over the n cross lines."""
    line = SurfaceLine.through(lines.u, lines.at(distance), lines.u)
    return front_along(surface, line, float(distance.max()), upward=upward)
