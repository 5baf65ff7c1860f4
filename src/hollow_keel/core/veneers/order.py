"""The order in which a layer's veneers go on: from the first one both ways, each on both sides in turn."""

from __future__ import annotations

from dataclasses import dataclass

from .layer_plan import LayerPlan
from .veneer import Veneer


@dataclass(frozen=True)
class Turn:
    """One veneer of one side: the how manieth it goes on, from 1."""

    place: int
    port: bool
    veneer: Veneer


def order_of(plan: LayerPlan) -> tuple[Turn, ...]:
    """All veneers of a layer as they go on: the first, then one ahead and one astern in turn, starboard and port after each other,
    so that neither side pulls the form."""
    if not plan.veneers:
        return ()
    first = plan.first - 1
    ahead, astern = list(range(first - 1, -1, -1)), list(range(first + 1, len(plan.veneers)))
    sequence = [first]
    for k in range(max(len(ahead), len(astern))):
        sequence += ahead[k : k + 1] + astern[k : k + 1]
    sides = [(index, port) for index in sequence for port in (False, True)]
    return tuple(Turn(n + 1, port, plan.veneers[index]) for n, (index, port) in enumerate(sides))
