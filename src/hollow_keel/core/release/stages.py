"""How the molds come out: spalls, the order, and lifting the shell."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..hull.stages import HULL
from ..molds.stages import MOLDS
from ..settings.release import released
from ..stage import Given, Stage, Turn
from ..stock.stages import STOCK

if TYPE_CHECKING:
    from .molds_out import Lift, Release


def _release(given: Given) -> Release:
    from .molds_out import release

    return release(given[HULL], given[MOLDS].molds, given.job)


def _lift(given: Given) -> Lift:
    from .molds_out import lift

    return lift(given[STOCK].weight, given.job)


RELEASE = Stage(
    "release",
    "sheer",
    "how the molds come out",
    ("release.spalls", "release.past", "veneers.layers", "veneers.over_strips"),
    (HULL, MOLDS),
    _release,
    lambda own: own.findings,
    Turn.CHECKS,
    when=released,
)
LIFT = Stage("lift", "sheer", "what the shell weighs", ("release.kilograms",), (STOCK,), _lift, turn=Turn.WOOD, when=released)
STAGES = (RELEASE, LIFT)
