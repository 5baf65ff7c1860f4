"""The cutting-stock problem: the cheapest set of stock lengths from which all wanted lengths can be cut.

Gilmore and Gomory's column generation (*Operations Research*, 1961 and 1963): a linear programme over cutting patterns, new
patterns found by a knapsack; then the best whole numbers of the patterns found. The linear programme's value is a bound that no
plan can be under. Where the plan is over it, all patterns are tried that could be in a better one: those whose reduced cost is no
more than what the plan is over the bound (reduced-cost fixing, as in any textbook of integer programming). The plan is then
proven best.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array, IntArray
from .solver import least_cost

ROUNDS = 400
MOST_STEPS, MOST_PATTERNS = 300_000, 12_000
"""So much is tried to prove a plan the best one."""
TOLERANCE = 1e-9


class NotEnough(ImpossiblePlan):
    """There is less stock than the lengths take."""


@dataclass(frozen=True)
class Bar:
    """A stock length in whole units. It comes `per` at a time, as strips come from a board, at a `cost` for all of them; `most` is
    how many such lots there are (None: any number)."""

    length: int
    cost: float = 1.0
    most: int | None = None
    per: int = 1

    @property
    def each(self) -> float:
        """What one length costs where every one of its lot is used."""
        return self.cost / self.per

    @property
    def lengths(self) -> int | None:
        """How many lengths there are (None: any number)."""
        return None if self.most is None else self.most * self.per


@dataclass(frozen=True)
class Cut:
    """`times` this bar is cut into `pieces` (length, count)."""

    bar: int
    times: int
    pieces: tuple[tuple[int, int], ...]


@dataclass(frozen=True)
class CuttingPlan:
    """All cuts, their cost, a bound that no plan can be under, and whether the plan is proven best."""

    cuts: tuple[Cut, ...]
    cost: float
    bound: float
    solved: bool = True
    """Whether no better one can be made of the patterns that were tried."""

    @property
    def proven(self) -> bool:
        """Whether nothing can be better."""
        return self.cost <= self.bound + 1e-6

    def lots(self, bar: int, per: int) -> int:
        """How many lots of a bar are begun."""
        return math.ceil(sum(cut.times for cut in self.cuts if cut.bar == bar) / per)

    @property
    def bars(self) -> int:
        """How many stock lengths are cut."""
        return sum(cut.times for cut in self.cuts)


def cut_stock(
    wanted: Sequence[tuple[int, int]], bars: Sequence[Bar], kerf: int = 0, tick: Callable[[float], None] = lambda _: None
) -> CuttingPlan:
    """Cut `wanted` (length, count) from bars, a kerf between pieces. Lengths are whole units of any size.

    Raises ImpossiblePlan where a length is longer than every bar, or where there are not bars enough.
    """
    demand: dict[int, int] = {}
    for length, count in wanted:
        if count > 0:
            demand[length] = demand.get(length, 0) + count
    lengths = sorted(demand, reverse=True)
    if not lengths:
        return CuttingPlan((), 0.0, 0.0)
    longest = max((bar.length for bar in bars), default=0)
    if lengths[0] > longest:
        raise ImpossiblePlan(f"The longest piece ({lengths[0]}) is longer than the longest stock ({longest}).")
    need = np.array([demand[length] for length in lengths])
    sizes = np.array([length + kerf for length in lengths])
    patterns = _start(sizes, need, bars, kerf)
    bound, duals, limits = 0.0, np.zeros(len(lengths)), np.zeros(len(bars))
    for turn in range(ROUNDS):
        tick(min(0.9, turn / 60))
        bound, duals, limits = _relaxed(patterns, need, bars)
        fresh = _priced(sizes, need, bars, kerf, duals, limits)
        if not fresh:
            break
        patterns += fresh
    plan = _whole(patterns, need, lengths, bars, bound)
    if plan.proven:
        return plan
    more = _that_could_be(sizes, need, bars, kerf, (duals, limits), plan.cost - bound)
    if more is None:
        return plan  # too many to try: near the best, within what the bound tells
    best = _whole([*patterns, *more], need, lengths, bars, bound)
    return replace(best, bound=best.cost) if best.solved else min((plan, best), key=lambda p: p.cost)


_Pattern = tuple[int, IntArray]  # (bar, how many of each length)


def _start(sizes: IntArray, need: IntArray, bars: Sequence[Bar], kerf: int) -> list[_Pattern]:
    """One pattern for each length: as many of it as the bar holds, for each bar that holds it."""
    found: list[_Pattern] = []
    for number, bar in enumerate(bars):
        for k, size in enumerate(sizes.tolist()):
            count = min((bar.length + kerf) // size, int(need[k]))
            if count:
                pattern = np.zeros(len(sizes), dtype=int)
                pattern[k] = count
                found.append((number, pattern))
    return found


def _relaxed(patterns: list[_Pattern], need: IntArray, bars: Sequence[Bar]) -> tuple[float, Array, Array]:
    """The linear programme's value, the worth of each length, and that of each limited bar. Raises ImpossiblePlan."""
    from scipy.optimize import linprog

    cost = np.array([bars[b].each for b, _ in patterns])
    cover = -np.stack([p for _, p in patterns], axis=1).astype(float)
    limited = [k for k, bar in enumerate(bars) if bar.most is not None]
    rows = np.array([[1.0 if b == k else 0.0 for b, _ in patterns] for k in limited]).reshape(len(limited), len(patterns))
    upper = np.concatenate([-need.astype(float), [float(bars[k].lengths or 0) for k in limited]])
    # what there is too little of may be bought at a price that is paid only where it must be
    dear = 10.0 * max(cost.max(), 1.0)
    short = -np.eye(len(need))
    table = np.hstack([np.vstack([cover, rows]), np.vstack([short, np.zeros((len(limited), len(need)))])])
    found = linprog(np.concatenate([cost, np.full(len(need), dear)]), A_ub=table, b_ub=upper, method="highs")
    worth = -found.ineqlin.marginals
    limits = np.zeros(len(bars))
    limits[limited] = -worth[len(need) :]
    return float(found.fun), worth[: len(need)], limits


def _priced(sizes: IntArray, need: IntArray, bars: Sequence[Bar], kerf: int, worth: Array, limits: Array) -> list[_Pattern]:
    """For each bar the pattern worth most, if it is worth more than it costs: a knapsack with bounded counts."""
    best, taken = _knapsack(sizes, need, worth, max(bar.length for bar in bars) + kerf)
    found: list[_Pattern] = []
    for number, bar in enumerate(bars):
        room = bar.length + kerf
        if best[room] + limits[number] > bar.each + TOLERANCE * max(bar.each, 1.0):
            found.append((number, _traced(sizes, taken, room)))
    return found


def _knapsack(sizes: IntArray, need: IntArray, worth: Array, room: int) -> tuple[Array, list[IntArray]]:
    """The most that each room up to `room` holds, and how many of each length are taken there, length by length."""
    best = np.zeros(room + 1)
    taken: list[IntArray] = []
    for size, most, value in zip(sizes.tolist(), need.tolist(), worth.tolist(), strict=True):
        count = np.zeros(room + 1, dtype=int)
        if value > TOLERANCE:
            start, total = best, best.copy()
            for n in range(1, min(most, room // size) + 1):
                trial = np.full(room + 1, -np.inf)
                trial[n * size :] = start[: room + 1 - n * size] + n * value
                better = trial > total + 1e-12
                total[better], count[better] = trial[better], n
            best = total
        taken.append(count)
    return best, taken


def _traced(sizes: IntArray, taken: list[IntArray], room: int) -> IntArray:
    pattern = np.zeros(len(sizes), dtype=int)
    for k in range(len(sizes) - 1, -1, -1):
        pattern[k] = taken[k][room]
        room -= int(pattern[k]) * int(sizes[k])
    return pattern


def _that_could_be(
    sizes: IntArray, need: IntArray, bars: Sequence[Bar], kerf: int, worth: tuple[Array, Array], over: float
) -> list[_Pattern] | None:
    """Every pattern whose reduced cost is no more than a plan is `over` the bound; `worth` are the linear programme's values of the
    lengths and of the limits. None where there are too many."""
    duals, limits = worth
    density = np.maximum.accumulate((np.maximum(duals, 0.0) / sizes)[::-1])[::-1]
    best_left = np.append(density, 0.0)
    found: list[_Pattern] = []
    steps = 0
    for number, bar in enumerate(bars):
        least = bar.each - float(limits[number]) - over - 1e-9
        pattern = np.zeros(len(sizes), dtype=int)
        stack: list[tuple[int, int, float, tuple[int, ...]]] = [(0, bar.length + kerf, 0.0, ())]
        while stack:
            steps += 1
            if steps > MOST_STEPS or len(found) > MOST_PATTERNS:
                return None
            k, room, value, taken = stack.pop()
            if value + room * best_left[k] < least:
                continue
            if k == len(sizes):
                pattern = np.array(taken, dtype=int)
                if pattern.any():
                    found.append((number, pattern))
                continue
            size = int(sizes[k])
            for n in range(min(int(need[k]), room // size) + 1):
                stack.append((k + 1, room - n * size, value + n * float(duals[k]), (*taken, n)))
    return found


def _whole(patterns: list[_Pattern], need: IntArray, lengths: list[int], bars: Sequence[Bar], bound: float) -> CuttingPlan:
    """The best whole numbers of the patterns, and of the lots they come from. Raises NotEnough where there are not enough."""
    from scipy.optimize import LinearConstraint

    count, kinds = len(patterns), len(bars)
    cover = np.hstack([np.stack([p for _, p in patterns], axis=1).astype(float), np.zeros((len(need), kinds))])
    of_bar = np.array([[1.0 if b == k else 0.0 for b, _ in patterns] for k in range(kinds)])
    lots = np.hstack([of_bar, -np.diag([float(bar.per) for bar in bars])])
    cost = np.concatenate([np.zeros(count), [bar.cost for bar in bars]])
    most = np.concatenate([np.full(count, np.inf), [np.inf if b.most is None else b.most for b in bars]])
    least = bound
    if len({bar.cost for bar in bars}) == 1 and bars[0].cost > 0:
        least = math.ceil(bound / bars[0].cost - 1e-6) * bars[0].cost
    found = least_cost(cost, [LinearConstraint(cover, lb=need.astype(float)), LinearConstraint(lots, ub=0.0)], most, exact=True)
    if found.x is None:
        raise NotEnough("There is not stock enough for all the lengths.")
    times = np.round(found.x[:count]).astype(int)
    counted: dict[tuple[int, tuple[tuple[int, int], ...]], int] = {}
    left = need.copy()
    for (number, pattern), n in sorted(zip(patterns, times.tolist(), strict=True), key=lambda t: t[0][0]):
        for _ in range(n):  # more of a length than is wanted is not cut
            own = np.minimum(pattern, left)
            left -= own
            pieces = tuple((lengths[k], int(own[k])) for k in np.flatnonzero(own))
            if pieces:
                counted[number, pieces] = counted.get((number, pieces), 0) + 1
    cuts = tuple(Cut(b, n, pieces) for (b, pieces), n in counted.items())
    plan = CuttingPlan(cuts, 0.0, least, found.status == 0)
    return replace(plan, cost=sum(bar.cost * plan.lots(k, bar.per) for k, bar in enumerate(bars)))
