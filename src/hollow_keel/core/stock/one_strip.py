"""The best few ways to put one strip together from sticks, by a beam search piece by piece."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable
from dataclasses import dataclass
from heapq import nsmallest
from operator import attrgetter, itemgetter

from ..rules import JOINT_COST
from .joint_plan import Stick

WAYS = 5
"""Ways of making a strip that go on."""
EPS = 1e-6
FARTHER = 1e-4
"""What each mm that a strip reaches farther counts, in mm of waste: of equally dear ones the longest goes on."""


@dataclass(frozen=True)
class PartMade:
    """A strip partly made: how far it reaches, what it has cost, its pieces as (stick, length) and its joints."""

    reach: float
    cost: float
    pieces: tuple[tuple[Stick, float], ...] = ()
    joints: tuple[float, ...] = ()


@dataclass(frozen=True)
class Rules:
    """What holds for one strip, mm: its length, a joint's overlap, the least length of a piece and of an offcut worth keeping, what
    a mm of that counts as, whether it may be joined, and where (sorted ranges, and their lower ends) not."""

    length: float
    overlap: float
    least: float
    worth: float
    keep: float
    kerf: float
    jointed: bool
    shut: list[tuple[float, float]]
    starts: list[float]

    def leaves(self, over: float) -> float:
        """What of the `over` mm left of a stick counts as waste, mm."""
        return over if over - self.kerf < self.worth else self.kerf + self.keep * (over - self.kerf)


@dataclass(frozen=True)
class Effort:
    """How hard is tried: whole lengths and offcuts for each piece, partly made strips kept, whether pieces are cut shorter than
    need be."""

    choices: int
    offcuts: int
    partial: int
    shorter: bool


FEW, MANY = Effort(7, 16, 14, shorter=False), Effort(40, 80, 60, shorter=True)


def ways_to_make(
    offcuts: tuple[Stick, ...],
    whole: tuple[Stick, ...],
    rules: Rules,
    effort: Effort,
    alive: Callable[[], None],
) -> list[PartMade]:
    """The best few ways to put a strip together from sorted offcuts and whole sticks, the best first; `alive` may raise."""
    piles = _Pile(offcuts, effort.offcuts), _Pile(whole, effort.choices)
    parts, finished = [PartMade(0.0, 0.0)], list[PartMade]()
    joint = rules.overlap + JOINT_COST
    while parts:
        short: list[tuple[PartMade, Stick]] = []
        for part in parts:
            alive()
            used = {stick.name for stick, _ in part.pieces}
            rest = rules.length - part.reach
            for stick in [stick for pile in piles for stick in pile.choice(used, rest)]:
                if stick.length >= rest - EPS:
                    finished.append(_finished(part, stick, rules))
                else:
                    short.append((part, stick))
        finished = sorted(finished, key=attrgetter("cost"))[:WAYS]
        most = finished[-1].cost if len(finished) == WAYS else math.inf  # costs only grow
        grown: list[_Longer] = []
        for part, stick in short if rules.jointed else ():
            if part.cost + joint < most:
                grown += [own for own in _longer(part, stick, rules, effort) if own[1] < most]
        parts = [_joined(own, rules) for own in nsmallest(effort.partial, grown, key=itemgetter(0))]
    return finished


class _Pile:
    """Sorted sticks, of which so many `choices` are tried for each piece, from shortest to longest."""

    def __init__(self, sticks: tuple[Stick, ...], choices: int) -> None:
        last = len(sticks) - 1
        self._sticks, self._lengths = sticks, [stick.length for stick in sticks]
        self._spread = (
            range(last + 1) if last < choices else sorted({k * last // (choices - 1) for k in range(choices)})
        )

    def choice(self, used: set[str], rest: float) -> list[Stick]:
        """A spread of those that are not used, and the shortest one as long as the rest; of equal ones the first."""
        sticks, reach = self._sticks, len(used) + 1
        if not sticks:
            return []
        long_enough = min(bisect_left(self._lengths, rest - EPS), len(sticks) - 1)
        found: list[Stick] = []
        longest = -1.0
        for k in sorted({*self._spread, long_enough}):
            for stick in sticks[k : k + reach]:
                if stick.name not in used:
                    if stick.length > longest:
                        found.append(stick)
                        longest = stick.length
                    break
        return found


def _finished(part: PartMade, stick: Stick, rules: Rules) -> PartMade:
    """A strip whose last piece this is."""
    rest = rules.length - part.reach
    cost = part.cost + rules.leaves(stick.length - rest)
    return PartMade(rules.length, cost, (*part.pieces, (stick, rest)), part.joints)


_Longer = tuple[float, float, PartMade, Stick, float]
"""A strip with one more piece: what it is sorted by, its cost, the strip before, the stick, and the middle of the joint after it.
Few of them go on, so that no more is made of them before."""


def _longer(part: PartMade, stick: Stick, rules: Rules, effort: Effort) -> list[_Longer]:
    """A strip with one more piece and a joint after it: as long as it may be, and if wanted shorter, ending in each opening
    before."""
    # no joint so near the end that the last piece would be too short
    half, reach, length = rules.overlap / 2, part.reach, stick.length
    top = min(reach + length - half, rules.length - rules.least + half)
    middles = [_last_open(top, rules)]
    if effort.shorter:
        middles += [a for a in rules.starts if a < middles[0]]
    found = []
    for middle in middles:
        cut = middle + half - reach
        if cut >= rules.least:
            cost = part.cost + rules.overlap + JOINT_COST + rules.leaves(length - cut)
            found.append((cost - (middle - half) * FARTHER, cost, part, stick, middle))
    return found


def _joined(own: _Longer, rules: Rules) -> PartMade:
    """A strip with one more piece, made."""
    _, cost, part, stick, middle = own
    half = rules.overlap / 2
    pieces = (*part.pieces, (stick, middle + half - part.reach))
    return PartMade(middle - half, cost, pieces, (*part.joints, middle))


def _last_open(middle: float, rules: Rules) -> float:
    """The last place up to `middle` where a joint may stand."""
    k = bisect_right(rules.starts, middle) - 1
    while k >= 0 and rules.shut[k][0] < middle < rules.shut[k][1]:
        middle = rules.shut[k][0]
        k -= 1
    return middle
