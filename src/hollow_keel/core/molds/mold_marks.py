"""All that is marked on a mold besides its outline, and all that is called out along its edge."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..geometry.arrays import Array, frozen
from ..hull.build import Hull
from ..job import Job
from .bevels import BevelCall, bevel_calls
from .fittings import Gusset, cross_spall, gussets
from .marks import buttocks, waterlines
from .notches import notches
from .pieces import Piece
from .schools import in_plane_excess
from .shape import sections_outside
from .stand import Stand, stand_of
from .stations import Mold, MoldSet
from .stringers import StringerNotch, Stringers

Across = tuple[float, Array]
"""A line over the wood: its height or half-breadth, mm, and its two ends (2, 2)."""


@dataclass(frozen=True)
class Floor:
    """The floor of a notch: what the notch is for, where it is on the mold's own drawing, and its angle across the sheet
    (radians, positive where it rises towards the stern)."""

    what: str
    at: tuple[float, float]
    slope: float


@dataclass(frozen=True)
class MoldMarks:
    """What is marked on one mold; everything on the mold's own drawing, mm.

    `outside` (n, 2) is the section of the hull, outside of the planking, its right-hand side; `spall` the height of the cross
    spall's marked edge and the mold's half-breadth there; `excess` (n,) how much larger the in-plane school leaves the mold at
    each point of its edge.
    """

    bevels: tuple[BevelCall, ...]
    excess: Array
    outside: Array
    waterlines: tuple[Across, ...]
    buttocks: tuple[Across, ...]
    floors: tuple[Floor, ...]
    spall: tuple[float, float] | None
    stand: Stand | None
    gussets: tuple[Gusset, ...]


def mold_marks(
    hull: Hull, molds: MoldSet, pieces: Mapping[str, Piece], stringers: Stringers, job: Job, level: float, waterline: float
) -> dict[str, MoldMarks]:
    """The marks of all molds, of the pieces that are cut for them and of their notches, by the molds' names; the strongback's top
    and the load waterline lie at heights `level` and `waterline`, mm."""
    outsides = sections_outside(hull, [m.station for m in molds.molds]) if molds.molds else []
    return {
        m.name: _marks(hull, m, pieces[m.name], stringers.notches.get(m.name, ()), outside, job, level, waterline)
        for m, outside in zip(molds.molds, outsides, strict=True)
    }


def _marks(
    hull: Hull,
    mold: Mold,
    piece: Piece,
    stringers: Sequence[StringerNotch],
    outside: Array,
    job: Job,
    level: float,
    waterline: float,
) -> MoldMarks:
    settings = job.molds
    return MoldMarks(
        tuple(bevel_calls(mold)),
        frozen(in_plane_excess(hull, mold, settings, waterline)),
        frozen(outside),
        tuple(waterlines(piece, settings.mark_waterlines, waterline)),
        tuple(buttocks(piece, settings.mark_buttocks)),
        tuple(Floor(cut.what, cut.floor, cut.slope) for cut in notches(mold, settings, stringers)),
        cross_spall(mold, settings, waterline),
        stand_of(mold, job.setup, level),
        gussets(mold, settings, job.setup, level, stringers),
    )
