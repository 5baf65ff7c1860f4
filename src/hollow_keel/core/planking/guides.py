"""Guide lines: the curve on the hull that the first strips follow, as v over u of one panel."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial
from itertools import pairwise

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, BoolArray, frozen, lengths
from ..geometry.front import FLAT_SINE, STARTS, starts
from ..geometry.runge import stepped
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..geometry.surface_line import SurfaceLine, components, felt, straight_on
from ..job import MasterLine
from ..settings.strip_choices import MasterKind

ALONG, GIRTH = 161, 241
SHARES = (0.75, 0.7, 0.8, 0.65, 0.85, 0.6, 0.55, 0.9, 0.5, 0.45, 0.4, 0.3)
"""Shares of the girth amidships, from the keel, that are tried for a master line whose height is not given."""
EVEN = frozen(np.linspace(0.0, 0.5, 61))
FINE = frozen(np.concatenate([np.linspace(0.0, 0.42, 57)[:-1], np.linspace(0.42, 0.5, 81)]))
"""Steps along a natural line from amidships to each end, while it is looked for and once it is found: near its ends the surface's
own lines turn sharply."""
EVERY = 10
DENSE = frozen(np.linspace(0.0, 1.0, EVERY * (STARTS - 1) + 1))
"""Where guides are told along the hull, as the parameter u: every tenth is the start of a ray."""
_INNER = np.concatenate([np.linspace(0, 0.08, 17)[1:], np.linspace(0.08, 0.92, 61)[1:], np.linspace(0.92, 1.0, 17)[1:-1]])
KNOTS = frozen(np.concatenate([np.zeros(6), _INNER, np.ones(6)]))
"""Knots of such a line, closer near its ends."""
NEWTON, TRIED, LONGEST = 4, 1e-5, 0.01
"""Rounds by which a crossing is found, by such a step, and how far it goes in one, in parameters."""
MEETS, NEAR_END = 4.0, 0.2
"""A guide turns sharply at an end where its radius is less than so many times the way that strips go from it, within so great a
share of its length."""
SHARPLY, LEAST_GENTLE = math.radians(8), 3
"""An end that turns by less in all turns gently, over so many rays or more: strips follow it."""
STEEPEST = math.radians(60)
"""A natural line is looked for within this angle of the hull's own direction."""


def master_line(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> SurfaceLine:
    """The master line on a panel, at the places where rays start; `sheer` gives the sheer's height at positions (n,), mm.

    Raises ImpossiblePlan where it leaves the panel.
    """
    if master.height is None and master.kind is not MasterKind.HEIGHTS:
        return _first_that_fits(surface, master, sheer)
    if master.kind is MasterKind.NATURAL:
        return natural_line(surface, _middle_height(surface, master, sheer))
    return SurfaceLine.through(DENSE, _crossed(surface, _heights_off(surface, master, sheer)), DENSE)


def _first_that_fits(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> SurfaceLine:
    """A master line whose height was left to us: the first of some shares of the girth amidships at which it stays on the panel.
    Raises ImpossiblePlan, as the first of them has it, where none does."""
    refused: ImpossiblePlan | None = None
    for share in SHARES:
        height = float(surface.points(np.array([0.5]), np.array([share]))[0, 2])
        try:
            return master_line(surface, master.model_copy(update={"height": height}), sheer)
        except ImpossiblePlan as error:
            refused = refused or error
    assert refused is not None
    raise refused


def _middle_height(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> float:
    """The height amidships: what is given, or three quarters of the girth up."""
    if master.height is not None:
        return master.height
    return float(surface.points(np.array([0.5]), np.array([0.75]))[0, 2])


def _heights_off(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> Callable[[Array], Array]:
    """How far points (…, 3) of the hull lie above the master line, mm."""
    middle = surface.points(np.array([0.5]), np.array([1.0]))[0]
    height = _middle_height(surface, master, sheer)
    if master.kind is MasterKind.DIAGONAL:
        fall = math.tan(math.radians(master.angle))
        return lambda p: p[..., 2] - (height - fall * p[..., 1])
    if master.kind is MasterKind.HEIGHTS:
        from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

        if len(master.heights) < 2:
            raise ImpossiblePlan("A master line by heights needs a height at two stations or more.")
        at = np.array(sorted(master.heights))
        if np.any(np.diff(at[:, 0]) <= 0):
            raise ImpossiblePlan("Two heights of the master line stand at the same station: leave one out.")
        spline = PchipInterpolator(at[:, 0], at[:, 1], extrapolate=False)
        low, high = at[0, 0], at[-1, 0]
        ends = spline(np.array([low, high]), 1)

        def given(x: Array) -> Array:
            inside = np.clip(x, low, high)
            slope = np.where(x < low, ends[0], ends[1])
            result: Array = spline(inside) + slope * (x - inside)
            return result

        return lambda p: p[..., 2] - given(p[..., 0])
    drop = float(sheer(middle[:1])[0]) - height
    return lambda p: p[..., 2] - (sheer(p[..., 0]) - drop)


def _crossed(surface: TensorSurface, off: Callable[[Array], Array]) -> Array:
    """v where the hull crosses a line at each of DENSE."""
    u = np.linspace(0.0, 1.0, ALONG)
    return refined(surface, np.interp(DENSE, u, _solved(surface, u, off)), off)


def refined(surface: TensorSurface, v: Array, off: Callable[[Array], Array]) -> Array:
    """The v (n,) at each of DENSE where `off`, how far points (n, 3) lie from a line, mm, is nothing, from guesses: near its ends
    the surface's own lines turn so sharply that a few places would not tell a line across them."""
    for _ in range(NEWTON):
        here = off(surface.points(DENSE, v))
        slope = (off(surface.points(DENSE, v + TRIED)) - here) / TRIED
        v = v - np.clip(here / np.where(np.abs(slope) > 1e-3, slope, np.inf), -LONGEST, LONGEST)
    result: Array = np.clip(v, 0.0, 1.0)
    return result


def smooth_line(v: Array) -> SurfaceLine:
    """The line through places v (n,) at DENSE that are known to some thousandths of a millimetre: nearly through them, and
    smooth."""
    from scipy.interpolate import make_lsq_spline

    spline = make_lsq_spline(DENSE, v, KNOTS, k=5)
    return SurfaceLine(DENSE, frozen(spline(DENSE)), frozen(spline(DENSE, 1)), frozen(spline(DENSE, 2)))


def _solved(surface: TensorSurface, u: Array, off: Callable[[Array], Array]) -> Array:
    """v where the hull crosses a line at each u: the uppermost crossing. Raises ImpossiblePlan where there is none."""
    v = np.linspace(0.0, 1.0, GIRTH)
    above = off(surface.points(u[:, None], v[None, :]))
    crossed = (above[:, :-1] <= 0) & (above[:, 1:] > 0)
    missing = np.flatnonzero(~crossed.any(axis=1))
    if len(missing):
        place = surface.points(u[missing[:1]], np.array([0.5]))[0]
        beyond = "keel or stem" if (above[missing[0]] > 0).all() else "sheer"
        raise ImpossiblePlan(
            f"The master line leaves the hull past the {beyond} near position {mm(round(float(place[0])))}: "
            f"{'raise' if beyond != 'sheer' else 'lower'} it there."
        )
    k = above.shape[1] - 2 - np.argmax(crossed[:, ::-1], axis=1)
    rows = np.arange(len(u))
    low, high = v[k], v[k + 1]
    f_low, f_high = above[rows, k], above[rows, k + 1]
    for _ in range(6):  # false position, then halving: never leaves its cell
        at = low - f_low * (high - low) / (f_high - f_low)
        f = off(surface.points(u, at))
        under = f <= 0
        low, f_low = np.where(under, at, low), np.where(under, f, f_low)
        high, f_high = np.where(under, high, at), np.where(under, f_high, f)
        at = (low + high) / 2
        f = off(surface.points(u, at))
        under = f <= 0
        low, f_low = np.where(under, at, low), np.where(under, f, f_low)
        high, f_high = np.where(under, high, at), np.where(under, f_high, f)
    result: Array = low - f_low * (high - low) / (f_high - f_low)
    return result


def natural_line(surface: TensorSurface, height: float) -> SurfaceLine:
    """The line that a strip takes by itself, hung at a height (mm) amidships: a geodesic, turned so that it ends equally far below
    the sheer at both ends. Raises ImpossiblePlan where there is none on the panel."""
    u = np.array([0.5])
    v = _solved(surface, u, lambda p: p[..., 2] - height)
    low, high, best = -STEEPEST, STEEPEST, 0.0
    for _ in range(3):
        angles = np.linspace(low, high, 33)
        ends = _shot(surface, float(v[0]), angles)
        apart = ends[1][-1, 0] - ends[0][-1, 0]
        usable = np.isfinite(apart)
        turns = np.flatnonzero(usable[:-1] & usable[1:] & (apart[:-1] * apart[1:] <= 0))
        if not len(turns):
            raise ImpossiblePlan(
                f"No natural line at height {mm(round(height))} amidships reaches both ends of the hull: choose another height."
            )
        k = int(turns[np.argmin(np.abs(angles[turns]))])
        low, high = float(angles[k]), float(angles[k + 1])
        best = low - float(apart[k]) * (high - low) / (float(apart[k + 1] - apart[k]) or 1.0)
    toward_bow, toward_stern = _shot(surface, float(v[0]), np.array([best]), FINE)
    rows = np.concatenate([toward_bow[::-1, :, 0], toward_stern[1:, :, 0]])
    if rows[:, 0].min() < 0 or rows[:, 0].max() > 1:
        raise ImpossiblePlan(
            f"The natural line at height {mm(round(height))} amidships runs off the hull before its ends: choose another height."
        )
    from scipy.interpolate import CubicHermiteSpline  # loads slowly: not before it is needed

    line = CubicHermiteSpline(0.5 + np.concatenate([-FINE[::-1], FINE[1:]]), rows[:, 0], rows[:, 1])
    place, slope = line(DENSE), line(DENSE, 1)
    along, up = straight_on(surface.jet(DENSE, place), np.ones_like(slope), slope)
    return SurfaceLine(DENSE, frozen(place), frozen(slope), frozen(up - slope * along))


def followed_part(surface: TensorSurface, guide: float | SurfaceLine, *, upward: bool, reach: float) -> SurfaceLine:
    """The part of a guide (a constant v, or a line) that strips follow over a way of `reach`, mm: all of it but for an end that
    turns sharply into the hull, as a keel does into a stem (strips do not turn with it, they run on), or where it meets the end of
    the hull in a straight angle (there is no square to it there)."""
    line = SurfaceLine.level(starts(), guide) if isinstance(guide, float) else guide.every(EVERY)
    own = felt(surface, line, upward)
    u = line.u
    tight = own.geodesic > 1.0 / max(MEETS * reach, 1.0)
    jet = own.jet
    flat = lengths(cross(jet.du, jet.dv)) < FLAT_SINE * lengths(jet.du) * lengths(jet.dv)
    turns = own.geodesic * own.speed * np.gradient(u)
    first = _left_out(u, tight, flat, turns)
    stop = len(u) - _left_out(1 - u[::-1], tight[::-1], flat[::-1], turns[::-1])
    keep = slice(first, stop)
    return SurfaceLine(u[keep], line.v[keep], line.slope[keep], line.bend[keep])


def _left_out(u: Array, tight: BoolArray, flat: BoolArray, turns: Array) -> int:
    """How many places of a guide (n,), told from one end on (`u` from 0), strips do not follow: where it is `flat`, and while it is
    `tight`, if it `turns` (radians at each place) sharply there in all."""
    near = u <= NEAR_END
    many = int(np.argmin(np.append((tight | flat) & near, False)))
    if many < LEAST_GENTLE or float(turns[:many].sum()) > SHARPLY:
        return many
    return int(np.argmin(np.append(flat & near, False)))


def _shot(surface: TensorSurface, v: float, angles: Array, steps: Array = EVEN) -> tuple[Array, Array]:
    """Geodesics from amidships at angles (n,) from the hull's direction: v towards the bow and towards the stern, at
    `steps` (k,) of u from amidships, and its slope, (k, 2, n) each; NaN where one turns back.

    With u as the parameter a geodesic is v'' = Γ¹₂₂ v'³ + (2 Γ¹₁₂ − Γ²₂₂) v'² + (Γ¹₁₁ − 2 Γ²₁₂) v' − Γ²₁₁ (any textbook).
    """
    n = len(angles)
    jet = surface.jet(np.full(n, 0.5), np.full(n, v))
    ahead = jet.du / np.linalg.norm(jet.du, axis=1, keepdims=True)
    across = cross(jet.normal, ahead)
    across *= np.sign(dot(across, jet.dv))[:, None]
    du, dv = components(jet, np.cos(angles)[:, None] * ahead + np.sin(angles)[:, None] * across)
    slope = dv / du
    way = np.repeat([-1.0, 1.0], n)  # towards the bow and towards the stern, all at once
    y = np.stack([np.full(2 * n, v), way * np.tile(slope, 2)])
    rows = [y]
    with np.errstate(all="ignore"):
        for a, b in pairwise(steps.tolist()):
            y = stepped(partial(_turn, surface, way), a, y, b - a)
            y = np.where((np.abs(y[0] - 0.5) < 2.0) & (np.abs(y[1]) < 50.0), y, np.nan)
            rows.append(y)
    table = np.array(rows)
    table[:, 1] *= way
    return table[..., :n], table[..., n:]


def _turn(surface: TensorSurface, way: Array, off: float, y: Array) -> Array:
    """Rates of v and dv/du of geodesics so far off amidships, in u, on their `way` (n,): -1 towards the bow, 1 towards the
    stern."""
    v, slope = y
    sound = np.isfinite(v)
    jet: Jet = surface.jet(0.5 + way * off, np.where(sound, v, 0.5))
    along, up = straight_on(jet, np.ones_like(slope), way * slope)
    return np.stack([slope, np.where(sound, up - way * slope * along, np.nan)])
