"""How long strips are cut: each unbroken length with the builder's allowance, and what it runs past the keel line."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array, frozen
from ..settings.strips import StripSettings
from .bottom import past_keel_line
from .strips import Strip


def cut_lengths(strip: Strip, settings: StripSettings) -> list[tuple[float, Array]]:
    """The unbroken lengths of a strip, mm, forward first: longer by the allowance at both ends of each and by what runs past the
    keel line forward and aft; and where along the hull each lies, (n, 2): along the length, position."""
    allowance, past = settings.allowance, past_keel_line(strip, settings.meet_on)
    edge = strip.near if len(strip.near) >= strip.pieces else strip.far if len(strip.far) >= strip.pieces else strip.near
    if not edge:
        x = np.array([0.0, strip.length])
        return [(strip.length + 2 * allowance + sum(past), frozen(np.column_stack([x, x])))]
    total = sum(piece.length for piece in edge)
    found = []
    for k, piece in enumerate(edge):
        own = strip.length * piece.length / total
        forward, aft = past[0] * (k == 0) + allowance, past[1] * (k == len(edge) - 1) + allowance
        spread = piece.run * own / piece.run[-1] + forward
        found.append((own + forward + aft, frozen(np.column_stack([spread[::4], piece.points[::4, 0]]))))
    return found
