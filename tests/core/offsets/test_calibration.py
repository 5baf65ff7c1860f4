"""A picture's measure by its marks: a turned scan, a stretched copy, a photograph, a mark that is wrong. Truth is the camera."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from hollow_keel.app.picking import Picking, Target
from hollow_keel.core.errors import InputError
from hollow_keel.core.offsets.calibration import KnownPoint, calibrate

Camera = Callable[[float, float], tuple[float, float]]
CORNERS = ((0.0, 0.0), (600.0, 0.0), (600.0, 500.0), (0.0, 500.0))
INSIDE = ((321.0, 87.0), (12.0, 444.0), (590.0, 300.0), (300.0, 250.0))


def scanned(across: float, up: float) -> tuple[float, float]:
    """Turned by 2°, 1.7 mm a pixel."""
    at = complex(across, up) * np.exp(0.035j) / 1.7
    return 400 + at.real, 700 - at.imag


def copied(across: float, up: float) -> tuple[float, float]:
    """As a copier does: 4 % longer one way, and a little askew."""
    return 100 + across / 1.7 * 1.04 + up * 0.02, 700 - up / 1.7


def photographed(across: float, up: float) -> tuple[float, float]:
    """A pinhole 2 m before a sheet that leans away from it by 15°: x and y over the depth."""
    lean = np.radians(15)
    x, y, depth = across - 300, (up - 250) * np.cos(lean), 2000 + (up - 250) * np.sin(lean)
    return 960 + 1800 * x / depth, 540 - 1800 * y / depth


def marks(camera: Camera, *places: tuple[float, float]) -> list[KnownPoint]:
    return [KnownPoint(camera(*place), place) for place in places]


@pytest.mark.parametrize(("camera", "least"), [(scanned, 2), (copied, 3), (photographed, 4)], ids=["scan", "copy", "photograph"])
def test_so_many_marks_undo_what_the_camera_did(camera: Camera, least: int) -> None:
    corners = CORNERS if least != 2 else (CORNERS[0], CORNERS[2], CORNERS[1], CORNERS[3])
    for count in range(least, 5):
        found = calibrate(*marks(camera, *corners[:count]))
        for place in INSIDE:
            assert found.place(*camera(*place)) == pytest.approx(place, abs=1e-6)
    if least > 2:
        poorer = calibrate(*marks(camera, *corners[: least - 1]))
        worst = max(np.hypot(*np.subtract(poorer.place(*camera(*p)), p)) for p in INSIDE)
        assert worst > 5.0, "with one mark less it is seen that it matters"


def test_marks_clicked_a_pixel_off_are_evened_out() -> None:
    rng = np.random.default_rng(3)
    places = [*CORNERS, *INSIDE]
    rough = [KnownPoint(tuple((np.array(m.pixel) + rng.uniform(-1, 1, 2)).tolist()), m.mm) for m in marks(scanned, *places)]
    found = calibrate(*rough)
    assert abs(found.turned) == pytest.approx(0.035, abs=0.002)
    for place in INSIDE:
        assert np.hypot(*np.subtract(found.place(*scanned(*place)), place)) < 1.7


def test_marks_in_one_line_tell_no_stretch() -> None:
    found = calibrate(*marks(scanned, (0.0, 0.0), (300.0, 0.0), (600.0, 0.0), (900.0, 0.0)))
    for place in INSIDE:
        assert found.place(*scanned(*place)) == pytest.approx(place, abs=1e-6)


def test_a_wrong_mark_is_named() -> None:
    picking = Picking()
    for k, mark in enumerate(marks(scanned, *CORNERS, INSIDE[3], (150.0, 125.0))):
        wrong = k == 4
        picking.set_mark(k, mark.pixel, (mark.mm[0] + (50.0 if wrong else 0.0), mark.mm[1]))
    assert picking.doubt is not None
    assert picking.doubt[0] == 4
    assert picking.doubt[1] == pytest.approx(35.0, abs=15.0)
    picking.set_mark(4, scanned(*INSIDE[3]), INSIDE[3])
    assert picking.doubt is None


def test_three_marks_in_a_heap_are_refused() -> None:
    with pytest.raises(InputError, match="too near"):
        calibrate(*marks(scanned, (0.0, 0.0), (5.0, 0.0), (0.0, 5.0)))


def test_a_batten_runs_through_what_was_picked_and_breaks_at_a_chine() -> None:
    """Points of a circle: the batten stays on it; two straight legs with a chine between stay straight."""
    picking = Picking()
    for k, mark in enumerate(marks(scanned, *CORNERS[:2])):
        picking.set_mark(k, mark.pixel, mark.mm)
    for angle in np.linspace(0.0, np.pi / 2, 6):
        picking.pick(500 + 200 * np.cos(angle), 400 + 200 * np.sin(angle))
    (batten,) = picking.lines()[picking.target]
    assert np.hypot(batten[:, 0] - 500, batten[:, 1] - 400) == pytest.approx(np.full(len(batten), 200.0), abs=0.5)
    picking.target = Target("station", 1000.0)
    for x, y, chine in ((0, 0, False), (50, 0, False), (100, 0, True), (100, 60, False), (100, 90, False)):
        picking.pick(float(x), float(y))
        if chine:
            picking.toggle_chine()
    picking.pick(100.0, 90.0)  # a second click on the same place
    along, up = picking.lines()[picking.target]
    assert np.abs(along[:, 1]).max() < 1e-9
    assert np.abs(up[:, 0] - 100).max() < 1e-9
