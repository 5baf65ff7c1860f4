"""What the page of the sheer and the ends shows one at a time: each topic with its drawings, its tables and how it is asked for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from ....core.ends.stages import KEEL, KNEES, OUTER, PLANKS
from ....core.geometry.arrays import frozen
from ....core.inside.stages import INSIDE
from ....core.job import Job
from ....core.release.stages import RELEASE
from ....core.sheer.heads import SheerMark, SheerPlan
from ....core.sheer.stages import BEAMS, BOTH_SIDES, BY_EYE, CURVE, RAILS, SHEER_STRIPS
from ....core.stage import Stage
from ....drawing.ends import outer_stem_drawing, planks_drawing
from ....drawing.inside import bulkhead_pattern, inside_drawing, spalls_drawing
from ....drawing.model import Drawing, Layer, Stroke
from ....drawing.sheer.beams import beam_drawing, form_drawing
from ....drawing.sheer.curve import curve_drawing
from ....drawing.sheer.heads import camber_pattern, head_section, rails_drawing, sheer_line
from ....drawing.sheer.sides import arcs_drawing, by_eye_drawing
from ....files import ends, inside, release
from ....files.schedule import Schedule
from ....files.sheer import schedules as told
from ...window.state import State

NONE = Drawing("", ())


@dataclass(frozen=True)
class Shown:
    """What a topic is drawn from: the moment, all heads, the chosen one, and what else is chosen, by its name."""

    state: State
    plan: SheerPlan
    mark: SheerMark
    other: str = ""

    def of(self, stage: Stage[Any]) -> Any:
        """A stage's value as far as it is known; None else, and where the job has no such thing."""
        return self.state.known.get(stage) if stage.when(self.state.job) else None


Draw = Callable[[Shown], tuple[Drawing, Drawing]]


@dataclass(frozen=True)
class Topic:
    """`stages` are what it is worked out by, the first one what has to be wanted; `asks` and `path` are the button that wants
    it, and the setting that the button turns on (empty: it is there by itself, or by `command`)."""

    name: str
    stages: tuple[Stage[Any], ...]
    schedules: tuple[Schedule, ...]
    draw: Draw
    asks: str = ""
    path: str = ""
    command: str = ""
    begins: tuple[str, str] = ("", "")
    """The button, and its command, that makes a first one where there is none."""
    stretched: bool = False
    """Whether its upper drawing fills the room, each way at its own scale."""

    def wanted(self, job: Job) -> bool:
        """Whether a job has it."""
        return any(stage.when(job) for stage in self.stages)

    def button(self, job: Job) -> tuple[str, str]:
        """What the button in the head says, and the command that it gives; "" where it turns `path` on, or there is no button."""
        if self.begins[0] and not self.wanted(job):
            return self.begins
        return (self.asks if self.command or not self.wanted(job) else ""), self.command


def _heads(shown: Shown) -> tuple[Drawing, Drawing]:
    job, style = shown.state.job, shown.state.style
    return sheer_line(shown.plan, style, job.trim), head_section(shown.mark, job.molds.skin, style, job.trim)


def _beams(shown: Shown) -> tuple[Drawing, Drawing]:
    plan, job, style = shown.of(BEAMS), shown.state.job, shown.state.style
    if plan is None or not plan.beams:
        return camber_pattern(shown.plan, job.trim, job.name, style), NONE
    beam = next((b for b in plan.beams if b.name == shown.mark.name), plan.beams[len(plan.beams) // 2])
    return beam_drawing(beam, job, style), form_drawing(plan, job, style)


def _sides(shown: Shown) -> tuple[Drawing, Drawing]:
    job, style = shown.state.job, shown.state.style
    return arcs_drawing(shown.plan, shown.mark, job, style), head_section(shown.mark, job.molds.skin, style, job.trim)


def _eye(shown: Shown) -> tuple[Drawing, Drawing]:
    eye, style = shown.of(BY_EYE), shown.state.style
    return sheer_line(shown.plan, style, shown.state.job.trim), NONE if eye is None else by_eye_drawing(eye, style)


def _curve(shown: Shown) -> tuple[Drawing, Drawing]:
    curve, style = shown.of(CURVE), shown.state.style
    line = sheer_line(shown.plan, style, shown.state.job.trim)
    if curve is not None and len(curve.line):
        line = replace(line, strokes=(*line.strokes, Stroke(frozen(curve.line[:, [0, 2]]), Layer.HULL)))
    return line, NONE if curve is None else curve_drawing(curve, shown.plan, shown.state.job, style)


def _rails(shown: Shown) -> tuple[Drawing, Drawing]:
    rails = shown.of(RAILS)
    return NONE if rails is None else rails_drawing(rails, shown.state.job, shown.state.style), NONE


def _outer(shown: Shown) -> tuple[Drawing, Drawing]:
    outer, job, style = shown.of(OUTER), shown.state.job, shown.state.style
    stems = [outer_stem_drawing(stem, job, style) for stem in outer.stems] if outer is not None else []
    return (*stems, NONE, NONE)[0], (*stems, NONE, NONE)[1]


def _planks(shown: Shown) -> tuple[Drawing, Drawing]:
    planks, job, style = shown.of(PLANKS), shown.state.job, shown.state.style
    drawn = [planks_drawing(own, job, style) for own in planks.transoms] if planks is not None else []
    return (*drawn, NONE, NONE)[0], (*drawn, NONE, NONE)[1]


def _release(shown: Shown) -> tuple[Drawing, Drawing]:
    own = shown.of(RELEASE)
    return NONE if own is None else spalls_drawing(shown.plan, own, shown.state.style), NONE


def _inside(shown: Shown) -> tuple[Drawing, Drawing]:
    own, job, style = shown.of(INSIDE), shown.state.job, shown.state.style
    if own is None:
        return NONE, NONE
    bulkhead = next((b for b in own.bulkheads if b.name == shown.other), next(iter(own.bulkheads), None))
    pattern = NONE if bulkhead is None else bulkhead_pattern(bulkhead, job, style)
    return inside_drawing(shown.plan, own, job, style), pattern


TOPICS = (
    Topic("Heads", (SHEER_STRIPS,), (told.HEADS,), _heads, stretched=True),
    Topic("Beams", (BEAMS,), (told.BEAM_ROWS, told.BLOCKS), _beams, "Work out the beams", "beams.wanted"),
    Topic(
        "Both sides", (BOTH_SIDES,), (told.ARCS, told.HEADS), _sides, "Arcs read at this head…", command="read-arcs", stretched=True
    ),
    Topic(
        "By eye", (BY_EYE,), (told.NAILS, told.CORNERS), _eye, "Heights read at this head…", command="read-heights", stretched=True
    ),
    Topic(
        "Trimming curve",
        (CURVE,),
        (told.CURVE_ROWS,),
        _curve,
        "All its points…",
        command="trim-curve",
        begins=("Draw one", "draw-trim-curve"),
    ),
    Topic("Rails", (RAILS,), (told.RAIL_ROWS,), _rails, "Work out the rails", "trim.rails"),
    Topic(
        "Outer stem",
        (OUTER, KEEL),
        (ends.STEM_PLACES, ends.STEM_MADE, ends.KEEL_ROW),
        _outer,
        "Work out the outer stem",
        "outer.stems",
    ),
    Topic("Transom", (PLANKS, KNEES), (ends.PLANK_ROWS, ends.KNEE_ROWS), _planks, "Divide it into planks", "outer.planks"),
    Topic(
        "Molds out",
        (RELEASE,),
        (release.SPALLS, release.ORDER, release.LIFTED),
        _release,
        "Work out spalls and order",
        "release.wanted",
    ),
    Topic(
        "Inside",
        (INSIDE,),
        (inside.SOLE, inside.BULKHEADS, inside.STRINGERS, inside.NOTCHES, inside.GLASS),
        _inside,
        "Fit a sole",
        "inside.sole",
    ),
)
