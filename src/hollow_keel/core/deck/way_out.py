"""How molds come out when the deck is on: through an opening whole, broken in two or in four, or not at all.

A mold is a thin plate: it passes an opening edge on, where the least width of the plate is no more than the opening is long. Before
that it must get there: from its own station towards the opening no place may be narrower or lower than the mold is. Common
practice; the least width by the smallest rectangle about the plate."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import shapely
from shapely.affinity import translate

from ..findings import Finding, Weight
from ..molds.pieces import Piece
from ..molds.stations import Mold
from ..rules import SLACK_MM
from .openings import OpeningPlan

HEIGHTS = 25


class WayOut(StrEnum):
    """How a mold comes out."""

    WHOLE = "whole"
    HALVES = "broken in two"
    QUARTERS = "broken in four"
    NOT = "not without cutting it smaller"


@dataclass(frozen=True)
class MoldOut:
    """How one mold comes out, and through which opening (empty: none)."""

    mold: str
    way: WayOut
    through: str


def ways_out(molds: Sequence[Mold], pieces: Mapping[str, Piece], openings: Sequence[OpeningPlan]) -> tuple[MoldOut, ...]:
    """How every closed mold comes out."""
    sides = {mold.name: _closed(mold) for mold in molds if mold.deck is not None}
    return tuple(_way(mold, molds, sides, pieces[mold.name], openings) for mold in molds if mold.deck is not None)


def _closed(mold: Mold) -> shapely.Geometry:
    side = mold.side
    return shapely.make_valid(shapely.Polygon(np.concatenate([side[::-1] * [-1.0, 1.0], side])))


def _way(
    mold: Mold, molds: Sequence[Mold], sides: Mapping[str, shapely.Geometry], piece: Piece, openings: Sequence[OpeningPlan]
) -> MoldOut:
    whole = shapely.Polygon(piece.outline)
    tries: tuple[tuple[WayOut, list[shapely.Geometry]], ...]
    if piece.half:  # the fellow is its mirror image; halves come out one by one
        tries = ((WayOut.WHOLE, [whole]), (WayOut.HALVES, _split(whole)))
    else:
        right = shapely.intersection(whole, shapely.box(0, -1e6, 1e6, 1e6))
        tries = ((WayOut.WHOLE, [whole]), (WayOut.HALVES, [right]), (WayOut.QUARTERS, _split(right)))
    for way, parts in tries:
        for made in openings:
            longest = _longest(made) - SLACK_MM
            if all(_least_width(part) <= longest for part in parts) and (
                way is not WayOut.WHOLE or _gets_there(mold, molds, sides, made)
            ):
                return MoldOut(mold.name, way, made.opening.name)
    return MoldOut(mold.name, WayOut.NOT, "")


def _split(part: shapely.Geometry) -> list[shapely.Geometry]:
    """A part broken in two at its middle height."""
    left, low, right, high = part.bounds
    z = (low + high) / 2
    boxes = shapely.box(left, low, right, z), shapely.box(left, z, right, high)
    return [shapely.intersection(part, box) for box in boxes]


def _least_width(part: shapely.Geometry) -> float:
    """The least width of a flat part, mm."""
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(part))
    if len(corners) < 4:
        return 0.0
    return float(min(np.linalg.norm(corners[1] - corners[0]), np.linalg.norm(corners[2] - corners[1])))


def _longest(made: OpeningPlan) -> float:
    """How long an opening is at its longest, mm."""
    points = made.smallest
    return float(np.linalg.norm(points[:, None] - points[None], axis=2).max())


def _gets_there(mold: Mold, molds: Sequence[Mold], sides: Mapping[str, shapely.Geometry], made: OpeningPlan) -> bool:
    """Whether a whole mold can be moved to the opening: it is well clear of every section on its way there, and of the one that
    it turns in."""
    first, last = float(made.smallest[:, 0].min()), float(made.smallest[:, 0].max())
    middle = (first + last) / 2
    low, high = sorted((mold.station, middle))
    between = [m for m in molds if m.name != mold.name and m.name in sides and low <= m.station <= high]
    if not between:
        return False  # it fills the hull where it stands
    own = shapely.buffer(sides[mold.name], SLACK_MM / 2)
    return all(_goes_through(own, sides[m.name]) for m in between)


def _goes_through(own: shapely.Geometry, section: shapely.Geometry) -> bool:
    """Whether a plate passes a section at some height."""
    low, high = own.bounds[1::2]
    down, up = section.bounds[1] - low, section.bounds[3] - high
    if down > up:
        return False
    return any(shapely.contains(section, translate(own, 0.0, float(dz))) for dz in np.linspace(down, up, HEIGHTS))


def way_out_findings(found: Sequence[MoldOut]) -> list[Finding]:
    """What has to be thought of before the deck goes on."""
    stuck = [out.mold for out in found if out.way is WayOut.NOT]
    broken = [out.mold for out in found if out.way in (WayOut.HALVES, WayOut.QUARTERS)]
    said = []
    if stuck:
        text = (
            "These do not come out once the deck is on, even broken in four: take them out before, leave them in, or cut "
            "them smaller."
        )
        said.append(Finding("molds-stay", Weight.LOOK, "deck", _named(stuck), text))
    if broken:
        text = "These come out through the opening broken: saw them part-way through before they are set up."
        said.append(Finding("molds-broken-out", Weight.INFORMATION, "deck", _named(broken), text))
    return said


def _named(names: Sequence[str]) -> str:
    return f"mold{'s' if len(names) > 1 else ''} {', '.join(names)}"
