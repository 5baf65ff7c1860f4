"""Sums and closed forms that small slips in the code would not survive: each was put in by hand, and went unnoticed before.

Normal curvature and geodesic torsion of a helix on a cylinder are sin²α/R and sin α cos α/R (any textbook of differential
geometry). Saint-Venant: a thin strip of thickness t twisted by θ a length is sheared by G t θ at most (any textbook of elasticity);
G is a sixteenth of E for wood, about (Wood Handbook, FPL-GTR-282, from memory).
"""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.geometry.surface_line import SurfaceLine, felt
from hollow_keel.core.hull.hydro import hydro
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.mechanics import StripSection, _torn, span_of
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.settings.timber import Board, RipWay, SawSettings
from hollow_keel.core.settings.woods import WOODS
from hollow_keel.core.setup.schedule import middle_gap, rail_overhang, working_height
from hollow_keel.core.stock.rip import rip
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.demo.jobs import linnet
from tests.shapes import end_rows, hull_of, station_rows, unworked

RADIUS, LONG = 400.0, 3000.0


def skewed_cylinder() -> TensorSurface:
    """A quarter of a cylinder whose lines of equal v run round it as they run along: its two directions are not square."""
    u, v = np.meshgrid(np.linspace(0, 1, 61), np.linspace(0, 1, 41), indexing="ij")
    angle = math.pi / 2 * (0.7 * v + 0.3 * u)
    return TensorSurface(np.stack([LONG * u, RADIUS * np.sin(angle), -RADIUS * np.cos(angle)], axis=-1))


@pytest.mark.parametrize("slope", [-0.6, -0.2, 0.0, 0.35])
def test_a_helix_twists_by_sine_times_cosine_over_the_radius(slope: float) -> None:
    u = np.linspace(0.2, 0.8, 46)
    v = 0.5 + slope * (u - 0.5)
    line = SurfaceLine(u, v, np.full_like(u, slope), np.zeros_like(u))
    steep = math.atan(RADIUS * math.pi / 2 * (0.7 * slope + 0.3) / LONG)
    own = felt(skewed_cylinder(), line, True)
    assert np.abs(own.bend) == pytest.approx(np.full(46, math.sin(steep) ** 2 / RADIUS), rel=1e-3, abs=1e-8)
    assert np.abs(own.twist) == pytest.approx(np.full(46, abs(math.sin(steep) * math.cos(steep)) / RADIUS), rel=1e-3)
    other = 2 * -0.3 / 0.7 - slope  # as steep, the other way round
    back = felt(skewed_cylinder(), SurfaceLine(u, 0.5 + other * (u - 0.5), np.full_like(u, other), np.zeros_like(u)), True)
    assert back.twist == pytest.approx(-own.twist, rel=1e-3)


def test_every_front_on_a_cylinder_twists_as_its_guide_does() -> None:
    """Lines at equal distances from a helix are helices as steep."""
    steep = math.atan(RADIUS * math.pi / 2 * 0.3 / LONG)
    for front in propagate(skewed_cylinder(), 0.0, 25.0)[1:12]:
        inside = (front.u > 0.15) & (front.u < 0.85)
        assert np.abs(front.bend[inside]) == pytest.approx(np.full(inside.sum(), math.sin(steep) ** 2 / RADIUS), rel=2e-3)
        twist = abs(math.sin(steep) * math.cos(steep)) / RADIUS
        assert np.abs(front.twist[inside]) == pytest.approx(np.full(inside.sum(), twist), rel=2e-3)


def test_twisting_shears_a_strip_as_saint_venant_says() -> None:
    cedar = WOODS["western redcedar"]
    twist = math.radians(30) / 1000  # thirty degrees in a metre
    stress = cedar.modulus * 1000 / 16 * 8.0 * twist
    assert stress == pytest.approx(2.016, abs=0.001)
    share = _torn(StripSection(14.0, 8.0, cedar, 400.0, 60.0, 300.0), np.array([twist]))
    assert share == pytest.approx([stress / cedar.shear])


def test_the_span_is_the_usual_one_and_not_the_longest() -> None:
    assert span_of([0.0, 400.0, 800.0, 1200.0, 2400.0]) == 400.0
    assert span_of([1200.0, 0.0, 500.0]) == 600.0
    assert span_of([700.0]) == 400.0


def wedge() -> OffsetsTable:
    """V sections that widen evenly from a stem at 0 to 400 at the after end, 4000 aft: as unlike fore and aft as can be."""
    heights = np.linspace(-300.0, 100.0, 9)
    rows = end_rows("stem_bow", np.column_stack([np.zeros(9), np.zeros(9), heights]))
    for x in np.linspace(400.0, 3600.0, 9).tolist():
        rows += station_rows(x, 0.1 * x * (heights + 300) / 400, heights)
    aft = np.column_stack([np.full(9, 4000.0), (heights + 300), heights])
    return OffsetsTable(rows=(*rows, *end_rows("transom", aft)))


def test_centres_of_a_hull_that_is_not_alike_fore_and_aft() -> None:
    """Waterplane and sections grow as x: both centres lie two thirds aft. The centre of a triangle on its point is a third down."""
    found = hydro(hull_of(wedge()), 0.0)
    assert found.flotation == pytest.approx(4000 * 2 / 3, abs=2.0)
    assert found.centre[0] == pytest.approx(4000 * 2 / 3, abs=2.0)
    assert found.centre[1] == pytest.approx(-100.0, abs=0.5)
    assert found.waterplane == pytest.approx(300 * 4000 * 1e-6, rel=1e-3)
    assert found.volume == pytest.approx(300 * 300 / 2 * 4000 * 2 / 2 * 1e-9, rel=2e-3)


def test_wedges_go_into_the_middle_where_no_faces_turn_over() -> None:
    shape = Pipeline().shape(change(unworked(linnet()), "molds", faces="forward"))
    at = middle_gap(shape.setup)
    assert at == 5, "twelve molds have eleven gaps: the sixth is the middle one"
    assert shape.setup.marks[at].mold == "6"
    turned = Pipeline().shape(linnet())
    faces = [mark.face for mark in turned.setup.marks]
    where = next(k for k in range(11) if faces[k] is not faces[k + 1])
    assert middle_gap(turned.setup) == where


def test_sawdust_is_a_kerf_for_every_cut() -> None:
    """A board 160 by 15, strips 14 wide and 7 thick off its edge, half a millimetre left on every face: 8 and a cut of 2.5 go 15
    times into the 157 that a jointed edge leaves, with fifteen cuts through the whole thickness; 2 mm are left."""
    saw = SawSettings(kerf=2.5, planing=0.5, jointing=3.0)
    found = rip(Board(thickness=15.0, width=160.0, length=3000.0), 14.0, 7.0, saw, RipWay.OFF_EDGE)
    assert found is not None
    assert found.count == 15
    assert found.left[0] == pytest.approx(157 - 15 * 8 - 14 * 2.5)
    assert found.yielded == pytest.approx(15 * 7 * 14 / (160 * 15))
    assert found.dust == pytest.approx(15 * 2.5 * 15 / (160 * 15))
    # turned: a blank 15 wide is ripped into one strip 8 thick and 4.5 are left: one cut more through its 15
    turned = rip(Board(thickness=33.0, width=160.0, length=3000.0), 14.0, 7.0, saw, RipWay.TURNED)
    assert turned is not None
    assert (turned.blanks, turned.per_blank) == (9, 3)
    assert turned.dust == pytest.approx(2.5 * (9 * 33 + 9 * 2 * 15) / (160 * 33))


def test_joints_stay_the_whole_clearance_from_every_mold() -> None:
    """Measured once more on the finished plan, from the middles of joints, which are eight times the thickness long."""
    job = change(unworked(linnet()), "stock.joints", clear_molds=120.0)
    pipeline = Pipeline()
    plan = pipeline.value(job, STOCK)
    stations = [m.station for m in pipeline.shape(job).molds.molds]
    assert plan.plan is not None
    needs = {need.key: need for need in plan.needs}
    apart = []
    for made, _ in plan.plan.strips:
        at = needs[made.key].at
        apart += [min(abs(float(np.interp(j, at[:, 0], at[:, 1])) - s) for s in stations) for j in made.joints]
    near = [d for d in apart if d < 120.0]
    assert len(apart) > 100
    assert len(near) < 0.06 * len(apart), "a rule gives only where the boards run short"
    assert any(f"only {min(near) - 8 * 8 / 2:.0f} mm instead of 120 mm" in f.said().text for f in plan.findings)
    strip = pipeline.value(job, PLANKING).strips[10]
    own = next(n for n in plan.needs if n.strip == strip.number)
    assert [b - a for a, b in own.shut] == pytest.approx([240.0] * len(own.shut))


def test_the_strongback_is_counted_and_measured_by_hand() -> None:
    """Twelve molds: two brackets each, four castors; the highest point is that of stem, keel or sheer; rails 600 apart leave
    a frame 800 wide 100 on each side."""
    job = unworked(linnet())
    table = Pipeline().shape(change(job, "setup", strongback="table", castors=120.0, top=500.0))
    timber = {t.what: t for t in table.schedule.timber}
    assert timber["bracket, one to each leg, its face on the mark"].count == 24
    assert timber["castor with a brake, and chocks for while it is measured"].count == 4
    points = [s.points for s in table.lines.sections] + [table.lines.bow.points, table.lines.stern.points]
    lowest = min(float(p[:, 2].min()) for p in points)  # upside down the keel is on top
    assert working_height(table.hull, table.setup, table.job.setup) == pytest.approx(500 + 120 + table.setup.beam_level - lowest)
    assert rail_overhang(800.0, 600.0) == (200.0, 100.0)
    short = Pipeline().shape(change(job, "setup", length=4000.0))
    (said,) = [f for f in short.schedule.findings if f.code == "too-short"]
    assert "mold 12 reaches" in said.text
    exact = Pipeline().shape(change(job, "setup", length=short.setup.beam_length))
    assert not [f for f in exact.schedule.findings if f.code == "too-short"], "just long enough is long enough"
    from_stern = Pipeline().shape(change(job, "setup", zero_end="stern"))
    at = middle_gap(from_stern.setup)
    assert at is not None
    marks = from_stern.setup.marks
    assert (marks[at].mold, marks[at + 1].mold) == ("7", "6"), "between the same two molds, counted from the other end"
