"""The schedules of molds: all of them, points to prick through, bevels to call out, bevels along the stem."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from ...core.geometry.arrays import Array
from ...core.molds.bevels import BevelCall
from ...core.molds.end_stages import STEM_BEVELS, StemBevels
from ...core.molds.mold_marks import MoldMarks
from ...core.molds.stages import MOLDS
from ...core.molds.stations import Mold
from ...core.results import Shape
from ..schedule import Field, Kind, Schedule

STRAY_MM = 0.08
"""A straight line between two neighbouring prick points strays from the drawn edge by less, from the curve by a tenth."""


def most_bevel(mold: Mold) -> float:
    """The greatest bevel along a mold's edge, degrees."""
    return math.degrees(float(np.max(mold.edge.bevels)))


def at_waterline(mold: Mold) -> float | None:
    """A mold's half-breadth at the load waterline; None where it lies above that."""
    return float(mold.edge.waterline[0]) if mold.edge.waterline is not None else None


MOLD_ROWS = Schedule(
    "molds",
    "All molds",
    MOLDS,
    lambda molds: molds,
    (
        Field("name", "Mold", lambda m: m.name, Kind.WORD, order=lambda m: int(m.name)),
        Field("station", "Station", lambda m: m.station, Kind.TAPE),
        Field("face", "Face on the line", lambda m: m.face.value, Kind.WORD),
        Field("sheer_half", "Sheer: half-breadth", lambda m: float(m.edge.sheer[0]), Kind.TAPE),
        Field("sheer_height", "Sheer: height", lambda m: float(m.edge.sheer[1]), Kind.TAPE),
        Field("keel_height", "Keel: height", lambda m: float(m.edge.keel[1]), Kind.TAPE),
        Field("waterline", "At waterline", at_waterline, Kind.TAPE, order=lambda m: at_waterline(m) or math.nan),
        Field("bevel", "Most bevel", most_bevel, Kind.DEGREES),
    ),
    lambda m: f"mold:{m.name}",
    missing="above it",
)


def prick_points(edge: Array, stray: float = STRAY_MM) -> list[int]:
    """Numbers of the points of an edge (n, 2) to prick through: closer where the curve is tight, its ends always.

    Each straight line between neighbours strays from the edge by at most `stray` mm where the edge's own points allow it.
    """
    chosen = [0]
    while chosen[-1] < len(edge) - 1:
        start = chosen[-1]
        stop = start + 1
        while stop + 1 < len(edge) and _strays(edge[start : stop + 2]) <= stray:
            stop += 1
        chosen.append(stop)
    return chosen


def _strays(part: Array) -> float:
    chord = part[-1] - part[0]
    long = float(np.hypot(*chord))
    if long == 0:
        return float(np.linalg.norm(part - part[0], axis=1).max())
    away = part - part[0]
    return float(np.abs(away[:, 0] * chord[1] - away[:, 1] * chord[0]).max() / long)


@dataclass(frozen=True)
class PrickRow:
    """A point to prick through, half-breadth and height, mm; the load waterline has no number."""

    mold: str
    number: int | None
    at: tuple[float, float]
    what: str = ""


def _pricks(molds: Iterable[Mold]) -> Iterator[PrickRow]:
    for mold in molds:
        points = mold.edge.points
        for n, k in enumerate(prick_points(points), start=1):
            y, z = points[k].tolist()
            yield PrickRow(mold.name, n, (y, z), "keel" if k == 0 else "sheer" if k == len(points) - 1 else "")
        if mold.edge.waterline is not None:
            y, z = mold.edge.waterline.tolist()
            yield PrickRow(mold.name, None, (y, z), "load waterline")


PRICKS = Schedule(
    "prick_points",
    "Points to prick through, keel to sheer",
    MOLDS,
    _pricks,
    (
        Field("mold", "Mold", lambda r: r.mold, Kind.WORD, "mold"),
        Field("n", "Point", lambda r: r.number, Kind.NUMBER, "point"),
        Field("half", "Half-breadth", lambda r: r.at[0], Kind.CALIPER, "half-breadth"),
        Field("height", "Height", lambda r: r.at[1], Kind.CALIPER, "height"),
        Field("what", "What", lambda r: r.what, Kind.WORD, "what"),
    ),
    bracketed=True,
)


@dataclass(frozen=True)
class CallRow:
    """A bevel to call out on a mold."""

    mold: Mold
    call: BevelCall


def calls_told(shape: Shape) -> tuple[CallRow, ...]:
    """The bevels of all molds, each from its keel."""
    marks: Mapping[str, MoldMarks] = shape.marks
    return tuple(CallRow(mold, call) for mold in shape.molds.molds for call in marks[mold.name].bevels)


CALLS = Schedule(
    "bevels",
    "Bevels to call out along every mold",
    MOLDS,
    lambda told: told,
    (
        Field("mold", "Mold", lambda r: r.mold.name, Kind.WORD, "mold"),
        Field("along", "From the keel along the edge", lambda r: r.call.along, Kind.TAPE, "from the keel along the edge"),
        Field("bevel", "Bevel", lambda r: f"{r.call.called:g}", Kind.WORD, "bevel (degrees)"),
        Field("sense", "Seen from the reference face", lambda r: r.call.sense, Kind.WORD, "seen from the reference face"),
        Field("across", "Across the sheet", lambda r: r.call.across(r.mold.thickness), Kind.TAPE, "across the sheet"),
    ),
    bracketed=True,
)


@dataclass(frozen=True)
class StemRow:
    """A bevel along a stem's rabbet: position and height, mm, and the planking's angle to the centre plane, degrees."""

    stem: str
    x: float
    z: float
    angle: float


def _stems(stems: Iterable[StemBevels]) -> Iterator[StemRow]:
    for stem in stems:
        for x, z, angle in stem.bevels:
            yield StemRow("stern" if stem.stern else "bow", x, z, math.degrees(angle))


STEM_ROWS = Schedule(
    "stem_bevels",
    "Bevels of the stem by height",
    STEM_BEVELS,
    _stems,
    (
        Field("stem", "Stem", lambda r: r.stem, Kind.WORD, "stem"),
        Field("position", "Position", lambda r: r.x, Kind.TAPE, "position"),
        Field("height", "Height", lambda r: r.z, Kind.TAPE, "height"),
        Field("bevel", "Bevel", lambda r: r.angle, Kind.DEGREES, "bevel", 1),
    ),
    bracketed=True,
)
