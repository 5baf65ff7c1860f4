"""Every strip made of pieces, so that joints in neighbouring strips stand apart and least is wasted.

A beam search strip by strip: a state is what is left of the stock and where the last joints of each side stand; each strip is
put together in the best few ways from offcuts and a choice of whole lengths, and the best few states go on. A piece whose
joint would stand where none may is cut shorter, and what comes off is kept as an offcut. Port and starboard are made from one
stock.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from .needs import Need, Section
from .timber import JointSettings, MadeStrip

STATES, WAYS, PARTIAL, CHOICES = 3, 5, 14, 7
"""States that go on, ways of making a strip from each, partly made strips kept, and whole lengths tried for each piece."""
KEEP_COST, LAST_COST, LATE = 0.015, 0.4, 12
"""What a mm of offcut that is kept counts as, in mm of waste: it may never be used; and what more of it counts towards the end, as
a power of the share that is done."""
EPS = 1e-6
STEPS = ((1.0, 1.0), (0.75, 1.0), (0.5, 1.0), (0.25, 1.0), (0.25, 0.75), (0.25, 0.5), (0.0, 0.25), (0.0, 0.0))
"""Shares of the wanted distances, from neighbours' joints and from molds and bends, that are tried in turn where not all can
be kept: a joint beside a neighbour's is mended by the glue between them more easily than one on a mold."""
Tick = Callable[[float], None]


@dataclass(frozen=True, order=True)
class Stick:
    """A length of ripped strip, mm: whole from a board, or an offcut of one."""

    length: float
    name: str = field(compare=True)
    offcut: bool = False


@dataclass(frozen=True)
class Piece:
    """One piece of a strip: the stick it is cut from and how much of it, its joints included."""

    stick: str
    length: float


@dataclass(frozen=True)
class Made:
    """A strip as it is put together, forward end first; `joints` are the middles of its joints, mm from that end; `apart` and
    `clear` are the shares of the wanted distances that could be kept (1: all)."""

    need: Need
    pieces: tuple[Piece, ...]
    joints: tuple[float, ...]
    apart: float = 1.0
    clear: float = 1.0


@dataclass(frozen=True)
class JointPlan:
    """All strips made, what could not be for want of stock, and where the wood went, mm: `used` of whole lengths begun,
    `lost` in joints, `scrap` too short to keep, `left` the offcuts that are kept."""

    made: tuple[Made, ...]
    missing: tuple[Need, ...]
    used: float
    lost: float
    scrap: float
    left: tuple[Stick, ...]
    stays: tuple[MadeStrip, ...] = ()

    @property
    def joints(self) -> int:
        """Number of joints, those cut already included."""
        return sum(len(m.joints) for m in self.made) + sum(len(s.joints) for s in self.stays)

    @property
    def waste(self) -> float:
        """Share of the wood begun that is in no strip: doubled in joints, scrap, or left over."""
        return (self.lost + self.scrap + sum(s.length for s in self.left)) / self.used if self.used else 0.0


_Recent = tuple[tuple[tuple[str, int, str, int], tuple[float, ...]], ...]


@dataclass(frozen=True)
class _State:
    cost: float
    whole: dict[Section, tuple[Stick, ...]]
    offcuts: dict[Section, tuple[Stick, ...]]
    recent: _Recent
    made: tuple[object, ...] | None  # linked backwards: (Made, before)


@dataclass(frozen=True)
class _Part:
    """A strip partly made: how far it reaches, what it has cost, its pieces as (stick, length) and its joints."""

    reach: float
    cost: float
    pieces: tuple[tuple[Stick, float], ...] = ()
    joints: tuple[float, ...] = ()
    done: bool = False


def plan_joints(
    needs: Sequence[Need],
    stock: dict[Section, tuple[Stick, ...]],
    settings: JointSettings,
    lost: Callable[[float], float],
    cut: Sequence[MadeStrip] = (),
    tick: Tick = lambda _: None,
) -> JointPlan:
    """Make every need from the stock. `lost` tells the length a joint takes by thickness. Strips that were `cut` stay as they
    are; their joints count for their neighbours. `tick` is told a share and may raise. Raises ImpossiblePlan for rules that no
    joint can keep."""
    refuse_the_impossible(needs, settings, lost)
    done = {(c.strip, c.side): c for c in cut}
    states = [_State(0.0, _sorted(stock), dict.fromkeys(stock, ()), (), None)]
    missing: list[Need] = []
    for number, need in enumerate(needs):
        tick(number / len(needs))
        overlap = lost(need.section.thickness)
        fixed = done.get((need.strip, need.side))
        if fixed is not None:
            states = [_remember(s, need, fixed.joints, settings) for s in states]
            continue
        keep = KEEP_COST + LAST_COST * (number / len(needs)) ** LATE
        following = [n for s in states for n in _made_from(s, need, overlap, settings, keep)]
        if not following:
            missing.append(need)
            continue
        following.sort(key=lambda s: s.cost)
        states = _unlike(following)
    return _plan(states[0], stock, missing, needs, lost, cut)


def refuse_the_impossible(
    needs: Sequence[Need], settings: JointSettings, lost: Callable[[float], float]
) -> None:
    """Raise ImpossiblePlan where no joint could stand anywhere in a strip that is longer than every piece may be."""
    for need in needs:
        overlap = lost(need.section.thickness)
        open_ = _openings(
            _merged([(a - overlap / 2, b + overlap / 2) for a, b in need.shut]),
            need.length,
            settings.least_piece,
        )
        if need.shut and not open_ and need.length > 2 * settings.least_piece:
            room = _widest_gap(need.shut, need.length)
            raise ImpossiblePlan(
                f"No joint can stand anywhere in strip {need.strip}: what is kept clear of molds and bends leaves "
                + (f"only {mm(room)} between" if room > 0 else "nothing between")
                + f", and a joint is {mm(round(overlap, 1))} long. Keep at least {mm(round((overlap - room) / 2 + 1))} less "
                f"clear of them, "
                "or buy lengths that need no joint."
            )


def _widest_gap(shut: tuple[tuple[float, float], ...], length: float) -> float:
    """Width of the widest gap between shut ranges; less than nothing where they overlap everywhere."""
    ordered = sorted(shut)
    return max((b[0] - a[1] for a, b in zip(ordered[:-1], ordered[1:], strict=True)), default=length)


def _sorted(stock: dict[Section, tuple[Stick, ...]]) -> dict[Section, tuple[Stick, ...]]:
    return {section: tuple(sorted(sticks)) for section, sticks in stock.items()}


def _merged(ranges: list[tuple[float, float]]) -> list[tuple[float, float]]:
    joined: list[tuple[float, float]] = []
    for a, b in sorted(ranges):
        if joined and a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(b, joined[-1][1]))
        else:
            joined.append((a, b))
    return joined


def _openings(shut: list[tuple[float, float]], length: float, least: float) -> bool:
    """Whether a joint may stand anywhere with both pieces long enough."""
    at = least
    for a, b in shut:
        if at < a - EPS and at <= length - least:
            return True
        at = max(at, b)
    return at <= length - least


def _made_from(
    state: _State, need: Need, overlap: float, settings: JointSettings, keep: float
) -> list[_State]:
    """The best few ways to make a strip, as states that follow; distances give where it cannot be made otherwise."""
    for share in STEPS:
        if share[1] < 1.0 and not need.shut:
            continue
        shut = _shut_for(state, need, overlap, settings, share)
        ways = _ways(state, need, overlap, settings, shut, keep)
        if ways:
            return [_after(state, need, way, settings, share) for way in ways]
    return []


def _shut_for(
    state: _State, need: Need, overlap: float, settings: JointSettings, share: tuple[float, float]
) -> list[tuple[float, float]]:
    """Where a joint's middle may not be: near molds and bends and near neighbours' joints, by shares of the wanted distances."""
    apart, clear = settings.stagger * share[0], share[1]
    ranges = []
    for a, b in need.shut:
        middle, reach = (a + b) / 2, (b - a) / 2 * clear + (overlap / 2 if clear else 0.0)
        ranges.append((middle - reach, middle + reach))
    panel, course, row = need.row
    if apart > 0:
        for (side, p, c, r), places in state.recent:
            if side == need.side and (p, c) == (panel, course) and 0 < row - r <= settings.rows:
                runs = np.interp(places, need.at[:, 1], need.at[:, 0]) if places else ()
                ranges += [(float(x) - apart, float(x) + apart) for x in runs]
    return _merged(ranges)


def _ways(
    state: _State,
    need: Need,
    overlap: float,
    settings: JointSettings,
    shut: list[tuple[float, float]],
    keep: float,
) -> list[_Part]:
    starts = [a for a, _ in shut]
    least = min(settings.least_piece, need.length)
    offcuts = state.offcuts.get(need.section, ())
    whole = state.whole.get(need.section, ())
    parts, finished = [_Part(0.0, 0.0)], list[_Part]()
    jointed = settings.kind.name != "NONE"
    while parts:
        grown: list[_Part] = []
        for part in parts:
            used = {stick.name for stick, _ in part.pieces}
            for stick in _choice(offcuts, whole, used, need.length - part.reach):
                made = _add(part, stick, need.length, overlap, least, settings, shut, starts, keep, jointed)
                if made is not None:
                    (finished if made.done else grown).append(made)
        grown.sort(key=lambda p: p.cost - p.reach * 1e-4)
        parts = grown[:PARTIAL]
        if len(finished) >= WAYS * 3:
            break
    finished.sort(key=lambda p: p.cost)
    return finished[:WAYS]


def _choice(offcuts: tuple[Stick, ...], whole: tuple[Stick, ...], used: set[str], rest: float) -> list[Stick]:
    """Every offcut, a spread of whole lengths, and the shortest one that would finish the strip."""
    found = [s for s in offcuts if s.name not in used]
    if whole:
        picks = set(np.linspace(0, len(whole) - 1, min(CHOICES, len(whole))).astype(int).tolist())
        k = bisect_right(whole, Stick(rest - EPS, ""))
        picks |= {min(k, len(whole) - 1)}
        seen = set()
        for k in sorted(picks):
            j = k
            while j < len(whole) and whole[j].name in used:
                j += 1
            if j < len(whole) and whole[j].name not in used and whole[j].length not in seen:
                seen.add(whole[j].length)
                found.append(whole[j])
    return found


def _add(
    part: _Part, stick: Stick, length: float, overlap: float, least: float, settings: JointSettings,
    shut: list[tuple[float, float]], starts: list[float], keep: float, jointed: bool,
) -> _Part | None:  # fmt: skip
    """A strip with one more piece, or None where the piece is of no use."""
    rest = length - part.reach
    if stick.length >= rest - EPS:
        over = stick.length - rest
        cost = part.cost + (over if over < settings.least_piece else keep * over)
        return _Part(length, cost, (*part.pieces, (stick, rest)), part.joints, True)
    if not jointed:
        return None
    # no joint so near the end that the last piece would be too short
    middle = min(part.reach + stick.length - overlap / 2, length - least + overlap / 2)
    middle = _last_open(middle, shut, starts)
    cut = middle + overlap / 2 - part.reach
    if cut < min(least, rest):
        return None
    over = stick.length - cut
    cost = part.cost + overlap + (over if over < settings.least_piece else keep * over)
    return _Part(middle - overlap / 2, cost, (*part.pieces, (stick, cut)), (*part.joints, middle))


def _last_open(middle: float, shut: list[tuple[float, float]], starts: list[float]) -> float:
    """The last place up to `middle` where a joint may stand."""
    k = bisect_right(starts, middle) - 1
    while k >= 0 and shut[k][0] < middle < shut[k][1]:
        middle = shut[k][0]
        k -= 1
    return middle


def _after(
    state: _State, need: Need, way: _Part, settings: JointSettings, share: tuple[float, float]
) -> _State:
    used = {stick.name for stick, _ in way.pieces}
    section = need.section
    offcuts = [s for s in state.offcuts.get(section, ()) if s.name not in used]
    for stick, cut in way.pieces:
        if stick.length - cut >= settings.least_piece:
            offcuts.append(Stick(stick.length - cut, f"{stick.name}*", True))
    whole = tuple(s for s in state.whole.get(section, ()) if s.name not in used)
    made = Made(need, tuple(Piece(stick.name, cut) for stick, cut in way.pieces), way.joints, *share)
    follows = _remember(state, need, way.joints, settings)
    return replace(
        follows, cost=state.cost + way.cost + (2.0 - sum(share)) * 1e4,
        whole={**state.whole, section: whole}, offcuts={**state.offcuts, section: tuple(sorted(offcuts))},
        made=(made, state.made),
    )  # fmt: skip


def _remember(state: _State, need: Need, joints: Sequence[float], settings: JointSettings) -> _State:
    """With the joints of a strip as its neighbours will ask for them; those too far back are forgotten."""
    panel, course, row = need.row
    places = tuple(np.interp(joints, need.at[:, 0], need.at[:, 1]).tolist()) if len(joints) else ()
    kept = tuple(
        (key, values) for key, values in state.recent
        if (key[1], key[2]) == (panel, course) and row - key[3] <= settings.rows
    )  # fmt: skip
    return replace(state, recent=(*kept, ((need.side, panel, course, row), places)))


def _unlike(ordered: list[_State]) -> list[_State]:
    """The best states that do not stand for the same stock."""
    kept: list[_State] = []
    seen = set()
    for state in ordered:
        key = (round(state.cost, 3), tuple(len(v) for v in state.whole.values()))
        if key not in seen:
            seen.add(key)
            kept.append(state)
        if len(kept) == STATES:
            break
    return kept


def _plan(
    best: _State, stock: dict[Section, tuple[Stick, ...]], missing: list[Need], needs: Sequence[Need],
    lost: Callable[[float], float], cut: Sequence[MadeStrip],
) -> JointPlan:  # fmt: skip
    made: list[Made] = []
    link = best.made
    while link is not None:
        made.append(link[0])  # type: ignore[arg-type]
        link = link[1]  # type: ignore[assignment]
    made.reverse()
    left_whole = {s.name for sticks in best.whole.values() for s in sticks}
    used = sum(s.length for sticks in stock.values() for s in sticks if s.name not in left_whole)
    in_joints = sum(len(m.joints) * lost(m.need.section.thickness) for m in made)
    left = tuple(s for sticks in best.offcuts.values() for s in sticks)
    net = sum(m.need.length for m in made)
    scrap = used - net - in_joints - sum(s.length for s in left)
    return JointPlan(tuple(made), tuple(missing), used, in_joints, max(scrap, 0.0), left, tuple(cut))
