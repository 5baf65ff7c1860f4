"""The schedules of the stock: pieces of every strip, what to buy, what is used up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...core.amounts import Amounts, converted, in_amounts
from ...core.errors import ImpossiblePlan
from ...core.findings import Weight
from ...core.job import Job
from ...core.results import Results
from ...core.settings.timber import MadePiece, MadeStrip
from ...core.settings.units import UnitSettings
from ...core.stock.needs import SIDES, length_name, strip_name
from ...core.stock.plan import Lot, StockPlan
from ...core.stock.stages import STOCK
from ...core.stock.used_up import Item
from ...core.units import format_length, given_size
from ...core.words import counted
from ..schedule import Field, Kind, Schedule

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


def number_and_unit(item: Item, amounts: Amounts) -> tuple[str, str]:
    """An amount and its unit: whole things whole."""
    if not item.unit:
        return f"{item.amount:.0f}", ""
    value, unit = converted(item.amount, item.unit, amounts)
    return (f"{value:.1f}" if value >= 10 else f"{value:.2f}"), unit


def amount(item: Item, amounts: Amounts) -> str:
    """An amount with its unit."""
    return " ".join(number_and_unit(item, amounts)).strip()


@dataclass(frozen=True)
class PieceRow:
    """One piece of one length of strip; `number` from 1, from the forward end."""

    strip: MadeStrip
    number: int
    wood: str
    done: bool

    @property
    def piece(self) -> MadePiece:
        """The piece."""
        return self.strip.pieces[self.number - 1]

    @property
    def joint(self) -> float | None:
        """The joint after it, from the strip's forward end, mm; None after the last."""
        return self.strip.joints[self.number - 1] if self.number <= len(self.strip.joints) else None


def piece_rows(plan: StockPlan) -> Iterator[PieceRow]:
    """All pieces, those cut already included."""
    needs = {n.key: n for n in plan.needs}
    for strip, done in plan.plan.strips if plan.plan is not None else ():
        need = needs.get(strip.key)
        for k in range(len(strip.pieces)):
            yield PieceRow(strip, k + 1, need.section.wood if need else "", done)


PIECES = Schedule(
    "pieces",
    "Pieces of every strip, one a row",
    STOCK,
    piece_rows,
    (
        Field("strip", "Strip", lambda r: strip_name(r.strip.strip), Kind.WORD, "strip"),
        Field("side", "Side", lambda r: r.strip.side, Kind.WORD, "side"),
        Field("part", "Part", lambda r: r.strip.part + 1, Kind.NUMBER, "part"),
        Field("piece", "Piece", lambda r: r.number, Kind.NUMBER, "piece"),
        Field("of", "Of", lambda r: len(r.strip.pieces), Kind.NUMBER, "of"),
        Field("stick", "From stick", lambda r: r.piece.stick, Kind.WORD, "from stick"),
        Field("length", "Cut to", lambda r: r.piece.length, Kind.TAPE, "cut to"),
        Field("joint", "Joint after it", lambda r: r.joint, Kind.TAPE, "joint after it from forward end"),
        Field("wood", "Wood", lambda r: r.wood, Kind.WORD, "wood"),
        Field("done", "Cut already", lambda r: "yes" if r.done else "", Kind.WORD, "cut already"),
    ),
)


@dataclass(frozen=True)
class LengthRow:
    """A length of strip with the pieces that it is made of, and how long it is cut (mm; None: it is not needed any more)."""

    strip: MadeStrip
    done: bool
    cut_to: float | None


def _lengths(plan: StockPlan) -> list[LengthRow]:
    lengths = {n.key: n.length for n in plan.needs}
    rows = [LengthRow(strip, done, lengths.get(strip.key)) for strip, done in (plan.plan.strips if plan.plan is not None else ())]
    return sorted(rows, key=lambda r: (r.strip.strip, SIDES.index(r.strip.side), r.strip.part))


def _by_name(row: LengthRow) -> float:
    return row.strip.strip * 2 + SIDES.index(row.strip.side)


def _made_of(row: LengthRow, units: UnitSettings) -> str:
    pieces = "  +  ".join(f"{p.stick} {format_length(p.length, units.style)}" for p in row.strip.pieces)
    return f"cut: {pieces}" if row.done else pieces


LENGTHS = Schedule(
    "lengths",
    "Pieces of every strip",
    STOCK,
    _lengths,
    (
        Field("name", "Strip", lambda r: length_name(r.strip.key), Kind.WORD, order=_by_name),
        Field("cut_to", "Cut to", lambda r: r.cut_to, Kind.TAPE),
        Field("pieces", "Pieces, forward end first", lambda r: r.strip.pieces, Kind.WORD, said=_made_of),
        Field(
            "joints",
            "Joints from the forward end",
            lambda r: r.strip.joints,
            Kind.WORD,
            said=lambda r, units: "  ".join(format_length(j, units.style) for j in r.strip.joints),
        ),
    ),
    lambda r: f"strip:{r.strip.strip}",
    missing="–",
)


def lot_size(lot: Lot, units: UnitSettings) -> str:
    """A board's dressed size, as it is read."""
    return given_size((lot.board.thickness, lot.board.width, lot.board.length), units.style)


def _lot_fields(money: str) -> tuple[Field, ...]:
    return (
        Field("mark", "Board", lambda lot: lot.mark, Kind.WORD, "mark"),
        Field("size", "Size", lambda lot: lot.mark, Kind.WORD, "thick × wide × long, dressed", said=lot_size),
        Field("wood", "Wood", lambda lot: lot.section.wood, Kind.WORD, "wood"),
        Field("count", "Buy", lambda lot: lot.count, Kind.NUMBER, "how many"),
        Field("strips", "Strips of each", lambda lot: lot.rip.count, Kind.NUMBER),
        Field("grain", "Grain of the strips", lambda lot: lot.rip.face.value, Kind.WORD),
        Field(
            "each",
            f"Each {money}",
            lambda lot: lot.board.price,
            Kind.NUMBER,
            f"each {money}",
            2,
            said=lambda lot, _: f"{lot.board.price:.2f}",
        ),
        Field(
            "cost",
            f"Cost {money}",
            lambda lot: lot.cost,
            Kind.NUMBER,
            f"together {money}",
            2,
            said=lambda lot, _: f"{lot.cost:.2f}",
        ),
    )


@dataclass(frozen=True)
class Bought:
    """What is bought and what else is used up, and the money that it is told in."""

    plan: StockPlan
    money: str
    units: UnitSettings


def bought_of(job: Job, plan: StockPlan) -> Bought:
    """What a plan asks to be bought."""
    return Bought(plan, job.stock.buying.currency, job.units)


LOTS = Schedule(
    "to_buy",
    "What to buy",
    STOCK,
    lambda told: told.plan.purchases,
    lambda told: _lot_fields(told.money),
    lambda lot: f"lot:{lot.mark}",
    ticked=True,
    source=bought_of,
    page=("mark", "size", "wood", "count", "strips", "grain", "cost"),
    paper=("mark", "size", "wood", "count", "each", "cost"),
)
CONSUMED = Schedule(
    "used_up",
    "What else is used up",
    STOCK,
    lambda plan: plan.items,
    (
        Field("what", "What", lambda i: i.what, Kind.WORD, "what"),
        Field("amount", "How much", lambda i: i.amount, Kind.NUMBER, "how much", said=lambda i, units: amount(i, units.told_in)),
        Field(
            "reckoned",
            "Reckoned with",
            lambda i: i.reckoned,
            Kind.WORD,
            "reckoned with",
            said=lambda i, units: in_amounts(i.reckoned, units.told_in),
        ),
    ),
    lambda i: i.what,
)


@dataclass(frozen=True)
class BuyRow:
    """A line of what is bought, or used up: what, how much, of what, its price and what it costs (None: not known), and how it is
    reckoned."""

    what: str
    count: str
    unit: str
    each: float | None
    cost: float | None
    reckoned: str


def _buy_rows(told: Bought) -> Iterator[BuyRow]:
    units = told.units
    for lot in told.plan.purchases:
        what = f"board {lot.mark}: {lot_size(lot, units)}, {lot.section.wood}".replace("\u202f", "")
        yield BuyRow(what, str(lot.count), "", lot.board.price, lot.cost, f"{counted(lot.rip.count, 'strip')} of each")
    for item in told.plan.items:
        yield BuyRow(item.what, *number_and_unit(item, units.told_in), None, None, in_amounts(item.reckoned, units.told_in))


BUYING = Schedule(
    "buying",
    "What to buy and what is used up",
    STOCK,
    _buy_rows,
    lambda told: (
        Field("what", "What", lambda r: r.what, Kind.WORD, "what"),
        Field("amount", "Amount", lambda r: r.count, Kind.WORD, "amount"),
        Field("unit", "Unit", lambda r: r.unit, Kind.WORD, "unit"),
        Field("each", "Each", lambda r: r.each, Kind.NUMBER, f"each {told.money}", 2),
        Field("cost", "Together", lambda r: r.cost, Kind.NUMBER, f"together {told.money}", 2),
        Field("reckoned", "Reckoned with", lambda r: r.reckoned, Kind.WORD, "reckoned with"),
    ),
    source=bought_of,
)
