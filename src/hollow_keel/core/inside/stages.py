"""What goes inside the hull."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..hull.stages import HULL, WATERLINE
from ..molds.stages import MOLDS, STRINGERS
from ..settings.inside import InsideSettings, insided
from ..sheer.stages import PUSHED, SCARFED, SHEER
from ..stage import Given, Stage, Turn, fields_of

if TYPE_CHECKING:
    from .fit import Inside


def _inside(given: Given) -> Inside:
    from .fit import fit_inside

    return fit_inside(
        given[HULL], given[MOLDS].molds, given[STRINGERS].lines, given[SHEER].marks, given.job, given[WATERLINE].height
    )


INSIDE = Stage(
    "inside",
    "sheer",
    "what goes inside",
    (*fields_of(InsideSettings, "inside"), "molds.skin", "molds.false_bottom", "stock.used_up.resin_ratio", *SCARFED, *PUSHED),
    (HULL, MOLDS, STRINGERS, SHEER, WATERLINE),
    _inside,
    lambda own: own.findings,
    Turn.CHECKS,
    when=insided,
)

STAGES = (INSIDE,)
