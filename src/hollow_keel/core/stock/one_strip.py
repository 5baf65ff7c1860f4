"""The best few ways to put one strip together from sticks, by a beam search piece by piece."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable
from dataclasses import dataclass

from ..rules import JOINT_COST
from .joint_plan import Stick

WAYS = 5
"""Ways of making a strip that go on."""
EPS = 1e-6


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
    parts, finished = [PartMade(0.0, 0.0)], list[PartMade]()
    while parts:
        grown: list[PartMade] = []
        for part in parts:
            alive()
            used = {stick.name for stick, _ in part.pieces}
            for stick in _choice(offcuts, whole, used, rules.length - part.reach, effort):
                if stick.length >= rules.length - part.reach - EPS:
                    finished.append(_finished(part, stick, rules))
                elif rules.jointed:
                    grown += _longer(part, stick, rules, effort)
        if len(finished) >= WAYS:  # costs only grow
            finished.sort(key=lambda p: p.cost)
            grown = [p for p in grown if p.cost < finished[WAYS - 1].cost]
        grown.sort(key=lambda p: p.cost - p.reach * 1e-4)
        parts = grown[: effort.partial]
    finished.sort(key=lambda p: p.cost)
    return finished[:WAYS]


def _choice(
    offcuts: tuple[Stick, ...], whole: tuple[Stick, ...], used: set[str], rest: float, effort: Effort
) -> list[Stick]:
    """A spread of offcuts and of whole lengths, and of each the shortest one that would finish the strip."""
    return _spread(offcuts, used, rest, effort.offcuts) + _spread(whole, used, rest, effort.choices)


def _spread(sticks: tuple[Stick, ...], used: set[str], rest: float, choices: int) -> list[Stick]:
    """So many sticks from shortest to longest, and the shortest one as long as the rest; of equal ones the first."""
    if not sticks:
        return []
    last = len(sticks) - 1
    picks = set(range(last + 1)) if last < choices else {k * last // (choices - 1) for k in range(choices)}
    picks.add(min(bisect_right(sticks, Stick(rest - EPS, "")), last))
    found: list[Stick] = []
    for k in sorted(picks):
        stick = next((s for s in sticks[k : k + len(used) + 1] if s.name not in used), None)
        if stick is not None and (not found or stick.length > found[-1].length):
            found.append(stick)
    return found


def _finished(part: PartMade, stick: Stick, rules: Rules) -> PartMade:
    """A strip whose last piece this is."""
    rest = rules.length - part.reach
    cost = part.cost + rules.leaves(stick.length - rest)
    return PartMade(rules.length, cost, (*part.pieces, (stick, rest)), part.joints)


def _longer(part: PartMade, stick: Stick, rules: Rules, effort: Effort) -> list[PartMade]:
    """A strip with one more piece and a joint after it: as long as it may be, and if wanted shorter, ending in each opening
    before."""
    # no joint so near the end that the last piece would be too short
    top = min(part.reach + stick.length - rules.overlap / 2, rules.length - rules.least + rules.overlap / 2)
    middles = [_last_open(top, rules)]
    if effort.shorter:
        middles += [a for a in rules.starts if a < middles[0]]
    found = []
    for middle in middles:
        cut = middle + rules.overlap / 2 - part.reach
        if cut >= rules.least:
            cost = part.cost + rules.overlap + JOINT_COST + rules.leaves(stick.length - cut)
            found.append(
                PartMade(
                    middle - rules.overlap / 2, cost, (*part.pieces, (stick, cut)), (*part.joints, middle)
                )
            )
    return found


def _last_open(middle: float, rules: Rules) -> float:
    """The last place up to `middle` where a joint may stand."""
    k = bisect_right(rules.starts, middle) - 1
    while k >= 0 and rules.shut[k][0] < middle < rules.shut[k][1]:
        middle = rules.shut[k][0]
        k -= 1
    return middle
