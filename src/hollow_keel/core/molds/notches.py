"""Room cut into a mold's edge: for keel or hog, for an inner stem, for stringers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ..job import MoldSettings
from .stations import Mold
from .stringers import StringerNotch

BEYOND_MM = 50.0
"""A notch is drawn so far out past the edge that it surely opens it."""


@dataclass(frozen=True)
class Notch:
    """An opening in the edge of a mold: what it is for, its shape, where its floor is, and the angle of that floor
    across the sheet (radians, positive where it rises towards the stern)."""

    what: str
    room: shapely.Polygon
    floor: tuple[float, float]
    slope: float = 0.0


def notches(mold: Mold, settings: MoldSettings, stringers: Sequence[StringerNotch] = ()) -> list[Notch]:
    """All notches of a mold, both sides of it; `stringers` are those that come to it."""
    found: list[Notch] = []
    if mold.on_stem and settings.stem_width > 0 and settings.stem_depth > 0:
        found.append(_at_foot(mold, "stem", settings.stem_width, settings.stem_depth, settings.clearance))
    elif settings.notch_width > 0 and settings.notch_depth > 0:
        found.append(_at_foot(mold, "keel", settings.notch_width, settings.notch_depth, settings.clearance))
    for own in stringers:
        found += _stringer(own, settings.clearance)
    return found


def _at_foot(mold: Mold, what: str, width: float, depth: float, clearance: float) -> Notch:
    half = width / 2 + clearance
    foot = float(mold.edge.keel[1])
    floor = foot + depth + clearance
    return Notch(what, shapely.box(-half, foot - BEYOND_MM, half, floor), (0.0, floor), mold.foot)


def _stringer(own: StringerNotch, clearance: float) -> list[Notch]:
    """The notches for one stringer, right and left: square to the edge, their mouths open."""
    at, along = own.at, own.along
    inward = np.array([-along[1], along[0]])
    half, deep = own.wide / 2 + clearance, own.deep + clearance
    corners = np.array(
        [
            at - half * along - BEYOND_MM * inward,
            at + half * along - BEYOND_MM * inward,
            at + half * along + deep * inward,
            at - half * along + deep * inward,
        ]
    )
    floor = at + deep * inward
    return [
        Notch("stringer", shapely.Polygon(corners * [side, 1.0]), (side * float(floor[0]), float(floor[1]))) for side in (1.0, -1.0)
    ]
