"""Guide lines: the curve on the hull that the first strips follow, as v over u of one panel."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array
from ..geometry.front import starts
from ..geometry.runge import stepped
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..geometry.surface_line import SurfaceLine, components, straight_on
from ..job import MasterLine
from ..settings.strip_choices import MasterKind

ALONG, GIRTH = 161, 241
STEPS = 60
"""Steps along a natural line from amidships to each end."""
STEEPEST = math.radians(60)
"""A natural line is looked for within this angle of the hull's own direction."""


def master_line(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> SurfaceLine:
    """The master line on a panel, at the places where rays start; `sheer` gives the sheer's height at positions (n,), mm.

    Raises ImpossiblePlan where it leaves the panel.
    """
    if master.kind is MasterKind.NATURAL:
        return natural_line(surface, _middle_height(surface, master, sheer))
    u = np.linspace(0.0, 1.0, ALONG)
    if master.kind is MasterKind.GIRTH:
        return SurfaceLine.level(starts(), master.share)
    off = _heights_off(surface, master, sheer)
    return SurfaceLine.through(u, _solved(surface, u, off), starts())


def _middle_height(surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]) -> float:
    """The height amidships: what is given, or three quarters of the girth up."""
    if master.height is not None:
        return master.height
    return float(surface.points(np.array([0.5]), np.array([0.75]))[0, 2])


def _heights_off(
    surface: TensorSurface, master: MasterLine, sheer: Callable[[Array], Array]
) -> Callable[[Array], Array]:
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
    low, high = -STEEPEST, STEEPEST
    for _ in range(4):
        angles = np.linspace(low, high, 33)
        ends = _shot(surface, float(v[0]), angles)
        apart = ends[1][-1] - ends[0][-1]
        usable = np.isfinite(apart)
        turns = np.flatnonzero(usable[:-1] & usable[1:] & (apart[:-1] * apart[1:] <= 0))
        if not len(turns):
            raise ImpossiblePlan(
                f"No natural line at height {mm(round(height))} amidships reaches both ends of the hull: choose another height."
            )
        k = int(turns[np.argmin(np.abs(angles[turns]))])
        low, high = float(angles[k]), float(angles[k + 1])
    toward_bow, toward_stern = _shot(surface, float(v[0]), np.array([(low + high) / 2]))
    line = np.concatenate([toward_bow[::-1, 0], toward_stern[1:, 0]])
    if line.min() < 0 or line.max() > 1:
        raise ImpossiblePlan(
            f"The natural line at height {mm(round(height))} amidships runs off the hull before its ends: choose another height."
        )
    return SurfaceLine.through(np.linspace(0.0, 1.0, 2 * STEPS + 1), line, starts())


def _shot(surface: TensorSurface, v: float, angles: Array) -> tuple[Array, Array]:
    """Geodesics from amidships at angles (n,) from the hull's direction: v at even u towards the bow and towards the stern,
    (STEPS + 1, n) each; NaN where one turns back.

    With u as the parameter a geodesic is v'' = Γ¹₂₂ v'³ + (2 Γ¹₁₂ − Γ²₂₂) v'² + (Γ¹₁₁ − 2 Γ²₁₂) v' − Γ²₁₁ (any textbook).
    """
    n = len(angles)
    jet = surface.jet(np.full(n, 0.5), np.full(n, v))
    ahead = jet.du / np.linalg.norm(jet.du, axis=1, keepdims=True)
    across = cross(jet.normal, ahead)
    across *= np.sign(dot(across, jet.dv))[:, None]
    du, dv = components(jet, np.cos(angles)[:, None] * ahead + np.sin(angles)[:, None] * across)
    slope = dv / du
    found = []
    for way in (-1.0, 1.0):
        h = way * 0.5 / STEPS
        y = np.stack([np.full(n, v), slope])
        rows = [y[0]]
        with np.errstate(all="ignore"):
            for k in range(STEPS):
                y = stepped(partial(_turn, surface), 0.5 + h * k, y, h)
                y = np.where((np.abs(y[0] - 0.5) < 2.0) & (np.abs(y[1]) < 50.0), y, np.nan)
                rows.append(y[0])
        found.append(np.array(rows))
    return found[0], found[1]


def _turn(surface: TensorSurface, u: float, y: Array) -> Array:
    """Rates of v and dv/du of geodesics at one u."""
    v, slope = y
    sound = np.isfinite(v)
    jet: Jet = surface.jet(np.full(len(v), u), np.where(sound, v, 0.5))
    along, up = straight_on(jet, np.ones_like(slope), slope)
    return np.stack([slope, np.where(sound, up - slope * along, np.nan)])
