"""What was to be bought is on hand now, under the marks it was planned with."""

from __future__ import annotations

from collections.abc import Sequence

from .plan import Lot
from .timber import Board, StockSettings


def bought(stock: StockSettings, lots: Sequence[Lot]) -> StockSettings:
    """The settings with every lot to buy among the boards on hand; what is for sale gets marks that are free."""
    had = dict(zip(stock.marks, (*stock.boards, *stock.buying.for_sale), strict=True))
    fresh: dict[str, Board] = {}
    for lot in lots:
        if lot.bought:
            count = lot.count + (fresh[lot.mark].count if lot.mark in fresh else 0)
            fresh[lot.mark] = lot.board.model_copy(update={"count": count, "mark": lot.mark})
    if not fresh:
        return stock
    marks = stock.marks
    boards = [b.model_copy(update={"mark": m}) for b, m in zip(stock.boards, marks, strict=False)]
    sellers = [
        b.model_copy(update={"mark": "" if m in fresh else m})
        for m, b in list(had.items())[len(stock.boards) :]
    ]
    buying = stock.buying.model_copy(update={"for_sale": tuple(sellers)})
    return stock.model_copy(update={"boards": (*boards, *fresh.values()), "buying": buying})
