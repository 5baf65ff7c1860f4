"""What the strips of a deck need, beside those of the hull: numbered from 1001, cut where openings are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ..deck.openings import CutShort, OpeningPlan
from ..deck.strips import DeckPlan
from ..geometry.arrays import frozen
from ..job import Job
from ..planking.mechanics import Behaviour
from ..rules import LEAST_BIT_MM
from .needs import DECK_FROM, Need, needs_of


def deck_needs(
    job: Job, plan: DeckPlan, found: Mapping[int, Behaviour], stations: Sequence[float], openings: Sequence[OpeningPlan]
) -> tuple[Need, ...]:
    """Every length to be made for the deck, mm, port and starboard in turn. Joints stay clear of molds as the hull's do."""
    strips = job.deck.strips.model_copy(update={"allowance": job.strips.allowance})
    own = needs_of(strips, plan.planking, found, stations, job.stock.joints)
    cuts: dict[tuple[int, str], list[CutShort]] = {}
    for made in openings:
        for cut in made.cut_short:
            cuts.setdefault((cut.strip, cut.side), []).append(cut)
    found_needs: list[Need] = []
    parts: dict[tuple[int, str], int] = {}
    for need in own:
        for bit in _beside_openings(need, cuts.get((need.strip, need.side), ()), job.strips.allowance):
            key = need.strip, need.side
            parts[key] = parts.get(key, -1) + 1
            found_needs.append(_of_deck(replace(bit, part=parts[key])))
    return tuple(found_needs)


def _of_deck(need: Need) -> Need:
    panel, course, place = need.row
    beside = tuple((strip + DECK_FROM, low, high) for strip, low, high in need.beside)
    return replace(need, strip=need.strip + DECK_FROM, row=(panel + DECK_FROM, course, place), beside=beside)


def _beside_openings(need: Need, cuts: Sequence[CutShort], allowance: float) -> list[Need]:
    """What is left of a length where openings take parts of it, each longer by the allowance where it is cut off there."""
    spans = [(0.0, need.length)]
    for cut in cuts:
        low, high = sorted(need.runs((cut.start, cut.stop)))
        if high - low < cut.saved / 2:  # the opening lies over another part of this strip
            continue
        spans = [bit for first, last in spans for bit in _without(first, last, low + allowance, high - allowance)]
    return [_part(need, first, last) for first, last in spans if last - first > LEAST_BIT_MM]


def _without(first: float, last: float, low: float, high: float) -> list[tuple[float, float]]:
    if high <= low or high <= first or low >= last:
        return [(first, last)]
    return [(first, low), (high, last)]


def _part(need: Need, first: float, last: float) -> Need:
    if (first, last) == (0.0, need.length):
        return need
    runs = np.unique(np.concatenate([[first, last], need.at[(need.at[:, 0] > first) & (need.at[:, 0] < last), 0]]))
    at = np.column_stack([runs - first, np.interp(runs, need.at[:, 0], need.at[:, 1])])
    shut = tuple((a - first, b - first) for a, b in need.shut if b > first and a < last)
    return replace(need, length=last - first, at=frozen(at), shut=shut)
