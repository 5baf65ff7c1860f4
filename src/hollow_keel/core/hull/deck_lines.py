"""The lines of a deck: stations and ends from the sheer inward to the centreline, by the table of offsets or by a camber."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import InputError
from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..offsets.table import (
    DECK_LABELS,
    END_LABELS,
    TOUCHING_MM,
    End,
    EndKind,
    Lines,
    OffsetRow,
    OffsetsTable,
    Section,
    is_at_bow,
    place,
)
from ..settings.deck import DeckSettings
from ..settings.deck_choices import Ridge
from ..words import counted, verb
from .camber import camber_line, crown_at

POINTS = 13
"""Points that a camber is drawn with: the cubic through them leaves the parabola by less than a thousandth of a millimetre."""
TIP_MM = 0.5
"""Half the breadth of a deck where it comes to a point: less than a saw's cut."""
ON_CENTRE_MM = 0.5
OFF_PART_MM, SMOOTH_MM = 15.0, 3.0
"""A deck whose rows come to the sheer farther above or below it is told of."""
LEAST_STATIONS = 2


@dataclass(frozen=True)
class DeckLines:
    """The drawn points of a deck, each station from the sheer to the centreline, and what was noticed."""

    lines: Lines
    findings: tuple[Finding, ...]


def _said(code: str, where: str, text: str, weight: Weight = Weight.LOOK) -> Finding:
    return Finding(code, weight, "deck", where, text)


# -- by a camber -----------------------------------------------------------------------------------------


def cambered(hull: Lines, deck: DeckSettings) -> DeckLines:
    """A deck by a camber over the sheer of the `hull` lines. Raises InputError where there is no beam to give a crown to, and
    for a deck that would stand higher over its sheer than it is wide."""
    on = deck.crown_on or 2 * max(float(points[-1, 1]) for points in hull.all_points)
    if on <= 0:
        text = "the deck has no beam: every half-breadth at the sheer is 0"
        raise InputError(text, "the sheer", "", "Mend the offsets at the sheer.")
    crowns = _Crowns(hull, deck, on)
    findings: list[Finding] = []
    sections = [Section(s.x, frozen(crowns.points(s.points[-1]))) for s in hull.sections]
    _refuse_towers(sections)
    ends = [replace(end, points=frozen(crowns.at_end(end)), knuckles=()) for end in (hull.bow, hull.stern)]
    hollow = [s.x for s in sections if s.points[-1, 2] < s.points[0, 2] - TOUCHING_MM]
    if hollow:
        text = (
            f"The centreline lies lower than the sheer there, by as much as "
            f"{mm(round(max(float(s.points[0, 2] - s.points[-1, 2]) for s in sections), 1))}: water stands on such a deck. "
            "Raise the ridge, or let it follow the crown."
        )
        findings.append(_said("deck-hollow", f"station {mm(hollow[0])}", text))
    return DeckLines(Lines(tuple(sections), *ends), tuple(findings))


def _refuse_towers(sections: Sequence[Section]) -> None:
    """A crown in another unit than its beam makes a deck of a hundred metres, and molds and patterns to it."""
    beam = 2 * max(float(s.points[0, 1]) for s in sections)
    rise = max(abs(float(s.points[-1, 2] - s.points[0, 2])) for s in sections)
    if rise > beam > 0:
        raise InputError(
            f"the deck would stand {mm(round(rise))} over a sheer that is {mm(round(beam))} wide",
            "the crown",
            "",
            "Mend the crown, the beam that it is given for, or the height of the ridge.",
        )


class _Crowns:
    """The crown at every place along a sheer."""

    def __init__(self, hull: Lines, deck: DeckSettings, on: float) -> None:
        self._deck, self._on = deck, on
        bow, stern = hull.bow.points[-1], hull.stern.points[-1]
        self._ends = float(bow[0]), float(stern[0])
        self._ridge = self._ridge_line(bow, stern)

    def _ridge_line(self, bow: Array, stern: Array) -> Array | None:
        """Coefficients of the ridge's height over the position; None where it comes as the crown gives it."""
        if self._deck.ridge is Ridge.CROWN:
            return None
        at = [float(bow[0]), float(stern[0])]
        height = [float(p[2]) + self._own(float(p[1])) for p in (bow, stern)]
        if self._deck.ridge is Ridge.SWEPT and self._deck.ridge_height is not None:
            at.insert(1, sum(at) / 2)
            height.insert(1, self._deck.ridge_height)
        return np.polyfit(at, height, len(at) - 1)

    def _own(self, half: float) -> float:
        return crown_at(2 * half, self._deck.crown, self._on, self._deck.rule)

    def points(self, sheer: Array) -> Array:
        """The deck over a point (x, y, z) of the sheer, (POINTS, 3) mm, from there to the centreline."""
        x, half, height = sheer.tolist()
        crown = self._own(half) if self._ridge is None else float(np.polyval(self._ridge, x)) - height
        line = camber_line(max(half, TIP_MM), crown, self._sharp(x), POINTS)
        return np.column_stack([np.full(POINTS, x), line[:, 0], height + line[:, 1]])

    def at_end(self, end: End) -> Array:
        """The deck's edge at an end: along the plane of a raked transom, straight across a stem."""
        points = self.points(end.points[-1])
        if end.kind is EndKind.TRANSOM:
            points[:, 0] += _rake(end) * (points[:, 2] - points[0, 2])
        return points

    def _sharp(self, x: float) -> float:
        """How far the camber has sharpened to a ridge, 0 to 1."""
        found = 0.0
        for end, length in zip(self._ends, (self._deck.peak_bow, self._deck.peak_stern), strict=True):
            if length > 0:
                found = max(found, 1.0 - abs(x - end) / length)
        return min(found, 1.0)


def _rake(end: End) -> float:
    """How far a transom goes aft for every mm that it rises."""
    z = end.points[:, 2]
    return float(np.polyfit(z, end.points[:, 0], 1)[0]) if np.ptp(z) > 1.0 else 0.0


# -- by the table ----------------------------------------------------------------------------------------


def tabled(table: OffsetsTable, hull: Lines) -> DeckLines:
    """A deck by the rows of a table past the sheer; what of them cannot be read is said and left out.

    Raises InputError where too few stations have a deck.
    """
    findings: list[Finding] = []
    rows = _rows_by_place(table, hull, findings)
    stations = {s.x: s.points[-1] for s in hull.stations}
    found: dict[float, tuple[Array, tuple[int, ...]]] = {}
    for x, sheer in stations.items():
        drawn = _drawn(sheer, rows.get(x, []), f"station {mm(x)}", findings)
        if drawn is not None:
            found[x] = drawn
    if len(found) < LEAST_STATIONS:
        raise InputError(
            "a deck needs two stations or more whose rows go on to the centreline",
            "the deck",
            f"{len(found)} given",
            "Add rows labelled deck, and deck_centre for the last one, or give the deck by a camber.",
        )
    bare = [x for x in stations if x not in rows]
    if bare:
        has = verb(len(found), "has", "have")
        text = f"No offsets past the sheer: the deck is drawn through the {counted(len(found), 'station')} that {has} them."
        where = f"station{'s' if len(bare) > 1 else ''} {', '.join(mm(x) for x in bare[:6])}{' …' if len(bare) > 6 else ''}"
        findings.append(_said("deck-partly", where, text))
    found = _of_one_kind(found, findings)
    knuckles = len(next(iter(found.values()))[1])
    ends = [
        _end(end, rows.get(name, []), found, knuckles, name, findings) for name, end in (("bow", hull.bow), ("stern", hull.stern))
    ]
    sections = [Section(s.x, *found[s.x]) for s in hull.sections if s.x in found]
    return DeckLines(Lines(tuple(sections), *ends), tuple(findings))


def _rows_by_place(table: OffsetsTable, hull: Lines, findings: list[Finding]) -> dict[float | str, list[OffsetRow]]:
    """The rows past the sheer by the station or the end ("bow", "stern") that they go on from."""
    middle = float(hull.bow.points[:, 0].mean() + hull.stern.points[:, 0].mean()) / 2
    stations = {s.x for s in hull.stations}
    found: dict[float | str, list[OffsetRow]] = {}
    after = ""
    for k, row in enumerate(table.rows):
        if row.label not in DECK_LABELS:
            after = ("bow" if is_at_bow(row, middle) else "stern") if row.label in END_LABELS else ""
        elif after:
            found.setdefault(after, []).append(row)
        elif row.station in stations:
            found.setdefault(row.station, []).append(row)
        else:
            text = "There is no station at this position for the deck to go on from: the row is left out."
            findings.append(_said("deck-stray", place(k, row), text))
    return found


def _drawn(sheer: Array, rows: list[OffsetRow], where: str, findings: list[Finding]) -> tuple[Array, tuple[int, ...]] | None:
    """The points (n, 3) of one station's deck from its sheer, and its knuckles; None where there is none that can be drawn."""
    if not rows:
        return None
    points = [sheer]
    knuckles = []
    for row in rows:
        point = np.array([row.station, row.half_breadth, row.height])
        if np.linalg.norm(point - points[-1]) < TOUCHING_MM:
            continue
        if row.label == "deck_chine":
            knuckles.append(len(points))
        points.append(point)
    last = rows[-1]
    if last.half_breadth > ON_CENTRE_MM:
        text = (
            f"The deck stops {mm(last.half_breadth)} short of the centreline: its last row must be labelled deck_centre, with "
            "half-breadth 0. This station's deck is left out."
        )
        findings.append(_said("deck-short", where, text))
        return None
    wide = max(row.half_breadth for row in rows)
    if wide > float(sheer[1]) + ON_CENTRE_MM:
        text = (
            f"The deck stands {mm(round(wide - float(sheer[1]), 1))} outside the sheer at the part line: look at its first rows, "
            "or at the half-breadth of the sheer."
        )
        findings.append(_said("deck-outside", where, text))
    array = np.array(points)
    array[-1, 1] = 0.0
    if len(array) < 2:
        return None
    off = _off_part_line(array, knuckles)
    if abs(off) > OFF_PART_MM:
        text = (
            f"The deck's own rows come to the part line {mm(round(abs(off), 1))} {'above' if off > 0 else 'below'} the sheer: look "
            "at its first rows, or at the height of the sheer. It is drawn through the sheer all the same."
        )
        findings.append(_said("deck-off-sheer", where, text))
    return frozen(array), tuple(k for k in knuckles if k < len(array) - 1)


def _off_part_line(points: Array, knuckles: list[int]) -> float:
    """How far above the sheer the parabola through a deck's first three rows comes to the sheer's half-breadth, mm; 0 where they do
    not tell."""
    own = points[1:4]
    if len(own) < 3 or any(k < 4 for k in knuckles) or np.any(np.diff(own[:, 1]) >= -ON_CENTRE_MM):
        return 0.0
    bend = np.polyfit(own[:, 1], own[:, 2], 2)
    following = points[4:5]
    if np.any(np.abs(np.polyval(bend, following[:, 1]) - following[:, 2]) > SMOOTH_MM):
        return 0.0  # its edge is rolled: nothing is told of where it comes to
    return float(np.polyval(bend, points[0, 1]) - points[0, 2])


def _of_one_kind(
    found: dict[float, tuple[Array, tuple[int, ...]]], findings: list[Finding]
) -> dict[float, tuple[Array, tuple[int, ...]]]:
    """The stations with as many knuckles each; where they differ, with none."""
    counts = {len(knuckles) for _, knuckles in found.values()}
    if len(counts) < 2:
        return found
    text = "Some stations of the deck show a knuckle (deck_chine) and some do not: it is drawn without. Label it at every station."
    findings.append(_said("deck-knuckle", "the deck", text))
    return {x: (points, ()) for x, (points, _) in found.items()}


def _end(
    end: End,
    rows: list[OffsetRow],
    found: dict[float, tuple[Array, tuple[int, ...]]],
    knuckles: int,
    name: str,
    findings: list[Finding],
) -> End:
    """The deck's edge at an end: its own rows, those of the station that closes an open one, or what the nearest station gives."""
    head = end.points[-1]
    if end.kind is EndKind.OPEN and float(head[0]) in found:
        return End(end.kind, *found[float(head[0])])
    own = _drawn(head, rows, name, findings)
    if own is not None and len(own[1]) == knuckles:
        points = own[0].copy()
        points[0, 1] = max(points[0, 1], TIP_MM)
        return End(end.kind, frozen(points), own[1])
    nearest = min(found, key=lambda x: abs(x - float(head[0])))
    points, cuts = found[nearest]
    scale = max(float(head[1]), TIP_MM) / max(float(points[0, 1]), TIP_MM)
    over = (points - points[0]) * [0.0, 0.0, scale]
    drawn = np.column_stack([np.full(len(points), head[0]), points[:, 1] * scale, head[2] + over[:, 2]])
    drawn[0] = head[0], max(float(head[1]), TIP_MM), head[2]
    if end.kind is not EndKind.STEM:
        drawn[:, 0] += _rake(end) * over[:, 2]
        text = f"No offsets of the deck there: it is given the camber of station {mm(nearest)}, in proportion to its beam."
        findings.append(_said("deck-end", name, text, Weight.INFORMATION))
    return End(end.kind, frozen(drawn), cuts)
