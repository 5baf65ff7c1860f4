"""Where strips cross a mold: ticks for every edge, widths there, and the rolling bevel to the next strip."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.polyline import run_of
from ..hull.build import Hull
from ..job import StripSettings
from ..molds.stations import Mold
from .edges import EdgePiece
from .strips import Planking, Strip


@dataclass(frozen=True)
class Crossing:
    """Strip `number` at one mold. Its edges lie `near` and `far` (3,) on the hull; `from_sheer` is how far down the
    mold's edge its lower edge comes and `upper` its upper one, mm; `width` what it covers there; `bevel` the turn
    (radians) to the strip beyond its far edge, None past the last; `planed` what that takes off a square edge, mm. `full`
    tells that it is not cut by the hull's edge there."""

    number: int
    near: Array
    far: Array
    upper: float
    from_sheer: float
    width: float
    bevel: float | None
    planed: float | None
    full: bool


def crossings(hull: Hull, mold: Mold, planking: Planking, strips: StripSettings) -> tuple[Crossing, ...]:
    """Every strip that crosses a mold's station, from sheer to keel; bevels for strips as they are milled."""
    found: list[tuple[Strip, Array, Array, Array, bool]] = []
    for strip in planking.strips:
        at = _edges_at(strip, mold.station, planking)
        if at is not None:
            found.append((strip, *at))
    edge = mold.edge.points[::-1]
    rows = []
    normals = _normals(hull, [strip for strip, *_ in found], [middle for *_, middle, _ in found])
    places = {(strip.panel, strip.course, strip.number): k for k, (strip, *_) in enumerate(found)}
    for k, (strip, near, far, _, full) in enumerate(found):
        runs = sorted(run_of(edge, p[1:]) for p in (near, far))
        nxt = places.get((strip.panel, strip.course, strip.number + 1))
        bevel = None if nxt is None else float(np.arccos(np.clip(normals[k] @ normals[nxt], -1.0, 1.0)))
        rows.append(
            Crossing(
                strip.number, near, far, runs[0], runs[1], float(np.linalg.norm(far - near)), bevel,
                None if bevel is None else _thickness(strips, planking, strip) * float(np.tan(bevel)), full,
            )
        )  # fmt: skip
    return tuple(sorted(rows, key=lambda row: row.upper))


def _thickness(strips: StripSettings, planking: Planking, strip: Strip) -> float:
    return strips.at_place(planking.places[strip.number]).thickness


def _edges_at(strip: Strip, station: float, planking: Planking) -> tuple[Array, Array, Array, bool] | None:
    """Where both edges of a strip cross a station, (3,) each, u and v between them (2,), and whether both are its own; an edge that
    has run out there is the line that its course ends on. None where the strip does not come there."""
    near, far = _crossed(strip.near, station), _crossed(strip.far, station)
    if near is None and far is None:
        return None
    limit = planking.limits[strip.panel, strip.course]
    ends = [p if p is not None else None for p in (near, far)]
    full = near is not None and far is not None
    points = [p[0] if p is not None else _on_line(limit, station) for p in ends]
    known = [p[1] for p in ends if p is not None]
    return points[0], points[1], np.mean(known, axis=0), full


def _crossed(pieces: tuple[EdgePiece, ...], station: float) -> tuple[Array, Array] | None:
    for piece in pieces:
        x = piece.points[:, 0]
        k = np.flatnonzero((x[:-1] - station) * (x[1:] - station) <= 0)
        if len(k):
            i = int(k[0])
            span = x[i + 1] - x[i]
            t = (station - x[i]) / span if span else 0.0
            return (
                piece.points[i] + t * (piece.points[i + 1] - piece.points[i]),
                piece.uv[i] + t * (piece.uv[i + 1] - piece.uv[i]),
            )
    return None


def _on_line(line: Array, station: float) -> Array:
    result: Array = np.array([np.interp(station, line[:, 0], line[:, c]) for c in range(3)])
    return result


def _normals(hull: Hull, strips: list[Strip], places: list[Array]) -> Array:
    """The hull's outward normals in the plane of the station, (n, 2), at a place (u, v) on each strip."""
    result = np.zeros((len(strips), 2))
    for index, panel in enumerate(hull.panels):
        own = [k for k, strip in enumerate(strips) if strip.panel == index]
        if own:
            uv = np.array([places[k] for k in own])
            result[own] = panel.surface.jet(uv[:, 0], uv[:, 1]).normal[:, 1:]
    return result / np.linalg.norm(result, axis=1, keepdims=True) if len(strips) else result
