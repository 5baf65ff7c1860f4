"""Sticks that long pieces are butted from."""

from __future__ import annotations

from collections.abc import Sequence

LEAST_MM = 1.0
"""A shorter rest is none."""


def sticks_of(lengths: Sequence[float], stick: float) -> int:
    """How many sticks, mm, give some lengths, each longer one butted from whole ones and a rest: first fit, the longest rest
    first."""
    whole = sum(int(length // stick) for length in lengths)
    left: list[float] = []
    for rest in sorted((length % stick for length in lengths), reverse=True):
        if rest < LEAST_MM:
            continue
        k = next((k for k, room in enumerate(left) if room >= rest), None)
        if k is None:
            left.append(stick - rest)
        else:
            left[k] -= rest
    return whole + len(left)


def butts_of(length: float, stick: float) -> int:
    """How many joints end to end a piece has that is cut from sticks, mm."""
    return max(-int(-(length - LEAST_MM) // stick) - 1, 0)
