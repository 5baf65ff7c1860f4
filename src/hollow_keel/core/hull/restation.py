"""The same hull with stations elsewhere: its surface cut at new positions and written down again."""

from __future__ import annotations

import numpy as np

from ..errors import InputError
from ..findings import mm
from ..geometry.arrays import Array
from ..geometry.curves import LoftCurve
from ..geometry.surface import TensorSurface
from ..offsets.table import DECK_LABELS, STATION_LABELS, EndKind, OffsetRow, OffsetsTable, end_rows, read_lines, to_tenth
from .build import Hull
from .end_points import end_points
from .slices import slice_along

FINE = 41
MOST = 200
DECK_POINTS = 6
"""Points of a new station past its sheer, on each part of the deck."""


def restationed(table: OffsetsTable, hull: Hull, spacing: float, points: int = 9, deck: Hull | None = None) -> OffsetsTable:
    """Stations at every `spacing` mm between the ends of the hull, `points` rows on each part of a section.

    Rows of stems and transoms stay. Values are rounded to 0.1 mm. Raises InputError where the spacing is out of
    reason or a hull is open at an end (its last stations are its ends and cannot be left out).
    """
    if EndKind.OPEN in (hull.lines.bow.kind, hull.lines.stern.kind):
        raise InputError("this hull is open at an end", mend="Give it a stem or a transom first.")
    low, high = float(hull.lines.bow.points[-1, 0]), float(hull.lines.stern.points[-1, 0])
    if not (high - low) / MOST < spacing < (high - low) / 4:
        raise InputError(
            "this spacing does not suit the hull",
            value=mm(spacing),
            mend=f"Give one that leaves at least three stations on {mm(round(high - low))}.",
        )
    positions = np.arange(np.floor(low / spacing) + 1, np.ceil(high / spacing)) * spacing
    rows = [row for x in positions.tolist() if (own := _station(table, hull, x, points)) for row in (*own, *_over(deck, x))]
    bow, stern = (_with_deck(table, numbers) for numbers in end_rows(table, hull.lines))
    made = table.model_copy(update={"rows": (*bow, *rows, *stern)})
    read_lines(made)
    return made


def with_station(table: OffsetsTable, hull: Hull, x: float, points: int = 9, deck: Hull | None = None) -> OffsetsTable:
    """The table with one station more at x mm, measured on the hull's own surface: on the designer's lines where the table
    is kept by lines, else at even steps of the girth. Raises InputError for a position that has one, or off the hull.
    """
    if any(abs(section.x - x) < 1.0 for section in hull.lines.stations):
        raise InputError("there is a station here already", value=f"{x:g}", mend="Give another position.")
    rows = [*_station(table, hull, x, points), *_over(deck, x)]
    if not rows:
        raise InputError("this position lies beyond the hull", value=f"{x:g}", mend="Give one between bow and stern.")
    own = STATION_LABELS | DECK_LABELS
    after = [k for k, row in enumerate(table.rows) if row.label in own and row.station < x]
    first = next(k for k, row in enumerate(table.rows) if row.label in STATION_LABELS)
    at = after[-1] + 1 if after else first
    made = table.model_copy(update={"rows": (*table.rows[:at], *rows, *table.rows[at:])})
    read_lines(made)
    return made


def _over(deck: Hull | None, x: float) -> list[OffsetRow]:
    """Rows of a new station past its sheer, from the deck's own surface; none without a deck there."""
    parts = [] if deck is None else [part for k in range(len(deck.panels)) if (part := section_at(deck, k, x)) is not None]
    rows: list[OffsetRow] = []
    for k, part in enumerate(parts):
        places = LoftCurve(part).at_fractions(np.linspace(0, 1, DECK_POINTS + 1))[1:]
        last = "deck_centre" if k == len(parts) - 1 else "deck_chine"
        labels = [*["deck"] * (len(places) - 1), last]
        rows += [
            OffsetRow(station=x, label=label, half_breadth=to_tenth(max(y, 0.0)), height=to_tenth(z))
            for label, (_, y, z) in zip(labels, places.tolist(), strict=True)
        ]
    return rows


def _with_deck(table: OffsetsTable, numbers: list[int]) -> list[OffsetRow]:
    """The rows of an end with those of the deck that follow them."""
    if not numbers:
        return []
    rows = [table.rows[k] for k in numbers]
    after = numbers[-1] + 1
    while after < len(table.rows) and table.rows[after].label in DECK_LABELS:
        rows.append(table.rows[after])
        after += 1
    return rows


def _station(table: OffsetsTable, hull: Hull, x: float, points: int) -> list[OffsetRow]:
    """Rows of a new station, keel to sheer; none where the plane misses the hull."""
    parts = [part for k in range(len(hull.panels)) if (part := section_at(hull, k, x)) is not None]
    rows: list[OffsetRow] = []
    for k, part in enumerate(parts):
        own = LoftCurve(part)
        between = _on_lines(own, table) if table.lines else own.at_fractions(np.linspace(0, 1, points))[1:-1]
        places = np.concatenate([own.points[:1], between, own.points[-1:]])
        labels = ["keel" if k == 0 else "chine", *["wl"] * len(between), "sheer"]
        for n, (label, (_, y, z)) in enumerate(zip(labels, places.tolist(), strict=True)):
            if n == len(labels) - 1 and k < len(parts) - 1:
                continue  # the next part begins with it
            rows.append(OffsetRow(station=x, label=label, half_breadth=to_tenth(max(y, 0.0)), height=to_tenth(z)))
    return rows


def _on_lines(curve: LoftCurve, table: OffsetsTable) -> Array:
    """Where a section crosses the table's own lines, in order from its foot, (n, 3); not at its very ends."""
    found: list[float] = []
    for plane in table.lines:
        cut = slice_along(plane)
        share = curve.fraction_across(np.array([0.0, cut.out, cut.up]), cut.level)
        if share is not None and 2.0 < share * curve.length < curve.length - 2.0:
            found.append(share)
    return curve.at_fractions(np.array(sorted(found))) if found else np.zeros((0, 3))


def section_at(hull: Hull, panel: int, x: float) -> Array | None:
    """The hull's section at a position, mm, within one panel, (n, 3) mm from its lower edge up; None if it has none there."""
    start = 0.0
    for end in (hull.lines.bow, hull.lines.stern):
        curve = LoftCurve(end_points(hull.lines, end, panel))
        foot, head = curve.points[0, 0], curve.points[-1, 0]
        forward = end is hull.lines.bow
        if (x <= head) if forward else (x >= head):
            return None
        if (x < foot) if forward else (x > foot):
            start = curve.fraction_where(0, x) or 0.0
    v = np.linspace(start, 1.0, FINE)
    return _points_at(hull.panels[panel].surface, x, v)


def _points_at(surface: TensorSurface, x: float, v: Array) -> Array:
    grid = np.linspace(0, 1, 161)
    along = surface.points(grid[None, :], v[:, None])[..., 0]
    u = np.array([np.interp(x, np.maximum.accumulate(row), grid) for row in along])
    for _ in range(4):
        jet = surface.jet(u, v)
        steep = np.where(np.abs(jet.du[:, 0]) > 1e-6, jet.du[:, 0], np.inf)
        u = np.clip(u + (x - jet.point[:, 0]) / steep, 0.0, 1.0)
    points = surface.points(u, v)
    points[:, 0] = x
    return points
