"""Foil sections against Abbott and von Doenhoff, Theory of Wing Sections (four-digit sections; values from memory)."""

from __future__ import annotations

import io

import numpy as np
import pypdf
import pytest
import shapely
import shapely.affinity

from hollow_keel.core.errors import InputError
from hollow_keel.core.molds.foil import foil_section, half_thickness, leading_radius
from hollow_keel.core.units import LengthStyle
from hollow_keel.drawing.molds.foil import foil_drawing
from hollow_keel.files.molds.paper import drawings_pdf

ORDINATES_0012 = {
    1.25: 1.894,
    2.5: 2.615,
    5.0: 3.555,
    10.0: 4.683,
    20.0: 5.738,
    30.0: 6.002,
    40.0: 5.803,
    50.0: 5.294,
    60.0: 4.563,
    70.0: 3.664,
    80.0: 2.623,
    90.0: 1.448,
    95.0: 0.807,
    100.0: 0.126,
}
"""Half-thickness in per cent of the chord of the section of 12 per cent, from memory of the published table."""


def test_ordinates_of_the_twelve_per_cent_section() -> None:
    x = np.array(list(ORDINATES_0012))
    assert half_thickness(100.0, 12.0, x) == pytest.approx(list(ORDINATES_0012.values()), abs=0.0015)


def test_the_section_is_thickest_at_three_tenths_and_its_nose_is_round() -> None:
    outline = foil_section(1000.0, 120.0)
    upper = outline[outline[:, 1] >= 0]
    x, y = upper[np.argmax(upper[:, 1])]
    assert x == pytest.approx(300.0, abs=10.0)  # points stand 12 mm apart there
    assert y == pytest.approx(60.0, abs=0.05)
    assert np.ptp(outline[:, 1]) == pytest.approx(120.0, abs=0.1)
    radius = leading_radius(1000.0, 120.0)
    assert radius == pytest.approx(15.87, abs=0.01)
    near = half_thickness(1000.0, 120.0, np.array([0.05]))[0]
    assert near**2 / (2 * 0.05) == pytest.approx(radius, rel=0.02)


@pytest.mark.parametrize(("chord", "thickness"), [(0.0, 10.0), (-5.0, 1.0), (100.0, 0.0), (100.0, 60.0), (float("nan"), 5.0)])
def test_no_foil_is_refused(chord: float, thickness: float) -> None:
    with pytest.raises(InputError, match="no foil"):
        foil_section(chord, thickness)


def test_templates_fit_the_section_and_are_printed_at_full_size() -> None:
    drawing = foil_drawing(300.0, 36.0, LengthStyle())
    section, *templates = [shapely.Polygon(s.points) for s in drawing.strokes if s.closed and s.layer.value == "mold"]
    assert len(templates) == 2
    down = 36.0 + 2 * 40 + 60
    nose = shapely.affinity.translate(templates[0], 0.0, down)
    assert nose.intersection(section).area == pytest.approx(0.0, abs=1e-6)
    assert nose.distance(section) == pytest.approx(0.0, abs=1e-9)
    page = pypdf.PdfReader(io.BytesIO(drawings_pdf([drawing], "Foil"))).pages[0]
    left, _, right, _ = drawing.bounds()
    assert float(page.mediabox.width) / 72 * 25.4 == pytest.approx(right - left + 50.0, abs=0.01)
