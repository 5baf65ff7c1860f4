"""What has been cut as planned changes nothing for the rest: lists and labels that are printed stay true."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from ..settings.timber import MadeStrip
from .joint_plan import JointPlan, Stick, wood_gone

EPS = 1e-6


def _same(planned: MadeStrip, cut: MadeStrip) -> bool:
    """Whether a strip was cut as planned; in files of earlier versions its section is not told."""
    known = {"width": cut.width, "thickness": cut.thickness}
    return planned.model_copy(update={k: v for k, v in known.items() if v is None}) == cut


def as_before(
    before: JointPlan, cut: Sequence[MadeStrip], sticks: Sequence[Stick], lost: Callable[[float], float]
) -> JointPlan | None:
    """The plan as it was `before` anything was cut, less what is cut; None where something was cut in another way than it says.

    `sticks` are those that can still be cut from, as long as they are now; wood is counted for what is still to be cut.
    """
    made = {m.need.key: m for m in before.made}
    if any(c.key not in made or not _same(made[c.key].as_cut(), c) for c in cut):
        return None
    done = {c.key for c in cut}
    rest = tuple(m for m in before.made if m.need.key not in done)
    begun = {piece.sawn for m in rest for piece in m.pieces}
    left = tuple(stick for stick in before.left if stick.sawn in begun)
    used = sum(stick.length for stick in sticks if stick.sawn in begun)
    in_joints, scrap = wood_gone(rest, used, left, lost)
    if scrap < -EPS:  # an end too short to count as wood was used all the same
        return None
    return replace(before, made=rest, used=used, lost=in_joints, scrap=max(scrap, 0.0), left=left, stays=tuple(cut))
