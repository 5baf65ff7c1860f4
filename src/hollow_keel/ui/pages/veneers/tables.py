"""The tables of the page of veneers: what of the results each shows."""

from __future__ import annotations

from collections.abc import Callable

from ....core.veneers.neighbours import Neighbours, ZoneWidth
from ....core.veneers.order import Turn
from ...views.data_table import Column
from ...window.state import State

WIDEST_SHOWN = 5000.0
"""A wider limit is none."""


def order_columns(layer: int) -> list[Column]:
    """The order in which they go on."""

    def named(turn: Turn) -> str:
        return f"{layer}-{turn.veneer.number} {'port' if turn.port else 'starboard'}"

    return [Column("Goes on", lambda t: str(t.place), lambda t: t.place), Column("Veneer", named)]


def zone_columns(state: State) -> list[Column]:
    """How wide veneers may be in each part of a layer."""

    def wide(of: Callable[[ZoneWidth], float]) -> Callable[[ZoneWidth], str]:
        return lambda zone: state.write(round(of(zone))) if of(zone) < WIDEST_SHOWN else "any"

    return [
        Column("Layer", lambda z: str(z.layer), lambda z: z.layer),
        Column("Part", lambda z: z.name),
        Column("Lies flat up to", wide(lambda z: z.by_strain), lambda z: z.by_strain),
        Column("Parallel, glue fills, up to", wide(lambda z: z.unspiled), lambda z: z.unspiled),
        Column("Spiling takes up to", lambda z: f"{z.spiled:.0%}", lambda z: z.spiled),
    ]


def neighbour_columns(state: State) -> list[Column]:
    """How seams of neighbouring layers lie."""

    def lie(pair: Neighbours) -> str:
        if not pair.parallel:
            return f"cross every {state.write(pair.crossings)} along a seam"
        return f"{state.write(pair.nearest)} apart at the nearest, near {state.write(pair.where)}"

    return [
        Column("Layers", lambda n: f"{n.inner} and {n.outer}"),
        Column("Between them", lambda n: f"{n.angle:g}°", lambda n: n.angle),
        Column("Their seams", lie),
    ]
