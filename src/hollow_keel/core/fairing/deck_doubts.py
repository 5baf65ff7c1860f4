"""Offsets past the sheer that stand out: the deck is judged as a skin of its own, from the sheer to the centreline."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..errors import HollowKeelError
from ..hull.build import Hull
from ..offsets.table import OffsetsTable
from ..stage import Tick
from .deck_alone import deck_alone
from .doubts import Doubt, find_doubts


def deck_doubts(table: OffsetsTable, build: Callable[[OffsetsTable], Hull], tick: Tick) -> tuple[Doubt, ...]:
    """The offsets of the deck that stand out, worst first, by their numbers in the table; none where the deck is given at too few
    stations, or cannot be drawn. `tick` may raise to cancel."""
    alone = deck_alone(table)
    if alone is None:
        return ()
    try:
        found = find_doubts(alone.rows, build(alone.rows), build, tick=lambda: tick(0.0))
    except HollowKeelError:
        return ()
    return tuple(
        replace(d, row=alone.numbers[d.row], written=alone.named(d.row, d.written), fair=alone.named(d.row, d.fair))
        for d in found
        if not alone.is_sheer(d.row)
    )
