"""How joints really stand, measured on the plan when it is made: not what the search believed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from .joint_plan import JointPlan
from .needs import Need


def least_apart(plan: JointPlan, needs: Sequence[Need], rows: int) -> float | None:
    """The least distance (mm, along the strip) between joints of strips up to `rows` from each other on one side; None where no
    two are neighbours."""
    jointed = [(need, joints) for need, joints in _joints(plan, needs) if joints]
    found = []
    for need, own in jointed:
        for other, theirs in jointed:
            span = need.asks(other, rows)
            if span is not None:
                places = [x for x in other.positions(theirs) if span[0] <= x <= span[1]]
                found += [abs(run - joint) for run in need.runs(places) for joint in own]
    return min(found, default=None)


def least_clear(plan: JointPlan, needs: Sequence[Need], overlap: float) -> float | None:
    """The least distance (mm) from the end of a joint, `overlap` long, to the middle of a range that is to be kept free; less than
    nothing where one lies in it; None where there are none."""
    found = [abs(joint - (a + b) / 2) - overlap / 2 for need, own in _joints(plan, needs) for joint in own for a, b in need.shut]
    return min(found, default=None)


def _joints(plan: JointPlan, needs: Sequence[Need]) -> Iterator[tuple[Need, tuple[float, ...]]]:
    """Every strip with its joints, those cut already included."""
    by_name = {n.key: n for n in needs}
    for made, _ in plan.strips:
        need = by_name.get(made.key)
        if need is not None:
            yield need, made.joints
