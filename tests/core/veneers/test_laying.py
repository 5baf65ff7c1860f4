"""What laying veneers takes, how seams of neighbouring layers lie, and sheets. Truth: hand sums on a tube."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, Layer
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import HANDLING, PLANKING
from hollow_keel.core.results import Results
from hollow_keel.core.rules import GLUE_KG_PER_L
from hollow_keel.core.settings.veneer_choices import Direction, Hold
from hollow_keel.core.settings.woods import WOODS
from hollow_keel.core.stock.stages import PIECES as STRIP_PIECES
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.stock.used_up import WEIGHS
from hollow_keel.core.veneers.find import layers_to_try, reasons, search, weigh
from hollow_keel.core.veneers.layer_plan import LayerPlan
from hollow_keel.core.veneers.laying import Laying
from hollow_keel.core.veneers.order import order_of
from hollow_keel.core.veneers.sheets import lay_on_sheets, parts_of
from hollow_keel.core.veneers.stages import LAYERS, LAYING, SEAMS
from hollow_keel.demo.jobs import sedge
from hollow_keel.drawing.veneers.mesh import laid_mesh
from tests.shapes import round_hull

RADIUS, LENGTH = 700.0, 3000.0
SQUARE = Layer(direction=Direction.ACROSS, thickness=4.0)


def tube(*layers: Layer, **laying: object) -> Job:
    job = Job(offsets=round_hull(lambda _: RADIUS, np.linspace(0.0, LENGTH, 11)))
    job = change(job, "veneers", layers=layers, past_sheer=0.0, past_transom=0.0)
    return change(job, "laying", **laying).in_step()


def results_of(job: Job) -> Results:
    return Pipeline().results(job, [LAYERS, LAYING, SEAMS])


def laying_of(job: Job) -> Laying:
    return results_of(job)[LAYING]


def test_glue_and_weight_follow_from_areas() -> None:
    """Two layers of 4 mm over a quarter tube each side: glue between them alone, wood of 360 kg/m³ (western redcedar)."""
    laying = laying_of(tube(SQUARE, SQUARE))
    inner, outer = ((RADIUS - deep) * math.pi / 2 * LENGTH / 1e6 * 2 for deep in (6.0, 2.0))
    assert [own.glue for own in laying.layers] == pytest.approx([0.0, 250.0 * outer], rel=1e-3)
    assert [own.weight for own in laying.layers] == pytest.approx([360.0 * 0.004 * a for a in (inner, outer)], rel=1e-3)
    assert laying.weight == pytest.approx(360.0 * 0.004 * (inner + outer) + 0.25 * outer, rel=1e-3)


def test_strips_under_veneers_are_glued_to_and_weighed() -> None:
    job = change(tube(SQUARE), "veneers", over_strips=True).in_step()
    laying = laying_of(change(job, "strips", wood="Sitka spruce"))
    area = (RADIUS - 2.0) * math.pi / 2 * LENGTH / 1e6 * 2
    assert laying.layers[0].glue == pytest.approx(250.0 * area, rel=1e-3)
    assert laying.strips == pytest.approx(450.0 * job.strips.thickness / 1000.0 * area, rel=1e-3)


def test_staples_are_counted_in_rows_and_come_out_again() -> None:
    """Square across a tube veneers are 100 mm wide and a quarter of its round long: two rows 75 mm apart, a staple every 75 mm."""
    job = tube(SQUARE, SQUARE, staples_stay=True)
    plans = results_of(job)[LAYERS]
    laying = laying_of(job)
    for plan, own in zip(plans, laying.layers, strict=True):
        whole = [v for v in plan.veneers if v.width > 99.0]
        ends = [v for v in plan.veneers if v.width <= 99.0]
        a_veneer = 2 * (int((RADIUS - plan.depth) * math.pi / 2 / 75.0) + 1)
        rest = sum((int(v.width // 75.0) + 1) * (int(v.length // 75.0) + 1) for v in ends)
        assert own.staples == 2 * (len(whole) * a_veneer + rest)
    assert [own.pulled for own in laying.layers] == [laying.layers[0].staples, 0]
    assert laying_of(tube(SQUARE, SQUARE)).layers[1].pulled == laying.layers[1].staples


def test_a_bagged_layer_takes_a_bag_and_no_staples() -> None:
    bagged = SQUARE.model_copy(update={"hold": Hold.BAGGED})
    (own,) = laying_of(tube(bagged, bag_more=25.0)).layers
    assert (own.staples, own.pulled, own.scrap) == (0, 0, 0.0)
    assert own.bag == pytest.approx(1.25 * 2 * (RADIUS - 2.0) * math.pi / 2 * LENGTH / 1e6, rel=1e-3)


def test_glue_that_is_open_too_long_is_said() -> None:
    """45 minutes at 20 °C are 22.5 at 30; a veneer of 60 minutes, two fifths of them wet, keeps it open for 24."""
    job = change(tube(SQUARE, minutes=60.0), "stock", used_up=tube().stock.used_up.model_copy(update={"temperature": 30.0}))
    laying = laying_of(job)
    assert (laying.open_time, laying.spread) == pytest.approx((22.5, 24.0))
    assert [f.code for f in laying.findings] == ["open-time"]
    assert laying_of(tube(SQUARE)).findings == ()


def _overlap(sheeted_cuts: list[tuple[float, float, float, float]]) -> bool:
    for k, (x, y, long, wide) in enumerate(sheeted_cuts):
        for a, b, length, width in sheeted_cuts[k + 1 :]:
            if x < a + length and a < x + long and y < b + width and b < y + wide:
                return True
    return False


def test_sheets_hold_every_veneer_once_and_apart() -> None:
    job = tube(Layer(angle=45.0))
    (plan,) = results_of(job)[LAYERS]
    sheeted = lay_on_sheets(plan, job.laying, job.stock.joints)
    cuts = sheeted.cuts
    for v in plan.veneers:
        for port in (False, True):
            own = [c for c in cuts if c.veneer == v.number and c.port == port]
            assert sum(c.length for c in own) == pytest.approx(v.length)
    for k in range(sheeted.sheets):
        on = [(c.along, c.across, c.length, c.width) for c in cuts if c.sheet == k]
        assert on
        assert not _overlap(on)
        for x, y, long, wide in on:
            assert x + long <= job.laying.sheet_length + 1e-6
            assert y + wide <= job.laying.sheet_width + 1e-6
    area = sum(c.length * c.width for c in cuts)
    assert sheeted.sheets >= area / (job.laying.sheet_length * job.laying.sheet_width)


def test_veneers_longer_than_a_sheet_are_butted() -> None:
    spiling = [[0.0, 50.0], [1000.0, 100.0], [2000.0, 80.0], [3000.0, 20.0]]
    assert parts_of(spiling, 3000.0, 100.0, ()) == [(0.0, 3000.0, 100.0)]
    assert parts_of(spiling, 3000.0, 100.0, (2000.0,)) == [(0.0, 2000.0, 100.0), (2000.0, 1000.0, 80.0)]
    job = tube(Layer(direction=Direction.ALONG), sheet_length=2000.0)
    laying = laying_of(job)
    (plan,) = results_of(job)[LAYERS]
    (sheeted,) = laying.sheeted
    assert laying.layers[0].joints == sum(cut.start > 0 for cut in sheeted.cuts) >= 2 * len(plan.veneers)  # 3000 mm each
    assert max(cut.length for cut in sheeted.cuts) <= 2000.0


def test_butts_of_neighbours_are_as_far_apart_as_joints_of_strips() -> None:
    """On a tube layers fore and aft run straight: places along one are places along its neighbours."""
    job = tube(Layer(direction=Direction.ALONG), sheet_length=2500.0)
    assert job.stock.joints.stagger == 600.0
    (sheeted,) = laying_of(job).sheeted
    (plan,) = results_of(job)[LAYERS]
    butts = {v.number: sorted({c.start for c in sheeted.cuts if c.veneer == v.number and c.start > 0}) for v in plan.veneers}
    assert all(butts.values())
    apart = [abs(a - b) for number in butts for back in (1, 2) for a in butts[number] for b in butts.get(number - back, ())]
    assert min(apart) >= 600.0 - 1.0
    assert sheeted.butts.apart == pytest.approx(min(apart), abs=1.0)
    assert all(c.length >= job.stock.joints.least_piece - 0.01 for c in sheeted.cuts)
    assert not [f for f in laying_of(job).findings if f.code == "butts-near"]
    short = tube(Layer(direction=Direction.ALONG), sheet_length=900.0)
    assert [f.code for f in laying_of(short).findings] == ["butts-near"]


def test_veneers_wider_than_their_sheets_are_said() -> None:
    laying = laying_of(tube(Layer(direction=Direction.ALONG, width=200.0), sheet_width=150.0))
    assert laying.sheeted[0].too_wide
    assert laying.layers[0].used == 0.0  # not known of sheets that do not take them all
    assert [f.code for f in laying.findings] == ["sheet-narrow"]


def test_sheets_on_hand_are_not_bought() -> None:
    need = laying_of(tube(SQUARE)).buy
    assert laying_of(tube(SQUARE, sheets_have=need - 3)).buy == 3
    assert laying_of(tube(SQUARE, sheets_have=need + 3)).buy == 0


def test_seams_of_layers_that_run_the_same_way_are_kept_apart() -> None:
    """On a tube two layers fore and aft with one master have their seams in one place; moved by half a width they are as far apart
    as that."""
    along = Layer(direction=Direction.ALONG, width=100.0, thickness=3.0)
    seams = results_of(tube(along, along))[SEAMS]
    (pair,) = seams.neighbours
    assert pair.parallel
    assert pair.together > 0.9
    assert [f.code for f in seams.findings] == ["seams-together"]
    moved = along.model_copy(update={"shift": 50.0})
    seams = results_of(tube(along, moved))[SEAMS]
    (pair,) = seams.neighbours
    assert pair.nearest == pytest.approx(50.0, abs=4.0)  # all but the widths that a deeper round is shorter by
    assert seams.findings == ()


def test_opposed_diagonals_cross_where_sines_say() -> None:
    (pair,) = results_of(tube(Layer(angle=30.0), Layer(angle=-30.0)))[SEAMS].neighbours
    assert not pair.parallel
    assert pair.angle == 60.0
    assert pair.crossings == pytest.approx(100.0 / math.sin(math.radians(60.0)))


def test_on_a_tube_no_zone_limits_the_width() -> None:
    zones = results_of(tube(Layer(angle=45.0)))[SEAMS].zones
    assert [z.name for z in zones] == ["bow third", "middle third", "stern third"]
    assert all(z.by_strain > 1500.0 for z in zones)
    assert all(z.spiled < 0.01 for z in zones[1:2])


def _shown(plans: tuple[LayerPlan, ...], *, peeled: bool) -> list[float]:
    """The area of each layer that a mesh shows, mm²."""
    mesh = laid_mesh(plans, peeled=peeled, along=81)
    corner = mesh.points[mesh.quads]
    areas = np.linalg.norm(np.cross(corner[:, 2] - corner[:, 0], corner[:, 3] - corner[:, 1]), axis=1) / 2
    layer = np.repeat(np.arange(len(plans)), [len(p.veneers) for p in plans])[mesh.strip - 1]
    return [float(areas[layer == k].sum()) for k in range(len(plans))]


def test_layers_are_peeled_back_one_by_one() -> None:
    plans = results_of(tube(SQUARE, Layer(direction=Direction.ALONG, thickness=4.0)))[LAYERS]
    whole = [2 * plan.area for plan in plans]
    assert _shown(plans, peeled=False) == pytest.approx(whole, rel=2e-3)
    inner, outer = _shown(plans, peeled=True)
    assert inner == pytest.approx(whole[0], rel=2e-3)
    assert outer == pytest.approx(whole[1] / 2, rel=0.03)


def test_the_inmost_seams_are_drawn_whole_and_others_where_nothing_lies_over_them() -> None:
    """Of three layers of a tube the second lies bare from a third to two thirds of it; the first is seen from inside all along."""
    plans = results_of(tube(*(Layer(direction=Direction.ALONG) for _ in range(3))))[LAYERS]
    low, high = (float(f(plans[0].veneers[0].outline[:, 0])) for f in (np.min, np.max))
    third = (high - low) / 3
    seams = laid_mesh(plans, peeled=True, along=121).seams
    one = np.repeat([0, 1, 2], [len(plan.veneers) for plan in plans])
    for layer, (start, end) in enumerate([(low, high), (low + third, low + 2 * third), (low + 2 * third, high)]):
        x = seams[np.concatenate([one, one]) == layer][:, :, 0]
        assert (x.min(), x.max()) == pytest.approx((start, end), abs=(high - low) / 60)


def test_veneers_go_on_both_ways_and_on_both_sides_in_turn() -> None:
    (plan,) = results_of(tube(SQUARE))[LAYERS]
    turns = order_of(plan)
    assert len(turns) == 2 * len(plan.veneers)
    assert [(t.veneer.number, t.port) for t in turns[:2]] == [(plan.first, False), (plan.first, True)]
    steps = [t.veneer.number - plan.first for t in turns[::2]]
    assert sorted(steps) == [n + 1 - plan.first for n in range(len(plan.veneers))]
    assert {abs(steps[1]), abs(steps[2])} == {1}
    assert [abs(s) for s in steps] == sorted(abs(s) for s in steps)


def test_the_search_prefers_what_is_not_overstrained_and_wastes_least() -> None:
    """Across a tube all the same is cut off whatever the width but at its ends; wider veneers are fewer, so they are better; those
    that would be bent past what clamps do come last."""
    job = tube(SQUARE)
    hull = Pipeline().results(job, [HULL])[HULL]
    told: list[float] = []
    ways = list(search(hull, job.veneers, 1, 1.0, 140.0, told.append))
    assert told[-1] == pytest.approx(1.0)
    assert ways[0].layer == SQUARE
    assert max(way.layer.width for way in ways) == 140.0
    best = min(ways, key=lambda way: way.order)
    assert best.count <= ways[0].count
    assert best.overstrained == 0
    thick = tube(SQUARE.model_copy(update={"thickness": 40.0}))
    hard = weigh(hull, thick.veneers, 1, thick.veneers.layers[0], None)
    assert hard.overstrained > 0
    assert hard.order > best.order
    assert "overstrained" in reasons(best, hard)
    assert reasons(best, best).startswith("Nothing")


def test_angles_are_tried_on_the_same_diagonal() -> None:
    tries = layers_to_try(Layer(angle=-50.0, width=100.0), 1.0, 300.0)
    assert {layer.angle for layer in tries} == {-50.0, -45.0, -60.0, -30.0}
    assert {layer.width for layer in tries} == {100.0, 150.0, 125.0, 80.0, 65.0}
    assert {layer.angle for layer in layers_to_try(SQUARE, 1.0, 300.0)} == {SQUARE.angle}


@pytest.mark.parametrize("over", [False, True])
def test_the_wood_and_the_veneers_add_up_to_the_same(over: bool) -> None:
    """One weight and one glue: what *Stock* lists is what *Veneers* says, with cloth and coats over it; strips as they are sawn."""
    job = change(sedge(), "veneers", over_strips=over).in_step()
    results = Pipeline().results(job, [STOCK, LAYING, STRIP_PIECES])
    laying, listed = results[LAYING], {item.what: item.amount for item in results[STOCK].items}
    assert listed["Glue between layers, mixed"] == pytest.approx(laying.glue / 1000.0)
    used = job.stock.used_up
    by_face = (("outside", used.cloth_out), ("inside", used.cloth_in))
    cloth = sum(
        listed[f"Cloth {face}"] * weight / 1000 + listed[f"Resin, mixed, for cloth {face}"] + listed[f"Filler coat {face}"]
        for face, weight in by_face
    )
    strips = 0.0
    for need in results[STRIP_PIECES].needs:
        section = need.section
        strips += need.length * section.width * section.thickness / 1e9 * WOODS[section.wood].density
        strips += need.length * section.thickness * used.glue_line / 1e6 * GLUE_KG_PER_L
    assert listed[WEIGHS] == pytest.approx(laying.weight - laying.strips + strips + cloth, rel=1e-6)
    assert ("Glue, mixed" in listed) == over, "without strips no seam of theirs is glued"


def test_a_hull_of_veneers_alone_is_not_warned_of_strips() -> None:
    job = sedge()
    planking = Pipeline().results(job, [PLANKING, HANDLING, LAYING])
    assert any(f.stage == "veneers" for f in planking.findings)
    assert not any(f.stage == "planking" for f in planking.findings)
    over = Pipeline().results(change(job, "veneers", over_strips=True).in_step(), [PLANKING, HANDLING])
    assert any(f.stage == "planking" for f in over.findings)
