"""Setting molds on a strongback: marks from one zero, gaps between molds, one waterline height.

Facts of the trade (common practice): every mark is measured from one zero, never from the last mold;
the space between two molds is the spacing less a thickness, and less two where the faces turn over.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import overload

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import SetupSettings
from ..molds.shape import Face
from ..molds.stations import Mold, MoldSet
from ..rules import CLEAR_MM, FAR_ZERO_MM, ROUND_UP_MM, WEB_MM
from ..settings.setup_choices import HullEnd, Strongback


@dataclass(frozen=True)
class Mark:
    """One mold on the beam. Lengths mm.

    `from_zero` to the reference face; `gap_to_next` clear space to the next mold away from the zero (None
    after the last); `keel_above`, `sheer_above` heights of the mold's keel point and sheer mark above the strongback's
    upper face as it stands (negative: below it).
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
    """Height of the strongback's upper face (as it stands) in the hull's own heights, mm."""
    beam_length: float
    findings: tuple[Finding, ...]
    upright: bool = False

    @property
    def sense(self) -> float:
        """The number 1 where the hull's heights rise upward as it stands, -1 where it stands upside down."""
        return 1.0 if self.upright else -1.0

    @overload
    def above(self, height: float) -> float: ...
    @overload
    def above(self, height: Array) -> Array: ...
    def above(self, height: float | Array) -> float | Array:
        """How far a height of the hull's own, mm (one, or any shape), lies above the strongback's upper face as it stands, mm."""
        return self.sense * (height - self.beam_level)


def set_up(hull: Hull, molds: MoldSet, settings: SetupSettings, waterline: float) -> SetUp:
    """Marks, gaps and heights, mm, for the given molds."""
    findings: list[Finding] = []
    from_stern = settings.zero_end is HullEnd.STERN
    ordered = list(reversed(molds.molds)) if from_stern else list(molds.molds)
    zero_at = _zero(hull, ordered, settings)
    on_beam = settings.strongback is Strongback.BEAM
    above = settings.waterline_above
    if above is None:
        above = (
            _height_that_clears(molds.molds, settings, waterline)
            if on_beam
            else _height_above_all(hull, molds.molds, settings, waterline)
        )
    level = waterline - above if settings.upright else waterline + above
    bare = SetUp((), zero_at, above, level, 0.0, (), settings.upright)
    marks = [_mark(bare, m, ordered[k + 1] if k + 1 < len(ordered) else None, from_stern) for k, m in enumerate(ordered)]
    for mark in marks:
        findings += _check(mark)
    findings += _far_zero(marks)
    for mold in ordered if on_beam else ():
        findings += _check_beam(mold, settings, level)
    length = max((m.from_zero for m in marks), default=0.0) + (ordered[-1].thickness if ordered else 0.0)
    return replace(bare, marks=tuple(marks), beam_length=length, findings=tuple(findings))


def _zero(hull: Hull, ordered: list[Mold], settings: SetupSettings) -> float:
    """Position along the hull that distances are measured from, mm."""
    from_stern = settings.zero_end is HullEnd.STERN
    if settings.first_face is not None and ordered:
        return ordered[0].station + (settings.first_face if from_stern else -settings.first_face)
    if settings.zero_at is not None:
        return settings.zero_at
    return _after_end(hull) if from_stern else 0.0


def _after_end(hull: Hull) -> float:
    return float(max(p.surface.grid[-1, :, 0].max() for p in hull.panels))


def _height_that_clears(molds: tuple[Mold, ...], settings: SetupSettings, waterline: float) -> float:
    """Height of the waterline above the beam with wood left round the hole in every mold, or else in as many as can have it: an end
    mold near a tip, that no beam goes through, does not tell how high all the others stand."""
    if not molds:
        return 0.0
    lowest = min(float(m.edge.keel[1]) for m in molds) + WEB_MM - waterline
    high = max(m.top for m in molds) - settings.beam_height - waterline
    count = max(1, int((high - math.ceil(lowest / ROUND_UP_MM) * ROUND_UP_MM) / ROUND_UP_MM) + 1)
    steps: Array = ROUND_UP_MM * np.arange(count, dtype=np.float64)
    above: Array = math.ceil(lowest / ROUND_UP_MM) * ROUND_UP_MM + steps
    if settings.upright:  # the beam lies as low in the hull, its other face up
        above = math.floor((-lowest - settings.beam_height) / ROUND_UP_MM) * ROUND_UP_MM - steps
    level = waterline - above if settings.upright else waterline + above
    # of the beam's face farther from the keel
    over = level if settings.upright else level + settings.beam_height
    room = np.array([np.where(over <= m.top, _room(m, settings, level), m.top - over) for m in molds])
    least = room.min(axis=0)
    enough = np.flatnonzero(least >= WEB_MM)
    if len(enough) or least.max() >= 0.0:
        return float(above[enough[0] if len(enough) else int(np.argmax(least))])
    good = room >= WEB_MM  # it breaks out of some whatever is done: the others are not to be the worse for it
    most = np.flatnonzero(good.sum(axis=0) == good.sum(axis=0).max())
    left = np.where(good, room, np.inf).min(axis=0)
    return float(above[most[int(np.argmax(left[most]))]])


def _height_above_all(hull: Hull, molds: tuple[Mold, ...], settings: SetupSettings, waterline: float) -> float:
    """Height of the waterline above a table or rails with room left under what is nearest to them, mm."""
    nearest = max(nearness for _, nearness in reaches(hull, molds, settings.upright)) + CLEAR_MM
    height = nearest + waterline if settings.upright else nearest - waterline
    return math.ceil(height / ROUND_UP_MM) * ROUND_UP_MM


def reaches(hull: Hull, molds: tuple[Mold, ...], upright: bool) -> list[tuple[str, float]]:
    """How far molds, stems and transoms reach towards the strongback, mm: heights of sheers and stem heads upside down;
    upright, depths of keels with the sign turned."""
    found: list[tuple[str, float]] = []
    for mold in molds:
        found.append((f"mold {mold.name}", -float(mold.edge.keel[1]) if upright else mold.top))
    for name, end in (("the bow", hull.lines.bow), ("the stern", hull.lines.stern)):
        heights: Array = end.points[:, 2]
        found.append((name, float((-heights if upright else heights).max())))
    return found


def _mark(bare: SetUp, mold: Mold, after: Mold | None, from_stern: bool) -> Mark:
    zero_at = bare.zero_at
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
        waterline_above=bare.waterline_above,
        keel_above=bare.above(float(mold.edge.keel[1])),
        sheer_above=bare.above(float(mold.edge.sheer[1])),
        station=mold.station,
    )


def _far_zero(marks: Sequence[Mark]) -> list[Finding]:
    """A zero that is farther from the molds than they are from each other is no place on a strongback."""
    places = [mark.from_zero for mark in marks]
    if not places or min(places) <= max(max(places) - min(places), FAR_ZERO_MM):
        return []
    text = f"The zero lies {mm(round(min(places)))} before the first mold, farther than the molds are apart: look at where it is."
    return [Finding("zero-far", Weight.LOOK, "setup", "the zero", text)]


def _check(mark: Mark) -> list[Finding]:
    found: list[Finding] = []
    if mark.gap_to_next is not None and mark.gap_to_next < 0:
        found.append(
            Finding(
                "overlap",
                Weight.STOP,
                "setup",
                f"mold {mark.mold}",
                f"This mold and the next overlap by {mm(-mark.gap_to_next)}: space the stations wider or use thinner sheet.",
            )
        )
    if mark.from_zero < 0:
        found.append(
            Finding(
                "before-zero",
                Weight.LOOK,
                "setup",
                f"mold {mark.mold}",
                "This mold stands before the zero of the beam: move the zero towards its end.",
            )
        )
    return found


def beam_bottom(settings: SetupSettings, level: float) -> float:
    """Height of the beam's face nearest the keel in the hull's own heights, mm, its upper face (as it stands) at `level`."""
    return level - settings.beam_height if settings.upright else level


def _room(mold: Mold, settings: SetupSettings, levels: Array) -> Array:
    """Least wood between the beam's hole and the mold's edge for each level of the beam, mm; negative: it breaks out."""
    level = levels - settings.beam_height if settings.upright else levels
    points = mold.side[np.argsort(mold.side[:, 1])]
    heights = level[:, None] + np.linspace(0, settings.beam_height, 9)
    half = np.interp(heights, points[:, 1], points[:, 0])
    beyond = (heights < points[0, 1]) | (heights > points[-1, 1])
    beside = np.where(beyond, np.inf, half).min(axis=1) - settings.beam_width / 2
    result: Array = np.minimum(level - float(mold.edge.keel[1]), beside)
    if mold.deck is not None:  # there is wood to leave over the beam as well
        result = np.minimum(result, mold.top - level - settings.beam_height)
    return result


def _check_beam(mold: Mold, settings: SetupSettings, level: float) -> list[Finding]:
    room = float(_room(mold, settings, np.array([level]))[0])
    if room >= WEB_MM - 1e-6:
        return []
    if room < 0:
        text = "The beam breaks out through this mold's edge: use a smaller beam, move it, or leave this mold out."
        return [Finding("beam-breaks-out", Weight.STOP, "setup", f"mold {mold.name}", text)]
    text = (
        f"Only {mm(round(room))} of wood is left between the beam's hole and the edge of this mold: "
        "use a smaller beam, or hang this mold from a bracket."
    )
    return [Finding("thin-web", Weight.LOOK, "setup", f"mold {mold.name}", text)]
