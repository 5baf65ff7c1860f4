"""What can be chosen about strips beyond what stands on their page."""

from __future__ import annotations

from .settings_dialog import Group

STRIP_SETTINGS = (
    Group(
        "Width and edges",
        (
            "strips.cutter",
            "strips.glue_gap",
            "strips.least_width",
            "strips.allowance",
            "strips.meeting",
            "strips.meet_on",
            "strips.zones",
        ),
    ),
    Group(
        "Wood",
        (
            "strips.modulus",
            "strips.strength",
        ),
    ),
    Group(
        "By hand or with clamps",
        (
            "strips.hand_push",
            "strips.clamp_push",
            "strips.minutes",
        ),
    ),
    Group(
        "Master line by heights",
        ("strips.master.heights",),
    ),
)
