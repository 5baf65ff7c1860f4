"""Where strips cannot be laid as asked, all that needs none is still told and written."""

from __future__ import annotations

import pytest

from hollow_keel.app.exports import EXPORTS, Export, Needs
from hollow_keel.app.overrides import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.demo.jobs import linnet


@pytest.fixture(scope="module")
def stripless() -> Results:
    """Linnet with strips that nobody can lay."""
    job = change(linnet(), "strips", width=5000.0)
    with pytest.raises(ImpossiblePlan):
        Pipeline().results_for(job, strips=True)
    return Pipeline().results_for(job, strips=False)


def test_without_strips_lines_and_molds_are_whole(stripless: Results) -> None:
    assert stripless.planking.strips == ()
    assert stripless.planking.total_length == 0
    assert len(stripless.shape.molds.molds) == 12
    assert stripless.fairness is not None
    assert stripless.stock is None


@pytest.mark.parametrize(
    "export",
    [e for e in EXPORTS if e.needs is Needs.SHAPE and not e.kind.startswith(("molds-", "sheets-"))],
    ids=lambda e: e.kind,
)
def test_what_needs_no_strips_is_written_without_them(stripless: Results, export: Export) -> None:
    assert len(export.make(stripless)) > 200


def test_what_each_kind_of_file_needs() -> None:
    needs = {e.kind: e.needs for e in EXPORTS}
    assert needs["molds-pdf"] is needs["setup-csv"] is needs["offsets-csv"] is Needs.SHAPE
    assert needs["strips-csv"] is needs["ticks-pdf"] is needs["planked-stl"] is Needs.STRIPS
    assert needs["stock-pdf"] is needs["plan-json"] is Needs.WOOD
