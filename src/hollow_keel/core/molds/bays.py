"""The space between two molds: how far strips that are sprung over the molds stand off the drawn lines there.

A strip touches the molds and the ends of the hull; between them it goes its own way, that of least bending: the natural cubic
spline through the places where it is held. Where molds stand too far apart for the hull's own curve, that is not the drawn line,
and one mold more brings it back.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.polyline import runs_along
from ..hull.build import Hull, Panel
from ..offsets.table import EndKind
from ..rules import LANDING_MM

ACROSS = np.linspace(0.04, 0.96, 12)
"""The longitudinals of a panel that are looked at, shares of its girth."""
ALONG = 361
PER_BAY = 15
MUCH = 1.5
"""Up to so many times the limit it is not ideal, and no more than told."""
NEAR_MM = 3.0
"""A mold so near an end of a longitudinal holds the strip where the end does."""


@dataclass(frozen=True)
class Bay:
    """The space between two molds, or a mold and an end of the hull: their names, its ends along the hull, mm, how far a strip
    stands off the drawn lines at its worst place, mm (positive outward), and that place (x, y, z), mm."""

    before: str
    after: str
    start: float
    stop: float
    off: float
    at: tuple[float, float, float]

    @property
    def middle(self) -> float:
        """Where one mold more stands, mm along the hull."""
        return (self.start + self.stop) / 2


@dataclass(frozen=True)
class Bays:
    """All bays from the bow aft, and how far off the lines, mm, is too far."""

    bays: tuple[Bay, ...]
    limit: float

    @property
    def worst(self) -> Bay | None:
        """Where strips stand farthest off the lines; None where there is no bay."""
        return max(self.bays, key=lambda bay: abs(bay.off), default=None)


def bays(hull: Hull, molds: Sequence[tuple[str, float]]) -> tuple[Bay, ...]:
    """The bays of molds, named and placed (x, mm) from the bow aft, with the ends of the hull; a bay at an open end, where nothing
    holds the strip, is left out. Source of the strip's own way: the natural cubic spline bends least (any text on splines)."""
    worst: dict[int, Bay] = {}
    for panel in hull.panels:
        for v in ACROSS:
            for number, bay in _along(hull, panel, float(v), molds):
                if number not in worst or abs(bay.off) > abs(worst[number].off):
                    worst[number] = bay
    return tuple(worst[number] for number in sorted(worst))


def _along(hull: Hull, panel: Panel, v: float, molds: Sequence[tuple[str, float]]) -> Iterator[tuple[int, Bay]]:
    """The bays along one longitudinal, each numbered by the molds before it."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    u = np.linspace(0.0, 1.0, ALONG)
    line = panel.surface.points(u, np.full_like(u, v))
    if np.any(np.diff(line[:, 0]) <= 0):
        return
    bow, stern = line[0, 0], line[-1, 0]
    held = [(k + 1, name, x) for k, (name, x) in enumerate(molds) if bow + NEAR_MM < x < stern - NEAR_MM]
    places = [(held[0][0] - 1 if held else 0, "the bow", float(bow))] if hull.lines.bow.kind is not EndKind.OPEN else []
    places += held
    if hull.lines.stern.kind is not EndKind.OPEN:
        places.append((len(molds) + 1, "the stern", float(stern)))
    if len(places) < 3:
        return
    at = np.array([x for _, _, x in places])
    ducks = CubicSpline(line[:, 0], line)(_with_landings(hull, line, at))
    way = CubicSpline(runs_along(ducks), ducks, bc_type="natural")
    for k in range(len(places) - 1):
        inner = np.linspace(at[k], at[k + 1], PER_BAY + 2)[1:-1]
        strip = way(np.interp(inner, ducks[:, 0], way.x))
        off = _off(panel, v, strip, u, line)
        far = int(np.argmax(np.abs(off)))
        x, y, z = strip[far].tolist()
        yield places[k][0], Bay(places[k][1], places[k + 1][1], at[k], at[k + 1], float(off[far]), (x, y, z))


def _with_landings(hull: Hull, line: Array, at: Array) -> Array:
    """The places that hold a strip, x in mm, and where it leaves a stem that it lies on: fastened there, it runs as they do."""
    runs = runs_along(line)
    found = list(at)
    if hull.lines.bow.kind is EndKind.STEM:
        found.append(float(np.interp(LANDING_MM, runs, line[:, 0])))
    if hull.lines.stern.kind is EndKind.STEM:
        found.append(float(np.interp(runs[-1] - LANDING_MM, runs, line[:, 0])))
    kept = np.sort(np.array(found))
    result: Array = kept[np.concatenate([[True], np.diff(kept) > NEAR_MM])]
    return result


def _off(panel: Panel, v: float, strip: Array, u: Array, line: Array) -> Array:
    """How far points of a strip (n, 3), mm, stand outside the surface, (n,), mm, seen from the longitudinal v at the same x."""
    own = np.interp(strip[:, 0], line[:, 0], u)
    jet = panel.surface.jet(own, np.full_like(own, v))
    result: Array = np.vecdot(strip - jet.point, jet.normal)
    return result


def bay_findings(found: Bays) -> list[Finding]:
    """The widest step off the lines, where it is over the limit; one bay at a time, as each mold more helps its neighbours too."""
    wide = [bay for bay in found.bays if abs(bay.off) > found.limit]
    worst = found.worst
    if not wide or worst is None:
        return []
    others = f" It is so in {len(wide) - 1} more of the spaces." if len(wide) > 1 else ""
    side = "outside" if worst.off > 0 else "inside"
    text = (
        f"Strips sprung from the one to the other stand {mm(round(abs(worst.off), 1))} {side} the lines between them, near "
        f"position {mm(round(worst.at[0]))}: the hull turns faster there than they do. One mold more there holds them.{others}"
    )
    weight = Weight.LOOK if abs(worst.off) > MUCH * found.limit else Weight.INFORMATION
    return [Finding("wide-bay", weight, "molds", _named(worst), text)]


def _named(bay: Bay) -> str:
    names = [bay.before, bay.after]
    if all(name.isdigit() for name in names):
        return f"molds {names[0]} and {names[1]}"
    return " and ".join(sorted(f"mold {name}" if name.isdigit() else name for name in names))
