"""What can be chosen about layers of veneer and the form they are laid on."""

from __future__ import annotations

from enum import StrEnum


class Direction(StrEnum):
    """Which way the veneers of a layer run."""

    ANGLE = "angle"
    ALONG = "along"
    ACROSS = "across"


class AngleFrom(StrEnum):
    """What the angle of a layer is measured from, at its first veneer."""

    HULL = "hull"
    KEEL = "keel"
    WATERLINE = "waterline"


class Hold(StrEnum):
    """What holds a layer down while its glue sets."""

    STAPLED = "stapled"
    BAGGED = "bagged"


class FormKind(StrEnum):
    """What veneers are laid on."""

    MOLDS = "molds"
    RIBBANDS = "ribbands"
    STRINGERS = "stringers"
