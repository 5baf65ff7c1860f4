"""Measures below the waterline against closed forms.

Wigley's hull (W. C. S. Wigley, 1934; the closed forms follow by integration): volume 4LBT/9, block 4/9, prismatic,
midship and waterplane 2/3, centre of buoyancy 3T/8 below the waterline. Simpson's first rule is exact on cubics.
"""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.hull.hydro import hydro, section_area, simpson_volume
from hollow_keel.core.hull.slices import buttock_at, diagonal_at, slice_hull, waterline_at
from tests.shapes import WIGLEY, cylinder, hull_of, wigley, wigley_breadth


def test_wigley() -> None:
    length, beam, draft = WIGLEY
    found = hydro(hull_of(wigley()), 0.0)
    assert found.volume == pytest.approx(4 * length * beam * draft / 9 * 1e-9, rel=5e-4)
    assert found.block == pytest.approx(4 / 9, rel=5e-4)
    assert found.prismatic == pytest.approx(2 / 3, rel=5e-4)
    assert found.midship == pytest.approx(2 / 3, rel=1e-4)
    assert found.waterplane_coefficient == pytest.approx(2 / 3, rel=5e-4)
    assert found.centre[0] == pytest.approx(length / 2, abs=0.1)
    assert found.centre[1] == pytest.approx(-3 * draft / 8, abs=0.1)
    assert found.flotation == pytest.approx(length / 2, abs=0.1)
    # stations every L/12, two ends: Simpson is exact on the parabola of areas, the trapezoid falls short by 1/144
    assert found.simpson == pytest.approx(4 * length * beam * draft / 9 * 1e-9, rel=1e-5)
    assert found.trapezoid == pytest.approx(4 * length * beam * draft / 9 * 1e-9 * (1 - 1 / 144), rel=1e-5)


def test_wigley_at_half_draft() -> None:
    """Below z = -T/2: ∫(1 - s²) ds from -1 to -1/2 is 5/24 of the draft, against 2/3 for the whole."""
    length, beam, draft = WIGLEY
    found = hydro(hull_of(wigley()), -draft / 2)
    assert found.volume == pytest.approx(2 * beam / 2 * length * 2 / 3 * draft * 5 / 24 * 1e-9, rel=2e-3)
    assert found.draft == pytest.approx(draft / 2)
    assert found.beam == pytest.approx(beam * 3 / 4, rel=1e-4)


def test_half_round_section() -> None:
    section = hull_of(cylinder()).lines.sections[3]
    assert section_area(section.points, (), 0.0) == pytest.approx(np.pi * 0.25 / 2, rel=1e-3)
    assert section_area(section.points, (), 1000.0) == pytest.approx(np.pi * 0.25 / 2, rel=1e-3)
    assert section_area(section.points, (), -500.1) == 0.0
    assert hydro(hull_of(cylinder()), -600.0).block is None


def test_simpson_needs_even_stations() -> None:
    cubic = np.array([(x, x**3) for x in np.linspace(0, 4, 9)])
    assert simpson_volume(cubic) == pytest.approx(64e-3)
    assert simpson_volume(cubic[:-1]) is None
    assert simpson_volume(np.array([(0, 0), (1, 1), (3, 2)])) is None


def test_slices_lie_in_their_planes_and_on_the_hull() -> None:
    hull = hull_of(wigley())
    water, buttock, diagonal = slice_hull(hull, [waterline_at(-100), buttock_at(150), diagonal_at(0, np.radians(45))])
    assert np.allclose(water[:, 2], -100, atol=1e-6)
    assert np.allclose(buttock[:, 1], 150, atol=1e-6)
    assert np.allclose(diagonal[:, 1] + diagonal[:, 2], 0, atol=1e-6)
    for line in (water, buttock, diagonal):
        assert np.allclose(line[:, 1], [wigley_breadth(x, z) for x, _, z in line], atol=0.5)
        assert np.all(np.diff(line[:, 0]) > 0)
    assert len(slice_hull(hull, [waterline_at(500)])[0]) == 0
