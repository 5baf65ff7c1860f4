"""What is cut for a set-up besides the molds: spacers between them, and the clear heights a builder looks at first."""

from __future__ import annotations

from dataclasses import dataclass

from .beam import SetUp

SAME_MM = 0.05
"""Gaps that differ by less are one length of spacer."""


@dataclass(frozen=True)
class Spacer:
    """Spacers of one length: how long, how many, and before which molds (from the zero on) they stand."""

    length: float
    count: int
    after: tuple[str, ...]


def spacers(setup: SetUp) -> tuple[Spacer, ...]:
    """The spacers between neighbouring molds, the most frequent length first."""
    found: list[tuple[float, list[str]]] = []
    for mark in setup.marks:
        if mark.gap_to_next is None:
            continue
        same = next((names for length, names in found if abs(length - mark.gap_to_next) < SAME_MM), None)
        if same is None:
            found.append((mark.gap_to_next, [mark.mold]))
        else:
            same.append(mark.mold)
    found.sort(key=lambda item: -len(item[1]))
    return tuple(Spacer(length, len(names), tuple(names)) for length, names in found)


def rail_overhang(frame: float, rails: float) -> tuple[float, float]:
    """How far a frame reaches past two rails in all, and on each side, mm (common practice)."""
    return frame - rails, (frame - rails) / 2
