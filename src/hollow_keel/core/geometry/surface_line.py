"""Lines on a surface, given as v over u, with what a strip along them feels: edge-set, bend and twist."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arrays import Array, frozen, lengths
from .surface import Jet, TensorSurface, cross, dot


@dataclass(frozen=True)
class SurfaceLine:
    """A line v(u) on a surface: at each u (n,) its v, slope dv/du and bend d²v/du²."""

    u: Array
    v: Array
    slope: Array
    bend: Array

    @classmethod
    def level(cls, u: Array, v: float) -> SurfaceLine:
        """The line of constant v, 0 to 1, at parameters u (n,)."""
        none = np.zeros_like(u)
        return cls(u, np.full_like(u, v), none, none)

    @classmethod
    def through(cls, u: Array, v: Array, asked: Array) -> SurfaceLine:
        """A cubic spline through parameters (n,), u rising, at the u asked for, (m,); beyond them it runs on straight."""
        from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

        spline = CubicSpline(u, v)
        inside = np.clip(asked, u[0], u[-1])
        slope, bend = spline(inside, 1), spline(inside, 2)
        beyond = asked - inside
        return cls(frozen(asked), frozen(spline(inside) + slope * beyond), frozen(slope), frozen(np.where(beyond == 0, bend, 0.0)))

    def every(self, step: int) -> SurfaceLine:
        """Every so-many-eth of its n places, from the first."""
        return SurfaceLine(self.u[::step], self.v[::step], self.slope[::step], self.bend[::step])


@dataclass(frozen=True)
class Felt:
    """A line as it lies on the surface: the `jet` under it, its `speed` |dP/du| (n,), unit `tangent` and unit direction `away`
    square to it within the surface (n, 3); `geodesic`, `bend` and `twist` curvatures per mm: `geodesic` positive where the
    line curves towards `away`, `bend` positive where the surface is convex outward."""

    jet: Jet
    speed: Array
    tangent: Array
    away: Array
    geodesic: Array
    bend: Array
    twist: Array


def felt(surface: TensorSurface, line: SurfaceLine, upward: bool) -> Felt:
    """What a line feels; `away` points to larger v where `upward`, else to smaller.

    Source of the formulas: any textbook of differential geometry (Darboux frame of a curve on a surface).
    """
    jet = surface.jet(line.u, line.v)
    slope = line.slope[:, None]
    first = jet.du + slope * jet.dv
    second = jet.duu + 2 * slope * jet.duv + slope**2 * jet.dvv + line.bend[:, None] * jet.dv
    speed = lengths(first)
    tangent = first / speed[:, None]
    normal = jet.normal
    away = cross(normal, tangent)
    away *= ((1.0 if upward else -1.0) * np.sign(dot(away, jet.dv)))[:, None]
    tu, tv = 1.0 / speed, line.slope / speed
    au, av = components(jet, away)
    twist = second_form(jet, normal, (tu, tv), (au, av))
    square = speed**2
    return Felt(jet, speed, tangent, away, dot(second, away) / square, -dot(second, normal) / square, twist)


def second_form(jet: Jet, normal: Array, a: tuple[Array, Array], b: tuple[Array, Array]) -> Array:
    """The second fundamental form of the surface, by its outward `normal` (n, 3), between two tangent vectors given as
    (du, dv), (n,) each, per mm: of a unit vector with itself its normal curvature (negative where the surface is round to the
    outside), with the one square to it its geodesic torsion. Source: any textbook of differential geometry."""
    ll, mm, nn = (dot(d, normal) for d in (jet.duu, jet.duv, jet.dvv))
    return ll * a[0] * b[0] + mm * (a[0] * b[1] + a[1] * b[0]) + nn * a[1] * b[1]


def straight_on(jet: Jet, du: Array, dv: Array) -> tuple[Array, Array]:
    """How du and dv, (n,) each, have to change (per unit of the path's own measure) for a path to be a geodesic."""
    turning = jet.duu * (du * du)[:, None] + jet.duv * (2 * du * dv)[:, None] + jet.dvv * (dv * dv)[:, None]
    e, f, g = first_form(jet)
    det = np.maximum(e * g - f * f, 1e-12)
    a, b = dot(jet.du, turning), dot(jet.dv, turning)
    return -(g * a - f * b) / det, -(e * b - f * a) / det


def components(jet: Jet, vector: Array) -> tuple[Array, Array]:
    """(du, dv), (n,) each, of a tangent vector (n, 3), mm."""
    e, f, g = first_form(jet)
    a, b = dot(jet.du, vector), dot(jet.dv, vector)
    det = e * g - f * f
    return (g * a - f * b) / det, (e * b - f * a) / det


def gaussian(jet: Jet) -> Array:
    """Gaussian curvature (n,), 1/mm²: by both fundamental forms (any textbook of differential geometry)."""
    out = cross(jet.dv, jet.du)
    ll, mm, nn = (dot(d, out) for d in (jet.duu, jet.duv, jet.dvv))
    curvature: Array = (ll * nn - mm * mm) / np.maximum(dot(out, out), 1e-12) ** 2  # |out|² is E G − F²
    return curvature


def first_form(jet: Jet) -> tuple[Array, Array, Array]:
    """E, F, G of the first fundamental form, (n,) each, mm²."""
    return dot(jet.du, jet.du), dot(jet.du, jet.dv), dot(jet.dv, jet.dv)
