"""The points of a table as they stand, before any hull is made of them: a body plan and a profile of plain lines."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.offsets.table import STATION_LABELS, OffsetRow, OffsetsTable
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line

BETWEEN = 0.25
"""Room between body plan and profile, as a share of the body plan's height."""


def points_plan(table: OffsetsTable, style: LengthStyle) -> Drawing:
    """Sections through their points, those forward of the middle at the right; below them keel, sheer and ends in profile."""
    sections: dict[float, list[OffsetRow]] = {}
    for row in table.rows:
        if row.label in STATION_LABELS:
            sections.setdefault(row.station, []).append(row)
    if not sections:
        return Drawing("", ())
    places = sorted(sections)
    middle = (places[0] + places[-1]) / 2
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for x in places:
        own = sections[x]
        side = 1.0 if x <= middle else -1.0
        points = [(side * row.half_breadth, row.height) for row in own]
        strokes += [Stroke(frozen(points), Layer.STATION, key=f"station:{x}")] if len(points) > 1 else []
        top = points[-1]
        labels.append(Label(top, format_length(x, style), Layer.STATION, "middle", 1))
    heights = [row.height for row in table.rows]
    low, high = min(heights), max(heights)
    strokes.append(line((0.0, low), (0.0, high), layer=Layer.CENTRELINE))
    strokes += _profile(table, sections, places, (low, high))
    return Drawing("As read", tuple(strokes), tuple(labels))


def _profile(
    table: OffsetsTable, sections: dict[float, list[OffsetRow]], places: list[float], heights: tuple[float, float]
) -> list[Stroke]:
    """Keel, sheer and the ends, drawn under the body plan as wide as that."""
    low, high = heights
    wide = 2 * max(row.half_breadth for row in table.rows)
    long = max(places[-1] - places[0], 1.0)
    scale = max(wide, high - low) / long
    down = low - BETWEEN * (high - low) - high * scale
    lines = [[(x, sections[x][k].height) for x in places] for k in (0, -1)]
    for ends in (("stem_bow", "stem_bow_chine"), ("stem_stern", "stem_stern_chine"), ("transom", "transom_chine")):
        own = [(row.station, row.height) for row in table.rows if row.label in ends]
        if len(own) > 1:
            lines.append(own)
    middle = (places[0] + places[-1]) / 2
    return [
        Stroke(frozen((np.array(points) - [middle, 0.0]) * scale + [0.0, down]), Layer.SHEER_MARK)
        for points in lines
        if len(points) > 1
    ]
