"""The view along the molds with the eye in one plane with their marks."""

from __future__ import annotations

from ...core.geometry.arrays import frozen
from ...core.setup.sighting import Sighted
from ..model import Drawing, Label, Layer, Stroke

MARK_SHARE = 0.12


def sighting_drawing(seen: tuple[Sighted, ...], title: str, *, names: bool = True) -> Drawing:
    """The farthest molds first, so that near ones are drawn over them; mm on a pane at arm's length."""
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for own in reversed(seen):
        key = f"mold:{own.name}"
        strokes.append(Stroke(own.outline, Layer.NEIGHBOUR, key=key))
        port, starboard = own.mark
        for end, other in ((port, starboard), (starboard, port)):  # the marks near the edges, as they are made
            strokes.append(Stroke(frozen([end, end + MARK_SHARE * (other - end)]), Layer.WATERLINE, key=key))
        strokes.append(Stroke(own.centre, Layer.CENTRELINE, key=key))
        if names:
            labels += [
                Label((float(end[0]), float(end[1])), own.name, Layer.NOTE, anchor, key=key)
                for end, anchor in ((own.mark[0], "right"), (own.mark[1], "left"))
            ]
    return Drawing(title, tuple(strokes), tuple(labels))
