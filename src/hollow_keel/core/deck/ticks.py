"""Where the deck's strips come on the deck part of a closed mold: from the corner under the sheer inward."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import run_of
from ..job import StripSettings
from ..molds.stations import Mold
from ..planking.crossings import crossed, normals_at, planed_off
from ..planking.strips import Strip
from .strips import DeckPlan


@dataclass(frozen=True)
class DeckTick:
    """Strip `number` at one mold: how far along the deck part of the mold its outer and its inner edge come, from the corner under
    the sheer, mm; `width` what it covers there. `full` tells that neither edge is cut by the sheer or the centreline there;
    `bevel` is the turn (radians) to the next strip, None at the last of a run, and `planed` what that takes off its edge, mm."""

    number: int
    outer: float
    inner: float
    full: bool
    bevel: float | None = None
    planed: float | None = None

    @property
    def width(self) -> float:
        """What it covers there, mm."""
        return self.inner - self.outer


def deck_ticks(plan: DeckPlan, molds: Sequence[Mold], strips: StripSettings) -> dict[str, tuple[DeckTick, ...]]:
    """The ticks of every closed mold, by its name, from the sheer inward; bevels for the deck's `strips` as they are milled."""
    return {mold.name: tuple(sorted(_at(plan, mold, strips), key=lambda t: t.outer)) for mold in molds if mold.deck is not None}


def _at(plan: DeckPlan, mold: Mold, strips: StripSettings) -> list[DeckTick]:
    assert mold.deck is not None
    line, planking = mold.deck.deck, plan.planking
    found: list[tuple[Strip, DeckTick, Array]] = []
    for strip in planking.strips:
        edges = [crossed(pieces, mold.station) for pieces in (strip.near, strip.far)]
        known = [place for place in edges if place is not None]
        if not known:
            continue
        limit = planking.limits[strip.panel, strip.course]
        ended = run_of(line, rows_at(np.array([mold.station]), limit[:, 0], limit)[0, 1:])
        outer, inner = sorted(ended if place is None else run_of(line, place[0][1:]) for place in edges)
        tick = DeckTick(strip.number, outer, inner, len(known) == len(edges))
        found.append((strip, tick, (known[0][1] + known[-1][1]) / 2))
    normals = normals_at(plan.surface, [strip for strip, *_ in found], [middle for *_, middle in found])
    places = {(strip.panel, strip.course, strip.number): k for k, (strip, *_) in enumerate(found)}
    ticks = []
    for k, (strip, tick, _) in enumerate(found):
        beyond = places.get((strip.panel, strip.course, strip.number + 1))
        bevel = None if beyond is None else float(np.arccos(np.clip(normals[k] @ normals[beyond], -1.0, 1.0)))
        planed = planed_off(bevel, strips, planking.places[strip.number])
        ticks.append(replace(tick, bevel=bevel, planed=planed))
    return ticks
