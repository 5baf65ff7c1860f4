"""Ways of planking a hull side by side, and a search for the least troublesome."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..errors import ImpossiblePlan
from ..hull.build import Hull
from ..job import MasterLine, StripSettings
from ..rules import SLIVER_SHARE
from ..settings.strip_choices import Guide, MasterKind, StripLayout
from ..units import round_to
from ..words import counted, verb
from .courses import Fields
from .end_turns import folded
from .mechanics import GRADES, HARD, Handling, behaviours
from .plank import laying_of, plank
from .strips import Planking

SHORT_SHARE = 0.25
"""A strip of so small a share of the longest is short."""
WIDTH_SHARES = (1.0, 1.15, 0.85, 0.7)
BESIDE_SHARES, FOLLOWED = (1.1, 1.05, 0.95, 0.9), 4
"""Widths that are tried beside those of the best ways, and of how many."""
MASTER_SHARES = (0.6, 0.85)
SAME_WOOD = 0.01
"""Wood that differs by less than such a share decides nothing: offcuts and saws take more."""
NOT_TRIED = (
    "Not tried: other thicknesses, woods and edges, strips of several widths in one plan, other diagonals or heights of a master "
    "line, another number of strips from the keel."
)
"""What a search leaves as the builder has it."""


@dataclass(frozen=True)
class PlanSummary:
    """What a way of planking comes to: strips a side, total length of both sides (mm), wood (mm³, net), longest and
    shortest strip (mm), slivers and short strips a side, how many strips turn too far at an end (end_turns.py), the worst grade
    from end to end, how many strips a side want heat or more and where the worst is (mm along), hours for both sides; `refused`
    says why it cannot be laid (all else is then zero)."""

    settings: StripSettings
    per_side: int = 0
    total: float = 0.0
    wood: float = 0.0
    longest: float = 0.0
    shortest: float = 0.0
    slivers: int = 0
    short: int = 0
    folds: int = 0
    worst: Handling = Handling.HAND
    hard: int = 0
    where: float = 0.0
    share: float = 0.0
    hours: float = 0.0
    refused: str = ""

    @property
    def order(self) -> tuple[float, ...]:
        """Numbers of which the lower is the better, the first before the second: worst grade, how many fold at an end, how many are
        hard, short strips and slivers, wood to a hundredth, how hard the hardest is."""
        if self.refused:
            return (float(len(GRADES)),)
        wood = float(round(math.log(self.wood) / math.log1p(SAME_WOOD))) if self.wood else 0.0
        grade = float(GRADES.index(self.worst))
        return (grade, self.folds, self.hard, self.slivers + self.short, wood, self.share)


def summarise(strips: StripSettings, planking: Planking, stations: list[float]) -> PlanSummary:
    """What a laid plan comes to, over molds at `stations` (mm)."""
    found = behaviours(strips, planking, stations)
    lengths = [s.length for s in planking.strips]
    made = [(s, strips.at_place(planking.places[s.number])) for s in planking.strips]
    hardest = max(found.values(), key=lambda b: (GRADES.index(b.grade), b.share, b.push))
    return PlanSummary(
        strips,
        len(planking.strips),
        planking.total_length,
        sum(2 * s.length * own.width * own.thickness for s, own in made),
        max(lengths),
        min(lengths),
        sum(s.width_max < SLIVER_SHARE * planking.width for s in planking.strips),
        sum(length < SHORT_SHARE * max(lengths) for length in lengths),
        len(folded(planking)),
        hardest.grade,
        sum(b.grade in HARD for b in found.values()),
        hardest.place,
        hardest.share,
        2 * len(lengths) * strips.minutes / 60,
    )


def weigh(
    hull: Hull,
    strips: StripSettings,
    stations: list[float],
    tick: Callable[[float], None] = lambda _: None,
    fields: Fields | None = None,
) -> PlanSummary:
    """Lay a plan over stations (mm) and say what it comes to; one that cannot be laid says why. `fields` keeps distances for other
    plans of this hull. Raises what `tick` raises."""
    try:
        planking = plank(hull, laying_of(strips), tick=tick, fields=fields)
        return summarise(strips, planking, stations)
    except ImpossiblePlan as error:
        return PlanSummary(strips, refused=str(error))


def candidates(strips: StripSettings, step: float) -> list[StripSettings]:
    """Ways to try from what the builder has chosen now: guides, layouts, widths. Thickness, wood and edges stay.
    Widths are whole steps (mm) of the builder's rule: what is shown is what is milled."""
    guides: list[dict[str, object]] = [{"guide": Guide.SHEER}, {"guide": Guide.KEEL}, {"guide": Guide.BOTH}]
    guides += [
        {"guide": Guide.MASTER, "master": MasterLine(kind=kind, share=share)}
        for kind, share in [(MasterKind.NATURAL, 0.6), *((MasterKind.GIRTH, s) for s in MASTER_SHARES)]
    ]
    guides += [{"guide": Guide.MASTER, "master": MasterLine(kind=kind)} for kind in (MasterKind.HEIGHT, MasterKind.DIAGONAL)]
    if strips.guide is Guide.MASTER and strips.master.kind in (MasterKind.DIAGONAL, MasterKind.HEIGHTS):
        guides += [{"guide": Guide.MASTER, "master": strips.master}]
    return list(
        dict.fromkeys(
            _as_wide(strips.model_copy(update={**guide, "layout": layout, "zones": ()}), strips.width * share, step)
            for guide, layout, share in itertools.product(guides, StripLayout, WIDTH_SHARES)
        )
    )


def _as_wide(strips: StripSettings, width: float, step: float) -> StripSettings:
    """Strips of about a width that the builder's rule shows (his own as it is), no narrower than thick."""
    whole = width if width == strips.width else round_to(width, step)
    return strips.model_copy(update={"width": max(whole, strips.thickness)})


def closer(best: list[StripSettings], strips: StripSettings, step: float) -> list[StripSettings]:
    """The best ways with widths beside theirs, none wider than the widest that is tried at all."""
    widest = max(WIDTH_SHARES) * strips.width + step / 2
    return list(
        dict.fromkeys(
            _as_wide(own, own.width * share, step) for own in best for share in BESIDE_SHARES if own.width * share <= widest
        )
    )


def search(
    hull: Hull, strips: StripSettings, stations: list[float], step: float, tick: Callable[[float], None], fields: Fields
) -> Iterator[PlanSummary]:
    """Every candidate weighed, as it comes, and then widths beside those of the best; widths in whole steps of `step` mm; `tick` is
    told the share done and may raise to cancel; `fields` keeps distances for other plans of this hull."""
    found: dict[StripSettings, PlanSummary] = {}
    tries = candidates(strips, step)
    many = len(tries) + FOLLOWED * len(BESIDE_SHARES)
    for _ in range(2):
        for settings in tries:
            found[settings] = weigh(hull, settings, stations, fields=fields)
            yield found[settings]
            tick(len(found) / many)
        best = sorted((p for p in found.values() if not p.refused), key=lambda p: p.order)[:FOLLOWED]
        tries = [own for own in closer([p.settings for p in best], strips, step) if own not in found]


def reasons(best: PlanSummary, now: PlanSummary) -> str:
    """Why a plan is better than the present one, in words."""
    if best.order >= now.order:
        return "Nothing tried is better than what you have."
    said = []
    if GRADES.index(best.worst) != GRADES.index(now.worst):
        said.append(f"its hardest strip goes on with {best.worst.value}, not {now.worst.value}".replace("with by", "by"))
    if best.hard != now.hard:
        said.append(f"{counted(best.hard, 'strip')} a side {verb(best.hard, 'wants', 'want')} heat instead of {now.hard}")
    if best.folds != now.folds:
        said.append(
            f"{counted(best.folds, 'strip')} a side {verb(best.folds, 'turns', 'turn')} sharply at an end instead of {now.folds}"
        )
    if best.slivers + best.short != now.slivers + now.short:
        said.append(f"{best.slivers + best.short} short strips or slivers a side instead of {now.slivers + now.short}")
    more = best.wood / now.wood - 1 if now.wood else 0.0
    if abs(more) >= SAME_WOOD:
        said.append(f"{abs(more):.0%} {'more' if more > 0 else 'less'} wood")
    if not said:
        said.append("its hardest strip is bent a little less")
    return "; ".join(said) + "."


def in_words(strips: StripSettings) -> str:
    """A plan by its guide and layout."""
    guides = {Guide.SHEER: "from the sheer", Guide.KEEL: "from the keel", Guide.BOTH: "from both edges"}
    where = guides.get(strips.guide, "")
    if strips.guide is Guide.MASTER:
        master = strips.master
        where = {
            MasterKind.HEIGHT: "master line with the sheer's sweep",
            MasterKind.HEIGHTS: "master line by heights",
            MasterKind.GIRTH: f"master line at {master.share:.0%} of the girth",
            MasterKind.DIAGONAL: "master diagonal",
            MasterKind.NATURAL: "natural master line",
        }[master.kind]
    layouts = {
        StripLayout.PARALLEL: "one width",
        StripLayout.TAPERED: "tapered",
        StripLayout.MIXED: "full, then tapered",
        StripLayout.FEW: "a few tapered",
    }
    return f"{where}, {layouts[strips.layout]}"
