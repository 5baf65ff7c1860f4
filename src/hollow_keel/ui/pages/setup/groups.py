"""What is decided about the set-up, in groups."""

from __future__ import annotations

from ...decide.groups import Group

SETUP_GROUPS = (
    Group("Measured from", ("setup.zero_end", "setup.zero_at", "setup.first_face")),
    Group(
        "The strongback",
        (
            "setup.strongback",
            "setup.upright",
            "setup.waterline_above",
            "setup.beam_width",
            "setup.beam_height",
            "setup.beam_wall",
            "setup.leg_spread",
            "setup.rail_spread",
            "setup.top",
            "setup.castors",
        ),
    ),
    Group("Wedges and room", ("setup.wedges", "setup.beam_clearance")),
    Group("Legs and feet", ("setup.leg_width", "setup.bracket", "setup.foot_height", "setup.overhang")),
    Group("Its timber", ("setup.length", "setup.width", "setup.timber_width", "setup.timber_height")),
    Group("Errors", ("setup.fairs_below", "setup.mend_above")),
)
