"""Molds and their set-up."""

from __future__ import annotations

from ..pages.molds.dialogs import MoldDialogs
from ..pages.setup.dialogs import SetupDialogs
from ..window.command import Command

MENU = "Stations"

COMMANDS = (
    Command("next", MENU, "Next mold aft", lambda s: s.step_mold(1), "Ctrl+Right"),
    Command("previous", MENU, "Next mold forward", lambda s: s.step_mold(-1), "Ctrl+Left"),
    Command("stations", MENU, "Where molds stand…", lambda s: MoldDialogs(s).ask_stations()),
    Command("sheets", MENU, "Lay the molds on sheets…", lambda s: MoldDialogs(s).sheets(), "Ctrl+L"),
    Command("bench-marks", MENU, "Bench: marks to make, one by one…", lambda s: SetupDialogs(s).marks(), "Ctrl+B"),
    Command("bench-readings", MENU, "Bench: measure the molds…", lambda s: SetupDialogs(s).readings(), "Ctrl+Shift+B"),
    Command("new-survey", MENU, "Begin a new round of measuring…", lambda s: SetupDialogs(s).new_round()),
)
