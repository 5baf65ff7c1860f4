"""A camber over its beam: the pattern, and what a narrower beam takes of it."""

from __future__ import annotations

from ...core.geometry.arrays import frozen
from ...core.hull.camber import camber_across, crown_at
from ...core.job import DeckSettings
from ...core.units import LengthStyle, format_length
from ..model import Drawing, Label, Layer, Stroke, line

NARROWER = 0.6
POINTS = 61


def camber_picture(deck: DeckSettings, beam: float, style: LengthStyle) -> Drawing:
    """The camber on the greatest beam (mm) and on a narrower one, one above the other."""
    on = deck.crown_on or beam
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for own, layer, down in ((beam, Layer.HULL, 0.0), (NARROWER * beam, Layer.NEIGHBOUR, -0.22 * beam)):
        crown = crown_at(own, deck.crown, on, deck.rule)
        both = camber_across(own, crown, POINTS)
        both[:, 1] += down
        strokes.append(Stroke(frozen(both), layer))
        strokes.append(line((-own / 2, down), (own / 2, down), layer=Layer.GRID))
        strokes.append(line((0.0, down), (0.0, down + crown), layer=Layer.DIMENSION))
        labels.append(Label((12.0, down + crown), f"crown {format_length(crown, style, unit=True)}", Layer.DIMENSION, "left", 1))
        labels.append(Label((0.0, down), f"on a beam of {format_length(own, style, unit=True)}", Layer.NOTE, rise=-1))
    return Drawing("Camber", tuple(strokes), tuple(labels))
