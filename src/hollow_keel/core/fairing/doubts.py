"""Offsets that stand out from what all their neighbours say, worst first, with the value that would be fair."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..errors import InputError
from ..geometry.arrays import Array
from ..hull.build import Hull, build_hull
from ..offsets.table import OffsetRow, OffsetsTable, read_lines
from .fair_lines import keel_rows
from .field import Scales, best_scales, leave_one_out
from .gross import Gross, gross_slips
from .skin_points import SkinPoints, skin_points, station_rows
from .slips import is_imperial, likely_slip

LEAST_MM = 2.0
"""A builder would not see less in the finished skin."""
LEAST_SPREADS = 2.45
"""An offset is doubted if it misses by so many standard deviations of its own prediction. Clean tables rounded
to 1 mm, of seven hulls, stayed below 2.4 wherever they missed by LEAST_MM."""
LEAST_KEEL = 7
"""Fewest points of a keel that say anything of one another."""
KEEL_AGREES = 1.6
"""Spreads by which a keel row must miss along the keel as well; a wrong height blurs a line of so few points."""
MOST_DOUBTS = 16
SLIP_COUNTS = 0.6
GROSS_SPREAD = 3.0
"""How well a gross slip's fair value is known from its own station, mm."""
STEEP = 0.25
"""Least share of the outward direction in which an offset can be said to move the skin."""

Tick = Callable[[], None]
BuildHull = Callable[[OffsetsTable], Hull]


def _never() -> None:
    """Never cancels."""


@dataclass(frozen=True)
class Doubt:
    """One offset that stands out. Lengths mm.

    `row` its number in the table; `fair` the row with the one value changed that would be fair;
    `which` that value, "half_breadth" or "height"; `skin` how far the skin there is out of the fair one as
    written, outward positive; `spread` how uncertain that is; `score` how far it stands out of the table
    (the more the surer); `slip` the likely slip, or an empty text.
    """

    row: int
    written: OffsetRow
    fair: OffsetRow
    which: str
    skin: float
    spread: float
    score: float
    slip: str

    @property
    def off(self) -> float:
        """What the written value has too much, mm."""
        return float(getattr(self.written, self.which) - getattr(self.fair, self.which))


@dataclass(frozen=True)
class Miss:
    """How far one row lies outside the skin that all others make: outward positive, mm; its spread; the normal."""

    skin: float
    spread: float
    normal: Array

    @property
    def spreads(self) -> float:
        """The miss in standard deviations of its prediction, a bare number, >= 0."""
        return abs(self.skin) / max(self.spread, 1e-9)


def find_doubts(table: OffsetsTable, hull: Hull, build: BuildHull | None = None, tick: Tick = _never) -> tuple[Doubt, ...]:
    """The offsets of a table that stand out, in order of doubt.

    One at a time: the worst is set aside and the rest judged again without it, since a wrong offset makes
    its neighbours look wrong too. `hull` is the one built from the table, `build` builds another.
    `tick` is called often and may raise to cancel.
    """
    build = build or (lambda t: build_hull(read_lines(t)))
    imperial = is_imperial(table)
    doubted = {g.row: _gross_doubt(table, g, imperial) for g in gross_slips(table)}
    tick()
    mended = table
    for row, doubt in doubted.items():
        mended = mended.with_row(row, doubt.fair)
    gross = set(doubted)
    try:
        hull = build(mended) if gross else hull
    except InputError:
        return tuple(doubted.values())
    scales: tuple[Scales, ...] | None = None
    while len(doubted) < MOST_DOUBTS:
        panels = skin_points(mended, hull)
        tick()
        if scales is None:
            scales = tuple(_scales(p, gross, None, tick) for p in panels)
        elif len(doubted) == len(gross) + 1:  # once more without the worst: it had blurred everything
            scales = _scales_near(panels, set(doubted), scales, tick)
        tick()
        misses = _judged_with_keel(mended, panels, scales, set(doubted))
        worst = _worst(misses)
        if worst is None:
            break
        row, score = worst
        doubt = _doubt(table, row, misses[row], score, imperial)
        doubted[row] = doubt
        mended = mended.with_row(row, doubt.fair)
        try:
            hull = build(mended)
        except InputError:
            return tuple(doubted.values())
    if not doubted or scales is None:
        return ()
    fine = _confirmed(table, mended, hull, {k: d for k, d in doubted.items() if k not in gross}, gross, scales, imperial, tick)
    coarse = _gross_confirmed(table, mended, hull, {k: doubted[k] for k in gross}, set(doubted), scales)
    return tuple(sorted((*coarse, *fine), key=lambda d: -d.score))


def _confirmed(
    table: OffsetsTable,
    mended: OffsetsTable,
    hull: Hull,
    doubted: dict[int, Doubt],
    aside: set[int],
    scales: tuple[Scales, ...],
    imperial: bool,
    tick: Callable[[], None],
) -> tuple[Doubt, ...]:
    """Judge every doubt once more against the offsets nobody doubts (those in `aside` are doubted anyway); the ones
    that agree with them were only led astray by a neighbour."""
    panels = skin_points(mended, hull)
    scales = _scales_near(panels, set(doubted) | aside, scales, tick)
    left = dict(doubted)
    for row in sorted(doubted, key=lambda r: doubted[r].score):
        tick()
        written = tuple(_as_written(p, table, row) for p in panels)
        misses = _judged_with_keel(mended.with_row(row, table.rows[row]), written, scales, (set(left) | aside) - {row})
        score = _stands_out(misses[row])
        if score is None:
            del left[row]
        else:
            left[row] = _doubt(table, row, misses[row], score, imperial)
    return tuple(left.values())


def _gross_doubt(table: OffsetsTable, gross: Gross, imperial: bool) -> Doubt:
    """A gross slip as a doubt: of the two values that can be wrong, the one whose fair value is nearer to the same
    row's in the stations beside; a known slip counts for it, but many a number is one by chance."""
    written = table.rows[gross.row]
    options: list[tuple[float, Doubt]] = []
    for which, fair in (("half_breadth", gross.other_breadth), ("height", gross.other_height)):
        if fair is None:
            continue
        off = getattr(written, which) - getattr(fair, which)
        near = _neighbours(table, gross.row, which)
        slip = likely_slip(getattr(written, which), getattr(fair, which), GROSS_SPREAD, near, imperial=imperial)
        beside = [v for name, v in near.items() if name.startswith("the station")]
        away = abs(getattr(fair, which) - sum(beside) / len(beside)) if beside else abs(off)
        score = abs(off) / GROSS_SPREAD
        away *= SLIP_COUNTS if slip else 1.0
        options.append((away, Doubt(gross.row, written, fair, which, off, GROSS_SPREAD, score, slip)))
    if not options:
        return Doubt(gross.row, written, written, "height", 0.0, GROSS_SPREAD, 1.0, "")
    return min(options, key=lambda o: o[0])[1]


def _gross_confirmed(
    table: OffsetsTable, mended: OffsetsTable, hull: Hull, gross: dict[int, Doubt], doubted: set[int], scales: tuple[Scales, ...]
) -> list[Doubt]:
    """Gross slips with the fair value that the skin of all undoubted offsets gives them; none where the written one
    is fair after all."""
    if not gross:
        return []
    panels = skin_points(mended, hull)
    found: list[Doubt] = []
    for row, doubt in gross.items():
        miss = _judged_with_keel(mended, panels, scales, doubted - {row}).get(row)
        slope = 0.0 if miss is None else float(miss.normal[1 if doubt.which == "half_breadth" else 2])
        fair, spread = doubt.fair, doubt.spread
        if miss is not None and abs(slope) > STEEP:
            value = getattr(fair, doubt.which) - miss.skin / slope
            fair = fair.model_copy(update={doubt.which: max(value, 0.0) if doubt.which == "half_breadth" else value})
            spread = miss.spread
        off = getattr(doubt.written, doubt.which) - getattr(fair, doubt.which)
        if abs(off) > LEAST_MM:
            skin = off * (slope if abs(slope) > STEEP else 1.0)
            found.append(replace(doubt, fair=fair, skin=skin, spread=spread, score=abs(off) / GROSS_SPREAD))
    return found


def _as_written(points: SkinPoints, table: OffsetsTable, row: int) -> SkinPoints:
    """The points with one row's offsets as the table has them."""
    values = points.values.copy()
    for k, own in enumerate(points.rows):
        if own == row:
            values[k] = (table.rows[row].half_breadth, table.rows[row].height)
    return replace(points, values=values)


def judge(table: OffsetsTable, hull: Hull) -> dict[int, Miss]:
    """How far each station's row lies from the skin of all others, by row number."""
    panels = skin_points(table, hull)
    return _judged_with_keel(table, panels, tuple(_scales(p, set(), None, _never) for p in panels), set())


def _scales_near(panels: tuple[SkinPoints, ...], without: set[int], before: tuple[Scales, ...], tick: Tick) -> tuple[Scales, ...]:
    return tuple(_scales(p, without, old, tick) for p, old in zip(panels, before, strict=True))


def _scales(points: SkinPoints, without: set[int], near: Scales | None, tick: Tick) -> Scales:
    keep = _kept(points, without)
    return best_scales(points.at[keep], points.values[keep], near, tick)


def _kept(points: SkinPoints, without: set[int]) -> Array:
    return np.array([row not in without for row in points.rows])


def _judged(panels: tuple[SkinPoints, ...], scales: tuple[Scales, ...], without: set[int]) -> dict[int, Miss]:
    found: dict[int, Miss] = {}
    for points, own in zip(panels, scales, strict=True):
        keep = _kept(points, without)
        left_out = leave_one_out(points.at[keep], points.values[keep], own)
        normals = points.normals[keep]
        skin = (left_out.miss * normals[:, 1:]).sum(axis=1)
        spread = np.sqrt(((left_out.spread * normals[:, 1:]) ** 2).sum(axis=1))
        for k, place in enumerate(np.flatnonzero(keep)):
            if not points.judged[place]:
                continue
            miss = Miss(float(skin[k]), float(spread[k]), normals[k])
            row = points.rows[place]
            # a row on a knuckle is judged on both sides, and the surer side counts
            if row not in found or miss.spreads > found[row].spreads:
                found[row] = miss
    return found


def _judged_with_keel(
    table: OffsetsTable, panels: tuple[SkinPoints, ...], scales: tuple[Scales, ...], without: set[int]
) -> dict[int, Miss]:
    """As _judged; but a row on the keel stands out only if it does along the keel too.

    Where a keel turns up into a stem the skin has a corner, and what lies on one side of it says little of the other.
    """
    found = _judged(panels, scales, without)
    for row, along in _along_keel(table, without).items():
        if row in found and along.spreads < KEEL_AGREES:
            found[row] = along
    return found


def _along_keel(table: OffsetsTable, without: set[int]) -> dict[int, Miss]:
    """Misses of the keel's heights from the keel in profile, feet of the ends included; by row number."""
    rows = [r for r in keel_rows(table) if r not in without]
    if len(rows) < LEAST_KEEL:
        return {}
    x = np.array([table.rows[r].station for r in rows])
    at = np.column_stack([(x - x.min()) / np.ptp(x), np.zeros(len(rows))])
    values = np.array([[table.rows[r].height] for r in rows])
    left_out = leave_one_out(at, values, best_scales(at, values))
    down = np.array([0.0, 0.0, -1.0])
    return {
        row: Miss(-float(left_out.miss[k, 0]), max(float(left_out.spread[k, 0]), 1e-6), down)
        for k, row in enumerate(rows)
        if table.rows[row].label == "keel"
    }


def _worst(misses: dict[int, Miss]) -> tuple[int, float] | None:
    """The row that stands out most of those that stand out at all, and its score."""
    out = {row: score for row, m in misses.items() if (score := _stands_out(m)) is not None}
    if not out:
        return None
    row = max(out, key=lambda r: out[r])
    return row, out[row]


def _stands_out(miss: Miss) -> float | None:
    """How far a row stands out, 1 or more, or None if it does not."""
    if abs(miss.skin) < LEAST_MM or miss.spreads < LEAST_SPREADS:
        return None
    return miss.spreads / LEAST_SPREADS


def _doubt(table: OffsetsTable, row: int, miss: Miss, score: float, imperial: bool) -> Doubt:
    written = table.rows[row]
    options: list[tuple[int, float, Doubt]] = []
    for which, slope in (("half_breadth", miss.normal[1]), ("height", miss.normal[2])):
        if abs(slope) < STEEP or (which == "half_breadth" and written.label == "keel" and abs(miss.normal[2]) > STEEP):
            continue  # the keel's half-breadth is the half-siding: it is its height that is read wrong
        value = getattr(written, which) - miss.skin / float(slope)
        if which == "half_breadth" and value < 0:
            continue
        spread = miss.spread / abs(float(slope))
        slip = likely_slip(getattr(written, which), value, spread, _neighbours(table, row, which), imperial=imperial)
        fair = written.model_copy(update={which: value})
        options.append((bool(slip), abs(float(slope)), Doubt(row, written, fair, which, miss.skin, miss.spread, score, slip)))
    if not options:  # the skin hardly faces any way an offset can move it: give the point its fair place
        fair = written.model_copy(update={"height": written.height - miss.skin * float(np.sign(miss.normal[2]))})
        return Doubt(row, written, fair, "height", miss.skin, miss.spread, score, "")
    steep = max(o[1] for o in options)
    likely = [o for o in options if o[1] > 0.5 * steep]
    return max(likely, key=lambda o: (o[0], o[1]))[2]


def _neighbours(table: OffsetsTable, row: int, which: str) -> dict[str, float]:
    """Offsets that may have been copied by mistake: the rows above and below, the same row of the stations beside."""
    own = table.rows[row]
    found: dict[str, float] = {}
    here = station_rows(table, own.station)
    place = here.index(row)
    for step, name in ((-1, "the row above"), (1, "the row below")):
        if 0 <= place + step < len(here):
            found[name] = getattr(table.rows[here[place + step]], which)
    positions = sorted({r.station for r in table.rows if r.label == "keel"})
    k = positions.index(own.station)
    for step, name in ((-1, "the station before"), (1, "the station after")):
        if 0 <= k + step < len(positions):
            there = station_rows(table, positions[k + step])
            if len(there) == len(here):
                found[name] = getattr(table.rows[there[place]], which)
    other = "height" if which == "half_breadth" else "half_breadth"
    found["the height" if which == "half_breadth" else "the half-breadth"] = getattr(own, other)
    return found
