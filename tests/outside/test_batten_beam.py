"""The batten over molds against handbook formulas of beams (any strength-of-materials handbook; from memory)."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.core.setup.long_batten import Batten, lay_batten, pulls

STRIP = Batten.of_strip(20.0, 6.0, modulus=9000.0)
EI = 9000.0 * 20 * 6**3 / 12


def test_one_mold_in_the_middle() -> None:
    """A simply supported beam lifted by d in its middle: F = 48 E I d / L³; elsewhere: F = 3 E I L d / (a² b²)."""
    for a, b in ((600.0, 600.0), (300.0, 900.0)):
        laid = lay_batten(np.array([0.0, a, a + b]), np.array([0.0, 10.0, 0.0]), STRIP)
        assert laid.forces[1] == pytest.approx(3 * EI * (a + b) * 10 / (a * b) ** 2, rel=1e-6)
        assert laid.gaps == pytest.approx([0, 0, 0], abs=1e-9)
    assert pytest.approx(48 * EI * 10 / 1200**3) == 3 * EI * 1200 * 10 / 600**4
    x = np.linspace(0, 600, 9)  # half of a centrally loaded beam: y = F x (3 L² - 4 x²) / 48 E I
    middle = lay_batten(np.array([0.0, 600.0, 1200.0]), np.array([0.0, 10.0, 0.0]), STRIP)
    assert middle.at(x) == pytest.approx(10 * x * (3 * 1200**2 - 4 * x**2) / 1200**3, abs=1e-6)


def three_moments(places: np.ndarray, heights: np.ndarray) -> np.ndarray:
    """Forces of the supports on a beam through given heights, ends hinged (Clapeyron): for each inner support
    M₋ L₋ + 2 M (L₋ + L₊) + M₊ L₊ = 6 E I (slope after - slope before), the moments being those that bend it so."""
    spans, slopes = np.diff(places), np.diff(heights) / np.diff(places)
    count = len(places)
    matrix, right = np.eye(count), np.zeros(count)
    for k in range(1, count - 1):
        matrix[k, k - 1 : k + 2] = spans[k - 1], 2 * (spans[k - 1] + spans[k]), spans[k]
        right[k] = 6 * EI * (slopes[k] - slopes[k - 1])
    moments = np.linalg.solve(matrix, right)
    shear = np.diff(moments) / spans
    return np.concatenate([[0.0], np.diff(shear), [0.0]])


@given(st.lists(st.floats(150, 900), min_size=3, max_size=12), st.lists(st.floats(-20, 20), min_size=13, max_size=13))
@settings(max_examples=60, deadline=None)
def test_held_everywhere_it_is_a_continuous_beam(spans: list[float], heights: list[float]) -> None:
    places = np.concatenate([[0.0], np.cumsum(spans)])
    molds = np.array(heights[: len(places)])
    laid = lay_batten(places, molds, STRIP, np.ones(len(places), dtype=bool))
    true = three_moments(places, molds)
    assert laid.forces == pytest.approx(true, rel=5e-3, abs=5e-3 * max(1e-9, float(np.abs(true).max())))
    assert laid.heights == pytest.approx(molds, abs=1e-6)


@given(
    st.lists(st.floats(150, 900), min_size=3, max_size=39), st.lists(st.floats(-20, 20), min_size=40, max_size=40), st.booleans()
)
@settings(max_examples=80, deadline=None)
def test_molds_push_and_never_pull(spans: list[float], heights: list[float], clamp: bool) -> None:
    places = np.concatenate([[0.0], np.cumsum(spans)])
    molds = np.array(heights[: len(places)])
    held = pulls(places, molds) if clamp else np.zeros(len(places), dtype=bool)
    laid = lay_batten(places, molds, STRIP, held)
    inner, biggest = slice(1, -1), max(1e-9, float(np.abs(laid.forces).max()))
    assert np.all(laid.forces[inner][~held[inner]] >= -1e-9 * biggest)
    assert np.all(laid.heights - molds >= -1e-5)
    assert np.all(laid.gaps * laid.forces <= 1e-4 * biggest)  # a mold that pushes is touched
    if clamp:
        assert np.all(laid.gaps < 1e-4)


def test_a_low_mold_is_bridged_and_a_proud_one_lifts_the_batten() -> None:
    places = np.arange(11) * 400.0
    round_hull = np.sqrt(60_000.0**2 - (places - 2000) ** 2) - 60_000
    held = pulls(places, round_hull)
    held[4:7] = False
    low, proud = round_hull.copy(), round_hull.copy()
    low[5] -= 6
    proud[5] += 6
    bridged, lifted = lay_batten(places, low, STRIP, held), lay_batten(places, proud, STRIP, held)
    assert bridged.gaps[5] > 4
    assert lifted.gaps[5] < 0.01
    assert lifted.gaps[4] > 0.2
    with pytest.raises(ValueError, match="three molds"):
        lay_batten(places[:2], low[:2], STRIP)
    with pytest.raises(ValueError, match="one after the other"):
        lay_batten(places[::-1], low, STRIP)
