"""First steps, working safely, where things are kept."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QMessageBox, QTextBrowser, QVBoxLayout

from ...app.log import log_file
from ..views.dialogs import accepted
from ..window.command import Command
from ..window.shell import Shell
from ..window.texts import CAUTIONS, DRAWING_KEYS
from ..window.tour import Tour

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
        shell,
        "Log files",
        f"<p>What went wrong is written down here, with where in the program it did:</p>{rows}"
        "<p>Nothing is sent anywhere. Send these with a report of a fault.</p>",
    )


def _keys(shell: Shell) -> str:
    """Every key: those of the menus and those within a drawing."""
    keys = [(a.shortcut().toString(), a.text()) for _, a in shell.menus.named() if not a.shortcut().isEmpty()]
    rows = "".join(f"<tr><td><b>{key}</b>&nbsp;&nbsp;&nbsp;</td><td>{text}</td></tr>" for key, text in (*DRAWING_KEYS, *keys))
    return f"<h3>All keys</h3><table cellspacing=3>{rows}</table>"


def _read(shell: Shell, title: str, text: str) -> None:
    """A longer text, to be scrolled."""
    dialog = QDialog(shell.top)
    dialog.setWindowTitle(title)
    page = QTextBrowser()
    page.setHtml(text)
    page.setAccessibleName(title)
    buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
    buttons.rejected.connect(dialog.reject)
    column = QVBoxLayout(dialog)
    column.addWidget(page)
    column.addWidget(buttons)
    dialog.resize(620, 560)
    accepted(dialog)


COMMANDS = (
    Command("first-steps", MENU, "First steps: a short tour", Tour, "F1"),
    Command("keys", MENU, "All keys", lambda s: _read(s, "All keys", _keys(s))),
    Command("cautions", MENU, "Working safely", lambda s: _tell(s, "Working safely", CAUTIONS)),
    Command("log", MENU, "Log files…", _where_logs_are),
    Command("about", MENU, "About Hollow Keel", lambda s: _tell(s, "About", ABOUT)),
)
