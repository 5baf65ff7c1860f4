"""Geodesics of a surface, a place at a time.

Lines that depend on each other have to be followed one after another, and arrays of one or two places take most of their time to
be made. Plain numbers are several times faster there, so the surface's own formula (`TensorSurface.jet`) stands here once more for
single places; tests hold both against each other.
"""

from __future__ import annotations

from .surface import TensorSurface

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
        """A state h further on: one step of the classical Runge-Kutta method (any textbook of numerical analysis)."""
        u, v, p, q = state
        half = h / 2
        pa, qa = self.bent(u, v, p, q)
        pb, qb = p + half * pa, q + half * qa
        pc, qc = self.bent(u + half * p, v + half * q, pb, qb)
        pd, qd = p + half * pc, q + half * qc
        pe, qe = self.bent(u + half * pb, v + half * qb, pd, qd)
        pf, qf = p + h * pe, q + h * qe
        pg, qg = self.bent(u + h * pd, v + h * qd, pf, qf)
        sixth = h / 6
        return (
            u + sixth * (p + 2 * (pb + pd) + pf),
            v + sixth * (q + 2 * (qb + qd) + qf),
            p + sixth * (pa + 2 * (pc + pe) + pg),
            q + sixth * (qa + 2 * (qc + qe) + qg),
        )

    def bent(self, u: float, v: float, p: float, q: float) -> tuple[float, float]:
        """How a path's rates p = du and q = dv change on at (u, v), for it to be a geodesic: minus what its second derivative has
        within the surface, by the first fundamental form (any textbook of differential geometry)."""
        i, s = _located(u, self._along)
        j, t = _located(v, self._up)
        square, twice, other = p * p, 2 * p * q, q * q
        e = f = g = a = b = 0.0
        row = self._cells[i + 1]
        cell = row[j + 1]
        if cell is None:
            cell = row[j + 1] = self._table[i + 1, j + 1].tolist()
        for _, k1, k2, k3, m0, m1, m2, m3, n0, n1, n2, n3, o0, o1, o2, o3 in cell:
            # along u in each power of v: values, first and second derivatives
            x1, y1 = ((m3 * s + m2) * s + m1) * s + m0, (3 * m3 * s + 2 * m2) * s + m1
            x2, y2 = ((n3 * s + n2) * s + n1) * s + n0, (3 * n3 * s + 2 * n2) * s + n1
            x3, y3 = ((o3 * s + o2) * s + o1) * s + o0, (3 * o3 * s + 2 * o2) * s + o1
            du = ((y3 * t + y2) * t + y1) * t + (3 * k3 * s + 2 * k2) * s + k1
            dv = (3 * x3 * t + 2 * x2) * t + x1
            z1, z2, z3 = 3 * m3 * s + m2, 3 * n3 * s + n2, 3 * o3 * s + o2
            duu = 2 * (((z3 * t + z2) * t + z1) * t + 3 * k3 * s + k2)
            turning = duu * square + ((3 * y3 * t + 2 * y2) * t + y1) * twice + (6 * x3 * t + 2 * x2) * other
            e += du * du
            f += du * dv
            g += dv * dv
            a += du * turning
            b += dv * turning
        det = e * g - f * f
        if not det > 1e-12:
            det = 1e-12
        return (f * b - g * a) / det, (f * a - e * b) / det


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
