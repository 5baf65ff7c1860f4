"""The stock plan of whole jobs: Linnet's added up by hand, what to buy, what is used up, what is cut, and poor input."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from scipy.optimize import Bounds, LinearConstraint, milp

from hollow_keel.app.exports import export_named
from hollow_keel.app.overrides import apply_override
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.findings import Weight
from hollow_keel.core.job import Job, Zone
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Results
from hollow_keel.core.settings.timber import (
    Board,
    BuyingSettings,
    JointKind,
    JointSettings,
    RipWay,
    SawSettings,
    StockSettings,
    UsedUpSettings,
    Wish,
)
from hollow_keel.core.stock.bought import bought
from hollow_keel.core.stock.cut_already import cut_up_to
from hollow_keel.core.stock.joint_check import least_apart
from hollow_keel.core.stock.plan import StockPlan
from hollow_keel.core.stock.rip import rips
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.stock.used_up import pot_life
from hollow_keel.demo.jobs import linnet, pipit
from tests.shapes import unworked

PIPELINE = Pipeline()


def planned(job: Job) -> StockPlan:
    return PIPELINE.value(job, STOCK)


def with_stock(job: Job, **fields: Any) -> Job:
    return change(job, "", stock=StockSettings(**fields))


def plain(plan: StockPlan) -> list[object]:
    """How every strip that is not cut is put together."""
    assert plan.plan is not None
    return [m.as_cut() for m in plan.plan.made]


def said(plan: StockPlan) -> str:
    return " ".join(f"{f.said().where}: {f.said().text}" for f in plan.findings)


@pytest.fixture(scope="module")
def results() -> Results:
    return PIPELINE.results(unworked(linnet()))


@pytest.fixture(scope="module")
def plan(results: Results) -> StockPlan:
    assert results.stock is not None
    return results.stock


# -- Linnet by hand -----------------------------------------------------------------------------------


def test_linnets_lengths_and_boards_by_hand(results: Results, plan: StockPlan) -> None:
    strips = results.planking.strips
    assert len(plan.needs) == 2 * sum(max(len(s.near), 1) for s in strips)
    assert sum(n.length for n in plan.needs) == pytest.approx(
        2 * sum(s.length + 60 * max(len(s.near), 1) for s in strips), rel=1e-9
    )
    cedar = [n for n in plan.needs if n.section.wood == "western redcedar"]
    assert {n.strip for n in cedar} == {5, 6, 7}
    # 33 mm thick: three of 9 and two kerfs of 2.5 are 32; 147 of 150 wide: eight of 15 and seven kerfs are 137.5
    by_mark = {lot.mark: lot for lot in plan.lots}
    assert [(by_mark[m].rip.blanks, by_mark[m].rip.per_blank) for m in "ABC"] == [(8, 3), (7, 3), (6, 3)]
    assert by_mark["A"].rip.left == pytest.approx((9.5, 1.0))
    assert (by_mark["A"].rip.blank, by_mark["A"].rip.strip) == (15, 9)
    assert by_mark["B"].board.usable == 2700
    assert plan.joint.lost == 64
    have = 4 * 24 * (3600 - 64) + 3 * 21 * (2700 - 64)
    wanted = 1.08 * sum(n.length - 64 for n in plan.needs if n.section.wood == "loblolly pine")
    (lot,) = [lot for lot in plan.lots if lot.bought]
    options = {31.0: 24 * 4136, 20.5: 24 * 2936, 27.5: 9 * 2 * 3836}
    cheapest = min(
        sum(k * p for k, p in zip(counts, options, strict=True))
        for counts in itertools.product(range(6), repeat=3)
        if have + sum(k * g for k, g in zip(counts, options.values(), strict=True)) >= wanted
    )
    assert plan.cost == cheapest == lot.count * lot.board.price


def test_linnets_wood_adds_up(plan: StockPlan) -> None:
    made = plan.plan
    assert made is not None
    assert not made.missing
    stock = {
        f"{lot.mark}{board}.{k}": lot.board.usable
        for lot in plan.lots
        for board in range(1, lot.count + 1)
        for k in range(1, lot.rip.count + 1)
    }
    taken: dict[str, list[float]] = {}
    for own in made.made:
        assert sum(p.length for p in own.pieces) - 64 * len(own.joints) == pytest.approx(own.need.length)
        for piece in own.pieces:
            taken.setdefault(piece.stick.rstrip("*"), []).append(piece.length)
    for name, cuts in taken.items():
        assert sum(cuts) + 2.5 * (len(cuts) - 1) <= stock[name] + 1e-6
    assert made.used == pytest.approx(sum(stock[name] for name in taken))
    net = sum(n.length for n in plan.needs)
    assert made.lost == 64 * made.joints
    assert made.used == pytest.approx(net + made.lost + made.scrap + sum(s.length for s in made.left))
    assert not [m for m in made.made if m.apart < 1]
    apart = least_apart(made, plan.needs, 2)
    assert apart is not None
    assert apart >= 600 - 1e-6
    wood = {n.strip: n.section.wood for n in plan.needs}
    cedar_sticks = {p.stick[0] for m in made.made if wood[m.need.strip].endswith("redcedar") for p in m.pieces}
    assert cedar_sticks == {"C"}


def test_linnets_glue_cloth_and_weight_by_hand(results: Results, plan: StockPlan) -> None:
    items = {i.what: i.amount for i in plan.items}
    length = sum(n.length for n in plan.needs)
    assert plan.plan is not None
    seams = length * 8 * 0.5 * 1.3 / 1e6
    joints = plan.plan.joints * math.hypot(8, 64) * 14 * 0.5 * 1.3 / 1e6
    assert items["Glue, mixed"] == pytest.approx(seams + joints)
    assert items["Resin for glue"] == pytest.approx((seams + joints) / 1.5 * 1.15)
    assert items["Hardener for glue"] == pytest.approx((seams + joints) / 1.5 * 0.5 * 0.98)
    life = 25 * 2 ** ((20 - 18) / 10)
    assert items["Batches of glue"] == math.ceil(130 / (life / 30))
    area = results.shape.measures.planked_area
    assert items["Cloth outside"] == pytest.approx(1.1 * area)
    assert items["Resin, mixed, for cloth inside"] == pytest.approx(1.1 * area * 0.2)
    assert items["Filler coat inside"] == pytest.approx(area * 0.3)
    crossings = 0
    for strip in results.planking.strips:
        for piece in strip.near:
            x = piece.points[:, 0]
            crossings += 2 * sum(x.min() <= m.station <= x.max() for m in results.shape.molds.molds)
    assert items["Staples, or screws with washers"] == crossings
    edges = sum(np.linalg.norm(np.diff(m.edge.points, axis=0), axis=1).sum() for m in results.shape.molds.molds)
    assert items["Tape for mold edges"] == pytest.approx(2 * edges / 1000)
    wood = sum(n.length * 14 * 8 * (360 if "redcedar" in n.section.wood else 570) for n in plan.needs) / 1e9
    cloth = 2 * (1.1 * area * 0.4 + area * 0.3)
    glue = seams / 1.3 * 1.1
    assert items["The planked shell weighs"] == pytest.approx(wood + cloth + glue)
    assert "Edge screws or dowels" not in items


def test_screws_of_the_long_hull_of_common_practice() -> None:
    """Two edge screws between every pair of molds (common practice, no source)."""
    job = change(unworked(linnet()), "stock.used_up", edge_screws=2, staples=0, tape=False, cloth_out=0, cloth_in=0)
    items = {i.what: i.amount for i in planned(job).items}
    assert set(items) & {"Cloth outside", "Tape for mold edges", "Staples, or screws with washers"} == set()
    planking = PIPELINE.value(job, PLANKING)
    gaps = 0
    for piece in (p for s in planking.strips for p in s.near):
        x = piece.points[:, 0]
        own = sum(x.min() <= m.station <= x.max() for m in PIPELINE.shape(job).molds.molds)
        gaps += max(own - 1, 0)
    assert items["Edge screws or dowels"] == 2 * 2 * gaps


def test_glue_holds_half_as_long_ten_degrees_warmer() -> None:
    assert pot_life(UsedUpSettings(temperature=20)) == 25
    assert pot_life(UsedUpSettings(temperature=30)) == 12.5
    assert pot_life(UsedUpSettings(temperature=10)) == 50


# -- buying -------------------------------------------------------------------------------------------

FOR_SALE = (
    Board(thickness=33, width=150, length=4200, count=0, price=60.0),
    Board(thickness=33, width=150, length=3000, count=0, price=20.0),
)


def test_least_cost_and_least_waste_differ() -> None:
    long = Board(thickness=33, width=150, length=5800, count=0, price=100.0)
    base = with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=(*FOR_SALE, long)))
    base = change(base, "strips", zones=())
    cheap = planned(base)
    assert {p.board.length for p in cheap.purchases} == {3000}
    little = planned(change(base, "stock.buying", wish=Wish.WASTE))
    volume = {w: sum(p.count * p.board.length for p in x.purchases) for w, x in (("cheap", cheap), ("little", little))}
    assert volume["little"] <= volume["cheap"]
    assert little.cost > cheap.cost


def test_what_costs_nothing_is_bought_by_its_wood() -> None:
    free = tuple(b.model_copy(update={"price": 0.0}) for b in FOR_SALE)
    plan = planned(change(with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=free)), "strips", zones=()))
    assert plan.cost == 0
    assert plan.purchases
    assert "None has a price" in said(plan)
    assert plan.plan is not None
    assert not plan.plan.missing


def test_whole_lengths_are_bought_for_strips_without_joints() -> None:
    long = Board(thickness=33, width=150, length=6000, count=0, price=50.0)
    job = change(with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=(long, *FOR_SALE))), "strips", zones=())
    plan = planned(change(job, "stock.joints", kind=JointKind.NONE))
    assert plan.plan is not None
    assert plan.plan.joints == 0
    assert not plan.plan.missing
    assert plan.plan.waste < 0.5
    short = with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=FOR_SALE))
    refused = planned(change(change(short, "strips", zones=()), "stock.joints", kind=JointKind.NONE))
    assert "cannot come in one piece" in said(refused)
    assert refused.plan is None


def test_too_little_for_sale_is_said_with_what_is_missing() -> None:
    few = tuple(b.model_copy(update={"count": 1}) for b in FOR_SALE)
    plan = planned(with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=few)))
    assert "m of strip are missing" in said(plan)
    assert plan.plan is None
    other = tuple(b.model_copy(update={"wood": "oak"}) for b in FOR_SALE)
    assert "Nothing for sale gives strips of" in said(
        planned(with_stock(unworked(linnet()), buying=BuyingSettings(for_sale=other)))
    )


# -- what is on hand, and what is cut -----------------------------------------------------------------


def test_marks_are_never_alike() -> None:
    stock = StockSettings(
        boards=(Board(mark="B"), Board(), Board(mark="B")), buying=BuyingSettings(for_sale=(Board(), Board(mark="A")))
    )
    assert len(set(stock.marks)) == 5
    assert stock.marks[0] == "B"
    assert stock.marks[4] == "A"
    for wrong in ("A1", "a b", "A.", "A*"):
        with pytest.raises(InputError):
            change(Board(), "", mark=wrong)


def test_what_is_cut_stays_when_the_plan_changes() -> None:
    job = unworked(linnet())
    first = planned(job)
    assert first.plan is not None
    stock = cut_up_to(job.stock, first, 10)
    cut = stock.cut
    assert len(cut) == 20
    assert [b.mark for b in stock.boards] == ["A", "B", "C", "D"], "what was bought for them is on hand now"
    same = planned(change(job, "", stock=stock))
    assert first.plan is not None
    assert same.plan is not None
    assert plain(same) == plain(first)[20:], "lists of the rest that are printed stay true"
    assert same.plan.stays == cut
    assert same.plan.joints == first.plan.joints
    net = sum(m.need.length for m in same.plan.made)
    left = sum(stick.length for stick in same.plan.left)
    assert same.plan.used == pytest.approx(net + same.plan.lost + same.plan.scrap + left)
    twenty = planned(change(job, "", stock=cut_up_to(stock, same, 20)))
    assert plain(twenty) == plain(first)[40:]
    after = change(change(job, "", stock=stock), "stock.joints", stagger=500)
    plan = planned(after)
    assert plan.plan is not None
    assert plan.plan.stays == cut
    assert {m.need.strip for m in plan.plan.made} == set(range(11, 66))
    used = {p.stick.rstrip("*"): 0.0 for s in cut for p in s.pieces}
    for made, _ in plan.plan.strips:
        for piece in made.pieces:
            if piece.stick.rstrip("*") in used:
                used[piece.stick.rstrip("*")] += piece.length
    lots = {lot.mark: lot for lot in plan.lots}
    for name, total in used.items():
        assert total <= lots[name[0]].board.usable + 1e-6
    assert any(p.stick in {f"{n}*" for n in used} for m in plan.plan.made for p in m.pieces), "their offcuts are used"
    assert "longer than it was cut" not in said(plan)
    # a board is taken off the list: names stay what was written on the wood
    fewer = change(after, "stock", boards=after.stock.boards[1:])
    assert [lot.mark for lot in planned(fewer).lots if not lot.bought] == ["B", "C", "D"]
    # strips are longer now, and there are fewer of them
    longer = change(after, "strips", allowance=60.0)
    assert "longer than it was cut" in said(planned(longer))
    wide = change(after, "strips", width=200.0, zones=())
    assert "not in the plan any more" in said(planned(wide))


def test_bought_boards_are_on_hand_under_the_same_names() -> None:
    job = unworked(linnet())
    plan = planned(job)
    assert plan.plan is not None
    after = change(job, "", stock=bought(job.stock, plan.lots))
    assert [(b.mark, b.count) for b in after.stock.boards] == [("A", 4), ("B", 3), ("C", 1), ("D", 1)]
    assert len(set(after.stock.marks)) == 7
    again = planned(after)
    assert again.purchases == ()
    assert again.plan is not None
    assert not again.plan.missing
    assert bought(after.stock, again.lots) == after.stock, "nothing more was bought"


def test_sections_share_boards_of_their_wood() -> None:
    job = change(unworked(linnet()), "strips", zones=(Zone(first=1, last=2, thickness=4.0),))
    plan = planned(job)
    assert {(s.thickness, s.wood) for s in plan.sections} == {(4.0, "loblolly pine"), (8.0, "loblolly pine")}
    assert {lot.section.thickness for lot in plan.lots} == {4.0, 8.0}
    boards = [name for lot in plan.lots for name in lot.boards]
    assert len(boards) == len(set(boards)), "no two boards have one name"
    sold = planned(change(job, "", stock=StockSettings(buying=job.stock.buying)))
    bought_boards = [name for lot in sold.lots for name in lot.boards]
    assert len(bought_boards) == len(set(bought_boards))
    assert len({lot.section for lot in sold.lots}) == 2
    assert plan.plan is not None
    assert not plan.plan.missing


# -- poor input ---------------------------------------------------------------------------------------


def test_no_boards() -> None:
    results = PIPELINE.results(with_stock(unworked(linnet())))
    assert results.stock is not None
    assert not [f for f in results.findings if f.stage == "stock"], "an empty list is no fault"
    assert results.stock.items
    with pytest.raises(ImpossiblePlan, match="no boards"):
        export_named("stock-pdf").write(results)


@pytest.mark.parametrize(
    ("board", "words"),
    [
        (Board(thickness=33, width=150, length=60), "no longer than a joint"),
        (Board(thickness=33, width=150, length=3000, faults=2950), "no longer than a joint"),
        (Board(thickness=33, width=150, length=500), "shorter than the least piece"),
        (Board(thickness=6, width=150, length=3000), "too thin or too narrow"),
        (Board(thickness=33, width=150, length=3000, count=2), "cannot be made"),
    ],
)
def test_boards_that_do_not_do(board: Board, words: str) -> None:
    plan = planned(with_stock(unworked(linnet()), boards=(board,)))
    assert words in said(plan)
    assert plan.plan is not None
    assert plan.plan.missing


def test_a_kerf_thicker_than_the_strip_and_joints_nowhere() -> None:
    assert "more wood goes to dust" in said(planned(change(unworked(linnet()), "stock.saw", kerf=9.0)))
    plan = planned(change(unworked(linnet()), "stock.joints", clear_molds=200.0))
    assert plan.plan is None
    assert "No joint can stand anywhere" in said(plan)
    with pytest.raises(ImpossiblePlan, match="No joint can stand"):
        export_named("pieces-csv").write(PIPELINE.results(change(unworked(linnet()), "stock.joints", clear_molds=200.0)))


def test_which_rule_gave_and_by_how_much() -> None:
    boards = (Board(thickness=33, width=150, length=2900, count=8, wood="loblolly pine"),)
    job = change(with_stock(unworked(linnet()), boards=boards), "strips", zones=())
    job = change(job, "stock.joints", least_piece=2000)
    plan = planned(job)
    assert plan.plan is not None
    gave = [m for m in plan.plan.made if m.apart < 1]
    assert gave
    apart = least_apart(plan.plan, plan.needs, 2)
    assert apart is not None
    assert apart < 600
    words = said(plan)
    assert "joints in neighbouring strips stand" in words
    assert (f"only {round(apart)} mm instead of 600 mm" in words) or "not at all, where you wanted 600 mm" in words


def test_overrides_reach_into_the_stock() -> None:
    job = apply_override(unworked(linnet()), "stock.kerf", "1/16in")
    assert job.stock.saw.kerf == pytest.approx(1.5875)
    assert apply_override(job, "stock.joint", "butt").stock.joints.kind is JointKind.BUTT
    with pytest.raises(InputError):
        apply_override(job, "stock.joint", "nails")


# -- written out --------------------------------------------------------------------------------------


def test_pieces_and_buying_list_are_written(results: Results, plan: StockPlan) -> None:
    rows = list(csv.DictReader(io.StringIO(export_named("pieces-csv").write(results).decode())))
    assert plan.plan is not None
    assert len(rows) == 130 + plan.plan.joints
    assert sum(float(r["cut to mm"]) for r in rows) == pytest.approx(
        sum(n.length for n in plan.needs) + plan.plan.lost, abs=0.25 * len(rows)
    )
    buying = export_named("buying-csv").write(results).decode()
    assert "board D: 33.0 × 150.0 × 4200.0, loblolly pine" in buying
    assert f"{plan.cost:.2f}" in buying


def test_stock_and_labels_on_paper(results: Results, plan: StockPlan) -> None:
    pages = [p.extract_text() for p in PdfReader(io.BytesIO(export_named("stock-pdf").write(results))).pages]
    text = "\n".join(pages)
    for words in ("To buy", "board A", "Fence at 15.0 mm", "What else is used up", "starboard", "65 port", "31.00"):
        assert words in text
    assert plan.plan is not None
    labels = PdfReader(io.BytesIO(export_named("labels-pdf").write(results)))
    boards = sum(lot.count for lot in plan.lots)
    assert len(labels.pages) == math.ceil((boards + 130 + plan.plan.joints) / 24)
    assert "24 strips A1.1 to A1.24" in labels.pages[0].extract_text()


def test_plan_file_has_the_stock(results: Results, plan: StockPlan) -> None:
    stock = json.loads(export_named("plan-json").write(results))["stock"]
    assert plan.plan is not None
    assert stock["joints"] == plan.plan.joints
    assert len(stock["pieces"]) == 130
    assert {b["mark"]: b["strips"] for b in stock["boards"]} == {"A": 24, "B": 21, "C": 18, "D": 24}
    assert stock["cost"] == 31.0
    assert stock["waste"]["share"] == pytest.approx(plan.plan.waste, abs=1e-4)
    bare = PIPELINE.results(pipit())
    bare_stock = json.loads(export_named("plan-json").write(bare))["stock"]
    assert "pieces" not in bare_stock
    assert bare_stock["used_up"]


# -- anything at all ----------------------------------------------------------------------------------

SIZES = st.builds(
    Board,
    mark=st.sampled_from(["", "A", "Q"]),
    wood=st.sampled_from(["", "western redcedar", "Sitka spruce"]),
    thickness=st.sampled_from([5.0, 12.0, 19.0, 25.4, 33.0]),
    width=st.sampled_from([20.0, 60.0, 150.0]),
    length=st.sampled_from([50.0, 400.0, 2400.0, 4200.0, 9000.0]),
    count=st.sampled_from([0, 1, 5, 30]),
    faults=st.sampled_from([0.0, 200.0, 5000.0]),
    price=st.sampled_from([0.0, 12.5]),
)
JOINTS = st.builds(
    JointSettings,
    kind=st.sampled_from(list(JointKind)),
    stagger=st.sampled_from([0.0, 300.0, 3000.0]),
    rows=st.integers(0, 4),
    clear_molds=st.sampled_from([0.0, 50.0, 150.0]),
    clear_bends=st.sampled_from([0.0, 300.0]),
    least_piece=st.sampled_from([100.0, 600.0, 2500.0]),
)
SAWS = st.builds(
    SawSettings,
    kerf=st.sampled_from([0.0, 2.5, 12.0]),
    planing=st.sampled_from([0.0, 3.0]),
    jointing=st.sampled_from([0.0, 30.0]),
    way=st.sampled_from(list(RipWay)),
)


@settings(max_examples=25, deadline=None)
@given(st.lists(SIZES, max_size=3), st.lists(SIZES, max_size=2), JOINTS, SAWS)
def test_any_boards_and_wishes_are_planned_or_refused_in_words(
    boards: list[Board], sold: list[Board], joints: JointSettings, saw: SawSettings
) -> None:
    stock = StockSettings(boards=tuple(boards), buying=BuyingSettings(for_sale=tuple(sold)), joints=joints, saw=saw)
    plan = planned(change(pipit(), "", stock=stock))
    if plan.plan is None:
        assert [f for f in plan.findings if f.weight is Weight.STOP and f.text]
        return
    sticks = {f"{b}.{k}": lot.board.usable for lot in plan.lots for b in lot.boards for k in range(1, lot.rip.count + 1)}
    taken: dict[str, list[float]] = {}
    for made in plan.plan.made:
        assert sum(p.length for p in made.pieces) - plan.joint.lost * len(made.joints) == pytest.approx(made.need.length)
        for piece in made.pieces:
            taken.setdefault(piece.stick.rstrip("*"), []).append(piece.length)
        if made.clear == 1.0:
            for joint in made.joints:
                for a, b in made.need.shut:
                    assert joint + plan.joint.lost / 2 <= a + 1e-6 or joint - plan.joint.lost / 2 >= b - 1e-6
    for name, cuts in taken.items():
        assert sum(cuts) + saw.kerf * (len(cuts) - 1) <= sticks[name] + 1e-6
    apart = least_apart(plan.plan, plan.needs, joints.rows)
    if apart is not None and all(m.apart == 1.0 for m in plan.plan.made):
        assert apart >= joints.stagger - 1e-6


def test_strips_that_come_in_one_piece_need_no_joint() -> None:
    """Clear of molds by more than half their spacing leaves no joint: nothing to refuse where whole lengths are there."""
    job = unworked(linnet())
    whole = Board(thickness=20.0, width=200.0, length=6200.0, count=60, wood=job.strips.wood)
    clear = change(change(job, "stock", boards=(whole,), buying=BuyingSettings()), "stock.joints", clear_molds=300.0)
    plan = planned(clear)
    assert plan.plan is not None
    assert plan.plan.joints == 0
    short = change(clear, "stock", boards=(whole.model_copy(update={"length": 3000.0, "count": 200}),))
    (said_of,) = [f.said().text for f in planned(short).findings if f.code == "stock-impossible"]
    assert "less clear" in said_of
    assert "-" not in said_of.split("Keep at least")[1].split("mm")[0], "a length below nothing was asked for once"


def test_one_wood_with_nothing_for_sale_does_not_stop_the_others() -> None:
    job = change(unworked(linnet()), "strips", zones=(Zone(first=1, last=2, wood="Sitka spruce"),))
    plan = planned(job)
    assert plan.plan is not None
    (missing,) = [f for f in plan.findings if f.code == "not-for-sale"]
    assert missing.where == "Sitka spruce"
    assert {m.need.section.wood for m in plan.plan.made} == {job.strips.wood}
    assert {n.section.wood for n in plan.plan.missing} == {"Sitka spruce"}


def test_strips_cut_to_another_width_are_named_with_what_to_do() -> None:
    job = with_stock(unworked(linnet()), boards=(FOR_SALE[0].model_copy(update={"count": 60}),))
    job = change(job, "strips", zones=(), width=28.0)
    job = change(job, "", stock=cut_up_to(job.stock, planned(job), 8))
    assert all((c.width, c.thickness) == (28.0, 8.0) for c in job.stock.cut)
    assert "cut-section" not in {f.code for f in planned(job).findings}
    wider = planned(change(job, "strips", width=29.0))
    (named,) = [f for f in wider.findings if f.code == "cut-section"]
    assert named.where == "strips 1 to 8"
    assert "cut 28 mm by 8 mm, and the plan now counts them as 29 mm by 8 mm" in named.said().text
    narrower = planned(change(job, "strips", width=25.0))
    assert "or rip them to 25 mm" in said(narrower)
    mended = planned(change(job, "strips", width=29.0, zones=(Zone(first=1, last=8, width=28.0),)))
    assert "cut-section" not in {f.code for f in mended.findings}
    old = tuple(c.model_copy(update={"width": None, "thickness": None}) for c in job.stock.cut)
    assert "cut-section" not in {f.code for f in planned(change(job, "stock", cut=old)).findings}


@pytest.mark.parametrize("hand", [0, 5])
def test_least_is_bought_for_whole_lengths(hand: int) -> None:
    """Against a general solver: every way to cut one or two strips, or more, from a stick, whole boards, the kerf at every cut."""
    small = Board(thickness=33, width=60, length=6100, count=0, price=21.0)
    long = Board(thickness=33, width=95, length=7300, count=0, price=43.0)
    own = (Board(mark="H", thickness=33, width=60, length=6500, count=hand),) if hand else ()
    job = with_stock(unworked(linnet()), boards=own, buying=BuyingSettings(for_sale=(small, long), spare=0.0))
    job = change(change(job, "strips", zones=()), "stock.joints", kind=JointKind.NONE)
    plan = planned(job)
    assert plan.plan is not None
    assert not plan.plan.missing
    kerf, kinds = job.stock.saw.kerf, [*((b, 0.0) for b in own), (small, small.price), (long, long.price)]
    lengths = sorted({math.ceil(10 * n.length - 1e-6) / 10 for n in plan.needs})
    wanted = [sum(math.ceil(10 * n.length - 1e-6) / 10 == length for n in plan.needs) for length in lengths]

    def ways(room: float, at: int) -> list[tuple[int, ...]]:
        found: list[tuple[int, ...]] = [()]
        for k in range(at, len(lengths)):
            if lengths[k] <= room + 1e-9:
                found += [(k, *rest) for rest in ways(room - lengths[k] - kerf, k)]
        return found

    columns = [(b, way) for b, (board, _) in enumerate(kinds) for way in ways(board.usable, 0) if way]
    per = [rips(board, 14.0, 8.0, job.stock.saw)[0].count for board, _ in kinds]
    cover = np.zeros((len(lengths), len(columns) + len(kinds)))
    packs = np.zeros((len(kinds), len(columns) + len(kinds)))
    for c, (b, way) in enumerate(columns):
        packs[b, c] = 1
        for k in way:
            cover[k, c] += 1
    for b, count in enumerate(per):
        packs[b, len(columns) + b] = -count
    most = [np.inf] * len(columns) + [float(board.count) if not price else np.inf for board, price in kinds]
    best = milp(
        np.array([0.0] * len(columns) + [price for _, price in kinds]),
        constraints=[LinearConstraint(cover, lb=wanted), LinearConstraint(packs, ub=0.0)],
        integrality=np.ones(len(columns) + len(kinds)),
        bounds=Bounds(0, most),
        options={"time_limit": 60},
    )
    assert best.status == 0
    assert plan.cost == pytest.approx(best.fun)
    assert "No way of cutting needs less" in said(plan)
    taken: dict[str, float] = {}
    for made in plan.plan.made:  # no stick is cut for longer than it is
        assert [p.length for p in made.pieces] == [made.need.length]
        taken[made.pieces[0].sawn] = taken.get(made.pieces[0].sawn, 0.0) + made.need.length + kerf
    usable = {f"{b}.{k}": lot.board.usable for lot in plan.lots for b in lot.boards for k in range(1, lot.rip.count + 1)}
    assert all(length <= usable[name] + kerf + 1e-6 for name, length in taken.items())
