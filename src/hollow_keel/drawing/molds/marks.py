"""The marks on a mold beyond its outline: what it is bevelled to, levels, plank edges, plates, legs, and words."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.job import Job
from ...core.molds.shape import Face
from ...core.molds.stations import Mold
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...core.settings.mold_choices import MoldKind
from ...core.units import LengthStyle, format_length
from ..model import Label, Layer, Stroke, line

if TYPE_CHECKING:
    import shapely

    from ...core.molds.mold_marks import MoldMarks
    from ...core.molds.pieces import Piece

BEVEL_IN_MM = 16.0
"""A bevel's figure stands so far inside the edge."""
NAME_IN_MM = 26.0
"""A waterline or buttock is named so far from its end."""
TICK_MM, LONG_TICK_MM, EVERY_PLANK = 8.0, 14.0, 5
LEAST_CLIMB = 1.0
"""Degrees below which a notch's floor is as good as square."""
ON_WOOD_MM, LEAST_MARK_MM = 0.3, 2.0
SCREW_MM = 3.0
"""Half the size of the cross at a screw."""
SIDE_SHARE, SIDE_DOWN_MM = 0.62, 14.0


@dataclass
class Marks:
    """Strokes and labels as they come together."""

    half: bool
    wood: shapely.Geometry
    strokes: list[Stroke] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)

    def on_wood(self, points: Array, layer: Layer) -> None:
        """A line, but only where there is wood under it."""
        import shapely

        for part in shapely.get_parts(shapely.intersection(shapely.LineString(points), self.wood)):
            if part.geom_type == "LineString" and part.length > LEAST_MARK_MM:
                self.strokes.append(Stroke(frozen(part.coords), layer))

    def is_wood(self, y: float, z: float) -> bool:
        """Whether there is wood at a place."""
        import shapely

        return bool(shapely.intersects_xy(self.wood, y, z))

    @property
    def sides(self) -> tuple[float, ...]:
        """Right, and left where the whole mold is drawn."""
        return (1.0,) if self.half else (1.0, -1.0)


def mold_marks(shape: Shape, mold: Mold, piece: Piece, style: LengthStyle, planking: Planking | None) -> Marks:
    """All marks that the job asks for."""
    import shapely  # loads slowly

    marks = Marks(piece.half, shapely.buffer(shapely.Polygon(piece.outline, piece.holes), ON_WOOD_MM))
    own = shape.marks[mold.name]
    _levels(marks, own, style)
    _bevels(marks, mold, own)
    _spall(marks, own, shape.waterline, style)
    _notches(marks, mold, own, style)
    _stand(marks, own, style)
    _plates(marks, own)
    if planking is not None and shape.job.molds.mark_planks:
        _planks(marks, mold, planking)
    _sides(marks, mold)
    return marks


def _levels(marks: Marks, own: MoldMarks, style: LengthStyle) -> None:
    """Waterlines and buttocks, each named where it begins."""
    for kind, axis, lines in (("WL", 1, own.waterlines), ("B", 0, own.buttocks)):
        named: set[float] = set()
        for at, bit in lines:
            marks.strokes.append(Stroke(bit, Layer.GRID))
            if at not in named:
                named.add(at)
                end = bit[np.argmin(bit[:, 1 - axis])]
                text = f"{kind} {format_length(abs(at), style)}"
                inside = (NAME_IN_MM, 0.0) if axis == 1 else (0.0, NAME_IN_MM)  # never over the line to cut
                place = (float(end[0]) + inside[0], float(end[1]) + inside[1])
                marks.labels.append(Label(place, text, Layer.GRID, "left" if axis == 1 else "middle", 1))


def _bevels(marks: Marks, mold: Mold, own: MoldMarks) -> None:
    """The edges of both faces of a bevelled mold, and its bevels in half degrees."""
    if mold.far is None:
        return
    for points, layer in ((mold.edge.points, Layer.THIS_FACE), (mold.far.points, Layer.OTHER_FACE)):
        for side in marks.sides:
            marks.on_wood(points * [side, 1.0], layer)
    for call in own.bevels:
        y, z = (call.at + BEVEL_IN_MM * call.inward).tolist()
        text = f"{call.called:g}°" + (" under" if call.sense == "under" else "")
        marks.labels += [Label((side * y, z), text, Layer.BEVEL) for side in marks.sides if marks.is_wood(side * y, z)]


def _spall(marks: Marks, own: MoldMarks, waterline: float, style: LengthStyle) -> None:
    if own.spall is None:
        return
    z, y = own.spall
    above = format_length(abs(z - waterline), style, unit=True)
    where = "above" if z >= waterline else "below"
    marks.on_wood(frozen([(-y, z), (y, z)]), Layer.SPALL)
    text = f"CROSS SPALL {above} {where} the waterline, {format_length(2 * y, style, unit=True)} edge to edge"
    marks.labels.append(Label((0.5 * y if marks.half else 0.0, z), text, Layer.SPALL, rise=1))


def _notches(marks: Marks, mold: Mold, own: MoldMarks, style: LengthStyle) -> None:
    """The bevel of a notch's floor where the keel or stem climbs."""
    for notch in own.floors:
        if notch.what == "stringer" or abs(notch.slope) < math.radians(LEAST_CLIMB):
            continue
        degrees = round(abs(math.degrees(notch.slope)) * 2) / 2
        rises = (notch.slope > 0) == (mold.face is Face.FORWARD)
        across = mold.thickness * abs(math.tan(notch.slope))
        away = "higher" if rises else "lower"
        text = f"{notch.what}: {degrees:g}°, {format_length(across, style, unit=True)} {away} on the other face"
        marks.labels.append(Label(notch.at, text, Layer.BEVEL, "left" if marks.half else "middle", 1))


def _stand(marks: Marks, own: MoldMarks, style: LengthStyle) -> None:
    """The set-up line where the legs end, and their spread."""
    stand = own.stand
    if stand is None:
        return
    half = max(stand.outside, stand.foot)
    marks.strokes.append(line((0.0 if marks.half else -half, stand.level), (half, stand.level), layer=Layer.SETUP_LINE))
    spread = format_length(stand.spread, style, unit=True)
    text = f"SET-UP LINE on the strongback, {spread} over all"
    marks.labels.append(Label((0.0, stand.level), text, Layer.SETUP_LINE, "left" if marks.half else "middle", -1))


def _plates(marks: Marks, own: MoldMarks) -> None:
    """Gussets over the butt and their screws."""
    for plate in own.gussets:
        outline, screws = plate.outline, plate.screws
        if marks.half:
            outline, screws = np.maximum(outline, [0.0, -np.inf]), screws[screws[:, 0] > 0]
        marks.strokes.append(Stroke(outline, Layer.FITTING, closed=True))
        top = outline[np.argmax(outline.sum(axis=1))]
        marks.labels.append(Label((float(top[0]), float(top[1])), "gusset", Layer.FITTING, "right", -1))
        marks.strokes += screw_marks(screws)


def screw_marks(screws: Array) -> list[Stroke]:
    """A small cross at each screw (n, 2)."""
    return [
        stroke
        for y, z in screws.tolist()
        for stroke in (
            line((y - SCREW_MM, z), (y + SCREW_MM, z), layer=Layer.FITTING),
            line((y, z - SCREW_MM), (y, z + SCREW_MM), layer=Layer.FITTING),
        )
    ]


def _planks(marks: Marks, mold: Mold, planking: Planking) -> None:
    """A tick at the far edge of every strip, a longer one with its number at every fifth."""
    from ...core.molds.marks import plank_edges

    for number, at, inward in plank_edges(mold, planking):
        long = number % EVERY_PLANK == 0
        end = at + (LONG_TICK_MM if long else TICK_MM) * inward
        for side in marks.sides:
            marks.on_wood(frozen([at * [side, 1.0], end * [side, 1.0]]), Layer.TICK)
            if long and marks.is_wood(side * float(end[0]), float(end[1])):
                place = (side * float(end[0]), float(end[1]))
                marks.labels.append(Label(place, f"{number}", Layer.TICK, "right" if side > 0 else "left"))


def _sides(marks: Marks, mold: Mold) -> None:
    """Port and starboard, seen on the reference face."""
    if marks.half:
        return
    y, z = mold.edge.sheer.tolist()
    right, left = ("PORT", "STARBOARD") if mold.face is Face.FORWARD else ("STARBOARD", "PORT")
    for side, name in ((1.0, right), (-1.0, left)):
        marks.labels.append(Label((side * SIDE_SHARE * y, z - SIDE_DOWN_MM), name, Layer.NOTE))


def edge_words(job: Job, style: LengthStyle) -> list[str]:
    """What is done with the edge of every mold."""
    said: list[str] = []
    if job.molds.rounding > 0:
        said.append(f"ease the edge {format_length(job.molds.rounding, style, unit=True)}, not past the sheer mark")
    if job.molds.kind is MoldKind.FRAME:
        said.append("stays in the boat: seal it, no tape")
    return said
