"""Where stringers lie in the molds: as wood lies by itself, or through the notches that the builder has put elsewhere.

Wood lies along a geodesic: here the one that sets off along the hull at a share of its girth amidships. Told once, for the notches
in molds, for the stringers inside the skin, and for a form of stringers under veneers.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen, lengths, rising
from ..geometry.geodesic import Geodesics, State
from ..geometry.inverse import inverted
from ..geometry.polyline import at_share, met, runs_along
from ..geometry.surface_line import SurfaceLine
from ..hull.build import Hull
from ..job import Job
from ..settings.form import let_in
from ..settings.mold_choices import StringerNotches
from .stations import Mold

PLACES = 401
STEP_MM, MOST_STEPS = 50.0, 2000
OFF_MM = 0.5
"""A place of a mold that is farther off the surface is on no part of it."""
TOLD_MM = 1.0
"""A notch that is forced so far from where wood lies by itself is said."""
LEAST_SINE = 1e-3


@dataclass(frozen=True)
class StringerLine:
    """A stringer of one side at a `share` of the girth, numbered from the keel: the parameters (n, 2) of its middle on a panel of
    the hull, from the bow aft, and where it lies on the molds (n, 3), mm."""

    number: int
    share: float
    panel: int
    uv: Array
    points: Array

    def at(self, station: float) -> tuple[Array, Array] | None:
        """Half-breadth and height (2,) of its middle where it crosses x = `station`, and the unit direction (3,) that it has there;
        None where it does not come there."""
        line = self.points
        if not line[0, 0] <= station <= line[-1, 0]:
            return None
        k = int(np.clip(np.searchsorted(line[:, 0], station), 1, len(line) - 1))
        step = line[k] - line[k - 1]
        share = (station - line[k - 1, 0]) / step[0]
        return line[k - 1, 1:] + share * step[1:], step / np.linalg.norm(step)


@dataclass(frozen=True)
class StringerNotch:
    """Where a stringer's middle comes on the edge of a mold: the place (2,) and the unit direction of the edge there, keel to
    sheer; how wide it is along the edge and how deep square to it in the mold's plane, without room, mm."""

    number: int
    at: Array
    along: Array
    wide: float
    deep: float


@dataclass(frozen=True)
class Stringers:
    """The stringers of one side and their notches by the molds' names; which of them do not lie as wood does by itself is found."""

    lines: tuple[StringerLine, ...]
    notches: Mapping[str, tuple[StringerNotch, ...]]
    findings: tuple[Finding, ...]


def stringers_in(hull: Hull, molds: Sequence[Mold], job: Job) -> Stringers:
    """The stringers of a job. Reads where its stringers lie, their section, and what its molds take off."""
    own, findings = job.inside, []
    paths: dict[int, Geodesics] = {}
    lines: list[StringerLine] = []
    for k, share in enumerate(sorted(own.stringers)):
        as_wood = _as_wood(hull, k + 1, share, job, paths)
        if as_wood is None:
            text = "Wood does not lie along the hull there: look at its lines, or place it elsewhere."
            findings.append(Finding("stringer-lost", Weight.LOOK, "molds", f"stringer {k + 1}", text))
        if job.molds.stringer_notches is not StringerNotches.SHARE:
            lines += [as_wood] if as_wood is not None else []
            continue
        lines += _forced(hull, k + 1, share, job, molds)
        findings += _told(k + 1, share, molds, as_wood)
    cut = job.molds.stringer_notches is not StringerNotches.NONE or let_in(job)
    notches = {mold.name: tuple(_notches(mold, hull, lines, job)) for mold in molds if cut}
    return Stringers(tuple(lines), notches, tuple(findings))


def wide_along(tangent: Array, along: Array, width: float) -> float:
    """How wide along a section, mm, a stringer of a width is that crosses it in a direction (3,); the section runs along (2,)."""
    return width / math.sqrt(max(1.0 - float(tangent[1:] @ along) ** 2, LEAST_SINE))


def _notches(mold: Mold, hull: Hull, lines: Sequence[StringerLine], job: Job) -> list[StringerNotch]:
    found = []
    edge, own = mold.edge.points, job.inside
    for line in lines:
        crossed = line.at(mold.station)
        if crossed is None:
            continue
        place, tangent = crossed
        if job.molds.stringer_notches is StringerNotches.SHARE:
            at, along = at_share(edge, line.share)
        else:
            _, at, along = met(edge, place)
        if float(np.hypot(*(at - place))) > own.stringer_width:
            continue  # it runs out beside this mold
        leans = _leans(hull, line, mold.station)
        deep = own.stringer_thickness / max(leans, LEAST_SINE)
        found.append(StringerNotch(line.number, at, along, wide_along(tangent, along, own.stringer_width), deep))
    return found


def _leans(hull: Hull, line: StringerLine, station: float) -> float:
    """What of the hull's normal lies in the plane x = `station` where a stringer crosses it."""
    u, v = (np.array([np.interp(station, line.points[:, 0], line.uv[:, k])]) for k in (0, 1))
    normal = hull.panels[line.panel].surface.jet(u, v).normal[0]
    return float(np.hypot(normal[1], normal[2]))


def _line(hull: Hull, number: int, share: float, panel: int, uv: Array, job: Job) -> StringerLine:
    at = np.linspace(uv[0, 0], uv[-1, 0], PLACES)
    line = SurfaceLine.through(uv[:, 0], uv[:, 1], at)
    jet = hull.panels[panel].surface.jet(line.u, line.v)
    points = jet.point - on_molds(hull, job)[panel] * jet.normal
    return StringerLine(number, share, panel, frozen(np.column_stack([line.u, line.v])), frozen(points))


def on_molds(hull: Hull, job: Job) -> list[float]:
    """How far inside the outside of the hull the molds' edges lie at each panel, mm."""
    last = len(hull.panels) - 1
    return [job.molds.deducted + (job.molds.false_bottom if k == 0 < last else 0.0) for k in range(last + 1)]


def _as_wood(hull: Hull, number: int, share: float, job: Job, paths: dict[int, Geodesics]) -> StringerLine | None:
    """The geodesic through a share of the girth amidships along the hull, until it leaves its panel. What geodesics of a panel need
    is kept in `paths`."""
    panel, v = _at_girth(hull, share)
    surface = hull.panels[panel].surface
    speed = float(lengths(surface.jet(np.array([0.5]), np.array([v])).du)[0])
    if panel not in paths:
        paths[panel] = Geodesics(surface)
    back, on = (_to_the_edge(paths[panel], (0.5, v, way / speed, 0.0)) for way in (-1.0, 1.0))
    uv = np.concatenate([back[::-1], on[1:]])
    uv = uv[rising(uv[:, 0])]  # its last step, cut short, may fall back
    return _line(hull, number, share, panel, uv, job) if len(uv) > 1 else None


def _forced(hull: Hull, number: int, share: float, job: Job, molds: Sequence[Mold]) -> list[StringerLine]:
    """A stringer through a share of every mold's own girth, as a batten runs through those places; what lies on another panel is
    that one's."""
    places = np.array([[m.station, *at_share(m.edge.points, share)[0]] for m in molds]).reshape(-1, 3)
    found = []
    for panel, inside in enumerate(on_molds(hull, job)):
        if not len(places):
            break
        uv, off = inverted(hull.panels[panel].surface, places, inside)
        uv = uv[(off < OFF_MM) & np.all((uv > -1e-6) & (uv < 1 + 1e-6), axis=1)]
        uv = uv[np.argsort(uv[:, 0])]
        if len(uv) < 2 or not np.all(np.diff(uv[:, 0]) > 0):
            continue
        low, high = (0.0, 1.0) if len(uv) == len(places) else (float(uv[0, 0]), float(uv[-1, 0]))
        line = SurfaceLine.through(uv[:, 0], uv[:, 1], np.linspace(low, high, PLACES))
        on = (line.v >= 0.0) & (line.v <= 1.0)
        if on.sum() > 1:
            found.append(_line(hull, number, share, panel, np.column_stack([line.u, line.v])[on], job))
    return found


def _told(number: int, share: float, molds: Sequence[Mold], as_wood: StringerLine | None) -> list[Finding]:
    """Where a stringer that is put elsewhere is farthest from where it would lie by itself."""
    off = []
    for mold in molds:
        crossed = None if as_wood is None else as_wood.at(mold.station)
        if crossed is not None:
            edge = mold.edge.points
            off.append((share * float(runs_along(edge)[-1]) - met(edge, crossed[0])[0], mold.name))
    worst = max(off, key=lambda own: abs(own[0]), default=(0.0, ""))
    if abs(worst[0]) < TOLD_MM:
        return []
    way = "above" if worst[0] > 0 else "below"
    text = (
        f"Its notches are put at {100 * share:g} % of each mold's own girth: at mold {worst[1]} that is "
        f"{mm(round(abs(worst[0]), 1))} {way} where it lies as wood does by itself."
    )
    return [Finding("stringer-forced", Weight.LOOK, "molds", f"stringer {number}", text)]


def _to_the_edge(path: Geodesics, state: State) -> Array:
    """The parameters (n, 2) of a geodesic from a state to where it leaves the surface, that place with it, or turns back."""
    from scipy.optimize import brentq  # loads slowly: not before it is needed

    def past(state: State) -> float:
        u, v = state[:2]
        return max(-u, u - 1.0, -v, v - 1.0)

    states = [state]
    while len(states) < MOST_STEPS:
        ahead = path.stepped(states[-1], STEP_MM)
        if not (ahead[0] - states[-1][0]) * state[2] > 0.0:
            break
        if past(ahead) >= 0.0:
            if past(states[-1]) < 0.0:
                last = brentq(lambda h: past(path.stepped(states[-1], h)), 0.0, STEP_MM)
                states.append(path.stepped(states[-1], last))
            break
        states.append(ahead)
    result: Array = np.clip(np.array(states)[:, :2], 0.0, 1.0)
    return result


def _at_girth(hull: Hull, share: float) -> tuple[int, float]:
    """The panel and its v at a share of the girth amidships, from the keel."""
    v = np.linspace(0.0, 1.0, PLACES)
    runs = [runs_along(p.surface.points(np.full(PLACES, 0.5), v)) for p in hull.panels]
    left = share * sum(float(run[-1]) for run in runs)
    for k, run in enumerate(runs):
        if left <= run[-1] or k == len(runs) - 1:
            return k, float(np.interp(left, run, v))
        left -= float(run[-1])
    raise AssertionError("a hull has a panel")
