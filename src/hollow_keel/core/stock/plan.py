"""The stock plan: how boards are ripped, what is bought, which piece goes where, and what else is used up."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight
from ..job import Job
from ..molds.stations import Mold
from ..planking.mechanics import Behaviour
from ..planking.strips import Planking
from ..settings.timber import Board, JointKind, StockSettings
from ..settings.woods import WOODS
from ..stage import Tick
from .as_before import as_before
from .buying import Purchase, buy, same_wood
from .cutting import NotEnough
from .joint_plan import JointPlan, Stick
from .joints import Joint, joint_of, lost_in
from .needs import Need, Scantling, needs_of
from .pieces import STEPS, plan_joints
from .remarks import cut_remarks, oddities, plan_remarks
from .rip import Rip, rips
from .used_up import WEIGHS, Item, Shell, Veneered, used_up
from .whole import WholeCut, cut_whole, made_whole

TRIES, MORE = 4, 1.03
"""Where stock runs short in spite of the spare, that much more is bought, so many times."""
GIVING = (STEPS[3:], STEPS[6:])
"""What is tried where stock runs short all the same."""


@dataclass(frozen=True)
class Lot:
    """Boards that are alike, by their mark, numbered from `first`; those on hand and those to buy. Strips for a section are
    ripped from each as `rip` says."""

    mark: str
    board: Board
    count: int
    section: Scantling
    rip: Rip
    bought: bool = False
    first: int = 1

    @property
    def boards(self) -> tuple[str, ...]:
        """The names of the boards: their mark and number."""
        return tuple(f"{self.mark}{k}" for k in range(self.first, self.first + self.count))

    @property
    def cost(self) -> float:
        """What they cost together."""
        return self.count * self.board.price


@dataclass(frozen=True)
class Pieces:
    """Which strips are made of which boards. `plan` is None where nothing could be planned; `findings` say why."""

    needs: tuple[Need, ...]
    sections: tuple[Scantling, ...]
    lots: tuple[Lot, ...]
    joint: Joint
    plan: JointPlan | None
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class StockPlan(Pieces):
    """Everything about stock: the pieces, and what else is used up."""

    items: tuple[Item, ...]

    @property
    def purchases(self) -> tuple[Lot, ...]:
        """The boards to buy."""
        return tuple(lot for lot in self.lots if lot.bought)

    @property
    def weight(self) -> float:
        """What the planked shell weighs, kg."""
        return sum(item.amount for item in self.items if item.what == WEIGHS)

    @property
    def cost(self) -> float:
        """What the boards to buy cost."""
        return sum(lot.cost for lot in self.purchases)


def plan_stock(job: Job, pieces: Pieces, shell: Shell, layers: Veneered | None = None) -> StockPlan:
    """What is used up for pieces as they are planned, and for layers of veneer."""
    densities = {s.wood: WOODS.get(s.wood, next(iter(WOODS.values()))).density for s in pieces.sections}
    joints = job.stock.joints
    items = used_up(pieces.needs, pieces.plan, joints, shell, job.stock.used_up, job.strips.minutes, densities, layers)
    return StockPlan(**vars(pieces), items=items)


def plan_pieces(
    job: Job,
    planking: Planking,
    found: Mapping[int, Behaviour],
    molds: Sequence[Mold],
    tick: Tick = lambda _: None,
    deck: tuple[Need, ...] = (),
) -> Pieces:
    """Plan the pieces for a job as it is planked, and what its `deck` needs. A plan that cannot be is a finding with the reason,
    never an exception."""
    stock = job.stock
    needs = (*needs_of(job.strips, planking, found, [m.station for m in molds], stock.joints), *deck)
    sections = tuple(dict.fromkeys(n.section for n in needs))
    joint = joint_of(stock.joints, job.strips.thickness)
    findings: list[Finding] = oddities(stock, sections, joint)
    plan: JointPlan | None = None
    lots: tuple[Lot, ...] = ()
    try:
        plan, lots, refused = _planned(job, needs, sections, tick)
        findings += [Finding("not-for-sale", Weight.STOP, "stock", s.wood, text) for s, text in refused.items()]
        if stock.given:
            findings += plan_remarks(plan, needs, stock)
        findings += cut_remarks(needs, stock, lost_in(stock))
    except ImpossiblePlan as error:
        findings.insert(0, Finding("stock-impossible", Weight.STOP, "stock", "the joints", str(error)))
        lots = _on_hand(job, needs, sections)
    return Pieces(needs, sections, lots, joint, plan, tuple(findings))


def _planned(
    job: Job, needs: tuple[Need, ...], sections: tuple[Scantling, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Scantling, str]]:
    """As it was planned before anything was cut, where all that is cut fits that; anew where it does not."""
    cut = job.stock.cut
    if cut:
        uncut = job.model_copy(update={"stock": job.stock.model_copy(update={"cut": ()})})
        with suppress(ImpossiblePlan):  # it may be possible now, with less to make
            before, lots, refused = _planned_anew(uncut, needs, sections, tick)
            sticks = [stick for own in sticks_of(lots, job.stock).values() for stick in own]
            kept = as_before(before, cut, sticks, lost_in(job.stock))
            if kept is not None:
                return kept, lots, refused
    return _planned_anew(job, needs, sections, tick)


def _planned_anew(
    job: Job, needs: tuple[Need, ...], sections: tuple[Scantling, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Scantling, str]]:
    """Pieces from what is on hand and what must be bought; more is bought where that turns out too little. Sections for which
    nothing can be bought are told, and the rest planned."""
    stock, lost = job.stock, lost_in(job.stock)
    have = _on_hand(job, needs, sections)
    if stock.joints.kind is JointKind.NONE:
        with suppress(NotEnough):  # what can be made of too little is found below
            return _planned_whole(job, needs, sections, have, tick)
    extra = dict.fromkeys(sections, 1.0)
    for turn in range(TRIES):
        purchases, refused = _purchases(job, needs, sections, sticks_of(have, stock), extra)
        lots = (*have, *_bought(purchases, stock.marks[len(stock.boards) :]))
        sticks = sticks_of(lots, stock)
        if refused and not any(sticks.values()):
            raise ImpossiblePlan(next(iter(refused.values())))
        plan = plan_joints(needs, sticks, stock.joints, lost, stock.saw.kerf, stock.cut, tick)
        short = {n.section for n in plan.missing} - set(refused)
        if not short or not stock.buying.for_sale or turn == TRIES - 1:
            break
        extra = {s: f * MORE if s in short else f for s, f in extra.items()}
    # better joints near each other than strips that cannot be made
    for giving in GIVING if plan.missing else ():
        other = plan_joints(needs, sticks, stock.joints, lost, stock.saw.kerf, stock.cut, tick, giving)
        if not other.missing:
            return other, lots, refused
    return plan, lots, refused


def _planned_whole(
    job: Job, needs: tuple[Need, ...], sections: tuple[Scantling, ...], have: tuple[Lot, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Scantling, str]]:
    """Strips in one piece each, so that least is bought. Raises NotEnough where there is too little."""
    stock, wood = job.stock, job.strips.wood
    sticks = sticks_of(have, stock)
    cut = {c.key for c in stock.cut}
    cuts: list[WholeCut] = []
    refused: dict[Scantling, str] = {}
    for section in sections:
        own = [n for n in needs if n.section == section and n.key not in cut]
        try:
            if own:
                cuts.append(cut_whole(own, section, wood, sticks.get(section, ()), stock, tick))
        except NotEnough:
            raise
        except ImpossiblePlan as error:
            refused[section] = str(error)
    if refused and not cuts:
        raise ImpossiblePlan(next(iter(refused.values())))
    purchases = [p for own_cut in cuts for p in own_cut.bought]
    bought = _bought(purchases, stock.marks[len(stock.boards) :])
    new = {(p.section, p.number): sticks_of((lot,), stock).get(p.section, ()) for p, lot in zip(purchases, bought, strict=True)}
    plan = made_whole(needs, cuts, sticks, new, stock)
    cost, least = sum(c.plan.cost for c in cuts), sum(c.plan.bound for c in cuts)
    return replace(plan, over=max(cost / least - 1, 0.0) if least > 0 else 0.0), (*have, *bought), refused


def _purchases(
    job: Job,
    needs: tuple[Need, ...],
    sections: tuple[Scantling, ...],
    have: dict[Scantling, tuple[Stick, ...]],
    extra: dict[Scantling, float],
) -> tuple[tuple[Purchase, ...], dict[Scantling, str]]:
    """What to buy for what is not cut yet, besides the sticks on hand; `extra` times as much as is needed of each section. And
    for which sections nothing for sale will do, with the reason."""
    stock, lost = job.stock, lost_in(job.stock)
    cut = {c.key for c in stock.cut}
    found: list[Purchase] = []
    refused: dict[Scantling, str] = {}
    for section in sections if stock.buying.for_sale else ():
        own = [n for n in needs if n.section == section and n.key not in cut]
        sticks, takes = have.get(section, ()), lost(section.thickness)
        on_hand = sum(max(stick.length - takes, 0.0) for stick in sticks)
        try:
            found += buy(own, section, job.strips.wood, takes, on_hand, stock.saw, stock.buying, extra[section])
        except ImpossiblePlan as error:
            refused[section] = str(error)
    return tuple(found), refused


def _on_hand(job: Job, needs: tuple[Need, ...], sections: tuple[Scantling, ...]) -> tuple[Lot, ...]:
    """Boards on hand given to the sections of their wood, those that need most first, as many boards as each needs."""
    lost, lots, marks = lost_in(job.stock), [], job.stock.marks
    left = {k: board.count for k, board in enumerate(job.stock.boards)}
    totals = {s: sum(n.length for n in needs if n.section == s) for s in sections}
    for section in sorted(sections, key=lambda s: -totals[s]):
        wanted = totals[section] * (1 + job.stock.buying.spare / 100)
        for k, board in enumerate(job.stock.boards):
            found = rips(board, section.width, section.thickness, job.stock.saw)
            gain = found[0].count * (board.usable - lost(section.thickness)) if found else 0.0
            if gain <= 0 or not left[k] or wanted <= 0 or not same_wood(board, section, job.strips.wood):
                continue
            others = [s for s in sections if s != section and same_wood(board, s, job.strips.wood)]
            count = min(left[k], math.ceil(wanted / gain)) if others else left[k]
            lots.append(Lot(marks[k], board, count, section, found[0], first=board.count - left[k] + 1))
            left[k] -= count
            wanted -= count * gain
    return tuple(sorted(lots, key=lambda lot: marks.index(lot.mark)))


def _bought(purchases: Sequence[Purchase], marks: Sequence[str]) -> tuple[Lot, ...]:
    so_far: dict[int, int] = {}
    lots = []
    for p in purchases:
        first = so_far.get(p.number, 0) + 1
        so_far[p.number] = first - 1 + p.count
        lots.append(Lot(marks[p.number], p.board, p.count, p.section, p.rip, bought=True, first=first))
    return tuple(lots)


def sticks_of(lots: Sequence[Lot], stock: StockSettings) -> dict[Scantling, tuple[Stick, ...]]:
    """Every strip that comes off the saw, by its name: mark and board, strip in the order it is sawn. Of those that were cut into
    what is left is long enough to be used."""
    cut_off: dict[str, float] = {}
    for made in stock.cut:
        for piece in made.pieces:
            cut_off[piece.sawn] = cut_off.get(piece.sawn, 0.0) + piece.length + stock.saw.kerf
    found: dict[Scantling, list[Stick]] = {}
    for lot in lots:
        for board in lot.boards:
            for strip in range(1, lot.rip.count + 1):
                name = f"{board}.{strip}"
                left = lot.board.usable - cut_off.get(name, 0.0)
                if name in cut_off and left >= stock.joints.least_piece:
                    found.setdefault(lot.section, []).append(Stick(left, f"{name}*", offcut=True))
                elif name not in cut_off and left > 0:
                    found.setdefault(lot.section, []).append(Stick(left, name))
    return {section: tuple(sticks) for section, sticks in found.items()}
