"""Strips laid flat: the shape that is cut from a straight piece, its edge towards the guide straight."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array, frozen
from .strips import Planking, Strip

SAME_MM = 0.3
"""A strip whose widths differ by less is of one width."""


def flat_strip(strip: Strip, planking: Planking) -> Array:
    """Along the straight edge (mm from the bow end) and how wide the strip is there, (n, 2): its longest piece. Where its
    far edge has run out the line that its course ends on is the other edge."""
    if not strip.near:
        return frozen(np.zeros((0, 2)))
    near = max(strip.near, key=lambda piece: piece.length)
    far = [p.points for p in strip.far if p.g[0] < near.g[1] and near.g[0] < p.g[1]]
    limit = planking.limits[strip.panel, strip.course]
    line = np.concatenate(far) if far else limit
    widths = gaps(near.points, line)
    if far:  # past the ends of the far edge the hull's own limit cuts the strip
        ends = (near.points[:, 0] < line[0, 0]) | (near.points[:, 0] > line[-1, 0])
        widths = np.where(ends, np.minimum(widths, gaps(near.points, limit)), widths)
    return frozen(np.column_stack([near.run, np.minimum(widths, strip.width_max)]))


def varies(flat: Array) -> bool:
    """Whether a flat strip has to be cut to shape, its ends left out."""
    inner = flat[(flat[:, 0] > 0.05 * flat[-1, 0]) & (flat[:, 0] < 0.95 * flat[-1, 0])] if len(flat) else flat
    return bool(len(inner)) and float(np.ptp(inner[:, 1])) > SAME_MM


def gaps(points: Array, line: Array) -> Array:
    """Distance of each point (n, 3) from a polyline (m, 3) carried on straight past its ends: strips are cut square there."""
    start, step = line[:-1], np.diff(line, axis=0)
    size = np.maximum((step * step).sum(axis=1), 1e-300)
    low, high = np.zeros(len(step)), np.ones(len(step))
    low[0], high[-1] = -np.inf, np.inf
    share = np.clip(((points[:, None] - start) * step).sum(axis=2) / size, low, high)
    feet = start + share[..., None] * step
    result: Array = np.linalg.norm(feet - points[:, None], axis=2).min(axis=1)
    return result
