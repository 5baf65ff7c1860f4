"""Where strips cross a mold: ticks for every edge, widths there, and the rolling bevel to the next strip."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.polyline import runs_of
from ..hull.build import Hull
from ..job import StripSettings
from ..molds.stations import Mold
from ..settings.strip_choices import Course
from ..settings.strips import StripEdge
from .edges import EdgePiece
from .strips import Planking, Strip


@dataclass(frozen=True)
class Crossing:
    """Strip `number` at one mold. Its edges lie `near` and `far` (3,) on the hull; `from_sheer` is how far down the
    mold's edge its lower edge comes and `upper` its upper one, mm; `width` what it covers there; `bevel` the turn
    (radians) to the strip beyond its far edge, None past the last; `planed` what that takes off a square edge, mm: nothing of
    bead and cove, which turns in itself. `full` tells that it is not cut by the hull's edge there."""

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
        at = _edges_at(strip, mold, planking)
        if at is not None:
            found.append((strip, *at))
    edge = mold.edge.points[::-1]
    rows = []
    normals = normals_at(hull, [strip for strip, *_ in found], [middle for *_, middle, _ in found])
    ends = np.array([p[1:] for _, near, far, *_ in found for p in (near, far)]).reshape(-1, 2)
    runs = np.sort(runs_of(edge, ends).reshape(-1, 2), axis=1)
    places = {(strip.panel, strip.course, strip.number): k for k, (strip, *_) in enumerate(found)}
    for k, (strip, near, far, _, full) in enumerate(found):
        nxt = places.get((strip.panel, strip.course, strip.number + 1))
        bevel = None if nxt is None else float(np.arccos(np.clip(normals[k] @ normals[nxt], -1.0, 1.0)))
        rows.append(
            Crossing(
                strip.number,
                near,
                far,
                float(runs[k, 0]),
                float(runs[k, 1]),
                float(np.linalg.norm(far - near)),
                bevel,
                planed_off(bevel, strips, planking.places[strip.number]),
                full,
            )
        )
    return tuple(sorted(rows, key=lambda row: row.upper))


def planed_off(bevel: float | None, strips: StripSettings, place: int) -> float | None:
    """What a turn to the next strip, radians, takes off the edge of a strip by its place in its course, mm."""
    if bevel is None or strips.edge is StripEdge.BEAD_COVE:
        return None if bevel is None else 0.0
    return strips.thickness_at(place) * float(np.tan(bevel))


def edge_at(pieces: tuple[EdgePiece, ...], station: float) -> Array:
    """Where an edge crosses a station (mm), (n, 3) mm: more than once where it is in pieces or turns back."""
    found = [w @ piece.points[rows] for piece in pieces for rows, w in _places(piece.points[:, 0], station)]
    return np.array(found).reshape(-1, 3)


def _places(x: Array, station: float) -> Iterator[tuple[slice, Array]]:
    """Where a line with points at even steps crosses a station: the points about each place, and their weights in the cubic
    through them there. A chord would lie beside the curve by some tenths of a millimetre."""
    for i in np.flatnonzero((x[:-1] - station) * (x[1:] - station) <= 0).tolist():
        rows = slice(max(i - 1, 0), min(i + 3, len(x)))
        nodes, own = range(rows.start - i, rows.stop - i), x[rows].tolist()
        here, ahead = own[-nodes[0]], own[1 - nodes[0]]
        share = (station - here) / (ahead - here) if ahead != here else 0.0
        for _ in range(3):
            weights, rates = _cubic(nodes, share)
            rate = sum(r * value for r, value in zip(rates, own, strict=True))
            if rate:
                off = sum(w * value for w, value in zip(weights, own, strict=True)) - station
                share = min(max(share - off / rate, 0.0), 1.0)
        yield rows, np.array(_cubic(nodes, share)[0])


def _cubic(nodes: Sequence[int], at: float) -> tuple[list[float], list[float]]:
    """Weights of the values at up to four nodes in the polynomial through them at a place, and in its slope there (Lagrange's
    form; plain numbers, for arrays of four cost more than they save)."""
    weights, rates = [], []
    for own in nodes:
        weight, rate = 1.0, 0.0
        for other in nodes:
            if other != own:
                apart = own - other
                rate = (rate * (at - other) + weight) / apart
                weight *= (at - other) / apart
        weights.append(weight)
        rates.append(rate)
    return weights, rates


def _edges_at(strip: Strip, mold: Mold, planking: Planking) -> tuple[Array, Array, Array, bool] | None:
    """Where both edges of a strip cross a mold's station, (3,) each, u and v between them (2,), and whether both are its own. An
    edge that has run out there is the line that its course ends on, or the end of the mold where stem or transom cut it. None
    where the strip does not come there."""
    near, far = crossed(strip.near, mold.station), crossed(strip.far, mold.station)
    if near is None and far is None:
        return None
    downward = strip.course is Course.DOWN
    limit = planking.limits[strip.panel, strip.course]
    ends = planking.ends.get(strip.panel, ())
    known = [p for p in (near, far) if p is not None]
    beside = known[0][0]
    points = (
        near[0] if near is not None else _end_at(ends, mold, beside, upper=downward),
        far[0] if far is not None else _limit_at(limit, ends, mold, beside, downward=downward),
    )
    middle = (known[0][1] + known[-1][1]) / 2
    return *points, middle, near is not None and far is not None


def crossed(pieces: tuple[EdgePiece, ...], station: float) -> tuple[Array, Array] | None:
    """Where an edge first crosses a station (mm): the place (3,) and its u and v (2,); None where it does not."""
    for piece in pieces:
        for rows, weights in _places(piece.points[:, 0], station):
            return weights @ piece.points[rows], weights @ piece.uv[rows]
    return None


def _limit_at(limit: Array, ends: Sequence[Array], mold: Mold, beside: Array, *, downward: bool) -> Array:
    """Where the line that a course ends on crosses a mold; forward of it, or aft, the stem or the transom ends the strip."""
    for rows, weights in _places(limit[:, 0], mold.station):
        return np.asarray(weights @ limit[rows])
    return _end_at(ends, mold, beside, upper=not downward)


def _end_at(ends: Sequence[Array], mold: Mold, beside: Array, *, upper: bool) -> Array:
    """Where the bow or the stern end of the hull crosses a mold's station, nearest to a place (3,) beside it: on the hull's
    outside, as strips' edges are. Where neither does, the end of the mold."""
    found = [w @ line[rows] for line in ends for rows, w in _places(line[:, 0], mold.station)]
    if not found:
        return _mold_end(mold, upper=upper)
    return np.asarray(min(found, key=lambda p: float(np.linalg.norm(p - beside))))


def _mold_end(mold: Mold, *, upper: bool) -> Array:
    """The upper or the lower end of the planking line at a mold, (3,)."""
    y, z = mold.edge.points[-1 if upper else 0]
    return np.array([mold.station, y, z])


def normals_at(hull: Hull, strips: list[Strip], places: list[Array]) -> Array:
    """The hull's outward normals in the plane of the station, (n, 2), at a place (u, v) on each strip."""
    result = np.zeros((len(strips), 2))
    for index, panel in enumerate(hull.panels):
        own = [k for k, strip in enumerate(strips) if strip.panel == index]
        if own:
            uv = np.array([places[k] for k in own])
            result[own] = panel.surface.jet(uv[:, 0], uv[:, 1]).normal[:, 1:]
    return result / np.linalg.norm(result, axis=1, keepdims=True) if len(strips) else result
