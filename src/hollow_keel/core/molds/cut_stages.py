"""The pieces that molds are cut as, and whether they can be cut and stand as asked."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..findings import Finding
from ..hull.stages import HULL, WATERLINE
from ..job import MoldSettings, SetupSettings
from ..setup.stages import SETUP
from ..stage import Given, Stage, Turn, fields_of
from .choices import MoldEdgeKind
from .stages import MOLDS, SHAPE

if TYPE_CHECKING:
    from collections.abc import Mapping

    from .pieces import Piece

PIECE = (
    *fields_of(MoldSettings, "molds", but=("kind", "gussets", "mark_waterlines", "mark_buttocks", "mark_planks")),
    *fields_of(SetupSettings, "setup", but=("length", "width", "castors", "wedges", "fairs_below", "mend_above")),
)  # fmt: skip
"""What a piece depends on: all but what is marked on it, and what its strongback is made of."""


def _pieces(given: Given) -> Mapping[str, Piece]:
    from .pieces import make_piece

    job, level = given.job, given[SETUP].beam_level
    return {m.name: make_piece(m, job.molds, job.setup, level) for m in given[MOLDS].molds}


def _piece_findings(pieces: Mapping[str, Piece]) -> list[Finding]:
    return [finding for piece in pieces.values() for finding in piece.findings]


def _proud(given: Given) -> tuple[Finding, ...]:
    from .proof import proud_molds

    settings = given.job.molds
    if settings.edge is not MoldEdgeKind.SQUARE:
        return ()
    return proud_molds(given[HULL], given[MOLDS], settings, given[WATERLINE].height)


def _printed(given: Given) -> tuple[Finding, ...]:
    from .printed import changed_since

    return changed_since(given.job.printed, given[MOLDS].molds, list(given[PIECES].values()))


PIECES = Stage("pieces", "molds", "the pieces of the molds", PIECE, (MOLDS, SETUP), _pieces, _piece_findings)
PROUD = Stage(
    "proud", "molds", "whether molds stand proud of the planking", SHAPE, (HULL, MOLDS, WATERLINE), _proud,
    lambda found: found, Turn.CHECKS,
)  # fmt: skip
PRINTED = Stage(
    "printed", "molds", "whether printed patterns are right still", ("printed",), (MOLDS, PIECES), _printed,
    lambda found: found, Turn.CHECKS,
)  # fmt: skip

STAGES = (PIECES, PROUD, PRINTED)
