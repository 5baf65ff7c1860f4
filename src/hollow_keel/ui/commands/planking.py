"""Strips and their wood."""

from __future__ import annotations

from ..pages.planking.dialogs import PlankingDialogs
from ..window.command import Command

MENU = "Strips"

COMMANDS = (
    Command("compare", MENU, "Compare ways of planking, or find one…", lambda s: PlankingDialogs(s).compare(), "Ctrl+Shift+C"),
    Command("strips-differ", MENU, "Strips that differ from the others", lambda s: PlankingDialogs(s).differ(), "Ctrl+Shift+E"),
    Command("master-heights", MENU, "Master line by heights…", lambda s: PlankingDialogs(s).heights()),
    Command("bench-ticks", MENU, "Bench: where strips come on this mold…", lambda s: PlankingDialogs(s).ticks(), "Ctrl+T"),
    Command("bench-strips", MENU, "Bench: strips to go on, ticked off into the log…", lambda s: PlankingDialogs(s).strips()),
    Command("bench-pieces", MENU, "Bench: pieces to cut…", lambda s: PlankingDialogs(s).pieces(), "Ctrl+Shift+T"),
    Command("stop", "", "Stop laying the strips", lambda s: s.stop_work()),
)
