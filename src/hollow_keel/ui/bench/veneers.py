"""Veneers at the bench: a veneer's spiling, one width at a time, and where ribbands come on a mold."""

from __future__ import annotations

from functools import partial

from ...core.molds.stations import Mold
from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.ribbands import Form, Ribband
from ...core.veneers.veneer import Veneer
from ...drawing.bench import ribband_picture, spiling_picture
from .mode import Step


def spiling_steps(plan: LayerPlan, veneer: Veneer, style: LengthStyle) -> list[Step]:
    """How wide a veneer is at every place along its straight edge."""
    heading = f"Layer {plan.number}, veneer {veneer.number}"
    return [
        Step(
            f"{heading}: {format_length(along, style)} along",
            format_length(wide, style),
            "wide here, square off the straight edge",
            picture=partial(spiling_picture, veneer, along),
        )
        for along, wide in veneer.spiling.tolist()
    ]


def ribband_steps(shape: Shape, form: Form, mold: Mold, style: LengthStyle) -> list[Step]:
    """Where the upper edge of every ribband comes on a mold, from the keel up."""
    found = []
    for ribband in form.ribbands:
        for crossing in ribband.crossings:
            if crossing.mold != mold.name:
                continue
            picture = partial(ribband_picture, shape, mold, crossing.from_keel)
            heading = f"Mold {mold.name}, {ribband_name(ribband)}"
            below = f"from the keel along the mold's edge · {format_length(crossing.from_sheer, style)} from the sheer"
            found.append(Step(heading, format_length(crossing.from_keel, style), below, picture=picture))
    return found


def ribband_name(ribband: Ribband) -> str:
    """A ribband by its number, with what it is for."""
    what = f" ({ribband.lies})" if ribband.at_sheer or ribband.at_knuckle or ribband.past_sheer else ""
    return f"ribband {ribband.number}{what}"
