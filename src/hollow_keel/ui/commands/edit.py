"""Steps back and forward, and any command by its name."""

from __future__ import annotations

from ..views.dialogs import accepted
from ..window.command import Command
from ..window.command_finder import CommandFinder
from ..window.shell import Shell

MENU = "Edit"


def find(shell: Shell) -> None:
    """Find any command by its name."""
    finder = CommandFinder(shell.menus.named(), shell.top)
    if accepted(finder) and finder.chosen is not None:
        finder.chosen.trigger()


COMMANDS = (
    Command("undo", MENU, "Undo", lambda s: s.session.undo(), "Ctrl+Z"),
    Command("redo", MENU, "Redo", lambda s: s.session.redo(), "Ctrl+Shift+Z"),
    Command("find", MENU, "Find a command…", find, "Ctrl+K"),
)
