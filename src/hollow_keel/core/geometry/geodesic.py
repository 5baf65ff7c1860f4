"""Geodesics of a surface, a place at a time.

Lines that depend on each other have to be followed one after another, and arrays of one or two places take most of their time to
be made. Plain numbers are several times faster there, so the surface's own formula (`TensorSurface.jet`) stands here once more for
single places; tests hold both against each other.
"""

from __future__ import annotations

import math

from .surface import TensorSurface

LEAST = 1e-12
"""E G − F² counts as no less, where a surface is drawn together to nothing."""
State = tuple[float, float, float, float]
"""A place (u, v) and how u and v change per unit of the path's own measure."""
_Cell = list[list[float]]


class Geodesics:
    """Geodesics of one surface."""

    def __init__(self, surface: TensorSurface) -> None:
        self._along, self._up = (count - 1 for count in surface.grid.shape[:2])
        self._table = surface.coefficients()
        # made plain numbers as they are come to: a path goes through few of them
        self._cells: list[list[_Cell | None]] = [[None] * (self._up + 2) for _ in range(self._along + 2)]

    def stepped(self, state: State, h: float) -> State:
        """A state h further on: one step of Kutta's method of third order (any textbook of numerical analysis). A surface's third
        derivatives leap from cell to cell, which costs more than the fourth order gains."""
        u, v, p, q = state
        half = h / 2
        pa, qa = self.bent(u, v, p, q)
        pb, qb = p + half * pa, q + half * qa
        pc, qc = self.bent(u + half * p, v + half * q, pb, qb)
        pd, qd = p + h * (2 * pc - pa), q + h * (2 * qc - qa)
        pe, qe = self.bent(u + h * (2 * pb - p), v + h * (2 * qb - q), pd, qd)
        sixth = h / 6
        return (
            u + sixth * (p + 4 * pb + pd),
            v + sixth * (q + 4 * qb + qd),
            p + sixth * (pa + 4 * pc + pe),
            q + sixth * (qa + 4 * qc + qe),
        )

    def form(self, u: float, v: float) -> tuple[float, float, float]:
        """E, F and G of the first fundamental form at (u, v), mm²."""
        e, f, g, _, _ = self._products(u, v, 0.0, 0.0)
        return e, f, g

    def square(self, u: float, v: float, p: float, q: float) -> tuple[float, float]:
        """The rates of u and v, per mm, square within the surface to a direction with rates p and q: towards normal × direction."""
        e, f, g = self.form(u, v)
        size = math.sqrt(max(e * g - f * f, LEAST) * max(e * p * p + 2 * f * p * q + g * q * q, LEAST**2))
        return (f * p + g * q) / size, -(e * p + f * q) / size

    def _made(self, i: int, j: int) -> _Cell:
        cell: _Cell = self._table[i + 1, j + 1].tolist()
        self._cells[i + 1][j + 1] = cell
        return cell

    def bent(self, u: float, v: float, p: float, q: float) -> tuple[float, float]:
        """How a path's rates p = du and q = dv change on at (u, v), for it to be a geodesic: minus what its second derivative has
        within the surface, by the first fundamental form (any textbook of differential geometry)."""
        e, f, g, a, b = self._products(u, v, p, q)
        det = e * g - f * f
        if not det > LEAST:
            det = LEAST
        return (f * b - g * a) / det, (f * a - e * b) / det

    def _products(self, u: float, v: float, p: float, q: float) -> tuple[float, float, float, float, float]:
        """E, F and G at (u, v), and how a path with rates p and q turns there along du and along dv."""
        along, up = self._along, self._up
        x, y = u * along, v * up
        if 0.0 <= x < along and 0.0 <= y < up:  # nearly always
            i, j = int(x), int(y)
            s, t = u - i / along, v - j / up
        else:
            (i, s), (j, t) = _located(u, along), _located(v, up)
        square, twice, other = 2 * p * p, 2 * p * q, 2 * q * q
        e = f = g = a = b = 0.0
        s2, s3, t2 = 2 * s, 3 * s, 2 * t
        ss, t3 = s3 * s, 3 * t * t
        cell = self._cells[i + 1][j + 1] or self._made(i, j)
        for _, k1, k2, k3, m0, m1, m2, m3, n0, n1, n2, n3, o0, o1, o2, o3 in cell:
            # along u in each power of v: first derivatives y, half the second ones z, values x
            y1, y2, y3 = m1 + s2 * m2 + ss * m3, n1 + s2 * n2 + ss * n3, o1 + s2 * o2 + ss * o3
            z1, z2, z3 = m2 + s3 * m3, n2 + s3 * n3, o2 + s3 * o3
            x2, x3 = ((n3 * s + n2) * s + n1) * s + n0, ((o3 * s + o2) * s + o1) * s + o0
            du = ((y3 * t + y2) * t + y1) * t + k1 + s2 * k2 + ss * k3
            dv = ((m3 * s + m2) * s + m1) * s + m0 + t2 * x2 + t3 * x3
            duu = ((z3 * t + z2) * t + z1) * t + k2 + s3 * k3
            turning = duu * square + (y1 + t2 * y2 + t3 * y3) * twice + (x2 + 3 * t * x3) * other
            e += du * du
            f += du * dv
            g += dv * dv
            a += du * turning
            b += dv * turning
        return e, f, g, a, b


def _located(t: float, cells: int) -> tuple[int, float]:
    """The cell that a parameter lies in, -1 before the first and `cells` past the last, and how far it lies from where that begins;
    the far edge belongs to the last cell, and what is no number lies before the first."""
    x = t * cells
    if x < cells:
        i = int(x) if x >= 0.0 else -1
    elif x >= cells:
        i = cells - 1 if t <= 1.0 + 1e-12 else cells
    else:
        i = -1
    return i, t - max(i, 0) / cells
