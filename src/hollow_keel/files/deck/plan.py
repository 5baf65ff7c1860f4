"""The deck's part of the plan file (see docs/plan-file.md). Lengths mm, areas m², angles degrees, curvatures 1/m."""

from __future__ import annotations

import math
from typing import Any

from ...core.deck.openings import OpeningPlan
from ...core.deck.strip_stages import DECK_BEHAVIOURS, DECK_JOIN, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS, DECK_TICKS, WAYS_OUT
from ...core.deck.ticks import DeckTick
from ...core.hull.stages import DECK, DECK_DOUBT
from ...core.molds.stages import MOLDS
from ...core.molds.stations import Mold
from ...core.planking.end_cuts import EndCut
from ...core.planking.mechanics import Behaviour
from ...core.planking.strips import Strip
from ...core.results import Results
from ...core.settings.deck import decked
from ..planking.plan import strip_part
from ..rounded import rounded


def deck_document(results: Results) -> dict[str, Any]:
    """Everything about the deck; empty where there is none."""
    if not decked(results.job):
        return {}
    deck, planking = results[DECK], results[DECK_PLAN].planking
    found, ends, join = results[DECK_BEHAVIOURS], results[DECK_STRIP_ENDS], results[DECK_JOIN]
    ways, ticks = {out.mold: out for out in results[WAYS_OUT]}, results[DECK_TICKS]
    return {
        "area": rounded(deck.area, 6),
        "uncertain_by": rounded(results[DECK_DOUBT]),
        "girths": [{"station": x, "half_girth": rounded(g)} for x, g in deck.surface.girths],
        "molds": [_mold(mold) for mold in results[MOLDS].molds if mold.deck is not None],
        "strips": {
            "per_side": len(planking.strips),
            "total_length_m": rounded(planking.total_length / 1000),
            "saved_m": rounded(sum(o.saved for o in results[DECK_OPENINGS].openings) / 1000),
            "strips": [_strip(s, found[s.number], ends[s.number]) for s in planking.strips],
        },
        "ticks": {name: [_tick(t) for t in own] for name, own in ticks.items()},
        "openings": [_opening(made) for made in results[DECK_OPENINGS].openings],
        "join": {
            "kind": results.job.deck.join.value,
            "length": rounded(join.length),
            "bands": rounded(join.bands),
            "cloth": rounded(join.cloth, 6),
            "places": [
                {
                    "station": rounded(p.at),
                    "angle": rounded(math.degrees(p.angle)),
                    "bevel": rounded(math.degrees(p.bevel)),
                    "deep": rounded(p.deep),
                }
                for p in join.places
            ],
        },
        "ways_out": [{"mold": name, "way": out.way.value, "through": out.through} for name, out in ways.items()],
    }


def _mold(mold: Mold) -> dict[str, Any]:
    assert mold.deck is not None
    return {
        "name": mold.name,
        "corner": [rounded(c) for c in mold.deck.corner],
        "points": [[rounded(y), rounded(z)] for y, z in mold.deck.deck],
        "bevels": [rounded(math.degrees(abs(b))) for b in mold.deck.narrowing],
    }


def _tick(tick: DeckTick) -> dict[str, Any]:
    bevel = None if tick.bevel is None else rounded(math.degrees(tick.bevel))
    planed = None if tick.planed is None else rounded(tick.planed)
    return {"n": tick.number, "outer": rounded(tick.outer), "inner": rounded(tick.inner), "bevel": bevel, "planed": planed}


def _strip(strip: Strip, own: Behaviour, cuts: tuple[EndCut | None, EndCut | None]) -> dict[str, Any]:
    return {**strip_part(strip, own), "cuts": [_cut(cut, strip.width_max) for cut in cuts]}


def _cut(cut: EndCut | None, width: float) -> dict[str, Any] | None:
    """How an end is cut: degrees between the strip and what it is cut to, and how long that cut is, mm."""
    if cut is None:
        return None
    return {"on": cut.on, "across": rounded(cut.across), "length": rounded(cut.long(width))}


def _opening(made: OpeningPlan) -> dict[str, Any]:
    step = made.step
    return {
        "name": made.opening.name,
        "shape": made.opening.shape.value,
        "smallest": [[rounded(x), rounded(y)] for x, y in made.smallest],
        "rim_length": rounded(made.rim_length),
        "interrupted": list(made.interrupted),
        "saved": rounded(made.saved),
        "step": None
        if step is None
        else {
            "ahead": rounded(step.ahead),
            "astern": rounded(step.astern),
            "out_of_step": rounded(step.apart),
            "strips": step.strips,
            "shows_at": step.shows_at,
            "tapered": step.tapered,
            "narrow": rounded(step.narrow),
            "narrow_end": step.narrow_end,
        },
    }
