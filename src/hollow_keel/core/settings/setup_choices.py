"""What a builder chooses about the strongback."""

from __future__ import annotations

from enum import StrEnum


class HullEnd(StrEnum):
    """One end of the hull."""

    BOW = "bow"
    STERN = "stern"


class Strongback(StrEnum):
    """What the molds stand on: a beam through a hole in each, a table or ladder under their legs, two rails under
    their feet."""

    BEAM = "beam"
    TABLE = "table"
    RAILS = "rails"
