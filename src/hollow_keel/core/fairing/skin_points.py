"""Where each row of the table lies on the skin: its place (u, v) on the surface and the way it can move it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.curves import LoftCurve
from ..geometry.surface import TensorSurface
from ..hull.build import Hull, section_starts
from ..offsets.table import STATION_LABELS, EndKind, OffsetsTable, Section, end_rows, spans

DENSE = 121
STRIDES = 25
ASPECT = 2.0
"""How many greatest girths the hull's length counts for in the places below."""


@dataclass(frozen=True)
class SkinPoints:
    """The rows that lie on one panel, station by station, then its two ends.

    `rows` numbers in the table; `at` (n, 2) their places: how far along the hull, and how far down the
    skin from the panel's upper edge in the plane of the station, both as shares. Unlike the surface's own
    parameters these run smoothly past the foot of a stem. `values` (n, 2) half-breadths and heights;
    `normals` (n, 3) outward; `judged` (n,) whether it is a station's row (the ends only bear witness).
    """

    rows: tuple[int, ...]
    at: Array
    values: Array
    normals: Array
    judged: tuple[bool, ...]


def station_rows(table: OffsetsTable, x: float) -> list[int]:
    """Numbers of the rows of the station at x mm, keel to sheer."""
    return [k for k, row in enumerate(table.rows) if row.station == x and row.label in STATION_LABELS]


def skin_points(table: OffsetsTable, hull: Hull) -> tuple[SkinPoints, ...]:
    """The rows of the table on each panel of the hull built from it, keel panel first.

    A row on a knuckle belongs to both panels.
    """
    return tuple(_on_panel(table, hull, k) for k in range(len(hull.panels)))


@dataclass
class _Run:
    """Rows of one station or end on a panel: their points and girth fractions on the surface, and how far
    below the panel's upper edge each lies (mm)."""

    rows: list[int]
    points: Array
    v: Array
    down: Array
    judged: bool


def _on_panel(table: OffsetsTable, hull: Hull, panel: int) -> SkinPoints:
    surface = hull.panels[panel].surface
    runs = [*_stations(table, hull, panel), *_ends(table, hull, panel)]
    points = np.concatenate([run.points for run in runs])
    v = np.concatenate([run.v for run in runs])
    down = np.concatenate([run.down for run in runs])
    x = surface.points(_close_to_ends(DENSE)[None, :], v[:, None])[..., 0]
    u = _along(x, points[:, 0])
    jet = surface.jet(np.clip(u, 0.002, 0.998), np.clip(v, 0.002, 0.998))  # a very corner may be degenerate
    at = np.column_stack([ASPECT * (points[:, 0] - points[:, 0].min()) / np.ptp(points[:, 0]), down / down.max()])
    return SkinPoints(
        tuple(row for run in runs for row in run.rows),
        frozen(at),
        frozen(points[:, 1:]),
        frozen(jet.normal),
        tuple(run.judged for run in runs for _ in run.rows),
    )


def _stations(table: OffsetsTable, hull: Hull, panel: int) -> list[_Run]:
    total = len(hull.panels) - 1
    starts = section_starts(hull.lines, panel)
    found: list[_Run] = []
    for section in hull.lines.stations:
        part = _panel_part(section, panel, total)
        if part is None:
            continue
        rows = station_rows(table, section.x)
        curve = LoftCurve(section.points[part])
        start = starts.get(section.x, 0.0)
        v = start + (1 - start) * curve.fractions
        found.append(_Run([rows[k] for k in part], section.points[part], v, (1 - curve.fractions) * curve.length, judged=True))
    return found


def _ends(table: OffsetsTable, hull: Hull, panel: int) -> list[_Run]:
    """The rows of stems and transoms; how far down each lies is measured on the surface, in its own plane."""
    surface = hull.panels[panel].surface
    found: list[_Run] = []
    for end, rows in zip((hull.lines.bow, hull.lines.stern), end_rows(table, hull.lines), strict=True):
        if end.kind is EndKind.OPEN:
            continue
        part = _numbers(spans(len(end.points), end.knuckles)[panel])
        if len(part) < 2:
            continue  # the panel comes to a point there
        curve = LoftCurve(end.points[part])
        if end.kind is EndKind.TRANSOM:
            down = (1 - curve.fractions) * curve.length
        else:
            down = _down_in_plane(surface, curve.fractions, end.points[part, 0])
        found.append(_Run([rows[k] for k in part], end.points[part], curve.fractions, down, judged=False))
    return found


def _down_in_plane(surface: TensorSurface, v: Array, x: Array) -> Array:
    """Girth from the panel's upper edge down to the end of the hull at v, in the plane of position x; (n,) mm."""
    up = v[:, None] + (1 - v[:, None]) * np.linspace(0, 1, STRIDES)
    dense = surface.points(_close_to_ends(DENSE)[None, None, :], up[:, :, None])[..., 0]
    u = np.stack([_along(rows, np.full(STRIDES, own)) for rows, own in zip(dense, x, strict=True)])
    line = surface.points(u, up)
    result: Array = np.linalg.norm(np.diff(line, axis=1), axis=2).sum(axis=1)
    return result


def _close_to_ends(count: int) -> Array:
    """Parameters 0..1 that crowd towards both ends, where x changes least with them."""
    result: Array = (1 - np.cos(np.linspace(0, np.pi, count))) / 2
    return result


def _panel_part(section: Section, panel: int, total: int) -> list[int] | None:
    """Which points of a station lie on a panel; None if the station starts above it."""
    own = panel - (total - len(section.knuckles))
    if own < 0:
        return None
    return _numbers(spans(len(section.points), section.knuckles)[own])


def _numbers(part: slice) -> list[int]:
    return list(range(part.start, part.stop))


def _along(x: Array, wanted: Array) -> Array:
    """u at which each row of positions (n, DENSE) reaches its own wanted (n,) position."""
    grid = _close_to_ends(x.shape[1])
    return np.array([np.interp(w, np.maximum.accumulate(row), grid) for w, row in zip(wanted, x, strict=True)])
