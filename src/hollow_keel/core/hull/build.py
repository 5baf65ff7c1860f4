"""The hull surface from the drawn lines.

Each station, stem and transom is a cubic through its own points, sampled at even fractions v of its
girth. Each of those longitudinals is a cubic over its own length in the half-breadth plan, so that a
raked stem does not drag its slant along the hull and a blunt end, where the line comes in square to
the centreline, still turns smoothly. One bicubic surface goes through the dense grid. A knuckle
splits the hull into panels with a surface each.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import InputError
from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, BoolArray, lengths
from ..geometry.batch_spline import sample_splines
from ..geometry.curves import LoftCurve
from ..geometry.surface import TensorSurface, cross
from ..offsets.table import EndKind, Lines, Section, spans
from .edge_lines import EndLine, laid_to_edges
from .end_points import CurveMaker, end_points
from .raked_ends import CrossedEnd, laid_onto

GIRTH_STEPS = 36
LENGTH_STEPS = 120
JOIN_FROM, JOIN_TO = 0.05, 0.15
"""A station that starts on the stem joins the longitudinals just above its foot gradually: not at all while
its point stands within the first share of the way to the next station, wholly from the second."""
FLAT_PLACE, FLAT_CORNER = 0.05, 0.4
"""Sine of the least angle between the surface's two directions at which its normal is trusted, within it and in its corners: a
rounded table bends stem and keel at the foot by so much."""


@dataclass(frozen=True)
class Panel:
    """A smooth part of the hull between two lengthwise edges; v grows from the lower to the upper."""

    surface: TensorSurface
    lower: str
    upper: str


@dataclass(frozen=True)
class Hull:
    """One half of the hull to the outside of the planking, panels from keel to sheer."""

    lines: Lines
    panels: tuple[Panel, ...]
    girths: tuple[tuple[float, float], ...]
    """(station, half-girth from keel to sheer) at each station of the table, mm."""
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class _Run:
    """One drawn curve within a panel: it joins the longitudinals from fraction `start` upward."""

    curve: LoftCurve
    start: float


def build_hull(lines: Lines, outward: float = 0.0, curve: CurveMaker = LoftCurve) -> Hull:
    """Surface of the half hull; `outward` mm is added along the normal (offsets given to the inside).

    `curve` makes the curves through the points of stations and ends; one that keeps them saves time.

    Raises InputError where the lines cannot make a surface.
    """
    knuckles = len(lines.bow.knuckles)
    names = ["keel"] + ["chine" if knuckles == 1 else f"chine {k + 1}" for k in range(knuckles)] + ["sheer"]
    panels: list[Panel] = []
    lengths = {s.x: 0.0 for s in lines.stations}
    for k in range(knuckles + 1):
        grid = _panel_grid(lines, k, knuckles, lengths, curve)
        if outward:
            grid = moved_out(grid, outward)
        panels.append(Panel(TensorSurface(grid), names[k], names[k + 1]))
    return Hull(lines, tuple(panels), tuple(sorted(lengths.items())), tuple(_findings(lines, panels)))


def _end_runs(lines: Lines, panel: int, make: CurveMaker) -> tuple[_Run, _Run]:
    bow, stern = (_Run(make(end_points(lines, end, panel, make)), 0.0) for end in (lines.bow, lines.stern))
    return bow, stern


def _section_run(section: Section, panel: int, total: int, bow: _Run, stern: _Run, make: CurveMaker) -> _Run | None:
    """The part of a station in a panel, or None if the station starts above that panel."""
    missing = total - len(section.knuckles)
    own = panel - missing
    if own < 0:
        return None
    curve = make(section.points[spans(len(section.points), section.knuckles)[own]])
    if own > 0:
        return _Run(curve, 0.0)
    for end, beyond in ((bow, section.x < bow.curve.points[0, 0]), (stern, section.x > stern.curve.points[0, 0])):
        if beyond:
            start = end.curve.fraction_where(0, section.x)
            if start is None or start > 0.98:
                raise InputError(
                    f"station {section.x:g} lies beyond the end of the hull",
                    f"station {section.x:g}",
                    "",
                    "Mend its position, or the rows of the stem or transom.",
                )
            return _Run(curve, start)
    return _Run(curve, 0.0)


def section_starts(lines: Lines, panel: int) -> dict[float, float]:
    """For each station (mm) of a panel the share of the girth at which it starts: 0, or where it leaves a raked end."""
    bow, stern = _end_runs(lines, panel, LoftCurve)
    total = len(lines.bow.knuckles)
    runs = {s.x: _section_run(s, panel, total, bow, stern, LoftCurve) for s in lines.sections}
    return {x: run.start for x, run in runs.items() if run is not None}


def _panel_grid(lines: Lines, panel: int, total: int, lengths: dict[float, float], make: CurveMaker) -> Array:
    """The grid of one panel, (nu, nv, 3); adds each station's girth within it to `lengths`."""
    bow, stern = _end_runs(lines, panel, make)
    runs = []
    for section in lines.sections:
        run = _section_run(section, panel, total, bow, stern, make)
        if run is not None:
            runs.append(run)
            lengths[section.x] += run.curve.length
    for end, run in ((lines.bow, bow), (lines.stern, stern)):
        if end.kind is EndKind.OPEN:
            lengths[float(end.points[0, 0])] += run.curve.length
    fractions = np.linspace(0.0, 1.0, GIRTH_STEPS + 1)
    every = [bow, *runs, stern]
    points = np.full((len(every), len(fractions), 3), np.nan)
    for k, run in enumerate(every):
        local = (fractions - run.start) / (1.0 - run.start)
        on = local >= -1e-12
        points[k, on] = run.curve.at_fractions(np.clip(local[on], 0.0, 1.0))
    even = np.linspace(0.0, 1.0, LENGTH_STEPS + 1)
    grid = _longitudinals(points, even)
    ends = [
        EndLine(run.curve, end.kind is EndKind.STEM, way) for end, run, way in ((lines.bow, bow, 1.0), (lines.stern, stern, -1.0))
    ]
    tops = np.array([run.curve.points[-1] for run in runs])
    keel = np.array([run.curve.points[0] for run in runs if run.start == 0.0]) if panel == 0 else None
    grid = laid_to_edges(grid, ends, keel, tops)
    for crossed in _crossed_ends(bow, stern, runs):
        grid = laid_onto(grid, crossed)
    return grid


def _crossed_ends(bow: _Run, stern: _Run, runs: list[_Run]) -> list[CrossedEnd]:
    """The ends of a panel that stations cross, bow first, with the stations from each inwards."""
    placed = [(float(run.curve.points[0, 0]), run.curve) for run in runs]
    found = []
    for end, ordered, way in ((bow, placed, 1.0), (stern, placed[::-1], -1.0)):
        foot = float(end.curve.points[0, 0])
        crossing = [p for p in ordered if way * (p[0] - foot) < 0]
        full = [p for p in ordered if way * (p[0] - foot) >= 0]
        found.append(CrossedEnd(end.curve, crossing, full, way < 0))
    return found


def _longitudinals(points: Array, even: Array) -> Array:
    """Sample all longitudinals, (runs, nv, 3), evenly in their own plan lengths; (len(even), nv, 3).

    Rows with NaN do not join a longitudinal. A station that starts on the stem joins those above its foot
    gradually, as its point draws away from theirs on the stem: joined at once, the surface would have a step
    at that height.
    """
    parts: list[tuple[int, float, Array]] = []  # (longitudinal, its share, the points it goes through)
    for j in range(points.shape[1]):
        drawn = points[np.isfinite(points[:, j, 0]), j]
        parts += [(j, share, drawn[keep]) for share, keep in _variants(drawn)]
    result = np.zeros((len(even), points.shape[1], 3))
    for size in {len(p) for _, _, p in parts}:
        chosen = [part for part in parts if len(part[2]) == size]
        sampled = _sampled(np.stack([p for _, _, p in chosen]), even)
        for (j, share, _), curve in zip(chosen, sampled, strict=True):
            result[:, j] += share * curve
    return result


def _variants(drawn: Array) -> list[tuple[float, BoolArray]]:
    """The ways a longitudinal is drawn, with and without the stations next to its ends, and their shares."""
    whole = np.ones(len(drawn), dtype=bool)
    if len(drawn) <= 5:
        return [(1.0, whole)]
    steps = _plan_steps(drawn)
    bow = _joining(steps[0] / (steps[0] + steps[1]))
    stern = _joining(steps[-1] / (steps[-1] + steps[-2]))
    found: list[tuple[float, BoolArray]] = []
    for with_bow, bow_share in ((True, bow), (False, 1.0 - bow)):
        for with_stern, stern_share in ((True, stern), (False, 1.0 - stern)):
            if bow_share * stern_share > 0:
                keep = whole.copy()
                keep[1], keep[-2] = with_bow, with_stern
                found.append((bow_share * stern_share, keep))
    return found


def _joining(share: float) -> float:
    """How far a station next to an end has joined, from the share of the way at which it stands."""
    t = float(np.clip((share - JOIN_FROM) / (JOIN_TO - JOIN_FROM), 0.0, 1.0))
    return t * t * (3 - 2 * t)


def _sampled(drawn: Array, even: Array) -> Array:
    """Cubics through rows of points, (b, n, 3), over their plan lengths, at even steps; (b, len(even), 3)."""
    back = np.diff(drawn[..., 0], axis=1) <= 0
    if np.any(back):
        row, k = np.argwhere(back)[0]
        raise InputError(
            "the hull folds back on itself along its length",
            f"near position {drawn[row, k + 1, 0]:.0f}",
            "",
            "Look for a station or an end whose position is out of order with its neighbours.",
        )
    along = np.concatenate([np.zeros((len(drawn), 1)), np.cumsum(_plan_steps(drawn), axis=1)], axis=1)
    along /= along[:, -1:]
    return sample_splines(along, drawn, even)


def _plan_steps(points: Array) -> Array:
    steps: Array = lengths(np.diff(points[..., :2], axis=-2))
    return steps


def moved_out(grid: Array, distance: float) -> Array:
    """A panel's grid (nu, nv, 3) moved so far outward, square to its surface, mm."""
    nu, nv = grid.shape[:2]
    u, v = np.meshgrid(np.linspace(0, 1, nu), np.linspace(0, 1, nv), indexing="ij")
    jet = TensorSurface(grid).jet(u.ravel(), v.ravel())
    moved: Array = (jet.point + distance * jet.normal).reshape(nu, nv, 3)
    return moved


def _findings(lines: Lines, panels: list[Panel]) -> list[Finding]:
    found: list[Finding] = []
    for name, end in (("bow", lines.bow), ("stern", lines.stern)):
        if end.kind is EndKind.OPEN:
            found.append(
                Finding(
                    "open-end",
                    Weight.LOOK,
                    "offsets",
                    name,
                    f"The table gives no stem or transom at the {name}: the hull is taken to be open there, "
                    f"ending at station {mm(end.points[0, 0])}.",
                )
            )
    for panel in panels:
        at = _fold(panel.surface)
        if at is not None:
            found.append(
                Finding(
                    "folded",
                    Weight.STOP,
                    "offsets",
                    f"near position {mm(round(at[0]))}, height {mm(round(at[2]))}",
                    "The surface folds over itself here: look at the offsets around this place.",
                )
            )
    return found


def _fold(surface: TensorSurface) -> Array | None:
    """A place where the surface turns its back: neighbouring normals more than a right angle apart.

    Where a stem runs smoothly into the keel the two edges of the surface meet in a straight angle and the
    normal in that very corner is undefined; places where the two directions nearly agree do not count.
    """
    point, du, dv = surface.net(np.linspace(0, 1, 41), np.linspace(0, 1, 17))
    out = cross(dv.reshape(-1, 3), du.reshape(-1, 3)).reshape(point.shape)
    long = lengths(out)
    least = np.full(long.shape, FLAT_PLACE)
    least[np.ix_((0, -1), (0, -1))] = FLAT_CORNER
    sound = long > least * lengths(du) * lengths(dv)
    normal = out / np.where(long > 0, long, 1.0)[..., None]
    along = np.where(sound[1:] & sound[:-1], (normal[1:] * normal[:-1]).sum(axis=-1), 1.0)
    up = np.where(sound[:, 1:] & sound[:, :-1], (normal[:, 1:] * normal[:, :-1]).sum(axis=-1), 1.0)
    for turn in (along, up):
        if turn.min() < 0:
            i, j = np.unravel_index(int(np.argmin(turn)), turn.shape)
            place: Array = point[i, j]
            return place
    return None
