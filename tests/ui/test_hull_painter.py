"""The thread that renders the hull: the newest picture wins, and it is the same as one rendered at once."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from PySide6.QtGui import QImage

from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.demo.jobs import pipit
from hollow_keel.drawing.planking.mesh import planked_mesh
from hollow_keel.ui.views.hull_painter import HullPainter, Look
from hollow_keel.ui.views.vtk_scene import HullScene, find_renderer
from hollow_keel.ui.window.theme import LIGHT


@pytest.fixture(scope="module")
def look() -> Look:
    pipeline = Pipeline()
    mesh = planked_mesh(pipeline.value(pipit(), PLANKING))
    return Look(mesh, LIGHT, 3, 240, 160, -120.0, 25.0, 1.0, (0.0, 0.0), smooth=False)


def test_the_newest_picture_is_painted(qtbot: Any, look: Look) -> None:
    painter = HullPainter(find_renderer())
    painted: list[QImage] = []
    painter.painted.connect(painted.append)
    turns = [replace(look, bearing=float(b)) for b in range(-150, -90, 2)]
    for turn in turns:
        painter.ask(turn)
    last = painter.wait()
    assert last is not None
    qtbot.waitUntil(lambda: bool(painted) and painted[-1] == last)
    assert len(painted) <= len(turns)
    painter.close()
    assert not painter._thread.is_alive()
    scene = HullScene(find_renderer())
    scene.show(look.mesh, LIGHT, 3)
    same = scene.picture(240, 160, turns[-1].bearing, 25.0, 1.0, (0.0, 0.0), smooth=False)
    other = scene.picture(240, 160, turns[0].bearing, 25.0, 1.0, (0.0, 0.0), smooth=False)
    scene.close()
    assert last == same
    assert last != other


def test_a_painter_that_painted_nothing_can_be_closed(qtbot: Any) -> None:
    painter = HullPainter(find_renderer())
    assert painter.wait() is None
    painter.close()
    assert not painter._thread.is_alive()
