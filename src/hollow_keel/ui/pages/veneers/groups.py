"""What is decided about the layers of veneer, in groups; each layer's own numbers stand on its drawing."""

from __future__ import annotations

from ....core.settings.veneers import layers_words, veneered
from ...decide.groups import Doing, Group
from ...window.state import State


def _layers(state: State) -> str:
    return layers_words(state.job.veneers)


VENEER_GROUPS = (
    Group(
        "Layers", (Doing("Layers", _layers, "add-layer", veneered), "veneers.over_strips", "veneers.angle_from", "veneers.master")
    ),
    Group("The form", ("form.kind", "form.wood", "form.width", "form.thickness", "form.spacing", "form.stick")),
    Group("Into waste", ("veneers.past_sheer", "veneers.past_transom", "veneers.past_stem")),
    Group(
        "Gluing",
        (
            "veneers.glue_spread",
            "laying.open_time",
            "laying.minutes",
            "laying.wetting",
            "laying.staple_every",
            "laying.staple_rows",
            "laying.staples_stay",
            "laying.bag_more",
        ),
    ),
    Group("Sheets of veneer", ("laying.sheet_width", "laying.sheet_length", "laying.sheets_have", "laying.kerf")),
)
"""Layers of veneer."""
