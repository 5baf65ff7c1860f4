"""What is fitted to the sheer and the ends. Truth: tubes, cones, Wigley's hull (W. C. S. Wigley, 1934) by hand, and quadrature."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
import shapely
from scipy.integrate import quad

from hollow_keel.core.change import change
from hollow_keel.core.ends.stages import KEEL, KNEES, OUTER, PLANKS
from hollow_keel.core.findings import Finding
from hollow_keel.core.hull.camber import crown_at
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.job import Job, Layer, MoldSettings
from hollow_keel.core.molds.ends import transom
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.release.molds_out import lift
from hollow_keel.core.release.stages import RELEASE
from hollow_keel.core.settings.deck_choices import CamberRule
from hollow_keel.core.settings.sheer_choices import Sawn, SeenFrom
from hollow_keel.core.setup.stages import SETUP
from hollow_keel.core.sheer.stages import BEAMS, CURVE, SHEER
from hollow_keel.core.stage import Stage
from hollow_keel.demo.jobs import demo_job
from tests.shapes import WIGLEY, round_hull, wigley

RADIUS, LENGTH, SKIN = 700.0, 3000.0, 12.0
INSIDE_RADIUS = RADIUS - SKIN
STATIONS = np.linspace(0.0, LENGTH, 13)
MOLDS = MoldSettings(skin=SKIN, stations=tuple(np.linspace(300.0, 2700.0, 9).tolist()))
LEAN = math.atan(300.0 / LENGTH)


def of(stage: Stage[Any], job: Job) -> Any:
    return Pipeline().results(job, [stage])[stage]


def codes(findings: tuple[Finding, ...]) -> list[str]:
    return [finding.code for finding in findings]


def tube(**trim: object) -> Job:
    table = round_hull(lambda _: RADIUS, STATIONS)
    return change(Job(offsets=table, molds=MOLDS), "trim", wanted=True, **trim)


def cone() -> Job:
    table = round_hull(lambda x: 400.0 + 300.0 * x / LENGTH, STATIONS)
    return change(Job(offsets=table, molds=MOLDS), "trim", wanted=True)


# -- beams ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("crown", [20.0, 80.0, 250.0])
def test_a_beam_is_as_long_as_its_parabola(crown: float) -> None:
    plan = of(BEAMS, change(tube(crown=crown), "beams", wanted=True, made=Sawn.SAWN, molded=45.0))
    breadth = 2 * INSIDE_RADIUS
    wanted, _ = quad(lambda x: math.hypot(1.0, 8 * crown * x / breadth**2), -breadth / 2, breadth / 2)
    for beam in plan.beams:
        assert (beam.breadth, beam.crown) == pytest.approx((breadth, crown), abs=0.1)
        assert beam.along == pytest.approx(wanted, rel=1e-4)
        assert beam.board == pytest.approx(crown + 45.0, abs=0.05)
        assert beam.slope == pytest.approx(math.degrees(math.atan(4 * crown / breadth)), abs=0.01)
        assert (beam.laminations, beam.form_crown) == (0, 0.0)
    assert plan.blocks == ()


@pytest.mark.parametrize(("rule", "power"), [(CamberRule.ONE_PATTERN, 2), (CamberRule.PROPORTION, 1)])
def test_crowns_of_a_cones_beams_go_by_the_rule(rule: CamberRule, power: int) -> None:
    job = change(change(cone(), "trim", crown=60.0, crown_on=1200.0, rule=rule), "beams", wanted=True)
    for beam in of(BEAMS, job).beams:
        assert beam.crown == pytest.approx(60.0 * (beam.breadth / 1200.0) ** power, rel=1e-6)


def test_laminations_are_as_thin_as_the_crown_asks_and_the_form_allows_for_springback() -> None:
    """At its crown a parabola bends to b²/8c; four laminations give back a sixteenth: the form's crown is 16/15 of the beam's."""
    crown, molded, ratio = 80.0, 40.0, 250.0
    job = change(tube(crown=crown), "beams", wanted=True, molded=molded, ratio=ratio, blocks=200.0)
    plan = of(BEAMS, job)
    (beam, *_) = plan.beams
    thickest = (beam.breadth**2 / (8 * crown) - molded) / ratio
    assert beam.laminations == math.ceil(molded / thickest) == 4
    assert beam.each == pytest.approx(10.0)
    assert beam.springback == pytest.approx(1 / 16)
    assert beam.form_crown == pytest.approx(crown * 16 / 15)
    assert [block.off for block in plan.blocks] == pytest.approx([0, 200, 400, 600, INSIDE_RADIUS], abs=0.1)
    for block in plan.blocks:
        share = block.off / INSIDE_RADIUS
        assert block.high == pytest.approx(crown * 16 / 15 * (1 - share**2), abs=0.1)
    asked = of(BEAMS, change(job, "beams", springback=10.0)).beams[0]
    assert asked.form_crown == pytest.approx(crown / 0.9)


def test_what_laminations_give_back_is_what_a_beam_of_them_does() -> None:
    """Beam theory by energy: n leaves bent one by one to a curvature k, glued, and let go, settle where the moment is none: each
    leaf holds E t³ k / 12, the stack resists with E (n t)³ / 12."""
    for count in (2, 3, 7):
        leaf, stack = 1.0 / 12, count**3 / 12
        left = 1.0 - count * leaf / stack
        job = change(tube(crown=20.0), "beams", wanted=True, least=count)
        beam = of(BEAMS, job).beams[0]
        assert beam.laminations == count
        assert 1.0 - beam.springback == pytest.approx(left)


def test_beams_that_cannot_be_are_said() -> None:
    assert codes(of(BEAMS, change(tube(crown=0.0), "beams", wanted=True)).findings) == ["beams-flat"]
    tight = of(BEAMS, change(tube(crown=600.0), "beams", wanted=True, molded=500.0))
    assert codes(tight.findings) == ["beams-tight"]
    thin = of(BEAMS, change(tube(crown=400.0), "beams", wanted=True, molded=60.0, ratio=900.0))
    assert codes(thin.findings) == ["beam-thin"]


# -- a trimming curve -----------------------------------------------------------------------------------------


def test_a_curve_from_the_side_runs_where_a_tube_is_at_its_heights() -> None:
    job = tube(curve_at=(2500.0, 2700.0, 2850.0), curve_to=(-500.0, -300.0, -60.0))
    curve = of(CURVE, job)
    setup = of(SETUP, job)
    assert codes(curve.findings) == []
    given = [place for place in curve.places if place.given]
    assert [place.station for place in given] == pytest.approx([2500.0, 2700.0, 2850.0])
    for place in curve.places:
        assert place.half == pytest.approx(math.sqrt(RADIUS**2 - place.height**2), abs=0.05)
        assert place.girth == pytest.approx(RADIUS * math.atan2(place.half, -place.height), abs=0.1)
        assert place.up == pytest.approx(setup.above(place.height))
    assert np.hypot(curve.line[:, 1], curve.line[:, 2]) == pytest.approx(RADIUS, abs=0.05)


def test_a_curve_from_above_and_past_the_transom() -> None:
    """The skin goes on straight past the transom: a tube stays a tube."""
    job = tube(curve_at=(2900.0, 3100.0), curve_to=(300.0, 650.0), curve_seen=SeenFrom.ABOVE)
    curve = of(CURVE, job)
    first, last = (place for place in curve.places if place.given)
    assert (first.height, last.height) == pytest.approx(
        (-math.sqrt(RADIUS**2 - 300.0**2), -math.sqrt(RADIUS**2 - 650.0**2)), abs=0.1
    )


def test_a_curve_that_leaves_the_skin_or_lacks_a_number_is_said() -> None:
    off = of(CURVE, tube(curve_at=(2500.0, 2600.0), curve_to=(-300.0, -900.0)))
    assert codes(off.findings) == ["curve-off"]
    assert all(place.height > -RADIUS - 1.0 for place in off.places)
    lacks = of(CURVE, tube(curve_at=(2500.0, 2600.0), curve_to=(-300.0,)))
    assert (codes(lacks.findings), lacks.places) == (["curve-points"], ())


# -- outer stem, keel strip, transom --------------------------------------------------------------------------


def test_an_outer_stem_is_let_in_as_wide_as_the_skins_are_apart() -> None:
    """Wigley's stem is upright with no siding, and the planking comes in at atan(2B/L (1 - (z/T)²))."""
    length, beam, draft = WIGLEY
    job = change(Job(offsets=wigley()), "trim", wanted=True)
    job = change(job, "outer", stems=True, let_in=12.0, face_head=3.0, face_foot=2.0, screws=100.0)
    outer = of(OUTER, job)
    assert len(outer.stems) == 2
    for stem in outer.stems:
        assert (stem.lamination.count, stem.lamination.springback) == (1, 0.0)
        tall = stem.places[-1].along
        assert stem.screws == math.ceil(tall / 100.0 - 1e-9) + 1
        for place in stem.places:
            slope = 2 * beam / length * (1 - (place.height / draft) ** 2)
            if slope < 0.1:
                continue
            assert place.back == pytest.approx(2 * 12.0 * slope, abs=0.25)
            assert place.planking == pytest.approx(math.degrees(math.atan(slope)), abs=0.4)
            assert place.side == pytest.approx(math.degrees(math.atan2(place.back - place.face, 80.0)), abs=0.01)


def test_a_face_wider_than_what_is_let_in_and_a_hull_without_stems_are_said() -> None:
    job = change(Job(offsets=wigley()), "trim", wanted=True)
    wide = of(OUTER, change(job, "outer", stems=True, let_in=1.0, face_foot=60.0, face_head=60.0))
    assert set(codes(wide.findings)) == {"outer-stem-wide"}
    assert codes(of(OUTER, change(tube(), "outer", stems=True)).findings) == ["no-outer-stem"]


def test_a_keel_strip_is_as_long_as_the_keel_and_laminated_by_its_bend() -> None:
    """The lowest line of a cone is straight."""
    keel = of(KEEL, change(cone(), "outer", keel=True, screws=250.0))
    assert keel.length == pytest.approx(math.hypot(LENGTH, 300.0), rel=1e-5)
    assert (keel.laminations, keel.each) == (1, 10.0)
    assert keel.screws == math.ceil(keel.length / 250.0) + 1


def test_planks_of_a_round_transom_cover_it_with_joints_clear_of_its_corners() -> None:
    """A half disc of the inside's radius: a plank is as long as the chord at its upper edge, where it is widest."""
    job = change(tube(crown=0.0), "outer", planks=True, plank=200.0, clear=25.0)
    both = of(PLANKS, job)
    assert codes(both.findings) == []
    assert [own.name for own in both.transoms] == ["transom", "bow transom"], "a tube has one at either end"
    assert [plank.width for plank in both.transoms[0].planks] == pytest.approx([p.width for p in both.transoms[1].planks], abs=0.1)
    made = both.transoms[0]
    assert len(made.planks) == 4
    assert sum(plank.width for plank in made.planks) == pytest.approx(INSIDE_RADIUS, abs=0.5)
    for plank in made.planks:
        down = RADIUS - plank.high  # its foot is the planking's
        assert plank.length == pytest.approx(2 * math.sqrt(INSIDE_RADIUS**2 - down**2), abs=1.0)
        assert plank.width <= 200.0
    assert made.splines == pytest.approx(sum(p.length for p in made.planks[:-1]), abs=3.0)
    assert [plank.heart_aft for plank in made.planks] == [True, False, True, False]


def test_a_joint_is_moved_clear_of_the_sheer_corner_under_a_crown() -> None:
    """Planks of 344 would have a joint just at the sheer's corner, 700 up: under a crown of 60 it is moved 40 clear of that."""
    job = change(tube(crown=60.0), "outer", planks=True, plank=688.0 / 2, clear=40.0)
    made = of(PLANKS, job).transoms[0]
    joints = [plank.high for plank in made.planks[:-1]]
    assert made.planks[-1].high == pytest.approx(RADIUS + 60.0, abs=0.5)
    assert all(abs(joint - RADIUS) >= 40.0 - 0.5 for joint in joints)
    assert all(plank.width <= 688.0 / 2 + 1e-6 for plank in made.planks)


def test_waste_at_the_head_is_left_above_the_crown_and_nowhere_else() -> None:
    job = change(tube(crown=60.0), "outer", planks=True, plank=344.0)
    plain, more = (of(PLANKS, change(job, "outer", head_waste=waste)).transoms[0] for waste in (0.0, 15.0))
    assert more.outline[:, 1].max() - plain.outline[:, 1].max() == pytest.approx(15.0, abs=0.01)
    assert more.planks[-1].high == pytest.approx(RADIUS + 75.0, abs=0.5)
    low = [shapely.intersection(shapely.Polygon(own.outline), shapely.box(-900, -1, 900, RADIUS - 1.0)) for own in (plain, more)]
    assert low[0].symmetric_difference(low[1]).area < 1.0


def test_a_transom_without_boards_or_a_hull_without_a_transom_is_said() -> None:
    assert codes(of(PLANKS, change(tube(), "outer", planks=True)).findings) == ["transom-boards"] * 2
    pipit = change(change(demo_job("pipit"), "trim", wanted=True), "outer", planks=True)
    assert codes(of(PLANKS, pipit).findings) == ["no-transom"]


def test_knees_turn_by_the_ends_of_a_tube_and_their_form_allows_for_springback() -> None:
    """A tube's ends stand square on its keel; a knee of n laminations gives back 1/n² of its turn."""
    job = change(tube(), "outer", knees=True, knee_radius=200.0, knee_molded=40.0, knee_leg=300.0, ratio=20.0)
    for knee in of(KNEES, job).knees:
        assert knee.angle == pytest.approx(90.0, abs=0.1)
        assert (knee.laminations, knee.each) == (4, 10.0)
        assert knee.form_angle == pytest.approx(180.0 - 90.0 * 16 / 15, abs=0.1)
        assert knee.length == pytest.approx(600.0 + math.pi / 2 * 240.0, abs=0.5)
    tight = of(KNEES, change(job, "outer", knee_radius=15.0))
    assert (tight.knees, codes(tight.findings)) == ((), ["knee-tight", "knee-tight"])


# -- before the molds come out ---------------------------------------------------------------------------------


def test_spalls_are_as_long_as_the_hull_is_wide_and_molds_go_between_them_first() -> None:
    own = of(RELEASE, change(tube(), "release", wanted=True, spalls=(900.0, 2100.0), past=60.0))
    assert [spall.station for spall in own.spalls] == [900.0, 2100.0]
    for spall in own.spalls:
        assert (spall.beam, spall.length) == pytest.approx((2 * RADIUS, 2 * RADIUS + 120.0), abs=0.1)
        assert spall.spring is None  # nothing is known of strips
    when = {going.station: going.when for going in own.molds}
    assert [when[x] for x in (1200.0, 1500.0, 1800.0)] == ["first"] * 3
    assert [when[x] for x in (900.0, 2100.0)] == ["then"] * 2
    assert [when[x] for x in (300.0, 600.0, 2400.0, 2700.0)] == ["last"] * 4


def test_a_tube_of_layers_springs_open_by_its_bend_over_their_number_squared() -> None:
    """From keel to sheer a quarter circle turns by 90°; let go by a share s of its bend the sheer moves out by s times the sum of
    R cos a over all its turns: s R."""
    job = change(tube(), "veneers", layers=(Layer(thickness=3.0), Layer(thickness=3.0), Layer(thickness=3.0)))
    own = of(RELEASE, change(job.in_step(), "release", wanted=True))
    for spall in own.spalls:
        assert spall.spring == pytest.approx(RADIUS / 9, rel=0.03)


def test_spalls_off_the_hull_and_one_alone_are_said() -> None:
    own = of(RELEASE, change(tube(), "release", wanted=True, spalls=(1500.0, 9000.0)))
    assert codes(own.findings) == ["no-spall", "one-spall"]


@pytest.mark.parametrize(("weight", "hands"), [(10.0, 2), (51.0, 3), (100.0, 4), (100.1, 5)])
def test_so_many_people_lift_it(weight: float, hands: int) -> None:
    assert lift(weight, Job()).hands == hands


# -- inside ----------------------------------------------------------------------------------------------------


def test_a_sole_in_a_tube_is_a_rectangle_with_an_even_bevel() -> None:
    height, gap = -400.0, 4.0
    job = change(tube(), "inside", sole=True, height=height, begins=500.0, ends=2500.0, gap=gap)
    sole = of(INSIDE, job).sole
    half = math.sqrt((INSIDE_RADIUS - gap) ** 2 - height**2)
    assert sole.edge[:, 1] == pytest.approx(half, abs=0.05)
    assert sole.bevels == pytest.approx(math.degrees(math.atan2(-height, half)), abs=0.05)
    assert sole.area == pytest.approx(2 * half * 2000.0, rel=1e-4)
    assert [place.station for place in sole.places] == pytest.approx(np.arange(600.0, 2401.0, 300.0))
    assert sole.edge[[0, -1], 0] == pytest.approx([500.0, 2500.0])


def test_a_sole_in_a_cone_widens_with_it() -> None:
    """Square to its skin a cone's inside is a cone again, whose sections are thicker by 1 / cos of the half-angle."""
    job = change(cone(), "inside", sole=True, height=-200.0, begins=400.0, ends=2600.0, gap=0.0)
    for place in of(INSIDE, job).sole.places:
        radius = 400.0 + 300.0 * place.station / LENGTH - SKIN / math.cos(LEAN)
        assert place.half == pytest.approx(math.sqrt(radius**2 - 200.0**2), abs=0.1)
        normal = np.array([-math.sin(LEAN), math.cos(LEAN) * place.half / radius, -math.cos(LEAN) * 200.0 / radius])
        wanted = math.degrees(math.atan2(-normal[2], math.hypot(normal[0], normal[1])))
        assert place.bevel == pytest.approx(wanted, abs=0.1)


def test_a_sole_above_the_sheer_is_said() -> None:
    own = of(INSIDE, change(tube(), "inside", sole=True, height=500.0))
    assert (own.sole, codes(own.findings)) == (None, ["no-sole"])


def test_bulkheads_fit_inside_a_cone_with_their_gap() -> None:
    own = of(INSIDE, change(cone(), "inside", bulkheads=(700.0, 1900.0, 9999.0), gap=3.0))
    assert codes(own.findings) == ["no-bulkhead"]
    for bulkhead in own.bulkheads:
        radius = 400.0 + 300.0 * bulkhead.station / LENGTH - (SKIN + 3.0) / math.cos(LEAN)
        assert np.hypot(*bulkhead.edge.points.T) == pytest.approx(radius, abs=0.05)
        assert bulkhead.bevel == pytest.approx(math.degrees(LEAN), abs=0.1)


def test_stringers_of_a_tube_run_straight_and_are_notched_where_they_lie() -> None:
    job = change(tube(), "inside", stringers=(0.5,), stringer_width=30.0)
    (stringer,) = of(INSIDE, job).stringers
    assert stringer.length == pytest.approx(LENGTH, rel=1e-4)  # to both ends, not to the last whole step
    assert stringer.behaviour.push < 1.0
    for notch in stringer.notches:
        assert notch.from_keel == pytest.approx(0.5 * math.pi / 2 * INSIDE_RADIUS, abs=0.5)
        assert notch.from_keel + notch.from_sheer == pytest.approx(math.pi / 2 * INSIDE_RADIUS, abs=0.5)
        assert notch.wide == pytest.approx(30.0, abs=0.05)


def test_stringers_of_a_cone_run_to_its_point() -> None:
    """By itself wood lies along a generator: it stays at one angle round the cone."""
    (stringer,) = of(INSIDE, change(cone(), "inside", stringers=(0.4,))).stringers
    angle = np.arctan2(stringer.line[:, 1], -stringer.line[:, 2])
    assert angle == pytest.approx(0.4 * math.pi / 2, abs=0.002)
    assert stringer.length == pytest.approx(math.hypot(LENGTH, 300.0), rel=1e-4)


def test_a_glassed_joint_by_a_hand_sum() -> None:
    """Two plies of 300 g/m²: 0.3 / 2.54 / 0.35 = 0.337 mm each; 75 and 51 mm wide on both faces: 0.252 m² a metre, 75.6 g of
    resin."""
    joint = of(INSIDE, change(tube(), "inside", sole=True, height=-300.0)).joint
    assert joint.deep == pytest.approx(2 * 0.3375, abs=0.001)
    assert joint.plies == (75.0, 51.0)
    assert (joint.cloth, joint.resin) == pytest.approx((0.252, 75.6))


def test_the_crown_of_a_transom_stands_on_the_higher_face_too() -> None:
    """The sheer of Linnet rises aft through the thickness of her transom: its top plank covers the crown of either face."""
    job = change(change(demo_job("linnet"), "outer", planks=True), "trim", wanted=True, crown=50.0)
    results = Pipeline().results(job, [PLANKS, SHEER, HULL])
    piece = transom(results[HULL], job.molds.skin, job.molds.thickness)
    tops = []
    for face in (piece.after, piece.forward):
        half, top = face[np.argmax(face[:, 1])]
        crown = crown_at(2 * half, 50.0, results[SHEER].beam, job.trim.rule)
        tops.append(top + crown / math.cos(piece.rake))
    assert abs(tops[0] - tops[1]) > 1.0, "they differ"
    (made,) = results[PLANKS].transoms
    assert made.outline[:, 1].max() == pytest.approx(max(tops), abs=0.01)
    assert made.planks[-1].high == pytest.approx(max(tops), abs=0.01)
