"""Wood at the bench: pieces to cut."""

from __future__ import annotations

from functools import partial

from ...core.stock.joint_plan import JointPlan
from ...core.units import LengthStyle, format_length
from ...drawing.bench import stick_picture
from .mode import Step


def piece_steps(plan: JointPlan, from_strip: int, style: LengthStyle) -> list[Step]:
    """Every piece still to be cut, from a strip on, in the order strips go on."""
    found = []
    for made in plan.made:
        if made.need.strip < from_strip:
            continue
        for k, piece in enumerate(made.pieces):
            which = f"piece {k + 1} of {len(made.pieces)}, forward end first" if len(made.pieces) > 1 else "in one piece"
            below = f"cut from {piece.stick} · {which}"
            picture = partial(stick_picture, [own.length for own in made.pieces], k)
            heading = f"Strip {made.need.name}"
            found.append(Step(heading, format_length(piece.length, style), below, picture=picture))
    return found
