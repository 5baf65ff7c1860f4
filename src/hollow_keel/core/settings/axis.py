"""Where on the boat a length lies: told with the length, so that turning a boat round, raising its baseline and scaling it change
all that they have to change, and nothing else."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from ..units import FARTHEST_MM


class Axis(StrEnum):
    """What a length, or another number, is measured along."""

    POSITION = "position"
    """A place along the hull, from where the table counts."""
    ALONG = "distance along the hull"
    LEAN = "distance towards the stern"
    """Less than nothing towards the bow."""
    HEIGHT = "height"
    """By the heights of the table."""
    UP = "difference of heights"
    OFF = "half-breadth"
    """A place off the centreline, to starboard; less than nothing to port."""
    ACROSS = "distance across"
    GIRTH = "girth"
    """Along a section's skin."""
    SIZE = "size"
    """Of wood, a tool, what stands in the shop, or as it was read: the same on whatever boat."""
    NONE = "no length"


class Marker(StrEnum):
    """What else is told with a value for a boat that is turned round."""

    IN_ORDER = "in order"
    """A list that goes from the bow aft."""
    MOLD = "mold"
    """A mold's name."""


_finite = Field(gt=-FARTHEST_MM, lt=FARTHEST_MM, allow_inf_nan=False)
_positive = Field(gt=0, lt=1e6, allow_inf_nan=False)
_not_negative = Field(ge=0, lt=1e6, allow_inf_nan=False)

Position = Annotated[float, _finite, Axis.POSITION]
Positions = Annotated[tuple[Position, ...], Marker.IN_ORDER]
Along = Annotated[float, _positive, Axis.ALONG]
AlongOr0 = Annotated[float, _not_negative, Axis.ALONG]
Lean = Annotated[float, _finite, Axis.LEAN]
Height = Annotated[float, _finite, Axis.HEIGHT]
Rise = Annotated[float, _finite, Axis.UP]
UpOr0 = Annotated[float, _not_negative, Axis.UP]
Off = Annotated[float, _finite, Axis.OFF]
Across = Annotated[float, _positive, Axis.ACROSS]
Girth = Annotated[float, _finite, Axis.GIRTH]
Size = Annotated[float, _positive, Axis.SIZE]
SizeOr0 = Annotated[float, _not_negative, Axis.SIZE]
AsRead = Annotated[float, _finite, Axis.SIZE]
"""A size of either sign, or what a tape read."""
MoldName = Annotated[str, Marker.MOLD]
