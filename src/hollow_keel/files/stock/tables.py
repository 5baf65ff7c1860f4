"""The stock plan as tables: pieces of every strip, what to buy, what is used up; each row as texts, for CSV and paper alike."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from ...core.amounts import Amounts, converted, in_amounts
from ...core.errors import ImpossiblePlan
from ...core.findings import Weight
from ...core.results import Results
from ...core.stock.needs import strip_name
from ...core.stock.plan import Lot, StockPlan
from ...core.stock.stages import STOCK
from ...core.stock.used_up import Item
from ...core.units import LengthStyle, given_size, plain_length
from ...core.words import counted

NONE_GIVEN = "There are no boards: give those on hand or for sale on the Stock page first."


def stock_of(results: Results) -> StockPlan:
    """The stock plan. Raises ImpossiblePlan where nothing can be cut from it."""
    plan = results[STOCK]
    for finding in plan.findings:
        if finding.weight is Weight.STOP:
            raise ImpossiblePlan(finding.said().text)
    if not results.shape.job.stock.given:
        raise ImpossiblePlan(NONE_GIVEN)
    return plan


def pieces_csv(results: Results) -> str:
    """One piece of one strip a row, those cut already included; lengths in the job's units."""
    plan, style = stock_of(results), results.shape.job.units.style
    assert plan.plan is not None
    unit = style.name
    rows: list[Sequence[object]] = [
        (
            "strip",
            "side",
            "part",
            "piece",
            "of",
            "from stick",
            f"cut to {unit}",
            f"joint after it from forward end {unit}",
            "wood",
            "cut already",
        )
    ]
    needs = {n.key: n for n in plan.needs}
    for strip, done in plan.plan.strips:
        need = needs.get(strip.key)
        for k, piece in enumerate(strip.pieces):
            joint = plain_length(strip.joints[k], style) if k < len(strip.joints) else ""
            rows.append(
                (
                    strip_name(strip.strip),
                    strip.side,
                    strip.part + 1,
                    k + 1,
                    len(strip.pieces),
                    piece.stick,
                    plain_length(piece.length, style),
                    joint,
                    need.section.wood if need else "",
                    "yes" if done else "",
                )
            )
    return written(rows)


def buying_csv(results: Results) -> str:
    """What to buy, then what else is used up."""
    plan, job = stock_of(results), results.shape.job
    style, money = job.units.style, job.stock.buying.currency
    rows: list[Sequence[object]] = [("what", "amount", "unit", f"each {money}", f"together {money}", "reckoned with")]
    for lot in plan.purchases:
        rows.append(
            (
                f"board {lot.mark}: {size_words(lot, style)}, {lot.section.wood}",
                lot.count,
                "",
                f"{lot.board.price:.2f}",
                f"{lot.cost:.2f}",
                f"{counted(lot.rip.count, 'strip')} of each",
            )
        )
    told = job.units.told_in
    rows += [(item.what, *number_and_unit(item, told), "", "", in_amounts(item.reckoned, told)) for item in plan.items]
    return written(rows)


def size_words(lot: Lot, style: LengthStyle) -> str:
    """A board's dressed size: thickness × width × length."""
    board = lot.board
    return given_size((board.thickness, board.width, board.length), style).replace("\u202f", "")


def number_and_unit(item: Item, amounts: Amounts) -> tuple[str, str]:
    """An amount and its unit: whole things whole."""
    if not item.unit:
        return f"{item.amount:.0f}", ""
    value, unit = converted(item.amount, item.unit, amounts)
    return (f"{value:.1f}" if value >= 10 else f"{value:.2f}"), unit


def amount(item: Item, amounts: Amounts) -> str:
    """An amount with its unit."""
    return " ".join(number_and_unit(item, amounts)).strip()


def written(rows: Sequence[Sequence[object]]) -> str:
    """Rows as CSV."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(rows)
    return out.getvalue()
