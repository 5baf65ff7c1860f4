"""The sheer carried to the outside. Truth: tubes and cones with plane and helical sheers, by hand."""

from __future__ import annotations

import csv
import io
import math

import ezdxf
import numpy as np
import pytest

from hollow_keel.app.exports import export_named, plan_parts
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.job import Job, Layer, MoldSettings
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.release.stages import LIFT
from hollow_keel.core.results import Results
from hollow_keel.core.settings.deck_choices import CamberRule
from hollow_keel.core.settings.sheer_choices import Carried
from hollow_keel.core.settings.timber import Board
from hollow_keel.core.settings.veneer_choices import FormKind
from hollow_keel.core.sheer.heads import SheerPlan
from hollow_keel.core.sheer.rails import Rails
from hollow_keel.core.sheer.stages import BEAMS, RAILS, SHEER, SHEER_STRIPS, STAGES
from hollow_keel.demo.jobs import demo_job
from tests.shapes import round_hull, station_rows

RADIUS, LENGTH, SKIN = 700.0, 3000.0, 12.0
STATIONS = np.linspace(0.0, LENGTH, 13)
MOLDS = MoldSettings(skin=SKIN, stations=tuple(np.linspace(300.0, 2700.0, 9).tolist()))


def trimmed(table: OffsetsTable, **trim: object) -> Job:
    return change(Job(offsets=table, molds=MOLDS), "trim", wanted=True, **trim)


def sheer_of(job: Job) -> SheerPlan:
    return Pipeline().results(job, [SHEER])[SHEER]


def tube(**trim: object) -> Job:
    return trimmed(round_hull(lambda _: RADIUS, STATIONS), **trim)


def helical(turn: float) -> OffsetsTable:
    """A tube whose sheer climbs round it: from 70° off straight down by `turn` degrees to its stern."""
    rows: list[OffsetRow] = []
    for x in STATIONS.tolist():
        angle = np.linspace(0.0, math.radians(70.0 + turn * x / LENGTH), 17)
        rows += station_rows(x, RADIUS * np.sin(angle), -RADIUS * np.cos(angle))
    return OffsetsTable(rows=tuple(rows))


def leaves_circle(radius: float, inside: float, slope: float) -> tuple[float, float, float]:
    """Where a line falling by a slope (radians) from (inside, 0) leaves a circle: half-breadth, height, and arc from straight
    down."""
    b = inside * math.cos(slope)
    s = -b + math.sqrt(b * b - inside**2 + radius**2)
    y, z = inside + s * math.cos(slope), -s * math.sin(slope)
    return y, z, radius * math.atan2(y, -z)


def test_square_to_a_tube_it_comes_out_level() -> None:
    plan = sheer_of(tube())
    assert len(plan.marks) == 9
    for mark in plan.marks:
        assert mark.inside == pytest.approx([RADIUS - SKIN, 0.0], abs=0.05)
        assert mark.outside == pytest.approx([RADIUS, 0.0], abs=0.05)
        assert mark.girth == pytest.approx(RADIUS * math.pi / 2, abs=0.05)
        assert (mark.slope, mark.along) == pytest.approx((0.0, 0.0), abs=0.05)


@pytest.mark.parametrize("rule", list(CamberRule))
def test_at_the_decks_slope_it_comes_out_lower(rule: CamberRule) -> None:
    """A crown of 80 on the widest beam: a parabola's slope at its edge is 4c/b."""
    plan = sheer_of(tube(carried=Carried.DECK, crown=80.0, rule=rule))
    slope = math.atan(4 * 80.0 / (2 * (RADIUS - SKIN)))
    y, z, girth = leaves_circle(RADIUS, RADIUS - SKIN, slope)
    for mark in plan.marks:
        assert mark.slope == pytest.approx(math.degrees(slope), abs=0.05)
        assert mark.outside == pytest.approx([y, z], abs=0.05)
        assert mark.girth == pytest.approx(girth, abs=0.05)


@pytest.mark.parametrize(("rule", "power"), [(CamberRule.ONE_PATTERN, 2), (CamberRule.PROPORTION, 1)])
def test_narrower_beams_of_a_cone_have_the_camber_that_is_said(rule: CamberRule, power: int) -> None:
    """In a cone the skin is thicker across its sections by 1 / cos of its half-angle."""
    table = round_hull(lambda x: 400.0 + 300.0 * x / LENGTH, STATIONS)
    lean = math.atan(300.0 / LENGTH)
    plan = sheer_of(trimmed(table, carried=Carried.DECK, crown=60.0, crown_on=1200.0, rule=rule))
    for mark in plan.marks:
        radius = 400.0 + 300.0 * mark.station / LENGTH
        inside = radius - SKIN / math.cos(lean)
        beam = 2 * inside
        slope = math.atan(4 * 60.0 * (beam / 1200.0) ** power / beam)
        y, z, girth = leaves_circle(radius, inside, slope)
        assert mark.inside == pytest.approx([inside, 0.0], abs=0.05)
        assert mark.outside == pytest.approx([y, z], abs=0.05)
        assert mark.girth == pytest.approx(girth, abs=0.05)
        assert mark.slope == pytest.approx(math.degrees(slope), abs=0.1)


def test_a_sheer_that_climbs_round_a_tube_is_followed() -> None:
    plan = sheer_of(trimmed(helical(20.0)))
    for k, mark in enumerate(plan.marks):
        angle = math.radians(70.0 + 20.0 * mark.station / LENGTH)
        way = np.array([math.sin(angle), -math.cos(angle)])
        assert mark.inside == pytest.approx((RADIUS - SKIN) * way, abs=0.05)
        assert mark.outside == pytest.approx(RADIUS * way, abs=0.05)
        assert mark.girth == pytest.approx(RADIUS * angle, abs=0.05)
        assert mark.slope == pytest.approx(90.0 - math.degrees(angle), abs=0.1)
        if 0 < k < len(plan.marks) - 1:
            rises = math.atan((RADIUS - SKIN) * math.sin(angle) * math.radians(20.0) / LENGTH)
            assert mark.along == pytest.approx(math.degrees(rises), abs=0.1)


def test_heights_are_above_the_set_up_line_and_heads_are_cut_above_the_mark() -> None:
    """Set up upside down what lies higher in the hull lies lower; a head cut above its line stands over it in the hull's sense."""
    job = tube(above=1.6)
    results = Pipeline().results(job, [SHEER])
    from hollow_keel.core.setup.stages import SETUP

    setup = Pipeline().results(job, [SETUP])[SETUP]
    for mark in results[SHEER].marks:
        assert mark.inside_up == pytest.approx(setup.above(0.0), abs=0.05)
        assert mark.cut_up - mark.inside_up == pytest.approx(setup.sense * 1.6)


def test_frames_a_foot_apart_make_so_many_heads() -> None:
    """A hull of 13 m with frames a foot apart has about 42 heads a side (common practice); those at molds count once."""
    table = round_hull(lambda _: RADIUS, np.linspace(0.0, 13000.0, 14))
    job = change(
        Job(offsets=table, molds=MoldSettings(skin=SKIN, stations=(100.0, 6500.0, 12900.0))), "trim", wanted=True, frames=304.8
    )
    plan = sheer_of(job)
    assert len(plan.marks) == 3 + 40  # one of 41 comes at a mold
    assert [m.station for m in plan.marks] == sorted(m.station for m in plan.marks)
    one = next(m for m in plan.marks if m.name == "frame 1")
    assert one.station == pytest.approx(404.8)
    whole = change(job, "trim", frames=6400.0)
    assert [m.name for m in sheer_of(whole).marks] == ["mold 1", "mold 2", "mold 3"]


def test_a_slope_that_does_not_leave_the_skin_is_said() -> None:
    """Down a slope steeper than the skin's own flare nothing comes out near: a very flared section and a huge crown."""
    rows: list[OffsetRow] = []
    for x in STATIONS.tolist():
        rows += station_rows(x, np.array([10.0, 300.0, 900.0]), np.array([0.0, 20.0, 40.0]))
    plan = sheer_of(trimmed(OffsetsTable(rows=tuple(rows)), carried=Carried.DECK, crown=2000.0))
    found = {f.code for f in plan.findings}
    assert found <= {"sheer-outside"}
    assert len(plan.marks) + len(plan.findings) == len(MOLDS.stations)


@pytest.fixture(scope="module")
def results() -> Results:
    job = change(demo_job("linnet"), "trim", wanted=True, carried=Carried.DECK, frames=200.0)
    return Pipeline().results(job, [stage for stage in STAGES if stage is not LIFT])


def test_the_strip_at_the_sheer_is_told_at_molds(results: Results) -> None:
    plan = results[SHEER_STRIPS]
    for mark in plan.marks:
        assert (mark.strip is not None) == mark.mold
        if mark.below is not None:
            assert 0 < mark.below < 60.0


def test_files_say_what_the_plan_says(results: Results) -> None:
    plan = results[SHEER_STRIPS]
    rows = list(csv.DictReader(io.StringIO(export_named("sheer-csv").write(results).decode())))
    assert [row["head"] for row in rows] == [mark.name for mark in plan.marks]
    assert float(rows[3]["outside up mm"]) == pytest.approx(plan.marks[3].outside_up, abs=0.01)
    part = dict(plan_parts())["trim"](results)
    assert [head["girth"] for head in part["heads"]] == pytest.approx([m.girth for m in plan.marks], abs=0.01)
    assert dict(plan_parts())["trim"](Pipeline().results(demo_job("pipit"), [SHEER])) == {}
    with pytest.raises(ImpossiblePlan, match="not carried out"):
        export_named("sheer-csv").write(Pipeline().results(demo_job("pipit"), [SHEER]))


def test_the_camber_pattern_is_a_parabola_at_full_size(results: Results) -> None:
    document = ezdxf.read(io.StringIO(export_named("camber-dxf").write(results).decode()))
    curve = max(document.modelspace().query("LWPOLYLINE"), key=len)
    points = np.array([(x, y) for x, y, *_ in curve.get_points()])
    points -= [points[:, 0].mean(), points[:, 1].min()]
    beam, crown = results[SHEER].beam, results.job.trim.crown
    assert np.ptp(points[:, 0]) == pytest.approx(beam, abs=0.1)
    assert points[:, 1] == pytest.approx(crown * (1 - (2 * points[:, 0] / beam) ** 2), abs=0.1)
    assert export_named("camber-pdf").write(results).startswith(b"%PDF")
    flat = change(results.job, "trim", crown=0.0)
    with pytest.raises(ImpossiblePlan, match="flat"):
        export_named("camber-dxf").write(Pipeline().results(flat, [SHEER]))


def test_a_buried_sheer_is_found_by_a_gauge_over_the_ribband_past_it() -> None:
    """A form of ribbands 60 mm past the sheer of a tube, straight up: from its outer edge, a skin's thickness inside the mark, a
    gauge reads the hypotenuse; lower marks, at the deck's slope, are so much farther. At frames and quarters as at molds."""
    job = change(tube(), "veneers", layers=(Layer(thickness=3.0), Layer(thickness=3.0, angle=-45)))
    job = change(job, "form", kind=FormKind.RIBBANDS).in_step()
    plan = Pipeline().results(job, [SHEER_STRIPS])[SHEER_STRIPS]
    assert [mark.gauge for mark in plan.marks] == pytest.approx([math.hypot(60.0, 6.0)] * len(plan.marks), abs=0.1)
    more = change(job, "trim", carried=Carried.DECK, crown=90.0, frames=700.0, quarters=True)
    plan = Pipeline().results(more, [SHEER_STRIPS])[SHEER_STRIPS]
    assert len({mark.name.split()[0] for mark in plan.marks}) == 4
    for mark in plan.marks:
        assert mark.outside[1] < -0.5, "at the deck's slope it comes out lower"
        straight = math.hypot(60.0 - mark.outside[1], RADIUS - 6.0 - mark.outside[0])
        assert mark.gauge == pytest.approx(straight, abs=0.1), mark.name
    plan = Pipeline().results(job, [SHEER_STRIPS])[SHEER_STRIPS]
    assert all(mark.strip is None for mark in plan.marks)  # of veneers alone
    assert all(mark.inside == pytest.approx([RADIUS - 6.0, 0.0], abs=0.05) for mark in plan.marks)


def test_end_bays_are_quartered() -> None:
    plan = sheer_of(tube(quarters=True))
    names = {mark.name: mark.station for mark in plan.marks if not mark.mold}
    assert names["bow quarter 1"] == pytest.approx(300.0 * 3 / 4, abs=0.5)
    assert names["stern quarter 3"] == pytest.approx(2700.0 + 225.0, abs=0.5)
    assert len(names) == 6


def test_arcs_from_the_keel_find_the_mark_on_the_other_side() -> None:
    """Of a tube: from places on its lowest line; two spheres about the first two meet the tube again in the mirrored mark, and the
    third is as far from that."""
    plan = sheer_of(trimmed(helical(20.0), bases=(300.0, 2500.0, 1400.0)))
    for base, x in zip(plan.bases, (300.0, 2500.0, 1400.0), strict=True):
        assert base == pytest.approx([x, 0.0, -RADIUS], abs=0.05)
    for mark in plan.marks:
        mirrored = np.array([mark.station, -mark.outside[0], mark.outside[1]])
        assert [np.linalg.norm(mirrored - base) for base in plan.bases] == pytest.approx(list(mark.radii), abs=1e-6)
        a, b = plan.bases[0], plan.bases[1]
        first, second = mark.radii[:2]
        apart = float(b[0] - a[0])
        x = a[0] + (first**2 - second**2 + apart**2) / (2 * apart)  # where both spheres cut: a circle square to the keel
        assert x == pytest.approx(mark.station, abs=0.1)


def test_bases_off_the_keel_are_left_out() -> None:
    plan = sheer_of(tube(bases=(-500.0, 900.0, 9000.0)))
    assert len(plan.bases) == 1
    assert [f.code for f in plan.findings] == ["base-off", "base-off"]
    assert [float(base[0]) for base in sheer_of(tube()).bases] == pytest.approx(
        [300.0, 2700.0, 0.0],
        abs=0.5,  # the third at the head of the bow, high over the line of the others
    )


def rails_of(job: Job) -> Rails:
    return Pipeline().results(job, [RAILS])[RAILS]


def test_rails_of_a_helical_sheer_are_as_long_as_helices() -> None:
    """Along a tube a line that climbs evenly is a helix: √(L² + (r θ)²). It needs no edge-set and bends by r θ'² / (1 + r² θ'²)."""
    thick = 20.0
    rails = rails_of(trimmed(helical(20.0), rails=True, rail_thickness=thick)).rails
    turn = math.radians(20.0)
    for rail, radius in zip(rails, (RADIUS + thick / 2, RADIUS - SKIN - thick / 2), strict=True):
        assert rail.length == pytest.approx(math.hypot(LENGTH, radius * turn), rel=5e-4)
        assert rail.behaviour.push < 1.0
        per_mm = turn / LENGTH
        bend = RADIUS * per_mm**2 / (1 + (RADIUS * per_mm) ** 2)
        assert rail.behaviour.bend_strain == pytest.approx(thick / 2 * bend, rel=0.02)
        assert (rail.laminations, rail.pieces) == (1, 0)


def test_rails_are_scarfed_from_the_longest_board() -> None:
    """1:8 scarfs of 18 mm take 144 mm: 3000 mm from boards of 1200 is three lengths, from 1097 too, from 1090 four."""
    for usable, pieces in ((1200.0, 3), (1097.0, 3), (1090.0, 4), (3000.0, 1)):
        job = change(tube(rails=True), "stock", boards=(Board(length=usable),))
        assert [rail.pieces for rail in rails_of(job).rails] == [pieces, pieces]


def test_a_rail_that_is_too_stiff_is_laminated() -> None:
    job = change(demo_job("pipit"), "trim", wanted=True, rails=True, rail_thickness=60.0)
    rails = rails_of(job)
    assert {f.code for f in rails.findings} == {"rail-hard"}
    assert all(rail.laminations > 1 for rail in rails.rails)
    assert all(rail.each == pytest.approx(60.0 / rail.laminations) for rail in rails.rails)
    part = dict(plan_parts())["trim"](Pipeline().results(job, [SHEER, SHEER_STRIPS, RAILS]))
    assert [rail["name"] for rail in part["rails"]] == ["outwale", "inwale"]


def test_beams_do_not_depend_on_which_heads_are_listed() -> None:
    """The crown of narrower beams is told from the widest beam of the hull, not of what is listed."""
    job = change(demo_job("linnet"), "trim", wanted=True, carried=Carried.DECK, crown=65.0)
    job = change(job, "beams", wanted=True)
    job = change(job, "molds", stations=(900.0, 1500.0, 4300.0), every=None)  # none where she is widest
    found = []
    for listed in ({}, {"quarters": True}, {"frames": 300.0}, {"frames": 170.0, "quarters": True}):
        results = Pipeline().results(change(job, "trim", **listed), [SHEER, BEAMS])
        crowns = {b.name: b.crown for b in results[BEAMS].beams if b.name.startswith("mold")}
        found.append((results[SHEER].beam, crowns))
    for beam, crowns in found:
        assert beam == found[0][0]
        assert crowns == pytest.approx(found[0][1])
    widest = Pipeline().shape(job).measures.beam - 2 * job.molds.skin
    assert found[0][0] == pytest.approx(widest, abs=2.0)
    assert max(found[0][1].values()) < 65.0, "narrower than the widest, they have less crown"
