"""What a table that is about to be typed will hold: its stations, lines and ends, in profile."""

from __future__ import annotations

from ...core.geometry.arrays import frozen
from ...core.offsets.typed_sheet import Ending, Wanted
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line

DEPTH = 0.16
"""Depth of the picture as a share of its length, where no waterline tells it."""
OVERHANG, RAKE = 0.08, 0.05


def new_table_drawing(wanted: Wanted, style: LengthStyle) -> Drawing:
    """A profile that is nobody's hull: only what was asked for stands in it."""
    places = sorted(wanted.stations)
    if len(places) < 2 or places[-1] <= places[0]:
        return Drawing("", ())
    first, last = places[0], places[-1]
    long = last - first
    top = max([*(z * 1.35 for z in wanted.waterlines), DEPTH * long])
    strokes = [line((x, 0.0), (x, top), layer=Layer.STATION) for x in places]
    strokes += [line((first, z), (last, z), layer=Layer.WATERLINE) for z in wanted.waterlines]
    strokes += [line((first, 0.0), (last, 0.0), layer=Layer.HULL), line((first, top), (last, top), layer=Layer.HULL)]
    for k in range(wanted.chines):
        at = top * (k + 1) / (wanted.chines + 2)
        strokes.append(line((first, at), (last, at), layer=Layer.MOLD))
    for end, x, way in ((wanted.bow, first, -1.0), (wanted.stern, last, 1.0)):
        if end is Ending.STEM:
            points = [(x, 0.0), (x + way * 0.6 * OVERHANG * long, 0.35 * top), (x + way * OVERHANG * long, top)]
        elif end is Ending.TRANSOM:
            points = [(x, 0.0), (x + way * RAKE * long, top)]
        else:
            points = [(x, 0.0), (x, top)]
        strokes.append(Stroke(frozen([*points, (x, top)]), Layer.HULL))
    labels = [Label((x, 0.0), format_length(x, style), Layer.STATION, rise=-1) for x in _some(places)]
    labels += [Label((first, z), format_length(z, style), Layer.WATERLINE, "right") for z in wanted.waterlines]
    return Drawing("What will be typed", tuple(strokes), tuple(labels))


def _some(places: list[float]) -> list[float]:
    return places if len(places) <= 8 else [places[0], places[len(places) // 2], places[-1]]
