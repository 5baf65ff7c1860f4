"""Wood on paper, as labels and as tables."""

from __future__ import annotations

from ...core.planking.stages import BEHAVIOURS, PLANKING
from ...core.results import SHAPE, Results
from ...core.stock.stages import STOCK
from ..export import Export

GROUP = "Wood"
PLANNED = (*SHAPE, PLANKING, BEHAVIOURS, STOCK)


def _stock(results: Results) -> bytes:
    from ...files.stock.paper import stock_pdf

    return stock_pdf(results)


def _labels(results: Results) -> bytes:
    from ...files.stock.paper import labels_pdf

    return labels_pdf(results)


def _pieces(results: Results) -> bytes:
    from ...files.schedule import told_csv
    from ...files.stock.schedules import PIECES, stock_of

    return told_csv(PIECES, stock_of(results), results.job.units).encode()


def _buying(results: Results) -> bytes:
    from ...files.schedule import told_csv
    from ...files.stock.schedules import BUYING, bought_of, stock_of

    return told_csv(BUYING, bought_of(results.job, stock_of(results)), results.job.units).encode()


EXPORTS = (
    Export("stock-pdf", GROUP, "Wood: what to buy, sawing, joints and pieces (PDF)", ".pdf", PLANNED, _stock, shop=True),
    Export("labels-pdf", GROUP, "Labels for bundles and pieces (PDF)", ".pdf", PLANNED, _labels),
    Export("pieces-csv", GROUP, "Pieces of every strip (CSV)", ".csv", PLANNED, _pieces),
    Export("buying-csv", GROUP, "What to buy and what is used up (CSV)", ".csv", PLANNED, _buying),
)
