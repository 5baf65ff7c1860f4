"""What strips are coloured by: how hard they are to lay, their length, their wood; always with words beside the colour."""

from __future__ import annotations

from collections.abc import Mapping
from enum import StrEnum

import numpy as np

from ...core.job import Job, StripSettings
from ...core.planking.mechanics import GRADES, Behaviour
from ...core.planking.strips import Planking
from ...core.settings.progress import Planked
from ...core.units import LengthStyle, format_length
from ..model import STRIP_LAYERS

LAYERS = STRIP_LAYERS[:4]
MOST = len(LAYERS)


class ShadeBy(StrEnum):
    """What a colour stands for."""

    COUNT = "every tenth"
    HANDLING = "handling"
    LENGTH = "length"
    WOOD = "wood"
    DAY = "day laid"


def strip_shades(
    planking: Planking, job: Job, found: Mapping[int, Behaviour], by: ShadeBy
) -> tuple[tuple[int, ...], tuple[str, ...]]:
    """The kind of each strip in order, 0 to 3, and what the kinds are in words; both empty for `COUNT`."""
    if by is ShadeBy.HANDLING:
        kinds = tuple(GRADES.index(found[s.number].grade) for s in planking.strips)
        return kinds, tuple(grade.value for grade in GRADES)
    if by is ShadeBy.LENGTH:
        return _by_length(planking, job.units.style)
    if by is ShadeBy.WOOD:
        return by_wood(planking, job.strips)
    if by is ShadeBy.DAY:
        return _by_day(planking, job.planked or Planked())
    return (), ()


def _by_length(planking: Planking, style: LengthStyle) -> tuple[tuple[int, ...], tuple[str, ...]]:
    lengths = np.array([s.length for s in planking.strips])
    bounds = lengths.max() * np.array([0.95, 0.6, 0.3])
    kinds = (lengths[:, None] < bounds).sum(axis=1)
    words = [f"over {format_length(float(bounds[0]), style)}"]
    words += [f"to {format_length(float(b), style)}" for b in bounds[1:]]
    return tuple(kinds.tolist()), (*words, "shorter")


def _by_day(planking: Planking, planked: Planked) -> tuple[tuple[int, ...], tuple[str, ...]]:
    """What is still to come, the last day's work, the day's before, and what went on earlier."""
    last = [d.day for d in planked.days][-2:]
    kinds = []
    for strip in planking.strips:
        day = planked.day_of(strip.number)
        if strip.number > planked.strips:
            kinds.append(0)
        elif day is None or day not in last:
            kinds.append(3)
        else:
            kinds.append(len(last) - last.index(day))
    words = ["still to come", *(f"{day:%d %b}" for day in reversed(last))]
    return tuple(kinds), (*words, *([""] * (3 - len(words))), "earlier")


def by_wood(planking: Planking, strips: StripSettings) -> tuple[tuple[int, ...], tuple[str, ...]]:
    """The kind of each strip in order by its wood, and the woods."""
    woods = [strips.wood, *dict.fromkeys(z.wood for z in strips.zones if z.wood and z.wood != strips.wood)]
    kinds = []
    for strip in planking.strips:
        own = strips.at_place(planking.places[strip.number])
        kinds.append(min(woods.index(own.wood), MOST - 1))
    return tuple(kinds), tuple(woods[:MOST])
