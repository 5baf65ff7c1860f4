"""A piece to be laid on sheets."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.arrays import Array


@dataclass(frozen=True)
class FlatPart:
    """Its name, its outline (n, 2) and those of its openings, mm."""

    name: str
    outline: Array
    holes: tuple[Array, ...] = ()
