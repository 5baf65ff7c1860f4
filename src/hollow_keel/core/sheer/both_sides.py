"""Copying marks to the other side: arcs from two places on the centreline cross there; a third checks them.

Three arcs, from places that do not lie on one line, say where a mark really is, so both sides can be compared in shape: how far out
of the skin and along it one lies against the other. How sure that is follows from how well a radius is read and how the arcs
cross.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.inverse import inverted
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..job import Job
from ..molds.read_at import at_heads, lost
from ..rules import READ_WITHIN_MM, USELESS_MM, WRONG_MM, WRONG_TIMES
from ..settings.readings import ArcReading, Side
from .heads import PAGE, SheerMark, SheerPlan

SWUNG_STEPS = 12


@dataclass(frozen=True)
class SideMark:
    """One side's mark by its three arcs: how much longer each is than planned, and how far the mark lies from where it is planned:
    out of the skin, up along the section and aft, mm (None: not known by these arcs)."""

    side: Side
    errors: tuple[float | None, ...]
    out: float | None
    up: float | None
    aft: float | None


@dataclass(frozen=True)
class Compared:
    """A head on both sides; by how much starboard lies farther out of the skin than port, mm (None: not read on both), how sure
    that is (standard deviation, mm; infinite where the arcs' places lie on one line), and what it comes to, in words."""

    head: str
    station: float
    port: SideMark | None
    starboard: SideMark | None
    differs: float | None
    sure: float
    verdict: str


@dataclass(frozen=True)
class BothSides:
    """All heads that were read, from the bow aft."""

    heads: tuple[Compared, ...]
    findings: tuple[Finding, ...]


def compare_sides(hull: Hull, plan: SheerPlan, job: Job) -> BothSides:
    """What the arcs read say. Reads the job's arcs, and from which error on the set-up matters."""
    readings = {(mark.name, r.side): r for mark, r in at_heads(job.trim.arcs, plan.marks)}
    heads, findings = [], []
    for mark in plan.marks:
        own = [readings.get((mark.name, side)) for side in Side]
        if not any(own):
            continue
        axes = _axes(hull, mark)
        sides = [None if r is None else _side(r, mark, plan.bases, axes) for r in own]
        compared, said = _compared(mark, plan.bases, sides, axes, job.setup.fairs_below)
        heads.append(compared)
        findings += said
    findings += lost([(r.head, r.at) for r in job.trim.arcs], plan.marks, PAGE, "Arcs", "head")
    return BothSides(tuple(heads), tuple(findings))


def swung(surface: TensorSurface, bases: Sequence[Array], radii: Sequence[float], near: Array) -> Array | None:
    """The place (3,) on a surface that is two radii (mm) from two places (3,): where arcs swung from them cross, near a point (3,);
    None where they do not meet on it."""
    uv, _ = inverted(surface, near[None])
    u, v = uv[0]
    wanted = np.array(radii[:2])
    for _ in range(SWUNG_STEPS):
        jet = surface.jet(np.array([u]), np.array([v]))
        off = np.stack([jet.point[0] - base for base in bases[:2]])
        far = np.linalg.norm(off, axis=1)
        slopes = np.stack([off @ jet.du[0], off @ jet.dv[0]], axis=1) / np.maximum(far, 1e-9)[:, None]
        if abs(np.linalg.det(slopes)) < 1e-9:
            return None
        du, dv = np.clip(np.linalg.solve(slopes, wanted - far), -0.1, 0.1)
        u, v = float(np.clip(u + du, 0.0, 1.0)), float(np.clip(v + dv, 0.0, 1.0))
    point = surface.points(np.array([u]), np.array([v]))[0]
    off = np.array([float(np.linalg.norm(point - base)) for base in bases[:2]]) - wanted
    return point if np.abs(off).max() < 0.01 else None


def by_three_arcs(bases: Sequence[Array], radii: Sequence[float]) -> Array | None:
    """The place (3,) on starboard that is three radii (mm) from three places on the centre plane; None where the arcs do not
    meet, or the places lie on one line. Two differences of the spheres' equations are linear in how far aft and up it is; how
    far out follows from the first."""
    flat = np.array([base[[0, 2]] for base in bases[:3]])
    square = np.array(radii) ** 2
    lhs = 2 * (flat[1:] - flat[0])
    rhs = square[0] - square[1:] + np.sum(flat[1:] ** 2, axis=1) - np.sum(flat[0] ** 2)
    if on_one_line(bases):
        return None
    x, z = np.linalg.solve(lhs, rhs)
    out = square[0] - np.sum((np.array([x, z]) - flat[0]) ** 2)
    return np.array([x, math.sqrt(out), z]) if out >= 0 else None


def on_one_line(bases: Sequence[Array]) -> bool:
    """Whether places (3,) on the centre plane are fewer than three or lie on one line: then arcs from them cross all along a
    circle."""
    if len(bases) < 3:
        return True
    ways = np.array([base[[0, 2]] - bases[0][[0, 2]] for base in bases[1:3]])
    return bool(abs(np.linalg.det(ways)) <= 1e-6 * np.abs(ways).max() ** 2)


def _axes(hull: Hull, mark: SheerMark) -> Array:
    """Unit directions at a mark, (3, 3): out of the skin, up along the section, and aft square to both."""
    surface = hull.panels[-1].surface
    uv, _ = inverted(surface, np.array([[mark.station, *mark.outside]]))
    jet = surface.jet(np.clip(uv[:, 0], 0.0, 1.0), np.clip(uv[:, 1], 0.0, 1.0))
    out = jet.normal[0]
    up = jet.dv[0] - (jet.dv[0] @ out) * out
    up = up / np.linalg.norm(up)
    aft = np.cross(up, out)
    return np.stack([out, up, aft if aft[0] > 0 else -aft])


def sureness(bases: Sequence[Array], place: Array, out: Array) -> float:
    """How surely three arcs, read within READ_WITHIN_MM, tell how far a place (3,) lies along a direction (3,), mm: its standard
    deviation; infinite where they do not cross."""
    if len(bases) < 3:
        return math.inf
    ways = np.stack([place - base for base in bases[:3]])
    ways = ways / np.linalg.norm(ways, axis=1, keepdims=True)
    if abs(np.linalg.det(ways)) < 1e-9:
        return math.inf
    return READ_WITHIN_MM * float(np.linalg.norm(out @ np.linalg.inv(ways)))


def _side(reading: ArcReading, mark: SheerMark, bases: Sequence[Array], axes: Array) -> SideMark:
    errors = tuple(None if read is None else read - planned for read, planned in zip(reading.radii, mark.radii, strict=False))
    place = None
    if len(bases) >= 3 and len(errors) >= 3 and None not in errors:
        place = by_three_arcs(bases, [r for r in reading.radii if r is not None])
    if place is None:
        return SideMark(reading.side, errors, None, None, None)
    out, up, aft = (axes @ (place - np.array([mark.station, *mark.outside]))).tolist()
    return SideMark(reading.side, errors, out, up, aft)


def _compared(
    mark: SheerMark, bases: Sequence[Array], sides: Sequence[SideMark | None], axes: Array, matters: float
) -> tuple[Compared, list[Finding]]:
    port, starboard = sides
    place = np.array([mark.station, *mark.outside])
    sure = math.sqrt(2.0) * sureness(bases, place, axes[0])
    differs = None
    findings = [finding for side in sides if side is not None for finding in _wrong(mark.name, side, bases)]
    if findings:
        verdict = "read again"
    elif port is None or starboard is None or port.out is None or starboard.out is None:
        verdict = "read the third arc on both sides" if sure < USELESS_MM else "these places do not tell the shape"
    elif sure > USELESS_MM:
        verdict = "these places do not tell the shape"
    else:
        differs = starboard.out - port.out
        verdict = _verdict(differs, sure, matters)
        if abs(differs) > matters and abs(differs) > 2 * sure:
            side = "starboard" if differs > 0 else "port"
            text = (
                f"The hull is {mm(round(abs(differs), 1))} fuller to {side} (± {mm(round(2 * sure, 1))}): fair it before the edge "
                f"is cut."
            )
            findings.append(Finding("sides-differ", Weight.LOOK, PAGE, mark.name, text))
    return Compared(mark.name, mark.station, port, starboard, differs, sure, verdict), findings


def _verdict(differs: float, sure: float, matters: float) -> str:
    if abs(differs) <= max(matters, 2 * sure):
        return "alike" if 2 * sure <= 2 * matters else "alike as far as these arcs tell"
    return "fuller to starboard" if differs > 0 else "fuller to port"


def _wrong(head: str, side: SideMark, bases: Sequence[Array]) -> list[Finding]:
    """The one arc of three that is read wrong: far off the plan where the others are not; or that they do not meet at all."""
    read = [(abs(error), k) for k, error in enumerate(side.errors) if error is not None]
    worst = max(read, default=(0.0, 0))
    others = [error for error, k in read if k != worst[1]]
    if worst[0] > WRONG_MM and others and worst[0] > WRONG_TIMES * max(*others, READ_WITHIN_MM):
        error = side.errors[worst[1]] or 0.0
        text = (
            f"The arc from {mm(round(float(bases[worst[1]][0])))} on {side.side.value} is {mm(round(abs(error), 1))} "
            f"{'longer' if error > 0 else 'shorter'} than planned, the others are not: read it again."
        )
        return [Finding("arc-wrong", Weight.LOOK, PAGE, head, text)]
    if len(read) == 3 and side.out is None and not on_one_line(bases):
        text = f"The arcs on {side.side.value} do not meet: read them again."
        return [Finding("arcs-miss", Weight.LOOK, PAGE, head, text)]
    return []
