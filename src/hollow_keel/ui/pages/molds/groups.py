"""What is decided about the molds, in groups."""

from __future__ import annotations

from ...decide.groups import Doing, Group
from ...window.state import State


def _stations(state: State) -> str:
    molds = state.job.molds
    if molds.stations:
        return "where you put them"
    if molds.every:
        return f"every {state.write(molds.every)}"
    return "at each station"


def _sheets(state: State) -> str:
    layout = state.job.layout
    return "not laid yet" if layout is None else f"{layout.count} of {state.write(layout.sheets.length)}"


MOLD_GROUPS = (
    Group("Taken off", ("molds.skin", "molds.strapping", "molds.false_bottom", "molds.deduction")),
    Group(
        "The piece",
        (
            "molds.thickness",
            "molds.kind",
            "molds.edge",
            "molds.faces",
            "molds.form",
            "molds.ring_width",
            "molds.halves",
            "molds.gussets",
            "molds.beyond_sheer",
            "molds.rounding",
        ),
    ),
    Group("Where they stand", (Doing("Molds stand", _stations, "stations"),)),
    Group(
        "It stands on",
        (
            "setup.strongback",
            "setup.upright",
            "setup.beam_width",
            "setup.beam_height",
            "setup.beam_clearance",
            "setup.leg_width",
            "setup.leg_spread",
            "setup.foot_height",
            "setup.waterline_above",
        ),
    ),
    Group(
        "Notches",
        (
            "molds.notch_width",
            "molds.notch_depth",
            "molds.stem_width",
            "molds.stem_depth",
            "inside.stringers",
            "inside.stringer_width",
            "inside.stringer_thickness",
            "molds.stringer_notches",
            "molds.clearance",
        ),
    ),
    Group("Marks", ("waterline", "molds.spall_above", "molds.mark_waterlines", "molds.mark_buttocks", "molds.mark_planks")),
    Group("Inner stem", ("stem.siding", "stem.molded", "stem.face", "stem.spare")),
    Group("Sheets", (Doing("Laid on sheets", _sheets, "sheets"),)),
)
