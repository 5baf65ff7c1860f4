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
from ..geometry.surface import Jet, cross, dot
from ..settings.strip_choices import RestWay
from .distance import DistanceField
from .divided import Division
from .levels import Grid
from .strips import Strip
from .ways import Ways

Rule = Callable[[Ways], Division]
"""How the ways from a guide are divided."""
LEAST_SHARE = 0.05
GONE_MM = 0.5
"""Less than this leaves no room for a strip."""


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

    def going_on(self, plan: Division, field: DistanceField, ways: Ways, grid: Grid, taper: Rule) -> Division:
        """A plan's division as the work has it: up to the last strip that is on what was measured more or less is shared evenly,
        and the rest goes its way; `taper` divides what is left where all of it tapers."""
        edges = np.array([plan.at(np.full(len(ways.g), k), ways.g) for k in range(plan.count + 1)])
        last = self._last_edge(plan, field, ways.g)
        laid, drift = self.count, self.drift
        on = edges[: laid + 1] * (last / np.maximum(edges[laid], 1e-9))
        if drift.way is RestWay.TAPER:
            rest = ways.less(last, grid)
            if float(rest.whole.max()) < GONE_MM:
                return Division.through(ways.g, on, plan.covers[:laid], closed=True)
            own = taper(rest)
            dropped = tuple(laid + n for n in own.dropped)
            both = np.concatenate([on, last + own.edges[1:]])
            return Division.through(ways.g, both, (*plan.covers[:laid], *own.covers), dropped, closed=True)
        if drift.way is RestWay.FEW:
            target = edges[laid + drift.ahead]
            share = np.arange(1, drift.few + 1)[:, None] / drift.few
            back = last + share * (target - last)
            covers = (*plan.covers[:laid], *[None] * drift.few, *plan.covers[laid + drift.ahead :])
            return Division.through(ways.g, np.concatenate([on, back, edges[laid + drift.ahead + 1 :]]), covers)
        return Division.through(ways.g, np.concatenate([on, last + edges[laid + 1 :] - edges[laid]]), plan.covers)

    def _last_edge(self, plan: Division, field: DistanceField, g: Array) -> Array:
        """How far from the guide the edge of the last strip that is on really lies, at guide parameters (n,), mm."""
        from scipy.interpolate import PchipInterpolator

        pieces = self.strips[-1].far
        at = np.concatenate([p.at for p in pieces])
        order = np.argsort(at)
        at, uv = at[order], np.concatenate([p.uv for p in pieces])[order]
        apart = np.concatenate([[True], np.diff(at) > 1e-7])
        at, uv = at[apart], uv[apart]
        jet = field.surface.jet(uv[:, 0], uv[:, 1])
        # what is left is measured along the mold, distances square to the strips
        nearer = self.drift.at(jet.point[:, 0]) * np.abs(dot(field.at(jet.point).ray, _along_mold(jet)))
        planned = plan.at(np.full(len(g), self.count), g)
        off = PchipInterpolator(at, nearer)(np.clip(g, at[0], at[-1])) if len(at) > 1 else np.full(len(g), nearer[0])
        return np.asarray(np.maximum(planned - off, LEAST_SHARE * planned))

    def as_laid(self, strips: tuple[Strip, ...]) -> tuple[Strip, ...]:
        """Strips laid anew with those that are on as they were cut: only where their edges lie is another matter."""
        on = tuple(replace(s, near=a.near, far=a.far) for s, a in zip(self.strips, strips, strict=False))
        numbered = tuple(replace(s, number=k + 1) for k, s in enumerate(on))
        return (*numbered, *strips[self.count :])


def _along_mold(jet: Jet) -> Array:
    """Unit directions (n, 3) along the hull within the plane of a station."""
    along = cross(jet.normal, np.array([[1.0, 0.0, 0.0]]))
    result: Array = along / np.maximum(np.linalg.norm(along, axis=1, keepdims=True), 1e-9)
    return result
