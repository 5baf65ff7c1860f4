"""Strips over decks that unroll: a cylinder and a cone; openings, steps, the join, and how molds come out."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from scipy import integrate

from hollow_keel.core.change import change
from hollow_keel.core.deck.join import Join
from hollow_keel.core.deck.openings import Openings, step_between
from hollow_keel.core.deck.outlines import outline, template
from hollow_keel.core.deck.strip_stages import (
    DECK_BEHAVIOURS,
    DECK_JOIN,
    DECK_OPENINGS,
    DECK_PLAN,
    DECK_STRIP_ENDS,
    DECK_TICKS,
    WAYS_OUT,
)
from hollow_keel.core.deck.strips import DeckPlan
from hollow_keel.core.deck.way_out import WayOut
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.hull.stages import DECK
from hollow_keel.core.job import DeckSettings, Job, MoldSettings, Opening, StripEdge, StripSettings, Zone
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.crossings import planed_off
from hollow_keel.core.planking.stages import TICKS
from hollow_keel.core.settings.deck_choices import CamberRule, DeckFrom, DeckGuide, DeckLayout, JoinKind, OpeningShape
from hollow_keel.core.settings.strip_choices import Course
from hollow_keel.demo.jobs import demo_job

from ..hull.test_deck_surface import arc, box, with_deck

HALF, CROWN, LENGTH = 300.0, 60.0, 3000.0
RADIUS = (HALF**2 + CROWN**2) / (2 * CROWN)
GIRTH = RADIUS * math.asin(HALF / RADIUS)
STATIONS = (750.0, 1500.0, 2250.0)


def cylinder(**settings: object) -> Job:
    """A box under a deck that is an arc of a circle all along: a cylinder."""
    heights = {x: arc(HALF, CROWN, 250.0, 16) for x in np.linspace(0, LENGTH, 9).tolist()}
    deck = DeckSettings(width=20.0, thickness=5.0, skin=5.0, **settings)
    return Job(offsets=with_deck(box(), heights), waterline=100.0, molds=MoldSettings(stations=STATIONS, skin=6.0), deck=deck)


def planned(job: Job) -> DeckPlan:
    plan: DeckPlan = Pipeline().results(job, [DECK_PLAN])[DECK_PLAN]
    return plan


@pytest.mark.parametrize("guide", [DeckGuide.SHEER, DeckGuide.CENTRE])
def test_a_cylinder_unrolls(guide: DeckGuide) -> None:
    """Strips along it are straight and as long as it; as many as its half girth takes, the last narrower."""
    strips = planned(cylinder(guide=guide)).planking.strips
    assert len(strips) == math.ceil(GIRTH / 20.0)
    assert [s.length for s in strips] == pytest.approx([LENGTH] * len(strips), rel=5e-4)
    assert max(s.max_edge_set for s in strips) < 1e-5 * 1e-3
    assert strips[-1].width_max == pytest.approx(GIRTH - 20.0 * (len(strips) - 1), abs=0.05)


def test_both_edges_leave_a_closing_seam() -> None:
    strips = planned(cylinder(guide=DeckGuide.BOTH)).planking.strips
    assert sum(s.width_max for s in strips) == pytest.approx(GIRTH, rel=5e-3)
    assert {s.course.value for s in strips} == {"up", "down"}


def test_a_cone_unrolls() -> None:
    """A deck in proportion over a sheer that spreads from a point is a cone: unrolled, strips from the sheer are straight, and
    every one is cut by the centreline at the angle of the sector, w / sin(angle) farther along than the one before."""
    taper = 0.1
    table = box(150.0, taper=taper)
    deck = DeckSettings(source=DeckFrom.CAMBER, crown=80.0, rule=CamberRule.PROPORTION, width=20.0, guide=DeckGuide.SHEER)
    job = Job(offsets=table, waterline=100.0, molds=MoldSettings(stations=STATIONS), deck=deck)
    plan = planned(job)
    most, crown = 150 + taper * LENGTH, 80.0
    apex = -150 / taper

    def direction(s: float) -> np.ndarray:
        """From the apex to a point of the last section."""
        return np.array([LENGTH - apex, most * s, crown * (1 - s * s)])

    def turned(s: float) -> float:
        """How fast the ruling turns with s, radians."""
        d = direction(s)
        ds = np.array([0.0, most, -2 * crown * s])
        return float(np.linalg.norm(np.cross(d, ds)) / (d @ d))

    sector = integrate.quad(turned, 0, 1)[0]
    ended = [s for s in plan.planking.strips if s.far and s.far[0].starts == "centreline" and s.far[-1].ends == "transom"]
    assert len(ended) > 4
    starts = [np.linalg.norm(s.far[0].points[0] - [apex, 0, 250.0]) for s in ended]
    assert np.diff(starts) == pytest.approx(np.full(len(starts) - 1, 20.0 / math.sin(sector)), rel=2e-3)
    cuts = Pipeline().results(job, [DECK_STRIP_ENDS])[DECK_STRIP_ENDS]
    inner = [cuts[s.number][0] for s in ended[2:]]
    assert [cut.across for cut in inner if cut] == pytest.approx([math.degrees(sector)] * len(inner), abs=0.3)
    area = sum(shapely.Polygon(np.concatenate([s.near[0].points[:, :2], s.far[0].points[::-1, :2]])).area for s in ended if s.near)
    assert area > 0


def test_a_king_plank_takes_its_width() -> None:
    strips = planned(cylinder(king_width=80.0)).planking.strips
    under = RADIUS * math.asin(40.0 / RADIUS)
    assert len(strips) == math.ceil((GIRTH - under) / 20.0)
    assert strips[-1].width_max == pytest.approx(GIRTH - under - 20.0 * (len(strips) - 1), abs=0.1)


def test_a_king_plank_that_tapers_is_narrower_at_its_ends() -> None:
    plan = planned(cylinder(king_width=80.0, king_at_ends=40.0))
    edge = plan.surface.panels[-1].surface.points(np.linspace(0, 1, 61), np.ones(61))
    wanted = 40.0 - 20.0 * np.abs(edge[:, 0] - LENGTH / 2) / (LENGTH / 2)
    assert edge[:, 1] == pytest.approx(wanted, abs=0.5)


def test_tapered_strips_all_run_through() -> None:
    strips = planned(cylinder(layout=DeckLayout.TAPERED)).planking.strips
    assert [s.width_max for s in strips] == pytest.approx([GIRTH / len(strips)] * len(strips), abs=0.05)


def test_ticks_come_at_even_steps_on_the_mold() -> None:
    """On the mold's own face, 5 mm under the deck, a strip takes its share of the smaller radius; the corner lies 6 mm inside the
    sheer's upright side, so the first tick's distance is less by what lies beyond it."""
    ticks = Pipeline().results(cylinder(), [DECK_TICKS])[DECK_TICKS]["2"]
    inner = RADIUS - 5.0
    assert [t.width for t in ticks[2:-1]] == pytest.approx([20.0 * inner / RADIUS] * len(ticks[2:-1]), abs=0.1)
    corner = math.asin((HALF - 6.0) / inner)
    assert ticks[-1].inner == pytest.approx(corner * inner, abs=0.2)


def test_a_strip_wider_than_the_deck_is_refused() -> None:
    job = cylinder()
    wide = job.model_copy(update={"deck": job.deck.model_copy(update={"width": 400.0})})
    with pytest.raises(ImpossiblePlan, match="wider than half the deck"):
        planned(wide)


# -- openings -----------------------------------------------------------------------------------------------------


def opened(*openings: Opening, **settings: object) -> Openings:
    found: Openings = Pipeline().results(cylinder(openings=openings, **settings), [DECK_OPENINGS])[DECK_OPENINGS]
    return found


@pytest.mark.parametrize(
    ("opening", "area"),
    [
        (Opening(length=800, width=400), math.pi * 400 * 200),
        (Opening(shape=OpeningShape.EGG, length=800, width=400, forward=0.4), math.pi * 400 * 200),
        (Opening(shape=OpeningShape.RECTANGLE, length=800, width=400, corner=50), 800 * 400 - (4 - math.pi) * 50**2),
        (Opening(shape=OpeningShape.DRAWN, drawn=((0, 0), (300, 0), (0, 200))), 30_000),
    ],
)
def test_outlines_have_the_area_of_their_shape(opening: Opening, area: float) -> None:
    """Two half ellipses have the area of one whose half-length is their mean; a rounded rectangle lacks (4 - pi) r²."""
    assert outline(opening).area == pytest.approx(area, rel=1e-3)
    grown = template(opening)
    assert shapely.hausdorff_distance(grown.exterior, outline(opening).exterior) >= opening.largest - 0.1


def test_an_egg_is_widest_ahead_of_its_middle() -> None:
    shape = np.asarray(outline(Opening(shape=OpeningShape.EGG, at=1000, length=800, width=400, forward=0.4)).exterior.coords)
    assert shape[np.argmax(shape[:, 1]), 0] == pytest.approx(1000 - 0.4 * 400, abs=1.0)
    assert (shape[:, 0].min(), shape[:, 0].max()) == pytest.approx((600, 1400), abs=0.2)


def test_strips_stop_short_of_a_rectangle_by_plane_arithmetic() -> None:
    """An opening 800 long and 240 wide in the middle: strips whose whole width lies within 110 mm of the centreline (10 less than
    half) save 800 less twice 10, on both sides."""
    (made,) = opened(Opening(shape=OpeningShape.RECTANGLE, at=1500, length=800, width=240, corner=0)).openings
    inside = [k + 1 for k in range(math.ceil(GIRTH / 20)) if RADIUS * math.sin((GIRTH - 20 * k) / RADIUS) <= 110.0]
    assert made.interrupted == tuple(inside)
    assert {cut.side for cut in made.cut_short} == {"port", "starboard"}
    assert [cut.saved for cut in made.cut_short] == pytest.approx([780.0] * len(made.cut_short), abs=LENGTH / 400 * 2.1)
    assert made.saved == pytest.approx(2 * len(inside) * 780, rel=0.02)


def test_an_opening_off_the_centreline_takes_one_side() -> None:
    (made,) = opened(Opening(name="hatch", at=800, off=150, length=300, width=160)).openings
    assert {cut.side for cut in made.cut_short} == {"starboard"}
    assert made.step is None


def test_its_rim_lies_on_the_deck() -> None:
    (made,) = opened(Opening(at=1500, length=800, width=400)).openings
    rim = made.rim
    assert np.hypot(rim[:, 1], rim[:, 2] - (250 + CROWN - RADIUS)) == pytest.approx(RADIUS, abs=0.01)

    def speed(t: float) -> float:
        y = 200 * math.sin(t)
        dz = -y / math.sqrt(RADIUS**2 - y**2) * 200 * math.cos(t)
        return math.sqrt((400 * math.sin(t)) ** 2 + (200 * math.cos(t)) ** 2 + dz**2)

    assert made.rim_length == pytest.approx(integrate.quad(speed, 0, 2 * math.pi)[0], rel=1e-3)


@pytest.mark.parametrize(
    ("opening", "word"),
    [
        (Opening(at=1500, width=700), "reaches"),
        (Opening(at=9000), "not lie on the deck"),
        (Opening(shape=OpeningShape.DRAWN, drawn=((1500, 0), (1700, 100), (1500, 100), (1700, 0))), "crosses itself"),
    ],
)
def test_an_opening_that_cannot_be_is_said_and_the_others_stay(opening: Opening, word: str) -> None:
    found = opened(opening, Opening(name="hatch", at=2500, length=200, width=200))
    assert len(found.openings) == 1
    assert word in found.findings[0].text


def test_a_drawn_opening_needs_three_points() -> None:
    with pytest.raises(InputError, match="three points"):
        outline(Opening(shape=OpeningShape.DRAWN, drawn=((0, 0), (1, 1))))


def test_the_step_by_hand() -> None:
    """330 ahead and 300 astern with strips of 20 that may narrow to 8: 17 strips; 30 apart in all; half a strip, 10, after
    17 x 10 / 30 = 5.67: by the sixth; 30 / 12 = 2.5: three, each 20 - 10 = 10 wide astern."""
    step = step_between(330.0, 300.0, 20.0, 8.0)
    assert (step.apart, step.strips, step.shows_at, step.tapered) == (30.0, 17, 6, 3)
    assert (step.narrow, step.narrow_end) == (pytest.approx(10.0), "astern")
    other = step_between(300.0, 330.0, 20.0, 8.0)
    assert (other.apart, other.narrow_end) == (-30.0, "ahead")
    assert step_between(300.0, 300.0, 20.0, 8.0).tapered == 0


def test_the_step_of_a_cone_and_a_cylinder() -> None:
    """Crown in proportion: ahead the deck is a cone, astern a cylinder. Half-girths by the parabola's arc length at both ends of
    the opening; the step is their difference, to a tenth of a millimetre."""
    stations = np.linspace(0, LENGTH, 25)

    def half(x: float) -> float:
        return 200 + 0.1 * min(x, 1500.0)

    rows = []
    for k, x in enumerate(stations.tolist()):
        part = box(half(x)).rows
        label = "transom" if k in (0, 24) else ""
        own = [r for r in part if r.label == "transom" and r.station == 0.0]
        names = ["keel", "wl", "wl", "wl", "sheer"]
        rows += [r.model_copy(update={"station": x, "label": label or names[j]}) for j, r in enumerate(own)]
    job = cylinder()
    opening = Opening(at=1200, length=1200, width=120)
    deck = DeckSettings(
        source=DeckFrom.CAMBER, crown=90.0, crown_on=700.0, rule=CamberRule.PROPORTION, width=20.0, openings=(opening,)
    )
    job = job.model_copy(update={"offsets": job.offsets.model_copy(update={"rows": tuple(rows)}), "deck": deck})
    (made,) = Pipeline().results(job, [DECK_OPENINGS])[DECK_OPENINGS].openings

    def girth(x: float) -> float:
        b = half(x)
        c = 90.0 * b / 350.0
        return integrate.quad(lambda y: math.sqrt(1 + (2 * c * y / b**2) ** 2), 0, b)[0]

    assert made.step is not None
    assert made.step.apart == pytest.approx(girth(600.0) - girth(1800.0), abs=0.1)
    assert made.step.narrow_end == "ahead"


# -- the join -----------------------------------------------------------------------------------------------------


def test_the_join_of_an_upright_side_and_an_arc() -> None:
    """The side stands upright and the arc slopes at its edge by asin(half / radius): the angle between the outsides is a right one
    and that slope more."""
    join: Join = Pipeline().results(cylinder(), [DECK_JOIN])[DECK_JOIN]
    slope = math.asin(HALF / RADIUS)
    assert [p.angle for p in join.places] == pytest.approx([math.pi / 2 + slope] * len(join.places), abs=0.002)
    assert [p.bevel for p in join.places] == pytest.approx([(math.pi / 2 - slope) / 2] * len(join.places), abs=0.002)
    assert join.length == pytest.approx(LENGTH, rel=1e-6)
    assert join.bands == pytest.approx(4 * LENGTH, rel=1e-6)
    assert join.cloth == pytest.approx(4 * 3.0 * 0.075, rel=1e-6)


def test_a_deck_let_into_the_hull() -> None:
    """By plane geometry at 112.6 degrees (a right angle and asin(300/780)): the floor lies 22.6 degrees off square, and a deck of
    5 takes 5 / sin(112.6 degrees) = 5.417 down the side."""
    join: Join = Pipeline().results(cylinder(join=JoinKind.RECESS), [DECK_JOIN])[DECK_JOIN]
    slope = math.asin(300 / 780)
    assert [p.bevel for p in join.places] == pytest.approx([slope] * len(join.places), abs=0.002)
    assert [p.deep for p in join.places] == pytest.approx([5 / math.cos(slope)] * len(join.places), rel=2e-3)


# -- molds ----------------------------------------------------------------------------------------------------------


def ways(job: Job) -> list[WayOut]:
    return [out.way for out in Pipeline().results(job, [WAYS_OUT])[WAYS_OUT]]


def test_in_a_box_no_mold_gets_past_its_like_and_all_come_out_broken() -> None:
    """Each is 588 by 298 or so: alike, so none is moved past another whole; halved it is 294 wide and an opening 800 long takes
    it, one of 200 neither that nor a quarter of it."""
    assert ways(cylinder(openings=(Opening(at=1500, length=800, width=400),))) == [WayOut.HALVES] * 3
    assert ways(cylinder(openings=(Opening(at=1500, length=160, width=140),))) == [WayOut.QUARTERS] * 3
    assert ways(cylinder(openings=(Opening(at=1500, length=100, width=100),))) == [WayOut.NOT] * 3
    assert ways(cylinder()) == [WayOut.NOT] * 3


def test_a_small_mold_near_the_end_comes_out_whole() -> None:
    """A box that spreads: the mold at 400 is 182 to a side, the next 270; both are as deep, but the crown of the wider one is
    60 (270/334)² against 60 (182/334)², 21 mm more to raise the small one into. At the opening nothing is larger than the mold
    itself."""
    table = box(150.0, taper=0.08)
    deck = DeckSettings(source=DeckFrom.CAMBER, crown=60.0, openings=(Opening(at=2300, length=900, width=300),))
    job = Job(offsets=table, waterline=100.0, molds=MoldSettings(stations=(400.0, 1500.0, 2300.0)), deck=deck)
    assert ways(job)[0] is WayOut.WHOLE
    assert ways(job)[2] is not WayOut.WHOLE


def test_bead_and_cove_planes_nothing_off() -> None:
    """Square edges lose t tan of the turn; a bead turns in its cove."""
    strips = StripSettings(thickness=6.0)
    turn = math.radians(5.0)
    assert planed_off(turn, strips, 1) == pytest.approx(6.0 * math.tan(turn))
    assert planed_off(turn, strips.model_copy(update={"edge": StripEdge.BEAD_COVE}), 1) == 0.0
    job = change(demo_job("linnet"), "strips", edge=StripEdge.BEAD_COVE)
    rows = [row for own in Pipeline().value(job, TICKS).values() for row in own]
    assert {row.planed for row in rows} <= {0.0, None}
    assert any(row.bevel for row in rows)


def test_deck_strips_are_bevelled_by_the_turn_of_the_arc() -> None:
    """From one strip to the next an arc of radius R turns by w / R; the edge loses the thickness times its tangent."""
    job = cylinder(guide=DeckGuide.SHEER, zones=(Zone(first=3, last=4, thickness=8.0),))
    ticks = Pipeline().results(job, [DECK_TICKS])[DECK_TICKS]
    assert len(ticks) == len(STATIONS)
    for rows in ticks.values():
        for row in rows[1:-3]:
            assert row.bevel == pytest.approx(20.0 / RADIUS, rel=0.02)
            thick = 8.0 if row.number in (3, 4) else 5.0
            assert row.planed == pytest.approx(thick * math.tan(row.bevel))
        assert rows[-1].bevel is None


def test_deck_strips_that_differ_have_their_own_width_and_wood() -> None:
    zones = (Zone(first=2, last=3, width=35.0, wood="Douglas-fir"),)
    results = Pipeline().run(cylinder(guide=DeckGuide.CENTRE, zones=zones))
    strips = results[DECK_PLAN].planking.strips
    assert [s.width_max for s in strips[:4]] == pytest.approx([20.0, 35.0, 35.0, 20.0], abs=0.05)
    woods = [results[DECK_BEHAVIOURS][s.number].wood for s in strips[:4]]
    assert woods[1:3] == ["Douglas-fir"] * 2
    assert woods[0] == woods[3] == "western redcedar"
    assert sum(s.width_max for s in strips) == pytest.approx(GIRTH, rel=5e-3)


def test_so_many_strips_come_from_the_sheer_and_the_rest_from_the_centreline() -> None:
    strips = planned(cylinder(guide=DeckGuide.BOTH, sheer_strips=4)).planking.strips
    up = [s for s in strips if s.course is Course.UP]
    assert len(up) == 4
    assert [s.width_max for s in up] == pytest.approx([20.0] * 4, abs=0.05)
    assert sum(s.width_max for s in strips) == pytest.approx(GIRTH, rel=5e-3)


def test_openings_that_crowd_each_other_or_the_edge_are_said() -> None:
    def codes(*openings: Opening) -> list[str]:
        found: Openings = Pipeline().results(cylinder(openings=openings), [DECK_OPENINGS])[DECK_OPENINGS]
        return [f.code for f in found.findings]

    own = Opening(name="cockpit", at=1200.0, length=800.0, width=300.0, largest=20.0)
    assert codes(own, Opening(name="hatch", at=2400.0, length=300.0, width=200.0)) == []
    assert "openings-overlap" in codes(own, Opening(name="hatch", at=1650.0, length=300.0, width=200.0))
    beside = Opening(name="hatch", at=1770.0, length=300.0, width=200.0, largest=20.0)
    assert "openings-overlap" in codes(own, beside), "their largest templates meet"
    wide = Opening(name="cockpit", at=1500.0, length=800.0, width=580.0, largest=30.0)
    assert codes(wide) == ["template-outside"]


def test_a_king_plank_wider_than_the_deck_is_refused() -> None:
    with pytest.raises(ImpossiblePlan, match="wider than the deck"):
        planned(cylinder(king_width=700.0))


def test_a_deck_that_comes_to_the_part_line_off_the_sheer_is_said() -> None:
    def codes(more: float) -> list[str]:
        rows = {x: arc(HALF, CROWN, 250.0 + more, 16) for x in np.linspace(0, LENGTH, 9).tolist()}
        return [f.code for f in Pipeline().value(Job(offsets=with_deck(box(), rows)), DECK).findings]

    assert "deck-off-sheer" not in codes(0.0)
    assert "deck-off-sheer" in codes(25.0)
    assert "deck-off-sheer" in codes(-25.0)
    assert not [f for f in Pipeline().value(demo_job("teasel"), DECK).findings if f.code == "deck-off-sheer"]
