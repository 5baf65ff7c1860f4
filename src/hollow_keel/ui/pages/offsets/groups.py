"""What is decided about the hull as a whole."""

from __future__ import annotations

from ...decide.groups import Doing, Group
from ...window.state import State


def _units(state: State) -> str:
    return f"{state.style.name}, {state.style.rounding_name}"


OFFSET_GROUPS = (
    Group("The hull", ("waterline", "offsets.to_inside", "molds.skin")),
    Group("The tape", (Doing("Units", _units, "choose-units"), "units.amounts")),
)
