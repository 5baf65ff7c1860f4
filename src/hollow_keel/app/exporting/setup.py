"""The set-up on paper and as a table."""

from __future__ import annotations

from ...core.errors import ImpossiblePlan
from ...core.findings import Weight
from ...core.results import SHAPE, Results
from ..export import Export
from .molds import some_molds

GROUP = "Setting up"


def _pdf(results: Results) -> bytes:
    from ...files.setup.paper import setting_up_pdf

    some_molds(results.shape)
    stops = [f.said() for f in results.shape.findings if f.code == "overlap" and f.weight is Weight.STOP]
    if stops:
        raise ImpossiblePlan(f"The setting-up sheet cannot be worked from: {stops[0].where}: {stops[0].text}")
    return setting_up_pdf(results.shape)


def _csv(results: Results) -> bytes:
    from ...files.schedule import told_csv
    from ...files.setup.schedules import MARKS, TIMBER, marks_told

    shape = results.shape
    marks = told_csv(MARKS, marks_told(shape.job, shape.setup, shape.schedule), shape.job.units)
    return f"{marks}\n{told_csv(TIMBER, shape.schedule, shape.job.units)}".encode()


EXPORTS = (
    Export("setup-pdf", GROUP, "Setting-up sheet (PDF)", ".pdf", SHAPE, _pdf, shop=True),
    Export("setup-csv", GROUP, "Setting-up schedule and cut list (CSV)", ".csv", SHAPE, _csv),
)
