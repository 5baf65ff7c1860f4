"""The page of veneers driven as a builder does: layers added, their angle typed, one veneer picked and its spiling read."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.job import FormSettings, Job, LayingSettings, VeneerSettings
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.settings.veneer_choices import Direction, FormKind
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.veneers.stages import FORM, LAYERS, LAYING
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.pages.veneers.dialogs import VeneerDialogs
from hollow_keel.ui.pages.veneers.layout_dialog import LayoutDialog
from hollow_keel.ui.pages.veneers.page import Pictures
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import paste_offsets, settle


def bare() -> Job:
    """The launch without her layers."""
    return demo_job("sedge").model_copy(update={"veneers": VeneerSettings(), "form": FormSettings(), "laying": LayingSettings()})


@pytest.fixture
def veneered(window: MainWindow, qtbot: Any) -> Any:
    window.session.edit("a launch", bare())
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
    texts = [label.text for view in page.findChildren(DrawingView) if view.drawing for label in view.drawing.labels]
    assert any(text.startswith("skin, of the layers 6") for text in texts)
    assert not any(label.decides == "molds.skin" for view in page.findChildren(DrawingView) for label in view.drawing.labels)
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


def test_a_layer_is_turned_by_its_ring(veneered: Any, window: MainWindow, qtbot: Any) -> None:
    """The ring lies along the first veneer as it is seen; drawn round by 20° the layer runs 20° steeper, within 90°."""
    (ring,) = [r for r in veneered.map.drawing.rings if r.decides == "veneers.layers.0.angle"]
    assert ring.about is not None
    to = complex(ring.at[0] - ring.about[0], ring.at[1] - ring.about[1])
    assert ring.value_at(*ring.at) == pytest.approx(45.0)
    turned = to * np.exp(1j * np.radians(20.0))
    at = (ring.about[0] + turned.real, ring.about[1] + turned.imag)
    assert ring.value_at(*at) == pytest.approx(65.0)
    assert ring.place_of(65.0) == pytest.approx(at)
    far = to * np.exp(1j * np.radians(80.0))
    assert ring.value_at(ring.about[0] + far.real, ring.about[1] + far.imag) == 90.0
    veneered.keep_setting(ring.decides, ring.value_at(*at))
    assert window.session.job.veneers.layers[0].degrees == pytest.approx(65.0)


def test_what_a_layer_is_of_and_held_by_is_decided_on_the_drawing(veneered: Any, window: MainWindow) -> None:
    labels = {label.decides: label.value for label in veneered.map.drawing.labels if label.decides}
    assert labels["veneers.layers.0.wood"] == "western redcedar"
    assert labels["veneers.layers.0.hold"] == "staples"
    assert labels["veneers.layers.0.direction"] == "at an angle"
    veneered.keep_setting("veneers.layers.0.wood", "Sitka spruce")
    assert window.session.job.veneers.layers[0].wood == "Sitka spruce"


def test_layers_are_seen_unrolled_and_peeled_back(veneered: Any, window: MainWindow) -> None:
    veneered.show_pictures(Pictures.UNROLLED)
    plan = window.state.known.get(LAYERS)[0]
    drawn = [s for s in veneered.map.drawing.strokes if s.key]
    assert np.allclose(drawn[4].points, plan.veneers[4].unrolled)
    assert not veneered.map.drawing.rings
    veneered.show_pictures(Pictures.PEELED)
    assert veneered.above.currentWidget() is veneered.hull
    count = len(plan.veneers)
    assert set(np.unique(veneered.hull.mesh.strip)) >= set(range(1, count + 1))
    veneered.hull.picked.emit(count + 3)
    assert (veneered.layer, veneered.number) == (2, 3)


def test_the_form_is_decided_and_its_ribbands_are_read(veneered: Any, window: MainWindow, qtbot: Any) -> None:
    veneered.keep_setting("form.kind", FormKind.RIBBANDS)
    assert window.session.job.molds.strapping == 20.0
    assert window.session.job.molds.beyond_sheer == 60.0
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    veneered.go_to_place("the form")
    form = window.state.known.get(FORM)
    assert veneered.picture is Pictures.FORM
    assert len([s for s in veneered.map.drawing.strokes if s.key.startswith("ribband:")]) == len(form.ribbands)
    assert "along the sheer" in window.card.card.aside
    veneered.choose_key("ribband:2")
    assert window.card.card.big == window.state.write(form.ribbands[1].length)
    veneered.open_drawer(True)
    assert veneered.ribbands.model().rowCount() == len(form.ribbands)
    assert veneered.crossings.model().rowCount() == len(form.ribbands[1].crossings)
    shown: list[Any] = []
    dialogs = VeneerDialogs(window)
    dialogs.bench = shown.append  # type: ignore[method-assign, assignment, return-value]
    dialogs.ribbands()
    (steps,) = shown
    assert len(steps) == sum(c.mold == window.state.mold.name for r in form.ribbands for c in r.crossings)
    assert all(step.picture().strokes for step in steps)


def test_spiling_is_read_at_the_bench(veneered: Any, window: MainWindow) -> None:
    veneered.choose_key("veneer:1:20")
    shown: list[Any] = []
    dialogs = VeneerDialogs(window)
    dialogs.bench = shown.append  # type: ignore[method-assign, assignment]
    dialogs.spiling()
    own = window.state.known.get(LAYERS)[0].veneers[19]
    assert [step.number for step in shown[0]] == [window.state.write(float(wide)) for _, wide in own.spiling]
    assert shown[0][1].picture().strokes


def test_tables_tell_order_and_what_is_used_up(veneered: Any, window: MainWindow) -> None:
    veneered.open_drawer(True)
    plan = window.state.known.get(LAYERS)[0]
    assert veneered.order.model().rowCount() == 2 * len(plan.veneers)
    assert veneered.takes.model().rowCount() == 2
    assert veneered.pairs.model().rowCount() == 1
    assert veneered.zones.model().rowCount() == 6
    assert not veneered.tabs.isTabVisible(veneered.tabs.indexOf(veneered.ribbands))
    laying = window.state.known.get(LAYING)
    assert any("shell" in row[0] and f"{laying.weight:.0f}" in row[1] for row in window.card.card.rows)


def test_a_layout_is_looked_for_stopped_and_used(window: MainWindow, qtbot: Any) -> None:
    job = change(bare(), "veneers", layers=demo_job("sedge").veneers.layers[:1]).in_step()
    dialog = LayoutDialog(job, 1, job.units.style, window)
    qtbot.addWidget(dialog)
    dialog.show()
    qtbot.waitUntil(lambda: len(dialog.ways) >= 3, timeout=60_000)
    dialog._enough()
    assert not dialog.running
    count = len(dialog.ways)
    assert f"Of {count} ways" in dialog.said.text()
    assert dialog.ways[0].layer == job.veneers.layers[0]
    assert dialog.table.model().rowCount() == count
    best = min(dialog.ways, key=lambda way: way.order)
    assert dialog.selected() is best
    if dialog.use.isEnabled():
        dialog.use.click()
        assert dialog.chosen is best
    assert dialog.height() <= 720


def test_veneers_over_strips_on_the_pulling_boat(window: MainWindow, qtbot: Any) -> None:
    """The common hybrid: her strips stay, veneers lie over them, and the molds take both off."""
    window.session.edit("a pulling boat", demo_job("linnet"))
    settle(qtbot, window)
    strips = window.session.job.strips.thickness
    window.command("add-layer")()
    page: Any = window.page
    page.keep_setting("veneers.over_strips", True)
    page.keep_setting("veneers.layers.0.thickness", 2.0)
    assert window.session.job.molds.skin == strips + 2.0
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert window.state.planking is not None
    laying = window.state.known.get(LAYING)
    plan = window.state.known.get(LAYERS)[0]
    assert laying.strips > 0
    assert laying.layers[0].glue == pytest.approx(2 * plan.area / 1e6 * 250.0)


def test_a_cold_molded_job_is_made_from_a_blank_page(
    window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """A table on the clipboard: paste, take; two diagonals and a layer fore and aft, a form of ribbands; all paper is written."""
    paste_offsets(window, demo_job("sedge"), monkeypatch)
    for _ in range(3):
        window.command("add-layer")()
    page: Any = window.page
    page.keep_setting("veneers.layers.2.direction", Direction.ALONG)
    page.keep_setting("form.kind", FormKind.RIBBANDS)
    page.keep_setting("setup.strongback", Strongback.TABLE)
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=90_000)
    job = window.session.job
    assert (job.molds.skin, job.molds.strapping, job.molds.beyond_sheer) == (9.0, 20.0, 60.0)
    assert [plan.layer.degrees for plan in page.plans] == [45.0, -45.0, 0.0]
    window.exporter.for_shop(tmp_path)
    names = {path.name.partition("-")[2] for path in tmp_path.glob("*/*.*")}
    assert {"molds.pdf", "setup.pdf", "veneers.csv", "spiling.csv", "ribbands.csv"} <= names, window.message.text()
