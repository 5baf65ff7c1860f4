"""A command: where it stands in the menus, its keys, what it does."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .shell import Shell

BELOW = " › "
"""Between a menu's name and that of one within it."""


@dataclass(frozen=True)
class Command:
    """`run` is called with the window's shell; None for a menu that is filled when the window knows with what. An empty text is a
    line between commands; a menu within another is named after both. A `checked` one is on or off, as that tells."""

    id: str
    menu: str
    text: str
    run: Callable[[Shell], object] | None = None
    shortcut: str = ""
    checked: Callable[[Shell], bool] | None = None


def line(menu: str) -> Command:
    """A line between the commands of a menu."""
    return Command("", menu, "")
