"""What a builder chooses about molds."""

from __future__ import annotations

from enum import StrEnum


class Deduction(StrEnum):
    """Which way the skin's thickness is taken off."""

    NORMAL = "normal"
    IN_PLANE = "in-plane"


class FaceChoice(StrEnum):
    """Which face of a mold stands on the station line."""

    NEAR_END = "near-end"
    FORWARD = "forward"
    AFT = "aft"


class MoldForm(StrEnum):
    """What is left of the sheet inside a mold's edge."""

    SOLID = "solid"
    RING = "ring"
    HOLES = "holes"


class MoldKind(StrEnum):
    """Whether it is taken out again or stays in the boat."""

    TEMPORARY = "temporary"
    FRAME = "frame"


class StringerNotches(StrEnum):
    """Where molds are notched for stringers."""

    AS_WOOD = "as-wood"
    SHARE = "share"
    NONE = "none"


class MoldEdgeKind(StrEnum):
    """A square edge that touches on one sharp line, or one bevelled to lie against the planking."""

    SQUARE = "square"
    BEVELLED = "bevelled"
