"""A course laid on from where its strips really lie: what is laid stays as it is, the rest follows from the last edge as measured.

A place that lay so many strips from the guide by the plan lies so many from it by the work: up to the last strip that is on
what was measured more or less is shared evenly among those that are laid; from there on the strips to come are counted. As the
work drifts by millimetres over metres, the lines of equal number keep their strips' width to a share of (drift per length)² / 2.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..geometry.arrays import Array
from ..geometry.polyline import runs_along
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..settings.strip_choices import RestWay
from .distance import DistanceField
from .edges import EdgePiece
from .levels import Number
from .strips import Strip

Place = Callable[[int], float]
"""The number of the edge of a plan that lies beyond so many strips, in what its numbers count."""
LEAST_SHARE = 0.05
ALONG = 161


@dataclass(frozen=True)
class Drift:
    """Where the work has got to: `laid` strips are on (numbered through all courses), and at positions `x` along the hull `more` mm
    are left than the plan says (less: negative). The rest goes `way`; where a few strips bring it back, `few` of them stand for
    `ahead` of the plan."""

    laid: int
    x: tuple[float, ...]
    more: tuple[float, ...]
    way: RestWay
    few: int = 0
    ahead: int = 0

    def at(self, x: Array) -> Array:
        """What is left more at positions (n,), mm, + where more: a monotone cubic through what was measured, level beyond."""
        from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

        if len(self.x) == 1:
            return np.full_like(x, self.more[0])
        result: Array = PchipInterpolator(self.x, self.more)(np.clip(x, self.x[0], self.x[-1]))
        return result


@dataclass(frozen=True)
class LaidSoFar:
    """The strips of one course that are on, as they were planned, and how the work has drifted."""

    strips: tuple[Strip, ...]
    drift: Drift

    @property
    def count(self) -> int:
        """How many are on."""
        return len(self.strips)

    def renumbered(self, number: Number, field: DistanceField, place: Place) -> Number:
        """The numbers of a plan as the work has them."""
        pieces = self.strips[-1].far
        at = np.concatenate([p.at for p in pieces])
        order = np.argsort(at)
        at, uv = at[order], np.concatenate([p.uv for p in pieces])[order]
        jet = field.surface.jet(uv[:, 0], uv[:, 1])
        told = field.at(jet.point)
        planned = number(told.distance, at)
        # what is left is measured along the mold, distances square to the strips
        nearer = self.drift.at(jet.point[:, 0]) * np.abs(dot(told.ray, _along_mold(jet)))
        edge = np.maximum(number(told.distance - nearer, at), LEAST_SHARE * planned)
        laid, drift = place(self.count), self.drift
        target, slot = place(self.count + drift.ahead), place(self.count + drift.few)

        def own(distance: Array, g: Array) -> Array:
            n = number(distance, g)
            line = np.interp(g, at, edge)
            on = n - line + laid
            if drift.way is RestWay.FEW:
                rate = (slot - laid) / np.maximum(target - line, LEAST_SHARE)
                on = np.where(n <= target, laid + (n - line) * rate, n - target + slot)
            return np.where(n <= line, n * laid / line, on)

        return own

    def as_laid(self, strips: tuple[Strip, ...]) -> tuple[Strip, ...]:
        """Strips laid anew with those that are on as they were cut: only where their edges lie is another matter."""
        on = tuple(replace(s, near=a.near, far=a.far) for s, a in zip(self.strips, strips, strict=False))
        numbered = tuple(replace(s, number=k + 1) for k, s in enumerate(on))
        return (*numbered, *strips[self.count :])

    def moved(self, surface: TensorSurface, *, upward: bool) -> tuple[Strip, ...]:
        """The strips that are on, their edges moved across the hull to where they lie."""
        whole = len(self.strips)
        edges = [
            tuple(self._shifted(surface, p, (k + 1) / whole, upward) for p in s.far)
            for k, s in enumerate(self.strips)
        ]
        near = [self.strips[0].near, *edges[:-1]]
        return tuple(
            replace(s, number=k + 1, near=a, far=b)
            for k, (s, a, b) in enumerate(zip(self.strips, near, edges, strict=True))
        )

    def _shifted(self, surface: TensorSurface, piece: EdgePiece, share: float, upward: bool) -> EdgePiece:
        u, v = piece.uv.T
        jet = surface.jet(u, v)
        away = cross(jet.normal, np.gradient(piece.points, piece.run, axis=0))
        aside = np.abs(dot(_along_mold(jet), away)) / np.maximum(np.abs(dot(jet.dv, away)), 1e-9)
        back = share * self.drift.at(piece.points[:, 0]) * aside
        new = np.clip(v - back if upward else v + back, 0.0, 1.0)
        points = surface.points(u, new)
        run = runs_along(points)
        return replace(piece, points=points, uv=np.column_stack([u, new]), run=run)


def _along_mold(jet: Jet) -> Array:
    """Unit directions (n, 3) along the hull within the plane of a station."""
    along = cross(jet.normal, np.array([[1.0, 0.0, 0.0]]))
    result: Array = along / np.maximum(np.linalg.norm(along, axis=1, keepdims=True), 1e-9)
    return result


def whole_line(edge: tuple[EdgePiece, ...], far: Callable[[Array], Array]) -> tuple[Array, Array]:
    """An edge as v (n,) over u (n,) along the whole hull: where it has run out it is the line that its course ends on."""
    u = np.linspace(0.0, 1.0, ALONG)
    v = far(u)
    for piece in edge:
        order = np.argsort(piece.uv[:, 0])
        own = piece.uv[order]
        inside = (u >= own[0, 0]) & (u <= own[-1, 0])
        v = np.where(inside, np.interp(u, own[:, 0], own[:, 1]), v)
    return u, v
