"""The tables of the page of veneers: what of the results each shows."""

from __future__ import annotations

from collections.abc import Callable

from ....core.amounts import far_length, in_amounts, quantity
from ....core.veneers.flatten import WORST_MM
from ....core.veneers.laying import LayerTakes
from ....core.veneers.neighbours import Neighbours, ZoneWidth
from ....core.veneers.order import Turn
from ....core.veneers.veneer import Veneer
from ....files.planking.tables import end_name
from ...views.data_table import Column
from ...views.sentences import sentence
from ...window.state import State

WIDEST_SHOWN = 5000.0
"""A wider limit is none."""


def veneer_columns(state: State) -> list[Column]:
    """Veneers of a layer."""
    write = state.write
    return [
        Column("Veneer", lambda v: str(v.number), lambda v: v.number),
        Column("Length", lambda v: write(v.length), lambda v: v.length),
        Column("Piece wide", lambda v: write(v.width), lambda v: v.width),
        Column("Narrowest", lambda v: write(v.least), lambda v: v.least),
        Column("Ends", lambda v: f"{end_name(v.starts)} – {end_name(v.ends)}"),
        Column("Strain when flat", lambda v: f"{v.strain:.2%}", lambda v: v.strain),
        Column("Flat shape within", lambda v: within(v, state), lambda v: v.off),
    ]


def within(veneer: Veneer, state: State) -> str:
    """How far a flat shape may be out, in words."""
    if veneer.off >= WORST_MM:
        return "take it off the form"
    return f"± {state.write_fine(max(veneer.off, 0.1))}"


def spiling_columns(state: State) -> list[Column]:
    """How wide a veneer is along its straight edge."""
    write = state.write
    return [
        Column("Along the straight edge", lambda row: write(row[0]), lambda row: row[0]),
        Column("Wide", lambda row: write(row[1]), lambda row: row[1]),
    ]


def order_columns(layer: int) -> list[Column]:
    """The order in which they go on."""

    def named(turn: Turn) -> str:
        return f"{layer}-{turn.veneer.number} {'port' if turn.port else 'starboard'}"

    return [Column("Goes on", lambda t: str(t.place), lambda t: t.place), Column("Veneer", named)]


def laying_columns(state: State) -> list[Column]:
    """What each layer takes."""

    def amount(unit: str, spec: str, of: Callable[[LayerTakes], float]) -> Callable[[LayerTakes], str]:
        return lambda own: in_amounts(quantity(of(own), unit, spec), state.job.units.told_in)

    return [
        Column("Layer", lambda own: str(own.number), lambda own: own.number),
        Column("Glue under it", amount("kg", ".1f", lambda own: own.glue / 1000.0), lambda own: own.glue),
        Column("Staples", lambda own: str(own.staples), lambda own: own.staples),
        Column("Out again", lambda own: str(own.pulled), lambda own: own.pulled),
        Column("Scrap under them", lambda own: far_length(own.scrap, state.style), lambda own: own.scrap),
        Column("Bag", amount("m²", ".1f", lambda own: own.bag), lambda own: own.bag),
        Column("Hours of two", lambda own: f"{own.hours:.0f}", lambda own: own.hours),
        Column("Sheets", lambda own: str(own.sheets), lambda own: own.sheets),
        Column("On the hull", lambda own: f"{own.used:.0%}" if own.used else "–", lambda own: own.used),
        Column("Joints", lambda own: str(own.joints), lambda own: own.joints),
        Column("Weight", amount("kg", ".1f", lambda own: own.weight), lambda own: own.weight),
    ]


def ribband_columns(state: State) -> list[Column]:
    """Ribbands or stringers."""
    write = state.write
    return [
        Column("No.", lambda r: str(r.number), lambda r: r.number),
        Column("Lies", lambda r: r.lies),
        Column("Length", lambda r: write(r.length), lambda r: r.length),
        Column("Of sticks", lambda r: str(r.pieces), lambda r: r.pieces),
        Column("Goes on", lambda r: r.behaviour.grade.value, lambda r: r.behaviour.share),
        Column("Hardest at", lambda r: write(r.behaviour.place), lambda r: r.behaviour.place),
        Column("Mend", lambda r: sentence(r.behaviour.mend, state.style)),
    ]


def crossing_columns(state: State) -> list[Column]:
    """Where one ribband comes on the molds."""
    write = state.write
    return [
        Column("Mold", lambda c: c.mold),
        Column("From the keel", lambda c: write(c.from_keel), lambda c: c.from_keel),
        Column("From the sheer", lambda c: write(c.from_sheer), lambda c: c.from_sheer),
    ]


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
