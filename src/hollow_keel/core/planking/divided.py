"""How the way from a guide to the end of a course is divided: where each edge lies along every ray square to the guide.

An edge is told by its distance from the guide as a function of the place on the guide that it is square to. All ways of dividing
come to that: strips of one width, tapered ones that divide the girth, full ones that are tapered beyond, a few tapered ones among
others, and whatever is laid on from where the work really is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, IntArray
from ..geometry.batch_spline import even_slopes
from ..geometry.easing import eased, greater, no_less
from ..rules import EASED, FADES, LEVEL_SHARE, ROOM_TO_TAPER
from .ways import Ways

LEAST_GIRTH = 0.02
"""A girth of so small a share of the greatest is none."""
FULL_GIRTH = 0.9
NO_TAPER_MM = 0.01
ROUND = 0.8
"""Within such a share of its width a strip passes smoothly from fading as it likes to fading as the others allow."""
SOFT = 0.2
"""How smoothly a strip comes down to its least width, as a share of what it tapers by."""


@dataclass(frozen=True)
class Division:
    """Distances of `edges` (count + 1, n), mm, from the guide along the rays at even guide parameters `g` (n,); what each strip is
    milled to cover, mm (None: cut to shape); the numbers of strips that come to nothing before an end; and whether the last edge
    is the line that the course ends on."""

    g: Array
    edges: Array
    slopes: Array
    covers: tuple[float | None, ...]
    dropped: tuple[int, ...] = ()
    closed: bool = False

    @classmethod
    def through(
        cls, g: Array, edges: Array, covers: Sequence[float | None], dropped: tuple[int, ...] = (), *, closed: bool = False
    ) -> Division:
        """With edges as smooth lines through what is given at each g: distances (count + 1, n), mm, at guide parameters (n,), what
        each strip is milled to cover, mm, and the numbers of those that fade out."""
        return cls(g, edges, even_slopes(edges, float(g[-1] - g[0])), tuple(covers), dropped, closed)

    @property
    def count(self) -> int:
        """How many strips there are."""
        return len(self.edges) - 1

    @property
    def is_parallel(self) -> bool:
        """Whether every edge lies equally far from the guide everywhere."""
        return bool(np.ptp(self.edges, axis=1).max() < NO_TAPER_MM)

    def first(self, count: int) -> Division:
        """Its first strips."""
        return Division(
            self.g,
            self.edges[: count + 1],
            self.slopes[: count + 1],
            self.covers[:count],
            tuple(n for n in self.dropped if n <= count),
            self.closed and count >= self.count,
        )

    def at(self, edge: IntArray, g: Array) -> Array:
        """How far edges by their numbers (m,) lie from the guide at guide parameters (m,), mm; beyond those told as at the last."""
        cell, t, h = self._cell(g)
        a, b = self.edges[edge, cell], self.edges[edge, cell + 1]
        sa, sb = self.slopes[edge, cell] * h, self.slopes[edge, cell + 1] * h
        rest = 1 - t
        return (1 + 2 * t) * rest * rest * a + t * rest * rest * sa + t * t * (3 - 2 * t) * b - t * t * rest * sb

    def leaning(self, edge: IntArray, g: Array) -> Array:
        """How that changes there, mm per unit of g (m,)."""
        cell, t, h = self._cell(g)
        a, b = self.edges[edge, cell], self.edges[edge, cell + 1]
        sa, sb = self.slopes[edge, cell], self.slopes[edge, cell + 1]
        inside = (g >= self.g[0]) & (g <= self.g[-1])
        slope = 6 * t * (1 - t) * (b - a) / h + (1 - t) * (1 - 3 * t) * sa - t * (2 - 3 * t) * sb
        return np.where(inside, slope, 0.0)

    def number(self, distance: Array, g: Array) -> Array:
        """How many strips lie between the guide and places (m,), from their distance, mm, and guide parameter; past the last
        edge as if its strip went on."""
        low, high = np.zeros(len(g), dtype=int), np.full(len(g), self.count)
        for _ in range(max(1, math.ceil(math.log2(self.count + 1)))):
            middle = (low + high) // 2
            beyond = self.at(middle, g) <= distance
            low, high = np.where(beyond, middle, low), np.where(beyond, high, middle)
        k = np.minimum(low, self.count - 1)
        a, b = self.at(k, g), self.at(k + 1, g)
        return k + (distance - a) / np.maximum(b - a, 1e-6)

    def widths(self) -> Array:
        """Of all strips along the rays, mm (count, n)."""
        return np.diff(self.edges, axis=0)

    def _cell(self, g: Array) -> tuple[IntArray, Array, float]:
        last = len(self.g) - 1
        h = float(self.g[-1] - self.g[0]) / last
        at = np.clip((g - self.g[0]) / h, 0.0, last)
        cell = np.minimum(at.astype(int), last - 1)
        return cell, at - cell, h


def of_widths(widths: Sequence[float]) -> Division:
    """Strips of these widths, mm, one after the other."""
    ends = np.concatenate([[0.0], np.cumsum(widths)])
    return Division.through(np.array([0.0, 1.0]), np.repeat(ends[:, None], 2, axis=1), widths)


def tapered(ways: Ways, width: float, least: float) -> Division:
    """Every way divided into as many parts, no wider than `width` mm, as the greatest needs; where they would be narrower than
    `least` mm some strips fade out and leave their room to the others. Raises ImpossiblePlan where no strip may be so wide."""
    _check_room(width, least)
    whole, g = ways.whole, ways.g
    count = max(1, math.ceil(ways.widest / width - 1e-9))
    shares = np.ones((count, len(g)))
    dropped: set[int] = set()
    middle = int(np.argmax(whole))
    for end, walk in ((0, range(middle, -1, -1)), (len(g) - 1, range(middle, len(g)))):
        kept = max(1, int(float(whole[end]) / least))
        if kept >= count:
            continue
        own = _evenly(count, count - kept)
        dropped.update(k + 1 for k in own)
        thin = next((i for i in walk if whole[i] / count < least), end)
        reach = FADES * (g[end] - g[thin])
        start, stop = g[thin] - reach, g[thin] + reach
        t = np.clip((g - start) / (stop - start), 0.0, 1.0) if stop != start else np.zeros(len(g))
        faded = 1 - eased(t)
        needed = (whole / width - (count - len(own))) / len(own)
        shares[own] *= np.minimum(greater(faded, needed, ROUND), 1.0)  # no earlier than others can do without them
    widths = whole * shares / shares.sum(axis=0)
    edges = np.concatenate([np.zeros((1, len(g))), np.cumsum(widths, axis=0)])
    return Division.through(g, edges, [None] * count, tuple(sorted(dropped)), closed=True)


def mixed(ways: Ways, width: float, least: float, first: float | None, last: float | None, most: int) -> Division:
    """`most` strips of full `width`, mm, between two guide parameters (None: where the way is at least nine tenths of the
    greatest), and beyond them narrower as the way is less, but no narrower than `least`, mm: there they run out on the line that
    the course ends on. Raises ImpossiblePlan."""
    _check_room(width, least)
    whole, g = ways.whole, ways.g
    full = g[whole >= FULL_GIRTH * whole.max()]
    first = float(full[0]) if first is None else first
    last = float(full[-1]) if last is None else last
    if first >= last:
        raise ImpossiblePlan("The stations between which strips keep their full width are the wrong way round, or off the hull.")
    factor = np.ones(len(g))
    for place, end, sign in ((first, g[0], -1.0), (last, g[-1], 1.0)):
        there = float(np.interp(place, g, whole))
        if there < LEAST_GIRTH * float(whole.max()):
            raise ImpossiblePlan(
                "There is next to nothing to plank at one of the stations between which strips keep their full width: "
                "choose others, or another guide."
            )
        t = np.clip((g - place) * sign / min(EASED, max(abs(end - place), 1e-9)), 0.0, 1.0)
        factor *= 1 - eased(t) * (1 - np.minimum(whole / there, 1.0))
    own = np.minimum(no_less(width * factor, least, SOFT * (width - least)), width)
    return Division.through(g, np.arange(most + 1.0)[:, None] * own, [None] * most)


def few_tapered(ways: Ways, width: float, least: float, most: int) -> Division:
    """`most` strips of one `width`, mm, but for the fewest, half-way, that taper down to `least`, so that past them the run is
    level with the line that the course ends on over most of the hull; where not even a third of all would bring that about, a
    third. None tapers where the run is level by itself. Raises ImpossiblePlan."""
    _check_room(width, least)
    whole, inside = ways.whole, (ways.g >= ways.landing[0]) & (ways.g <= ways.landing[1])
    count = max(1, math.ceil(float(whole.max()) / width - 1e-9))
    short = whole.max() - whole
    own, many = np.full(len(whole), width), 0
    for many in range(1, max(1, count // 3) + 1):
        own = no_less(width - short / many, least, SOFT * (width - least))
        level = short - many * (width - own) < width / 2
        if not inside.any() or float(np.mean(level[inside])) >= LEVEL_SHARE:
            break
    if float(np.ptp(own)) < NO_TAPER_MM:
        return of_widths([width] * most)
    first = (count - many) // 2
    most = max(most, first + many)
    before = width * np.arange(first + 1.0)[:, None] + np.zeros(len(whole))
    taper = before[-1] + own * np.arange(1.0, many + 1)[:, None]
    beyond = ways.parallels(taper[-1], width, most - first - many)
    covers = [width] * first + [None] * many + [width] * (most - first - many)
    return Division.through(ways.g, np.concatenate([before, taper, beyond]), covers)


def _check_room(width: float, least: float) -> None:
    if least > ROOM_TO_TAPER * width:
        raise ImpossiblePlan(f"The least width ({mm(least)}) leaves a strip of {mm(width)} no room to taper: allow narrower ends.")


def _evenly(count: int, chosen: int) -> list[int]:
    """`chosen` numbers out of 0 … count - 1, spread evenly; neither the first nor the last, where there is room: along the guide
    and the limit a strip runs through."""
    clear = 1 if chosen <= count - 2 else 0
    inner = count - 2 * clear
    return sorted({clear + min(inner - 1, int((k + 0.5) * inner / chosen)) for k in range(chosen)})
