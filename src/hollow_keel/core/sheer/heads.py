"""The sheer carried from the inside of the skin to its outside, at every mold and at frames between them.

The mark stands on the inside, where a head of a mold or a frame ends. Carried square to the skin it comes out at the sheer of the
lines. Carried at the deck's slope, as beams and deck will lie, it comes out lower: where the line from the mark, falling outboard
by the camber's slope at that beam, leaves the skin.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.polyline import crossing, run_of
from ..hull.build import Hull
from ..hull.camber import crown_at, edge_slope
from ..job import Job
from ..molds.shape import MoldEdge, mold_edges
from ..molds.stations import Mold
from ..offsets.table import EndKind
from ..sensible import count_of
from ..settings.sheer_choices import Carried
from ..setup.beam import SetUp

PAGE = "sheer"
FAR_MM = 400.0
"""The skin is carried on straight so far past the sheer, and the line from the mark followed so far."""
QUARTERS = 4
KEEL_POINTS, BASE_SHARES = 401, (0.1, 0.9)
WIDEST_TRIES = 8
"""Where the sheer is widest no mold may stand: then the next of so many places."""
SAME_MM = 1.0
"""A frame so near a mold is that mold."""


@dataclass(frozen=True)
class SheerMark:
    """One head: its name, where it stands and which mold it is (empty: none); the mark inside and outside, (2,) half-breadth and
    height, mm; how far both lie above the set-up line, and where the head is cut first; how far round the outside of the skin the
    mark is from the keel; the slope of the head outboard (positive where it falls) and along (positive where the sheer rises aft),
    degrees; the strip at the edge of a mold and how far its lower edge is below the mark, round the mold; and where a ribband lies
    past the sheer what a gauge hooked over it reads to the mark outside, mm (`hooked`; None: not known, or there is none).
    `radii` are how far the mark outside is, straight, from the places that arcs are swung from, mm: on the other side of the hull
    it is as far."""

    name: str
    station: float
    of_mold: str
    inside: Array
    outside: Array
    inside_up: float
    outside_up: float
    cut_up: float
    girth: float
    slope: float
    along: float
    section: Array
    strip: int | None = None
    below: float | None = None
    gauge: float | None = None
    radii: tuple[float, ...] = ()

    @property
    def mold(self) -> bool:
        """Whether it is the head of a mold."""
        return bool(self.of_mold)


@dataclass(frozen=True)
class SheerPlan:
    """All marks from the bow aft; the widest beam between the inner marks, mm; and the places (3,) on the keel that arcs are swung
    from, mm, with what each is called."""

    marks: tuple[SheerMark, ...]
    beam: float
    bases: tuple[Array, ...]
    base_names: tuple[str, ...]
    findings: tuple[Finding, ...]


def carry_sheer(hull: Hull, molds: Sequence[Mold], job: Job, waterline: float, setup: SetUp) -> SheerPlan:
    """The sheer on the outside. Reads the job's trim, its molds' skin, school and false bottom."""
    places = _places(hull, molds, job)
    stations = [x for _, x, _ in places]
    own = job.molds
    inner = mold_edges(hull, stations, own.skin, own.deduction, waterline, own.false_bottom)
    outer = mold_edges(hull, stations, 0.0, own.deduction, waterline)
    both = [(place, a, b) for place, a, b in zip(places, inner, outer, strict=True) if a is not None and b is not None]
    findings = [_missed(name) for (name, _, _), a, b in zip(places, inner, outer, strict=True) if a is None or b is None]
    beam = _widest(hull, waterline, job) if both else 0.0
    bases, base_names = _bases(hull, job.trim.bases)
    findings += _off_keel(job.trim.bases, bases)
    along = _rises([x for (_, x, _), _, _ in both], [float(a.sheer[1]) for _, a, _ in both])
    marks = []
    for k, ((name, x, of_mold), a, b) in enumerate(both):
        slope = _slope(job, 2 * float(a.sheer[0]), beam)
        skin = _carried_on(b.points)
        outside = _through(a.sheer, slope, skin) if job.trim.carried is Carried.DECK else b.sheer
        if outside is None:
            findings.append(_outside(name))
            continue
        mark = _mark(name, x, of_mold, a, outside, skin, along[k], job, setup)
        there = np.array([x, *outside])
        marks.append(replace(mark, radii=tuple(float(np.linalg.norm(there - base)) for base in bases)))
    return SheerPlan(tuple(marks), beam, bases, base_names, tuple(findings))


def hooked(edge: Array, mark: SheerMark) -> float | None:
    """What a gauge reads that is hooked over a ribband past the sheer and comes down over the skin: straight from the upper edge of
    the ribband's outer face, a line (n, 3) from the bow aft, to the mark outside, in the section of the head, mm; None where the
    ribband does not come there."""
    if not edge[0, 0] <= mark.station <= edge[-1, 0]:
        return None
    over = [float(np.interp(mark.station, edge[:, 0], edge[:, k])) for k in (1, 2)]
    return math.dist(over, mark.outside)


def _widest(hull: Hull, waterline: float, job: Job) -> float:
    """The widest beam of the hull between inner marks, mm, whichever heads are listed: where its sheer is widest."""
    own = job.molds
    sheer = hull.panels[-1].surface.points(np.linspace(0.0, 1.0, KEEL_POINTS), np.ones(KEEL_POINTS))
    order = np.argsort(sheer[:, 1])[::-1][:: KEEL_POINTS // WIDEST_TRIES][:WIDEST_TRIES]
    edges = mold_edges(hull, sheer[order, 0].tolist(), own.skin, own.deduction, waterline, own.false_bottom)
    return 2 * next((float(edge.sheer[0]) for edge in edges if edge is not None), float(sheer[:, 1].max()))


def _bases(hull: Hull, places: Sequence[float]) -> tuple[tuple[Array, ...], tuple[str, ...]]:
    """Where arcs are swung from, and what each is called: on the centreline under or over the keel's own line, at some places along
    the hull or at shares of its length; those off the keel are left out. A third one that is not told is at the head of the stem
    or the transom: high above the line of the others, as the check of a shape must be."""
    keel = hull.panels[0].surface.points(np.linspace(0.0, 1.0, KEEL_POINTS), np.zeros(KEEL_POINTS))
    low, high = float(keel[0, 0]), float(keel[-1, 0])
    wanted = list(places) or [low + share * (high - low) for share in BASE_SHARES]
    order = np.argsort(keel[:, 0])
    found = [frozen(np.array([x, 0.0, float(np.interp(x, keel[order, 0], keel[order, 2]))])) for x in wanted if low <= x <= high]
    names = [f"keel at {mm(round(float(base[0]), 1))}" for base in found]
    if len(found) == len(wanted) == len(BASE_SHARES):
        head = hull.panels[-1].surface.points(np.zeros(1), np.ones(1))[0]
        found.append(frozen(head * [1.0, 0.0, 1.0]))
        names.append("stemhead" if hull.lines.bow.kind is EndKind.STEM else "top of the bow")
    return tuple(found), tuple(names)


def _off_keel(places: Sequence[float], bases: Sequence[Array]) -> list[Finding]:
    """Places that arcs are to be swung from and that are not on the keel."""
    found = {round(float(base[0]), 3) for base in bases}
    return [
        Finding(
            "base-off", Weight.LOOK, PAGE, "arcs", f"The keel is not at position {mm(x)}: swing arcs from a place that it reaches."
        )
        for x in places
        if round(x, 3) not in found
    ]


def _places(hull: Hull, molds: Sequence[Mold], job: Job) -> list[tuple[str, float, str]]:
    """Every head from the bow aft: its name, where it stands, which mold it is."""
    every = job.trim.frames
    found = [(f"mold {mold.name}", mold.station, mold.name) for mold in molds]
    if every > 0 and len(molds) > 1:
        stations = np.array([mold.station for mold in molds])
        count_of(float(np.ptp(stations)), every, "frames")
        frames = np.arange(stations.min() + every, stations.max(), every)
        number = 0
        for x in frames.tolist():
            if np.abs(stations - x).min() > SAME_MM:
                number += 1
                found.append((f"frame {number}", x, ""))
    if job.trim.quarters and molds:
        found += _quarters(hull, molds)
    return sorted(found, key=lambda place: place[1])


def sheer_ends(hull: Hull) -> tuple[float, float]:
    """Where the sheer begins and ends, mm along the hull."""
    bow, stern = hull.panels[-1].surface.points(np.array([0.0, 1.0]), np.ones(2))[:, 0].tolist()
    return bow, stern


def _quarters(hull: Hull, molds: Sequence[Mold]) -> list[tuple[str, float, str]]:
    """Places at the quarters of the bays between the first and the last mold and the ends of the sheer, counted from the mold."""
    ends = sheer_ends(hull)
    stations = [mold.station for mold in molds]
    found = []
    for name, mold, end in (("bow", min(stations), ends[0]), ("stern", max(stations), ends[1])):
        if abs(end - mold) > SAME_MM * QUARTERS:
            found += [(f"{name} quarter {k}", mold + k / QUARTERS * (end - mold), "") for k in range(1, QUARTERS)]
    return found


def _rises(stations: list[float], heights: list[float]) -> list[float]:
    """How steeply the sheer rises aft at each place, degrees, by its neighbours."""
    if len(stations) < 2:
        return [0.0] * len(stations)
    slopes: list[float] = np.degrees(np.arctan(np.gradient(np.array(heights), np.array(stations)))).tolist()
    return slopes


def _slope(job: Job, beam: float, widest: float) -> float:
    """How steeply the camber falls at the edge of a beam, degrees."""
    trim = job.trim
    if beam <= 0 or trim.crown <= 0:
        return 0.0
    crown = crown_at(beam, trim.crown, trim.crown_on or widest, trim.rule)
    return math.degrees(math.atan(edge_slope(beam, crown)))


def _carried_on(points: Array) -> Array:
    """A section of the outside, keel to sheer, and straight on past the sheer."""
    last = points[-1] - points[-2]
    size = float(np.hypot(*last))
    return frozen(np.concatenate([points, points[-1:] + FAR_MM * last[None] / size])) if size > 0 else points


def _through(mark: Array, slope: float, skin: Array) -> Array | None:
    """Where a line from the mark, falling outboard by a slope (degrees), leaves the skin (n, 2)."""
    turn = math.radians(slope)
    end = mark + FAR_MM * np.array([math.cos(turn), -math.sin(turn)])
    found = crossing(np.array([mark, end]), skin, mark)
    return None if found is None else found[2]


def _mark(
    name: str, station: float, of_mold: str, inner: MoldEdge, outside: Array, skin: Array, along: float, job: Job, setup: SetUp
) -> SheerMark:
    inside = inner.sheer
    falls = math.degrees(math.atan2(float(inside[1] - outside[1]), float(outside[0] - inside[0])))
    return SheerMark(
        name,
        station,
        of_mold,
        frozen(inside),
        frozen(outside),
        float(setup.above(float(inside[1]))),
        float(setup.above(float(outside[1]))),
        float(setup.above(float(inside[1]) + job.trim.above)),
        run_of(skin, outside),
        falls,
        along,
        skin,
    )


def _missed(name: str) -> Finding:
    text = "There is no section of the skin here: leave this head out, or move it."
    return Finding("sheer-missed", Weight.LOOK, PAGE, name, text)


def _outside(name: str) -> Finding:
    text = f"A line at the deck's slope does not come out of the skin within {mm(FAR_MM)}: a smaller crown, or square to the skin."
    return Finding("sheer-outside", Weight.LOOK, PAGE, name, text)
