"""A mold at full size with its marks, seen on its reference face."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.molds.closed import ClosedEdge
from ...core.molds.shape import Face
from ...core.molds.stations import Mold
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...core.settings.deck_choices import DeckMolds
from ...core.settings.mold_choices import MoldKind
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line
from ..tidy import apart
from .marks import Marks, edge_words, mold_marks

if TYPE_CHECKING:
    from ...core.molds.pieces import Piece

SHEER_TICK_MM = 30.0
NAME_ROOM_MM = 34.0
"""Height that a mold's name with the line below it takes."""
NAME_UP_MM = 55.0
"""A name stands so far above the load waterline."""
DOUBLE_MARK_GAP_MM = 3.0
LINE_MM = 5.0


def mold_drawing(shape: Shape, mold: Mold, style: LengthStyle, planking: Planking | None = None) -> Drawing:
    """The whole mold, both sides, upright as it stands in the hull; origin on the centreline at height 0.

    Plank edges are ticked where the job asks for them and `planking` is given.
    """
    edge = mold.edge
    piece = shape.pieces[mold.name]
    outline, key = piece.outline, f"mold:{mold.name}"
    strokes = [Stroke(outline, Layer.MOLD, closed=True, filled=True, key=key)]
    strokes += [Stroke(hole, Layer.HOLE, closed=True, filled=True, key=key) for hole in piece.holes]
    outside = shape.marks[mold.name].outside
    if len(outside):
        strokes.append(Stroke(outside if piece.half else _both_sides(outside), Layer.GHOST))
    bottom, top = float(outline[:, 1].min()), float(outline[:, 1].max())
    strokes.append(line((0, bottom), (0, top), layer=Layer.CENTRELINE))
    labels: list[Label] = []
    if edge.waterline is not None:
        y, z = edge.waterline
        strokes.append(line((0.0 if piece.half else -y, z), (y, z), layer=Layer.WATERLINE))
        labels.append(
            Label(
                (0.5 * y if piece.half else -0.5 * y, z),
                f"LOAD WATERLINE {format_length(z, style, unit=True)}",
                Layer.WATERLINE,
                rise=-1,
            )
        )
    strokes += _double_sheer_mark(edge.points, piece.half)
    if mold.deck is not None:
        strokes += _part_line(mold.deck, piece.half)
        labels.append(Label((0.0, float(mold.deck.corner[1])), _part_words(shape.job.deck.molds), Layer.SHEER_MARK, rise=-1))
    marks: Marks = mold_marks(shape, mold, piece, style, planking)
    at = format_length(mold.station, style, unit=True)
    title, place = _title_places(piece, mold)
    stays = shape.job.molds.kind is MoldKind.FRAME
    words = [face_text(mold) + (", cut two" if piece.half else ""), *edge_words(shape.job, style)]
    labels += [
        *marks.labels,
        Label(title, f"{'FRAME' if stays else 'MOLD'} {mold.name}", Layer.TITLE, rise=1, strong=True),
        *(Label((title[0], title[1] - LINE_MM * k), text, Layer.NOTE, rise=-1) for k, text in enumerate(words)),
        Label(place, shape.job.name, Layer.NOTE, rise=1),
        Label(place, f"station {at}", Layer.NOTE, rise=-1),
        Label((float(edge.sheer[0]), float(edge.sheer[1])), "sheer", Layer.SHEER_MARK, "left", 1),
        Label((0.0, top), "centreline, both faces", Layer.CENTRELINE, "left" if piece.half else "middle", rise=1),
    ]
    return Drawing(f"Mold {mold.name}", (*strokes, *marks.strokes), apart(tuple(labels)))


def _part_line(closed: ClosedEdge, half: bool) -> list[Stroke]:
    """The line between hull and deck across a closed mold, and the outside of the deck."""
    y, z = closed.corner.tolist()
    outside = closed.outside if half else _both_sides(closed.outside[::-1])
    strokes = [line((0.0 if half else -y, z), (y, z), layer=Layer.SHEER_MARK)]
    return [*strokes, Stroke(outside, Layer.GHOST)] if len(outside) else strokes


def _part_words(molds: DeckMolds) -> str:
    return "part line: cut here" if molds is DeckMolds.APART else "part line, both faces"


def with_neighbours(drawing: Drawing, shape: Shape, mold: Mold) -> Drawing:
    """A mold's drawing with the edges of the molds before and after it, faintly."""
    molds = shape.molds.molds
    k = molds.index(mold)
    beside = [*molds[max(k - 1, 0) : k], *molds[k + 1 : k + 2]]
    half = shape.job.molds.halves
    strokes = [Stroke(m.side if half else _around(m), Layer.NEIGHBOUR, key=f"mold:{m.name}") for m in beside]
    labels = [Label((float(m.edge.sheer[0]), float(m.edge.sheer[1])), m.name, Layer.NEIGHBOUR, "left", 0) for m in beside]
    return Drawing(drawing.title, (*strokes, *drawing.strokes), (*drawing.labels, *labels))


def face_text(mold: Mold) -> str:
    """Which way this face looks, for the person holding the mold."""
    return "this face to the BOW" if mold.face is Face.FORWARD else "this face to the STERN"


def _around(mold: Mold) -> Array:
    """Both sides of a mold: from sheer to sheer round its keel, or all round it."""
    both = _both_sides(mold.side)
    return both if mold.deck is None else frozen(np.concatenate([both, both[:1]]))


def _both_sides(points: Array) -> Array:
    left = points[::-1] * [-1.0, 1.0]
    return frozen(np.concatenate([left, points]))


def widest_wood(outline: Array, holes: tuple[Array, ...] = ()) -> Array:
    """The middle of the most wood on the right-hand side of a piece, or of all its wood where none is there: (half-breadth,
    height)."""
    import shapely

    wood = shapely.Polygon(outline, holes)
    right = shapely.intersection(wood, shapely.box(0.0, -1e6, 1e6, 1e6))
    circle = shapely.maximum_inscribed_circle(wood if right.is_empty else right, tolerance=2.0)
    return np.asarray(shapely.get_coordinates(circle)[0])


def _title_places(piece: Piece, mold: Mold) -> tuple[tuple[float, float], tuple[float, float]]:
    """Where the name and the station stand: over the load waterline, which brings a page of paper with it, or in the
    middle of the most wood; beside each other on a whole mold, one above the other on a half."""
    top = float(piece.outline[:, 1].max())
    y, z = widest_wood(piece.outline, piece.holes).tolist()
    if mold.edge.waterline is not None:
        out, level = mold.edge.waterline.tolist()
        over = (0.45 * out, level + NAME_UP_MM)
        if _is_inside(piece, over, NAME_ROOM_MM):
            y, z = over
    z = min(z, top - NAME_ROOM_MM)
    if piece.half:  # its top edge is on wood whatever the form
        return (y, z), (0.45 * float(piece.outline[:, 0].max()), top - NAME_ROOM_MM)
    return (y, z), (-y, z)


def _is_inside(piece: Piece, at: tuple[float, float], room: float) -> bool:
    """Whether there is wood at a place and round it."""
    import shapely

    wood = shapely.Polygon(piece.outline, piece.holes)
    return bool(shapely.buffer(shapely.Point(at), room).within(wood))


def _double_sheer_mark(points: Array, half: bool) -> list[Stroke]:
    """Two short lines inward from the edge, square to it, at the sheer on both sides."""
    tip, before = points[-1], points[-2]
    along = (tip - before) / np.linalg.norm(tip - before)
    inward = np.array([-along[1], along[0]])
    strokes = []
    for back in (0.0, DOUBLE_MARK_GAP_MM):
        start = tip - back * along
        end = start + SHEER_TICK_MM * inward
        for side in (1.0,) if half else (1.0, -1.0):
            strokes.append(line((side * start[0], start[1]), (side * end[0], end[1]), layer=Layer.SHEER_MARK))
    return strokes
