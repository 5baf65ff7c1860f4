"""The molds' edges and places."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..hull.stages import DECK_DRAWN, HULL, SETTLED, WATERLINE
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from collections.abc import Mapping

    from ..findings import Finding
    from .bays import Bays
    from .stations import MoldSet
    from .stringers import Stringers

SHAPE = (
    "molds.edge",
    "molds.skin",
    "molds.strapping",
    "molds.false_bottom",
    "molds.faces",
    "molds.deduction",
    "molds.thickness",
    "molds.stations",
    "molds.every",
    "molds.spall_above",
    "closed_under",
)
"""What the edges and places of molds depend on; all else is about their pieces."""


def _molds(given: Given) -> MoldSet:
    from .stations import UnderDeck, make_molds

    skin, drawn = given.job.closed_under, given[DECK_DRAWN]
    under = None if skin is None or drawn.deck is None else UnderDeck(drawn.deck, skin)
    return make_molds(given[HULL], given.job.molds, given[WATERLINE].height, under)


def _stringers(given: Given) -> Stringers:
    from .stringers import stringers_in

    return stringers_in(given[HULL], given[MOLDS].molds, given.job)


def _uncertain(given: Given) -> Mapping[str, float]:
    from ..hull.unsettled import unsettled_at

    return {m.name: unsettled_at(given[SETTLED], m.station) for m in given[MOLDS].molds}


def _bays(given: Given) -> Bays:
    from .bays import Bays, bays

    placed = [(mold.name, mold.station) for mold in given[MOLDS].molds]
    return Bays(bays(given[HULL], placed), given.job.setup.mend_above)


def _bay_findings(found: Bays) -> list[Finding]:
    from .bays import bay_findings

    return bay_findings(found)


MOLDS = Stage("molds", "molds", "the molds", SHAPE, (HULL, WATERLINE, DECK_DRAWN), _molds, lambda molds: molds.findings)
STRINGERS = Stage(
    "stringers",
    "molds",
    "where stringers lie",
    (
        "inside.stringers",
        "inside.stringer_width",
        "inside.stringer_thickness",
        "molds.stringer_notches",
        "molds.skin",
        "molds.strapping",
        "molds.false_bottom",
        "form.kind",
        "veneers.layers",
    ),
    (HULL, MOLDS),
    _stringers,
    lambda own: own.findings,
)
UNCERTAIN_MOLDS = Stage("uncertain-molds", "molds", "how far molds may be out", (), (SETTLED, MOLDS), _uncertain, turn=Turn.CHECKS)
BAYS = Stage(
    "bays", "molds", "how strips lie between molds", ("setup.mend_above",), (HULL, MOLDS), _bays, _bay_findings, Turn.CHECKS
)

STAGES = (MOLDS, STRINGERS, UNCERTAIN_MOLDS, BAYS)
