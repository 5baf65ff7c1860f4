"""The skin's inside on the molds as they really stand, and what a batten laid over it shows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import height_crossing
from ..molds.stations import Mold
from .batten_test import Batten, Laid, lay_batten, pulls
from .judgement import SHOWS_NOT_MM, Direction, SurveyJudgement


@dataclass(frozen=True)
class BattenTest:
    """A batten at one height over the molds as planned and as built. Half-breadths mm, outward, starboard side or port.

    `molds` are their names in order of `places` (n,); `errors` (n,) how far each mold stands outside its place; `shows` (n,)
    how far the batten at each is off the line it would take over perfect molds. Where even a perfect hull is straighter
    than the batten would lie by itself, it is clamped down.
    """

    molds: tuple[str, ...]
    planned: Laid
    built: Laid
    errors: Array

    @property
    def shows(self) -> Array:
        """How far the batten is off its planned line at each mold, mm, positive outward."""
        result: Array = self.built.heights - self.planned.heights
        return result

    def verdict(self, k: int, least: float = 0.4) -> str:
        """What becomes of the error of mold k, in words."""
        error, shows, gap = float(self.errors[k]), float(self.shows[k]), float(self.built.gaps[k])
        if abs(error) <= least:
            return ""
        if error < 0 and gap - float(self.planned.gaps[k]) > 0.5 * abs(error):
            return "the strip bridges it: a gap to pad out"
        if abs(shows) > 0.5 * abs(error):
            return "it shows as a bump" if error > 0 else "it shows as a hollow"
        return "the strip fairs it out"


def batten_test(
    judgement: SurveyJudgement,
    molds: tuple[Mold, ...],
    height: float,
    batten: Batten,
    *,
    starboard: bool = True,
    from_stern: bool = False,
) -> BattenTest | None:
    """A batten at a height (mm, the hull's own) over one side; None where fewer than four molds reach that height.
    `from_stern` tells that positions were measured from the stern."""
    names, places, planned, errors = [], [], [], []
    for mold in molds:
        at = height_crossing(mold.edge.points, height)
        if at is None:
            continue
        names.append(mold.name)
        places.append(mold.station)
        planned.append(float(at[0]))
        errors.append(_outward(judgement, mold, at, starboard, from_stern))
    if len(names) < 4:
        return None
    x, y, off = (np.array(v) for v in (places, planned, errors))
    held = pulls(x, y)
    built = lay_batten(
        x, y + off, batten, held & (off > -SHOWS_NOT_MM)
    )  # nobody pulls a strip in to a mold that is too low
    return BattenTest(tuple(names), lay_batten(x, y, batten, held), built, frozen(off))


def _outward(judgement: SurveyJudgement, mold: Mold, at: Array, starboard: bool, from_stern: bool) -> float:
    """How far a displaced mold stands outside its place at a point of its edge, mm, measured across the hull.

    The edge is straight near the point: with its outward normal (a, b) across and up, a shift of (dy, dz) moves it
    outward by dy + dz b / a along a level line.
    """
    points = mold.edge.points
    k = int(np.clip(np.searchsorted(points[:, 1], at[1]), 1, len(points) - 1))
    along = points[k] - points[k - 1]
    across, up = float(along[1]), float(-along[0])  # outward normal of an edge that runs from keel to sheer
    side = 1.0 if starboard else -1.0
    roll = judgement.error(mold.name, Direction.ROLL)
    half = max(float(at[0]), 1.0)
    out = float(mold.edge.waterline[0]) if mold.edge.waterline is not None else half
    raised = judgement.error(mold.name, Direction.UP) + side * roll * half / max(out, 1.0)
    dz = -raised  # upside down on the strongback: too high there is too low in the hull's own heights
    dy = side * judgement.error(mold.name, Direction.ACROSS)
    lean = float(np.interp(at[1], points[:, 1], mold.edge.narrowing))
    ahead = judgement.error(mold.name, Direction.ALONG) * (-1.0 if from_stern else 1.0)
    slope = up / across if abs(across) > 1e-6 else 0.0
    return dy + dz * slope + ahead * float(np.tan(lean))
