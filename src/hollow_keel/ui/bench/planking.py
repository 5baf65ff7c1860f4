"""Planking at the bench: where strips come on a mold."""

from __future__ import annotations

from functools import partial

from ...core.deck.ticks import DeckTick
from ...core.molds.stations import Mold
from ...core.planking.crossings import Crossing
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...core.units import LengthStyle, format_angle, format_length
from ...drawing.bench import tick_picture
from ...files.planking.schedules import end_name
from .mode import Step


def strip_steps(planking: Planking, first: int, style: LengthStyle) -> list[Step]:
    """The strips that are still to go on, from a number on, one at a time."""
    return [
        Step(
            f"Strip {strip.number}, both sides",
            format_length(strip.length, style),
            f"long, along its middle · starts on the {end_name(strip.starts)}, ends on the {end_name(strip.ends)}",
        )
        for strip in planking.strips
        if strip.number >= first
    ]


def wide_and_bevel(row: Crossing | DeckTick, style: LengthStyle) -> str:
    """How wide a strip is at a mold, and the bevel to the next, in words."""
    turn = "" if row.bevel is None else f" · bevel to the next {format_angle(row.bevel, 0.1)}"
    return f"{format_length(row.width, style)} wide here{'' if row.full else ', cut'}{turn}"


def tick_steps(shape: Shape, mold: Mold, rows: tuple[Crossing, ...], style: LengthStyle) -> list[Step]:
    """Every strip's lower edge on one mold, down from the sheer."""
    found = []
    for row in rows:
        below = f"down from the sheer mark, along the mold · {wide_and_bevel(row, style)}"
        picture = partial(tick_picture, shape, mold, rows, row.number)
        heading = f"Mold {mold.name}, strip {row.number}"
        found.append(Step(heading, format_length(row.from_sheer, style), below, picture=picture))
    return found
