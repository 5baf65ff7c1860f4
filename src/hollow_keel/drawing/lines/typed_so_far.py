"""The points of a table that is still being typed: what can be seen before there is a hull, and beside it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ...core.geometry.arrays import frozen
from ...core.offsets.typed_sheet import Dot
from ..model import Drawing, Layer, Stroke
from .plan import section_key

NOT_RUN_THROUGH = "wl"
"""Points between keel and sheer belong to many lines: nothing is drawn from station to station through them."""


def profile_so_far(dots: Sequence[Dot]) -> Drawing:
    """Every height that is given, from the side, bow to the left; keel, sheer, chines and ends run through their own."""
    high = [(dot.line, dot.station, dot.height) for dot in dots if dot.height is not None]
    strokes = [_cross(x, z, section_key(x)) for _, x, z in high]
    for name in dict.fromkeys(line for line, _, _ in high if line != NOT_RUN_THROUGH):
        own = [(x, z) for line, x, z in high if line == name]
        strokes += _through(own if name.startswith(("stem", "transom")) else sorted(own), Layer.HULL)
    for x in dict.fromkeys(dot.station for dot in dots if dot.line in ("keel", "sheer", "wl")):
        levels = [z for line, at, z in high if at == x and not line.startswith(("stem", "transom"))]
        strokes += _through([(x, min(levels)), (x, max(levels))] if levels else [], Layer.STATION, section_key(x))
    return Drawing("Profile", tuple(strokes))


def body_so_far(dots: Sequence[Dot]) -> Drawing:
    """The sections of the points that have both offsets (a keel without a half-breadth lies on the centreline), straight from one
    to the next; forward stations to the right."""
    whole = [
        (dot.station, 0.0 if dot.half_breadth is None else dot.half_breadth, dot.height)
        for dot in dots
        if dot.height is not None
        and (dot.half_breadth is not None or dot.line == "keel")
        and not dot.line.startswith(("stem", "transom"))
    ]
    if not whole:
        return Drawing("Body plan", ())
    widest = max(whole, key=lambda point: point[1])[0]
    strokes: list[Stroke] = []
    for x in sorted({station for station, _, _ in whole}):
        side = 1.0 if x <= widest else -1.0
        own = sorted((z, y) for station, y, z in whole if station == x)
        strokes += _through([(side * y, z) for z, y in own], Layer.STATION, section_key(x))
        strokes += [_cross(side * y, z, section_key(x)) for z, y in own]
    levels = [z for _, _, z in whole]
    strokes += _through([(0.0, min(levels)), (0.0, max(levels))], Layer.CENTRELINE)
    return Drawing("Body plan", tuple(strokes))


def not_drawn_yet(dots: Iterable[Dot], drawn: Iterable[float]) -> tuple[Dot, ...]:
    """The points of stations that the hull has not."""
    there = set(drawn)
    return tuple(dot for dot in dots if dot.station not in there and not dot.line.startswith(("stem", "transom")))


def _cross(across: float, up: float, key: str) -> Stroke:
    return Stroke(frozen([(across, up)]), Layer.OFFSET, key=key, crosses=True)


def _through(points: Sequence[tuple[float, float]], layer: Layer, key: str = "") -> list[Stroke]:
    """A line through points; none through fewer than two different ones."""
    return [Stroke(frozen(list(points)), layer, key=key)] if len(set(points)) > 1 else []
