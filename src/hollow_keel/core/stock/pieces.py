"""Every strip made of pieces, so that joints in neighbouring strips stand apart and least is wasted.

A beam search strip by strip: a state is what is left of the stock and where the last joints of each side stand; each strip is
put together in the best few ways from offcuts and a choice of whole lengths, and the best few states go on. A piece whose
joint would stand where none may is cut shorter, and what comes off is kept as an offcut. Port and starboard are made from one
stock.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from ..errors import ImpossiblePlan
from ..findings import mm
from ..settings.timber import JointKind, JointSettings, MadePiece, MadeStrip
from ..stage import Tick
from .joint_plan import JointPlan, Made, Stick, wood_gone
from .needs import Need, Scantling, strip_name
from .one_strip import EPS, FEW, MANY, Effort, PartMade, Rules, ways_to_make

STATES = 8
"""States that go on: with 5 of them some stocks leave 0.1 % more."""
KEEP_COST, LAST_COST, LATE = 0.015, 0.8, 12
"""What a mm of offcut that is kept counts as, in mm of waste: it may never be used; and what more of it counts towards the end, as
a power of the share that is done."""
ALIKE_MM = 200.0
"""Joints that stand so near each other leave the strips that follow the same room."""
STEPS = ((1.0, 1.0), (0.75, 1.0), (0.5, 1.0), (0.25, 1.0), (0.25, 0.75), (0.25, 0.5), (0.0, 0.25), (0.0, 0.0))
"""Shares of the wanted distances, from neighbours' joints and from molds and bends, that are tried in turn where not all can
be kept: a joint beside a neighbour's is mended by the glue between them more easily than one on a mold."""


_Recent = tuple[tuple[Need, tuple[float, ...]], ...]
"""Strips laid last that others to come have to mind, and where along the hull their joints stand."""


@dataclass(frozen=True)
class _State:
    cost: float
    whole: dict[Scantling, tuple[Stick, ...]]
    offcuts: dict[Scantling, tuple[Stick, ...]]
    recent: _Recent
    made: _Link | None


@dataclass(frozen=True)
class _Link:
    """A strip as it was put together, and those before it."""

    need: Need
    way: PartMade
    share: tuple[float, float]
    before: _Link | None


@dataclass(frozen=True)
class _Next:
    """A state that would follow from one: few of them go on, so that no more is made of them before. `places` are where the joints
    stand along the hull, `share` the shares of the distances that were kept."""

    cost: float
    state: _State
    need: Need
    way: PartMade
    share: tuple[float, float]
    recent: _Recent
    places: tuple[float, ...]


@dataclass(frozen=True)
class _Search:
    """What holds for all strips: the rules, what a saw cut takes, the shares of distances to try in turn; `alive` may raise."""

    settings: JointSettings
    kerf: float
    steps: Sequence[tuple[float, float]]
    alive: Callable[[], None]


def plan_joints(
    needs: Sequence[Need],
    stock: dict[Scantling, tuple[Stick, ...]],
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
    longest = {section: max((s.length for s in sticks), default=0.0) for section, sticks in stock.items()}
    refuse_the_impossible([n for n in needs if 0.0 < longest.get(n.section, 0.0) < n.length], settings, lost)
    done = {c.key: c for c in cut}
    states = [_State(0.0, _sorted(stock), dict.fromkeys(stock, ()), (), None)]
    missing: list[Need] = []
    share = 0.0
    search = _Search(settings, kerf, steps, lambda: tick(share))
    for number, need in enumerate(needs):
        share = number / len(needs)
        overlap = lost(need.section.thickness)
        fixed = done.get(need.key)
        if fixed is not None:
            states = [replace(s, recent=(*_recent(s, need, settings), (need, need.positions(fixed.joints)))) for s in states]
            continue
        keep = KEEP_COST + LAST_COST * (number / len(needs)) ** LATE
        short = any(n.section == need.section for n in missing)  # trying hard does not make wood
        following = _made_from(states, need, overlap, keep, search, (FEW,) if short else (FEW, MANY))
        if not following:
            missing.append(need)
            continue
        following.sort(key=lambda s: s.cost)
        states = [_after(own, search) for own in _unlike(following)]
    return _plan(states[0], stock, missing, needs, lost, cut)


def refuse_the_impossible(needs: Sequence[Need], settings: JointSettings, lost: Callable[[float], float]) -> None:
    """Raises ImpossiblePlan where no joint (`lost` mm by the thickness, mm) could stand anywhere in one of the strips, which all
    need one: none comes from the stock in one piece."""
    for need in needs:
        overlap = lost(need.section.thickness)
        open_ = _openings(_merged([(a - overlap / 2, b + overlap / 2) for a, b in need.shut]), need.length, settings.least_piece)
        if need.shut and not open_ and need.length > 2 * settings.least_piece:
            raise ImpossiblePlan(_why_no_joint(need, overlap, settings.least_piece))


def _why_no_joint(need: Need, overlap: float, least_piece: float) -> str:
    room = _widest_gap(need.shut, need.length)
    if room >= overlap:
        return (
            f"No joint can stand anywhere in strip {strip_name(need.strip)} ({mm(round(need.length))} long): what is kept "
            f"clear of molds and "
            f"bends leaves room for one only where a piece would be shorter than {mm(round(least_piece))}. Allow shorter pieces, "
            "keep less clear, or buy lengths that need no joint."
        )
    return (
        f"No joint can stand anywhere in strip {strip_name(need.strip)} ({mm(round(need.length))} long): what is kept "
        f"clear of molds and bends "
        f"leaves {f'only {mm(round(room, 1))}' if room > 0 else 'nothing'} between, and a joint is {mm(round(overlap, 1))} long. "
        f"Keep at least {mm(math.ceil((overlap - room) / 2))} less clear of them, or buy lengths that need no joint."
    )


def _widest_gap(shut: tuple[tuple[float, float], ...], length: float) -> float:
    """Width of the widest gap between shut ranges; less than nothing where they overlap everywhere."""
    ordered = sorted(shut)
    return max((b[0] - a[1] for a, b in zip(ordered[:-1], ordered[1:], strict=True)), default=length)


def _sorted(stock: dict[Scantling, tuple[Stick, ...]]) -> dict[Scantling, tuple[Stick, ...]]:
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
    states: Sequence[_State], need: Need, overlap: float, keep: float, search: _Search, efforts: Sequence[Effort]
) -> list[_Next]:
    """The best few ways to make a strip from each state, as states that would follow. Where none of them allows any, far more ways
    are tried, and only then do distances give."""
    steps = search.steps if need.shut else [(apart, 1.0) for apart, _ in search.steps]
    for share in dict.fromkeys(steps):
        ruled = [(state, _rules(state, need, overlap, share, keep, search)) for state in states]
        for effort in efforts:
            found: list[_Next] = []
            for state, rules in ruled:
                ways = ways_to_make(
                    state.offcuts.get(need.section, ()), state.whole.get(need.section, ()), rules, effort, search.alive
                )
                recent, dear = _recent(state, need, search.settings), (2.0 - sum(share)) * 1e4
                found += [_Next(state.cost + w.cost + dear, state, need, w, share, recent, need.positions(w.joints)) for w in ways]
            if found:
                return found
    return []


def _rules(state: _State, need: Need, overlap: float, share: tuple[float, float], keep: float, search: _Search) -> Rules:
    """The rules for one strip: no joint's middle near molds and bends or near neighbours' joints, by shares of the wanted
    distances."""
    settings = search.settings
    apart, clear = settings.stagger * share[0], share[1]
    ranges = []
    for a, b in need.shut:
        middle, reach = (a + b) / 2, (b - a) / 2 * clear + (overlap / 2 if clear else 0.0)
        ranges.append((middle - reach, middle + reach))
    if apart > 0:
        for other, places in state.recent:
            span = need.asks(other, settings.rows)
            if span is not None:
                own = need.runs([x for x in places if span[0] <= x <= span[1]])
                ranges += [(x - apart, x + apart) for x in own]
    shut = _merged(ranges)
    least = min(settings.least_piece, need.length)
    return Rules(
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


def _after(own: _Next, search: _Search) -> _State:
    """The state that follows."""
    state, way, section, kerf = own.state, own.way, own.need.section, search.kerf
    used = {stick.name for stick, _ in way.pieces}
    offcuts = [s for s in state.offcuts.get(section, ()) if s.name not in used]
    for stick, cut in way.pieces:
        if stick.length - cut - kerf >= search.settings.least_piece:
            name = stick.name if stick.offcut else f"{stick.name}*"
            offcuts.append(Stick(stick.length - cut - kerf, name, offcut=True))
    whole = tuple(s for s in state.whole.get(section, ()) if s.name not in used)
    return _State(
        own.cost,
        {**state.whole, section: whole},
        {**state.offcuts, section: tuple(sorted(offcuts))},
        (*own.recent, (own.need, own.places)),
        _Link(own.need, way, own.share, state.made),
    )


def _recent(state: _State, need: Need, settings: JointSettings) -> _Recent:
    """What of a state's strips those after a need will still ask for."""
    return tuple(
        (other, values)
        for other, values in state.recent
        if other.beside or (other.row[:2] == need.row[:2] and need.row[2] - other.row[2] <= settings.rows)
    )


def _unlike(ordered: list[_Next]) -> list[_Next]:
    """The best of them whose last joints stand elsewhere: where one leaves a later strip no room another may."""
    kept: list[_Next] = []
    seen = set()
    before = {id(own.recent): _alike(own.recent) for own in ordered}
    for own in ordered:
        key = before[id(own.recent)], _alike(((own.need, own.places),))
        if key not in seen:
            seen.add(key)
            kept.append(own)
        if len(kept) == STATES:
            break
    return kept


def _alike(recent: _Recent) -> tuple[object, ...]:
    """The same for joints that stand about alike."""
    return tuple((need.key, tuple(round(x / ALIKE_MM) for x in places)) for need, places in recent)


def _plan(
    best: _State,
    stock: dict[Scantling, tuple[Stick, ...]],
    missing: list[Need],
    needs: Sequence[Need],
    lost: Callable[[float], float],
    cut: Sequence[MadeStrip],
) -> JointPlan:
    made: list[Made] = []
    link = best.made
    while link is not None:
        pieces = tuple(MadePiece(stick=stick.name, length=cut) for stick, cut in link.way.pieces)
        made.append(Made(link.need, pieces, link.way.joints, *link.share))
        link = link.before
    made.reverse()
    left_whole = {s.name for sticks in best.whole.values() for s in sticks}
    used = sum(s.length for sticks in stock.values() for s in sticks if s.name not in left_whole)
    left = tuple(s for sticks in best.offcuts.values() for s in sticks)
    in_joints, scrap = wood_gone(made, used, left, lost)
    return JointPlan(tuple(made), tuple(missing), used, in_joints, max(scrap, 0.0), left, tuple(cut))
