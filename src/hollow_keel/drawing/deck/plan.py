"""The deck seen from above, both sides: its strips, molds, openings with their templates, the king plank."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from ...core.deck.openings import OpeningPlan, Openings
from ...core.deck.strips import DeckPlan
from ...core.geometry.arrays import Array, frozen
from ...core.hull.deck import Deck
from ...core.molds.stations import Mold
from ...core.planking.faces import faces
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, line
from ..planking.shades import LAYERS

if TYPE_CHECKING:
    import shapely

RIM = 121
BESIDE_MM = 60.0


def deck_plan(
    deck: Deck, plan: DeckPlan | None, openings: Openings | None, molds: Sequence[Mold], shades: tuple[int, ...] = ()
) -> Drawing:
    """Positions along the hull across, starboard up. `shades` tells the kind of each strip in order (empty: every tenth is
    darker)."""
    import shapely  # loads slowly: not before it is needed

    strokes: list[Stroke] = []
    holes = shapely.union_all([shapely.Polygon(made.free) for made in (openings.openings if openings else ())])
    if plan is not None:
        for k, strip in enumerate(plan.planking.strips):
            plain = Layer.STRIP if strip.number % 10 else Layer.STRIP_ALT
            layer = LAYERS[shades[k]] if shades else plain
            key = f"deck-strip:{strip.number}"
            for face in faces(strip, plan.planking):
                ring = np.concatenate([face.near[:, :2], face.far[::-1, :2]])
                for side in (1.0, -1.0):
                    strokes += [Stroke(bit, layer, closed=True, filled=True, key=key) for bit in _laid(ring * [1.0, side], holes)]
    edge = deck.surface.panels[0].surface.points(np.linspace(0, 1, RIM), np.zeros(RIM))[:, :2]
    for side in (1.0, -1.0):
        strokes.append(Stroke(frozen(edge * [1.0, side]), Layer.HULL))
    labels: list[Label] = []
    for mold in molds:
        half = float(np.interp(mold.station, edge[:, 0], edge[:, 1]))
        if edge[0, 0] < mold.station < edge[-1, 0]:
            strokes.append(line((mold.station, -half), (mold.station, half), layer=Layer.GHOST, key=f"mold:{mold.name}"))
            labels.append(Label((mold.station, -half - 12), mold.name, rise=-1, key=f"mold:{mold.name}"))
    strokes.append(line(tuple(edge[0] * [1, 0]), tuple(edge[-1] * [1, 0]), layer=Layer.CENTRELINE))
    for made in openings.openings if openings is not None else ():
        strokes += _opening(made)
    return Drawing("The deck from above", tuple(strokes), tuple(labels))


def _laid(ring: Array, holes: shapely.Geometry) -> list[Array]:
    """What of a strip's face (n, 2) is laid: all of it but what lies over an opening."""
    import shapely  # loads slowly: not before it is needed

    if holes.is_empty or not shapely.intersects(holes, shapely.Polygon(ring).envelope):
        return [frozen(ring)]
    kept = shapely.difference(shapely.make_valid(shapely.Polygon(ring)), holes)
    parts = [part for part in shapely.get_parts(kept) if part.geom_type == "Polygon"]
    return [frozen(np.asarray(part.exterior.coords)[:-1]) for part in parts]


def _opening(made: OpeningPlan) -> list[Stroke]:
    return [
        Stroke(made.smallest, Layer.HOLE, closed=True, filled=True, key=f"opening:{made.opening.name}"),
        Stroke(made.largest, Layer.GHOST, closed=True),
    ]


def deck_with_outlines(deck: Deck, outlines: Sequence[tuple[shapely.Polygon, shapely.Polygon]]) -> Drawing:
    """The deck's edge with openings by their smallest and largest outlines, while they are being decided."""
    bare = deck_plan(deck, None, None, ())
    strokes = list(bare.strokes)
    for small, large in outlines:
        strokes.append(Stroke(frozen(np.asarray(small.exterior.coords)[:-1]), Layer.HOLE, closed=True, filled=True))
        strokes.append(Stroke(frozen(np.asarray(large.exterior.coords)[:-1]), Layer.GHOST, closed=True))
    return Drawing(bare.title, tuple(strokes))


def opening_decisions(drawing: Drawing, openings: Openings, style: LengthStyle) -> Drawing:
    """What is decided about openings where it lies: the middle and the corner of each are dragged, length and width typed."""
    labels, rings = list(drawing.labels), list(drawing.rings)
    for made in openings.openings:
        path, own = f"deck.openings.{made.number}", made.opening
        low, high = made.smallest.min(axis=0), made.smallest.max(axis=0)
        rings.append(Ring((own.at, own.off), f"{path}.at", own.at, (1.0, 0.0)))
        if own.drawn:
            continue
        rings.append(Ring((float(high[0]), own.off), f"{path}.length", own.length, (1.0, 0.0), per=2.0, low=50.0))
        rings.append(Ring((own.at, float(high[1])), f"{path}.width", own.width, (0.0, 1.0), per=2.0, low=50.0))
        for at, words, field, anchor, rise in (
            ((own.at, float(high[1]) + 8), "wide", "width", "middle", 1),
            ((float(high[0]) + 14, own.off), "long", "length", "left", 0),
            ((own.at, float(low[1]) - 8), f"{own.name}, middle at", "at", "middle", -1),
            ((own.at, own.off), "off the centreline", "off", "middle", 1),
        ):
            number = format_length(getattr(own, field), style)
            labels.append(decided(at, words, number, f"{path}.{field}", anchor=anchor, rise=rise))
    return Drawing(drawing.title, drawing.strokes, tuple(labels), rings=tuple(rings))


def templates(openings: Openings, style: LengthStyle) -> list[Drawing]:
    """Every opening at full size, seen from above: the smallest template, the largest, the centreline and its middle."""
    found = []
    for made in openings.openings:
        own = made.opening
        middle = np.array([own.at if not own.drawn else float(made.smallest[:, 0].mean()), 0.0])
        small, large = (frozen(points - middle) for points in (made.smallest, made.largest))
        low, high = large.min(axis=0), large.max(axis=0)
        strokes = [
            Stroke(small, Layer.MOLD, closed=True),
            Stroke(large, Layer.TICK, closed=True),
            line((float(low[0]), 0.0), (float(high[0]), 0.0), layer=Layer.CENTRELINE),
            line((0.0, float(low[1])), (0.0, float(high[1])), layer=Layer.STATION),
        ]
        at = format_length(float(middle[0]), style, unit=True)
        labels = [
            Label((0.0, BESIDE_MM), f"{own.name.upper()}: smallest and largest template", Layer.TITLE, strong=True),
            Label((float(low[0]) + 10, 0.0), "BOW", Layer.NOTE, "left", 1),
            Label((0.0, -BESIDE_MM), f"this line at {at}, held level over the deck", Layer.NOTE),
        ]
        found.append(Drawing(f"Opening {own.name}", tuple(strokes), tuple(labels)))
    return found
