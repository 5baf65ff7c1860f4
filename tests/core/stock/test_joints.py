"""Pieces and joints of strips: every rule checked on the finished plan, sums of wood, and what cannot be."""

from __future__ import annotations

import time

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.settings.timber import JointKind, JointSettings, MadePiece, MadeStrip
from hollow_keel.core.stock.joint_check import least_apart, least_clear
from hollow_keel.core.stock.joint_plan import JointPlan, Stick
from hollow_keel.core.stock.needs import Need, Scantling
from hollow_keel.core.stock.pieces import STEPS, plan_joints

SECTION = Scantling("pine", 45.0, 15.0)
OVERLAP = 60.0


def need(strip: int, length: float, side: str = "port", shut: tuple[tuple[float, float], ...] = ()) -> Need:
    return Need(strip, side, 0, (0, "down", strip), length, SECTION, shut, np.array([[0.0, 0.0], [length, length]]))


def sticks(lengths: list[float]) -> dict[Scantling, tuple[Stick, ...]]:
    return {SECTION: tuple(Stick(length, f"S{k}.1") for k, length in enumerate(lengths))}


def plan(needs: list[Need], lengths: list[float], rules: JointSettings, kerf: float = 0.0) -> JointPlan:
    return plan_joints(needs, sticks(lengths), rules, lambda _: OVERLAP, kerf)


def check_sums(needs: list[Need], lengths: list[float], made: JointPlan, kerf: float, least: float) -> None:
    """Every strip is as long as it must be, no stick is cut up twice, no piece is too short, no wood is lost from sight."""
    stock = {f"S{k}.1": length for k, length in enumerate(lengths)}
    taken: dict[str, list[float]] = {}
    for own in made.made:
        assert sum(p.length for p in own.pieces) - OVERLAP * len(own.joints) == pytest.approx(own.need.length)
        assert len(own.pieces) == len(own.joints) + 1
        reach = 0.0
        for piece, joint in zip(own.pieces[:-1], own.joints, strict=True):
            reach += piece.length - OVERLAP
            assert joint == pytest.approx(reach + OVERLAP / 2)
        if len(own.pieces) > 1:
            assert min(p.length for p in own.pieces) >= least - 1e-6
        for piece in own.pieces:
            taken.setdefault(piece.stick.rstrip("*"), []).append(piece.length)
    for name, cuts in taken.items():
        assert sum(cuts) + kerf * (len(cuts) - 1) <= stock[name] + 1e-6
    assert made.used == pytest.approx(sum(stock[name] for name in taken))
    net = sum(own.need.length for own in made.made)
    assert made.used == pytest.approx(net + made.lost + made.scrap + sum(s.length for s in made.left))
    assert {n.name for n in made.missing} | {m.need.name for m in made.made} == {n.name for n in needs}


@settings(max_examples=40, deadline=None)
@given(
    st.lists(st.floats(900, 9000), min_size=1, max_size=10),
    st.lists(st.floats(200, 5000), min_size=0, max_size=40),
    st.sampled_from([0.0, 200.0, 600.0]),
    st.integers(0, 3),
    st.sampled_from([0.0, 3.0]),
)
def test_any_strips_from_any_sticks(wanted: list[float], lengths: list[float], stagger: float, rows: int, kerf: float) -> None:
    rules = JointSettings(kind=JointKind.SLOPE, stagger=stagger, rows=rows, least_piece=400)
    needs = [need(k + 1, length, side) for k, length in enumerate(wanted) for side in ("port", "starboard")]
    made = plan(needs, lengths, rules, kerf)
    check_sums(needs, lengths, made, kerf, 400.0)
    kept = [m for m in made.made if m.apart < 1.0]
    apart = least_apart(made, needs, rows)
    if apart is not None and not kept:
        assert apart >= stagger - 1e-6
    again = plan(needs, lengths, rules, kerf)
    assert [m.pieces for m in again.made] == [m.pieces for m in made.made], "the same every time"


def random_stock(seed: int, needed: float, spare: float = 1.03) -> list[float]:
    random = np.random.default_rng(seed)
    found: list[float] = []
    while sum(found) - OVERLAP * len(found) < needed * spare:
        found.append(float(random.integers(4200, 5501)))
    return found


def fewest_joints(strips: int, needed: float, lengths: list[float]) -> int:
    """No plan has fewer: even the longest sticks, so many, would only just be long enough."""
    total = 0.0
    for count, length in enumerate(sorted(lengths, reverse=True), start=1):
        total += length
        if total - (count - strips) * OVERLAP >= needed:
            return count - strips
    raise AssertionError


@pytest.mark.parametrize("seed", [1, 5])
def test_a_hundred_and_twenty_strips_of_a_long_hull(seed: int) -> None:
    needs = [need(k + 1, 15400.0, side) for k in range(60) for side in ("port", "starboard")]
    needed = 120 * 15400.0
    lengths = random_stock(seed, needed)
    rules = JointSettings(stagger=600, rows=1, least_piece=600)
    made = plan(needs, lengths, rules)
    check_sums(needs, lengths, made, 0.0, 600.0)
    assert not made.missing
    apart = least_apart(made, needs, 1)
    assert apart is not None
    assert apart >= 600 - 1e-6
    assert made.waste <= 0.013, "joints, scrap and what is left over, together"
    assert made.joints <= 1.25 * fewest_joints(120, needed, lengths)


def test_joints_that_can_stand_nowhere_are_refused_at_once_with_the_reason() -> None:
    molds = [600.0 * k for k in range(1, 26)]
    shut = tuple((m - 300.0, m + 300.0) for m in molds)
    needs = [need(k + 1, 15400.0, shut=shut) for k in range(60)]
    start = time.perf_counter()
    with pytest.raises(ImpossiblePlan, match=r"No joint can stand anywhere.*nothing between.*less clear"):
        plan(needs, random_stock(1, 60 * 15400.0), JointSettings())
    assert time.perf_counter() - start < 1.0
    possible = tuple((m - 250.0, m + 250.0) for m in molds)
    needs = [need(k + 1, 15400.0, shut=possible) for k in range(6)]
    made = plan(needs, random_stock(1, 6 * 15400.0, 1.2), JointSettings(stagger=600, rows=1))
    clear = least_clear(made, needs, OVERLAP)
    assert clear is not None
    assert clear >= 250 - 1e-6, "a 60 mm joint has 100 mm between molds to stand in"


def test_distances_give_one_after_the_other_where_stock_is_poor() -> None:
    """Two sticks make a strip in one way only, so that all joints would stand side by side."""
    needs = [need(k + 1, 4940.0) for k in range(4)]
    lengths = [2500.0] * 8
    rules = JointSettings(stagger=600, rows=1, least_piece=600)
    assert plan(needs, lengths, rules).missing, "more joints, until the sticks are used up"
    made = plan_joints(needs, sticks(lengths), rules, lambda _: OVERLAP, steps=STEPS[6:])
    assert not made.missing
    assert [m.apart for m in made.made][1] == 0.0
    assert least_apart(made, needs, 1) == 0.0
    more = plan(needs, [*lengths, 2000.0, 3000.0, 2000.0, 3000.0], JointSettings(stagger=400, rows=1, least_piece=600))
    assert all(m.apart == 1.0 for m in more.made)


def test_what_is_cut_stays_and_its_joints_count() -> None:
    cut = MadeStrip(
        strip=1,
        side="port",
        pieces=(MadePiece(stick="X1.1", length=2500.0), MadePiece(stick="X1.2", length=2500.0)),
        joints=(2470.0,),
    )
    needs = [need(1, 4940.0), need(2, 4940.0)]
    rules = JointSettings(stagger=600, rows=1, least_piece=600)
    stock = sticks([2500.0, 2500.0, 3200.0, 1800.0])
    made = plan_joints(needs, stock, rules, lambda _: OVERLAP, 0.0, (cut,))
    assert [m.need.strip for m in made.made] == [2]
    assert made.stays == (cut,)
    assert made.joints == 2
    assert abs(made.made[0].joints[0] - 2470.0) >= 600
    assert [done for _, done in made.strips] == [True, False]


def test_without_joints_only_sticks_that_are_long_enough_serve() -> None:
    needs = [need(1, 4000.0), need(2, 3000.0), need(3, 5000.0)]
    made = plan(needs, [3100.0, 4200.0, 4900.0, 4900.0], JointSettings(kind=JointKind.NONE))
    assert [len(m.pieces) for m in made.made] == [1, 1]
    assert [n.strip for n in made.missing] == [3]
    assert made.joints == 0


def test_offcuts_are_carried_on() -> None:
    needs = [need(1, 3000.0), need(2, 1900.0), need(3, 3000.0), need(4, 1900.0)]
    made = plan(needs, [5000.0, 5000.0], JointSettings(stagger=0, least_piece=600), kerf=4.0)
    assert not made.missing
    assert any(p.stick.endswith("*") for m in made.made for p in m.pieces)
    assert made.used == 10_000.0
