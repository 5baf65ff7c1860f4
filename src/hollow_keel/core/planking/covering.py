"""Whether strips cover the hull, each place once: a plan that does not is refused."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight, mm
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..rules import GLUE_FILLS_MM, MILLED_WIDER_MM, MILLED_WIDER_SHARE, STANDS_OPEN_MM
from ..settings.strip_choices import Guide, StripLayout
from .faces import ASKEW, area_of
from .flat import widest_place
from .levels import torn
from .mechanics import named_strips
from .strips import Planking, Strip

SURELY_SHARE, MISSED_SHARE = 0.001, 0.005
"""Strips whose faces add up to so much more or less than the hull lie over each other, or leave it bare; within the first of them
a quick sum will do."""
OPEN, AT_CORNERS = "stands-open", 2
"""Where strips stand open in corners their faces may miss so many times as much."""
LONGER = 1.6
"""No strip is longer than the longest lengthwise line of the hull by more."""
MOST_PIECES = 2
"""Where strips are in so many pieces, taken all together, the lines they follow are torn."""
LINES, ALONG = 13, 161
MOST_TOLD = 0.5
"""A share that is more is told in words: what lies over each other may come to more than there is."""


def check_covering(hull: Hull, planking: Planking, layout: StripLayout, cover: Callable[[int], float]) -> list[Finding]:
    """What wants looking at about widths. Raises ImpossiblePlan, with the place and what to do instead, where the strips do not
    cover the hull once, or would have to be much wider than the wood they are cut from; `cover` tells what that covers, mm, by a
    strip's number in its course."""
    if sum(len(s.near) for s in planking.strips) > MOST_PIECES * len(planking.strips):
        worst = max(planking.strips, key=lambda s: len(s.near))
        line = max(worst.near, key=lambda p: p.length)
        pieces = f"strip {worst.number}: {len(worst.near)}"
        raise torn(float(line.points[0, 0]), pieces, _instead(planking, layout))
    wider = _check_widths(hull, planking, layout, cover)
    whole = sum(surface_area(panel.surface) for panel in hull.panels)
    longest = max(_longest_line(panel.surface) for panel in hull.panels)
    too_long = [s for s in planking.strips if s.length > LONGER * longest]
    quick = sum(area_of(strip, planking, ASKEW) for strip in planking.strips) / whole - 1
    if abs(quick) <= SURELY_SHARE and not too_long:
        return wider
    areas = [area_of(strip, planking) for strip in planking.strips]
    missed = sum(areas) / whole - 1
    flat = (planking.width / max(girth for _, girth in hull.girths)) ** 2  # faces are measured flat across
    allowed = MISSED_SHARE * (AT_CORNERS if any(f.code == OPEN for f in wider) else 1)
    if abs(missed) <= max(allowed, flat) and not too_long:
        return wider
    worst = too_long[0] if too_long else _worst(planking, areas)
    line = max(worst.near or worst.far, key=lambda p: p.length)
    ends = (line.points[0, 0], line.points[-1, 0])
    place = _on_hull(hull, ends[0] if _off(worst, 0) >= _off(worst, -1) else ends[1])
    raise ImpossiblePlan(
        f"These strips would not cover the hull: near position {mm(round(float(place)))} lines that follow this guide lie over "
        f"each other or leave the hull bare (strip {worst.number}; {_share_in_words(abs(missed))} of the skin in all). "
        f"{_instead(planking, layout)}"
    )


def _check_widths(hull: Hull, planking: Planking, layout: StripLayout, cover: Callable[[int], float]) -> list[Finding]:
    """Which strips have to be milled wider than the others, or stand open somewhere; raises ImpossiblePlan where it is much."""
    over = {s.number: s.width_max - cover(planking.places[s.number]) for s in planking.strips}
    found = []
    for shaped in (True, False):
        wider = [s for s in planking.strips if s.shaped is shaped and over[s.number] > GLUE_FILLS_MM]
        if not wider:
            continue
        worst = max(wider, key=lambda s: over[s.number])
        most, own = over[worst.number], cover(planking.places[worst.number])
        place = mm(round(_on_hull(hull, widest_place(worst, hull.panels[worst.panel].surface))))
        if most > max(MILLED_WIDER_MM if shaped else STANDS_OPEN_MM, MILLED_WIDER_SHARE * own):
            raise ImpossiblePlan(
                f"Strip {worst.number}, near position {place}, would have to be {mm(round(worst.width_max, 1))} "
                f"wide, {mm(round(most, 1))} more than it is cut from. {_instead(planking, layout)}"
            )
        found.append(_wider_finding(wider, worst, most, place))
    return found


def _wider_finding(wider: list[Strip], worst: Strip, most: float, place: str) -> Finding:
    numbers = named_strips([s.number for s in wider])
    if worst.shaped:
        one = len(wider) == 1
        said = (
            f"{'This one is' if one else 'They are'} wider than the others, up to {mm(round(worst.width_max, 1))} at strip "
            f"{worst.number} near position {place}: mill {'it' if one else 'them'} {mm(round(most, 1))} wider."
        )
        return Finding("milled-wider", Weight.LOOK, "planking", numbers, said)
    return Finding(
        OPEN,
        Weight.LOOK,
        "planking",
        numbers,
        f"Lines of equal distance meet in a corner there, which wood does not follow: strip {worst.number} stands up to "
        f"{mm(round(most, 1))} open near position {place}. Plane the edge fair there and fill, or start from another line.",
    )


def _on_hull(hull: Hull, place: float) -> float:
    """A position along the hull that lies on it, mm."""
    grids = [panel.surface.grid[..., 0] for panel in hull.panels]
    low, high = min(float(g.min()) for g in grids), max(float(g.max()) for g in grids)
    return min(max(float(place), low), high)


def _share_in_words(share: float) -> str:
    return f"{share:.1%}" if share < MOST_TOLD else "most"


def surface_area(surface: TensorSurface) -> float:
    """Area of one side of a panel, mm²."""
    from scipy.integrate import simpson

    density = surface.densities(np.linspace(0, 1, 81), np.linspace(0, 1, 31))
    return float(simpson(simpson(density, dx=1 / 30, axis=1), dx=1 / 80))


def _longest_line(surface: TensorSurface) -> float:
    points = surface.points(np.linspace(0, 1, ALONG)[:, None], np.linspace(0, 1, LINES)[None, :])
    return float(np.linalg.norm(np.diff(points, axis=0), axis=-1).sum(axis=0).max())


def _worst(planking: Planking, areas: list[float]) -> Strip:
    """The strip whose face is farthest from its length times its width."""
    return max(
        zip(planking.strips, areas, strict=True),
        key=lambda pair: abs(pair[1] - pair[0].width_max * (pair[0].near_length + pair[0].far_length) / 2),
    )[0]


def _off(strip: Strip, end: int) -> float:
    """How far the edges of a strip lie apart at one end, less its width."""
    if not strip.near or not strip.far:
        return 0.0
    return float(np.linalg.norm(strip.near[end].points[end] - strip.far[end].points[end])) - strip.width_max


def _instead(planking: Planking, layout: StripLayout) -> str:
    if planking.guide in (Guide.KEEL.value, Guide.BOTH.value):
        return (
            "The keel turns away there, into a stem without a corner or round a hollow. Start from the sheer or from a natural "
            "master line, or divide the girth from the keel into tapered strips."
        )
    if layout is not StripLayout.PARALLEL:
        return "Lay strips of one width, taper them all, or start from another line."
    return "Start from the sheer, from a natural master line, or taper the strips."
