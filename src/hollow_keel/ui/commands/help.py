"""First steps, working safely, where things are kept."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMessageBox

from ...app.log import log_file
from ..command import Command
from ..dialogs import accepted
from ..shell import Shell
from ..texts import CAUTIONS, FIRST_STEPS

MENU = "Help"
ABOUT = "<h3>Hollow Keel</h3><p>Plans strip-planked and cold-molded hulls.</p>"


def _tell(shell: Shell, title: str, text: str) -> None:
    box = QMessageBox(shell.top)
    box.setWindowTitle(title)
    box.setTextFormat(Qt.TextFormat.RichText)
    box.setText(text)
    box.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    accepted(box)


def _where_logs_are(shell: Shell) -> None:
    rows = "".join(f"<p><b>{log_file(part)}</b></p>" for part in ("window", "worker"))
    _tell(
        shell, "Log files",
        f"<p>What went wrong is written down here, with where in the program it did:</p>{rows}"
        "<p>Nothing is sent anywhere. Send these with a report of a fault.</p>",
    )  # fmt: skip


COMMANDS = (
    Command("first-steps", MENU, "First steps", lambda s: _tell(s, "First steps", FIRST_STEPS), "F1"),
    Command("cautions", MENU, "Working safely", lambda s: _tell(s, "Working safely", CAUTIONS)),
    Command("log", MENU, "Log files…", _where_logs_are),
    Command("about", MENU, "About Hollow Keel", lambda s: _tell(s, "About", ABOUT)),
)
