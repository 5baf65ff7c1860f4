"""Single figures checked by hand sums: molds whose edge is a straight line or a quarter circle, strips that are rectangles."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from hollow_keel.core.geometry.arrays import Array
from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.geometry.tangents import arc_slopes, fair_slopes
from hollow_keel.core.hull.build import Panel, build_hull
from hollow_keel.core.hull.hydro import _largest
from hollow_keel.core.hull.raked_ends import _shapes
from hollow_keel.core.hull.table_lines import table_lines
from hollow_keel.core.hull.unsettled import PLACES, _drawn, _section
from hollow_keel.core.job import MasterLine
from hollow_keel.core.molds.bevels import bevel_calls
from hollow_keel.core.molds.ends import Transom
from hollow_keel.core.molds.fittings import gussets
from hollow_keel.core.molds.pieces import _beam_findings
from hollow_keel.core.molds.shape import MoldEdge, _above_centreline, _Edge, _longest_run, _normal_du
from hollow_keel.core.molds.stand import stand_of
from hollow_keel.core.molds.stations import Face, Mold
from hollow_keel.core.molds.transom_mold import transom_mold
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable, read_lines
from hollow_keel.core.planking.faces import AREA_ALONG, SQUARE, area_of, faces
from hollow_keel.core.planking.mechanics import Handling, StripSection, _mend
from hollow_keel.core.planking.plank import Laying, _to_the_bilge, plank
from hollow_keel.core.rules import CLEAR_OF_BEVEL_MM, GUSSET_HIGH_MM, RIB_DEEP_MM, RIBS_UP, SET_BACK_MM, TRANSOM_LEG_MM
from hollow_keel.core.settings.molds import MoldSettings
from hollow_keel.core.settings.setup import SetupSettings, Strongback
from hollow_keel.core.settings.strip_choices import Guide
from hollow_keel.core.settings.woods import WOODS
from hollow_keel.core.setup.beam import _room
from hollow_keel.demo.jobs import linnet


def mold(points: Array, narrowing: Array | None = None) -> Mold:
    lean = np.zeros(len(points)) if narrowing is None else narrowing
    return Mold("1", 1000.0, Face.FORWARD, 18.0, MoldEdge(1000.0, points, lean, None, ()))


def round_mold(radius: float = 500.0) -> Mold:
    """A half circle, open side up, its sheer at height 0."""
    angle = np.linspace(0.0, np.pi / 2, 181)
    return mold(np.column_stack([radius * np.sin(angle), -radius * np.cos(angle)]))


def test_bevels_are_called_at_even_steps_of_the_edge_itself() -> None:
    """An edge from (0, 0) to (300, 400), 500 long: 250 along it lies (150, 200), square to it (-0.8, 0.6)."""
    edge = mold(np.array([[0.0, 0.0], [150.0, 200.0], [300.0, 400.0]]), np.radians([-10.0, -20.0, -30.0]))
    calls = bevel_calls(edge, 125.0)
    assert [call.along for call in calls] == [0.0, 125.0, 250.0, 375.0, 500.0]
    assert [call.degrees for call in calls] == pytest.approx([10.0, 15.0, 20.0, 25.0, 30.0])
    assert calls[2].at.tolist() == pytest.approx([150.0, 200.0])
    assert calls[3].at.tolist() == pytest.approx([225.0, 300.0])
    assert calls[2].inward.tolist() == pytest.approx([-0.8, 0.6])


def test_a_plate_over_the_butt_ends_below_the_sheer() -> None:
    """The upper plate of two halves: its top so far below the sheer's height (0) as it is set back, its own height below that."""
    settings = MoldSettings(halves=True, gussets=True, beyond_sheer=0.0)
    setup = SetupSettings(strongback=Strongback.RAILS, leg_spread=200.0)
    plates = {plate.name: plate.outline for plate in gussets(round_mold(), settings, setup, 400.0)}
    assert set(plates) == {"foot", "head"}
    assert plates["head"][:, 1].max() == pytest.approx(-SET_BACK_MM)
    assert plates["head"][:, 1].min() == pytest.approx(-SET_BACK_MM - GUSSET_HIGH_MM)


@pytest.mark.parametrize("spread", [201.0, 333.0])
def test_legs_stand_as_far_apart_as_is_said(spread: float) -> None:
    setup = SetupSettings(strongback=Strongback.RAILS, leg_spread=spread, leg_width=60.0)
    stand = stand_of(round_mold(), setup, 400.0)
    assert stand is not None
    assert stand.outside == spread / 2
    assert stand.inside == spread / 2 - 60.0


def test_room_round_a_beam_is_measured_where_it_passes_the_mold() -> None:
    """A triangle from (0, 0) to (400, 400): beside a beam 100 broad whose lower face lies at 150 there are 150 - 50 = 100 of wood,
    and 150 below it; a beam half below the keel leaves nothing, however broad the mold is above."""
    edge = mold(np.column_stack([np.linspace(0, 400, 9), np.linspace(0, 400, 9)]))
    setup = SetupSettings(strongback=Strongback.BEAM, beam_width=100.0, beam_height=120.0)
    room = _room(edge, setup, np.array([150.0, 120.0, -60.0]))
    assert room.tolist() == pytest.approx([100.0, 70.0, -60.0])


def test_a_beam_that_misses_says_by_how_much() -> None:
    """A mold between heights 0 and 300; the beam's hole, 5 round it, from 400 to 530: the beam begins at 405, 105 above."""
    whole = shapely.box(-200, 0, 200, 300)
    setup = SetupSettings(beam_clearance=5.0)
    (finding,) = _beam_findings(round_mold(), setup, whole, shapely.box(-60, 400, 60, 530))
    assert "misses this mold by \u27e8105\u27e9" in finding.text
    (below,) = _beam_findings(round_mold(), setup, whole, shapely.box(-60, -130, 60, -20))
    assert "misses this mold by \u27e825\u27e9" in below.text


def test_an_edge_is_cut_on_the_centreline_itself() -> None:
    """From (-30, 10) to (50, 42) it crosses at 3/8: height 22, and the lean three eighths of the way from 0.1 to 0.5."""
    edge = _Edge(np.array([[-60.0, 0.0], [-30.0, 10.0], [50.0, 42.0], [90.0, 90.0]]), np.array([0.0, 0.1, 0.5, 0.6]))
    cut = _above_centreline(edge)
    assert cut.points.tolist() == [[0.0, 22.0], [50.0, 42.0], [90.0, 90.0]]
    assert cut.narrowing.tolist() == pytest.approx([0.25, 0.5, 0.6])


def test_the_largest_section_lies_between_the_stations() -> None:
    """Areas on the parabola 9 - (x - 2.3)² at whole x: 9, though no station is there; at an end that station's own."""
    x = np.arange(5.0)
    assert _largest(np.column_stack([x, 9 - (x - 2.3) ** 2])) == pytest.approx(9.0)
    assert _largest(np.column_stack([x, 9 - x])) == 9.0
    assert _largest(np.column_stack([x, 5 + x])) == 9.0


def test_shares_of_a_section_make_it_again() -> None:
    """A quarter circle as shares of the way from its foot to its top gives itself back for the same way, and is turned and scaled
    with another; also where it has no breadth to be a share of (the way goes straight up)."""
    angle = np.linspace(0.0, np.pi / 2, 7)
    for bulge in (1.0, -0.4):
        quarter = np.column_stack([np.sin(angle), 1 - np.cos(angle)]) * 300.0
        upright = np.column_stack([bulge * 90.0 * np.sin(2 * angle), np.linspace(0.0, 300.0, 7)])
        for section in (quarter, upright):
            shares, back = _shapes(section[None])
            way = section[-1] - section[0]
            assert back(shares, way[None])[0] == pytest.approx(section - section[0], abs=1e-9)
            assert back(shares, 2 * way[None])[0] == pytest.approx(2 * (section - section[0]), abs=1e-9)


def test_places_of_a_cell_lie_on_its_cubic() -> None:
    """Points of a straight line give it back at the asked shares; points of a parabola are met at their own places."""
    straight = np.column_stack([np.zeros(4), [0.0, 3.0, 6.0, 12.0], [0.0, 4.0, 8.0, 16.0]])
    drawn = _drawn(straight, fair_slopes(straight))
    for cell, (low, high) in enumerate(zip(straight[:-1], straight[1:], strict=True)):
        for place, share in zip(drawn[cell], PLACES, strict=True):
            assert place.tolist() == pytest.approx((low + share * (high - low)).tolist())


def test_points_of_a_straight_station_settle_it_and_those_of_a_sharp_bend_do_not() -> None:
    straight = np.column_stack([np.zeros(5), np.linspace(0, 300, 5), np.linspace(0, 400, 5)])
    assert _section(1000.0, straight, ()).by == pytest.approx(0.0, abs=1e-9)
    bent = straight.copy()
    bent[2, 1] += 60.0
    open_ = _section(1000.0, bent, ())
    assert open_.by > 1.0
    assert math.hypot(open_.half_breadth - bent[2, 1], open_.height - bent[2, 2]) < 260.0
    one, other = _drawn(bent, fair_slopes(bent)), _drawn(bent, arc_slopes(bent))
    square = [  # the cross product with the chord: what lies along it tells nothing
        np.abs(chord[1] * off[:, 2] - chord[2] * off[:, 1]).max() / np.linalg.norm(chord)
        for chord, off in zip(np.diff(bent, axis=0), other - one, strict=True)
    ]
    assert open_.by == pytest.approx(max(square))
    told = open_.places
    assert told[:, 2].max() == pytest.approx(open_.by), "the worst of its places is the one that is said"
    assert np.count_nonzero(told[:, 2] == 0.0) >= 5, "its own points are told"


@pytest.mark.parametrize(("grade", "push", "word"), [(Handling.CLAMPS, 800.0, "by hand"), (Handling.HEAT, 4000.0, "with clamps")])
def test_a_narrower_strip_goes_on_one_grade_easier(grade: Handling, push: float, word: str) -> None:
    """The push goes with the cube of the width: eight times what a hand (100 N) or a clamp (500 N) gives wants half the width."""
    section = StripSection(40.0, 8.0, next(iter(WOODS.values())), 400.0, 100.0, 500.0)
    row = np.array([1000.0, 1e-5, 1e-4, push, 0.0, 0.1])
    assert _mend(grade, row, 40.0, section).startswith(f"\u27e820\u27e9 wide it goes on {word}")
    assert _mend(Handling.HAND, row, 40.0, section) == ""


def test_a_normal_turns_along_the_hull_as_its_difference_says() -> None:
    """The derivative that the molds' edges are solved with, against differences of the unit normal itself."""
    surface = build_hull(read_lines(linnet().offsets)).panels[0].surface
    u, v = np.linspace(0.15, 0.85, 8), np.linspace(0.1, 0.9, 8)
    step = 1e-5
    jet = surface.jet(u, v)
    told = _normal_du(jet, jet.normal)
    ahead, behind = surface.jet(u + step, v).normal, surface.jet(u - step, v).normal
    assert told == pytest.approx((ahead - behind) / (2 * step), rel=1e-4, abs=1e-4)


def test_only_strips_that_lie_beside_each_other_are_measured_the_quick_way() -> None:
    """A strip whose ends are far apart has its area by facing places; one of even width the same both ways, to 0.2 %."""
    job = linnet()
    hull = build_hull(read_lines(job.offsets))
    askew = even = 0
    for guide in (Guide.SHEER, Guide.MASTER):
        laid = plank(hull, Laying(14.0, guide, master=MasterLine(height=300.0)))
        for strip in laid.strips:
            if len(strip.near) != 1 or len(strip.far) != 1:
                continue
            near, far = strip.near[0].points, strip.far[0].points
            apart = max(np.linalg.norm(near[0] - far[0]), np.linalg.norm(near[-1] - far[-1]))
            quick, slow = area_of(strip, laid), sum(face.area for face in faces(strip, laid, AREA_ALONG))
            if apart > SQUARE * strip.width_max:
                askew += 1
                assert quick == slow
            else:
                even += 1
                assert quick == pytest.approx(slow, rel=2e-3)
                assert quick != slow or len(near) < 5, "it is measured another way"
    assert even > 20
    assert askew > 2


def test_the_bilge_is_where_the_section_turns_most_outward() -> None:
    """A section 1000 long that turns up by a quarter 520 from the keel, and back by an eighth, more sharply, at 830:
    the bilge is ten strips of 50 from the keel."""
    along = np.linspace(0.0, 1000.0, 2001)

    def turning(about: float, over: float, turn: float) -> Array:
        off = np.clip((along - about) / over, -0.5, 0.5)
        return turn / over * (1 + np.cos(2 * math.pi * off))

    heading = np.cumsum(turning(520.0, 240.0, math.pi / 2) - turning(830.0, 80.0, math.pi / 4)) * 0.5
    section = np.cumsum(np.column_stack([np.cos(heading), np.sin(heading)]), axis=0)[::20] * 0.5
    grid = np.stack([np.column_stack([np.full(len(section), x), section]) for x in np.linspace(0.0, 3000.0, 9)])
    assert _to_the_bilge(Panel(TensorSurface(grid), "keel", "sheer"), 50.0) == 10


def test_a_strip_that_fails_by_edge_set_is_not_told_to_be_thinner() -> None:
    """Strained by edge-set more than by bend: narrower helps, and half the thickness would not."""
    section = StripSection(40.0, 8.0, next(iter(WOODS.values())), 400.0, 100.0, 500.0)
    for bend, edge, thinner in ((0.0005, 0.003, False), (0.003, 0.0005, True)):
        share = (bend + edge) / section.wood.breaks
        said = _mend(Handling.HEAT, np.array([0.0, bend, edge, 0.0, 0.0, share]), 40.0, section)
        assert ("half thicknesses" in said) == thinner
        assert ("wide it goes" in said or "half widths" in said) != thinner


def test_a_table_by_lines_has_keel_chine_and_sheer_as_they_were_written() -> None:
    rows = [
        OffsetRow(station=x, label=label, half_breadth=out * x / 4000.0 + 20.0, height=up)
        for x in (1000.0, 2000.0, 3000.0, 4000.0)
        for label, out, up in (("keel", 0.0, 0.0), ("wl", 300.0, 90.0), ("chine", 500.0, 160.0), ("sheer", 600.0, 520.0))
    ]
    found = dict(table_lines(read_lines(OffsetsTable(rows=tuple(rows)))))
    assert len(found) == 4
    for row in rows:
        if row.label != "wl":
            assert found[row.station][f"{row.label} height"] == pytest.approx(row.height)
            assert found[row.station][f"{row.label} half-breadth"] == pytest.approx(row.half_breadth)


def test_the_longest_of_several_runs_is_taken() -> None:
    marks = "..###.####..##"
    assert _longest_run(np.array([mark == "#" for mark in marks])) == (6, 9)
    assert _longest_run(np.array([mark == "#" for mark in "####.#"])) == (0, 3)


def test_ribs_of_a_bent_transom_lie_on_its_round() -> None:
    """As far from its middle all along, as wide round the bend as the face is there, less what the bevel takes."""
    half = np.array([[0.0, 0.0], [260.0, 100.0], [300.0, 500.0]])
    made = transom_mold(Transom(half, half, half, np.zeros(3), 0.2, radius=900.0), None)
    assert made.board is None
    assert [rib.up for rib in made.ribs] == pytest.approx([share * 500.0 for share in RIBS_UP])
    for rib in made.ribs:
        arc, back = rib.outline[:-2], rib.outline[-2:]
        assert np.hypot(arc[:, 0], arc[:, 1] + 900.0) == pytest.approx(900.0)
        turn = math.atan2(arc[-1, 0], arc[-1, 1] + 900.0)
        wide = 260.0 + 40.0 * (rib.up - 100.0) / 400.0 if rib.up > 100.0 else 2.6 * rib.up
        assert turn * 900.0 == pytest.approx(wide - CLEAR_OF_BEVEL_MM)
        assert arc[0] == pytest.approx(arc[-1] * [-1.0, 1.0])
        assert back[:, 0] == pytest.approx([arc[-1, 0], arc[0, 0]])
        assert back[:, 1] == pytest.approx(arc[:, 1].min() - RIB_DEEP_MM)


def test_the_board_for_a_transom_is_its_face_less_the_bevel_and_alike_on_both_sides() -> None:
    half = np.array([[0.0, 0.0], [150.0, 40.0], [300.0, 200.0], [320.0, 400.0], [0.0, 430.0]])
    face = Transom(half, half, half, np.zeros(5), 0.2)
    board = transom_mold(face, None).board
    whole = shapely.Polygon(np.concatenate([half, half[-2:0:-1] * [-1.0, 1.0]]))
    own = shapely.Polygon(board)
    assert own.symmetric_difference(whole.buffer(-CLEAR_OF_BEVEL_MM)).area == pytest.approx(0.0, abs=1e-6)
    legs = shapely.Polygon(transom_mold(face, 700.0).board)
    assert legs.bounds == pytest.approx((own.bounds[0], own.bounds[1], own.bounds[2], 700.0))
    feet = shapely.intersection(legs, shapely.LineString([(-500.0, 650.0), (500.0, 650.0)]))
    out, half = 0.6 * own.bounds[2], TRANSOM_LEG_MM / 2
    assert sorted(p[0] for part in feet.geoms for p in part.coords) == pytest.approx(
        [-out - half, -out + half, out - half, out + half]
    )
    mirrored = shapely.transform(legs, lambda places: places * [-1.0, 1.0])
    assert legs.symmetric_difference(mirrored).area == pytest.approx(0.0, abs=1e-6)
