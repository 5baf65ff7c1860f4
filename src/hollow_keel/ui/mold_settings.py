"""What can be chosen about the molds' pieces and marks, beyond what stands on their page."""

from __future__ import annotations

from ..core.molds.choices import MoldEdgeKind, MoldKind
from ..core.setup.choices import Strongback
from .settings_dialog import Group, Kind, Setting

MOLD_SETTINGS = (
    Group(
        "What it is",
        (
            Setting("The piece", "molds", "kind", Kind.CHOICE,
                    (("is taken out again (mold)", MoldKind.TEMPORARY), ("stays in the boat (frame)", MoldKind.FRAME))),
            Setting("Its edge", "molds", "edge", Kind.CHOICE,
                    (("is square, on the reference face", MoldEdgeKind.SQUARE),
                     ("is bevelled to the skin", MoldEdgeKind.BEVELLED))),
            Setting("Ease the edge by", "molds", "rounding", hint="0: left sharp. Never past the sheer mark"),
            Setting("Gussets over the butt of halves", "molds", "gussets", Kind.FLAG),
            Setting("Cross spall above the waterline", "molds", "spall_above", Kind.LENGTH_OR_NONE, hint="no cross spall"),
        ),
    ),
    Group(
        "What it stands on",
        (
            Setting("Strongback", "setup", "strongback", Kind.CHOICE,
                    (("a beam through the molds", Strongback.BEAM), ("a table or ladder, on legs", Strongback.TABLE),
                     ("two rails, on feet", Strongback.RAILS))),
            Setting("Beam wide", "setup", "beam_width"),
            Setting("Beam high", "setup", "beam_height"),
            Setting("Room round the beam", "setup", "beam_clearance"),
            Setting("Wall of the beam", "setup", "beam_wall", hint="0: solid"),
            Setting("Wedge pair in the middle gap", "setup", "wedges", hint="0: none"),
            Setting("Legs wide", "setup", "leg_width"),
            Setting("Legs, outside to outside", "setup", "leg_spread"),
            Setting("Rails, outside to outside", "setup", "rail_spread"),
            Setting("Brackets reach up", "setup", "bracket"),
            Setting("Timber of sides, rails, posts, spalls: wide", "setup", "timber_width"),
            Setting("and high", "setup", "timber_height"),
            Setting("Feet high", "setup", "foot_height"),
            Setting("Feet reach past the rails", "setup", "overhang"),
            Setting("The strongback is long", "setup", "length", Kind.LENGTH_OR_NONE, hint="as needed"),
            Setting("The table is wide", "setup", "width", Kind.LENGTH_OR_NONE, hint="as needed"),
            Setting("Its top above the floor", "setup", "top"),
            Setting("Castors high", "setup", "castors", hint="0: it stands fixed"),
            Setting("Errors that will not show, up to", "setup", "fairs_below"),
            Setting("Errors to be put right, over", "setup", "mend_above"),
        ),
    ),
    Group(
        "Notches",
        (
            Setting("Keel or hog, wide", "molds", "notch_width", hint="0: no notch"),
            Setting("Keel or hog, deep", "molds", "notch_depth"),
            Setting("Inner stem, wide", "molds", "stem_width", hint="0: no notch"),
            Setting("Inner stem, deep", "molds", "stem_depth"),
            Setting("Stringers at % of the girth", "molds", "stringers", Kind.SHARES, hint="none; for example 35, 65"),
            Setting("Stringers wide", "molds", "stringer_width"),
            Setting("Stringers deep", "molds", "stringer_depth"),
            Setting("Room round each", "molds", "clearance"),
        ),
    ),
    Group(
        "Inner stem",
        (
            Setting("Wide", "stem", "siding"),
            Setting("Deep in profile", "stem", "molded"),
            Setting("Its forward face wide", "stem", "face"),
            Setting("Spare length at each end", "stem", "spare"),
        ),
    ),
    Group(
        "Marks",
        (
            Setting("Waterlines every", "molds", "mark_waterlines", hint="0: none but the load waterline"),
            Setting("Buttocks every", "molds", "mark_buttocks", hint="0: none"),
            Setting("Ticks where the strips come", "molds", "mark_planks", Kind.FLAG),
        ),
    ),
)  # fmt: skip
