"""Edges carried on to the end of the hull where no square line from the guide reaches.

Where a stem runs smoothly into the keel, or an end leans far out from the guide's square, the last rays give out before the
end. A strip is not at a loss there: it runs straight on, without edge-set, until it meets stem, keel or sheer. So does its
edge here: along a geodesic.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface, cross, dot
from ..geometry.surface_line import straight_on
from .edges import EDGE_SAMPLES, EdgePiece
from .limits import Bounds

STEP_MM, STEP_SHARE = 12.0, 1 / 400
FARTHEST = 0.3
"""An edge is carried on by at most this share of the hull's length."""
THERE_MM = 1.0
"""An edge whose last ray has come so near to the end of the hull is there."""


def run_on(
    surface: TensorSurface, bounds: Bounds, fronts: list[list[EdgePiece]]
) -> tuple[list[list[EdgePiece]], int]:
    """The edges with open ends at bow and stern carried on, and how many were."""
    wanted: list[tuple[int, int, bool]] = []
    for k, pieces in enumerate(fronts):
        if not pieces:
            continue
        if pieces[0].tips[0] is not None:
            wanted.append((k, 0, True))
        if pieces[-1].tips[1] is not None:
            wanted.append((k, len(pieces) - 1, False))
    if not wanted:
        return fronts, 0
    result = [list(pieces) for pieces in fronts]
    states = np.array([fronts[k][n].tips[0 if bow else 1] for k, n, bow in wanted])
    there = _there(surface, bounds, states)
    for (k, n, bow), name in zip(wanted, there, strict=True):
        if name:
            result[k][n] = _ended(result[k][n], name, bow)
    wanted = [w for w, name in zip(wanted, there, strict=True) if not name]
    states = states[[not name for name in there]]
    if not wanted:
        return result, 0
    backward = np.array([bow for _, _, bow in wanted])
    states[backward, 2:] *= -1.0
    paths = _shoot(surface, bounds, states)
    done = 0
    for (k, n, bow), path in zip(wanted, paths, strict=True):
        if path is not None:
            result[k][n] = _carried(surface, bounds, result[k][n], path, bow)
            done += 1
    return result, done


def _there(surface: TensorSurface, bounds: Bounds, states: Array) -> list[str]:
    """The limit that each open end has come to already but for `THERE_MM`; empty where it has not."""
    u, v = states[:, 0], states[:, 1]
    jet = surface.jet(u, v)
    along, across = np.linalg.norm(jet.du, axis=1), np.linalg.norm(jet.dv, axis=1)
    # where both directions agree a step in either comes nearer by its share square to the other
    square = np.linalg.norm(cross(jet.du, jet.dv), axis=1)
    off = {
        bounds.bow: np.abs(u) * square / across, bounds.stern: np.abs(1 - u) * square / across,
        bounds.low.name: np.abs(v - bounds.low.at(u)) * square / along,
        bounds.high.name: np.abs(v - bounds.high.at(u)) * square / along,
    }  # fmt: skip
    if bounds.bow == bounds.stern:
        off[bounds.bow] = np.minimum(np.abs(u), np.abs(1 - u)) * square / across
    names = list(off)
    table = np.array([off[name] for name in names])
    nearest = np.argmin(table, axis=0)
    return [names[k] if table[k, n] < THERE_MM else "" for n, k in enumerate(nearest.tolist())]


def _ended(piece: EdgePiece, name: str, bow: bool) -> EdgePiece:
    return replace(
        piece, starts=name if bow else piece.starts, ends=piece.ends if bow else name,
        tips=(None, piece.tips[1]) if bow else (piece.tips[0], None),
    )  # fmt: skip


def _shoot(surface: TensorSurface, bounds: Bounds, states: Array) -> list[Array | None]:
    """Geodesics from states (n, 4) of u, v, du, dv per mm until each meets a limit: (m, 5) of u, v, du, dv and length; None for one
    that meets none."""
    size = float(np.linalg.norm(surface.grid[-1, -1] - surface.grid[0, -1]))
    h = max(STEP_MM, STEP_SHARE * size)
    y = states.T.copy()
    rows = [y.copy()]
    with np.errstate(all="ignore"):
        for _ in range(int(FARTHEST * size / h)):
            a = _rates(surface, y)
            b = _rates(surface, y + h / 2 * a)
            c = _rates(surface, y + h / 2 * b)
            d = _rates(surface, y + h * c)
            y = y + h / 6 * (a + 2 * b + 2 * c + d)
            y[:, ~np.isfinite(y).all(axis=0) | (np.abs(y[:2] - 0.5) > 2).any(axis=0)] = np.nan
            rows.append(y.copy())
            if not np.any(_within(y, bounds)):
                break
    table = np.array(rows)  # (steps, 4, n)
    return [_until_limit(table[:, :, k], bounds, h) for k in range(len(states))]


def _within(y: Array, bounds: Bounds) -> Array:
    u, v = y[0], y[1]
    with np.errstate(invalid="ignore"):
        result: Array = (u >= 0) & (u <= 1) & (v >= bounds.low.at(u)) & (v <= bounds.high.at(u))
    return result


def _until_limit(path: Array, bounds: Bounds, h: float) -> Array | None:
    """A path (m, 4) up to where it first meets a limit, with its length; None if it never does."""
    inside = _within(path.T, bounds)
    if not inside[0] or inside.all():
        return None
    k = int(np.argmin(inside))
    if not np.isfinite(path[k]).all():
        return None
    low, high = 0.0, 1.0
    for _ in range(50):
        at = (low + high) / 2
        if _within(_between(path[k - 1], path[k], h, at)[:, None], bounds)[0]:
            low = at
        else:
            high = at
    last = _between(path[k - 1], path[k], h, low)
    rows = np.concatenate([path[:k], last[None]])
    run = np.concatenate([h * np.arange(k), [h * (k - 1 + low)]])
    return np.column_stack([rows, run])


def _between(a: Array, b: Array, h: float, t: float) -> Array:
    """A state part of a step on, by cubics through both ends."""
    s = 1 - t
    place = a[:2] * s * s * (1 + 2 * t) + b[:2] * t * t * (1 + 2 * s) + h * s * t * (a[2:] * s - b[2:] * t)
    return np.concatenate([place, s * a[2:] + t * b[2:]])


def _rates(surface: TensorSurface, y: Array) -> Array:
    u, v, du, dv = y
    sound = np.isfinite(y).all(axis=0)
    jet = surface.jet(np.where(sound, u, 0.5), np.where(sound, v, 0.5))
    return np.stack([du, dv, *straight_on(jet, du, dv)])


def _carried(surface: TensorSurface, bounds: Bounds, piece: EdgePiece, path: Array, bow: bool) -> EdgePiece:
    """A piece with a path put on at one end, its points spread evenly again."""
    jet = surface.jet(path[1:, 0], path[1:, 1])
    normal = jet.normal
    du, dv = path[1:, 2], path[1:, 3]
    ll, mm, nn = (dot(d, normal) for d in (jet.duu, jet.duv, jet.dvv))
    bend = -(ll * du * du + 2 * mm * du * dv + nn * dv * dv)
    more = np.column_stack(
        [np.zeros(len(bend)), bend, np.full(len(bend), piece.curvatures[0 if bow else -1, 2])]
    )
    own, curved, extra = piece.points, piece.curvatures, path[1:, 4]
    if bow:
        points, bends = np.concatenate([jet.point[::-1], own]), np.concatenate([more[::-1], curved])
        uv = np.concatenate([path[:0:-1, :2], piece.uv])
        run = np.concatenate([extra[-1] - extra[::-1], extra[-1] + piece.run])
    else:
        points, bends = np.concatenate([own, jet.point]), np.concatenate([curved, more])
        uv = np.concatenate([piece.uv, path[1:, :2]])
        run = np.concatenate([piece.run, piece.run[-1] + extra])
    even = np.linspace(0.0, run[-1], EDGE_SAMPLES)

    def spread(table: Array) -> Array:
        return frozen(np.column_stack([np.interp(even, run, column) for column in table.T]))

    name = _meets(path[-1, 0], path[-1, 1], bounds)
    return replace(
        piece, points=spread(points), run=frozen(even), curvatures=spread(bends), uv=spread(uv),
        length=piece.length + float(extra[-1]),
        starts=name if bow else piece.starts, ends=piece.ends if bow else name,
        tips=(None, piece.tips[1]) if bow else (piece.tips[0], None),
    )  # fmt: skip


def _meets(u: float, v: float, bounds: Bounds) -> str:
    """The limit nearest to where a path ended, in the parameters."""
    at = np.array([u])
    off = {
        bounds.bow + " bow": abs(u), bounds.stern + " stern": abs(1 - u),
        bounds.low.name: abs(v - float(bounds.low.at(at)[0])), bounds.high.name: abs(v - float(bounds.high.at(at)[0])),
    }  # fmt: skip
    return min(off, key=lambda name: off[name]).split(" ")[0]
