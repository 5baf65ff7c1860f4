"""Ease the whole hull: the smallest moves of its offsets, none beyond what the builder allows, that make all
lines fair at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import HollowKeelError, InputError
from ..findings import mm
from ..geometry.arrays import Array
from ..hull.build import Hull, build_hull
from ..offsets.table import OffsetRow, OffsetsTable, read_lines
from .deck_alone import deck_alone
from .ease_lines import Wish, line_wishes
from .field import best_scales, smoothed
from .skin_points import SkinPoints, skin_points

LEAST_MM = 0.05
"""Smaller moves are left out: no tape shows them."""
STEEP = 0.5
ROUNDS = 4
HELD_MM = 0.2
"""An offset that wants to go farther than it may by no more is fair enough."""


@dataclass(frozen=True)
class PointMove:
    """One offset moved: its row, what it was and is, how far the skin, or the line it is on, went with it (mm, outward and up
    positive)."""

    row: int
    before: OffsetRow
    after: OffsetRow
    skin: float

    @property
    def by(self) -> float:
        """The change of what moved, mm; where more than one offset did, the greatest."""
        changes = (
            self.after.half_breadth - self.before.half_breadth,
            self.after.height - self.before.height,
            self.after.station - self.before.station,
        )
        return max(changes, key=abs)


@dataclass(frozen=True)
class Eased:
    """The `moves`, greatest first; rows that would have to move farther than was allowed, with how far (mm), worst first."""

    moves: tuple[PointMove, ...]
    held: tuple[tuple[int, float], ...]


def ease(table: OffsetsTable, hull: Hull, most: float, step: float = 0.0) -> tuple[PointMove, ...]:
    """The moves of `eased`: none farther than `most` mm, each a multiple of `step` mm (0: as they come)."""
    return eased(table, hull, most, step).moves


def sound_most(most: float) -> None:
    """Raises InputError where an offset may move by no length, `most` mm."""
    if not most > 0:
        raise InputError("offsets move by more than nothing", value=mm(most), mend="Give the most that any of them may move.")


def eased(table: OffsetsTable, hull: Hull, most: float, step: float = 0.0) -> Eased:
    """Moves of at most `most` mm of skin, or of a line, each, rounded to `step` mm (0: not rounded).

    The offsets are taken as a smooth field over the skin with the noise that makes them likeliest; each goes
    to that field, along the hull's normal. Those that would go too far stop at `most`, and the others
    are worked out again around them. The sheer in profile, the keel and the stems are faired as lines of their own. (Taken into
    the field, a keel that turns up into a stem pulled the skin beside it out of true.) Raises InputError for `most` below nothing.
    """
    sound_most(most)
    keel = {k for k, row in enumerate(table.rows) if row.label == "keel"}
    wanted: dict[int, list[tuple[float, float, Array]]] = {}
    for points in skin_points(table, hull):
        for k, skin, asked in _panel_moves(points, most, keel):
            wanted.setdefault(points.rows[k], []).append((skin, asked, points.normals[k]))
    moves: dict[int, PointMove] = {}
    held: dict[int, float] = {}
    for row, parts in wanted.items():
        skin, asked = (float(np.mean([p[k] for p in parts])) for k in (0, 1))
        normal = np.mean([n for *_, n in parts], axis=0)
        move = _move(row, table.rows[row], skin, normal, step)
        if move is not None:
            moves[row] = move
        if abs(asked) > most + HELD_MM:
            held[row] = asked
    for wish in line_wishes(table, most):
        line_move = _on_line(moves.get(wish.row), table.rows[wish.row], wish, step)
        if line_move is not None:
            moves[wish.row] = line_move
        if abs(wish.wanted) > most + HELD_MM:
            held[wish.row] = max(wish.wanted, held.get(wish.row, 0.0), key=abs)
    for move in _deck_moves(table, most, step, held):
        moves[move.row] = move
    return Eased(tuple(sorted(moves.values(), key=lambda m: -abs(m.by))), tuple(sorted(held.items(), key=lambda h: -abs(h[1]))))


def _deck_moves(table: OffsetsTable, most: float, step: float, held: dict[int, float]) -> list[PointMove]:
    """The moves of what lies past the sheer, faired as a skin of its own; what would have to go farther is added to `held`. The
    sheer itself is the hull's."""
    alone = deck_alone(table) if table.has_deck else None
    if alone is None:
        return []
    try:
        found = eased(alone.rows, build_hull(read_lines(alone.rows)), most, step)
    except HollowKeelError:
        return []
    held |= {alone.numbers[row]: by for row, by in found.held if not alone.is_sheer(row)}
    return [
        PointMove(alone.numbers[m.row], alone.named(m.row, m.before), alone.named(m.row, m.after), m.skin)
        for m in found.moves
        if not alone.is_sheer(m.row)
    ]


def _on_line(move: PointMove | None, before: OffsetRow, wish: Wish, step: float) -> PointMove | None:
    """A row's move with what the line it is on wants of it; None where that is next to nothing and it has none of its own."""
    along, up = _rounded(wish.station, step), _rounded(wish.height, step)
    if max(abs(along), abs(up)) < max(LEAST_MM, 0.5 * step):
        return move
    own = move.after if move is not None else before
    after = own.model_copy(update={"station": before.station + along, "height": own.height + up})
    skin = move.skin if move is not None else float(np.hypot(along, up)) * (1.0 if up >= 0 else -1.0)
    return PointMove(wish.row, before, after, skin)


def _rounded(by: float, step: float) -> float:
    return float(np.trunc(by / step + 0.5 * np.sign(by)) * step) if step > 0 else by


def _panel_moves(points: SkinPoints, most: float, keel: set[int]) -> list[tuple[int, float, float]]:
    """For each judged point its number, how far it moves and how far it would if it were let, mm of skin."""
    judged = np.array(points.judged)
    keep = np.array([row not in keel for row in points.rows])
    at, given, judged = points.at[keep], points.values[keep], judged[keep]
    normals = points.normals[keep][:, 1:]
    scales = best_scales(at, given)
    stays = np.zeros(len(judged), dtype=bool)
    values, skin, asked = given.copy(), np.zeros(len(given)), np.zeros(len(given))
    for _ in range(ROUNDS):
        fair = smoothed(at, values, scales, stays)
        wish = ((fair - given) * normals).sum(axis=1)
        skin = np.where(judged & ~stays, wish, skin)
        asked = np.where(judged & ~stays, wish, asked)
        beyond = judged & ~stays & (np.abs(skin) > most)
        if not np.any(beyond):
            break
        skin[beyond] = np.clip(skin[beyond], -most, most)
        values[beyond] = given[beyond] + skin[beyond, None] * normals[beyond]
        stays = stays | beyond
    places = np.flatnonzero(keep)[judged]
    moved_by = np.clip(skin[judged], -most, most)
    return [(int(k), float(s), float(a)) for k, s, a in zip(places, moved_by, asked[judged], strict=True)]


def _move(row: int, before: OffsetRow, skin: float, normal: Array, step: float) -> PointMove | None:
    """The move as a change of one offset: the half-breadth on the topsides, the height on the bottom."""
    which = "half_breadth" if abs(normal[1]) >= STEEP else "height"
    slope = float(normal[1] if which == "half_breadth" else normal[2])
    if abs(slope) < 0.2:
        return None
    by = _rounded(skin / slope, step)
    after = max(getattr(before, which) + float(by), 0.0 if which == "half_breadth" else -np.inf)
    change = after - getattr(before, which)
    if abs(change) < max(LEAST_MM, 0.5 * step):
        return None
    return PointMove(row, before, before.model_copy(update={which: after}), change * slope)


def moved(table: OffsetsTable, moves: tuple[PointMove, ...]) -> OffsetsTable:
    """The table with the moves made."""
    rows = list(table.rows)
    for move in moves:
        rows[move.row] = move.after
    return table.model_copy(update={"rows": tuple(rows)})
