"""A mesh into a table of offsets: cut at stations, its ends found, what is short left out and named, the hull compared with it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ...core.errors import InputError
from ...core.findings import mm
from ...core.geometry.arrays import Array, frozen
from ...core.geometry.polyline import feet
from ...core.hull.build import build_hull
from ...core.hull.restation import section_at
from ...core.offsets.compared import NEAR_MM, Compared
from ...core.offsets.from_curves import EndCurve, StationCurve, Taken, table_from_curves
from ...core.offsets.table import OffsetsTable, read_lines
from .cut import MeshCutter
from .hull import MeshHull, Placing, upright
from .smooth import RoughCutter

ROUGH_MM = 0.8
"""Points that scatter by more (standard deviation) are smoothed."""
SMOOTH_OVER = 0.4
"""A rough mesh is smoothed over no less than such a share of the spacing to either side of a station."""
SHORT = 0.03
"""A station whose keel or sheer lies off its neighbours' by more than this share of the hull's depth does not reach it."""
UNTOLD = 4.0
"""A station that may be out by so many times what the usual one may is not taken."""
NEAR_END = 0.02
"""No station is cut nearer to an end than this share of the length."""
ON_STEM = 0.2
"""A section that begins within this share of the half-beam of the centreline may begin on a stem."""


def offsets_from_mesh(hull: MeshHull, placing: Placing, spacing: float) -> Taken:
    """Cut the hull every `spacing` mm, the ends too. Raises InputError where it cannot be cut."""
    points, remarks = upright(hull, placing)
    long = float(np.ptp(points[:, 0]))
    if not long / 100 < spacing < long / 4:
        raise InputError(
            "this spacing does not suit the mesh",
            value=mm(spacing),
            mend=f"It is {mm(round(long))} long: is the unit right? Give a spacing that leaves four stations or more.",
        )
    if not hull.closed:
        remarks.append("The mesh is not closed; it was cut as it is.")
    plain = MeshCutter(points, hull.faces)
    scatter = plain.roughness()
    if scatter > ROUGH_MM:
        cutter, ends = _rough(points, hull, scatter, spacing)
        plain = MeshCutter(cutter.points, hull.faces)
        stations = _told(_stations(cutter, ends, spacing, remarks), cutter, remarks)
        stations = that_reach(stations, remarks, cutter.usual_doubt)
    else:
        ends = plain.ends()
        stations = that_reach(_stations(plain, ends, spacing, remarks), remarks)
    if len(ends) < 2:
        remarks.append("An end of the hull could not be made out; it is left open, or type it in.")
    taken = table_from_curves([replace(s, deck=plain.deck(s.x)) for s in stations], ends)
    own = [s.x for s in stations]
    between = [(a + b) / 2 for a, b in zip(own[:-1], own[1:], strict=True)]
    curves = {x: curve for x in between if (curve := plain.station(x)) is not None}
    compared = _compared(taken.table, curves)
    said = () if compared is None else (_said(compared),)
    return Taken(taken.table, (*remarks, *taken.remarks, *said), compared)


def _rough(points: Array, hull: MeshHull, scatter: float, spacing: float) -> tuple[RoughCutter, list[EndCurve]]:
    """A cutter of a rough mesh, and its ends. Its foremost point scatters: positions are counted from the stem found."""
    cutter = RoughCutter(points, hull.faces, scatter, SMOOTH_OVER * spacing)
    ends = cutter.ends()
    zero = min((float(end.points[:, 0].min()) for end in ends), default=0.0)
    if zero > cutter.middle:
        return cutter, ends  # the bow could not be made out
    moved = [replace(end, points=end.points - [zero, 0.0, 0.0]) for end in ends]
    return RoughCutter(points - [zero, 0.0, 0.0], hull.faces, scatter, SMOOTH_OVER * spacing), moved


def _between(ends: list[EndCurve], cutter: MeshCutter) -> tuple[float, float]:
    """Where the after side of the bow and the fore side of the stern lie."""
    low, high = cutter.reach
    reach = [(float(end.points[:, 0].min()), float(end.points[:, 0].max())) for end in ends]
    return (
        max((last for first, last in reach if first < cutter.middle), default=low),
        min((first for first, last in reach if last > cutter.middle), default=high),
    )


def _stations(cutter: MeshCutter, ends: list[EndCurve], spacing: float, remarks: list[str]) -> list[StationCurve]:
    """Stations at round positions."""
    low, high = cutter.reach
    at_bow, at_stern = _between(ends, cutter)
    cutter.full = _between([end for end in ends if end.label == "transom"], cutter)
    if isinstance(cutter, RoughCutter):
        remarks.append(
            f"The mesh is rough: its points scatter by about {mm(round(cutter.scatter, 1))}. Stations are smoothed over "
            f"{mm(round(cutter.over))} to either side."
        )
    first, last = low + NEAR_END * (high - low), high - NEAR_END * (high - low)
    stations = []
    for x in np.arange(np.ceil(first / spacing), np.floor(last / spacing) + 1) * spacing:
        curve = cutter.station(float(x))
        if curve is None:
            remarks.append(f"The cut at {x:g} gave no line from keel to sheer and was left out.")
        elif at_bow <= x <= at_stern or float(curve[0, 0]) < ON_STEM * cutter.half_beam:
            stations.append(StationCurve(float(x), curve))
    return stations


def _told(stations: list[StationCurve], cutter: RoughCutter, remarks: list[str]) -> list[StationCurve]:
    """Stations of a rough mesh without those that are told far worse than the others; how far the rest may be out is said."""
    usual, doubts = cutter.usual_doubt, cutter.doubts
    told = [s for s in stations if doubts[s.x] <= UNTOLD * usual]
    for station in stations:
        if station not in told:
            remarks.append(f"The mesh is too rough at {station.x:g}: no station is taken there.")
    if told:
        worst = max((s.x for s in told), key=lambda x: doubts[x])
        asked = " Is that near enough? Fair these lines, or scan it finer." if doubts[worst] > NEAR_MM else ""
        remarks.append(
            f"What is left of its scatter may put keel and sheer out by {mm(round(usual, 1))}, "
            f"by {mm(round(doubts[worst], 1))} at {worst:g}.{asked}"
        )
    return told


def _compared(table: OffsetsTable, curves: Mapping[float, Array]) -> Compared | None:
    """How far the hull that the table draws lies from the mesh where it was not cut: half-way between the stations."""
    try:
        hull = build_hull(read_lines(table))
    except InputError:
        return None
    gaps, points = [], []
    for x, curve in curves.items():
        parts = [part for k in range(len(hull.panels)) if (part := section_at(hull, k, x)) is not None]
        if parts:
            line = np.concatenate(parts)[:, 1:]
            _, _, foot = feet(curve, line)
            gaps.append(np.linalg.norm(foot - curve, axis=1))
            points.append(np.column_stack([np.full(len(curve), x), curve]))
    return Compared(frozen(np.concatenate(points)), frozen(np.concatenate(gaps))) if gaps else None


def _said(compared: Compared) -> str:
    far, (x, _, z) = compared.worst
    return (
        f"Compared with the mesh half-way between the stations: {mm(round(compared.middle, 1))} apart in the middle, "
        f"{mm(round(compared.most, 1))} or less for 95 of 100 points, farthest {mm(round(far, 1))} at position {mm(round(x))}, "
        f"height {mm(round(z))}."
    )


def that_reach(stations: list[StationCurve], remarks: list[str], doubt: float = 0.0) -> list[StationCurve]:
    """Without those that end short of keel or sheer at a hole; each of them is named. Ends may be out by `doubt` mm anyway."""
    left = sorted(stations, key=lambda s: s.x)
    short = SHORT * max((float(np.ptp(s.points[:, 1])) for s in left), default=0.0) + 3 * doubt
    while len(left) >= 5:
        lacks = [(_lack(left, k, which), which, k) for which in ("keel", "sheer") for k in range(1, len(left) - 1)]
        lack, which, k = max(lacks)
        if lack <= short:
            break
        remarks.append(f"The cut at {left[k].x:g} does not reach the {which}, at a hole of the mesh, and was left out.")
        del left[k]
    return left


def _lack(stations: list[StationCurve], k: int, which: str) -> float:
    """How far a station's keel or sheer lies within the line through its neighbours', two to each side, mm."""
    near, far = (k - 1, k + 1), [i for i in (k - 2, k - 1, k + 1, k + 2) if 0 <= i < len(stations)]
    own = _keel_or_sheer(stations[k], which)
    off = [own - _line_through(stations, others, which, stations[k].x) for others in (near, far)]
    return min(off) if which == "keel" else -max(off)  # a line that bends by itself is told by one of the two


def _line_through(stations: list[StationCurve], others: Sequence[int], which: str, x: float) -> float:
    """Height at x of the one smooth line through the keels or sheers of other stations."""
    at = np.array([stations[i].x for i in others])
    heights = [_keel_or_sheer(stations[i], which) for i in others]
    shares = [np.prod((x - np.delete(at, i)) / (at[i] - np.delete(at, i))) for i in range(len(at))]
    return float(np.dot(shares, heights))


def _keel_or_sheer(station: StationCurve, which: str) -> float:
    ends = station.points[[0, -1], 1]
    return float(ends.min() if which == "keel" else ends.max())
