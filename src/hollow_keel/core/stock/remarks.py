"""What wants looking at about wood and joints: what makes no sense, what could not be made, which rule gave, what is cut and no
longer fits."""

from __future__ import annotations

import math
from collections.abc import Callable

from ..findings import Finding, Weight, mm
from ..rules import SAME_SECTION_MM, SHORT_MM
from ..settings.timber import StockSettings
from .joint_check import least_apart, least_clear
from .joint_plan import JointPlan, Made
from .joints import Joint, lost_in
from .needs import Need, Scantling, strip_name
from .rip import rips


def oddities(stock: StockSettings, sections: tuple[Scantling, ...], joint: Joint) -> list[Finding]:
    """What makes no sense, or little."""
    found: list[Finding] = []

    def look(code: str, where: str, text: str) -> None:
        found.append(Finding(code, Weight.LOOK, "stock", where, text))

    thin = min((s.thickness for s in sections), default=0.0)
    if thin and stock.saw.kerf > thin:
        look(
            "kerf",
            "the saw",
            f"The kerf ({mm(stock.saw.kerf)}) is thicker than the strips ({mm(thin)}): more wood goes to "
            f"dust than to the hull. "
            "A thinner blade, or a band saw, saves the most.",
        )
    for mark, board in zip(stock.marks, stock.given, strict=True):
        where = f"board {mark}"
        if board.usable <= joint.lost:
            look("short-board", where, f"It is no longer than a joint ({mm(round(joint.lost, 1))}): it is left out.")
        elif board.usable < stock.joints.least_piece:
            look(
                "short-board",
                where,
                f"It is shorter than the least piece ({mm(stock.joints.least_piece)}): it is used only "
                f"where a whole "
                "strip is as short.",
            )
        elif not any(rips(board, s.width, s.thickness, stock.saw) for s in sections):
            look(
                "thin-board",
                where,
                "No strip of this job comes out of it: it is too thin or too narrow, with the saw's kerf and planing.",
            )
    if stock.buying.for_sale and not any(b.price for b in stock.buying.for_sale):
        look("no-price", "the boards for sale", "None has a price: the list is least in wood, and costs nothing.")
    return found


def plan_remarks(plan: JointPlan, needs: tuple[Need, ...], stock: StockSettings) -> list[Finding]:
    """What could not be made, and which rule gave by how much."""
    found = []
    if plan.missing:
        metres = sum(n.length for n in plan.missing) / 1000
        names = ", ".join(n.name for n in plan.missing[:4]) + (" …" if len(plan.missing) > 4 else "")
        found.append(
            Finding(
                "short-stock",
                Weight.LOOK,
                "stock",
                f"strips {names}",
                f"{len(plan.missing)} lengths ({metres:.0f} m) cannot be made from what is there: give more boards, or "
                f"boards for sale.",
            )
        )
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
        found += _gave("joints stand clear of molds and bends by", wanted, least_clear(plan, needs, joint), off)
    return found


def _gave(text: str, wanted: float, real: float | None, gave: list[Made]) -> list[Finding]:
    """That a rule gave in some strips, and to what it did (mm, measured on the plan)."""
    if real is None:
        return []
    has = f"only {mm(round(real))} instead of" if real > 0 else "not at all, where you wanted"
    return [
        Finding(
            "rule-gave",
            Weight.LOOK,
            "stock",
            f"strips {_names(gave)}",
            f"With this stock {text} {has} {mm(wanted)} in places: more lengths to choose from, or a smaller distance, would "
            "put it right.",
        )
    ]


def cut_remarks(needs: tuple[Need, ...], stock: StockSettings, lost: Callable[[float], float]) -> list[Finding]:
    """Strips that were cut and no longer fit the plan; what is cut stays. `lost` is a joint's length by the thickness, mm."""
    if not stock.cut:
        return []
    by_name = {n.key: n for n in needs}
    found = []
    gone = [c for c in stock.cut if c.key not in by_name]
    if gone:
        text = "They are not in the plan any more. Their wood counts as used; mark them as not cut if it is free again."
        names = ", ".join(f"{strip_name(c.strip)} {c.side}" for c in gone[:4]) + (" …" if len(gone) > 4 else "")
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
        where = f"strip {strip_name(first)}" if first == last else f"strips {strip_name(first)} to {strip_name(last)}"
        was, now_is = f"{mm(width)} by {mm(thick)}", f"{mm(new_width)} by {mm(new_thick)}"
        advice = (
            "Lay them as strips that differ: give them their own width under Strips that differ, and the others follow from there"
            if width != new_width
            else "Give them their own thickness under Strips that differ"
        )
        if width > new_width and thick >= new_thick:
            advice += f", or rip them to {mm(new_width)}"
        text = f"They were cut {was}, and the plan now counts them as {now_is}. {advice}; else go back to {was}."
        found.append(Finding("cut-section", Weight.STOP, "stock", where, text))
    return found


def _names(made: list[Made]) -> str:
    return ", ".join(m.need.name for m in made[:4]) + (" …" if len(made) > 4 else "")
