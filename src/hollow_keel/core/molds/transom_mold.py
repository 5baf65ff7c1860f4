"""What carries a transom until it is planked: a board along its forward face, or the ribs that a bent one is clamped over."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from ..rules import CLEAR_OF_BEVEL_MM, RIB_DEEP_MM, RIBS_UP, TRANSOM_LEG_MM
from .ends import Transom

LEGS_OUT = 0.6
"""Where legs stand, as a share of the board's half-breadth."""
ARC_POINTS = 49


@dataclass(frozen=True)
class Rib:
    """An arc of a bent transom's forward face, so high up the rake (mm): (n, 2), the middle of the arc at the origin."""

    up: float
    outline: Array


@dataclass(frozen=True)
class TransomMold:
    """A board for a flat transom, (n, 2) as the transom itself is drawn; ribs for a bent one."""

    board: Array | None
    ribs: tuple[Rib, ...] = ()


def transom_mold(transom: Transom, level: float | None) -> TransomMold:
    """The mold of a transom, CLEAR_OF_BEVEL_MM inside its edge; with legs to the set-up line `level` mm above the transom's foot
    along the rake (None: to its own head)."""
    if transom.radius is None:
        return TransomMold(_board(transom, level))
    return TransomMold(None, tuple(_rib(transom, transom.radius, share) for share in RIBS_UP))


def _board(transom: Transom, level: float | None) -> Array:
    face = shapely.Polygon(np.concatenate([transom.forward[::-1] * [-1.0, 1.0], transom.forward]))
    board = max(shapely.get_parts(shapely.buffer(face, -CLEAR_OF_BEVEL_MM)), key=lambda part: part.area)
    _, _, right, top = board.bounds
    if level is not None and level > top:
        out, half = LEGS_OUT * right, TRANSOM_LEG_MM / 2
        legs = [shapely.box(s * out - half, top - TRANSOM_LEG_MM, s * out + half, level) for s in (-1, 1)]
        board = shapely.union_all([board, *legs])
    return frozen(np.asarray(board.exterior.coords)[:-1])


def _rib(transom: Transom, radius: float, share: float) -> Rib:
    up = share * float(transom.forward[-1, 1])
    wide = float(np.interp(up, transom.forward[:, 1], transom.forward[:, 0])) - CLEAR_OF_BEVEL_MM
    angles = np.linspace(-wide / radius, wide / radius, ARC_POINTS)
    arc = np.column_stack([radius * np.sin(angles), radius * np.cos(angles) - radius])
    back = float(arc[:, 1].min()) - RIB_DEEP_MM
    return Rib(up, frozen(np.concatenate([arc, [[arc[-1, 0], back], [arc[0, 0], back]]])))
