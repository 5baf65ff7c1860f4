"""The window's menus: every command by its id; units, colours, recent files."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QMenu

from ...app.in_units import job_in_units
from ...core.errors import InputError
from ...core.units import STYLES, LengthStyle, format_length
from .command import BELOW, Command
from .shell import Shell

FILLED = ("recent", "units", "theme")


class Menus:
    """Built from commands. `actions` are Qt's, by the command's id; `menus` by their names."""

    def __init__(self, shell: Shell, commands: Sequence[Command]) -> None:
        self._shell = shell
        self.commands = {c.id: c for c in commands if c.text}
        self.actions: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        for command in commands:
            if command.menu:
                self._add(command)
        self._styles = self._units_menu()
        self._theme_menu()
        self.menus["recent"].aboutToShow.connect(self._fill_recent)

    def _add(self, command: Command) -> None:
        menu = self._menu(command.menu)
        if not command.text:
            menu.addSeparator()
            return
        if command.id in FILLED:
            self.menus[command.id] = menu.addMenu(command.text)
            return
        action = menu.addAction(command.text)
        if command.shortcut:
            action.setShortcut(QKeySequence(command.shortcut))
        if command.checked is not None:
            action.setCheckable(True)
            action.setChecked(command.checked(self._shell))
        action.triggered.connect(self.run(command.id))
        self.actions[command.id] = action

    def _menu(self, name: str) -> QMenu:
        """A menu by its name, made where it is not there yet."""
        if name not in self.menus:
            above, _, own = name.rpartition(BELOW)
            self.menus[name] = (self._menu(above) if above else self._shell.top.menuBar()).addMenu(own)
        return self.menus[name]

    def run(self, name: str) -> Callable[[], object]:
        """What a command does, by its id; what cannot be of what was typed for it is said."""
        act = self.commands[name].run
        assert act is not None

        def run() -> object:
            try:
                return act(self._shell)
            except InputError as error:
                self._shell.warn("This cannot be", str(error))
                return None

        return run

    def named(self) -> list[tuple[str, QAction]]:
        """All commands with the menus they stand in."""
        return [(self.commands[name].menu, action) for name, action in self.actions.items()]

    def show_state(self, style: LengthStyle, undo: str, redo: str) -> None:
        """Units in use, and what can be taken back or done again."""
        self._styles.get(style, QAction()).setChecked(True)
        for name, word, label in (("undo", "Undo", undo), ("redo", "Redo", redo)):
            self.actions[name].setEnabled(bool(label))
            self.actions[name].setText(f"{word} {label}".strip())

    def _units_menu(self) -> dict[LengthStyle, QAction]:
        group = QActionGroup(self._shell.top)
        found = {}
        for style in STYLES:
            text = f"{style.name}, {style.rounding_name}   ({format_length(1613, style)})"
            action = self.menus["units"].addAction(text)
            action.setCheckable(True)
            group.addAction(action)
            action.triggered.connect(lambda _=False, s=style: set_units(self._shell, s))
            found[style] = action
        return found

    def _theme_menu(self) -> None:
        group = QActionGroup(self._shell.top)
        for name, text in (("system", "As the system"), ("light", "Light"), ("dark", "Dark")):
            action = self.menus["theme"].addAction(text)
            action.setCheckable(True)
            action.setChecked(self._shell.settings.theme == name)
            group.addAction(action)
            action.triggered.connect(lambda _=False, n=name: self._shell.set_theme(n))

    def _fill_recent(self) -> None:
        menu = self.menus["recent"]
        menu.clear()
        for name in self._shell.settings.recent:
            action = menu.addAction(name)
            action.triggered.connect(lambda _=False, n=name: self._shell.files.open_job(Path(n)))
        if not self._shell.settings.recent:
            menu.addAction("No files yet").setEnabled(False)


def set_units(shell: Shell, style: LengthStyle) -> None:
    """How lengths are shown and bare numbers read."""
    job = shell.session.job
    units = job.units.model_copy(update={"unit": style.unit, "step": style.step})
    shell.edit("units", job_in_units(job, units))
