"""What is decided about the line that the hull is trimmed to, its ends, and what is fitted to them."""

from __future__ import annotations

from ...decide.groups import Group

SHEER_GROUPS = (
    Group("The sheer", ("trim.carried", "trim.frames", "trim.quarters", "trim.above", "trim.bases")),
    Group("Camber", ("trim.crown", "trim.crown_on", "trim.rule")),
    Group(
        "Beams",
        (
            "beams.wanted",
            "beams.sided",
            "beams.molded",
            "beams.made",
            "beams.ratio",
            "beams.least",
            "beams.springback",
            "beams.blocks",
        ),
    ),
    Group("Curves", ("trim.eye_both", "trim.curve_at", "trim.curve_to", "trim.curve_seen")),
    Group("Rails", ("trim.rails", "trim.rail_width", "trim.rail_thickness", "trim.rail_wood")),
    Group(
        "Outer stem and keel strip",
        (
            "outer.stems",
            "outer.let_in",
            "outer.molded",
            "outer.face_head",
            "outer.face_foot",
            "outer.ratio",
            "outer.spare",
            "outer.keel",
            "outer.keel_width",
            "outer.keel_thickness",
            "outer.screws",
        ),
    ),
    Group(
        "Transom of planks, knees",
        (
            "outer.planks",
            "outer.plank",
            "outer.clear",
            "outer.spline",
            "outer.head_waste",
            "outer.knees",
            "outer.knee_radius",
            "outer.knee_molded",
            "outer.knee_leg",
        ),
    ),
    Group("Molds out", ("release.wanted", "release.spalls", "release.past", "release.kilograms")),
    Group(
        "Inside",
        (
            "inside.sole",
            "inside.height",
            "inside.begins",
            "inside.ends",
            "inside.bulkheads",
            "inside.gap",
            "inside.stringers",
            "inside.stringer_width",
            "inside.stringer_thickness",
            "inside.stringer_wood",
            "inside.sheet",
            "inside.cloth",
            "inside.plies",
            "inside.tape",
            "inside.step",
        ),
    ),
)
