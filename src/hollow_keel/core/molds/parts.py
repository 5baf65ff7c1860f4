"""The parts that a job's molds are cut as: whole molds, or the port and the starboard half of each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from .fittings import Gusset
from .nesting import fingerprint
from .part import FlatPart
from .pieces import Piece
from .shape import Face
from .stations import Mold, MoldSet

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
    split: bool = False
    """Whether it is one of the two that a closed mold is cut into along its part line."""

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


def cut_parts(molds: MoldSet, pieces: Mapping[str, Piece], marks: Mapping[str, MoldMarks], *, apart: bool = False) -> CutParts:
    """All parts of a job's molds, by its pieces and marks; closed molds in two along their part line where the deck's are `apart`.

    The right half is drawn as it is seen on the reference face: the port half where that face looks to the bow, the
    starboard one where it looks to the stern. Its fellow is its mirror image.
    """
    found: list[MoldPart] = []
    for mold in molds.molds:
        piece = pieces[mold.name]
        if piece.why_not is not None:  # what cannot be cut is laid on no sheet
            continue
        drawn, fellow = (PORT, STARBOARD) if mold.face is Face.FORWARD else (STARBOARD, PORT)
        for name, outline, holes in _cut_apart(mold, piece) if apart else ((mold.name, piece.outline, piece.holes),):
            own = (mold.name, outline, holes, piece)
            split = apart and mold.deck is not None
            if not piece.half:
                found.append(MoldPart(name, *own, split=split))
                continue
            found += [MoldPart(f"{name} {drawn}", *own, split=split), MoldPart(f"{name} {fellow}", *own, True, split=split)]
        found += [
            MoldPart(f"{mold.name} gusset {plate.name}", mold.name, plate.outline, gusset=plate)
            for plate in marks[mold.name].gussets
        ]
    return CutParts(tuple(found))


def _cut_apart(mold: Mold, piece: Piece) -> list[tuple[str, Array, tuple[Array, ...]]]:
    """The outlines of a closed mold's hull part and deck part, with their holes, by name; the whole of an open one."""
    if mold.deck is None:
        return [(mold.name, piece.outline, piece.holes)]
    whole = shapely.Polygon(piece.outline, piece.holes)
    left, low, right, high = whole.bounds
    line = float(mold.deck.corner[1])
    found = []
    for name, box in (
        (mold.name, shapely.box(left - 1, low - 1, right + 1, line)),
        (f"{mold.name} deck", shapely.box(left - 1, line, right + 1, high + 1)),
    ):
        parts = [p for p in shapely.get_parts(shapely.intersection(whole, box)) if p.geom_type == "Polygon" and p.area > 1.0]
        for k, part in enumerate(sorted(parts, key=lambda p: -p.area)):
            rings = [frozen(np.asarray(ring.coords)[:-1]) for ring in (part.exterior, *part.interiors)]
            found.append((name if k == 0 else f"{name} {k + 1}", rings[0], tuple(rings[1:])))
    return found


def sheet_weight(parts: Sequence[MoldPart], thickness: float, density: float) -> float:
    """Weight of all parts, kg, of sheet `thickness` mm thick and `density` kg/m³."""
    return float(sum(p.area for p in parts)) * thickness * density * 1e-9
