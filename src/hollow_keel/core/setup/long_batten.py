"""A batten or strip bent over the molds: an elastic beam held at its ends and pushed outward by molds in between.

Molds can push but not pull: where one stands too low the batten bridges it with a gap, where one stands proud it lifts
the batten off its neighbours. The forces make ½ λᵀAλ − gᵀλ least over λ ≥ 0, A the deflection at one mold for a unit
force at another (a simply supported beam; any strength-of-materials handbook) and g how far each mold stands outside the
straight line between the ends. Small slopes are assumed: heights in the direction of the bend.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray, frozen


@dataclass(frozen=True)
class Batten:
    """A section in bending: Young's modulus E (N/mm²) and second moment of area I (mm⁴)."""

    modulus: float
    moment: float

    @classmethod
    def of_strip(cls, width: float, thickness: float, modulus: float = 9000.0) -> Batten:
        """A strip, mm, bent the easy way: I = width · thickness³ / 12. The modulus, MPa, is a light softwood's (from memory)."""
        return cls(modulus, width * thickness**3 / 12)


@dataclass(frozen=True)
class LaidBatten:
    """How a batten lies: `heights` (n,) at the molds and `gaps` (n,) between it and each mold, mm, never negative;
    `forces` (n,) N with which each mold pushes; the ends are held."""

    places: Array
    molds: Array
    heights: Array
    gaps: Array
    forces: Array
    batten: Batten

    def at(self, places: Array) -> Array:
        """Height of the batten at places (n,) between its ends, (n,) mm."""
        start, stop = float(self.places[0]), float(self.places[-1])
        length = stop - start
        t = (np.asarray(places, dtype=float) - start) / length
        chord = self.molds[0] + t * (self.molds[-1] - self.molds[0])
        bend = _flexibility(t, (self.places[1:-1] - start) / length) * length**3 / (self.batten.modulus * self.batten.moment)
        result: Array = chord + bend @ self.forces[1:-1]
        return result


def pulls(places: Array, molds: Array) -> BoolArray:
    """Molds at places (n,) and heights (n,), mm, that a batten has to be clamped in to, if it shall touch every one of them, (n,):
    the hull is straighter there than the batten would lie by itself."""
    wanted, unit = _problem(places, molds)
    found = np.zeros(len(places), dtype=bool)
    found[1:-1] = np.linalg.solve(unit, wanted) < 0
    return found


def lay_batten(places: Array, molds: Array, batten: Batten, held: BoolArray | None = None) -> LaidBatten:
    """Lay a batten over molds at `places` (n,) rising, whose skin side stands at `molds` (n,), mm, and hold its ends there.

    At molds that are `held` (n,) it is clamped down, so that they pull as well. Raises ValueError for fewer than three
    molds or places that do not rise.
    """
    if len(places) < 3 or np.any(np.diff(places) <= 0):
        raise ValueError("a batten needs three molds or more, one after the other")
    length = float(places[-1] - places[0])
    wanted, unit = _problem(places, molds)
    clamped = np.zeros(len(wanted), dtype=bool) if held is None else held[1:-1]
    pushes = _least_energy(unit, wanted, clamped)
    t = (places - places[0]) / length
    heights = molds[0] + t * (molds[-1] - molds[0])
    heights[1:-1] += unit @ pushes
    forces = np.zeros(len(places))
    forces[1:-1] = pushes * batten.modulus * batten.moment / length**3
    gaps = np.maximum(heights - molds, 0.0)
    return LaidBatten(frozen(places), frozen(molds), frozen(heights), frozen(gaps), frozen(forces), batten)


def _problem(places: Array, molds: Array) -> tuple[Array, Array]:
    """How far each inner mold stands outside the line between the ends, and the flexibility between them times E I / L³."""
    t = (places - places[0]) / (places[-1] - places[0])
    wanted: Array = (molds - (molds[0] + t * (molds[-1] - molds[0])))[1:-1]
    return wanted, _flexibility(t[1:-1], t[1:-1])


def _least_energy(unit: Array, wanted: Array, clamped: BoolArray) -> Array:
    """Forces (times L³ / E I) that make the energy least: of any sign where clamped, else pushing only."""
    from scipy.linalg import cholesky, solve_triangular
    from scipy.optimize import nnls

    free = ~clamped
    forces = np.zeros(len(wanted))
    inner = unit[np.ix_(clamped, clamped)]
    cross = unit[np.ix_(clamped, free)]
    back = np.linalg.solve(inner, cross) if clamped.any() else cross
    own = np.linalg.solve(inner, wanted[clamped]) if clamped.any() else wanted[clamped]
    if free.any():
        stiff = unit[np.ix_(free, free)] - cross.T @ back
        target = wanted[free] - cross.T @ own
        size = np.sqrt(np.diag(stiff))
        lower = cholesky(stiff / np.outer(size, size) + 1e-13 * np.eye(len(size)), lower=True)
        scaled, _ = nnls(lower.T, solve_triangular(lower, target / size, lower=True), maxiter=50 * len(size))
        forces[free] = scaled / size
    forces[clamped] = own - back @ forces[free]
    return forces


def _flexibility(at: Array, load: Array) -> Array:
    """Deflection at shares `at` (m,) of a simply supported beam for unit loads at shares `load` (k,), times E I / L³:
    (m, k)."""
    x, a = np.minimum(at[:, None], load[None, :]), np.maximum(at[:, None], load[None, :])
    result: Array = x * (1 - a) * (1 - x * x - (1 - a) ** 2) / 6
    return result
