"""The table of offsets."""

from __future__ import annotations

from collections.abc import Callable

from ..pages.offsets.dialogs import TableDialogs
from ..pages.offsets.page import OffsetsPage
from ..window.command import Command, line
from ..window.shell import Shell

MENU = "Offsets"


def _in_table(act: Callable[[OffsetsPage], None]) -> Callable[[Shell], None]:
    """Something done in the table of offsets, wherever the builder is."""

    def run(shell: Shell) -> None:
        shell.go_to_page("offsets")
        if isinstance(shell.page, OffsetsPage):
            act(shell.page)

    return run


COMMANDS = (
    Command("add-station", MENU, "Add a station…", _in_table(lambda page: page.lines_and_stations.ask_station()), "Ctrl+Shift+A"),
    Command(
        "add-line",
        MENU,
        "Add a waterline, buttock or diagonal…",
        _in_table(lambda page: page.lines_and_stations.ask_line()),
        "Ctrl+Shift+L",
    ),
    Command("fill-down", MENU, "Fill down", _in_table(OffsetsPage.fill_down), "Ctrl+D"),
    Command("note", MENU, "Note on the cell…", _in_table(OffsetsPage.ask_note), "Ctrl+Shift+N"),
    line(MENU),
    Command("scale", MENU, "Scale the design…", lambda s: TableDialogs(s).scale()),
    Command("restation", MENU, "Space the stations anew…", lambda s: TableDialogs(s).restation()),
    Command("baseline", MENU, "Move the baseline…", lambda s: TableDialogs(s).baseline()),
    Command("turn", MENU, "Count from the other end", lambda s: TableDialogs(s).turn()),
)
