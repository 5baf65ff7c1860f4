"""Where the views of a lines plan contradict each other: waterlines that cross, buttocks against waterlines."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.curves import LoftCurve
from ..hull.build import Hull
from ..offsets.by_lines import ByLines, LineRow
from ..offsets.table import LineKind, OffsetsTable, Section, stretches

LEVELS = 7
"""Waterlines looked at where the table gives none."""
CROSSED_MM = 2.0
"""Waterlines that pass each other by less only touch."""
BULGE = 0.06
"""A section may bulge out between two waterlines by this share of their distance."""
LEAST_MM = 3.0


def contradictions(table: OffsetsTable, hull: Hull) -> tuple[Finding, ...]:
    """Everything noticed between the views."""
    return (*_crossing_waterlines(table, hull), *_buttocks_against_waterlines(table))


def _look(code: str, where: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "fairing", where, text)


def _crossing_waterlines(table: OffsetsTable, hull: Hull) -> Iterator[Finding]:
    """Two waterlines may change places once, where a flared bow becomes tumblehome aft; forth and back is a slip."""
    stations = hull.lines.stations
    levels = _levels(table, stations)
    breadths = np.array([_half_breadths(section, levels) for section in stations])  # (stations, levels)
    for k in range(len(levels) - 1):
        ahead = breadths[:, k + 1] - breadths[:, k]
        sure = np.flatnonzero(np.isfinite(ahead) & (np.abs(ahead) > CROSSED_MM))
        turned = [i for i in range(1, len(sure)) if ahead[sure[i]] * ahead[sure[i - 1]] < 0]
        if len(turned) > 1:
            first, last = stations[sure[turned[0]]].x, stations[sure[turned[-1] - 1]].x
            place = f"station {mm(first)}" if first == last else f"stations {mm(first)} to {mm(last)}"
            yield _look(
                "crossing",
                place,
                f"The waterlines at {mm(levels[k])} and {mm(levels[k + 1])} cross here and cross back: "
                "one of their half-breadths is wrong.",
            )


def _levels(table: OffsetsTable, stations: tuple[Section, ...]) -> list[float]:
    own = sorted(line.level for line in table.lines if line.kind is LineKind.WATERLINE)
    if len(own) > 1:
        return own
    low = max(float(s.points[0, 2]) for s in stations[len(stations) // 4 : -len(stations) // 4 or None])
    high = min(float(s.points[-1, 2]) for s in stations)
    return [float(v) for v in np.linspace(low, high, LEVELS + 2)[1:-1]] if high > low else []


def _half_breadths(section: Section, levels: list[float]) -> Array:
    """Half-breadths of a station's drawn curve at heights; NaN where it does not reach."""
    found = np.full(len(levels), np.nan)
    for part in stretches(len(section.points), section.knuckles):
        fine = LoftCurve(section.points[part]).at_fractions(np.linspace(0, 1, 80))
        above = fine[:, 2] >= np.array(levels)[:, None]  # (levels, points)
        for n in np.flatnonzero(np.isnan(found)):
            crossed = np.flatnonzero(above[n, 1:] != above[n, :-1])
            if len(crossed) == 1:  # where it comes to a height more than once no one half-breadth stands for it
                a, b = fine[crossed[0]], fine[crossed[0] + 1]
                found[n] = a[1] + (levels[n] - a[2]) / (b[2] - a[2]) * (b[1] - a[1])
    return found


def _buttocks_against_waterlines(table: OffsetsTable) -> Iterator[Finding]:
    """A buttock's point must lie between the waterlines above and below it, where the section runs steadily."""
    read = ByLines(table)
    waterlines = _of(read, LineKind.WATERLINE)
    buttocks = _of(read, LineKind.BUTTOCK)
    for x in read.stations if waterlines and buttocks else ():
        given = [
            (line.plane.level, value)
            for line in waterlines
            if line.plane is not None and (value := read.value(line, x)) is not None
        ]
        for line in buttocks:
            height = read.value(line, x)
            if height is None or line.plane is None:
                continue
            out = line.plane.level
            for (low, inner), (high, outer) in zip(given[:-1], given[1:], strict=True):
                slack = max(LEAST_MM, BULGE * (high - low))
                if low <= height <= high and not min(inner, outer) - slack <= out <= max(inner, outer) + slack:
                    yield _look(
                        "views-disagree",
                        f"station {mm(x)}",
                        f"The buttock at {mm(out)} gives height {mm(height)}, but the waterlines at {mm(low)} and "
                        f"{mm(high)} are {mm(inner)} and {mm(outer)} out there: one of the three is wrong.",
                    )


def _of(read: ByLines, kind: LineKind) -> list[LineRow]:
    return [line for line in read.lines if line.plane is not None and line.plane.kind is kind]
