"""Strips and their wood."""

from __future__ import annotations

from ..command import Command
from ..planking_dialogs import PlankingDialogs

MENU = "Strips"

COMMANDS = (
    Command(
        "compare", MENU, "Compare ways of planking, or find one…", lambda s: PlankingDialogs(s).compare(), "Ctrl+Shift+C"
    ),
    Command(
        "strip-settings", MENU, "Widths, wood and edges of the strips…", lambda s: PlankingDialogs(s).settings(),
        "Ctrl+Shift+E",
    ),
    Command("bench-ticks", MENU, "Bench: where strips come on this mold…", lambda s: PlankingDialogs(s).ticks(), "Ctrl+T"),
    Command("bench-pieces", MENU, "Bench: pieces to cut…", lambda s: PlankingDialogs(s).pieces(), "Ctrl+Shift+T"),
    Command(
        "stock-settings", MENU, "Saw, joints, buying, glue and cloth…", lambda s: PlankingDialogs(s).stock_settings(),
        "Ctrl+Shift+K",
    ),
    Command("stop", "", "Stop laying the strips", lambda s: s.stop_work()),
)  # fmt: skip
