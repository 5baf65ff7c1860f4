"""Strips as they are laid: their edges, ends and lengths, and all of one side together."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from ..findings import Finding
from ..geometry.arrays import Array, BoolArray
from ..job import StripSettings
from ..settings.strip_choices import Course
from .edges import BOW_ENDS, STERN_ENDS, EdgePiece

END_SHARE = 0.05
"""Share of an edge at each end that is left out of what is told of its middle."""


@dataclass(frozen=True)
class Strip:
    """One strip of one side, numbered from the guide. Lengths mm, curvatures 1/mm, twist rad/mm, the greatest from end to end.
    `panel` is the part of the hull between knuckles, `course` the way its neighbours follow each other, `shaped` whether it is cut
    narrower towards its ends."""

    number: int
    length: float
    near: tuple[EdgePiece, ...]
    far: tuple[EdgePiece, ...]
    pieces: int
    starts: str
    ends: str
    width_min: float
    width_max: float
    max_edge_set: float
    max_bend: float
    max_twist: float
    panel: int
    course: Course
    shaped: bool = False

    @property
    def near_length(self) -> float:
        """Length of the edge towards the guide, all pieces, mm."""
        return sum(p.length for p in self.near)

    @property
    def far_length(self) -> float:
        """Length of the edge away from the guide, all pieces, mm."""
        return sum(p.length for p in self.far)

    @property
    def amidships(self) -> tuple[float, float, float]:
        """Its greatest edge-set, bend and twist without the twentieth of its length at each end: what is told of a hull's lines."""
        every = [np.abs(p.curvatures[amid(p.run)]).max(axis=0) for p in self.far or self.near if amid(p.run).any()]
        edge_set, bend, twist = np.max(every, axis=0).tolist() if every else (0.0, 0.0, 0.0)
        return edge_set, bend, twist

    @property
    def runs_through(self) -> bool:
        """Whether its far edge runs from the bow end to the stern end of the hull."""
        return any(p.starts in BOW_ENDS and p.ends in STERN_ENDS for p in self.far)


def amid(run: Array) -> BoolArray:
    """Which places of a line with lengths `run` (n,), mm, from its start lie farther from both ends than END_SHARE of it."""
    return np.asarray(np.abs(run / run[-1] - 0.5) <= 0.5 - END_SHARE + 1e-12)


@dataclass(frozen=True)
class Planking:
    """All strips of one side; `limits` (n, 3) by panel and course: the line of the hull where the course ends; `ends` the lines of
    each panel's bow and stern ends, (n, 3) each."""

    strips: tuple[Strip, ...]
    width: float
    guide: str
    findings: tuple[Finding, ...]
    limits: Mapping[tuple[int, Course], Array]
    ends: Mapping[int, tuple[Array, Array]] = field(default_factory=dict)

    @property
    def total_length(self) -> float:
        """Length of all strips of both sides, mm."""
        return 2 * sum(s.length for s in self.strips)

    @cached_property
    def places(self) -> Mapping[int, int]:
        """Which strip of its course each one is, from 1 at the guide, by its number."""
        first: dict[tuple[int, Course], int] = {}
        return {s.number: s.number - first.setdefault((s.panel, s.course), s.number) + 1 for s in self.strips}

    def course(self, panel: int, course: Course) -> tuple[Strip, ...]:
        """The strips of one course in order from the guide."""
        return tuple(s for s in self.strips if s.panel == panel and s.course is course)


def nothing_laid(strips: StripSettings) -> Planking:
    """No strips at all, for what can be told without them."""
    return Planking((), strips.cover, strips.guide.value, (), {})
