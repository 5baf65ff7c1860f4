"""What closes the hull at its ends: stems and the transom, each with the mold that carries it.

Worked out for who asks: a stem that cannot be built as asked is no matter of the molds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight
from ..hull.stages import HULL, WATERLINE
from ..job import StemSettings
from ..offsets.table import EndKind
from ..settings.setup_choices import Strongback
from ..setup.stages import SETUP
from ..stage import Given, Stage, fields_of
from .stages import MOLDS

if TYPE_CHECKING:
    from ..geometry.arrays import Array
    from ..hull.build import Hull
    from .ends import Transom
    from .stem import Stem
    from .transom_mold import TransomMold


@dataclass(frozen=True)
class StemMold:
    """The mold on the centre plane that carries a stem: (n, 2) positions and heights, and the mold whose face it meets."""

    outline: Array
    nearest: str


@dataclass(frozen=True)
class StemPiece:
    """The inner stem at one end; `mold` is None where it stands on the keel."""

    stern: bool
    stem: Stem
    mold: StemMold | None


@dataclass(frozen=True)
class StemBevels:
    """Along one stem's rabbet from its foot: (position, height, bevel), mm and radians between planking and centre plane."""

    stern: bool
    bevels: tuple[tuple[float, float, float], ...]


@dataclass(frozen=True)
class TransomPiece:
    """A transom, at the `stern` or at the bow, what carries it, and the waterlines that are marked on it: how high each is by the
    offsets and how far up the transom it lies along its rake, mm; `load` is the height of the load waterline, the
    first where it comes on this transom. `other` says why the transom at the other end has no pattern, in words."""

    transom: Transom
    mold: TransomMold
    stern: bool = True
    waterlines: tuple[tuple[float, float], ...] = ()
    load: float = 0.0
    other: str = ""


def _stems(hull: Hull) -> list[bool]:
    ends = ((False, hull.lines.bow), (True, hull.lines.stern))
    found = [stern for stern, end in ends if end.kind is EndKind.STEM]
    if not found:
        raise ImpossiblePlan("This hull has no stem.")
    return found


def _inner_stems(given: Given) -> tuple[StemPiece, ...]:
    from .stem import inner_stem, stem_mold

    hull, molds, job = given[HULL], given[MOLDS].molds, given.job
    found = []
    for stern in _stems(hull):
        stem = inner_stem(hull, job.molds.skin, job.stem, stern=stern)
        mold = None
        if molds and not job.setup.upright:  # upright the stem stands on the keel
            nearest = molds[-1 if stern else 0]
            mold = StemMold(stem_mold(stem, nearest, given[SETUP].beam_level, stern=stern), nearest.name)
        found.append(StemPiece(stern, stem, mold))
    return tuple(found)


def _bevels(given: Given) -> tuple[StemBevels, ...]:
    from .ends import stem_bevels

    return tuple(StemBevels(stern, tuple(stem_bevels(given[HULL], stern=stern))) for stern in _stems(given[HULL]))


def _transoms(given: Given) -> tuple[TransomPiece, ...]:
    """A pram has one at either end."""
    from .ends import told_transoms
    from .marks import up_transom
    from .transom_mold import transom_mold

    hull, job, load = given[HULL], given.job, given[WATERLINE].height
    on_legs = job.setup.strongback is not Strongback.BEAM and not job.setup.upright
    found = []
    told, other = told_transoms(hull, job.molds.skin, job.molds.thickness)
    for piece, stern in told:
        foot = float((hull.lines.stern if stern else hull.lines.bow).points[0, 2])
        level = (given[SETUP].beam_level - foot) / math.cos(piece.rake) if on_legs else None
        marked = up_transom(piece, foot, job.molds.mark_waterlines, load)
        found.append(TransomPiece(piece, transom_mold(piece, level), stern, tuple(marked), load, other))
    return tuple(found)


def unmade(pieces: tuple[TransomPiece, ...]) -> list[Finding]:
    """Which transom has no pattern, where the other has."""
    return [
        Finding("transom-shape", Weight.LOOK, "molds", "transom at the bow" if piece.stern else "transom at the stern", piece.other)
        for piece in pieces
        if piece.other
    ]


STEMS = Stage(
    "stems",
    "molds",
    "the stems",
    ("molds.skin", "setup.upright", *fields_of(StemSettings, "stem")),
    (HULL, MOLDS, SETUP),
    _inner_stems,
    shown=False,
)
STEM_BEVELS = Stage("stem-bevels", "molds", "the bevels of the stems", (), (HULL,), _bevels, shown=False)
TRANSOM = Stage(
    "transom",
    "molds",
    "the transoms",
    ("molds.skin", "molds.thickness", "molds.mark_waterlines", "setup.strongback", "setup.upright"),
    (HULL, SETUP, WATERLINE),
    _transoms,
    unmade,
    shown=False,
)

STAGES = (STEMS, STEM_BEVELS, TRANSOM)
