"""The page of sheer and ends driven as a builder does."""

from __future__ import annotations

from typing import Any

import pytest

from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.job import BeamSettings, Job, TrimSettings
from hollow_keel.core.release.stages import LIFT
from hollow_keel.core.settings.sheer_choices import Carried
from hollow_keel.core.sheer.stages import BOTH_SIDES, CURVE, SHEER_STRIPS
from hollow_keel.core.stages import SHOWN
from hollow_keel.ui.pages.sheer.topics import TOPICS
from hollow_keel.ui.views.readings_dialog import ReadingsDialog
from hollow_keel.ui.window.status import status
from hollow_keel.ui.window.window import MainWindow


@pytest.fixture
def carried(window: MainWindow, qtbot: Any) -> Any:
    job = window.session.job
    bare = job.model_copy(update={"trim": TrimSettings(), "beams": BeamSettings()})
    window.session.edit("nothing carried out", bare)
    window.command("carry-sheer")()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    return window.page


def test_the_page_comes_with_the_sheer_and_goes_again(window: MainWindow, carried: Any) -> None:
    assert status(window.state, "sheer") == ("ready", 0)
    plan = window.state.known.get(SHEER_STRIPS)
    assert f"{len(plan.marks)} heads" in carried.result.text()
    assert carried.tables["heads"].model().rowCount() == len(plan.marks)
    before = window.session.job
    window.command("no-sheer")()
    assert status(window.state, "sheer")[0] == "hidden"
    window.session.undo()
    assert window.session.job == before


def test_a_head_is_picked_and_its_card_tells_the_mark(window: MainWindow, carried: Any) -> None:
    plan = window.state.known.get(SHEER_STRIPS)
    carried.choose_key("head:mold 4")
    mark = next(m for m in plan.marks if m.name == "mold 4")
    assert window.card.card.heading == "Mold 4"
    assert window.card.card.big == window.state.write(abs(mark.outside_up))
    assert any(f"strip {mark.strip}" in name for name, _ in window.card.card.rows)
    assert any("inside" in label.text for label in carried.section.drawing.labels)


def test_frames_are_typed_on_the_drawing(window: MainWindow, carried: Any, qtbot: Any) -> None:
    labels = {label.decides for label in carried.line.drawing.labels if label.decides}
    assert labels == {"trim.frames"}
    count = len(window.state.known.get(SHEER_STRIPS).marks)
    carried.keep_setting("trim.frames", 150.0)
    carried.keep_setting("trim.carried", Carried.DECK)
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    plan = window.state.known.get(SHEER_STRIPS)
    assert len(plan.marks) > 2 * count
    assert all(m.slope > 1.0 for m in plan.marks)


def test_heads_are_read_at_the_bench(window: MainWindow, carried: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    from hollow_keel.ui.views.dialogs import Dialogs

    shown: list[Any] = []
    monkeypatch.setattr(Dialogs, "bench", lambda _self, steps, *_: shown.append(steps))
    window.command("bench-sheer")()
    plan = window.state.known.get(SHEER_STRIPS)
    assert [step.number for step in shown[0]] == [window.state.write(abs(m.outside_up)) for m in plan.marks]
    assert shown[0][0].picture().strokes


def test_without_a_hull_nothing_is_carried(window: MainWindow) -> None:
    window.session.edit("blank", Job())
    window.command("carry-sheer")()
    window.command("no-sheer")()
    assert window.session.job == Job()


def rows_of(page: Any, key: str) -> int:
    """How many rows a table has that can be seen; 0 for one that cannot."""
    table = page.tables[key]
    return table.model().rowCount() if page.tabs.isTabVisible(page.tabs.indexOf(table)) else 0


ASKED = (
    ("Beams", ("beams", "form_blocks")),
    ("Rails", ("rails",)),
    ("Outer stem", ("outer_stem", "outer_stem_made")),
    ("Transom", ("transom_planks",)),
    ("Molds out", ("spalls", "molds_out")),
    ("Inside", ("sole", "glass_joint")),
)


@pytest.mark.parametrize(("topic", "keys"), ASKED)
def test_each_topic_is_asked_for_by_its_button_and_told(
    window: MainWindow, carried: Any, qtbot: Any, topic: str, keys: tuple[str, ...]
) -> None:
    carried.show_topic(topic)
    assert [rows_of(carried, key) for key in keys] == [0] * len(keys)
    before = window.session.job
    assert carried.give.isVisibleTo(carried)
    carried.give.click()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert all(rows_of(carried, key) > 0 for key in keys)
    assert carried.line.drawing.strokes
    assert not carried.give.isVisibleTo(carried)
    window.session.undo()
    assert window.session.job == before


def test_all_topics_can_be_seen_before_anything_is_asked_for(window: MainWindow, carried: Any) -> None:
    for topic in TOPICS:
        carried.show_topic(topic.name)
        assert carried.line.drawing.strokes
        assert rows_of(carried, "heads") > 0


def answering(monkeypatch: pytest.MonkeyPatch, texts: dict[tuple[int, int], str]) -> list[Any]:
    """The next dialog of readings is filled in and answered with yes."""
    asked: list[Any] = []

    def fill(dialog: Any) -> int:
        asked.append(dialog)
        for place, text in texts.items():
            field = dialog.fields[place]
            field.setText(text)
            field.setModified(True)
            field.editingFinished.emit()
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(ReadingsDialog, "exec", fill)
    return asked


def test_arcs_are_read_at_the_chosen_head_and_compared(
    window: MainWindow, carried: Any, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    carried.show_topic("Both sides")
    carried.choose_key("head:mold 4")
    mark = carried.mark
    exact = [f"{radius:.2f}" for radius in mark.radii]
    asked = answering(monkeypatch, {(side, k): exact[k] for side in (0, 1) for k in range(3)})
    carried.give.click()
    assert asked[0].fields[0, 0].placeholderText() == f"plan {window.state.write(mark.radii[0])}"
    assert [r.side.value for r in window.session.job.trim.arcs] == ["port", "starboard"]
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert rows_of(carried, "sides") == 1
    assert window.state.known.get(BOTH_SIDES).heads[0].verdict.startswith("alike")
    answering(monkeypatch, {(side, k): "" for side in (0, 1) for k in range(3)})
    carried.give.click()
    assert window.session.job.trim.arcs == ()


def test_what_cannot_be_read_is_said_and_has_to_be_mended(
    window: MainWindow, carried: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    carried.show_topic("By eye")
    asked = answering(monkeypatch, {(0, 0): "four"})
    carried.give.click()
    assert asked[0].result() == 0
    assert "four" in asked[0].said.text()
    assert window.session.job.trim.eye == ()
    answering(monkeypatch, {(0, 0): "-210", (1, 0): "-8 1/4 in"})
    carried.give.click()
    assert [reading.height for reading in window.session.job.trim.eye] == pytest.approx([-210.0, -8.25 * 25.4])


def test_a_trimming_curve_is_typed_point_by_point(
    window: MainWindow, carried: Any, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    carried.show_topic("Trimming curve")
    answering(monkeypatch, {(0, 0): "1500", (0, 1): "120", (1, 0): "1600"})
    window.menus.actions["trim-curve"].trigger()
    assert window.session.job.trim.curve_at == ()  # half a point is none
    answering(monkeypatch, {(0, 0): "1500", (0, 1): "120", (1, 0): "1600", (1, 1): "200"})
    window.menus.actions["trim-curve"].trigger()
    assert (window.session.job.trim.curve_at, window.session.job.trim.curve_to) == ((1500.0, 1600.0), (120.0, 200.0))
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert rows_of(carried, "curve") > 2


def test_a_trimming_curve_is_drawn_and_its_points_are_dragged(window: MainWindow, carried: Any, qtbot: Any) -> None:
    carried.show_topic("Trimming curve")
    assert carried.give.text() == "Draw one"
    carried.give.click()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    trim = window.session.job.trim
    rings = {ring.decides: ring for ring in carried.section.drawing.rings}
    assert set(rings) == {f"trim.{name}.{k}" for name in ("curve_at", "curve_to") for k in range(len(trim.curve_at))}
    up, along = rings["trim.curve_to.2"], rings["trim.curve_at.2"]
    assert up.at == (trim.curve_at[2], trim.curve_to[2])
    assert up.value_at(up.at[0] + 40.0, up.at[1] + 12.0) == trim.curve_to[2] + 12.0
    assert along.value_at(along.at[0] - 30.0, 0.0) == trim.curve_at[2] - 30.0
    carried.keep_setting("trim.curve_to.2", trim.curve_to[2] - 25.0)
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    curve = window.state.known.get(CURVE)
    lowered = [place.height for place in curve.places if place.given]
    assert lowered == pytest.approx([*trim.curve_to[:2], trim.curve_to[2] - 25.0, trim.curve_to[3]], abs=0.01)
    window.session.undo()
    window.session.undo()
    assert window.session.job.trim.curve_at == ()


def test_where_a_sole_ends_is_dragged_and_a_bulkhead_is_picked(window: MainWindow, carried: Any, qtbot: Any) -> None:
    carried.show_topic("Inside")
    carried.give.click()
    carried.keep_setting("inside.bulkheads", (1200.0, 1900.0))
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert {ring.decides for ring in carried.line.drawing.rings} == {"inside.begins", "inside.ends"}
    carried.choose_key("bulkhead:bulkhead 2")
    assert carried.section.drawing.title == "Bulkhead 2"
    carried.keep_setting("inside.begins", 1000.0)
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert window.state.known.get(INSIDE).sole.edge[0, 0] == pytest.approx(1000.0)


def test_the_card_says_how_many_lift_the_shell(window: MainWindow, carried: Any, qtbot: Any) -> None:
    carried.show_topic("Molds out")
    carried.give.click()
    qtbot.waitUntil(lambda: window.state.known.get(LIFT) is not None, timeout=60_000)
    lift = window.state.known.get(LIFT)
    assert f"{lift.hands} people" in carried.card().caution


def test_a_reading_that_nothing_of_a_boat_has_stays_to_be_mended(
    window: MainWindow, carried: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    carried.show_topic("By eye")
    asked = answering(monkeypatch, {(0, 0): "1e9"})
    carried.give.click()
    assert asked[0].result() == 0
    assert "nothing of a boat" in asked[0].said.text()
    assert window.session.job.trim.eye == ()


def test_the_keel_line_picks_heads(window: MainWindow, carried: Any) -> None:
    """As it picks molds elsewhere; and a head that is a mold is the mold of the keel line."""
    page = carried
    window.keel_line.chosen.emit(3)
    assert page.mark is not None
    assert page.mark.of_mold == "4"
    assert window.card.card.heading == "Mold 4", "the big number belongs to what is on show"
    page.choose_key("head:mold 7")
    assert window.state.mold_number == 6
    window.step_mold(1)
    assert page.mark.of_mold == "8"
