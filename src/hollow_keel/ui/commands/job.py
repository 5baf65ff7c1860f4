"""The job as a whole: its file, its name."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QInputDialog

from ...core.change import change
from ...demo.jobs import DEMOS
from ..incoming.importing import MESHES_FILTER, PICTURES_FILTER
from ..window.command import Command, line
from ..window.shell import Shell

MENU = "Job"


def rename(shell: Shell) -> None:
    """Ask for the job's name."""
    job = shell.session.job
    name, sure = QInputDialog.getText(shell.top, "Name of the job", "Name", text=job.name)
    if sure and name.strip():
        shell.edit("name", change(job, "", name=name.strip()))


def _demo(name: str) -> Callable[[Shell], None]:
    return lambda shell: shell.files.start_demo(name)


def paste_table(shell: Shell) -> None:
    """A table from the clipboard."""
    if not shell.importer.paste():
        shell.warn("No table there", "The clipboard holds no table of offsets: copy it with its headings, then try again.")


COMMANDS = (
    Command("new", MENU, "New job", lambda s: s.files.new_job(), "Ctrl+N"),
    Command("open", MENU, "Open…", lambda s: s.files.open_job(), "Ctrl+O"),
    Command("recent", MENU, "Open recent"),
    Command("import", MENU, "Import offsets…", lambda s: s.importer.ask(), "Ctrl+I"),
    Command("type-table", MENU, "Type a table of offsets…", lambda s: s.importer.type_in()),
    Command("paste-table", MENU, "Paste a table of offsets…", paste_table, "Ctrl+Shift+V"),
    Command("pick-picture", "", "Pick points on a picture…", lambda s: s.importer.ask(PICTURES_FILTER)),
    Command("import-mesh", "", "Take a scanned hull…", lambda s: s.importer.ask(MESHES_FILTER)),
    *(Command(f"demo-{name}", MENU, f"Demo: {name.capitalize()}", _demo(name)) for name in DEMOS),
    line(MENU),
    Command("rename", MENU, "Name of the job…", rename),
    Command("save", MENU, "Save", lambda s: s.files.save(), "Ctrl+S"),
    Command("save-as", MENU, "Save as…", lambda s: s.files.save_as(), "Ctrl+Shift+S"),
    line(MENU),
    Command("versions", MENU, "Earlier versions…", lambda s: s.files.show_versions()),
    Command("unsaved", MENU, "Work that was not saved…", lambda s: s.files.show_recovery()),
    line(MENU),
    Command("quit", MENU, "Quit", lambda s: s.close(), "Ctrl+Q"),
)
