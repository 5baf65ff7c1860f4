"""The girth divider: a mold's edge between two lines divided into parts, as marks along a running tape."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.polyline import run_of
from ..molds.stations import Mold
from .crossings import Crossing

SHEER, KEEL = "sheer", "keel"


@dataclass(frozen=True)
class Divided:
    """One mold: the way between the two lines along its edge (mm), the width of each part, and the marks as a tape reads
    them from the first line on."""

    mold: str
    girth: float
    width: float
    marks: tuple[float, ...]


def line_on_mold(mold: Mold, line: str, strips: tuple[Crossing, ...]) -> float | None:
    """How far down a mold's edge from the sheer a line comes: `sheer`, `keel`, or a strip's number (its edge towards the
    keel). None where it does not come to this mold."""
    edge = mold.edge.points[::-1]
    if line == SHEER:
        return 0.0
    if line == KEEL:
        return run_of(edge, edge[-1])
    found = [row for row in strips if str(row.number) == line]
    return found[0].from_sheer if found else None


def divide(
    mold: Mold, strips: tuple[Crossing, ...], first: str, second: str, *, parts: int = 0, width: float = 0.0
) -> Divided | None:
    """The way from one line to another divided into `parts`, or into the number of parts whose width comes nearest to `width`. None
    where one of the lines does not come to the mold. Raises ImpossiblePlan where nothing is asked for."""
    start, stop = line_on_mold(mold, first, strips), line_on_mold(mold, second, strips)
    if start is None or stop is None or abs(stop - start) < 1e-6:
        return None
    girth = abs(stop - start)
    return Divided(mold.name, girth, *_marks(girth, parts, width))


def _marks(girth: float, parts: int, width: float) -> tuple[float, tuple[float, ...]]:
    if parts <= 0:
        if width <= 0:
            raise ImpossiblePlan("Say into how many parts, or how wide a part is to be.")
        low = max(1, math.floor(girth / width))
        parts = min((low, low + 1), key=lambda n: abs(girth / n - width))
    if parts > 2000:
        raise ImpossiblePlan(f"{parts} parts of {mm(round(girth / parts, 2))} are too many: take fewer.")
    each = girth / parts
    return each, tuple((each * np.arange(1, parts + 1)).tolist())
