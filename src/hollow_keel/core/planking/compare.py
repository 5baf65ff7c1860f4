"""Ways of planking a hull side by side, and a search for the least troublesome."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..errors import ImpossiblePlan
from ..hull.build import Hull
from ..job import MasterLine, StripSettings
from ..rules import SLIVER_SHARE
from ..settings.strip_choices import Guide, MasterKind, StripLayout
from ..units import round_to
from .mechanics import GRADES, HARD, Handling, behaviours
from .plank import laying_of, plank
from .strips import Planking

SHORT_SHARE = 0.25
"""A strip of so small a share of the longest is short."""
WIDTH_SHARES = (1.0, 0.8, 0.65)
MASTER_SHARES = (0.5, 0.7, 0.85)


@dataclass(frozen=True)
class PlanSummary:
    """What a way of planking comes to: strips a side, total length of both sides (mm), wood (mm³, net), longest and
    shortest strip (mm), slivers and short strips a side, the worst grade, how many strips a side want heat or more and
    where the worst is (mm along), hours for both sides; `refused` says why it cannot be laid (all else is then zero)."""

    settings: StripSettings
    per_side: int = 0
    total: float = 0.0
    wood: float = 0.0
    longest: float = 0.0
    shortest: float = 0.0
    slivers: int = 0
    short: int = 0
    worst: Handling = Handling.HAND
    hard: int = 0
    where: float = 0.0
    share: float = 0.0
    hours: float = 0.0
    refused: str = ""

    @property
    def order(self) -> tuple[float, ...]:
        """Numbers of which the lower is the better, the first before the second: worst grade, how many are hard, short strips and
        slivers, wood."""
        if self.refused:
            return (float(len(GRADES)),)
        return (float(GRADES.index(self.worst)), self.hard, self.slivers + self.short, self.wood)


def summarise(strips: StripSettings, planking: Planking, stations: list[float]) -> PlanSummary:
    """What a laid plan comes to, over molds at `stations` (mm)."""
    found = behaviours(strips, planking, stations)
    lengths = [s.length for s in planking.strips]
    made = [(s, strips.at_place(planking.places[s.number])) for s in planking.strips]
    hardest = max(found.values(), key=lambda b: (GRADES.index(b.grade), b.share, b.push))
    return PlanSummary(
        strips, len(planking.strips), planking.total_length,
        sum(2 * s.length * own.width * own.thickness for s, own in made),
        max(lengths), min(lengths),
        sum(s.width_max < SLIVER_SHARE * planking.width for s in planking.strips),
        sum(length < SHORT_SHARE * max(lengths) for length in lengths),
        hardest.grade, sum(b.grade in HARD for b in found.values()),
        hardest.place, hardest.share, 2 * len(lengths) * strips.minutes / 60,
    )  # fmt: skip


def weigh(
    hull: Hull, strips: StripSettings, stations: list[float], tick: Callable[[float], None] = lambda _: None
) -> PlanSummary:
    """Lay a plan over stations (mm) and say what it comes to; one that cannot be laid says why. Raises what `tick` raises."""
    try:
        return summarise(strips, plank(hull, laying_of(strips), tick=tick), stations)
    except ImpossiblePlan as error:
        return PlanSummary(strips, refused=str(error))


def candidates(strips: StripSettings, step: float) -> list[StripSettings]:
    """Ways to try from what the builder has chosen now: guides, widths, one width or tapered. Thickness, wood and edges stay.
    Widths are whole steps (mm) of the builder's rule: what is shown is what is milled."""
    guides: list[dict[str, object]] = [{"guide": Guide.SHEER}]
    guides += [
        {"guide": Guide.MASTER, "master": MasterLine(kind=kind, share=share)}
        for kind, share in [(MasterKind.NATURAL, 0.6), *((MasterKind.GIRTH, s) for s in MASTER_SHARES)]
    ]
    guides += [{"guide": Guide.MASTER, "master": MasterLine(kind=MasterKind.HEIGHT)}, {"guide": Guide.BOTH}]
    found = []
    for guide, layout, share in itertools.product(
        guides, (StripLayout.PARALLEL, StripLayout.TAPERED), WIDTH_SHARES
    ):
        if layout is StripLayout.TAPERED and guide["guide"] is Guide.BOTH:
            continue  # tapered there is nothing left to close
        width = round_to(strips.width * share, step) if share < 1 else strips.width
        width = max(width, strips.thickness)
        found.append(strips.model_copy(update={**guide, "layout": layout, "width": width, "zones": ()}))
    return list(dict.fromkeys(found))


def search(
    hull: Hull, strips: StripSettings, stations: list[float], step: float, tick: Callable[[float], None]
) -> Iterator[PlanSummary]:
    """Every candidate weighed, as it comes; widths in whole steps of `step` mm; `tick` is told the share
    done and may raise to cancel."""
    tries = candidates(strips, step)
    for k, settings in enumerate(tries):
        yield weigh(hull, settings, stations)
        tick((k + 1) / len(tries))


def reasons(best: PlanSummary, now: PlanSummary) -> str:
    """Why a plan is better than the present one, in words."""
    if best.order >= now.order:
        return "Nothing tried is better than what you have."
    said = []
    if GRADES.index(best.worst) != GRADES.index(now.worst):
        said.append(
            f"its hardest strip goes on with {best.worst.value}, not {now.worst.value}".replace(
                "with by", "by"
            )
        )
    if best.hard != now.hard:
        said.append(f"{best.hard} strips a side want heat instead of {now.hard}")
    if best.slivers + best.short != now.slivers + now.short:
        said.append(
            f"{best.slivers + best.short} short strips or slivers a side instead of {now.slivers + now.short}"
        )
    more = best.wood / now.wood - 1 if now.wood else 0.0
    said.append(f"{abs(more):.0%} {'more' if more > 0 else 'less'} wood")
    return "; ".join(said) + "."


def in_words(strips: StripSettings) -> str:
    """A plan by its guide and layout."""
    guides = {Guide.SHEER: "from the sheer", Guide.KEEL: "from the keel", Guide.BOTH: "from both edges"}
    where = guides.get(strips.guide, "")
    if strips.guide is Guide.MASTER:
        master = strips.master
        where = {
            MasterKind.HEIGHT: "master line with the sheer's sweep", MasterKind.HEIGHTS: "master line by heights",
            MasterKind.GIRTH: f"master line at {master.share:.0%} of the girth", MasterKind.DIAGONAL: "master diagonal",
            MasterKind.NATURAL: "natural master line",
        }[master.kind]  # fmt: skip
    layouts = {
        StripLayout.PARALLEL: "one width",
        StripLayout.TAPERED: "tapered",
        StripLayout.MIXED: "full, then tapered",
        StripLayout.FEW: "a few tapered",
    }
    return f"{where}, {layouts[strips.layout]}"
