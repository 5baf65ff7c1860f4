"""Where each row of the table lies on the skin: its place (u, v) on the surface and the way it can move it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.curves import LoftCurve
from ..hull.build import Hull, section_starts
from ..offsets.table import END_LABELS, STATION_LABELS, EndKind, OffsetsTable, Section

DENSE = 181


@dataclass(frozen=True)
class SkinPoints:
    """The rows that lie on one panel, station by station, then its two ends.

    `rows` numbers in the table; `at` (n, 2) places (u, v); `values` (n, 2) half-breadths and heights;
    `normals` (n, 3) outward; `judged` (n,) whether it is a station's row (the ends only bear witness).
    """

    rows: tuple[int, ...]
    at: Array
    values: Array
    normals: Array
    judged: tuple[bool, ...]


def station_rows(table: OffsetsTable, x: float) -> list[int]:
    """Numbers of the rows of a station, keel to sheer."""
    return [k for k, row in enumerate(table.rows) if row.station == x and row.label in STATION_LABELS]


def end_rows(table: OffsetsTable, hull: Hull) -> tuple[list[int], list[int]]:
    """Numbers of the rows of the bow's and the stern's edge, foot to head; empty where an end is open."""
    lines = hull.lines
    middle = float(lines.bow.points[:, 0].mean() + lines.stern.points[:, 0].mean()) / 2
    found: tuple[list[int], list[int]] = ([], [])
    for k, row in enumerate(table.rows):
        if row.label in END_LABELS:
            at_stern = row.label.startswith("stem_stern") or (
                not row.label.startswith("stem_") and row.station > middle
            )
            found[at_stern].append(k)
    return found


def skin_points(table: OffsetsTable, hull: Hull) -> tuple[SkinPoints, ...]:
    """The rows of the table on each panel of the hull built from it, keel panel first.

    A row on a knuckle belongs to both panels.
    """
    return tuple(_on_panel(table, hull, k) for k in range(len(hull.panels)))


def _on_panel(table: OffsetsTable, hull: Hull, panel: int) -> SkinPoints:
    rows: list[int] = []
    v: list[float] = []
    points: list[Array] = []
    judged: list[bool] = []
    total = len(hull.panels) - 1
    starts = section_starts(hull.lines, panel)
    for section in hull.lines.stations:
        part = _panel_part(section, panel, total)
        if part is None:
            continue
        numbers = [station_rows(table, section.x)[k] for k in part]
        start = starts.get(section.x, 0.0)
        fractions = LoftCurve(section.points[part]).fractions
        rows += numbers
        v += (start + (1 - start) * fractions).tolist()
        points += list(section.points[part])
        judged += [True] * len(part)
    for end, numbers in zip((hull.lines.bow, hull.lines.stern), end_rows(table, hull), strict=True):
        if end.kind is EndKind.OPEN:
            continue
        cuts = [0, *end.knuckles, len(end.points) - 1]
        part = list(range(cuts[panel], cuts[panel + 1] + 1))
        rows += [numbers[k] for k in part]
        v += LoftCurve(end.points[part]).fractions.tolist()
        points += list(end.points[part])
        judged += [False] * len(part)
    where = np.array(points)
    up = np.array(v)
    surface = hull.panels[panel].surface
    u = _along(surface.points(np.linspace(0, 1, DENSE)[None, :], up[:, None])[..., 0], where[:, 0])
    jet = surface.jet(np.clip(u, 0.002, 0.998), np.clip(up, 0.002, 0.998))  # the very corners may be degenerate
    return SkinPoints(
        tuple(rows), frozen(np.column_stack([u, up])), frozen(where[:, 1:]), frozen(jet.normal), tuple(judged)
    )


def _panel_part(section: Section, panel: int, total: int) -> list[int] | None:
    """Which points of a station lie on a panel; None if the station starts above it."""
    own = panel - (total - len(section.knuckles))
    if own < 0:
        return None
    cuts = [0, *section.knuckles, len(section.points) - 1]
    return list(range(cuts[own], cuts[own + 1] + 1))


def _along(x: Array, wanted: Array) -> Array:
    """u at which each row of positions (n, DENSE) at even u reaches its own wanted (n,) position."""
    even = np.linspace(0, 1, x.shape[1])
    return np.array(
        [np.interp(w, np.maximum.accumulate(row), even) for w, row in zip(wanted, x, strict=True)]
    )
