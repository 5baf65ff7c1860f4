"""The hull's ends against closed forms: a cone cut square, a cone cut on the slant, the entrance of the Wigley hull
(W. C. S. Wigley, 1934)."""

from __future__ import annotations

import csv
import io
import math

import numpy as np
import pypdf
import pytest

from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.job import Job
from hollow_keel.core.molds.ends import stem_bevels, transom
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.demo.jobs import linnet, pipit
from tests.shapes import WIGLEY, cone, hull_of, wigley, written

HALF_ANGLE = math.radians(9)


def slanted_cone(rake: float) -> OffsetsTable:
    """The cone of tests.shapes with its after end cut on the slant: x = 4600 + z tan(rake), z down to minus the radius."""
    table = cone()
    kept = [r for r in table.rows if not (r.label == "transom" and r.station > 2000)]
    edge: list[OffsetRow] = []
    for angle in np.linspace(0, np.pi / 2, 17):
        down, k = math.cos(angle), math.tan(HALF_ANGLE)
        x = 4600.0 / (1 + k * down * math.tan(rake))
        radius = x * k
        edge.append(OffsetRow(station=x, label="transom", half_breadth=radius * math.sin(angle), height=-radius * down))
    reach = min(r.station for r in edge)
    rows = [r for r in kept if r.label == "transom" or r.station < reach - 50]
    return OffsetsTable(rows=(*rows, *edge))


def test_a_transom_square_to_a_cone_is_round_and_bevelled_by_the_half_angle() -> None:
    piece = transom(hull_of(cone()), 10.0, 20.0)
    assert piece.rake == pytest.approx(0.0, abs=1e-6)
    outside = 4800 * math.tan(HALF_ANGLE)
    up = np.array([0.0, outside])
    for points, radius in (
        (piece.planking, outside),
        (piece.after, outside - 10 / math.cos(HALF_ANGLE)),
        (piece.forward, outside - 20 * math.tan(HALF_ANGLE) - 10 / math.cos(HALF_ANGLE)),
    ):
        assert np.hypot(*(points - up).T) == pytest.approx(radius, abs=0.06)
    assert np.degrees(piece.bevels[3:-3]) == pytest.approx(-9.0, abs=0.15)  # the hull widens aft: the forward face is smaller


def test_a_raked_transom_is_seen_true() -> None:
    rake = math.radians(20)
    piece = transom(hull_of(slanted_cone(rake)), 0.0, 10.0)
    assert piece.rake == pytest.approx(rake, abs=1e-3)
    k = math.tan(HALF_ANGLE)
    foot = 4600.0 / (1 + k * math.tan(rake))
    length = foot * k / math.cos(rake)  # from the foot up the rake to the level of the axis
    assert piece.planking[-1] == pytest.approx([4600.0 * k, length], abs=0.3)
    x = foot + piece.planking[:, 1] * math.sin(rake)
    z = -foot * k + piece.planking[:, 1] * math.cos(rake)
    assert np.hypot(piece.planking[:, 0], z) == pytest.approx(x * k, abs=0.4)


def test_the_stem_of_the_wigley_hull_is_bevelled_by_its_entrance() -> None:
    length, beam, draft = WIGLEY
    for stern in (False, True):
        for _, z, bevel in stem_bevels(hull_of(wigley()), stern=stern):
            true = math.atan(2 * beam / length * (1 - (z / draft) ** 2))
            assert math.degrees(bevel) == pytest.approx(math.degrees(true), abs=0.4)


def test_hulls_without_such_an_end_say_so() -> None:
    with pytest.raises(ImpossiblePlan, match="no transom at its bow"):
        transom(hull_of(linnet().offsets), 6.0, 12.0, stern=False)
    with pytest.raises(ImpossiblePlan, match="no transom"):
        written("transom-pdf", pipit())
    with pytest.raises(ImpossiblePlan, match="no stem"):
        written("stem-csv", Job(offsets=cone(), waterline=-50.0))
    rows = [
        r.model_copy(update={"station": r.station + (20 if 200 < r.height < 400 else 0)}) if r.label == "transom" else r
        for r in linnet().offsets.rows
    ]
    with pytest.raises(ImpossiblePlan, match="neither flat nor bent"):
        transom(hull_of(OffsetsTable(rows=tuple(rows))), 6.0, 12.0)


def test_the_demo_s_ends_go_out() -> None:
    page = pypdf.PdfReader(io.BytesIO(written("transom-pdf", linnet()))).pages[0]
    text = page.extract_text()
    assert "TRANSOM" in text
    assert "20.8" in text
    rows = list(csv.reader(io.StringIO(written("stem-csv", linnet()).decode())))
    assert {row[0] for row in rows[1:]} == {"bow"}
    assert all(15 < float(row[3]) < 60 for row in rows[1:])


def test_a_transom_bent_to_a_radius_is_unrolled() -> None:
    """A cone cut by an upright cylinder of radius R about (4600 - R, 0): on the cut x = 4600 - R + sqrt(R² - y²)."""
    bend, k = 1500.0, math.tan(HALF_ANGLE)
    kept = [r for r in cone().rows if not (r.label == "transom" and r.station > 2000) and r.station < 4500]
    edge: list[OffsetRow] = []
    for angle in np.linspace(0, np.pi / 2, 25):
        x = 4600.0
        for _ in range(60):
            y = x * k * math.sin(angle)
            x = 4600.0 - bend + math.sqrt(bend**2 - y**2)
        edge.append(OffsetRow(station=x, label="transom", half_breadth=x * k * math.sin(angle), height=-x * k * math.cos(angle)))
    hull = hull_of(OffsetsTable(rows=(*kept, *edge)))
    piece = transom(hull, 0.0, 20.0)
    assert piece.rake == pytest.approx(0.0, abs=2e-3)
    assert piece.radius == pytest.approx(bend, rel=0.01)
    y = bend * np.sin(piece.planking[:, 0] / bend)
    x = 4600.0 - bend + np.sqrt(bend**2 - y**2)
    z = piece.planking[:, 1] - 4600.0 * k
    assert np.hypot(y, z) == pytest.approx(x * k, abs=0.5)
    inner = bend - 20.0
    y = inner * np.sin(piece.forward[:, 0] / inner)
    x = 4600.0 - bend + np.sqrt(inner**2 - y**2)
    assert np.hypot(y, piece.forward[:, 1] - 4600.0 * k) == pytest.approx(x * k, abs=0.6)
