"""Cutting what was planned changes nothing for what is still to be cut; sums by hand on three strips and two sticks."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.settings.timber import MadePiece
from hollow_keel.core.stock.as_before import as_before
from hollow_keel.core.stock.joint_plan import JointPlan, Made, Stick
from hollow_keel.core.stock.needs import Need, Scantling

SECTION = Scantling("pine", 20.0, 8.0)
KERF, JOINT = 3.0, 60.0


def need(strip: int, length: float) -> Need:
    at = np.array([[0.0, 0.0], [length, length]])
    return Need(strip, "port", 0, (0, "down", strip), length, SECTION, (), at)


def made(strip: int, length: float, *pieces: tuple[str, float], joints: tuple[float, ...] = ()) -> Made:
    return Made(need(strip, length), tuple(MadePiece(stick=s, length=n) for s, n in pieces), joints)


@pytest.fixture
def before() -> JointPlan:
    """Two sticks of 4000: strip 1 (3000) and strip 2 (1900, in two pieces with a joint of 60), then strip 3 (2000)."""
    return JointPlan(
        (
            made(1, 3000, ("A1.1", 3000.0)),
            made(2, 1900, ("A1.1*", 980.0), ("A1.2", 980.0), joints=(950.0,)),
            made(3, 2000, ("A1.2*", 2000.0)),
        ),
        (),
        used=8000.0,
        lost=60.0,
        scrap=8000 - 3000 - 1900 - 60 - 2000 - 1014,
        left=(Stick(1014.0, "A1.2*", True),),
    )


def test_what_is_cut_as_planned_stays_and_the_rest_too(before: JointPlan) -> None:
    cut = (before.made[0].as_cut(),)
    # of A1.1 there is 4000 - 3000 - 3 left
    kept = as_before(before, cut, [Stick(997.0, "A1.1*", True), Stick(4000.0, "A1.2")], lambda _: JOINT)
    assert kept is not None
    assert kept.stays == cut
    assert kept.made == before.made[1:]
    assert kept.used == 997 + 4000
    assert kept.lost == 60
    assert [s.name for s in kept.left] == ["A1.2*"]
    assert kept.scrap == pytest.approx(4997 - 1900 - 2000 - 60 - 1014)
    assert kept.joints == before.joints


def test_all_is_cut(before: JointPlan) -> None:
    kept = as_before(before, [m.as_cut() for m in before.made], [Stick(1014.0, "A1.2*", True)], lambda _: JOINT)
    assert kept is not None
    assert (kept.made, kept.used, kept.lost, kept.scrap, kept.left, kept.waste) == ((), 0.0, 0.0, 0.0, (), 0.0)


def test_what_was_cut_in_another_way_is_planned_anew(before: JointPlan) -> None:
    other = made(1, 3000, ("A1.2", 3000.0)).as_cut()
    assert as_before(before, (other,), [Stick(4000.0, "A1.1")], lambda _: JOINT) is None
    gone = made(9, 500, ("A1.2", 500.0)).as_cut()
    assert as_before(before, (gone,), [Stick(4000.0, "A1.1")], lambda _: JOINT) is None


def test_wood_that_is_not_there_any_more_is_planned_anew(before: JointPlan) -> None:
    cut = (before.made[0].as_cut(),)
    assert as_before(before, cut, [Stick(500.0, "A1.1*", True), Stick(1500.0, "A1.2")], lambda _: JOINT) is None
