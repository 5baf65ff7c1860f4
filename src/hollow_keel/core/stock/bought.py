"""What was to be bought is on hand now, under the marks it was planned with."""

from __future__ import annotations

from collections.abc import Sequence

from ..settings.timber import Board, StockSettings
from .plan import Lot


def bought(stock: StockSettings, lots: Sequence[Lot]) -> StockSettings:
    """The settings with every lot to buy among the boards on hand; what is for sale gets marks that are free."""
    fresh: dict[str, Board] = {}
    for lot in lots:
        if lot.bought:
            before = fresh[lot.mark].count if lot.mark in fresh else 0
            fresh[lot.mark] = lot.board.model_copy(update={"count": before + lot.count, "mark": lot.mark})
    if not fresh:
        return stock
    marked = [b.model_copy(update={"mark": m}) for b, m in zip(stock.given, stock.marks, strict=True)]
    have, sellers = marked[: len(stock.boards)], marked[len(stock.boards) :]
    for_sale = tuple(b.model_copy(update={"mark": ""}) if b.mark in fresh else b for b in sellers)
    buying = stock.buying.model_copy(update={"for_sale": for_sale})
    return stock.model_copy(update={"boards": (*have, *fresh.values()), "buying": buying})
