"""Molds laid on sheets, as the job keeps them."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict

from ..geometry.arrays import Array
from .axis import Axis
from .record import COMMON, Kind, setting

OfSheet = Annotated[float, Axis.SIZE]
Angle = Annotated[float, Axis.NONE]


class Sheets(BaseModel):
    """The sheets and how to lay on them, mm: `gap` between parts, `margin` to the edge; `grain` keeps each part's
    height across the sheet's length or along it as drawn, turned by half a turn at most; `offcuts` are lengths and
    widths of pieces on hand that are used before whole sheets."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    length: OfSheet = setting(2440.0, "Sheets long", "length of a sheet")
    width: OfSheet = setting(1220.0, "Sheets wide", "width of a sheet")
    gap: OfSheet = setting(8.0, "Gap between parts", "what the cutter takes, and a little", source=COMMON)
    margin: OfSheet = setting(10.0, "Margin at the edges", "kept free at a sheet's edges", source=COMMON)
    grain: bool = setting(
        False,
        "Keep the grain",
        "each part's height across the sheet's length or along it, turned by half a turn at most",
        Kind.FLAG,
    )
    offcuts: tuple[tuple[OfSheet, OfSheet], ...] = setting(
        (), "Offcuts", "lengths and widths of pieces on hand, used before whole sheets", Kind.RECORDS
    )


class Placed(BaseModel):
    """Where a part lies: on which sheet (from 0), turned by `angle` degrees, then moved by `x`, `y` mm from the
    sheet's lower left corner."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    name: str
    sheet: int
    angle: Angle
    x: OfSheet
    y: OfSheet

    def moved(self, points: Array) -> Array:
        """Points (n, 2), mm, of the part as they lie on the sheet."""
        turn = math.radians(self.angle)
        matrix = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
        result: Array = points @ matrix + np.array([self.x, self.y])
        return result


class Layout(BaseModel):
    """All parts on `count` whole sheets and then on `offcuts`, numbered on; `shapes` tells a layout of true shapes from
    one of rectangles. `used` is the share of the wood that is parts."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    sheets: Sheets
    placed: tuple[Placed, ...]
    count: int
    used: Annotated[float, Axis.NONE]
    shapes: bool
    of: str = ""
    """Fingerprint of the parts it was made of."""
    offcuts: tuple[tuple[OfSheet, OfSheet], ...] = ()

    @property
    def pieces(self) -> int:
        """Number of whole sheets and offcuts together."""
        return self.count + len(self.offcuts)

    def size(self, sheet: int) -> tuple[float, float]:
        """Length and width of a sheet or offcut, mm."""
        if sheet < self.count:
            return self.sheets.length, self.sheets.width
        return self.offcuts[sheet - self.count]
