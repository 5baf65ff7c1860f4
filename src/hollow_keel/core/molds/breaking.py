"""Saw cuts by which a closed mold breaks when the deck is on: through its body, but for a little wood at the edge."""

from __future__ import annotations

from dataclasses import dataclass

import shapely

from ..rules import KERF_MM
from ..settings.deck_choices import BreakInto
from .closed import ClosedEdge


@dataclass(frozen=True)
class Breaking:
    """What a mold breaks into, and how much wood is left where a cut ends, mm."""

    into: BreakInto
    leave: float


def saw_cuts(closed: ClosedEdge, whole: shapely.Geometry, breaking: Breaking) -> shapely.Geometry:
    """The cuts of a closed mold (`whole`: both sides of it, mm) as areas: up the centreline, and for four parts across it at the
    part line's height as well. Where there is no room for them there are none."""
    _, low, _, high = whole.bounds
    room = shapely.buffer(whole, -breaking.leave)
    half = KERF_MM / 2
    cuts = [shapely.box(-half, low, half, high)]
    if breaking.into is BreakInto.FOUR:
        level = min(float(closed.corner[1]), (low + high) / 2)
        cuts.append(shapely.box(whole.bounds[0], level - half, whole.bounds[2], level + half))
    return shapely.intersection(shapely.union_all(cuts), room)
