"""Openings in a deck: where they lie, which strips stop short of them, and how far the runs ahead and astern get out of step."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from ..errors import InputError
from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen, ranges_of
from ..geometry.polyline import runs_along
from ..hull.build import Hull
from ..hull.deck import Deck
from ..job import DeckSettings, Opening
from ..planking.faces import Face, faces
from ..planking.strips import Planking, Strip
from ..rules import STEP_SHARE
from ..settings.deck_choices import DeckGuide, DeckLayout
from .outlines import outline, template
from .strips import DeckPlan, half_girth

ALONG = 401
"""Places along a strip at which it is asked whether the opening takes it."""
SIDES = ((1.0, "starboard"), (-1.0, "port"))
RIM = 241


@dataclass(frozen=True)
class CutShort:
    """A strip of one side that an opening takes a part of: that part's ends along the hull, `start` and `stop`, and how much of the
    strip it saves, mm."""

    strip: int
    side: str
    start: float
    stop: float
    saved: float


@dataclass(frozen=True)
class Step:
    """The run ahead of an opening and the run astern of it: the half-girths from sheer to centreline at its two ends; by how
    much the second is less (negative: more), mm; how many strips lie between, and at which of them, counted inward from the
    guide, it shows (None: at none); how many tapered strips bring it back, how wide each is at its narrow end, and which end
    that is. Lengths mm."""

    ahead: float
    astern: float
    apart: float
    strips: int
    shows_at: int | None
    tapered: int
    narrow: float
    narrow_end: str


@dataclass(frozen=True)
class OpeningPlan:
    """One opening: its smallest and its largest template on the plan, (n, 2), and what is `free` to be left out, (k, 2); the rim
    of the smallest as it lies on the deck, (m, 3), and its length, mm; the strips that stop short; the step between the runs ahead
    and astern (None: it does not lie over the centreline, or reaches an end)."""

    opening: Opening
    smallest: Array
    largest: Array
    free: Array
    rim: Array
    rim_length: float
    cut_short: tuple[CutShort, ...]
    step: Step | None
    number: int = 0
    """Which of the job's openings it is, from 0."""

    @property
    def saved(self) -> float:
        """Strip that need not be made, both sides, mm."""
        return sum(cut.saved for cut in self.cut_short)

    @property
    def interrupted(self) -> tuple[int, ...]:
        """The strips that do not run through, by their numbers."""
        return tuple(sorted({cut.strip for cut in self.cut_short}))


@dataclass(frozen=True)
class Openings:
    """All openings of a deck, and what is wrong with them."""

    openings: tuple[OpeningPlan, ...]
    findings: tuple[Finding, ...]


def plan_openings(deck: Deck, plan: DeckPlan, settings: DeckSettings) -> Openings:
    """The openings of a deck with its strips. What cannot be is a finding; the others are planned."""
    whole = deck_outline(deck.surface)
    found: list[OpeningPlan] = []
    findings: list[Finding] = []
    for number, opening in enumerate(settings.openings):
        try:
            shape, larger = outline(opening), template(opening)
        except InputError as error:
            findings.append(Finding("opening-shape", Weight.STOP, "deck", f"opening {opening.name}", str(error)))
            continue
        outside = _outside(opening, shape, whole)
        if outside is not None:
            findings.append(outside)
            continue
        made = replace(_planned(opening, shape, larger, deck, plan, settings), number=number)
        findings += _step_findings(made, settings)
        findings += _crowded(opening, larger, whole, found)
        found.append(made)
    return Openings(tuple(found), tuple(findings))


def _crowded(opening: Opening, larger: shapely.Polygon, whole: shapely.Polygon, others: Sequence[OpeningPlan]) -> list[Finding]:
    """A largest template that leaves the deck, or comes into another opening's."""
    where, found = f"opening {opening.name}", []
    if not whole.contains(larger):
        beyond = shapely.get_coordinates(shapely.difference(larger, whole))
        by = max(float(shapely.distance(shapely.Point(p), whole)) for p in beyond)
        text = f"Its largest template reaches {mm(round(by))} past the edge of the deck: a smaller one, or move the opening."
        found.append(Finding("template-outside", Weight.LOOK, "deck", where, text))
    for other in others:
        taken = shapely.Polygon(other.smallest)
        if taken.intersects(outline(opening)):
            text = f"It overlaps opening {other.opening.name}: move one of them, or make one opening of both."
            found.append(Finding("openings-overlap", Weight.STOP, "deck", where, text))
        elif shapely.Polygon(other.largest).intersects(larger):
            text = f"Its largest template overlaps that of opening {other.opening.name}: no deck is left between them."
            found.append(Finding("openings-overlap", Weight.LOOK, "deck", where, text))
    return found


def deck_outline(surface: Hull) -> shapely.Polygon:
    """The deck on the plan view, both sides, mm."""
    edge = surface.panels[0].surface.points(np.linspace(0, 1, RIM), np.zeros(RIM))[:, :2]
    return shapely.Polygon(np.concatenate([edge, edge[::-1] * [1.0, -1.0]]))


def _outside(opening: Opening, shape: shapely.Polygon, whole: shapely.Polygon) -> Finding | None:
    if whole.contains(shape):
        return None
    where = f"opening {opening.name}"
    if not whole.intersects(shape):
        text = "This opening does not lie on the deck at all: move it."
    else:
        beyond = shapely.difference(shape, whole)
        by = max(float(shapely.distance(shapely.Point(p), whole)) for p in shapely.get_coordinates(beyond))
        text = f"This opening reaches {mm(round(by))} past the edge of the deck: make it narrower or shorter, or move it."
    return Finding("opening-outside", Weight.STOP, "deck", where, text)


def _planned(
    opening: Opening, shape: shapely.Polygon, larger: shapely.Polygon, deck: Deck, plan: DeckPlan, settings: DeckSettings
) -> OpeningPlan:
    rim = on_deck(deck.surface, np.asarray(shape.exterior.coords))
    free = shapely.buffer(shape, -settings.past_opening)
    shapely.prepare(free)
    cuts = tuple(cut for strip in plan.planking.strips for cut in _cuts(strip, plan.planking, free))
    left, low, right, high = shape.bounds
    over_centre = low < 0 < high
    step = _step(deck, settings, left, right) if over_centre else None
    return OpeningPlan(
        opening,
        frozen(np.asarray(shape.exterior.coords)[:-1]),
        frozen(np.asarray(larger.exterior.coords)[:-1]),
        frozen(_ring_of(free)),
        frozen(rim),
        float(runs_along(rim)[-1]),
        cuts,
        step,
    )


def _ring_of(free: shapely.Geometry) -> Array:
    """The outline of what is left out, the largest part of it, (k, 2); three times one place where nothing is."""
    parts = [part for part in shapely.get_parts(free) if part.geom_type == "Polygon" and not part.is_empty]
    if not parts:
        return np.zeros((3, 2))
    return np.asarray(max(parts, key=lambda part: part.area).exterior.coords)[:-1]


def _cuts(strip: Strip, planking: Planking, free: shapely.Polygon) -> list[CutShort]:
    """What an opening takes of a strip on either side."""
    near = [(sign, side) for sign, side in SIDES if _comes_near(strip, free, sign)]
    own = faces(strip, planking, ALONG) if near else []
    return [cut for sign, side in near for face in own for cut in _cut(strip.number, face, free, sign, side)]


def _cut(number: int, face: Face, free: shapely.Polygon, sign: float, side: str) -> list[CutShort]:
    """What an opening takes of a part of a strip on one side: where its whole width lies over what is `free` to be left out."""
    middle = (face.near + face.far) / 2
    over = np.ones(len(middle), dtype=bool)
    for line in (face.near, middle, face.far):
        over &= shapely.contains_xy(free, line[:, 0], sign * line[:, 1])
    runs = runs_along(middle)
    found = [
        CutShort(number, side, float(middle[first, 0]), float(middle[stop - 1, 0]), float(runs[stop - 1] - runs[first]))
        for first, stop in ranges_of(over)
    ]
    return [cut for cut in found if cut.saved > 0]


def _comes_near(strip: Strip, free: shapely.Polygon, sign: float) -> bool:
    """Whether an edge of a strip comes into the box about what is free to be left out."""
    left, low, right, high = free.bounds
    points = np.concatenate([piece.points[:, :2] for piece in (*strip.near, *strip.far)]) * [1.0, sign]
    inside = (points[:, 0] > left) & (points[:, 0] < right) & (points[:, 1] > low) & (points[:, 1] < high)
    return bool(inside.any())


def _step(deck: Deck, settings: DeckSettings, ahead_of: float, astern_of: float) -> Step | None:
    ahead, astern = half_girth(deck, ahead_of), half_girth(deck, astern_of)
    if ahead <= 0 or astern <= 0:
        return None
    return step_between(ahead, astern, settings.width, settings.least_width)


def step_between(ahead: float, astern: float, width: float, least: float) -> Step:
    """How the runs ahead and astern of an opening agree, from the half-girths there, mm: the same number of strips must fill both.

    Where one girth is less by d, strips of one width are out of step by d at the last of them, and by its share of d at every
    one before. k strips narrower at that end by d / k each bring it back; none may be narrower than `least`. Plane arithmetic;
    common practice."""
    apart = ahead - astern
    count = max(math.ceil(max(ahead, astern) / width - 1e-9), 1)
    size = abs(apart)
    shows = None if size <= STEP_SHARE * width else min(math.ceil(STEP_SHARE * width * count / size), count)
    room = width - least
    tapered = 0 if size < 1e-9 else count if room <= 0 else min(max(math.ceil(size / room - 1e-9), 1), count)
    narrow = width - size / tapered if tapered else width
    return Step(ahead, astern, apart, count, shows, tapered, narrow, "astern" if apart > 0 else "ahead")


def runs_meet(settings: DeckSettings) -> bool:
    """Whether the runs ahead and astern of an opening come to the same strips: laid from the sheer, all one width, they run through
    beside it and end where they come to the centreline; else as many strips have to fill both."""
    return settings.guide is not DeckGuide.SHEER or settings.layout is DeckLayout.TAPERED


def _step_findings(made: OpeningPlan, settings: DeckSettings) -> list[Finding]:
    step = made.step
    if step is None or step.shows_at is None or not runs_meet(settings):
        return []
    where = f"opening {made.opening.name}"
    if step.narrow < settings.least_width - 1e-6:
        mend = (
            "That is more than all of the strips can take: lay the runs ahead and astern by themselves, and close each with "
            "its own last strip."
        )
    else:
        mend = (
            f"{step.tapered} strip{'s' if step.tapered > 1 else ''} {mm(settings.width)} wide at one end and "
            f"{mm(round(step.narrow, 1))} {step.narrow_end} of it bring them back."
        )
    text = (
        f"Half the deck is {mm(round(step.ahead, 1))} around ahead of it and {mm(round(step.astern, 1))} astern: with as many "
        f"strips the runs get {mm(round(abs(step.apart), 1))} out of step, half a strip by strip {step.shows_at}. {mend}"
    )
    return [Finding("out-of-step", Weight.LOOK, "deck", where, text)]


def on_deck(surface: Hull, plan: Array) -> Array:
    """Places (n, 2) of the plan view, mm, as they lie on the deck, (n, 3), mm; nearest where the deck does not come."""
    found = np.empty((len(plan), 3))
    best = np.full(len(plan), np.inf)
    target = np.column_stack([plan[:, 0], np.abs(plan[:, 1])])
    for panel in surface.panels:
        u, v = (a.ravel() for a in np.meshgrid(np.linspace(0, 1, 161), np.linspace(0, 1, 33), indexing="ij"))
        cloud = panel.surface.points(u, v)
        from scipy.spatial import cKDTree  # loads slowly: not before it is needed

        near = cKDTree(cloud[:, :2]).query(target)[1]
        a, b = u[near], v[near]
        for _ in range(6):  # Newton in the plan
            jet = panel.surface.jet(a, b)
            miss = target - jet.point[:, :2]
            det = jet.du[:, 0] * jet.dv[:, 1] - jet.du[:, 1] * jet.dv[:, 0]
            det = np.where(np.abs(det) > 1e-9, det, 1e-9)
            a = np.clip(a + (miss[:, 0] * jet.dv[:, 1] - miss[:, 1] * jet.dv[:, 0]) / det, 0, 1)
            b = np.clip(b + (jet.du[:, 0] * miss[:, 1] - jet.du[:, 1] * miss[:, 0]) / det, 0, 1)
        points = panel.surface.points(a, b)
        away = np.linalg.norm(points[:, :2] - target, axis=1)
        better = away < best
        found[better], best[better] = points[better], away[better]
    found[:, 1] *= np.where(plan[:, 1] < 0, -1.0, 1.0)
    return found


def saved_by_strip(openings: Sequence[OpeningPlan]) -> dict[tuple[int, str], float]:
    """How much of each strip of a side openings save, mm."""
    found: dict[tuple[int, str], float] = {}
    for made in openings:
        for cut in made.cut_short:
            found[cut.strip, cut.side] = found.get((cut.strip, cut.side), 0.0) + cut.saved
    return found
