"""What can be chosen about strips beyond what stands on their page."""

from __future__ import annotations

from ..core.planking.choices import Meeting, MeetOn
from .settings_dialog import Group, Kind, Setting

MEETINGS = (
    ("one side run past and cut", Meeting.CUT),
    ("both interleaved", Meeting.INTERLEAVED),
)

MEET_ON = (
    ("on the flat of the keel, at the keel line", MeetOn.KEEL_LINE),
    ("at the true centreline", MeetOn.CENTRELINE),
)

STRIP_SETTINGS = (
    Group(
        "Width and edges",
        (
            Setting("Cutter radius of bead and cove", "strips", "cutter", Kind.FINE, hint="0: the cove's depth is given"),
            Setting("Gap left for glue", "strips", "glue_gap", Kind.FINE),
            Setting("No tapered strip narrower than", "strips", "least_width"),
            Setting("Longer at each end by", "strips", "allowance"),
            Setting("Both sides meet on the bottom", "strips", "meeting", Kind.CHOICE, MEETINGS),
            Setting("They meet", "strips", "meet_on", Kind.CHOICE, MEET_ON),
            Setting("Strips that differ", "strips", "zones", Kind.ZONES, hint="1-2: 10 wide; 12: 14 of ash; 30-34: 4 thick"),
        ),
    ),
    Group(
        "Wood",
        (
            Setting("Stiffness, GPa", "strips", "modulus", Kind.NUMBER_OR_NONE, hint="the wood's own"),
            Setting("Bending strength, MPa", "strips", "strength", Kind.NUMBER_OR_NONE, hint="the wood's own"),
        ),
    ),
    Group(
        "By hand or with clamps",
        (
            Setting("Pushed sideways by hand, up to N", "strips", "hand_push", Kind.NUMBER),
            Setting("Pulled in with clamps, up to N", "strips", "clamp_push", Kind.NUMBER),
            Setting("Minutes to lay a strip", "strips", "minutes", Kind.NUMBER),
        ),
    ),
    Group(
        "Master line by heights",
        (Setting("Position: height, …", "strips", "master", Kind.HEIGHTS, hint="500: 420; 2600: 300; 5000: 380"),),
    ),
)  # fmt: skip
