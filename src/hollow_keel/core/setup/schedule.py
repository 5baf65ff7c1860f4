"""What is cut for a set-up besides the molds, and the clear heights a builder looks at first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..findings import Finding, Weight, mm
from ..geometry.polyline import height_crossing
from ..hull.build import Hull
from ..job import Job, MoldSettings, SetupSettings
from ..molds.stations import Mold, MoldSet
from ..rules import LEAST_CLEAR_MM, OVERHANG_MM, REACH_MM
from ..settings.setup_choices import Strongback
from .beam import SetUp, reaches

SAME_MM = 0.05
"""Gaps that differ by less are one length of spacer."""


@dataclass(frozen=True)
class Spacer:
    """Spacers of one length: how long, how many, and before which molds (from the zero on) they stand."""

    length: float
    count: int
    after: tuple[str, ...]


def spacers(setup: SetUp) -> tuple[Spacer, ...]:
    """The spacers between neighbouring molds, the most frequent length first."""
    found: list[tuple[float, list[str]]] = []
    for mark in setup.marks:
        if mark.gap_to_next is None:
            continue
        same = next((names for length, names in found if abs(length - mark.gap_to_next) < SAME_MM), None)
        if same is None:
            found.append((mark.gap_to_next, [mark.mold]))
        else:
            same.append(mark.mold)
    found.sort(key=lambda item: -len(item[1]))
    return tuple(Spacer(length, len(names), tuple(names)) for length, names in found)


def rail_overhang(frame: float, rails: float) -> tuple[float, float]:
    """How far a frame reaches past two rails in all, and on each side, mm (common practice)."""
    return frame - rails, (frame - rails) / 2


@dataclass(frozen=True)
class Standing:
    """How one mold stands on the strongback, mm; None where there is no such thing.

    `leg` the clear length of its legs, from the sheer to the strongback; `reach` how far it reaches past the rails on each side
    at its sheer (negative: it falls short, and the foot carries it); `spall_above` height of the cross spall's line above
    the strongback; `post` what stands under the keel of an upright mold; `highest` its highest point above the floor.
    """

    mold: str
    leg: float | None
    reach: float | None
    spall_above: float | None
    post: float | None
    highest: float


def standings(setup: SetUp, molds: MoldSet, settings: SetupSettings, own: MoldSettings, waterline: float) -> tuple[Standing, ...]:
    """Every mold in order of the marks; lengths in mm."""
    by_name = {m.name: m for m in molds.molds}
    on_beam = settings.strongback is Strongback.BEAM
    on_rails = settings.strongback is Strongback.RAILS
    found = []
    for mark in setup.marks:
        half = float(by_name[mark.mold].edge.sheer[0])
        spall = None if own.spall_above is None else setup.above(waterline + own.spall_above)
        found.append(
            Standing(
                mark.mold,
                leg=None if on_beam or setup.upright else setup.above(by_name[mark.mold].top),
                reach=rail_overhang(2 * half, settings.rail_spread)[1] if on_rails else None,
                spall_above=spall,
                post=mark.keel_above if setup.upright and not on_beam else None,
                highest=floor_height(settings) + max(mark.keel_above, setup.above(by_name[mark.mold].top)),
            )
        )
    return tuple(found)


def floor_height(settings: SetupSettings) -> float:
    """Height of the strongback's upper face above the floor, mm."""
    return settings.top + settings.castors


def working_height(hull: Hull, setup: SetUp, settings: SetupSettings) -> float:
    """From the floor to the highest point of hull, stem or keel, mm."""
    heights = [float(e.points[:, 2].max()) for e in (hull.lines.bow, hull.lines.stern)]
    heights += [float(e.points[:, 2].min()) for e in (hull.lines.bow, hull.lines.stern)]
    heights += [float(z) for s in hull.lines.sections for z in s.points[[0, -1], 2]]
    return floor_height(settings) + max(setup.above(z) for z in heights)


@dataclass(frozen=True)
class Timber:
    """A line of the cut list: what it is, how many, how long (mm), and its section in words (lengths marked)."""

    what: str
    count: int
    length: float
    section: str = ""


def cut_list(setup: SetUp, settings: SetupSettings, spalls: Sequence[tuple[str, float]] = ()) -> tuple[Timber, ...]:
    """Timber or tube for the strongback, its spacers and the cross `spalls` (mold and length, mm), every one with its section; the
    molds' own legs and feet are cut with the molds."""
    kinds = {Strongback.BEAM: _beam_timber, Strongback.TABLE: _table_timber, Strongback.RAILS: _rail_timber}
    found = kinds[settings.strongback](setup, settings)
    if setup.upright and settings.strongback is not Strongback.BEAM:
        found = [t for t in found if "bracket" not in t.what]
        section = _timber_section(settings)
        found += [Timber(f"post under the keel at mold {m.mold}", 1, m.keel_above, section) for m in setup.marks]
    found += [Timber(f"cross spall of mold {name}", 1, long, _timber_section(settings)) for name, long in spalls]
    if settings.castors:
        found.append(Timber("castor with a brake, and chocks for while it is measured", 4, 0.0))
    return tuple(found)


def spall_lengths(molds: tuple[Mold, ...], settings: MoldSettings, waterline: float) -> tuple[tuple[str, float], ...]:
    """The molds that get a cross spall, and how long it is from edge to edge, mm."""
    if settings.spall_above is None:
        return ()
    level = waterline + settings.spall_above
    found = ((m.name, height_crossing(m.edge.points, level)) for m in molds)
    return tuple((name, 2 * float(at[0])) for name, at in found if at is not None)


def _timber_section(settings: SetupSettings) -> str:
    return f"{mm(settings.timber_width)} by {mm(settings.timber_height)}"


def strongback_length(setup: SetUp, settings: SetupSettings) -> float:
    """How long the strongback is, or is to be, mm."""
    return settings.length or setup.beam_length + 2 * OVERHANG_MM


def middle_gap(setup: SetUp) -> int | None:
    """The mark before the gap that the wedge pair goes into: where the faces turn over, or the middle one; None without gaps."""
    marks = setup.marks
    if len(marks) < 2:
        return None
    turns = [k for k, (a, b) in enumerate(pairwise(marks)) if a.face is not b.face]
    return turns[0] if turns else (len(marks) - 1) // 2


def _beam_timber(setup: SetUp, settings: SetupSettings) -> list[Timber]:
    section = f"{mm(settings.beam_width)} by {mm(settings.beam_height)}"
    if settings.beam_wall:
        section += f", wall {mm(settings.beam_wall)}"
    found = [Timber("beam", 1, strongback_length(setup, settings), section)]
    at = middle_gap(setup)
    if at is None:
        return found
    marks = setup.marks
    if settings.wedges:
        found.append(
            Timber(
                f"pair of folding wedges between molds {marks[at].mold} and {marks[at + 1].mold}",
                1,
                0.0,
                f"{mm(settings.wedges)} thick together",
            )
        )
    section = f"wide and high as the beam, {section}" if not settings.beam_wall else _timber_section(settings)
    for spacer in spacers(setup):
        beside = settings.wedges > 0 and marks[at].mold in spacer.after
        if spacer.count > beside:
            found.append(Timber("spacer", spacer.count - beside, spacer.length, section))
        if beside:
            found.append(Timber("spacer beside the wedges", 1, max(spacer.length - settings.wedges, 0.0), section))
    return found


def _table_timber(setup: SetUp, settings: SetupSettings) -> list[Timber]:
    molds, section = len(setup.marks), _timber_section(settings)
    return [
        Timber("side of the table or ladder", 2, strongback_length(setup, settings), section),
        Timber("rung, one under each mold", molds, settings.width or settings.leg_spread, section),
        Timber("bracket, one to each leg, its face on the mark", 2 * molds, settings.bracket, section),
    ]


def _rail_timber(setup: SetUp, settings: SetupSettings) -> list[Timber]:
    return [
        Timber("rail", 2, strongback_length(setup, settings), _timber_section(settings)),
        Timber("tie between the rails, at the ends and the middle", 3, settings.rail_spread, _timber_section(settings)),
    ]


@dataclass(frozen=True)
class Schedule:
    """How every mold stands, the spacers between them, all timber to cut, the cross spalls by mold and length; what comes too near
    or is too small."""

    standings: tuple[Standing, ...]
    spacers: tuple[Spacer, ...]
    timber: tuple[Timber, ...]
    spalls: tuple[tuple[str, float], ...]
    findings: tuple[Finding, ...]


def schedule(hull: Hull, molds: MoldSet, setup: SetUp, job: Job, waterline: float) -> Schedule:
    """All of it, mm, for a set-up as the job has it."""
    spalls = spall_lengths(molds.molds, job.molds, waterline)
    return Schedule(
        standings(setup, molds, job.setup, job.molds, waterline),
        spacers(setup),
        cut_list(setup, job.setup, spalls),
        spalls,
        clearances(hull, molds.molds, setup, job.setup),
    )


def clearances(hull: Hull, molds: tuple[Mold, ...], setup: SetUp, settings: SetupSettings) -> tuple[Finding, ...]:
    """What comes too near a table or rails, a strongback that is too short or narrow, and work that is too high."""
    found = _too_small(setup, settings)
    high = working_height(hull, setup, settings) if molds else 0.0
    if high > REACH_MM:
        text = (
            f"The highest point stands {mm(round(high))} above the floor: work there from a firm step, or set the strongback lower."
        )
        found.append(Finding("high", Weight.INFORMATION, "setup", "the working height", text))
    if settings.strongback is Strongback.BEAM:
        return tuple(found)
    side = -1.0 if setup.upright else 1.0
    for where, nearest in reaches(hull, molds, setup.upright):
        room = side * setup.beam_level - nearest
        if room < LEAST_CLEAR_MM:
            text = (
                f"Only {mm(round(max(room, 0.0)))} is left between this and the strongback: raise the hull, so that hands and "
                "clamps get in."
                if room >= 0
                else f"This reaches {mm(round(-room))} into the strongback: raise the hull."
            )
            weight = Weight.LOOK if room >= 0 else Weight.STOP
            found.append(Finding("no-clearance", weight, "setup", where, text))
    return tuple(found)


def _too_small(setup: SetUp, settings: SetupSettings) -> list[Finding]:
    """A strongback that does not reach the last mold, is narrower than its legs' spread, or legs shorter than brackets."""
    found: list[Finding] = []

    def stop(code: str, where: str, text: str) -> None:
        found.append(Finding(code, Weight.STOP, "setup", where, text))

    if not setup.marks:
        return found
    if settings.length is not None and setup.beam_length > settings.length:
        last = setup.marks[-1]
        text = (
            f"It is {mm(settings.length)} long, but mold {last.mold} reaches to {mm(setup.beam_length)} from zero: "
            "use a longer one, move the zero, or set that mold nearer."
        )
        stop("too-short", "the strongback", text)
    table = settings.strongback is Strongback.TABLE and not setup.upright
    if table and settings.width is not None and settings.leg_spread > settings.width:
        text = (
            f"The table is {mm(settings.width)} wide, the legs spread to {mm(settings.leg_spread)}: "
            "bring the legs nearer together or widen the table."
        )
        stop("too-narrow", "the strongback", text)
    if table:
        short = [m.mold for m in setup.marks if 0 < m.sheer_above < settings.bracket]
        if short:
            text = (
                f"Brackets {mm(settings.bracket)} high reach past the sheer of mold {', '.join(short)}: make them lower, or raise "
                "the hull."
            )
            found.append(Finding("bracket-high", Weight.LOOK, "setup", "brackets", text))
    if settings.strongback is Strongback.BEAM and 2 * settings.beam_wall >= min(settings.beam_width, settings.beam_height):
        text = f"A wall of {mm(settings.beam_wall)} leaves no room inside this beam: 0 means solid."
        found.append(Finding("wall", Weight.LOOK, "setup", "the beam", text))
    at = middle_gap(setup)
    gap = setup.marks[at].gap_to_next if at is not None else None
    if settings.strongback is Strongback.BEAM and gap is not None and 0 <= gap < settings.wedges:
        assert at is not None
        text = f"The wedges ({mm(settings.wedges)}) do not go into the gap of {mm(gap)} after mold {setup.marks[at].mold}."
        found.append(Finding("wedges", Weight.LOOK, "setup", "the wedges", text))
    return found
