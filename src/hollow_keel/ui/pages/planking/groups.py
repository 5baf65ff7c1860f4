"""What is decided about the strips, in groups."""

from __future__ import annotations

from ....app.deciding import LAID, record_of
from ...decide.groups import Doing, Group
from ...window.state import State


def _bands(state: State) -> str:
    zones = state.job.strips.zones
    if not zones:
        return "pick strips"
    runs = [f"{z.first}" if z.first == z.last else f"{z.first}–{z.last}" for z in zones]
    return ", ".join(runs)


def _heights(state: State) -> str:
    count = len(state.job.strips.master.heights)
    return f"{count} heights" if count else "none yet"


PLANKING_GROUPS = (
    Group(
        "Where they start",
        (
            "strips.guide",
            "strips.master.kind",
            "strips.master.height",
            "strips.master.share",
            "strips.master.angle",
            Doing("Heights", _heights, "master-heights", record_of("strips.master.heights").setting.when),
            "strips.bottom",
        ),
    ),
    Group(
        "The strip",
        (
            "strips.width",
            "strips.thickness",
            "strips.edge",
            "strips.cove_depth",
            "strips.cutter",
            "strips.glue_gap",
            "strips.wood",
            Doing("Some differ", _bands, "strips-differ"),
        ),
    ),
    Group(
        "How they divide",
        (
            "strips.layout",
            "strips.least_width",
            "strips.mixed_from",
            "strips.mixed_to",
            "strips.meeting",
            "strips.meet_on",
            "strips.allowance",
        ),
    ),
    Group("So far", (LAID,)),
    Group(
        "By hand or with clamps", ("strips.hand_push", "strips.clamp_push", "strips.minutes", "strips.modulus", "strips.strength")
    ),
)
