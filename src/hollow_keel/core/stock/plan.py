"""The stock plan: how boards are ripped, what is bought, which piece goes where, and what else is used up."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight, mm
from ..job import Job
from ..molds.stations import Mold
from ..planking.mechanics import Behaviour
from ..planking.strips import Planking
from ..planking.woods import WOODS
from .as_before import as_before
from .buying import Purchase, buy, same_wood
from .cutting import NotEnough
from .joint_check import least_apart, least_clear
from .joint_plan import JointPlan, Made, Stick
from .joints import Joint, joint_of
from .needs import Need, Section, needs_of
from .pieces import STEPS, plan_joints
from .rip import Rip, rips
from .timber import Board, JointKind, StockSettings
from .used_up import Item, Shell, used_up
from .whole import WholeCut, cut_whole, made_whole

SHORT_MM = 1.0
SAME_SECTION_MM = 0.05
TRIES, MORE = 4, 1.03
"""Where stock runs short in spite of the spare, that much more is bought, so many times."""
GIVING = (STEPS[3:], STEPS[6:])
"""What is tried where stock runs short all the same."""
Tick = Callable[[float], None]


@dataclass(frozen=True)
class Lot:
    """Boards that are alike, by their mark, numbered from `first`; those on hand and those to buy. Strips for a section are
    ripped from each as `rip` says."""

    mark: str
    board: Board
    count: int
    section: Section
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
class StockPlan:
    """Everything about stock. `plan` is None where nothing could be planned; `findings` say why."""

    needs: tuple[Need, ...]
    sections: tuple[Section, ...]
    lots: tuple[Lot, ...]
    joint: Joint
    plan: JointPlan | None
    items: tuple[Item, ...]
    findings: tuple[Finding, ...]

    @property
    def purchases(self) -> tuple[Lot, ...]:
        """The boards to buy."""
        return tuple(lot for lot in self.lots if lot.bought)

    @property
    def cost(self) -> float:
        """What the boards to buy cost."""
        return sum(lot.cost for lot in self.purchases)


def plan_stock(
    job: Job,
    planking: Planking,
    found: dict[int, Behaviour],
    molds: Sequence[Mold],
    shell: Shell,
    tick: Tick = lambda _: None,
) -> StockPlan:
    """Plan the stock for a job as it is planked. A plan that cannot be is a finding with the reason, never an exception."""
    stock = job.stock
    needs = needs_of(job.strips, planking, found, [m.station for m in molds], stock.joints)
    sections = tuple(dict.fromkeys(n.section for n in needs))
    joint = joint_of(stock.joints, job.strips.thickness)
    findings: list[Finding] = _oddities(stock, sections, joint)
    plan: JointPlan | None = None
    lots: tuple[Lot, ...] = ()
    try:
        plan, lots, refused = _planned(job, needs, sections, tick)
        findings += [
            Finding("not-for-sale", Weight.STOP, "stock", s.wood, text) for s, text in refused.items()
        ]
        if stock.given:
            findings += _told(plan, needs, stock)
        findings += _cut_already(needs, stock, lost_in(stock))
    except ImpossiblePlan as error:
        findings.insert(0, Finding("stock-impossible", Weight.STOP, "stock", "the joints", str(error)))
        lots = _on_hand(job, needs, sections)
    densities = {s.wood: WOODS.get(s.wood, next(iter(WOODS.values()))).density for s in sections}
    items = used_up(needs, plan, stock.joints, shell, stock.used_up, job.strips.minutes, densities)
    return StockPlan(needs, sections, lots, joint, plan, items, tuple(findings))


def lost_in(stock: StockSettings) -> Callable[[float], float]:
    """The length a joint takes, by the strips' thickness."""
    return lambda thickness: joint_of(stock.joints, thickness).lost


def _planned(
    job: Job, needs: tuple[Need, ...], sections: tuple[Section, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Section, str]]:
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
    job: Job, needs: tuple[Need, ...], sections: tuple[Section, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Section, str]]:
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
    job: Job, needs: tuple[Need, ...], sections: tuple[Section, ...], have: tuple[Lot, ...], tick: Tick
) -> tuple[JointPlan, tuple[Lot, ...], dict[Section, str]]:
    """Strips in one piece each, so that least is bought. Raises NotEnough where there is too little."""
    stock, wood = job.stock, job.strips.wood
    sticks = sticks_of(have, stock)
    cut = {c.key for c in stock.cut}
    cuts: list[WholeCut] = []
    refused: dict[Section, str] = {}
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
    new = {
        (p.section, p.number): sticks_of((lot,), stock).get(p.section, ())
        for p, lot in zip(purchases, bought, strict=True)
    }
    plan = made_whole(needs, cuts, sticks, new, stock)
    cost, least = sum(c.plan.cost for c in cuts), sum(c.plan.bound for c in cuts)
    return replace(plan, over=max(cost / least - 1, 0.0) if least > 0 else 0.0), (*have, *bought), refused


def _purchases(
    job: Job,
    needs: tuple[Need, ...],
    sections: tuple[Section, ...],
    have: dict[Section, tuple[Stick, ...]],
    extra: dict[Section, float],
) -> tuple[tuple[Purchase, ...], dict[Section, str]]:
    """What to buy for what is not cut yet, besides the sticks on hand; `extra` times as much as is needed of each section. And
    for which sections nothing for sale will do, with the reason."""
    stock, lost = job.stock, lost_in(job.stock)
    cut = {c.key for c in stock.cut}
    found: list[Purchase] = []
    refused: dict[Section, str] = {}
    for section in sections if stock.buying.for_sale else ():
        own = [n for n in needs if n.section == section and n.key not in cut]
        sticks, takes = have.get(section, ()), lost(section.thickness)
        on_hand = sum(max(stick.length - takes, 0.0) for stick in sticks)
        try:
            found += buy(
                own, section, job.strips.wood, takes, on_hand, stock.saw, stock.buying, extra[section]
            )
        except ImpossiblePlan as error:
            refused[section] = str(error)
    return tuple(found), refused


def _on_hand(job: Job, needs: tuple[Need, ...], sections: tuple[Section, ...]) -> tuple[Lot, ...]:
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


def sticks_of(lots: Sequence[Lot], stock: StockSettings) -> dict[Section, tuple[Stick, ...]]:
    """Every strip that comes off the saw, by its name: mark and board, strip in the order it is sawn. Of those that were cut into
    what is left is long enough to be used."""
    cut_off: dict[str, float] = {}
    for made in stock.cut:
        for piece in made.pieces:
            cut_off[piece.sawn] = cut_off.get(piece.sawn, 0.0) + piece.length + stock.saw.kerf
    found: dict[Section, list[Stick]] = {}
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


def _oddities(stock: StockSettings, sections: tuple[Section, ...], joint: Joint) -> list[Finding]:
    """What makes no sense, or little."""
    found: list[Finding] = []

    def look(code: str, where: str, text: str) -> None:
        found.append(Finding(code, Weight.LOOK, "stock", where, text))

    thin = min((s.thickness for s in sections), default=0.0)
    if thin and stock.saw.kerf > thin:
        look("kerf", "the saw", f"The kerf ({mm(stock.saw.kerf)}) is thicker than the strips ({mm(thin)}): more wood goes to "
                                f"dust than to the hull. "
                                "A thinner blade, or a band saw, saves the most.")  # fmt: skip
    for mark, board in zip(stock.marks, stock.given, strict=True):
        where = f"board {mark}"
        if board.usable <= joint.lost:
            look(
                "short-board",
                where,
                f"It is no longer than a joint ({mm(round(joint.lost, 1))}): it is left out.",
            )
        elif board.usable < stock.joints.least_piece:
            look("short-board", where, f"It is shorter than the least piece ({mm(stock.joints.least_piece)}): it is used only "
                                       f"where a whole "
                                       "strip is as short.")  # fmt: skip
        elif not any(rips(board, s.width, s.thickness, stock.saw) for s in sections):
            look(
                "thin-board",
                where,
                "No strip of this job comes out of it: it is too thin or too narrow, with the saw's kerf and planing.",
            )
    if stock.buying.for_sale and not any(b.price for b in stock.buying.for_sale):
        look(
            "no-price",
            "the boards for sale",
            "None has a price: the list is least in wood, and costs nothing.",
        )
    return found


def _told(plan: JointPlan, needs: tuple[Need, ...], stock: StockSettings) -> list[Finding]:
    """What could not be made, and which rule gave by how much."""
    found = []
    if plan.missing:
        metres = sum(n.length for n in plan.missing) / 1000
        names = ", ".join(n.name for n in plan.missing[:4]) + (" …" if len(plan.missing) > 4 else "")
        found.append(
            Finding("short-stock", Weight.LOOK, "stock", f"strips {names}",
                    f"{len(plan.missing)} lengths ({metres:.0f} m) cannot be made from what is there: give more boards, or "
                    f"boards for sale.")
        )  # fmt: skip
    joint = lost_in(stock)(max((n.section.thickness for n in needs), default=0.0))
    near, off = [m for m in plan.made if m.apart < 1.0], [m for m in plan.made if m.clear < 1.0]
    if plan.over is not None and stock.buying.for_sale:
        sure = (
            "No way of cutting needs less"
            if plan.over < 1e-6
            else f"No way of cutting needs less by more than {math.ceil(1000 * plan.over) / 10:g} %"
        )
        text = f"{sure}; every cross-cut takes the saw's kerf. Spare boards are bought besides ({stock.buying.spare:g} %)."
        found.append(Finding("whole-lengths", Weight.INFORMATION, "stock", "the boards to buy", text))
    if near:
        real = least_apart(plan, needs, stock.joints.rows)
        found += _gave("joints in neighbouring strips stand", stock.joints.stagger, real, near)
    if off:
        wanted = max(stock.joints.clear_molds, stock.joints.clear_bends)
        found += _gave(
            "joints stand clear of molds and bends by", wanted, least_clear(plan, needs, joint), off
        )
    return found


def _gave(text: str, wanted: float, real: float | None, gave: list[Made]) -> list[Finding]:
    """That a rule gave in some strips, and to what it did (mm, measured on the plan)."""
    if real is None:
        return []
    has = f"only {mm(round(real))} instead of" if real > 0 else "not at all, where you wanted"
    return [
        Finding(
            "rule-gave", Weight.LOOK, "stock", f"strips {_names(gave)}",
            f"With this stock {text} {has} {mm(wanted)} in places: more lengths to choose from, or a smaller distance, would "
            "put it right.",
        )
    ]  # fmt: skip


def _cut_already(
    needs: tuple[Need, ...], stock: StockSettings, lost: Callable[[float], float]
) -> list[Finding]:
    """Strips that were cut and no longer fit the plan; what is cut stays."""
    if not stock.cut:
        return []
    by_name = {n.key: n for n in needs}
    found = []
    gone = [c for c in stock.cut if c.key not in by_name]
    if gone:
        text = "They are not in the plan any more. Their wood counts as used; mark them as not cut if it is free again."
        names = ", ".join(f"{c.strip} {c.side}" for c in gone[:4]) + (" …" if len(gone) > 4 else "")
        found.append(Finding("cut-gone", Weight.LOOK, "stock", f"strips {names}", text))
    found += _other_section(by_name, stock)
    short: list[tuple[float, Need]] = []
    for cut in stock.cut:
        need = by_name.get(cut.key)
        if need is not None:
            made = sum(p.length for p in cut.pieces) - len(cut.joints) * lost(need.section.thickness)
            if made < need.length - SHORT_MM:
                short.append((need.length - made, need))
    if short:
        by, worst = max(short, key=lambda pair: pair[0])
        text = f"The plan now wants it {mm(round(by, 1))} longer than it was cut: scarf a piece on, or use it further down."
        more = f" (and {len(short) - 1} more)" if len(short) > 1 else ""
        found.append(Finding("cut-short", Weight.LOOK, "stock", f"strip {worst.name}{more}", text))
    return found


def _other_section(by_name: dict[tuple[int, str, int], Need], stock: StockSettings) -> list[Finding]:
    """Strips that were milled to another width or thickness than the plan has now."""
    other: dict[tuple[float, float, float, float], list[int]] = {}
    for cut in stock.cut:
        need = by_name.get(cut.key)
        if need is None or cut.width is None or cut.thickness is None:
            continue
        now = (need.section.width, need.section.thickness)
        if max(abs(a - b) for a, b in zip((cut.width, cut.thickness), now, strict=True)) > SAME_SECTION_MM:
            other.setdefault((cut.width, cut.thickness, *now), []).append(cut.strip)
    found = []
    for (width, thick, new_width, new_thick), numbers in other.items():
        first, last = min(numbers), max(numbers)
        where = f"strip {first}" if first == last else f"strips {first} to {last}"
        was, now_is = f"{mm(width)} by {mm(thick)}", f"{mm(new_width)} by {mm(new_thick)}"
        advice = (
            "Lay them as strips that differ: give them their own width under Strips that differ, and the others follow from there"
            if width != new_width
            else "Give them their own thickness under Strips that differ"
        )
        if width > new_width and thick >= new_thick:
            advice += f", or rip them to {mm(new_width)}"
        text = (
            f"They were cut {was}, and the plan now counts them as {now_is}. {advice}; else go back to {was}."
        )
        found.append(Finding("cut-section", Weight.STOP, "stock", where, text))
    return found


def _names(made: list[Made]) -> str:
    return ", ".join(m.need.name for m in made[:4]) + (" …" if len(made) > 4 else "")
