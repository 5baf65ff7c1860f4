"""Strips without a joint: which stick or board each one is cut from, so that least is bought.

All strips of a section are one cutting-stock problem: sticks on hand cost nothing, boards for sale are bought whole, however many
strips come from one, and every cross-cut takes the saw's kerf.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..errors import ImpossiblePlan
from ..settings.timber import MadePiece, MadeStrip, StockSettings
from .buying import Purchase, costs_of, for_sale, no_length, nothing_for_sale
from .cutting import Bar, CuttingPlan, cut_stock
from .joint_plan import JointPlan, Made, Stick, wood_gone
from .needs import Need, Scantling

PER_MM = 10
"""Lengths are cut to a tenth of a millimetre: a strip never comes out shorter, a board is never taken for longer."""


@dataclass(frozen=True)
class WholeCut:
    """How the strips of a section are cut: the lengths of the sticks on hand and the boards for sale that the cuts' bars are, what
    to buy, and the cutting plan."""

    section: Scantling
    on_hand: tuple[float, ...]
    bought: tuple[Purchase, ...]
    offered: tuple[int, ...]
    plan: CuttingPlan


def cut_whole(
    needs: Sequence[Need], section: Scantling, wood: str, have: Sequence[Stick], stock: StockSettings, tick: Callable[[float], None]
) -> WholeCut:
    """The cheapest way to cut needs (mm) of one section in one piece each; `tick` is told the share done. Raises ImpossiblePlan
    where they cannot be."""
    lengths: dict[int, int] = {}
    for need in needs:
        length = _up(need.length)
        lengths[length] = lengths.get(length, 0) + 1
    hand: dict[int, int] = {}
    for stick in have:
        hand[_down(stick.length)] = hand.get(_down(stick.length), 0) + 1
    offers = for_sale(section, wood, stock.saw, stock.buying)
    costs = costs_of([board for _, board, _ in offers], stock.buying.wish)
    bars = [Bar(length, 0.0, count) for length, count in hand.items()]
    bars += [
        Bar(_down(board.usable), float(cost), board.count or None, rip.count)
        for (_, board, rip), cost in zip(offers, costs, strict=True)
    ]
    if not bars:
        raise ImpossiblePlan(nothing_for_sale(section))
    longest = max(bar.length for bar in bars)
    if max(lengths) > longest:
        raise ImpossiblePlan(no_length(max(lengths) / PER_MM, longest / PER_MM))
    plan = cut_stock(list(lengths.items()), bars, _up(stock.saw.kerf), tick)
    more = 1 + stock.buying.spare / 100
    bought = []
    for k, (number, board, rip) in enumerate(offers, start=len(hand)):
        count = math.ceil(plan.lots(k, rip.count) * more - 1e-9)
        if count:
            bought.append(Purchase(number, board, min(count, board.count or count), section, rip))
    return WholeCut(section, tuple(length / PER_MM for length in hand), tuple(bought), tuple(n for n, _, _ in offers), plan)


def _up(mm: float) -> int:
    return math.ceil(mm * PER_MM - 1e-6)


def _down(mm: float) -> int:
    return math.floor(mm * PER_MM + 1e-6)


def made_whole(
    needs: Sequence[Need],
    cuts: Iterable[WholeCut],
    have: Mapping[Scantling, Sequence[Stick]],
    new: Mapping[tuple[Scantling, int], Sequence[Stick]],
    stock: StockSettings,
) -> JointPlan:
    """Every need with the stick it is cut from: those on hand, and the `new` ones by section and number in the list for sale."""
    done = {c.key for c in stock.cut}
    made: list[Made] = []
    left: list[Stick] = []
    used = 0.0
    for cut in cuts:
        waiting: dict[int, list[Need]] = {}
        for need in reversed([n for n in needs if n.section == cut.section and n.key not in done]):
            waiting.setdefault(_up(need.length), []).append(need)
        pools = [[s for s in have.get(cut.section, ()) if _down(s.length) == _down(length)] for length in cut.on_hand]
        pools += [list(new.get((cut.section, number), ())) for number in cut.offered]
        for own in cut.plan.cuts:
            for _ in range(own.times):
                stick = pools[own.bar].pop(0)
                used += stick.length
                rest = stick
                for length, count in own.pieces:
                    for _ in range(count):
                        need = waiting[length].pop()
                        made.append(Made(need, (MadePiece(stick=rest.name, length=need.length),), ()))
                        name = rest.name if rest.offcut else f"{rest.name}*"
                        rest = Stick(rest.length - need.length - stock.saw.kerf, name, offcut=True)
                if rest.length >= stock.joints.least_piece:
                    left.append(rest)
    order = {need.key: k for k, need in enumerate(needs)}
    made.sort(key=lambda m: order[m.need.key])
    _, scrap = wood_gone(made, used, tuple(left), lambda _: 0.0)
    missing = tuple(n for n in needs if n.key not in done and n.key not in {m.need.key for m in made})
    stays: tuple[MadeStrip, ...] = tuple(stock.cut)
    return JointPlan(tuple(made), missing, used, 0.0, max(scrap, 0.0), tuple(left), stays)
