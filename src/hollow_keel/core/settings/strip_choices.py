"""What a builder chooses about how strips are laid."""

from __future__ import annotations

from enum import StrEnum


class Guide(StrEnum):
    """The line the first strip follows: the sheer, the keel, a master line on the hull with strips both ways, or both edges
    with a closing seam between them."""

    SHEER = "sheer"
    KEEL = "keel"
    MASTER = "master"
    BOTH = "both"


class MasterKind(StrEnum):
    """How a master line is given: a height amidships carried along with the sheer's sweep, heights at stations, a share of
    the girth, a diagonal, or the natural line that a strip takes by itself."""

    HEIGHT = "height"
    HEIGHTS = "heights"
    GIRTH = "girth"
    DIAGONAL = "diagonal"
    NATURAL = "natural"


class StripLayout(StrEnum):
    """Strips of one width; each station's girth divided into equally many; full width amidships and tapered beyond; or of one
    width but for a few tapered ones that bring the run back, so that fewer run out."""

    PARALLEL = "parallel"
    TAPERED = "tapered"
    MIXED = "mixed"
    FEW = "few"


class Meeting(StrEnum):
    """How both sides meet on the bottom: one is run past the centreline and cut, the other fitted to it; or they lie over each
    other in turn."""

    CUT = "cut"
    INTERLEAVED = "interleaved"


class MeetOn(StrEnum):
    """Where both sides meet along a keel that has a flat: each ends on it, at the keel line; or they run on over it to the true
    centreline. Without a flat the keel line is the centreline."""

    KEEL_LINE = "keel line"
    CENTRELINE = "centreline"


class Course(StrEnum):
    """Which way strips follow each other from their guide."""

    DOWN = "down"
    UP = "up"


class RestWay(StrEnum):
    """How the rest is laid once the work has drifted from the plan: on as planned from where the last strips really lie; all of it
    tapered alike, so that the last one lands on the line; or brought back to the plan by a few tapered ones."""

    ON = "on"
    TAPER = "taper"
    FEW = "few"
