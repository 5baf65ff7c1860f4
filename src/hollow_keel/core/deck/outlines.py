"""The outlines of openings on the plan view of a deck, (position along the hull, off the centreline to starboard), mm."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from ..errors import InputError
from ..geometry.polyline import runs_along
from ..settings.deck import Opening
from ..settings.deck_choices import OpeningShape

ROUND = 181
"""Points of a curve that is drawn all round."""
QUARTER = 45
DRAWN_POINTS = 72


def outline(opening: Opening) -> shapely.Polygon:
    """The smallest template of an opening. Raises InputError for a drawn one that is no closed curve."""
    if opening.shape is OpeningShape.DRAWN:
        return _drawn(opening)
    if opening.shape is OpeningShape.RECTANGLE:
        return _rectangle(opening)
    forward = opening.forward if opening.shape is OpeningShape.EGG else 0.0
    return _egg(opening, forward)


def template(opening: Opening) -> shapely.Polygon:
    """The largest template: the smallest one, so much larger all round. Raises InputError as `outline` does."""
    found = shapely.buffer(outline(opening), opening.largest, quad_segs=QUARTER)
    assert isinstance(found, shapely.Polygon)
    return found


def _egg(opening: Opening, forward: float) -> shapely.Polygon:
    """Two half ellipses that share their widest place, `forward` of half the length ahead of the middle (towards the bow)."""
    angle = np.linspace(0.0, 2 * np.pi, ROUND)[:-1]
    half = opening.length / 2
    along = np.cos(angle)
    reach = np.where(along < 0, half * (1 - forward), half * (1 + forward))
    x = opening.at - forward * half + reach * along
    return shapely.Polygon(np.column_stack([x, opening.off + opening.width / 2 * np.sin(angle)]))


def _rectangle(opening: Opening) -> shapely.Polygon:
    radius = min(opening.corner, opening.length / 2 - 1e-6, opening.width / 2 - 1e-6)
    a, b = opening.length / 2 - radius, opening.width / 2 - radius
    core = shapely.box(opening.at - a, opening.off - b, opening.at + a, opening.off + b)
    found = shapely.buffer(core, radius, quad_segs=QUARTER) if radius > 0 else core
    assert isinstance(found, shapely.Polygon)
    return found


def _drawn(opening: Opening) -> shapely.Polygon:
    where = f"opening {opening.name}"
    if len(opening.drawn) < 3:
        given = f"{len(opening.drawn)} given"
        raise InputError("a drawn opening needs three points or more", where, given, "Draw it, or choose a shape.")
    shape = shapely.Polygon(opening.drawn)
    if not shape.is_valid or shape.area < 1.0:
        text = "the drawn curve crosses itself or encloses nothing"
        raise InputError(text, where, "", "Draw it once round, without a loop.")
    return shape


def drawn_through(points: Sequence[tuple[float, float]], count: int = DRAWN_POINTS) -> tuple[tuple[float, float], ...]:
    """A smooth closed curve through points that were drawn, mm, as so many points: a periodic cubic over their chords."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    given = np.array(points, dtype=np.float64)
    apart = np.concatenate([[True], np.linalg.norm(np.diff(given, axis=0), axis=1) > 1e-6])
    given = given[apart]
    closed = np.concatenate([given, given[:1]])
    at = runs_along(closed)
    curve = CubicSpline(at, closed, bc_type="periodic")
    return tuple((float(x), float(y)) for x, y in np.round(curve(np.linspace(0.0, at[-1], count + 1)[:-1]), 1))
