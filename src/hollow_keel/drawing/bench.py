"""The piece at the bench, as it stands in the shop, with the place that the number is about."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..core.deck.ticks import DeckTick
from ..core.geometry.arrays import Array, frozen
from ..core.geometry.polyline import at_share, runs_along
from ..core.molds.stations import Mold
from ..core.planking.crossings import Crossing
from ..core.results import Shape
from ..core.setup.schedule import strongback_length
from ..core.veneers.veneer import Veneer
from .model import Drawing, Label, Layer, Stroke, box, line

HERE = "here"
"""The key of what is marked."""
TICK_MM = 14.0
SPILING_SHARE = 0.25
"""A veneer is drawn so broad, as a share of its length."""
STICK_MM = 0.03
"""A stick is drawn so broad, as a share of its length."""


def _standing(shape: Shape, points: Array) -> Array:
    """Half-breadths and heights as they stand: upside down where the hull is built so."""
    return frozen(np.column_stack([points[:, 0], shape.setup.above(points[:, 1])]))


def _both(points: Array) -> Array:
    return frozen(np.concatenate([points[::-1] * [-1.0, 1.0], points]))


def _marked(at: tuple[float, float], anchor: str = "right") -> tuple[Label, Label]:
    """The place itself: a dot on the drawing, and a word beside it."""
    word = "here    " if anchor == "right" else "    here"
    return (
        Label(at, "●", Layer.OFFSET, key=HERE, strong=True),
        Label(at, word, Layer.OFFSET, anchor, 0, key=HERE, strong=True, leads=True),
    )


def tick_picture(shape: Shape, mold: Mold, rows: Sequence[Crossing], number: int) -> Drawing:
    """One side of a mold as it stands, a tick at every strip's lower edge, the one of strip `number` marked."""
    edge = _standing(shape, mold.edge.points)
    strokes = [Stroke(edge, Layer.HULL)]
    labels: list[Label] = []
    for row in rows:
        at = _standing(shape, np.array([row.far[1:]]))[0]
        along = np.diff(_standing(shape, np.array([row.near[1:], row.far[1:]])), axis=0)[0]
        size = float(np.linalg.norm(along))
        normal = np.array([-along[1], along[0]]) / size if size > 1e-9 else np.array([1.0, 0.0])
        normal = -normal if normal[0] > 0 else normal
        strokes.append(Stroke(frozen([at - TICK_MM * normal * 0.4, at + TICK_MM * normal]), Layer.TICK))
        if row.number == number:
            labels += _marked((float(at[0]), float(at[1])))
    return Drawing("", tuple(strokes), tuple(labels))


def mark_picture(shape: Shape, mold: str) -> Drawing:
    """The strongback from the side with every mold on it, the mark of one of them shown."""
    from_stern = shape.job.setup.zero_end.value == "stern"
    sign = -1.0 if from_stern else 1.0
    setup = shape.setup
    bodies = {m.name: m.body for m in shape.molds.molds}
    strokes = [box(0, -shape.job.setup.beam_height, strongback_length(setup, shape.job.setup), 0, Layer.BEAM, filled=True)]
    labels: list[Label] = []
    for mark in setup.marks:
        a, b = (sign * (x - setup.zero_at) for x in bodies[mark.mold])
        low, high = sorted((mark.sheer_above, mark.keel_above))
        now = mark.mold == mold
        layer = Layer.MOLD if not now else Layer.STRIP_3
        strokes.append(box(min(a, b), low, max(a, b), high, layer, HERE if now else "", filled=True))
        if now:
            strokes.append(line((mark.from_zero, low - 120), (mark.from_zero, high + 120), layer=Layer.OFFSET, key=HERE))
            labels.append(Label((mark.from_zero, high + 120), "here", Layer.OFFSET, rise=1, key=HERE, strong=True))
    low = min(min(m.sheer_above, m.keel_above) for m in setup.marks)
    strokes.append(line((0.0, low - 80), (0.0, 80.0), layer=Layer.CENTRELINE))
    labels.append(Label((0.0, low - 80), "zero", Layer.NOTE, rise=-1))
    return Drawing("", tuple(strokes), tuple(labels))


def reading_picture(shape: Shape, mold: Mold, field: str) -> Drawing:
    """The mold as it stands, seen from the zero's end, with the place where a reading is taken."""
    if field.startswith("along"):
        return mark_picture(shape, mold.name)
    outline = _both(_standing(shape, mold.edge.points))
    above = shape.setup.waterline_above
    reach = float(outline[:, 0].max()) * 1.15
    strokes = [
        Stroke(outline, Layer.MOLD, closed=True, filled=True),
        line((-reach, above), (reach, above), layer=Layer.WATERLINE),
        line((-reach, 0.0), (reach, 0.0), layer=Layer.SETUP_LINE),
        line((0.0, float(outline[:, 1].min()) - 40), (0.0, float(outline[:, 1].max()) + 40), layer=Layer.CENTRELINE),
    ]
    out = float(mold.edge.waterline[0]) if mold.edge.waterline is not None else 0.6 * reach
    side = _side_seen(shape, port=field.endswith("port"))
    if field.startswith("height"):
        at = (side * out, above)
        strokes.append(line((at[0], 0.0), at, layer=Layer.OFFSET, key=HERE))
        anchor = "right" if side < 0 else "left"
    else:
        at, anchor = (0.0, float(shape.setup.above(mold.edge.keel[1]))), "left"
    named = Label((reach, above), "waterline", Layer.WATERLINE, "right", 1)
    return Drawing("", tuple(strokes), (*_marked(at, anchor), named))


def _side_seen(shape: Shape, *, port: bool) -> float:
    """1 to the right, -1 to the left: where a side of the boat is for someone who looks from the zero's end. Looking aft from the
    bow port is at the right hand of a hull that stands upright, and at the left of one upside down."""
    from_bow = shape.job.setup.zero_end.value == "bow"
    right = port == from_bow
    return 1.0 if right == shape.setup.upright else -1.0


def stick_picture(lengths: Sequence[float], number: int) -> Drawing:
    """The pieces of a strip end to end, forward end at the left, one of them (from 0) marked."""
    whole = sum(lengths)
    half = STICK_MM * whole / 2
    strokes: list[Stroke] = []
    labels: list[Label] = []
    at = 0.0
    for k, length in enumerate(lengths):
        now = k == number
        layer = Layer.STRIP_3 if now else Layer.STRIP
        strokes.append(box(at, -half, at + length, half, layer, HERE if now else "", filled=True))
        if now:
            labels.append(Label((at + length / 2, half), "this one", Layer.OFFSET, rise=1, key=HERE, strong=True))
        at += length
    labels.append(Label((0.0, -half), "forward", Layer.NOTE, "left", -1))
    return Drawing("", tuple(strokes), tuple(labels))


def deck_tick_picture(shape: Shape, mold: Mold, row: DeckTick) -> Drawing:
    """One side of a closed mold as it stands, the place marked where a strip's inner edge comes on its deck part."""
    assert mold.deck is not None
    line_in = mold.deck.deck
    at = _standing(shape, at_share(line_in, row.inner / float(runs_along(line_in)[-1]))[0][None])[0]
    strokes = [Stroke(_standing(shape, mold.edge.points), Layer.HULL), Stroke(_standing(shape, line_in), Layer.STATION)]
    return Drawing("", tuple(strokes), _marked((float(at[0]), float(at[1]))))


def spiling_picture(veneer: Veneer, along: float) -> Drawing:
    """A veneer flat, drawn broader than it is, with the place so far along its straight edge marked."""
    stretch = max(SPILING_SHARE * veneer.length / max(veneer.width, 1.0), 1.0)
    flat = veneer.flat * [1.0, stretch]
    wide = float(np.interp(along, veneer.spiling[:, 0], veneer.spiling[:, 1])) * stretch
    strokes = (Stroke(frozen(flat), Layer.HULL, closed=True), line((along, 0.0), (along, wide), layer=Layer.TICK))
    return Drawing("", strokes, _marked((along, wide), "right" if along > veneer.length / 2 else "left"))


def ribband_picture(shape: Shape, mold: Mold, from_keel: float) -> Drawing:
    """One side of a mold as it stands, the place so far round its edge from the keel marked."""
    edge = _standing(shape, mold.edge.points)
    run = runs_along(mold.edge.points)
    y, z = (float(np.interp(from_keel, run, edge[:, k])) for k in (0, 1))
    return Drawing("", (Stroke(edge, Layer.HULL),), _marked((y, z)))
