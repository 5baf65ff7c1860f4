"""What is cut for a set-up besides the molds, and the clear heights a builder looks at first."""

from __future__ import annotations

from dataclasses import dataclass

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import SetupSettings
from ..molds.stations import Mold
from .beam import SetUp
from .choices import Strongback

OVERHANG_MM = 150.0
"""A strongback is so much longer than its molds at each end (common practice)."""
LEAST_CLEAR_MM = 50.0
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
class Timber:
    """A line of the cut list: what it is, how many, how long (mm), and its section in words (lengths marked)."""

    what: str
    count: int
    length: float
    section: str = ""


def cut_list(setup: SetUp, settings: SetupSettings) -> tuple[Timber, ...]:
    """Timber or tube for the strongback and its spacers; the molds' own legs and feet are cut with the molds."""
    long = setup.beam_length + 2 * OVERHANG_MM
    molds = len(setup.marks)
    own: list[Timber]
    if settings.strongback is Strongback.BEAM:
        section = f"{mm(settings.beam_width)} by {mm(settings.beam_height)}"
        own = [Timber("beam", 1, long, section), Timber("pair of folding wedges, for the middle gap", 1, 0.0)]
        own += [Timber("spacer", s.count, s.length) for s in spacers(setup)]
    elif settings.strongback is Strongback.TABLE:
        own = [
            Timber("side of the table or ladder", 2, long),
            Timber("rung, one under each mold", molds, settings.leg_spread),
            Timber("bracket, one to each leg, its face on the mark", 2 * molds, settings.leg_width),
        ]
    else:
        own = [
            Timber("rail", 2, long),
            Timber("tie between the rails, at the ends and the middle", 3, settings.rail_spread),
        ]
    return tuple(own)


def clearances(
    hull: Hull, molds: tuple[Mold, ...], setup: SetUp, settings: SetupSettings
) -> tuple[Finding, ...]:
    """What comes too near a table or rails: sheers and the heads of stems and transoms."""
    if settings.strongback is Strongback.BEAM:
        return ()
    tops = [(f"mold {m.name}", float(m.edge.sheer[1])) for m in molds]
    for name, end in (("the bow", hull.lines.bow), ("the stern", hull.lines.stern)):
        points: Array = end.points
        tops.append((name, float(points[:, 2].max())))
    found: list[Finding] = []
    for where, top in tops:
        room = setup.beam_level - top
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
