"""The skin's inside on the molds as they really stand, and what a batten laid over it shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import height_crossing, nearest_on
from ..job import SetupSettings
from ..molds.stations import Mold
from ..rules import LEAST_MOLDS
from ..settings.setup_choices import HullEnd
from .judgement import Direction, SurveyJudgement
from .long_batten import Batten, LaidBatten, lay_batten, pulls

if TYPE_CHECKING:
    from ..planking.edges import EdgePiece

FLAT = 0.05
"""Share across the hull below which a level line runs along a mold's edge, and tells nothing."""


@dataclass(frozen=True)
class BattenTest:
    """A batten at one height or along a strip, over the molds as planned and as built. Lengths mm, outward, starboard side or port.

    `molds` are their names in order of `places` (n,); `errors` (n,) how far each mold stands outside its place; `shows` (n,)
    how far the batten at each is off the line it would take over perfect molds. Where even a perfect hull is straighter
    than the batten would lie by itself, it is clamped down.
    """

    molds: tuple[str, ...]
    planned: LaidBatten
    built: LaidBatten
    errors: Array

    @property
    def shows(self) -> Array:
        """How far the batten is off its planned line at each of n molds, (n,) mm, positive outward."""
        result: Array = self.built.heights - self.planned.heights
        return result

    def verdict(self, k: int, least: float = 0.4) -> str:
        """What becomes of the error of mold k, in words; less than `least` mm is none."""
        error, shows, gap = float(self.errors[k]), float(self.shows[k]), float(self.built.gaps[k])
        if abs(error) <= least:
            return ""
        if error < 0 and gap - float(self.planned.gaps[k]) > 0.5 * abs(error):
            return "the strip bridges it: a gap to pad out"
        if abs(shows) > 0.5 * abs(error):
            return "it shows as a bump" if error > 0 else "it shows as a hollow"
        return "the strip fairs it out"


@dataclass(frozen=True)
class _Line:
    """A line over the molds: their names, where along it they stand, how far outward they are planned to, and how far each
    stands outside that, mm, (n,)."""

    molds: tuple[str, ...]
    places: Array
    planned: Array
    errors: Array


def batten_test(
    judgement: SurveyJudgement,
    molds: tuple[Mold, ...],
    height: float,
    batten: Batten,
    *,
    starboard: bool = True,
    setup: SetupSettings,
) -> BattenTest | None:
    """A batten at a height (mm, the hull's own) over one side, bent in the level plane; None where fewer than four molds
    reach that height."""
    names, places, planned, errors = [], [], [], []
    for mold in molds:
        at = height_crossing(mold.edge.points, height)
        if at is None:
            continue
        out = _outward(judgement, mold, at, starboard, setup)
        names.append(mold.name)
        places.append(mold.station)
        planned.append(float(at[0]))
        errors.append(out.square / out.across if abs(out.across) > FLAT else 0.0)
    return _over(_Line(tuple(names), *(np.array(v) for v in (places, planned, errors))), batten, setup.fairs_below)


def heights_of(molds: tuple[Mold, ...], height: float) -> tuple[float, float, int]:
    """From which height to which molds' edges reach, and how many of them come to a height, mm."""
    ends = [(float(m.edge.points[:, 1].min()), float(m.edge.points[:, 1].max())) for m in molds]
    at = sum(low <= height <= high for low, high in ends)
    return min(low for low, _ in ends), max(high for _, high in ends), at


def batten_along(
    judgement: SurveyJudgement,
    molds: tuple[Mold, ...],
    edge: EdgePiece,
    batten: Batten,
    *,
    starboard: bool = True,
    setup: SetupSettings,
) -> BattenTest | None:
    """A batten laid along the edge of a strip, bent square to the hull as a strip is; None where it crosses fewer than four
    molds.

    The line is laid out straight: along it its own length, outward what its bend over the hull comes to, y'' = -bend.
    """
    steps = np.diff(edge.run)
    slope = np.concatenate([[0.0], -np.cumsum((edge.curvatures[1:, 1] + edge.curvatures[:-1, 1]) / 2 * steps)])
    outward = np.concatenate([[0.0], np.cumsum((slope[1:] + slope[:-1]) / 2 * steps)])
    names, places, errors = [], [], []
    for mold in molds:
        x = edge.points[:, 0]
        if not x[0] < mold.station < x[-1]:
            continue
        on_hull = np.array([np.interp(mold.station, x, edge.points[:, c]) for c in (1, 2)])
        at = nearest_on(mold.edge.points, on_hull)[0]
        out = _outward(judgement, mold, at, starboard, setup)
        names.append(mold.name)
        places.append(float(np.interp(mold.station, x, edge.run)))
        errors.append(out.square * out.cosine)
    at_molds = np.array(places)
    planned = np.interp(at_molds, edge.run, outward)
    return _over(_Line(tuple(names), at_molds, planned, np.array(errors)), batten, setup.fairs_below)


def _over(line: _Line, batten: Batten, shows: float) -> BattenTest | None:
    if len(line.molds) < LEAST_MOLDS:
        return None
    x, y, off = line.places, line.planned, line.errors
    held = pulls(x, y)
    built = lay_batten(x, y + off, batten, held & (off > -shows))  # nobody pulls a strip in to a mold that is too low
    return BattenTest(line.molds, lay_batten(x, y, batten, held), built, frozen(off))


@dataclass(frozen=True)
class _Outward:
    """How far a mold stands outside its place, mm square to its edge in its own plane; the share of that direction that goes
    across the hull; the cosine from it to the hull's own square."""

    square: float
    across: float
    cosine: float


def _outward(judgement: SurveyJudgement, mold: Mold, at: Array, starboard: bool, setup: SetupSettings) -> _Outward:
    """How far a displaced mold stands outside its place at a point of its edge, which is straight near it."""
    points = mold.edge.points
    k = int(np.clip(np.argmin(np.linalg.norm(points - at, axis=1)), 1, len(points) - 1))
    along = points[k] - points[k - 1]
    along = along / np.linalg.norm(along)
    across, up = float(along[1]), float(-along[0])  # outward normal of an edge that runs from keel to sheer
    side = 1.0 if starboard else -1.0
    roll = judgement.error(mold.name, Direction.ROLL)
    half = max(float(at[0]), 1.0)
    out = float(mold.edge.waterline[0]) if mold.edge.waterline is not None else half
    raised = judgement.error(mold.name, Direction.UP) + side * roll * half / max(out, 1.0)
    if not setup.upright:
        raised = -raised  # too high on the strongback there is too low in the hull's own heights
    dy = side * judgement.error(mold.name, Direction.ACROSS)
    lean = float(mold.edge.narrowing[k])
    from_stern = setup.zero_end is HullEnd.STERN
    ahead = judgement.error(mold.name, Direction.ALONG) * (-1.0 if from_stern else 1.0)
    return _Outward(dy * across + raised * up + ahead * float(np.tan(lean)), across, float(np.cos(lean)))
