"""Edges that stand off the fair line through their own neighbours are named."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_keel.core.findings import in_words
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.planking.off_line import off_line, off_line_findings
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.planking.strips import Planking
from hollow_keel.demo.jobs import pipit
from tests.ends_of_strips import off_line as point_by_point


@pytest.fixture(scope="module")
def laid() -> Planking:
    return plank(build_hull(read_lines(pipit().offsets)), 24.0)


def test_it_is_what_lagrange_tells_point_by_point(laid: Planking) -> None:
    for strip in laid.strips:
        for piece in strip.far:
            if len(piece.run) > 8:
                assert off_line(piece.run, piece.points) == pytest.approx(point_by_point(piece), abs=1e-9)
    assert not off_line_findings(laid)


@pytest.mark.parametrize(("lifted", "said"), [(0.7, False), (1.5, True)])
def test_a_point_that_is_lifted_is_found_where_it_is(laid: Planking, lifted: float, said: bool) -> None:
    number = 3
    piece = laid.strips[number].far[0]
    points = piece.points.copy()
    points[20, 2] += lifted
    bent = replace(laid.strips[number], far=(replace(piece, points=points), *laid.strips[number].far[1:]))
    found = off_line_findings(replace(laid, strips=(*laid.strips[:number], bent, *laid.strips[number + 1 :])))
    assert bool(found) == said
    if said:
        assert found[0].where == f"strip {number + 1}"
        assert f"position {round(float(points[20, 0]))} mm" in in_words(found[0].text)
        assert np.isclose(lifted, 1.5)
