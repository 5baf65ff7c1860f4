"""One part as it is cut: a mold, a half of it as drawn or mirrored, or a gusset, with its marks and its name."""

from __future__ import annotations

from dataclasses import replace

from ...core.geometry.arrays import frozen
from ...core.molds.parts import MoldPart
from ...core.results import Shape
from ..model import Drawing, Label, Layer, Stroke, line
from .marks import screw_marks
from .mold import mold_drawing, widest_wood

ON_WOOD = frozenset(
    {
        Layer.MOLD,
        Layer.HOLE,
        Layer.WATERLINE,
        Layer.SHEER_MARK,
        Layer.CENTRELINE,
        Layer.THIS_FACE,
        Layer.SPALL,
        Layer.GRID,
        Layer.TICK,
        Layer.SETUP_LINE,
        Layer.FITTING,
        Layer.BEVEL,
    }
)
"""What is cut or marked on the wood itself; the rest of a mold's drawing is for the eye."""
_TURNED = {"left": "right", "right": "left", "middle": "middle"}


class PartDrawer:
    """Draws parts of one shape; the drawing of a mold is made once for both its halves."""

    def __init__(self, shape: Shape) -> None:
        self._shape = shape
        self._molds = {mold.name: mold for mold in shape.molds.molds}
        self._drawn: dict[str, Drawing] = {}

    def __call__(self, part: MoldPart) -> Drawing:
        """The part in its mold's own frame, seen from the side it is cut from."""
        if part.gusset is not None:
            return self._plate(part)
        if part.mold not in self._drawn:
            style = self._shape.job.units.style
            self._drawn[part.mold] = mold_drawing(self._shape, self._molds[part.mold], style)
        drawing = self._drawn[part.mold]
        if part.split:
            drawing = _within(drawing, part)
        strokes = tuple(replace(s, points=frozen(part.shown(s.points))) for s in drawing.strokes if s.layer in ON_WOOD)
        side = -1.0 if part.mirrored else 1.0
        labels = [
            replace(label, at=(side * label.at[0], label.at[1]), anchor=_TURNED[label.anchor] if part.mirrored else label.anchor)
            for label in drawing.labels
            if label.layer in ON_WOOD
        ]
        return Drawing(part.name, strokes, (*labels, self._name(part)))

    def _plate(self, part: MoldPart) -> Drawing:
        assert part.gusset is not None
        strokes = [Stroke(part.outline, Layer.MOLD, closed=True), *screw_marks(part.gusset.screws)]
        low, high = float(part.outline[:, 1].min()), float(part.outline[:, 1].max())
        strokes.append(line((0.0, low), (0.0, high), layer=Layer.CENTRELINE))
        return Drawing(part.name, tuple(strokes), (self._name(part),))

    def _name(self, part: MoldPart) -> Label:
        y, z = part.shown(widest_wood(part.outline, part.holes)[None])[0].tolist()
        return Label((y, z), part.name, Layer.TITLE, strong=part.piece is not None)


def _within(drawing: Drawing, part: MoldPart) -> Drawing:
    """A mold's drawing as far as it lies on one of the two that it is cut into; that one's own edges for the mold's."""
    import shapely  # loads slowly: not before it is needed

    wood = shapely.Polygon(part.outline, part.holes).buffer(0.01)
    strokes = [Stroke(part.outline, Layer.MOLD, closed=True, filled=True, key=f"mold:{part.mold}")]
    strokes += [Stroke(hole, Layer.HOLE, closed=True, filled=True) for hole in part.holes]
    for stroke in drawing.strokes:
        if stroke.layer in (Layer.MOLD, Layer.HOLE) or len(stroke.points) < 2:
            continue
        kept = shapely.get_parts(shapely.intersection(shapely.LineString(stroke.points), wood))
        strokes += [
            replace(stroke, points=frozen(shapely.get_coordinates(bit)), closed=False)
            for bit in kept
            if bit.geom_type == "LineString"
        ]
    labels = tuple(label for label in drawing.labels if wood.contains(shapely.Point(label.at)))
    return replace(drawing, strokes=tuple(strokes), labels=labels)
