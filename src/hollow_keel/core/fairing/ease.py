"""Ease the whole hull: the smallest moves of its offsets, none beyond what the builder allows, that make all
lines fair at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..hull.build import Hull
from ..offsets.table import OffsetRow, OffsetsTable
from .field import best_scales, smoothed
from .skin_points import SkinPoints, skin_points

LEAST_MM = 0.05
"""Smaller moves are left out: no tape shows them."""
STEEP = 0.5
ROUNDS = 4


@dataclass(frozen=True)
class Move:
    """One offset moved: its row, what it was and is, how far the skin went with it (mm, outward positive)."""

    row: int
    before: OffsetRow
    after: OffsetRow
    skin: float

    @property
    def by(self) -> float:
        """The change of the one offset that moved, mm."""
        return (self.after.half_breadth - self.before.half_breadth) + (self.after.height - self.before.height)


def ease(table: OffsetsTable, hull: Hull, most: float, step: float = 0.0) -> tuple[Move, ...]:
    """Moves of at most `most` mm of skin each, rounded to `step` mm (0: not rounded), greatest first.

    The offsets are taken as a smooth field over the skin with the noise that makes them likeliest; each goes
    to that field, along the hull's normal. Those that would go too far stop at `most`, and the others
    are worked out again around them. Stems, transoms and the keel stay: each is faired as a line
    of its own. (Taken into the field, a keel that turns up into a stem pulled the skin beside it out of true.)
    """
    keel = {k for k, row in enumerate(table.rows) if row.label == "keel"}
    wanted: dict[int, list[tuple[float, Array]]] = {}
    for points in skin_points(table, hull):
        for k, skin in _panel_moves(points, most, keel):
            wanted.setdefault(points.rows[k], []).append((skin, points.normals[k]))
    moves: list[Move] = []
    for row, parts in wanted.items():
        skin = float(np.mean([s for s, _ in parts]))
        normal = np.mean([n for _, n in parts], axis=0)
        move = _move(row, table.rows[row], skin, normal, step)
        if move is not None:
            moves.append(move)
    return tuple(sorted(moves, key=lambda m: -abs(m.skin)))


def _panel_moves(points: SkinPoints, most: float, keel: set[int]) -> list[tuple[int, float]]:
    judged = np.array(points.judged)
    keep = np.array([row not in keel for row in points.rows])
    at, given, judged = points.at[keep], points.values[keep], judged[keep]
    normals = points.normals[keep][:, 1:]
    scales = best_scales(at, given)
    stays = np.zeros(len(judged), dtype=bool)
    values, skin = given.copy(), np.zeros(len(given))
    for _ in range(ROUNDS):
        fair = smoothed(at, values, scales, stays)
        wish = ((fair - given) * normals).sum(axis=1)
        skin = np.where(judged & ~stays, wish, skin)
        beyond = judged & ~stays & (np.abs(skin) > most)
        if not np.any(beyond):
            break
        skin[beyond] = np.clip(skin[beyond], -most, most)
        values[beyond] = given[beyond] + skin[beyond, None] * normals[beyond]
        stays = stays | beyond
    places = np.flatnonzero(keep)[judged]
    return [(int(k), float(s)) for k, s in zip(places, np.clip(skin[judged], -most, most), strict=True)]


def _move(row: int, before: OffsetRow, skin: float, normal: Array, step: float) -> Move | None:
    """The move as a change of one offset: the half-breadth on the topsides, the height on the bottom."""
    which = "half_breadth" if abs(normal[1]) >= STEEP else "height"
    slope = float(normal[1] if which == "half_breadth" else normal[2])
    if abs(slope) < 0.2:
        return None
    by = skin / slope
    if step > 0:
        by = np.trunc(by / step + 0.5 * np.sign(by)) * step
    after = max(getattr(before, which) + float(by), 0.0 if which == "half_breadth" else -np.inf)
    change = after - getattr(before, which)
    if abs(change) < max(LEAST_MM, 0.5 * step):
        return None
    return Move(row, before, before.model_copy(update={which: after}), change * slope)


def moved(table: OffsetsTable, moves: tuple[Move, ...]) -> OffsetsTable:
    """The table with the moves made."""
    rows = list(table.rows)
    for move in moves:
        rows[move.row] = move.after
    return table.model_copy(update={"rows": tuple(rows)})
