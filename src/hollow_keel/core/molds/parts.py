"""The parts that a job's molds are cut as: whole molds, or the port and the starboard half of each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import shapely

from ..geometry.arrays import Array, frozen
from .fittings import Gusset
from .nesting import fingerprint
from .part import FlatPart
from .pieces import Piece
from .shape import Face
from .stations import MoldSet

if TYPE_CHECKING:
    from .mold_marks import MoldMarks

PORT, STARBOARD = "P", "S"


@dataclass(frozen=True)
class MoldPart:
    """A part to cut: its name (the mold's, with P or S for a half), its shape on the mold's own drawing, the piece it
    is (None for a gusset) or the gusset, the mold it belongs to, and whether it is cut mirrored."""

    name: str
    mold: str
    outline: Array
    holes: tuple[Array, ...] = ()
    piece: Piece | None = None
    mirrored: bool = False
    gusset: Gusset | None = None

    def shown(self, points: Array) -> Array:
        """Points (n, 2), mm, of the mold's own drawing as this part has them."""
        return points * [-1.0, 1.0] if self.mirrored else points

    @property
    def part(self) -> FlatPart:
        """For laying out."""
        outline = self.shown(self.outline)
        holes = tuple(frozen(self.shown(h)) for h in self.holes)
        return FlatPart(self.name, frozen(outline[::-1] if self.mirrored else outline), holes)

    @property
    def area(self) -> float:
        """Area of sheet, mm²."""
        return float(shapely.Polygon(self.outline, self.holes).area)

    @property
    def cut_length(self) -> float:
        """Length of all its edges, mm."""
        return float(shapely.Polygon(self.outline, self.holes).length)


@dataclass(frozen=True)
class CutParts:
    """All parts of a job's molds."""

    parts: tuple[MoldPart, ...]

    @cached_property
    def flat(self) -> list[FlatPart]:
        """For laying out."""
        return [part.part for part in self.parts]

    @cached_property
    def fingerprint(self) -> str:
        """What a layout of these very parts remembers of them."""
        return fingerprint(self.flat)


def cut_parts(molds: MoldSet, pieces: Mapping[str, Piece], marks: Mapping[str, MoldMarks]) -> CutParts:
    """All parts of a job's molds, by its pieces and marks.

    The right half is drawn as it is seen on the reference face: the port half where that face looks to the bow, the
    starboard one where it looks to the stern. Its fellow is its mirror image.
    """
    found: list[MoldPart] = []
    for mold in molds.molds:
        piece = pieces[mold.name]
        own = (mold.name, piece.outline, piece.holes, piece)
        if not piece.half:
            found.append(MoldPart(mold.name, *own))
            continue
        drawn, fellow = (PORT, STARBOARD) if mold.face is Face.FORWARD else (STARBOARD, PORT)
        found += [MoldPart(f"{mold.name} {drawn}", *own), MoldPart(f"{mold.name} {fellow}", *own, True)]
        found += [
            MoldPart(f"{mold.name} gusset {plate.name}", mold.name, plate.outline, gusset=plate)
            for plate in marks[mold.name].gussets
        ]
    return CutParts(tuple(found))


def sheet_weight(parts: Sequence[MoldPart], thickness: float, density: float) -> float:
    """Weight of all parts, kg, of sheet `thickness` mm thick and `density` kg/m³."""
    return float(sum(p.area for p in parts)) * thickness * density * 1e-9
