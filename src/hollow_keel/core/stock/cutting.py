"""The cutting-stock problem: the cheapest set of stock lengths from which all wanted lengths can be cut.

Gilmore and Gomory's column generation (*Operations Research*, 1961 and 1963): a linear programme over cutting patterns, new
patterns found by a knapsack; then the best whole numbers of the patterns found. The linear programme's value rounded up is a
bound that no plan can beat where all stock costs the same; a plan that meets it is proven best.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array, IntArray

ROUNDS = 400
SECONDS = 8.0
TOLERANCE = 1e-9


@dataclass(frozen=True)
class Bar:
    """A stock length in whole units with its cost, and how many there are (None: any number)."""

    length: int
    cost: float = 1.0
    most: int | None = None


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

    @property
    def proven(self) -> bool:
        """Whether nothing can be better."""
        return self.cost <= self.bound + 1e-6

    @property
    def bars(self) -> int:
        """How many stock lengths are cut."""
        return sum(cut.times for cut in self.cuts)


def cut_stock(
    wanted: Sequence[tuple[int, int]],
    bars: Sequence[Bar],
    kerf: int = 0,
    tick: Callable[[float], None] = lambda _: None,
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
        raise ImpossiblePlan(
            f"The longest piece ({lengths[0]}) is longer than the longest stock ({longest})."
        )
    need = np.array([demand[length] for length in lengths])
    sizes = np.array([length + kerf for length in lengths])
    patterns = _start(sizes, need, bars, kerf)
    bound = 0.0
    for turn in range(ROUNDS):
        tick(min(0.9, turn / 60))
        bound, duals, limits = _relaxed(patterns, need, bars)
        fresh = _priced(sizes, need, bars, kerf, duals, limits)
        if not fresh:
            break
        patterns += fresh
    return _whole(patterns, need, lengths, bars, bound)


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

    cost = np.array([bars[b].cost for b, _ in patterns])
    cover = -np.stack([p for _, p in patterns], axis=1).astype(float)
    limited = [k for k, bar in enumerate(bars) if bar.most is not None]
    rows = np.array([[1.0 if b == k else 0.0 for b, _ in patterns] for k in limited]).reshape(
        len(limited), len(patterns)
    )
    upper = np.concatenate([-need.astype(float), [float(bars[k].most or 0) for k in limited]])
    # what there is too little of may be bought at a price that is paid only where it must be
    dear = 10.0 * max(cost.max(), 1.0)
    short = -np.eye(len(need))
    table = np.hstack([np.vstack([cover, rows]), np.vstack([short, np.zeros((len(limited), len(need)))])])
    found = linprog(np.concatenate([cost, np.full(len(need), dear)]), A_ub=table, b_ub=upper, method="highs")
    worth = -found.ineqlin.marginals
    limits = np.zeros(len(bars))
    limits[limited] = -worth[len(need) :]
    return float(found.fun), worth[: len(need)], limits


def _priced(
    sizes: IntArray, need: IntArray, bars: Sequence[Bar], kerf: int, worth: Array, limits: Array
) -> list[_Pattern]:
    """For each bar the pattern worth most, if it is worth more than it costs: a knapsack with bounded counts."""
    best, taken = _knapsack(sizes, need, worth, max(bar.length for bar in bars) + kerf)
    found: list[_Pattern] = []
    for number, bar in enumerate(bars):
        room = bar.length + kerf
        if best[room] + limits[number] > bar.cost + TOLERANCE * max(bar.cost, 1.0):
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


def _whole(
    patterns: list[_Pattern], need: IntArray, lengths: list[int], bars: Sequence[Bar], bound: float
) -> CuttingPlan:
    """The best whole numbers of the patterns. Raises ImpossiblePlan where there are not bars enough."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    cost = np.array([bars[b].cost for b, _ in patterns])
    cover = np.stack([p for _, p in patterns], axis=1).astype(float)
    constraints = [LinearConstraint(cover, lb=need.astype(float))]
    for k, bar in enumerate(bars):
        if bar.most is not None:
            row = np.array([[1.0 if b == k else 0.0 for b, _ in patterns]])
            constraints.append(LinearConstraint(row, ub=float(bar.most)))
    same = len({bar.cost for bar in bars}) == 1
    least = math.ceil(bound / cost[0] - 1e-6) * cost[0] if same and cost[0] > 0 else bound
    found = milp(
        cost, constraints=constraints, integrality=np.ones(len(cost)), bounds=Bounds(0, np.inf),
        options={"time_limit": SECONDS, "mip_rel_gap": 0.0},
    )  # fmt: skip
    if found.x is None:
        raise ImpossiblePlan("There is not stock enough for all the lengths.")
    times = np.round(found.x).astype(int)
    counted: dict[tuple[int, tuple[tuple[int, int], ...]], int] = {}
    left = need.copy()
    for (number, pattern), n in sorted(zip(patterns, times.tolist(), strict=True), key=lambda t: t[0][0]):
        for _ in range(n):  # more of a length than is wanted is not cut
            own = np.minimum(pattern, left)
            left -= own
            pieces = tuple((lengths[k], int(own[k])) for k in np.flatnonzero(own))
            if pieces:
                counted[number, pieces] = counted.get((number, pieces), 0) + 1
    total = sum(bars[b].cost * n for (b, _), n in counted.items())
    return CuttingPlan(tuple(Cut(b, n, pieces) for (b, pieces), n in counted.items()), total, least)
