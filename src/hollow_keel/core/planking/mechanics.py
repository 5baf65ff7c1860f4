"""How a strip behaves in the hand: what bending it over the molds, pushing it sideways and twisting it asks of the wood.

Formulas (any strength-of-materials handbook): outer strain in bending t/2 · κ; edge strain w/2 · κ_g; push sideways
between two molds a span L apart F = 6 E I κ_g / L, that of a simply supported beam bent to the curvature κ_g by a force
in its middle (its sag κ_g L² / 8 taken for F L³ / 48 E I), I = t w³ / 12; shear strain of a thin strip twisted at a rate
τ: t τ. The shear modulus is taken as a sixteenth of Young's (common practice for softwoods, no source). Where the grades
lie is common practice too, no source."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Protocol

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.polyline import runs_along
from ..geometry.surface_line import Felt
from ..job import StripSettings
from ..rules import BEYOND, BY_HAND, LONE_SPAN_MM, SHEAR_SHARE, WITH_CLAMPS, WITH_HEAT
from ..settings.strip_choices import StripLayout
from ..settings.woods import WOODS, Wood, wood_of
from .edges import EdgePiece, over_stretch
from .flat import gaps
from .strips import Planking, Strip, amid


class Handling(StrEnum):
    """What it takes to put a strip on."""

    HAND = "by hand"
    CLAMPS = "clamps"
    HEAT = "heat or split"
    NOT = "will not go"


GRADES = tuple(Handling)
HARD = (Handling.HEAT, Handling.NOT)
"""Strips that do not go on as they are, whoever pushes."""


class Followed(Protocol):
    """A line that wood is bent along: `points` (n, 3), how far along each lies (n,), mm, and edge-set, bend and twist there (n, 3),
    1/mm."""

    @property
    def points(self) -> Array:
        """Its places, (n, 3), mm."""

    @property
    def run(self) -> Array:
        """How far along each lies, (n,), mm."""

    @property
    def curvatures(self) -> Array:
        """Edge-set, bend and twist there, (n, 3), 1/mm."""


@dataclass(frozen=True)
class StripSection:
    """A strip's own width and thickness, its wood, the span between molds (mm), and the pushes (N) of hand and clamp."""

    width: float
    thickness: float
    wood: Wood
    span: float
    hand_push: float
    clamp_push: float


@dataclass(frozen=True)
class Behaviour:
    """The hardest place of a strip: its grade, where along the hull (mm), strains of faces and edges, push sideways (N),
    twist (rad/mm), the share of what breaks the wood, and what would mend it (empty where it goes by hand)."""

    grade: Handling
    place: float
    bend_strain: float
    edge_strain: float
    push: float
    twist: float
    share: float
    mend: str
    wood: str = ""


def section_of(strips: StripSettings, number: int, span: float) -> StripSection:
    """What strip `number` of a course is made of."""
    own = strips.at_place(number)
    wood = wood_of(own.wood, own.modulus, own.strength)
    return StripSection(own.width, own.thickness, wood, span, own.hand_push, own.clamp_push)


def behaviour(strip: Strip, section: StripSection) -> Behaviour:
    """How hard a strip is to lay at its hardest place, from end to end."""
    width = min(section.width, max(strip.width_max, 1.0)) if strip.width_max < section.width else section.width
    own = replace(section, width=width)
    return handled([(piece, _widths(strip, piece, width)) for piece in strip.far or strip.near], own)


def handled(pieces: Sequence[tuple[Followed, Array]], section: StripSection) -> Behaviour:
    """How hard what follows some lines is to lay at its hardest place: each line with its widths (n,), mm, along it; of all that
    lie on the same molds the section is one."""
    tables = [_demands(piece, widths, section) for piece, widths in pieces]
    rows = np.concatenate(tables) if tables else np.zeros((0, 6))
    if not len(rows):
        return Behaviour(Handling.HAND, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, "", section.wood.name)
    level = _levels(rows[:, 5], rows[:, 3], section)
    worst = int(np.lexsort((rows[:, 5] + rows[:, 3] / section.clamp_push, level))[-1])
    place, bend, edge, push, twist, share = rows[worst].tolist()
    grade = GRADES[int(level[worst])]
    return Behaviour(
        grade, place, bend, edge, push, twist, share, _mend(grade, rows[worst], section.width, section), section.wood.name
    )


@dataclass(frozen=True)
class _Sprung:
    points: Array
    run: Array
    curvatures: Array


def sprung(own: Felt, points: Array, section: StripSection) -> Behaviour:
    """How hard wood of one width is to spring along a line on the hull, felt as `own`; it lies along `points` (n, 3), mm. Ribbands,
    stringers and rails are sprung longer than they lie and cut: a twentieth at each end is left out."""
    run = runs_along(points)
    curvatures = over_stretch(run, np.column_stack([own.geodesic, own.bend, own.twist]))
    inner = amid(run)
    line = _Sprung(points[inner], run[inner], curvatures[inner])
    return handled([(line, np.full(len(line.run), section.width))], section)


def section_over(width: float, thickness: float, wood: str, stations: list[float], strips: StripSettings) -> StripSection:
    """What ribbands, stringers or rails are made of, mm, over molds at `stations`; pushed as strips are."""
    return StripSection(width, thickness, wood_of(wood, None, None), span_of(stations), strips.hand_push, strips.clamp_push)


def _demands(piece: Followed, widths: Array, section: StripSection) -> Array:
    """Rows of place, face strain, edge strain, push, twist and share of breaking along a piece, (n, 6)."""
    edge_set, bend, twist = np.abs(piece.curvatures).T
    width = widths
    wood = section.wood
    modulus = wood.modulus * 1000.0
    bend_strain, edge_strain = section.thickness / 2 * bend, width / 2 * edge_set
    moment = section.thickness * width**3 / 12
    push = 6 * modulus * moment * edge_set / section.span
    torn = _torn(section, twist)
    share: Array = np.maximum((bend_strain + edge_strain) / wood.breaks, torn)
    return np.column_stack([piece.points[:, 0], bend_strain, edge_strain, push, twist, share])


def _widths(strip: Strip, piece: EdgePiece, width: float) -> Array:
    """How wide the strip is along one of its edges, (n,): as milled, or as it is cut where it is shaped."""
    whole = np.full(len(piece.run), width)
    if not strip.shaped or not strip.far or not strip.near:
        return whole
    result: Array = np.minimum(whole, np.min([gaps(piece.points, p.points) for p in strip.near], axis=0))
    return result


def _torn(section: StripSection, twist: Array) -> Array:
    """The share of its shear strength that twisting takes."""
    result: Array = SHEAR_SHARE * section.wood.modulus * 1000.0 * section.thickness * twist / section.wood.shear
    return result


def _levels(share: Array, push: Array, section: StripSection) -> Array:
    """The number of the grade at each place."""
    by_share = np.searchsorted([BY_HAND, WITH_CLAMPS, WITH_HEAT], share)
    by_push = np.searchsorted([section.hand_push, section.clamp_push, BEYOND * section.clamp_push], push)
    result: Array = np.maximum(by_share, by_push)
    return result


def _mend(grade: Handling, row: Array, width: float, section: StripSection) -> str:
    """What would let it go on with clamps, or by hand."""
    _, bend, edge, push, twist, share = row.tolist()
    if grade is Handling.HAND:
        return ""
    push_to, share_to = (section.hand_push, BY_HAND) if grade is Handling.CLAMPS else (section.clamp_push, WITH_CLAMPS)
    word = "by hand" if grade is Handling.CLAMPS else "with clamps"
    breaks = section.wood.breaks
    said: list[str] = []
    torn = float(_torn(section, np.array(twist)))
    if torn > share_to and torn >= share:
        thin = mm(round(section.thickness * share_to / torn, 1))
        return f"it is the twist: {thin} thick it goes on {word}, or in two layers"
    if push > push_to or edge > bend:
        by_push = (push_to / push) ** (1 / 3) if push > push_to else 1.0
        by_strain = max(share_to * breaks - bend, 0.0) / edge if edge + bend > share_to * breaks else 1.0
        narrow = width * min(by_push, by_strain, 1.0)
        if section.thickness / 2 <= narrow < 0.98 * width:
            said.append(f"{mm(round(narrow, 1))} wide it goes on {word}")
        said.append("split into two half widths it needs an eighth of the push")
    if bend >= edge and bend > 0:
        thin = section.thickness * min(max(share_to * breaks - edge, 0.0) / bend, 1.0)
        if thin >= 1.5:
            said.append(f"{mm(round(thin, 1))} thick it goes on {word}")
        said.append("laminate it from two half thicknesses")
    return "; ".join(said)


def span_of(stations: list[float]) -> float:
    """How far apart molds at `stations` are, mm: the middle one of their spacings."""
    spacings = np.diff(sorted(stations))
    return float(np.median(spacings)) if len(spacings) else LONE_SPAN_MM


def behaviours(strips: StripSettings, planking: Planking, stations: list[float]) -> dict[int, Behaviour]:
    """How every strip behaves, by its number, over molds at `stations` (mm)."""
    span = span_of(stations)
    places = planking.places
    return {s.number: behaviour(s, section_of(strips, places[s.number], span)) for s in planking.strips}


def hard_strips(found: Mapping[int, Behaviour]) -> list[Finding]:
    """Which strips want heat, or will not go, and the mend of the worst."""
    said: list[Finding] = []
    for grade, many, one in (
        (Handling.NOT, "will not go on", "It will not go on"),
        (Handling.HEAT, "want heat, or splitting", "It wants heat, or splitting"),
    ):
        numbers = [n for n, b in found.items() if b.grade is grade]
        if numbers:
            worst = max(numbers, key=lambda n: (found[n].share, found[n].push))
            place = f"near position {mm(round(found[worst].place))}"
            text = (
                f"{len(numbers)} of them {many}; hardest is strip {worst} {place}"
                if len(numbers) > 1
                else f"{one}, hardest {place}"
            )
            mend = f": {found[worst].mend}" if found[worst].mend else ""
            said.append(Finding("hard", Weight.LOOK, "planking", named_strips(numbers), f"{text}{mend}."))
    return said


def handling_findings(strips: StripSettings, found: Mapping[int, Behaviour]) -> list[Finding]:
    """What wants looking at about how strips go on: hard ones, and woods whose values are not known."""
    return [*_unknown_woods(strips), *_unused_widths(strips), *_taller_than_wide(strips), *hard_strips(found)]


def _unused_widths(strips: StripSettings) -> list[Finding]:
    """Widths that were given for some strips where every strip's width follows from the girth."""
    if strips.layout is StripLayout.PARALLEL or all(zone.width is None for zone in strips.zones):
        return []
    wide = [f"{z.first} to {z.last}" if z.last > z.first else f"{z.first}" for z in strips.zones if z.width]
    text = (
        "A width was given for them, but the widths of tapered and mixed strips follow from the girth: it is not used. "
        "Lay parallel strips, or take the widths out."
    )
    return [Finding("zone-width", Weight.LOOK, "planking", f"strips {', '.join(wide)}", text)]


def _taller_than_wide(strips: StripSettings) -> list[Finding]:
    """Strips that are narrower than they are thick: they tip over on their edge rather than lie down to the molds."""
    given = [("all strips", strips.width, strips.thickness)]
    for first, last in strips.zone_runs:
        own = strips.at_place(first)
        given.append((f"strips {first} to {last}", own.width, own.thickness))
    return [
        Finding(
            "taller-than-wide",
            Weight.LOOK,
            "planking",
            where,
            f"They are {mm(wide)} wide and {mm(thick)} thick: taller than wide they tip over when they are glued and do not "
            "lie down to the molds. Make them at least as wide as they are thick, or thinner.",
        )
        for where, wide, thick in given
        if wide < thick
    ]


def _unknown_woods(strips: StripSettings) -> list[Finding]:
    given = strips.modulus is not None and strips.strength is not None
    names = ([] if given else [strips.wood]) + [z.wood for z in strips.zones if z.wood]
    unknown = list(dict.fromkeys(name for name in names if name not in WOODS))
    if not unknown:
        return []
    stand_in = next(iter(WOODS))
    text = (
        f"Stiffness and strength of this wood are not known here, and those of {stand_in} were taken: how its strips go on may be "
        "quite different. Give its own values among the strips' settings."
    )
    return [Finding("unknown-wood", Weight.LOOK, "planking", ", ".join(unknown), text)]


def named_strips(numbers: list[int]) -> str:
    """Strips by their numbers, in words."""
    return f"strip{'s' if len(numbers) > 1 else ''} {named_ranges(numbers)}"


def ranges(numbers: Iterable[int]) -> list[tuple[int, int]]:
    """Whole numbers, each once, as ranges (first, last) in order."""
    found: list[tuple[int, int]] = []
    for number in sorted(numbers):
        if found and number == found[-1][1] + 1:
            found[-1] = (found[-1][0], number)
        else:
            found.append((number, number))
    return found


def named_ranges(numbers: Iterable[int]) -> str:
    """Numbers in words such as 3–7, 9."""
    return ", ".join(f"{a}" if a == b else f"{a}–{b}" for a, b in ranges(numbers))
