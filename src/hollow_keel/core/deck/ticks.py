"""Where the deck's strips come on the deck part of a closed mold: from the corner under the sheer inward."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import run_of
from ..molds.stations import Mold
from ..planking.crossings import edge_at
from .strips import DeckPlan


@dataclass(frozen=True)
class DeckTick:
    """Strip `number` at one mold: how far along the deck part of the mold its outer and its inner edge come, from the corner under
    the sheer, mm; `width` what it covers there. `full` tells that neither edge is cut by the sheer or the centreline there."""

    number: int
    outer: float
    inner: float
    full: bool

    @property
    def width(self) -> float:
        """What it covers there, mm."""
        return self.inner - self.outer


def deck_ticks(plan: DeckPlan, molds: Sequence[Mold]) -> dict[str, tuple[DeckTick, ...]]:
    """The ticks of every closed mold, by its name, from the sheer inward."""
    return {
        mold.name: tuple(sorted(_at(plan, mold), key=lambda t: t.outer))
        for mold in molds
        if mold.deck is not None
    }


def _at(plan: DeckPlan, mold: Mold) -> list[DeckTick]:
    assert mold.deck is not None
    line = mold.deck.deck
    found = []
    for strip in plan.planking.strips:
        near, far = (_run(edge_at(pieces, mold.station), line) for pieces in (strip.near, strip.far))
        if near is None and far is None:
            continue
        limit = plan.planking.limits[strip.panel, strip.course]
        ended = run_of(line, rows_at(np.array([mold.station]), limit[:, 0], limit)[0, 1:])
        outer, inner = sorted((ended if near is None else near, ended if far is None else far))
        found.append(DeckTick(strip.number, outer, inner, near is not None and far is not None))
    return found


def _run(crossed: Array, line: Array) -> float | None:
    """How far along the deck part `line` an edge of a strip crosses a mold (n, 3), mm; None where it does not."""
    return None if not len(crossed) else run_of(line, crossed[0, 1:])
