"""The page of veneers driven as a builder does: layers added, their angle typed, one veneer picked and its spiling read."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from hollow_keel.core.job import Job
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window import MainWindow
from tests.ui.conftest import settle


@pytest.fixture
def veneered(window: MainWindow, qtbot: Any) -> Any:
    window.session.edit("a launch", demo_job("sedge"))
    settle(qtbot, window)
    for _ in range(2):
        window.command("add-layer")()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    return window.page


def shown(window: MainWindow) -> list[str]:
    return [window.order.names[k] for k in window.order.shown]


def test_a_layer_brings_the_page_and_the_skin_follows(window: MainWindow, qtbot: Any) -> None:
    assert "Veneers" not in shown(window)
    before = window.session.job
    window.command("add-layer")()
    assert "Veneers" in shown(window)
    assert [layer.degrees for layer in window.session.job.veneers.layers] == [45.0]
    assert window.session.job.molds.skin == 3.0
    window.command("add-layer")()
    assert [layer.degrees for layer in window.session.job.veneers.layers] == [45.0, -45.0]
    assert window.session.job.molds.skin == 6.0
    window.command("no-layer")()
    assert window.session.job.molds.skin == 3.0
    for _ in range(3):
        window.session.undo()
    assert window.session.job == before
    window.go_to_page("planking")
    assert "Veneers" not in shown(window)


def test_molds_tell_where_the_skin_comes_from(veneered: Any, window: MainWindow) -> None:
    window.go_to_page("molds")
    page: Any = window.page
    texts = [
        label.text for view in page.findChildren(DrawingView) if view.drawing for label in view.drawing.labels
    ]
    assert any(text.startswith("skin, of the layers 6") for text in texts)
    assert not any(
        label.decides == "molds.skin"
        for view in page.findChildren(DrawingView)
        for label in view.drawing.labels
    )
    page.keep_setting("molds.skin", 12.0)
    assert window.session.job.molds.skin == 6.0


def test_without_a_hull_a_layer_is_not_laid(window: MainWindow) -> None:
    window.session.edit("blank", Job())
    window.command("add-layer")()
    assert window.session.job == Job()
    window.command("no-layer")()
    assert window.session.job == Job()


def test_a_hull_without_layers_is_offered_one(window: MainWindow) -> None:
    window.go_to_page("veneers")
    page: Any = window.page
    assert page.more.isVisible()
    assert not page.both.isVisible()
    assert "no layers" in page.hint.text()


def test_the_layer_is_on_the_hull_and_a_veneer_is_picked(veneered: Any, window: MainWindow) -> None:
    plans = window.state.known.get(LAYERS)
    drawn = [s for s in veneered.map.drawing.strokes if s.key.startswith("veneer:1:")]
    assert len(drawn) == len(plans[0].veneers)
    assert f"{len(plans[0].veneers)} a side" in veneered.result.text()
    veneered.map.picked.emit("veneer:1:12")
    own = plans[0].veneers[11]
    assert veneered.veneer is own
    assert window.card.card.heading == "Layer 1, veneer 12"
    assert window.card.card.big == window.state.write(own.length)
    (outline,) = [s for s in veneered.flat.drawing.strokes if s.closed]
    assert np.allclose(outline.points, own.flat)


def test_layers_are_leafed_through(veneered: Any, window: MainWindow) -> None:
    assert [veneered.layers.itemText(k) for k in range(2)] == ["Layer 1: 45°", "Layer 2: -45°"]
    veneered.layers.setCurrentIndex(1)
    veneered.layers.activated.emit(1)
    assert veneered.plan is window.state.known.get(LAYERS)[1]
    veneered.go_to_place("layer 1")
    assert veneered.plan is window.state.known.get(LAYERS)[0]


def test_its_angle_is_decided_on_the_drawing(veneered: Any, window: MainWindow, qtbot: Any) -> None:
    labels = {label.decides: label for label in veneered.map.drawing.labels if label.decides}
    assert labels["veneers.layers.0.angle"].value == "45°"
    veneered.keep_setting("veneers.layers.0.angle", 30.0)
    assert window.session.job.veneers.layers[0].degrees == 30.0
    veneered.keep_setting("veneers.layers.0.thickness", 4.0)
    assert window.session.job.molds.skin == 7.0
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert veneered.layers.itemText(0) == "Layer 1: 30°"
    window.session.undo()
    assert window.session.job.molds.skin == 6.0


def test_the_tables_tell_the_spiling(veneered: Any, window: MainWindow, qtbot: Any) -> None:
    veneered.open_drawer(True)
    plan = window.state.known.get(LAYERS)[0]
    assert veneered.table.model().rowCount() == len(plan.veneers)
    veneered.choose_key("veneer:1:20")
    own = plan.veneers[19]
    assert veneered.spiling.model().rowCount() == len(own.spiling)
    assert veneered.schedule.model().rowCount() == 2


def test_the_first_veneer_is_dragged_along_the_hull(veneered: Any, window: MainWindow, qtbot: Any) -> None:
    """A metre aft on the drawing is a metre aft on the hull, for every layer; one step to undo."""
    (ring,) = [r for r in veneered.map.drawing.rings if r.decides == "veneers.master"]
    first = veneered.plan.first
    veneered.keep_setting("veneers.master", ring.value_at(ring.at[0] + 1000.0, ring.at[1]))
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert window.session.job.veneers.master == pytest.approx(ring.value + 1000.0)
    assert veneered.plan.place[0] == pytest.approx(ring.value + 1000.0, abs=1.0)
    assert veneered.plan.first > first + 4  # veneers at 45° are 141 mm along the hull
    window.session.undo()
    assert window.session.job.veneers.master is None
