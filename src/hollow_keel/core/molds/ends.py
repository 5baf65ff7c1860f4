"""The ends of the hull as pieces: the transom's true shape on both its faces, and the stem's bevels by height.

A raked transom is seen true when looked at square to its own plane: heights are then lengths along its rake. Its
forward face is larger than its after face, or smaller, by what the hull narrows over its thickness: between the
two lies the wood that is bevelled away.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface, cross, dot
from ..hull.build import Hull
from ..offsets.table import End, EndKind

PER_PANEL = 61
LANDING_MM = 40.0
"""Planking lands on an inner stem over about so much (common practice)."""
FLAT_MM = 6.0
"""A transom whose edge leaves its own plane by less is flat."""


@dataclass(frozen=True)
class Transom:
    """A flat transom in its own plane: (n, 2) half-breadths and lengths along the rake from its foot, keel to sheer.

    `after` and `forward` are its faces inside the planking; `planking` the outside of the skin on the after face.
    `rake` is its angle from upright, radians, positive where the sheer lies farther from the hull's middle;
    `bevels` (n,) the angle of its edge from square, radians, positive where the forward face is larger.
    """

    planking: Array
    after: Array
    forward: Array
    bevels: Array
    rake: float


def transom(hull: Hull, skin: float, thickness: float, *, stern: bool = True) -> Transom:
    """The transom at one end of a hull, `thickness` mm thick, inside `skin` mm of planking.

    Raises ImpossiblePlan where that end has none, or one that is not flat.
    """
    end = hull.lines.stern if stern else hull.lines.bow
    if end.kind is not EndKind.TRANSOM:
        raise ImpossiblePlan(f"This hull has no transom at its {'stern' if stern else 'bow'}.")
    foot, along, out = _plane(end)
    planking, after, forward = [], [], []
    for panel in hull.panels:
        v = np.linspace(0.0, 1.0, PER_PANEL)
        on_end = panel.surface.points(np.full_like(v, 1.0 if stern else 0.0), v)
        planking.append(on_end)
        after.append(_inner(panel.surface, v, skin, foot, out, 0.0, stern))
        forward.append(_inner(panel.surface, v, skin, foot, out, thickness, stern))
    flat = [np.concatenate(parts) for parts in (planking, after, forward)]
    first, second, third = (np.column_stack([p[:, 1], (p - foot) @ along]) for p in flat)
    bevels = np.arctan2(_outward(second, third), thickness)
    rake = float(np.arctan2(along[0] if stern else -along[0], along[2]))
    return Transom(frozen(first), frozen(second), frozen(third), frozen(bevels), rake)


def _plane(end: End) -> tuple[Array, Array, Array]:
    """The plane that a transom's edge lies in: its foot on the centreline, the way up it, and the way out of the hull."""
    x, _, z = end.points.T
    slope, start = np.polyfit(z, x, 1)
    if np.abs(start + slope * z - x).max() > FLAT_MM:
        raise ImpossiblePlan("This transom is not flat: its true shape has to be taken from the hull itself.")
    along = np.array([slope, 0.0, 1.0]) / np.hypot(slope, 1.0)
    foot = np.array([start + slope * z[0], 0.0, z[0]])
    return foot, along, np.array([along[2], 0.0, -along[0]])


def _inner(
    surface: TensorSurface, v: Array, skin: float, foot: Array, out: Array, depth: float, stern: bool
) -> Array:
    """Where the inner face of the skin comes to the plane `depth` mm inside the transom's after face, (n, 3)."""
    u = np.full_like(v, 1.0 if stern else 0.0)
    wanted = -depth if stern else depth
    for _ in range(6):
        jet = surface.jet(u, v)
        normal = jet.normal
        product = cross(jet.dv, jet.du)
        change = cross(jet.duv, jet.du) + cross(jet.dv, jet.duu)
        size = np.linalg.norm(product, axis=1, keepdims=True)
        turning = (change - normal * dot(normal, change)[:, None]) / size
        miss = (jet.point - skin * normal - foot) @ out - wanted
        u = np.clip(u - miss / ((jet.du - skin * turning) @ out), -0.2, 1.2)
    jet = surface.jet(u, v)
    result: Array = jet.point - skin * jet.normal
    return result


def _outward(inner: Array, other: Array) -> Array:
    """How far each point of another line lies outside the nearest place of a line, mm; negative inside it."""
    along = np.gradient(inner, axis=0)
    along = along / np.linalg.norm(along, axis=1, keepdims=True)
    away = other - inner
    result: Array = away[:, 0] * along[:, 1] - away[:, 1] * along[:, 0]
    return result


def stem_bevels(hull: Hull, *, stern: bool = False, count: int = 13) -> list[tuple[float, float, float]]:
    """Along a stem's rabbet from its foot: (position, height, bevel), mm and radians.

    The bevel is the angle between the planking and the centre plane over the first LANDING_MM, measured square to the
    rabbet: the wood of the inner stem is cut to it on each side. Raises ImpossiblePlan where that end has no stem.
    """
    end = hull.lines.stern if stern else hull.lines.bow
    if end.kind is not EndKind.STEM:
        raise ImpossiblePlan(f"This hull has no stem at its {'stern' if stern else 'bow'}.")
    found: list[tuple[float, float, float]] = []
    for number, panel in enumerate(hull.panels):
        v = np.linspace(0.02 if number == 0 else 0.0, 1.0, count)
        jet = panel.surface.jet(np.full_like(v, 1.0 if stern else 0.0), v)
        rabbet = jet.dv / np.linalg.norm(jet.dv, axis=1, keepdims=True)
        step = LANDING_MM / np.linalg.norm(jet.du, axis=1)
        landing = panel.surface.points(1.0 - step if stern else step, v) - jet.point
        square = landing - dot(landing, rabbet)[:, None] * rabbet
        angle = np.arcsin(np.clip(square[:, 1] / np.linalg.norm(square, axis=1), -1.0, 1.0))
        found += list(zip(jet.point[:, 0].tolist(), jet.point[:, 2].tolist(), angle.tolist(), strict=True))
    return found
