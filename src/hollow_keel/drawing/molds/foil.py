"""A foil section at full size, with the two templates that its leading and trailing edge are checked by."""

from __future__ import annotations

import numpy as np
import shapely

from ...core.molds.foil import foil_section, leading_radius
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, box, line

NOSE_SHARE, TAIL_SHARE = 0.35, 0.45
"""How much of the chord each template reaches round."""
BACK_MM = 40.0
"""Wood left round the section in a template."""
APART_MM = 60.0


def foil_drawing(chord: float, thickness: float, style: LengthStyle) -> Drawing:
    """The section, below it the template of the nose and that of the tail. Raises InputError for no foil."""
    outline = foil_section(chord, thickness)
    down = thickness + 2 * BACK_MM + APART_MM
    strokes = [
        Stroke(outline, Layer.MOLD, closed=True),
        line((-20.0, 0.0), (chord + 20.0, 0.0), layer=Layer.CENTRELINE),
        box(0.3 * chord, -thickness / 2, 0.3 * chord + 0.01, thickness / 2, Layer.STATION),
    ]
    section = shapely.Polygon(outline)
    half = thickness / 2 + BACK_MM
    for low, high, shift in ((-BACK_MM, NOSE_SHARE * chord, 0.0), ((1 - TAIL_SHARE) * chord, chord + BACK_MM, APART_MM)):
        cut = shapely.difference(shapely.box(low, -half, high, half), section)
        whole = max(shapely.get_parts(cut), key=lambda part: part.area)
        moved = np.asarray(whole.exterior.coords)[:-1] + np.array([shift, -down])
        strokes.append(Stroke(moved, Layer.MOLD, closed=True))
        strokes.append(line((low + shift, -down), (high + shift, -down), layer=Layer.CENTRELINE))
    words = f"chord {format_length(chord, style, unit=True)}, {format_length(thickness, style, unit=True)} thick"
    nose = f"nose radius {format_length(leading_radius(chord, thickness), style, unit=True)}"
    labels = (
        Label((chord / 2, thickness / 2), f"FOIL {words}", Layer.TITLE, rise=1),
        Label((chord / 2, -thickness / 2), f"thickest at {format_length(0.3 * chord, style, unit=True)} · {nose}", rise=-1),
        Label((0.0, -down - half), "leading edge", rise=-1, anchor="left"),
        Label((chord + APART_MM, -down - half), "trailing edge", rise=-1, anchor="right"),
    )
    return Drawing("Foil", tuple(strokes), labels)
