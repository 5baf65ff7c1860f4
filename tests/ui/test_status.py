"""The marks in the order of work, from states that are made up: each says only what is true of its own stage."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from hollow_keel.app.exports import EXPORTS
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.fairing.stages import FAIRNESS
from hollow_keel.core.findings import Finding, Weight
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, Layer
from hollow_keel.core.molds.cut_stages import PROUD
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import HANDLING, PLANKING, REPLAN
from hollow_keel.core.settings.timber import StockSettings
from hollow_keel.core.setup.stages import SETUP
from hollow_keel.core.stage import Failed, FailureKind, Stage, Value
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import demo_job, linnet
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.views.sentences import sentence
from hollow_keel.ui.window.state import SHOWN, State
from hollow_keel.ui.window.status import status

PAGE_IDS = [kind.stage for kind in PAGES if kind.stage not in ("deck", "veneers", "sheer", "log")]
"""This job has no deck and no veneers; sheer and log are told by themselves."""


def with_value(state: State, stage: Stage[Any], value: object) -> State:
    return state.told([Value(stage.id, state.keys[stage.id], value)])


@pytest.fixture(scope="module")
def done() -> State:
    """Everything is worked out, and nothing wants looking at."""
    job = change(linnet(), "", surveys=(), planked=None)
    results = Pipeline().results(job)
    state = State(job).told(results.values.values())
    state = with_value(state, HANDLING, ())
    return with_value(state, PLANKING, replace(results.planking, findings=()))


def marks(state: State) -> list[str]:
    return [status(state, page)[0] for page in PAGE_IDS]


def test_all_is_ready(done: State) -> None:
    assert marks(done) == ["ready"] * 6


def test_a_blank_job_is_empty_everywhere() -> None:
    assert marks(State(Job())) == ["empty"] * 6


def test_a_page_of_what_a_job_has_not_is_hidden(done: State) -> None:
    assert status(done, "deck") == ("hidden", 0)
    assert status(done.of(change(done.job, "deck", source="camber")), "deck") == ("redo", 0)
    assert status(done, "veneers") == ("hidden", 0)
    assert status(done.of(change(done.job, "veneers", layers=(Layer(),))), "veneers") == ("redo", 0)


def test_what_is_being_worked_out_is_to_do_again(done: State) -> None:
    other = done.of(change(done.job, "strips", width=20.0))
    assert other.stale
    assert marks(other) == ["ready", "ready", "ready", "ready", "redo", "redo"]
    assert marks(done.of(change(done.job, "stock.saw", kerf=3.0))) == [*["ready"] * 5, "redo"]
    rows = done.job.offsets.rows
    moved = rows[40].model_copy(update={"half_breadth": rows[40].half_breadth + 1.0})
    edited = done.of(change(done.job, "", offsets=done.job.offsets.with_row(40, moved)))
    assert marks(edited) == ["ready", "redo", "ready", "ready", "redo", "redo"]
    assert edited.shape is not None
    assert edited.shape.job is done.job, "what is shown is of the job before"


def test_what_an_edit_does_not_touch_stays(done: State) -> None:
    """A note on a cell, the currency and the name change nothing that is worked out."""
    rows = done.job.offsets.rows
    note = rows[3].model_copy(update={"notes": {"height": "measured twice"}})
    for job in (
        change(done.job, "", offsets=done.job.offsets.with_row(3, note)),
        change(done.job, "stock.buying", currency="kr"),
        change(done.job, "", name="Siskin"),
        change(done.job, "units", step=1.0),
        change(done.job, "printing", proof_bar=99.0),
    ):
        other = done.of(job)
        assert other.answered(SHOWN)
        assert not other.stale
        assert other.shape is not None
        assert other.shape.job is job
        assert other.shape.hull is done.shape.hull  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("stage", "wanted"),
    [
        (HULL, ["look", "redo", "redo", "redo", "redo", "redo"]),
        (PLANKING, ["ready", "ready", "ready", "ready", "look", "redo"]),
        (FAIRNESS, ["ready", "look", "ready", "ready", "ready", "ready"]),
        (MOLDS, ["ready", "ready", "look", "redo", "redo", "redo"]),
    ],
    ids=lambda s: getattr(s, "id", ""),
)
def test_a_problem_stops_its_own_stage_and_those_after(done: State, stage: Stage[Any], wanted: list[str]) -> None:
    failed = Failed(stage.id, FailureKind.FAULT, "It cannot be.")

    def needs_it(other: Stage[Any]) -> bool:
        return other is stage or any(needs_it(n) for n in other.needs)

    state = done.told([Value(s.id, done.keys[s.id], failed) for s in SHOWN if needs_it(s)])
    assert marks(state) == wanted
    assert status(state, stage.page) == ("look", 1)
    assert state.problem == "It cannot be."
    assert state.shape is not None, "what was known is still shown"
    with pytest.raises(ImpossiblePlan, match="It cannot be"):
        done.told([Value(stage.id, done.keys[stage.id], failed)]).results[stage]


def test_marks_of_earlier_molds_are_not_drawn_with_molds_made_anew_before_a_stage_failed(done: State) -> None:
    assert done.is_cut
    moved = done.of(change(done.job, "molds", every=350.0, stations=()))
    new = Pipeline().results(moved.job, [MOLDS])
    failed = Value(SETUP.id, moved.keys[SETUP.id], Failed(SETUP.id, FailureKind.FAULT, "It cannot be."))
    state = moved.told([*new.values.values(), failed])
    assert state.shape is not None
    assert state.shape.molds is new[MOLDS]
    assert not state.is_cut


def test_who_waits_for_what_follows_from_a_failure_is_told_why(done: State) -> None:
    """The window need not be told of every stage that cannot be: those that need a failed one have failed with it."""
    laying = done.of(change(done.job, "strips", width=5000.0))
    failed = Failed("plan", FailureKind.IMPOSSIBLE, "It is wider than the girth.")
    state = laying.told([Value(PLANKING.id, laying.keys[PLANKING.id], failed)])
    assert state.answered([STOCK])
    with pytest.raises(ImpossiblePlan, match="wider than the girth"):
        state.results[STOCK]


def test_what_is_given_up_says_why_on_the_first_page_that_misses_it(done: State) -> None:
    laying = done.of(change(done.job, "strips", width=20.0))
    stopped = laying.given_up("It was stopped.")
    assert (stopped.problem, stopped.problem_stage) == ("It was stopped.", "planking")
    assert stopped.answered(SHOWN)
    again = stopped.of(change(stopped.job, "", name="Siskin"))
    assert not again.answered([REPLAN]), "the next edit tries again"


def test_without_boards_stock_is_empty(done: State) -> None:
    assert marks(done.of(change(done.job, "", stock=StockSettings())))[5] == "empty"


def test_without_molds_there_is_nothing_to_set_up(done: State) -> None:
    assert done.shape is not None
    bare = with_value(done, MOLDS, replace(done.shape.molds, molds=()))
    assert marks(bare) == ["ready", "ready", "ready", "empty", "ready", "ready"]


def test_findings_are_counted_where_they_belong(done: State) -> None:
    found = Finding("x", Weight.LOOK, "molds", "mold 3", "Look at it.")
    state = with_value(done, PROUD, (found, found))
    assert status(state, "molds") == ("look", 2)
    assert marks(state) == ["ready", "ready", "look", "ready", "ready", "ready"]
    printed = replace(found, code="printed-changed")
    assert marks(with_value(done, PROUD, (printed,)))[2] == "redo"


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


def test_a_hull_of_veneers_alone_has_no_page_of_strips_nor_paper_for_them() -> None:
    job = demo_job("sedge")
    state = State(job)
    assert status(state, "planking") == ("hidden", 0)
    over = change(job, "veneers", over_strips=True).in_step()
    assert status(State(over), "planking")[0] != "hidden"
    strips = [export for export in EXPORTS if export.group == "Strips"]
    assert strips
    assert not any(export.when(job) for export in strips)
    assert all(export.when(over) for export in strips)


def test_no_wood_is_wanted_for_strips_that_are_not_there() -> None:
    """Of the same hull with strips under the veneers there is wood to buy; of veneers alone none."""
    job = demo_job("sedge")
    over = change(job, "veneers", over_strips=True).in_step()
    assert Pipeline().results(job, [STOCK])[STOCK].needs == ()
    assert len(Pipeline().results(over, [STOCK])[STOCK].needs) > 20
