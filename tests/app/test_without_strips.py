"""Where strips cannot be laid as asked, all that needs none is still told and written; who asks gets what he needs worked out,
and no more."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_keel.app.exports import EXPORTS, Export, export_named
from hollow_keel.core import stages
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.fairing.stages import FAIRNESS
from hollow_keel.core.hull.stages import LINES
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline, completed
from hollow_keel.core.planking.stages import CENTRE_CUTS, PLANKING, TICKS
from hollow_keel.core.results import SHAPE, Results
from hollow_keel.core.stage import Failed, FailureKind
from hollow_keel.core.stages import SHOWN, STAGES, needed_for
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.demo.jobs import linnet

OPEN = [e for e in EXPORTS if e.group not in ("Deck", "Veneers", "Sheer")]
"""What an open boat without veneers has whose sheer is not carried out."""
WITHOUT = [e for e in OPEN if PLANKING not in needed_for(e.needs) and not e.kind.startswith("sheets-")]


@pytest.fixture(scope="module")
def job() -> Job:
    """Linnet with strips that nobody can lay."""
    return change(linnet(), "strips", width=5000.0)


@pytest.fixture(scope="module")
def stripless(job: Job) -> Results:
    with pytest.raises(ImpossiblePlan):
        Pipeline().results(job)
    return Pipeline().results(job, (*SHAPE, FAIRNESS), glad_of=(PLANKING, STOCK))


def test_without_strips_lines_and_molds_are_whole(stripless: Results) -> None:
    assert len(stripless.shape.molds.molds) == 12
    assert stripless.fairness is not None
    assert stripless.stock is None
    with pytest.raises(ImpossiblePlan, match="wider than the whole girth"):
        stripless.planking  # noqa: B018
    for stage in (PLANKING, STOCK):
        failed = stripless.values[stage.id].value
        assert (failed.stage, failed.kind) == ("plan", FailureKind.IMPOSSIBLE), "it is told where it went wrong"


@pytest.mark.parametrize("export", WITHOUT, ids=lambda e: e.kind)
def test_what_needs_no_strips_is_written_without_them(stripless: Results, export: Export) -> None:
    assert len(export.write(completed(stripless, export.needs))) > 200


def test_what_each_kind_of_file_needs() -> None:
    without = {e.kind for e in WITHOUT}
    assert {"molds-pdf", "molds-dxf", "setup-csv", "offsets-csv", "bevels-csv", "transom-pdf"} <= without
    assert not {"strips-csv", "ticks-pdf", "planked-stl", "stock-pdf", "plan-json"} & without
    assert set(SHOWN) - set(export_named("plan-json").needs) == {TICKS, CENTRE_CUTS}
    assert export_named("offsets-csv").needs == (LINES,)


@pytest.mark.parametrize("export", OPEN, ids=lambda e: e.kind)
def test_a_file_is_written_from_what_it_names_and_nothing_else(export: Export) -> None:
    pipeline = KEPT
    results = pipeline.results(LINNET, export.needs, glad_of=export.glad_of)
    if export.kind.startswith("sheets-"):
        with pytest.raises(ImpossiblePlan, match="not laid on sheets yet"):
            export.write(results)
    else:
        assert len(export.write(results)) > 100


KEPT, LINNET = Pipeline(), linnet()


def test_a_fault_in_one_stage_stays_there(monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture) -> None:
    """What needs the broken stage is told which one it is, with its traceback; everything else is worked out."""

    def broken(_given: object) -> None:
        raise ZeroDivisionError("a fault of ours")

    bad = replace(STOCK, compute=broken)
    table = tuple(bad if s is STOCK else s for s in STAGES)
    monkeypatch.setattr(stages, "STAGES", table)
    run = Pipeline().run(linnet())
    told = run.attempt(bad).value
    assert isinstance(told, Failed)
    assert (told.stage, told.kind) == ("stock", FailureKind.FAULT)
    assert "could not work out the wood (ZeroDivisionError: a fault of ours)" in told.message
    assert "in broken" in told.traceback
    assert "stage stock failed" in caplog.text
    assert len(run[PLANKING].strips) == 65
    assert len(export_named("molds-pdf").write(Pipeline().results(linnet(), SHAPE))) > 10_000
