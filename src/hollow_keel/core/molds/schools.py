"""What the two schools of deduction come to, beside each other along one mold's edge."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import MoldSettings
from ..settings.mold_choices import Deduction
from .shape import mold_edges
from .stations import Mold


def in_plane_excess(hull: Hull, mold: Mold, settings: MoldSettings, waterline: float) -> Array:
    """How much larger the in-plane school leaves the mold than the true one, at each point of the mold's edge, (n,) mm,
    never negative: within the section less is taken off wherever the hull narrows.

    Within the plane of the section the true school takes off t / cos(bevel), to within 0.002 mm at a skin of 12 mm
    (measured); only a false bottom, whose deduction changes along the edge, is worked out by laying both edges.
    """
    if not settings.false_bottom:
        excess: Array = settings.deducted * (1.0 / np.cos(mold.edge.narrowing) - 1.0)
        return excess
    quick = settings.deduction is Deduction.IN_PLANE
    school = Deduction.NORMAL if quick else Deduction.IN_PLANE
    other = mold_edges(hull, [mold.station], settings.deducted, school, waterline, settings.false_bottom)[0]
    own = mold.edge.points
    if other is None:
        return np.zeros(len(own))
    import shapely  # loads slowly

    line = shapely.LineString(np.concatenate([other.points, other.points[-1:] + _onward(other.points)]))
    result: Array = np.asarray(shapely.distance(shapely.points(own), line))
    return result


def _onward(points: Array) -> Array:
    """A step straight on past the end of a line: the two edges end at slightly different places."""
    step = points[-1:] - points[-2:-1]
    result: Array = 50.0 * step / np.linalg.norm(step)
    return result
