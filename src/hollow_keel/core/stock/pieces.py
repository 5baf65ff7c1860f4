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
from .timber import JointKind, JointSettings, MadePiece, MadeStrip

STATES, WAYS = 8, 5
"""States that go on, and ways of making a strip from each: with 5 states some stocks leave 0.1 % more."""
KEEP_COST, LAST_COST, LATE = 0.015, 0.8, 12
"""What a mm of offcut that is kept counts as, in mm of waste: it may never be used; and what more of it counts towards the end, as
a power of the share that is done."""
JOINT_COST = 15.0
"""What a joint counts as in work, in mm of waste beside the length it takes."""
EPS = 1e-6
ALIKE_MM = 200.0
"""Joints that stand so near each other leave the strips that follow the same room."""
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

    def as_cut(self) -> MadeStrip:
        """As it is kept in the job once it is cut."""
        pieces = tuple(MadePiece(stick=p.stick, length=p.length) for p in self.pieces)
        own = self.need
        return MadeStrip(strip=own.strip, side=own.side, part=own.part, pieces=pieces, joints=self.joints)


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
    def strips(self) -> tuple[tuple[MadeStrip, bool], ...]:
        """Every strip with its pieces and whether it is cut already, those first."""
        return (*((s, True) for s in self.stays), *((m.as_cut(), False) for m in self.made))

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


@dataclass(frozen=True)
class _Rules:
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
        """What is left of a stick, as waste."""
        return over if over - self.kerf < self.worth else self.kerf + self.keep * (over - self.kerf)


@dataclass(frozen=True)
class _Effort:
    """How hard is tried: whole lengths and offcuts for each piece, partly made strips kept, whether pieces are cut shorter than
    need be."""

    choices: int
    offcuts: int
    partial: int
    shorter: bool


FEW, MANY = _Effort(7, 16, 14, shorter=False), _Effort(40, 80, 60, shorter=True)


@dataclass(frozen=True)
class _Search:
    """What holds for all strips: the rules, what a saw cut takes, the shares of distances to try in turn; `alive` may raise."""

    settings: JointSettings
    kerf: float
    steps: Sequence[tuple[float, float]]
    alive: Callable[[], None]


def plan_joints(
    needs: Sequence[Need],
    stock: dict[Section, tuple[Stick, ...]],
    settings: JointSettings,
    lost: Callable[[float], float],
    kerf: float = 0.0,
    cut: Sequence[MadeStrip] = (),
    tick: Tick = lambda _: None,
    steps: Sequence[tuple[float, float]] = STEPS,
) -> JointPlan:
    """Make every need from the stock. `lost` tells the length a joint takes by thickness, `kerf` is what cutting a stick in two
    takes. Strips that were `cut` stay as they
    are; their joints count for their neighbours. `steps` are the shares of the distances that are tried in turn. `tick` is told
    a share and may raise. Raises ImpossiblePlan for rules that no joint can keep."""
    refuse_the_impossible(needs, settings, lost)
    done = {(c.strip, c.side, c.part): c for c in cut}
    states = [_State(0.0, _sorted(stock), dict.fromkeys(stock, ()), (), None)]
    missing: list[Need] = []
    share = 0.0
    search = _Search(settings, kerf, steps, lambda: tick(share))
    for number, need in enumerate(needs):
        share = number / len(needs)
        overlap = lost(need.section.thickness)
        fixed = done.get((need.strip, need.side, need.part))
        if fixed is not None:
            states = [_remember(s, need, fixed.joints, settings) for s in states]
            continue
        keep = KEEP_COST + LAST_COST * (number / len(needs)) ** LATE
        short = any(n.section == need.section for n in missing)  # trying hard does not make wood
        following = _made_from(states, need, overlap, keep, search, (FEW,) if short else (FEW, MANY))
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
    states: Sequence[_State],
    need: Need,
    overlap: float,
    keep: float,
    search: _Search,
    efforts: Sequence[_Effort],
) -> list[_State]:
    """The best few ways to make a strip from each state, as states that follow. Where none of them allows any, far more ways
    are tried, and only then do distances give."""
    steps = search.steps if need.shut else [(apart, 1.0) for apart, _ in search.steps]
    for share in dict.fromkeys(steps):
        ruled = [(state, _rules(state, need, overlap, share, keep, search)) for state in states]
        for effort in efforts:
            found: list[_State] = []
            for state, rules in ruled:
                ways = _ways(state, need, rules, effort, search.alive)
                found += [_after(state, need, way, search, share) for way in ways]
            if found:
                return found
    return []


def _rules(
    state: _State,
    need: Need,
    overlap: float,
    share: tuple[float, float],
    keep: float,
    search: _Search,
) -> _Rules:
    """The rules for one strip: no joint's middle near molds and bends or near neighbours' joints, by shares of the wanted
    distances."""
    settings = search.settings
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
    shut = _merged(ranges)
    least = min(settings.least_piece, need.length)
    return _Rules(
        need.length,
        overlap,
        least,
        settings.least_piece,
        keep,
        search.kerf,
        settings.kind is not JointKind.NONE,
        shut,
        [a for a, _ in shut],
    )


def _ways(
    state: _State, need: Need, rules: _Rules, effort: _Effort, alive: Callable[[], None]
) -> list[_Part]:
    """The best few ways to put a strip together from what a state has left."""
    offcuts = state.offcuts.get(need.section, ())
    whole = state.whole.get(need.section, ())
    parts, finished = [_Part(0.0, 0.0)], list[_Part]()
    while parts:
        alive()
        grown: list[_Part] = []
        for part in parts:
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
    offcuts: tuple[Stick, ...], whole: tuple[Stick, ...], used: set[str], rest: float, effort: _Effort
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


def _finished(part: _Part, stick: Stick, rules: _Rules) -> _Part:
    """A strip whose last piece this is."""
    rest = rules.length - part.reach
    cost = part.cost + rules.leaves(stick.length - rest)
    return _Part(rules.length, cost, (*part.pieces, (stick, rest)), part.joints)


def _longer(part: _Part, stick: Stick, rules: _Rules, effort: _Effort) -> list[_Part]:
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
                _Part(middle - rules.overlap / 2, cost, (*part.pieces, (stick, cut)), (*part.joints, middle))
            )
    return found


def _last_open(middle: float, rules: _Rules) -> float:
    """The last place up to `middle` where a joint may stand."""
    k = bisect_right(rules.starts, middle) - 1
    while k >= 0 and rules.shut[k][0] < middle < rules.shut[k][1]:
        middle = rules.shut[k][0]
        k -= 1
    return middle


def _after(state: _State, need: Need, way: _Part, search: _Search, share: tuple[float, float]) -> _State:
    """The state that follows; `share` are the shares of the distances that were kept."""
    settings, kerf = search.settings, search.kerf
    used = {stick.name for stick, _ in way.pieces}
    section = need.section
    offcuts = [s for s in state.offcuts.get(section, ()) if s.name not in used]
    for stick, cut in way.pieces:
        if stick.length - cut - kerf >= settings.least_piece:
            name = stick.name if stick.offcut else f"{stick.name}*"
            offcuts.append(Stick(stick.length - cut - kerf, name, offcut=True))
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
    """The best states whose last joints stand elsewhere: where one leaves a later strip no room another may."""
    kept: list[_State] = []
    seen = set()
    for state in ordered:
        key = tuple((at, tuple(round(x / ALIKE_MM) for x in places)) for at, places in state.recent)
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
