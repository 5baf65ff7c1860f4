"""The pieces that molds are cut as, and whether they can be cut and stand as asked."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..findings import Finding
from ..hull.stages import HULL, WATERLINE
from ..settings.deck_choices import BreakInto, DeckMolds
from ..settings.mold_choices import MoldEdgeKind
from ..setup.stages import SETUP
from ..stage import Given, Stage, Turn
from .stages import MOLDS, STRINGERS

if TYPE_CHECKING:
    from collections.abc import Mapping

    from .mold_marks import MoldMarks
    from .parts import CutParts
    from .pieces import Piece

PIECE = (
    "molds.skin",
    "molds.strapping",
    "molds.form",
    "molds.ring_width",
    "molds.halves",
    "molds.beyond_sheer",
    "molds.notch_width",
    "molds.notch_depth",
    "molds.clearance",
    "molds.stem_width",
    "molds.stem_depth",
    "setup.strongback",
    "setup.upright",
    "setup.beam_width",
    "setup.beam_height",
    "setup.beam_clearance",
    "setup.leg_width",
    "setup.leg_spread",
    "setup.rail_spread",
    "setup.foot_height",
    "setup.overhang",
    "deck.molds",
    "deck.break_into",
    "deck.break_leave",
)
"""What a piece depends on besides its mold."""
MARKED = ("molds.mark_waterlines", "molds.mark_buttocks", "molds.spall_above", "molds.gussets")
EXCESS = ("molds.false_bottom", "molds.deduction")
"""How the two schools of deduction differ."""


def _pieces(given: Given) -> Mapping[str, Piece]:
    from .breaking import Breaking
    from .pieces import make_piece

    job, level = given.job, given[SETUP].beam_level
    deck = job.deck
    sawn = deck.molds is DeckMolds.CLOSED and deck.break_into is not BreakInto.WHOLE
    breaking = Breaking(deck.break_into, deck.break_leave) if sawn else None
    notched = given[STRINGERS].notches
    return {m.name: make_piece(m, job.molds, job.setup, level, notched.get(m.name, ()), breaking) for m in given[MOLDS].molds}


def _piece_findings(pieces: Mapping[str, Piece]) -> list[Finding]:
    return [finding for piece in pieces.values() for finding in piece.findings]


def _marks(given: Given) -> Mapping[str, MoldMarks]:
    from .mold_marks import mold_marks

    level, waterline = given[SETUP].beam_level, given[WATERLINE].height
    return mold_marks(given[HULL], given[MOLDS], given[PIECES], given[STRINGERS], given.job, level, waterline)


def _parts(given: Given) -> CutParts:
    from .parts import cut_parts

    apart = given.job.deck.molds is DeckMolds.APART
    return cut_parts(given[MOLDS], given[PIECES], given[MARKS], apart=apart)


def _proud(given: Given) -> tuple[Finding, ...]:
    from .proof import proud_molds

    settings = given.job.molds
    if settings.edge is not MoldEdgeKind.SQUARE:
        return ()
    return proud_molds(given[HULL], given[MOLDS], settings, given[WATERLINE].height)


def _printed(given: Given) -> tuple[Finding, ...]:
    from .printed import changed_since

    return changed_since(given.job.printed, given[MOLDS].molds, list(given[PIECES].values()))


PIECES = Stage("pieces", "molds", "the pieces of the molds", PIECE, (MOLDS, SETUP, STRINGERS), _pieces, _piece_findings, Turn.CUT)
MARKS = Stage(
    "marks",
    "molds",
    "the marks on the molds",
    (*PIECE, *MARKED, *EXCESS),
    (HULL, MOLDS, SETUP, WATERLINE, STRINGERS, PIECES),
    _marks,
    turn=Turn.CUT,
)
PARTS = Stage("parts", "molds", "the parts that are cut", ("deck.molds",), (MOLDS, PIECES, MARKS), _parts, turn=Turn.CUT)
PROUD = Stage(
    "proud",
    "molds",
    "whether molds stand proud of the planking",
    ("molds.edge", "molds.skin", "molds.strapping", "molds.false_bottom", "molds.deduction"),
    (HULL, MOLDS, WATERLINE),
    _proud,
    lambda found: found,
    Turn.CHECKS,
)
PRINTED = Stage(
    "printed",
    "molds",
    "whether printed patterns are right still",
    ("printed",),
    (MOLDS, PIECES),
    _printed,
    lambda found: found,
    Turn.CHECKS,
)

STAGES = (PIECES, MARKS, PARTS, PROUD, PRINTED)
