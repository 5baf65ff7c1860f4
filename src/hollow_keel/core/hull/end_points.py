"""The points that a stem or transom is drawn through: its own rows, and the feet of the stations that cross it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..geometry.arrays import Array, lengths
from ..geometry.curves import LoftCurve
from ..offsets.table import End, EndKind, Lines, Section, spans

CurveMaker = Callable[[Array], LoftCurve]

HAIR_MM = 0.5
"""The breadth of a panel where it comes to a point: less than a saw's cut."""
ON_IT_MM = 0.1
"""A station's foot that stands off the end's own curve by no more is on it."""
STEEPEST = 0.15
"""Nor does one count that stands off it by more than this share of the way to the next point: the two rows contradict."""


def end_points(lines: Lines, end: End, panel: int, make: CurveMaker = LoftCurve) -> Array:
    """The points of an end within a panel from foot to head, (n, 3), mm. A panel that comes to a point there, as a bottom does
    whose chine runs into the stem's foot, is given a hair's breadth. `make` makes curves: one that keeps them saves time."""
    points = end.points[spans(len(end.points), end.knuckles)[panel]]
    if len(points) < 2:
        return np.concatenate([points, points + np.array([0.0, HAIR_MM, 0.0])])
    if end.kind is EndKind.OPEN:
        return points
    feet = [foot for foot in _feet(lines, panel) if _beyond(foot, end is lines.bow, points)]
    return _with_feet(points, make(points), feet) if feet else points


def _feet(lines: Lines, panel: int) -> list[Array]:
    """The first points of the stations that begin in a panel."""
    total = len(lines.bow.knuckles)

    def begins(section: Section) -> bool:
        return total - len(section.knuckles) == panel

    return [section.points[0] for section in lines.sections if begins(section)]


def _beyond(foot: Array, bow: bool, points: Array) -> bool:
    low, high = sorted((float(points[0, 0]), float(points[-1, 0])))
    crosses = foot[0] < points[0, 0] if bow else foot[0] > points[0, 0]
    return bool(crosses) and low < foot[0] < high


def _with_feet(points: Array, curve: LoftCurve, feet: list[Array]) -> Array:
    placed: list[tuple[float, Array]] = list(zip(curve.fractions.tolist(), points, strict=True))
    for foot in feet:
        share = curve.fraction_where(0, float(foot[0]))
        if share is None:
            continue
        off = float(np.linalg.norm(curve.at_fractions(np.array([share]))[0] - foot))
        room = float(lengths(points - foot).min())
        if ON_IT_MM < off < STEEPEST * room:
            placed.append((share, foot))
    return np.array([point for _, point in sorted(placed, key=lambda p: p[0])])
