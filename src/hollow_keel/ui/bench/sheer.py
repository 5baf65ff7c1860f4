"""The sheer at the bench: every head's mark, one at a time."""

from __future__ import annotations

from functools import partial

from ...core.job import TrimSettings
from ...core.sheer.heads import SheerPlan
from ...core.units import LengthStyle, format_length
from ...drawing.sheer.heads import from_line, head_section, side_of_line
from .mode import Step


def sheer_steps(plan: SheerPlan, skin: float, trim: TrimSettings, style: LengthStyle) -> list[Step]:
    """How far above the set-up line the sheer comes out at every head, from the bow aft."""
    return [
        Step(
            f"{mark.name.capitalize()}: outside",
            format_length(abs(mark.outside_up), style),
            f"{side_of_line(mark.outside_up)} the set-up line · {format_length(mark.girth, style)} round from the keel · inside "
            f"{from_line(mark.inside_up, style)}",
            picture=partial(head_section, mark, skin, style, trim),
        )
        for mark in plan.marks
    ]
