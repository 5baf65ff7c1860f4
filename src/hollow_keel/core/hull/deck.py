"""The deck: a surface from the sheer inward to the centreline, made as the hull's own is, and what is wrong with it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from .build import Hull, build_hull
from .deck_lines import DeckLines
from .end_points import CurveMaker
from .measures import measure

SHEER, CENTRE = "sheer", "centreline"
FALLS_IN_MM = 1.0


@dataclass(frozen=True)
class Deck:
    """One half of the deck to the outside of its planking: `surface` has its panels from the sheer to the centreline (u from the
    bow aft, v inward, its normal upward), `area` of both sides in m²."""

    surface: Hull
    area: float
    findings: tuple[Finding, ...]


def build_deck(drawn: DeckLines, hull: Hull, outward: float, curve: CurveMaker) -> Deck:
    """The deck of its drawn lines over a hull; `outward` mm is added along the normal (offsets given to the inside).

    Raises InputError where the lines cannot make a surface.
    """
    made = build_hull(drawn.lines, outward, curve)
    last = len(made.panels) - 1
    panels = tuple(
        replace(p, lower=SHEER if k == 0 else p.lower, upper=CENTRE if k == last else p.upper) for k, p in enumerate(made.panels)
    )
    folded = [replace(f, stage="deck", code="deck-folded") for f in made.findings if f.code == "folded"]
    surface = replace(made, panels=panels, findings=())
    findings = (*drawn.findings, *folded, *_inside_the_hull(drawn, hull))
    return Deck(surface, measure(surface, -1e7).planked_area, findings)


def _inside_the_hull(drawn: DeckLines, hull: Hull) -> list[Finding]:
    """Stations where the deck falls inside the hull: below its bottom, or through its side."""
    import shapely  # loads slowly: not before it is needed

    sides = {s.x: s.points for s in hull.lines.stations}
    worst: tuple[float, float] | None = None
    for section in drawn.lines.stations:
        side = sides.get(section.x)
        if side is None:
            continue
        deep = _below(section.points, side)
        crossed = shapely.intersection(shapely.LineString(section.points[:, 1:]), shapely.LineString(side[:, 1:]))
        apart = shapely.difference(crossed, shapely.Point(side[-1, 1:]).buffer(FALLS_IN_MM))
        if (deep > FALLS_IN_MM or not apart.is_empty) and (worst is None or deep > worst[1]):
            worst = section.x, deep
    if worst is None:
        return []
    by = f", by {mm(round(worst[1]))} at its lowest" if worst[1] > FALLS_IN_MM else ""
    text = f"The deck falls through the hull here{by}: look at its heights and half-breadths, or at the crown."
    return [Finding("deck-in-hull", Weight.STOP, "deck", f"station {mm(worst[0])}", text)]


def _below(deck: Array, side: Array) -> float:
    """How far the deck's lowest point lies below the hull's lowest, mm."""
    return float(max(side[:, 2].min() - deck[:, 2].min(), 0.0))
