"""Small parts laid inside the openings of larger ones, so that the wood of a ring's middle is not wasted."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from time import monotonic

import numpy as np
import shapely

from ..geometry.arrays import Array
from ..settings.layout import Placed, Sheets
from .part import FlatPart

SECONDS = 2.0
"""Looking for room in openings takes at most so long."""
TURNS_DEGREES = 30.0
GRID = 9
"""Places tried across an opening each way."""
SIMPLE_MM = 0.5


@dataclass(frozen=True)
class Tucked:
    """A part inside an opening of another, turned and moved within the other's own drawing."""

    name: str
    host: str
    angle: float
    x: float
    y: float


def tuck(
    parts: list[FlatPart], sheets: Sheets, tick: Callable[[float], None] = lambda _: None
) -> tuple[list[FlatPart], list[Tucked]]:
    """What is left to be laid out, and what lies in openings of that; `tick` is told the share done. The largest part that fits an
    opening goes first."""
    until = monotonic() + SECONDS
    tucked: list[Tucked] = []
    gone: set[str] = set()
    hosts = sorted((p for p in parts if p.holes), key=lambda p: -_area(p))
    small = sorted(parts, key=lambda p: -_area(p))
    for host in hosts:
        if host.name in gone:
            continue
        for hole in host.holes:
            room = shapely.buffer(shapely.Polygon(hole), -sheets.gap)
            for part in small:
                if monotonic() > until:
                    break
                if part.name in gone or part is host or any(t.host == part.name for t in tucked):
                    continue
                tick(0.0)
                found = _within(part, room, sheets.grain)
                if found is not None:
                    angle, shift, shape = found
                    tucked.append(Tucked(part.name, host.name, angle, float(shift[0]), float(shift[1])))
                    gone.add(part.name)
                    room = shapely.difference(room, shapely.buffer(shape, sheets.gap))
    return [p for p in parts if p.name not in gone], tucked


def with_tucked(placed: list[Placed], tucked: list[Tucked]) -> list[Placed]:
    """The placed parts and those in their openings."""
    hosts = {p.name: p for p in placed}
    found = list(placed)
    for own in tucked:
        host = hosts[own.host]
        ((x, y),) = host.moved(np.array([[own.x, own.y]])).tolist()
        angle = (own.angle + host.angle) % 360.0
        found.append(Placed(name=own.name, sheet=host.sheet, angle=angle, x=x, y=y))
    return found


def _area(part: FlatPart) -> float:
    return float(shapely.Polygon(part.outline).area)


def _within(part: FlatPart, room: shapely.Geometry, grain: bool) -> tuple[float, Array, shapely.Geometry] | None:
    """A turn (degrees) and a shift that lay a part inside a room, and its shape there; None where none was found."""
    own = shapely.simplify(shapely.buffer(shapely.Polygon(part.outline), SIMPLE_MM), SIMPLE_MM)
    if room.is_empty or own.area > room.area or _narrowest(own) > _longest(room):
        return None
    shapely.prepare(room)
    low_x, low_y, high_x, high_y = room.bounds
    for angle in (0.0, 180.0) if grain else np.arange(0.0, 360.0, TURNS_DEGREES).tolist():
        turn = math.radians(angle)
        matrix = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
        turned = shapely.transform(own, lambda points, m=matrix: points @ m)
        left, bottom, right, top = turned.bounds
        slack = np.array([high_x - low_x - (right - left), high_y - low_y - (top - bottom)])
        if np.any(slack < 0):
            continue
        steps = np.stack(np.meshgrid(*(np.linspace(0, s, GRID) for s in slack)), axis=-1).reshape(-1, 2)
        shifts = steps + np.array([low_x - left, low_y - bottom])
        tries = np.array([shapely.transform(turned, lambda p, s=s: p + s) for s in shifts])
        fits = np.flatnonzero(shapely.contains_properly(room, tries))
        if len(fits):
            return float(angle), shifts[fits[0]], tries[fits[0]]
    return None


def _narrowest(shape: shapely.Geometry) -> float:
    box = np.asarray(shapely.minimum_rotated_rectangle(shape).exterior.coords)
    return float(np.linalg.norm(np.diff(box[:3], axis=0), axis=1).min())


def _longest(shape: shapely.Geometry) -> float:
    left, bottom, right, top = shape.bounds
    return math.hypot(right - left, top - bottom)
