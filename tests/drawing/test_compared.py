"""The picture of a scanned hull and the drawn one, and its figures."""

from __future__ import annotations

import numpy as np

from hollow_keel.core.offsets.compared import Compared
from hollow_keel.core.units import LengthStyle
from hollow_keel.drawing.lines.compared import compared_drawing
from hollow_keel.drawing.model import Layer


def test_each_point_stands_in_both_views_in_the_look_of_its_grade() -> None:
    points = np.array([[0.0, 10.0, 0.0], [1000.0, 300.0, 200.0], [2000.0, 50.0, 500.0], [2000.0, 60.0, 100.0]])
    drawing = compared_drawing(Compared(points, np.array([0.5, 4.0, 25.0, 2.0])), LengthStyle())
    crosses = [s for s in drawing.strokes if s.crosses]
    assert [(s.layer, len(s.points)) for s in crosses] == [
        (Layer.SPALL, 2),
        (Layer.SPALL, 2),
        (Layer.BEVEL, 1),
        (Layer.BEVEL, 1),
        (Layer.SHEER_MARK, 1),
        (Layer.SHEER_MARK, 1),
    ]
    side, body = (s.points[0].tolist() for s in crosses if s.layer is Layer.SHEER_MARK)
    assert side == [2000.0, 500.0]
    assert body[0] == 1000.0 - 50.0, "the after half of the body plan is at the left"
    words = [label.text for label in drawing.labels]
    assert words == ["25.0", "up to 3.0 apart: 50 of 100", "up to 10.0: 25 of 100", "more: 25 of 100"]


def test_its_figures_are_those_of_the_points() -> None:
    compared = Compared(np.arange(303.0).reshape(101, 3), np.arange(101.0))
    assert compared.middle == 50.0
    assert compared.most == 95.0
    far, at = compared.worst
    assert far == 100.0
    assert at.tolist() == [300.0, 301.0, 302.0]
