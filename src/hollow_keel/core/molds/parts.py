"""The parts that a job's molds are cut as: whole molds, or the port and the starboard half of each."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..job import Job
from .nesting import Part
from .pieces import Piece, make_piece
from .stations import MoldSet

PORT, STARBOARD = "P", "S"


@dataclass(frozen=True)
class MoldPart:
    """A part to cut: its name (the mold's, with P or S for a half), the piece, and whether it is cut mirrored."""

    name: str
    piece: Piece
    mirrored: bool

    def shown(self, points: Array) -> Array:
        """Points (n, 2) of the mold's own drawing as this part has them."""
        return points * [-1.0, 1.0] if self.mirrored else points

    @property
    def part(self) -> Part:
        """For laying out."""
        outline = self.shown(self.piece.outline)
        return Part(self.name, frozen(outline[::-1] if self.mirrored else outline))


def mold_parts(job: Job, molds: MoldSet, beam_level: float) -> list[MoldPart]:
    """All parts of a job's molds. Seen on the reference face, looking aft or forward as it does, the right half is
    drawn; its fellow is its mirror image."""
    found: list[MoldPart] = []
    for mold in molds.molds:
        piece = make_piece(mold, job.molds, job.setup, beam_level)
        if piece.half:
            found += [
                MoldPart(f"{mold.name} {PORT}", piece, False),
                MoldPart(f"{mold.name} {STARBOARD}", piece, True),
            ]
        else:
            found.append(MoldPart(mold.name, piece, False))
    return found


def sheet_weight(parts: list[MoldPart], thickness: float, density: float) -> float:
    """Weight of all parts, kg, of sheet `thickness` mm thick and `density` kg/m³."""
    return float(np.sum([p.piece.area for p in parts])) * thickness * density * 1e-9
