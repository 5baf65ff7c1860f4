"""What is decided about the line that the hull is trimmed to."""

from __future__ import annotations

from ..decide.groups import Group

TRIM_GROUPS = (
    Group("The sheer", ("trim.carried", "trim.frames", "trim.quarters", "trim.above", "trim.bases")),
    Group("Rails", ("trim.rails", "trim.rail_width", "trim.rail_thickness", "trim.rail_wood")),
    Group("Camber", ("trim.crown", "trim.crown_on", "trim.rule")),
)
