"""A curve that the shell is trimmed to, given in profile or in plan: where it runs on the outside of the skin.

The skin is carried on past the transom and the sheer as veneers and strips are, so a reverse or hollow stern can be cut from it.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, BoolArray, frozen
from ..geometry.polyline import runs_along
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..job import Job
from ..offsets.table import EndKind
from ..settings.sheer_choices import SeenFrom
from ..setup.beam import SetUp
from ..veneers.beyond import Past, carried_on
from .heads import PAGE, SheerPlan

DENSE, STEPS = 61, 10
OFF_MM = 0.2
"""A place of the curve farther off than this is not on the skin."""
PAST_MM = 300.0
"""The skin is carried on so far past the transom and the sheer, for a curve that leaves the hull."""
GRID = (81, 41)
CONVERGED_MM = 1e-7
FIRST_SHARE, FIRST_DOWN = 0.25, 0.02


@dataclass(frozen=True)
class CurvePlace:
    """A place of a trimming curve on the outside of the skin: where it is along the hull, its half-breadth, how high it is by the
    offsets and above the set-up line, how far round it is from the keel and how far along the curve on the skin from its first
    point, mm; whether it is one of the points that were given."""

    name: str
    station: float
    half: float
    height: float
    up: float
    girth: float
    along: float
    given: bool


@dataclass(frozen=True)
class TrimCurve:
    """The curve on the skin of one side: its places, and its line (n, 3), mm."""

    places: tuple[CurvePlace, ...]
    line: Array
    findings: tuple[Finding, ...]


def trim_curve(hull: Hull, setup: SetUp, job: Job) -> TrimCurve:
    """The trimming curve. Reads its points and from where it is seen."""
    own = job.trim
    if len(own.curve_at) != len(own.curve_to) or len(own.curve_at) < 2:
        text = (
            f"{len(own.curve_at)} positions and {len(own.curve_to)} of the other are given: as many of both, two at least, each in "
            f"the order of the curve."
        )
        return TrimCurve((), frozen(np.zeros((0, 3))), (Finding("curve-points", Weight.LOOK, PAGE, "curve", text),))
    given = np.column_stack([own.curve_at, own.curve_to])
    rows, is_given = _dense(given)
    other = 2 if own.curve_seen is SeenFrom.SIDE else 1
    points, girths, off = _on_skin(hull, rows, other)
    on = off < OFF_MM
    findings = []
    if not on.all():
        first = int(np.flatnonzero(~on)[0])
        text = f"It leaves the skin near position {mm(round(rows[first, 0]))}: what is off it is not told."
        findings.append(Finding("curve-off", Weight.LOOK, PAGE, "curve", text))
    if on.sum() < 2:
        return TrimCurve((), frozen(np.zeros((0, 3))), tuple(findings))
    line, girths, is_given = points[on], girths[on], is_given[on]
    along = runs_along(line)
    number, places = 0, []
    for k in np.flatnonzero(is_given | (np.arange(len(line)) % (len(line) // 8 + 1) == 0)).tolist():
        number += bool(is_given[k])
        x, y, z = line[k].tolist()
        name = f"point {number}" if is_given[k] else ""
        places.append(CurvePlace(name, x, y, z, float(setup.above(z)), float(girths[k]), float(along[k]), bool(is_given[k])))
    return TrimCurve(tuple(places), frozen(line), tuple(findings))


def first_curve(plan: SheerPlan, seen: SeenFrom) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """A curve to begin with: positions along the hull, and heights or half-breadths, mm. Over the hull's last quarter it leaves the
    sheer and sweeps away from it, as the ends of a hull are cut; where it is to run the builder draws."""
    edge = np.array([[m.station, m.outside[1 if seen is SeenFrom.SIDE else 0]] for m in plan.marks])
    low, high = float(edge[0, 0]), float(edge[-1, 0])
    shares = np.array([0.0, 1 / 3, 2 / 3, 1.0])
    at = high - FIRST_SHARE * (high - low) * (1.0 - shares)
    to = np.interp(at, edge[:, 0], edge[:, 1]) - FIRST_DOWN * (high - low) * shares**2
    return tuple(np.round(at, 1).tolist()), tuple(np.round(to, 1).tolist())


def _dense(given: Array) -> tuple[Array, BoolArray]:
    """A smooth curve through points (n, 2): more of them, the given ones among them, and which are; straight between two."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    run = runs_along(given)
    keep = np.concatenate([[True], np.diff(run) > 1e-6])
    run, given = run[keep], given[keep]
    if len(given) < 2:
        return given, np.ones(len(given), dtype=bool)
    at = np.unique(np.concatenate([np.linspace(0.0, run[-1], DENSE), run]))
    through = CubicSpline(run, given, bc_type="natural") if len(given) > 2 else None
    rows = through(at) if through else np.column_stack([np.interp(at, run, given[:, k]) for k in (0, 1)])
    return rows, np.isin(at, run)


def _on_skin(hull: Hull, rows: Array, other: int) -> tuple[Array, Array, Array]:
    """Where rows of a position along the hull and one more coordinate (its number) lie on the outside of the skin: points (n,
    3), how far round from the keel, and how far off they are still, mm."""
    bow, stern = (end.kind is EndKind.STEM for end in (hull.lines.bow, hull.lines.stern))
    best = np.full((len(rows), 3), np.nan)
    girths, off = np.full(len(rows), np.nan), np.full(len(rows), np.inf)
    last = len(hull.panels) - 1
    middle = np.linspace(0.0, 1.0, DENSE)
    round_it = [runs_along(p.surface.points(np.full(DENSE, 0.5), middle))[-1] for p in hull.panels]
    # the hull itself before what is past its edges, from above: where two panels have a place, the higher is seen
    for real, k in itertools.product((True, False), range(last, -1, -1)):
        left = np.flatnonzero(off > OFF_MM)
        if not len(left):
            break
        surface = hull.panels[k].surface
        if not real:
            past = Past(0.0 if bow else PAST_MM, 0.0 if stern else PAST_MM, PAST_MM if k == last else 0.0)
            surface = carried_on(surface, 0.0, past).surface
        uv, own_off = placed(surface, rows[left], other)
        better = own_off < off[left]
        on, uv = left[better], uv[better]
        best[on], off[on] = surface.points(uv[:, 0], uv[:, 1]), own_off[better]
        girths[on] = sum(round_it[:k]) + _from_below(surface, uv)
    return best, girths, off


def _from_below(surface: TensorSurface, uv: Array) -> Array:
    """How far round a surface its places (n, 2) are from its lower edge, (n,) mm."""
    share = np.linspace(0.0, 1.0, DENSE)[None, :] * uv[:, 1:]
    up = surface.points(np.broadcast_to(uv[:, :1], share.shape), share)
    result: Array = np.linalg.norm(np.diff(up, axis=1), axis=2).sum(axis=1)
    return result


def placed(surface: TensorSurface, rows: Array, other: int) -> tuple[Array, Array]:
    """The parameters (n, 2) at which a surface has positions along the hull and values of one more coordinate (1 half-breadth, 2
    height) as in rows (n, 2), and how far off they are still, mm. Of two such places, as half-breadths have, the higher."""
    even = [np.linspace(0.0, 1.0, count) for count in GRID]
    u, v = (g.ravel() for g in np.meshgrid(*even, indexing="ij"))
    grid = surface.points(u, v)
    cost = np.abs(grid[None, :, 0] - rows[:, :1]) + np.abs(grid[None, :, other] - rows[:, 1:])
    near = np.argmin(cost - (0.02 * grid[None, :, 2] if other == 1 else 0.0), axis=1)
    uv = np.column_stack([u[near], v[near]])
    pick = [0, other]
    for _ in range(STEPS):
        jet = surface.jet(uv[:, 0], uv[:, 1])
        miss = rows - jet.point[:, pick]
        if np.linalg.norm(miss, axis=1).max() < CONVERGED_MM:
            break
        slopes = np.stack([jet.du[:, pick], jet.dv[:, pick]], axis=2)
        step = np.linalg.pinv(slopes) @ miss[:, :, None]
        uv = np.clip(uv + np.clip(step[:, :, 0], -0.05, 0.05), 0.0, 1.0)
    miss = np.linalg.norm(surface.points(uv[:, 0], uv[:, 1])[:, pick] - rows, axis=1)
    return uv, miss
