"""All commands of the window, each from the feature that owns it."""

from __future__ import annotations

from importlib import import_module

from ..window.command import Command

FEATURES = ("job", "edit", "view", "offsets", "stations", "planking", "deck", "veneers", "sheer", "log", "prints", "help")
"""The modules of this package, in the order of the menus: a new feature is one more name."""


def all_commands() -> tuple[Command, ...]:
    """Every command, in the order of the menus."""
    return tuple(c for name in FEATURES for c in import_module(f".{name}", __package__).COMMANDS)
