"""What can be chosen about a deck."""

from __future__ import annotations

from enum import StrEnum


class DeckFrom(StrEnum):
    """What gives a deck its shape."""

    TABLE = "table"
    CAMBER = "camber"


class CamberRule(StrEnum):
    """How the crown goes with the beam."""

    ONE_PATTERN = "one-pattern"
    PROPORTION = "proportion"


class Ridge(StrEnum):
    """How the deck runs along its centreline."""

    CROWN = "crown"
    STRAIGHT = "straight"
    SWEPT = "swept"


class DeckMolds(StrEnum):
    """How the molds are cut where there is a deck."""

    CLOSED = "closed"
    APART = "apart"
    HULL_ONLY = "hull"


class BreakInto(StrEnum):
    """What closed molds are sawn part-way for, so that they come out broken."""

    WHOLE = "whole"
    TWO = "two"
    FOUR = "four"


class DeckGuide(StrEnum):
    """Where the strips of a deck begin."""

    SHEER = "sheer"
    CENTRE = "centre"
    BOTH = "both"


class DeckLayout(StrEnum):
    """Whether the strips of a deck are all of one width, or the girth is divided."""

    PARALLEL = "parallel"
    TAPERED = "tapered"


class JoinKind(StrEnum):
    """How deck and hull meet at the sheer."""

    MITER = "miter"
    RECESS = "recess"


class OpeningShape(StrEnum):
    """The shape of an opening in the deck."""

    ELLIPSE = "ellipse"
    EGG = "egg"
    RECTANGLE = "rectangle"
    DRAWN = "drawn"
