"""A window's menus: every command by its id, units, colours, recent files."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QMenu, QToolButton

from ..core.job import Job
from ..core.units import STYLES, LengthStyle, format_length
from .actions import ACTIONS, BELOW
from .files_window import FilesWindow


class MenuWindow(FilesWindow):
    """Builds the menus from the registry of actions; what each command does is the window's own business."""

    units_button: QToolButton

    def __init__(self, job: Job, folder: Path, path: Path | None) -> None:
        super().__init__(job, folder, path)
        self.actions_by_id: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}

    def command(self, name: str) -> Callable[[], object]:
        """What a command does, by its id."""
        raise NotImplementedError

    def set_units(self, style: LengthStyle) -> None:
        """How lengths are shown and bare numbers read."""
        raise NotImplementedError

    def set_theme(self, name: str) -> None:
        """Light, dark or as the system."""
        raise NotImplementedError

    def _build_menus(self) -> None:
        for kind in ACTIONS:
            menu = self._menu(kind.menu)
            if not kind.text:
                menu.addSeparator()
                continue
            if kind.id in ("recent", "units", "theme"):
                self.menus[kind.id] = menu.addMenu(kind.text)
                continue
            action = menu.addAction(kind.text)
            if kind.shortcut:
                action.setShortcut(QKeySequence(kind.shortcut))
            action.triggered.connect(self.command(kind.id))
            self.actions_by_id[kind.id] = action
        self.actions_by_id["bow-side"].setCheckable(True)
        self.actions_by_id["bow-side"].setChecked(self.settings.bow_right)
        self._build_units_menu()
        self._build_theme_menu()
        self.menus["recent"].aboutToShow.connect(self._fill_recent)

    def _menu(self, name: str) -> QMenu:
        """A menu by its name, made where it is not there yet."""
        if name not in self.menus:
            above, _, own = name.rpartition(BELOW)
            self.menus[name] = (self._menu(above) if above else self.menuBar()).addMenu(own)
        return self.menus[name]

    def _build_units_menu(self) -> None:
        group = QActionGroup(self)
        self._style_actions: dict[LengthStyle, QAction] = {}
        for style in STYLES:
            action = self.menus["units"].addAction(
                f"{style.name}, {style.rounding_name}   ({format_length(1613, style)})"
            )
            action.setCheckable(True)
            group.addAction(action)
            action.triggered.connect(lambda _=False, s=style: self.set_units(s))
            self._style_actions[style] = action
        self.units_button.setMenu(self.menus["units"])

    def _build_theme_menu(self) -> None:
        group = QActionGroup(self)
        for name, text in (("system", "As the system"), ("light", "Light"), ("dark", "Dark")):
            action = self.menus["theme"].addAction(text)
            action.setCheckable(True)
            action.setChecked(self.settings.theme == name)
            group.addAction(action)
            action.triggered.connect(lambda _=False, n=name: self.set_theme(n))

    def _fill_recent(self) -> None:
        menu = self.menus["recent"]
        menu.clear()
        for name in self.settings.recent:
            action = menu.addAction(name)
            action.triggered.connect(lambda _=False, n=name: self.open_job(Path(n)))
        if not self.settings.recent:
            menu.addAction("No files yet").setEnabled(False)
