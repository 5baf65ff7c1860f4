"""What can be chosen about the molds' pieces and marks, beyond what stands on their page."""

from __future__ import annotations

from .settings_dialog import Group

MOLD_SETTINGS = (
    Group(
        "What it is",
        (
            "molds.kind",
            "molds.edge",
            "molds.rounding",
            "molds.gussets",
            "molds.spall_above",
        ),
    ),
    Group(
        "What it stands on",
        (
            "setup.strongback",
            "setup.beam_width",
            "setup.beam_height",
            "setup.beam_clearance",
            "setup.beam_wall",
            "setup.wedges",
            "setup.leg_width",
            "setup.leg_spread",
            "setup.rail_spread",
            "setup.bracket",
            "setup.timber_width",
            "setup.timber_height",
            "setup.foot_height",
            "setup.overhang",
            "setup.length",
            "setup.width",
            "setup.top",
            "setup.castors",
            "setup.fairs_below",
            "setup.mend_above",
        ),
    ),
    Group(
        "Notches",
        (
            "molds.notch_width",
            "molds.notch_depth",
            "molds.stem_width",
            "molds.stem_depth",
            "molds.stringers",
            "molds.stringer_width",
            "molds.stringer_depth",
            "molds.clearance",
        ),
    ),
    Group(
        "Inner stem",
        (
            "stem.siding",
            "stem.molded",
            "stem.face",
            "stem.spare",
        ),
    ),
    Group(
        "Marks",
        (
            "molds.mark_waterlines",
            "molds.mark_buttocks",
            "molds.mark_planks",
        ),
    ),
)
