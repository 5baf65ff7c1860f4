"""Setting molds on an internal beam: marks from one zero, gaps between molds, one waterline height.

Facts of the trade (common practice): every mark is measured from one zero, never from the last mold;
the space between two molds is the spacing less a thickness, and less two where the faces turn over.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import HullEnd, SetupSettings
from ..molds.shape import Face
from ..molds.stations import Mold, MoldSet
from .choices import Strongback

LEAST_WEB_MM = 40.0
"""Wood left between the beam's hole and a mold's edge (common practice, no source)."""
ROUND_UP_MM = 5.0
CLEAR_MM = 150.0
"""Room between a table or rails and the highest sheer or stem head, for hands and clamps (common practice, no source)."""


@dataclass(frozen=True)
class Mark:
    """One mold on the beam. Lengths mm.

    `from_zero` to the reference face; `gap_to_next` clear space to the next mold away from the zero (None
    after the last); `keel_above`, `sheer_above` heights of the mold's keel point and sheer mark above the beam's
    upper face, upside down (negative: below it).
    """

    mold: str
    from_zero: float
    face: Face
    body_towards: str
    spacing_to_next: float | None
    gap_to_next: float | None
    waterline_above: float
    keel_above: float
    sheer_above: float
    station: float


@dataclass(frozen=True)
class SetUp:
    """All marks in order from the zero, and the beam they are made on."""

    marks: tuple[Mark, ...]
    zero_at: float
    waterline_above: float
    beam_level: float
    """Height of the beam's upper face (as it stands, upside down) in the hull's own heights, mm."""
    beam_length: float
    findings: tuple[Finding, ...]


def set_up(hull: Hull, molds: MoldSet, settings: SetupSettings, waterline: float) -> SetUp:
    """Marks, gaps and heights for the given molds."""
    findings: list[Finding] = []
    from_stern = settings.zero_end is HullEnd.STERN
    zero_at = settings.zero_at if settings.zero_at is not None else (_after_end(hull) if from_stern else 0.0)
    on_beam = settings.strongback is Strongback.BEAM
    above = settings.waterline_above
    if above is None:
        above = (
            _height_that_clears(molds.molds, settings, waterline)
            if on_beam
            else _height_above_all(hull, molds.molds, waterline)
        )
    level = waterline + above
    ordered = list(reversed(molds.molds)) if from_stern else list(molds.molds)
    marks = [
        _mark(m, ordered[k + 1] if k + 1 < len(ordered) else None, zero_at, from_stern, above, level)
        for k, m in enumerate(ordered)
    ]
    for mark in marks:
        findings += _check(mark)
    for mold in ordered if on_beam else ():
        findings += _check_beam(mold, settings, level)
    length = max((m.from_zero for m in marks), default=0.0) + (ordered[-1].thickness if ordered else 0.0)
    return SetUp(tuple(marks), zero_at, above, level, length, tuple(findings))


def _after_end(hull: Hull) -> float:
    return float(max(p.surface.grid[-1, :, 0].max() for p in hull.panels))


def _height_that_clears(molds: tuple[Mold, ...], settings: SetupSettings, waterline: float) -> float:
    """Height of the waterline above the beam with wood left round the hole in every mold, or in most of them."""
    if not molds:
        return 0.0
    lowest = max(float(m.edge.keel[1]) for m in molds) + LEAST_WEB_MM
    first = math.ceil((lowest - waterline) / ROUND_UP_MM) * ROUND_UP_MM
    top = min(float(m.edge.sheer[1]) for m in molds) - settings.beam_height - waterline
    above: Array = first + ROUND_UP_MM * np.arange(
        max(1, int((top - first) / ROUND_UP_MM) + 1), dtype=np.float64
    )
    room = np.min([_room(m, settings, waterline + above) for m in molds], axis=0)
    enough = np.flatnonzero(room >= LEAST_WEB_MM)
    return float(above[enough[0] if len(enough) else int(np.argmax(room))])


def _height_above_all(hull: Hull, molds: tuple[Mold, ...], waterline: float) -> float:
    """Height of the waterline above a table or rails with room left under the sheer and the stem heads, mm."""
    ends = [end.points[:, 2].max() for end in (hull.lines.bow, hull.lines.stern)]
    tops = [float(m.edge.sheer[1]) for m in molds]
    top = max([float(z) for z in ends] + tops) + CLEAR_MM
    return math.ceil((top - waterline) / ROUND_UP_MM) * ROUND_UP_MM


def _mark(
    mold: Mold, after: Mold | None, zero_at: float, from_stern: bool, above: float, level: float
) -> Mark:
    gap = spacing = None
    if after is not None:
        first, second = (after, mold) if from_stern else (mold, after)
        gap = second.body[0] - first.body[1]
        spacing = second.station - first.station
    aft_of_line = mold.face is Face.FORWARD
    return Mark(
        mold=mold.name,
        from_zero=zero_at - mold.station if from_stern else mold.station - zero_at,
        face=mold.face,
        body_towards="stern" if aft_of_line else "bow",
        spacing_to_next=spacing,
        gap_to_next=gap,
        waterline_above=above,
        keel_above=level - float(mold.edge.keel[1]),
        sheer_above=level - float(mold.edge.sheer[1]),
        station=mold.station,
    )


def _check(mark: Mark) -> list[Finding]:
    found: list[Finding] = []
    if mark.gap_to_next is not None and mark.gap_to_next < 0:
        found.append(
            Finding(
                "overlap", Weight.STOP, "setup", f"mold {mark.mold}",
                f"This mold and the next overlap by {mm(-mark.gap_to_next)}: "
                "space the stations wider or use thinner sheet.",
            )
        )  # fmt: skip
    if mark.from_zero < 0:
        found.append(
            Finding(
                "before-zero", Weight.LOOK, "setup", f"mold {mark.mold}",
                "This mold stands before the zero of the beam: move the zero towards its end.",
            )
        )  # fmt: skip
    return found


def _room(mold: Mold, settings: SetupSettings, level: Array) -> Array:
    """Least wood between the beam's hole and the mold's edge for each level of the beam, mm; negative: it breaks out."""
    points = mold.edge.points[np.argsort(mold.edge.points[:, 1])]
    heights = level[:, None] + np.linspace(0, settings.beam_height, 9)
    half = np.interp(heights, points[:, 1], points[:, 0])
    beyond = (heights < points[0, 1]) | (heights > points[-1, 1])
    beside = np.where(beyond, np.inf, half).min(axis=1) - settings.beam_width / 2
    result: Array = np.minimum(level - float(mold.edge.keel[1]), beside)
    return result


def _check_beam(mold: Mold, settings: SetupSettings, level: float) -> list[Finding]:
    room = float(_room(mold, settings, np.array([level]))[0])
    if room >= LEAST_WEB_MM - 1e-6:
        return []
    if room < 0:
        text = "The beam breaks out through this mold's edge: use a smaller beam, move it, or leave this mold out."
        return [Finding("beam-breaks-out", Weight.STOP, "setup", f"mold {mold.name}", text)]
    text = (
        f"Only {mm(round(room))} of wood is left between the beam's hole and the edge of this mold: "
        "use a smaller beam, or hang this mold from a bracket."
    )  # fmt: skip
    return [Finding("thin-web", Weight.LOOK, "setup", f"mold {mold.name}", text)]
