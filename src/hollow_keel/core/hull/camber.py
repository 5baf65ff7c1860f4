"""Camber: the crown of a deck over its beam. A parabola, y = c (1 - (2x/b)²) for a crown c on a beam b; its slope at the edge is
4c/b. One pattern serves all beams, narrower ones taking its middle: their crown goes with the square of the beam. Or the crown goes
with the beam. (Common practice; the parabola by any textbook.)
"""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array
from ..settings.deck_choices import CamberRule


def crown_at(beam: float, crown: float, on: float, rule: CamberRule) -> float:
    """The crown, mm, on a beam, mm, where it is `crown` mm on a beam of `on` mm."""
    share = beam / on if on > 0 else 0.0
    return crown * (share**2 if rule is CamberRule.ONE_PATTERN else share)


def camber_line(half_beam: float, crown: float, sharp: float, count: int) -> Array:
    """The camber from the edge to the centreline, half-breadth and height over the edge, (count, 2) mm. `sharp` runs from 0 (the
    parabola) to 1 (straight to a ridge)."""
    share = np.linspace(1.0, 0.0, count)
    return np.column_stack([half_beam * share, crown * (1.0 - share ** (2.0 - sharp))])


def camber_across(breadth: float, crown: float, count: int) -> Array:
    """A parabola from end to end of a breadth, places across and heights over the ends, (2 count - 1, 2) mm."""
    side = camber_line(breadth / 2, crown, 0.0, count)
    return np.concatenate([side * [-1.0, 1.0], side[::-1][1:]])


def edge_slope(beam: float, crown: float) -> float:
    """The slope of a parabola at its edge, a bare number: 4c/b."""
    return 4 * crown / beam
