"""All that is known about how fair the lines are."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..findings import Finding
from ..hull.build import Hull
from ..hull.hydro import Hydro, hydro
from ..offsets.table import OffsetsTable
from .doubts import BuildHull, Doubt, find_doubts
from .remarks import remarks
from .views import contradictions


@dataclass(frozen=True)
class Fairness:
    """Doubtful offsets, worst first; what looks wrong in the lines; what they measure below the waterline."""

    doubts: tuple[Doubt, ...]
    remarks: tuple[Finding, ...]
    hydro: Hydro


def judge_fairness(
    table: OffsetsTable, hull: Hull, waterline: float, build: BuildHull, tick: Callable[[], None] = lambda: None
) -> Fairness:
    """Look the lines over, `waterline` mm above the base. `build` builds another hull from a table; `tick` may raise to cancel."""
    doubts = find_doubts(table, hull, build, tick)
    tick()
    remarked = remarks(hull)
    tick()
    remarked = (*remarked, *contradictions(table, hull))
    tick()
    return Fairness(doubts, remarked, hydro(hull, waterline))
