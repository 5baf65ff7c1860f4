"""The page of sheer and ends driven as a builder does."""

from __future__ import annotations

from typing import Any

import pytest

from hollow_keel.core.job import Job
from hollow_keel.core.settings.trim_choices import Carried
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.trim.stages import SHEER_STRIPS
from hollow_keel.ui.status import status
from hollow_keel.ui.window import MainWindow


@pytest.fixture
def carried(window: MainWindow, qtbot: Any) -> Any:
    window.command("carry-sheer")()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    return window.page


def test_the_page_comes_with_the_sheer_and_goes_again(window: MainWindow, carried: Any) -> None:
    assert status(window.state, "trim") == ("ready", 0)
    plan = window.state.known.get(SHEER_STRIPS)
    assert f"{len(plan.marks)} heads" in carried.result.text()
    assert carried.table.model().rowCount() == len(plan.marks)
    before = window.session.job
    window.command("no-sheer")()
    assert status(window.state, "trim")[0] == "hidden"
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


def test_heads_are_read_at_the_bench(
    window: MainWindow, carried: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    from hollow_keel.ui.dialogs import Dialogs

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


def test_rails_are_asked_for_and_read(window: MainWindow, carried: Any, qtbot: Any) -> None:
    assert not carried.tabs.isTabVisible(1)
    carried.keep_setting("trim.rails", True)
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert carried.tabs.isTabVisible(1)
    assert carried.rails.model().rowCount() == 2
