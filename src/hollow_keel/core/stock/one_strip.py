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
    offcuts: tuple[Stick, ...], whole: tuple[Stick, ...], rules: Rules, effort: Effort, alive: Callable[[], None]
) -> list[PartMade]:
    """The best few ways to put a strip together from sorted offcuts and whole sticks, the best first; `alive` may raise."""
    piles = _Pile(offcuts, effort.offcuts), _Pile(whole, effort.choices)
    parts, finished = [PartMade(0.0, 0.0)], list[PartMade]()
    while parts:
        short: list[tuple[PartMade, Stick]] = []
        for part in parts:
            alive()
            used = {stick.name for stick, _ in part.pieces}
            rest = rules.length - part.reach
            for pile in piles:
                for stick in pile.choice(used, rest):
                    if stick.length >= rest - EPS:
                        finished.append(_finished(part, stick, rules))
                    else:
                        short.append((part, stick))
        finished = sorted(finished, key=attrgetter("cost"))[:WAYS]
        most = finished[-1].cost if len(finished) == WAYS else math.inf  # costs only grow
        grown = _longer(short, rules, most, shorter=effort.shorter) if rules.jointed else []
        parts = [_joined(own, rules) for own in nsmallest(effort.partial, grown, key=itemgetter(0))]
    return finished


class _Pile:
    """Sorted sticks, of which so many `choices` are tried for each piece, from shortest to longest."""

    def __init__(self, sticks: tuple[Stick, ...], choices: int) -> None:
        last = len(sticks) - 1
        self._sticks, self._lengths = sticks, [stick.length for stick in sticks]
        self._spread = list(range(last + 1)) if last < choices else sorted({k * last // (choices - 1) for k in range(choices)})

    def choice(self, used: set[str], rest: float) -> list[Stick]:
        """A spread of those that are not used, and the shortest one as long as the rest; of equal ones the first."""
        sticks, lengths, last = self._sticks, self._lengths, len(self._sticks) - 1
        found: list[Stick] = []
        if last < 0:
            return found
        long_enough = min(bisect_left(lengths, rest - EPS), last)
        at = bisect_left(self._spread, long_enough)
        tried = self._spread
        if at == len(tried) or tried[at] != long_enough:
            tried = [*tried[:at], long_enough, *tried[at:]]
        longest, over = -1.0, len(used)
        for k in tried:
            stop = min(k + over, last)
            if lengths[stop] <= longest:  # most sticks are as long as others: none of these is longer than what was found
                continue
            for j in range(k, stop + 1):
                if sticks[j].name not in used:
                    if lengths[j] > longest:
                        found.append(sticks[j])
                        longest = lengths[j]
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


def _longer(short: list[tuple[PartMade, Stick]], rules: Rules, most: float, *, shorter: bool) -> list[_Longer]:
    """Strips with one more piece and a joint after it: as long as it may be, and if wanted shorter, ending in each opening before.
    What costs `most` or more is left out."""
    half, least, joint = rules.overlap / 2, rules.least, rules.overlap + JOINT_COST
    end = rules.length - least + half  # no joint so near the end that the last piece would be too short
    found: list[_Longer] = []
    for part, stick in short:
        base, reach, length = part.cost + joint, part.reach, stick.length
        if base >= most:
            continue
        top = _last_open(min(reach + length - half, end), rules)
        for middle in (top, *(a for a in rules.starts if a < top)) if shorter else (top,):
            cut = middle + half - reach
            if cut >= least:
                cost = base + rules.leaves(length - cut)
                if cost < most:
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
