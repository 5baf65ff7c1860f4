"""Hull and deck as one picture: both planked, the openings left open. Strips of the deck are numbered from 1001."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from ...core.deck.openings import OpeningPlan
from ...core.geometry.arrays import Array, ranges_of
from ...core.planking.strips import Planking
from ...core.stock.needs import DECK_FROM
from ..planking.mesh import HullMesh, planked_mesh

FINE = 161
"""Points along a strip of the deck: fine enough that an opening's rim looks round."""


def decked_mesh(hull: Planking | None, deck: Planking, openings: Sequence[OpeningPlan]) -> HullMesh:
    """The mesh of both, or of the deck alone while there are no strips on the hull."""
    top = planked_mesh(deck, along=FINE)
    holes = shapely.union_all([shapely.Polygon(made.smallest) for made in openings])
    quads, strip, seams = _opened(top, holes) if openings else (top.quads, top.strip, top.seams)
    if hull is None or not hull.strips:
        return HullMesh(top.points, quads, strip + DECK_FROM, seams, deck.width)
    under = planked_mesh(hull)
    return HullMesh(
        np.concatenate([under.points, top.points]),
        np.concatenate([under.quads, quads + len(under.points)]),
        np.concatenate([under.strip, strip + DECK_FROM]),
        np.concatenate([under.seams, seams]),
        hull.width,
    )


def _opened(top: HullMesh, holes: shapely.Geometry) -> tuple[np.ndarray, np.ndarray, Array]:
    """The deck's faces and seams without what lies over an opening."""
    over = shapely.contains_xy(holes, top.points[:, 0], top.points[:, 1])
    kept = ~over[top.quads].all(axis=1)
    seams = np.concatenate([_parted(seam, holes) for seam in top.seams])
    return top.quads[kept], top.strip[kept], seams


def _parted(seam: Array, holes: shapely.Geometry) -> Array:
    """A seam (n, 3) as lines (k, n, 3) that leave the openings out."""
    over = shapely.contains_xy(holes, seam[:, 0], seam[:, 1])
    found = [seam[np.clip(np.arange(len(seam)), first, stop - 1)] for first, stop in ranges_of(~over)]
    return np.array(found).reshape(-1, *seam.shape)
