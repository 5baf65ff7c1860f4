"""The marks in the order of work, from states that are made up: each says only what is true of its own stage."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_keel.app.overrides import change
from hollow_keel.core.findings import Finding, Weight
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.stock.timber import StockSettings
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.sentences import sentence
from hollow_keel.ui.state import State
from hollow_keel.ui.status import status

STAGES = [kind.stage for kind in PAGES]


@pytest.fixture(scope="module")
def done() -> State:
    """Everything is worked out, and nothing wants looking at."""
    results = Pipeline().results(change(linnet(), "", surveys=()))
    shape = replace(results.shape, findings=())
    return State(
        shape.job, shape, replace(results.planking, findings=()), results.behaviours,
        fairness=results.fairness, judged=True, stock=results.stock, stocked=True,
    )  # fmt: skip


def marks(state: State) -> list[str]:
    return [status(state, stage)[0] for stage in STAGES]


def test_all_is_ready(done: State) -> None:
    assert marks(done) == ["ready"] * 6


def test_a_blank_job_is_empty_everywhere() -> None:
    assert marks(State(Job())) == ["empty"] * 6


def test_what_is_being_worked_out_is_to_do_again(done: State) -> None:
    assert marks(replace(done, stale=True, stocked=False)) == [
        "ready",
        "ready",
        "ready",
        "ready",
        "redo",
        "redo",
    ]
    assert marks(replace(done, judged=False))[1] == "redo"
    assert marks(replace(done, planking=None))[4] == "redo"


@pytest.mark.parametrize(
    ("stage", "wanted"),
    [
        ("offsets", ["look", "redo", "redo", "redo", "redo", "redo"]),
        ("planking", ["ready", "ready", "ready", "ready", "look", "redo"]),
    ],
)
def test_a_problem_stops_its_own_stage_and_those_after(done: State, stage: str, wanted: list[str]) -> None:
    stopped = replace(done, problem="It cannot be.", problem_stage=stage, stale=True, stocked=False)
    assert marks(stopped) == wanted
    assert status(stopped, stage) == ("look", 1)


def test_without_boards_stock_is_empty(done: State) -> None:
    assert marks(replace(done, job=change(done.job, "", stock=StockSettings())))[5] == "empty"


def test_without_molds_there_is_nothing_to_set_up(done: State) -> None:
    assert done.shape is not None
    bare = replace(done, shape=replace(done.shape, molds=replace(done.shape.molds, molds=())))
    assert marks(bare) == ["ready", "ready", "ready", "empty", "ready", "ready"]


def test_findings_are_counted_where_they_belong(done: State) -> None:
    assert done.shape is not None
    found = Finding("x", Weight.LOOK, "molds", "mold 3", "Look at it.")
    state = replace(done, shape=replace(done.shape, findings=(found, found)))
    assert status(state, "molds") == ("look", 2)
    assert marks(state) == ["ready", "ready", "look", "ready", "ready", "ready"]
    printed = replace(found, code="printed-changed")
    assert marks(replace(done, shape=replace(done.shape, findings=(printed,))))[2] == "redo"


@pytest.mark.parametrize(
    ("style", "text"),
    [
        (LengthStyle(LengthUnit.MM, 0.5), "It is 25.4 mm wide and 1000 mm long."),
        (LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16), 'It is 1" wide and 39 3/8" long.'),
        (LengthStyle(LengthUnit.INCH, 0.01), "It is 1.00 in wide and 39.37 in long."),
    ],
)
def test_lengths_in_a_sentence_have_the_builder_s_unit(style: LengthStyle, text: str) -> None:
    assert sentence("It is ⟨25.4⟩ wide and ⟨1000⟩ long.", style) == text
