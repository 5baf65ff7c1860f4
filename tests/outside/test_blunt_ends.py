"""Hulls with blunt and with raked ends against the closed form of their shape: every offset met, sections between, strips' edges.

On a hemisphere, planked from its equator, closed form tells every edge: a circle of latitude (any textbook of geometry).
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.spatial import cKDTree

from hollow_keel.core.hull.build import Hull
from hollow_keel.core.molds.shape import section_outside
from hollow_keel.core.offsets.table import OffsetsTable, read_lines
from hollow_keel.core.planking.faces import area_of
from hollow_keel.core.planking.plank import plank
from hollow_keel.demo.jobs import linnet, pipit, sedge
from tests.shapes import end_rows, hull_of, station_rows

ROUNDING_MM = 1.0


def spheroid(long: float, round_: float, foot: float, stations: np.ndarray, points: int = 13) -> OffsetsTable:
    """A half spheroid closed at both ends, stems from their feet at an angle `foot` (radians) from the ends up to the heads."""
    angle = np.linspace(0, np.pi / 2, points)
    along = long * (1 - np.cos(np.linspace(foot, 0, 12)))
    stem = np.column_stack([along, np.zeros(12), -round_ * np.sqrt(1 - (1 - along / long) ** 2)])
    rows = end_rows("stem_bow", stem)
    for x in stations.tolist():
        radius = round_ * math.sqrt(1 - (x / long - 1) ** 2)
        rows += station_rows(x, radius * np.sin(angle), -radius * np.cos(angle))
    stern = stem * [-1, 1, 1] + [2 * long, 0, 0]
    return OffsetsTable(rows=(*rows, *end_rows("stem_stern", stern)))


SPACED = np.array([60, 150, 300, 500, 800, 1200, 1700, 2300, 2900, 3400, 3800, 4100, 4300, 4450, 4540], dtype=float)


def hemisphere(foot: float) -> OffsetsTable:
    return spheroid(1000.0, 1000.0, foot, 1000 * (1 - np.cos(np.linspace(0, np.pi, 19)[1:-1])))


def spoon() -> OffsetsTable:
    """A spoon bow: elliptic sections, the stem running smoothly into the keel."""
    angle = np.linspace(0, np.pi / 2, 11)

    def share(x: float) -> float:
        return (2600 - x) / 2600 if x < 2600 else (x - 2600) / 3600

    def section(x: float) -> np.ndarray:
        round_ = 1 - share(x) ** 2
        return np.column_stack([700 * round_**0.75 * np.sin(angle), -450 * round_**0.5 * np.cos(angle)])

    along = 700 * np.linspace(1, 0, 9) ** 2
    rows = end_rows("stem_bow", np.array([[x, 0.0, section(x)[0, 1]] for x in along.tolist()]))
    for x in (150, 300, 600, *range(1000, 4900, 450)):
        rows += station_rows(float(x), *section(float(x)).T)
    end = section(5000.0)
    return OffsetsTable(rows=(*rows, *end_rows("transom", np.column_stack([np.full(11, 5000.0), end]))))


def misses(table: OffsetsTable) -> float:
    """How far the hull passes its offsets by at most, mm."""
    lines = read_lines(table)
    worst = 0.0
    for hull in (hull_of(table),):
        u, v = np.linspace(0, 1, 1601)[:, None], np.linspace(0, 1, 301)[None, :]
        cloud = np.concatenate([p.surface.points(u, v).reshape(-1, 3) for p in hull.panels])
        tree = cKDTree(cloud)
        for section in lines.sections:
            gap, near = tree.query(section.points, k=12)
            for point, own, index in zip(section.points, gap, near, strict=True):
                patch = cloud[index]
                normal = np.linalg.svd(patch - patch.mean(axis=0))[2][-1]
                worst = max(worst, min(float(own[0]), abs(float((point - patch.mean(axis=0)) @ normal)) + 0.02))
    return worst


@pytest.mark.parametrize(
    ("table", "wanted"),
    [
        (spheroid(2300, 520, 0.9, SPACED), 0.25),
        (hemisphere(0.9), 0.25),
        (spoon(), 0.25),
        (linnet().offsets, ROUNDING_MM),
        (pipit().offsets, ROUNDING_MM),
        (sedge().offsets, ROUNDING_MM),
    ],
    ids=["spheroid", "hemisphere", "spoon", "linnet", "pipit", "sedge"],
)
def test_every_offset_is_met(table: OffsetsTable, wanted: float) -> None:
    assert misses(table) < wanted


def test_sections_between_the_stations_of_a_blunt_nose_are_round() -> None:
    hull = hull_of(spheroid(2300, 520, 0.9, SPACED))
    for x in (10.0, 30.0, 50.0, 225.0, 400.0, 650.0, 1000.0, 1450.0, 3950.0):
        section = section_outside(hull, x)
        radius = 520 * math.sqrt(1 - (x / 2300 - 1) ** 2)
        assert np.hypot(*section.T) == pytest.approx(np.full(len(section), radius), abs=0.4)


@pytest.mark.parametrize(("step", "wanted"), [(0.0, 0.35), (1.0, 1.5)], ids=["exact", "to 1 mm"])
def test_a_spoon_bow_is_right_forward_of_its_first_station(step: float, wanted: float) -> None:
    table = spoon()
    if step:
        rows = [
            row.model_copy(update={n: round(getattr(row, n) / step) * step for n in ("half_breadth", "height")})
            for row in table.rows
        ]
        table = OffsetsTable(rows=tuple(rows))
    hull = hull_of(table)
    angle = np.linspace(0, np.pi / 2, 4000)
    for x, more in ((50.0, 0.4), (75.0, 0.0), (100.0, 0.0), (125.0, 0.0), (220.0, 0.0)):
        round_ = 1 - ((2600 - x) / 2600) ** 2
        truth = np.column_stack([700 * round_**0.75 * np.sin(angle), -450 * round_**0.5 * np.cos(angle)])
        assert cKDTree(truth).query(section_outside(hull, x))[0].max() < wanted + more


@pytest.fixture(scope="module", params=[0.6, 0.9, 1.2], ids=["foot at 34°", "at 52°", "at 69°"])
def half_ball(request: pytest.FixtureRequest) -> Hull:
    return hull_of(hemisphere(request.param))


def test_strips_of_a_hemisphere_are_circles_of_latitude(half_ball: Hull) -> None:
    width = 40.0
    laid = plank(half_ball, width)
    assert len(laid.strips) == math.ceil(1000 * math.pi / 2 / width)
    for strip in laid.strips[:-1]:
        latitude = strip.number * width / 1000
        assert strip.far_length == pytest.approx(1000 * math.pi * math.cos(latitude), abs=2.5)
        heights = np.concatenate([p.points[:, 2] for p in strip.far])
        assert heights == pytest.approx(np.full(len(heights), -1000 * math.sin(latitude)), abs=1.0)
    assert sum(area_of(s, laid) for s in laid.strips) == pytest.approx(math.pi * 1e6, rel=0.003)
