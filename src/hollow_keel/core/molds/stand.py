"""What a mold stands on when there is no beam through it: legs to a table or ladder, feet across two rails.

Upside down the strongback's top lies above the sheer in the hull's own heights; an upright mold stands on the keel, and
has no legs.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from ..findings import Finding, Weight, mm
from ..job import SetupSettings
from ..rules import IN_FROM_SHEER_MM, ROOTED_MM
from ..settings.setup_choices import Strongback
from .stations import Mold


@dataclass(frozen=True)
class Stand:
    """Legs of a mold: half-breadths of each leg's inside and outside, the height they reach down to, and the
    half-length of the foot across the rails (0: none). Lengths mm, in the hull's own heights."""

    inside: float
    outside: float
    level: float
    foot: float

    @property
    def spread(self) -> float:
        """Distance between the outsides of the two legs, or the length of the foot, mm."""
        return 2 * max(self.outside, self.foot)


def stand_of(mold: Mold, setup: SetupSettings, level: float) -> Stand | None:
    """The legs of a mold whose strongback's top lies at height `level`, mm; None on a beam, or where the level is not above the
    mold's sheer."""
    sheer_y = float(mold.edge.sheer[0])
    if setup.strongback is Strongback.BEAM or setup.upright or level <= mold.top:
        return None
    outside = min(setup.leg_spread / 2, max(sheer_y - IN_FROM_SHEER_MM, setup.leg_width / 2))
    inside = max(outside - setup.leg_width, 0.0)
    foot = setup.rail_spread / 2 + setup.overhang if setup.strongback is Strongback.RAILS else 0.0
    return Stand(inside, outside, level, foot)


def legs(mold: Mold, setup: SetupSettings, stand: Stand) -> shapely.Geometry:
    """The wood of both legs and of the foot: below the sheer only where the mold itself has wood, so that nothing stands proud of
    the line that the planking lies on."""
    low = max(float(mold.edge.sheer[1]) - ROOTED_MM, float(mold.edge.points[:, 1].min()) + 1.0)
    parts = [
        shapely.box(stand.inside, low, stand.outside, stand.level),
        shapely.box(-stand.outside, low, -stand.inside, stand.level),
    ]
    if stand.foot:
        top = max(stand.level - setup.foot_height, mold.top)
        parts.append(shapely.box(-stand.foot, top, stand.foot, stand.level))
    sheer = float(mold.edge.sheer[1])
    left, _, right, top = shapely.union_all(parts).bounds
    edge = shapely.make_valid(shapely.Polygon(np.concatenate([mold.edge.points[::-1] * [-1.0, 1.0], mold.edge.points])))
    room = shapely.union(edge, shapely.box(left, sheer, right, max(top, sheer)))
    return shapely.intersection(shapely.union_all(parts), room)


def stand_findings(mold: Mold, setup: SetupSettings, level: float) -> list[Finding]:
    """What is wrong with where a mold stands, the strongback's top at height `level`, mm."""
    if setup.strongback is Strongback.BEAM or setup.upright:
        return []
    place = f"mold {mold.name}"
    sheer = mold.top
    if level <= sheer:
        edge = "sheer" if mold.deck is None else "deck part"
        text = (
            f"The strongback's top lies {mm(round(sheer - level, 1))} inside this mold's {edge}: there is no room for legs. "
            "Raise the hull on the Setting up page."
        )
        return [Finding("no-room-for-legs", Weight.STOP, "molds", place, text)]
    found: list[Finding] = []
    if setup.strongback is Strongback.RAILS and setup.foot_height > level - sheer:
        text = (
            f"A foot {mm(setup.foot_height)} high reaches into the hull here: it is cut off at the sheer. "
            "Make it lower, or raise the hull."
        )
        found.append(Finding("foot-in-hull", Weight.LOOK, "molds", place, text))
    if np.isclose(setup.leg_width, 0) or setup.leg_width * 2 > setup.leg_spread:
        text = f"Two legs {mm(setup.leg_width)} wide do not go into a spread of {mm(setup.leg_spread)}: they run together."
        found.append(Finding("legs-together", Weight.LOOK, "molds", place, text))
    return found
