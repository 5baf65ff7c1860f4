"""What is decided about the layers of veneer, in groups; each layer's own numbers stand on its drawing."""

from __future__ import annotations

from ...core.settings.veneers import layers_words, veneered
from ..decide.groups import Doing, Group
from ..state import State


def _layers(state: State) -> str:
    return layers_words(state.job.veneers)


VENEER_GROUPS = (
    Group("Layers", (Doing("Layers", _layers, "add-layer", veneered), "veneers.over_strips")),
    Group("Laying", ("veneers.master", "veneers.past_sheer")),
    Group("Glue", ("veneers.glue_spread",)),
)
