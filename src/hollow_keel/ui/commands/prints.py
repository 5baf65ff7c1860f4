"""Everything that is written out, and the printer's own scale."""

from __future__ import annotations

from collections.abc import Callable

from ...app.export import Export
from ...app.exports import EXPORTS
from ..pages.molds.dialogs import MoldDialogs
from ..window.command import BELOW, Command, line
from ..window.shell import Shell

MENU = "Print"
KEYS = {"molds-pdf": "Ctrl+P"}


def _export(export: Export) -> Callable[[Shell], None]:
    return lambda shell: shell.exporter.export(export)


COMMANDS = (
    Command("for-shop", MENU, "Everything for the shop…", lambda s: s.exporter.for_shop(), "Ctrl+Shift+P"),
    line(MENU),
    *(Command(f"export-{e.kind}", f"{MENU}{BELOW}{e.group}", f"{e.name}…", _export(e), KEYS.get(e.kind, "")) for e in EXPORTS),
    Command("foil", MENU, "Foil template for a keel or skeg…", lambda s: s.exporter.foil_template()),
    line(MENU),
    Command("proof-bar", MENU, "My printer prints small or large…", lambda s: MoldDialogs(s).proof_bar()),
)
