"""Whole numbers of least cost: by hand, and that it ends by what it has done and not by the clock."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import LinearConstraint

from hollow_keel.core.stock import solver
from hollow_keel.core.stock.solver import least_cost


def test_the_cheapest_of_a_few_by_hand() -> None:
    """Boards that give 7 and 5 at 5 and 4 a board, 23 wanted: two of each, 18; all others within reach cost 19 or more."""
    found = least_cost(np.array([5.0, 4.0]), [LinearConstraint([[7.0, 5.0]], lb=23.0)], np.full(2, np.inf), exact=True)
    assert found.status == 0
    assert found.x == pytest.approx([2, 2])
    none = least_cost(np.ones(1), [LinearConstraint([[7.0]], lb=23.0)], np.array([3.0]), exact=True)
    assert none.x is None


def test_what_is_too_much_ends_alike_on_every_machine(monkeypatch: pytest.MonkeyPatch) -> None:
    """Market split (a textbook case that is hard for branch and bound): shares of five shops' sales that come to exactly half."""
    sales = np.random.default_rng(1).integers(0, 100, (5, 40)).astype(float)
    half = np.floor(sales.sum(axis=1) / 2)
    matrix = np.hstack([sales, np.eye(5), -np.eye(5)])
    cost = np.concatenate([np.zeros(40), np.ones(10)])
    most = np.concatenate([np.ones(40), np.full(10, np.inf)])
    monkeypatch.setattr(solver, "WORK", 50 * 40)
    one, two = (least_cost(cost, [LinearConstraint(matrix, half, half)], most, exact=True) for _ in range(2))
    assert one.status != 0, "it is not said to be the best"
    assert one.mip_node_count <= 2 * 40
    assert one.x == pytest.approx(two.x)
    assert one.mip_node_count == two.mip_node_count
