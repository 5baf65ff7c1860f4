"""What can be chosen about layers of veneer."""

from __future__ import annotations

from enum import StrEnum


class Direction(StrEnum):
    """Which way the veneers of a layer run."""

    ANGLE = "angle"
    ALONG = "along"
    ACROSS = "across"
