"""Setting up at the bench: marks to make, and readings to take."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from ...core.job import HullEnd
from ...core.results import Shape
from ...core.settings.survey import Survey
from ...core.setup.beam import Mark
from ...core.setup.judgement import Grade, grade_of, judge_survey
from ...core.units import LengthStyle, format_length
from ...drawing.bench import mark_picture, reading_picture
from .mode import Step

READINGS = (
    ("height_port", "waterline, port", "above the strongback"),
    ("height_starboard", "waterline, starboard", "above the strongback"),
    ("along_port", "from zero, port", "to the reference face"),
    ("along_starboard", "from zero, starboard", "to the reference face"),
    ("centre_low", "centreline, keel end", "to starboard of the string; to port with a minus"),
)
"""The readings in the order of walking along the strongback once for each: the field, its name, what it is measured to."""


def mark_steps(shape: Shape, style: LengthStyle) -> list[Step]:
    """Every mark from zero in order, with its gap and the side its mold lies on."""
    end = "bow" if shape.job.setup.zero_end is HullEnd.BOW else "stern"
    found = []
    for mark in shape.setup.marks:
        gap = "last mold" if mark.gap_to_next is None else f"gap to the next {format_length(mark.gap_to_next, style)}"
        below = f"from zero at the {end} to the {mark.face.value} face · mold lies towards the {mark.body_towards} · {gap}"
        picture = partial(mark_picture, shape, mark.mold)
        found.append(Step(f"Mold {mark.mold}", format_length(mark.from_zero, style), below, picture=picture))
    return found


def reading_steps(shape: Shape, style: LengthStyle) -> list[Step]:
    """Every reading of a survey: one kind after the other, along the molds."""
    found = []
    molds = {mold.name: mold for mold in shape.molds.molds}
    for field, name, to in READINGS:
        for mark in shape.setup.marks:
            plan = _planned(field, mark)
            picture = partial(reading_picture, shape, molds[mark.mold], field)
            found.append(Step(f"Mold {mark.mold}: {name}", format_length(plan, style), f"planned, {to}", plan, picture))
    return found


def _planned(field: str, mark: Mark) -> float:
    """What a reading would be on a mold in its place, mm."""
    return {"height": mark.waterline_above, "along": mark.from_zero}.get(field.partition("_")[0], 0.0)


def take_reading(
    shape: Shape, survey: Callable[[], Survey], put: Callable[[Survey], None]
) -> Callable[[int, float], tuple[str, bool]]:
    """What bench mode calls with a reading: it goes into the survey, and its difference from the plan is told."""
    marks = shape.setup.marks
    steps = [(field, mark) for field, _, _ in READINGS for mark in marks]

    def take(number: int, value: float) -> tuple[str, bool]:
        field, mark = steps[number]
        put(survey().with_value(mark.mold, field, value, mark.station))
        off = value - _planned(field, mark)
        grade = grade_of(off, shape.job.setup)
        judged = judge_survey(survey(), shape.setup, shape.molds.molds, shape.job)
        out = [move.mold for move in judged.moves]
        so_far = f" · out so far: mold {', '.join(dict.fromkeys(out))}" if out else ""
        good = grade in (Grade.NEVER, Grade.FAIRS) and mark.mold not in out
        return f"{off:+.1f} mm from the plan ({grade.value}){so_far}", good

    return take
