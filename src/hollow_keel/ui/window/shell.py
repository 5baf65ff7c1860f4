"""What commands, dialogs and files may do with the window: the window knows none of them by name."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from PySide6.QtWidgets import QMainWindow, QWidget

from ...core.job import Job

if TYPE_CHECKING:
    from ...app.export import Export
    from ...app.session import Session
    from ...app.settings import Settings
    from ...core.results import Results
    from ..files.exporting import Exporter
    from ..files.jobs import Files
    from ..incoming.importing import Importer
    from ..pages.page import Page
    from .menus import Menus
    from .state import State
    from .theme import Theme


class Shell(Protocol):
    """The window as its parts see it. `top` is what dialogs stand over; every `edit` is one step that can be undone."""

    session: Session
    state: State
    settings: Settings
    folder: Path
    versions: Path
    files: Files
    importer: Importer
    exporter: Exporter
    menus: Menus

    @property
    def top(self) -> QMainWindow:
        """What dialogs stand over."""

    @property
    def page(self) -> Page:
        """The page on show."""

    def edit(self, label: str, job: Job) -> None:
        """Put another job in place of the present one."""

    def say(self, text: str) -> None:
        """A message in the status line."""

    def warn(self, title: str, text: str) -> None:
        """One clear message about what went wrong and the mend."""

    def sentence(self, text: str) -> str:
        """A text with its lengths written in the builder's units."""

    def go_to_page(self, page: str) -> None:
        """Open a page by its id."""

    def show_again(self) -> None:
        """Show the present state, its title and marks."""

    def keep_settings(self, settings: Settings) -> None:
        """Remember settings of the window."""

    def set_theme(self, name: str) -> None:
        """Light, dark or as the system."""

    def theme_now(self) -> Theme:
        """The colours in use."""

    def place(self, name: str) -> QWidget:
        """A part of the window: order, side, keel or menu."""

    def toggle_drawer(self) -> None:
        """Open or close the table of the page."""

    @property
    def side_hidden(self) -> bool:
        """Whether bench card and decisions are hidden."""

    def show_side(self, shown: bool) -> None:
        """The bench card and what is decided, or not."""

    @property
    def drawing_alone(self) -> bool:
        """Whether the page is all that is seen."""

    def show_drawing_alone(self, alone: bool) -> None:
        """Nothing but the page."""

    def step_mold(self, step: int) -> None:
        """The next mold aft (1) or forward (-1)."""

    def stop_work(self) -> None:
        """Give up what is being worked out."""

    def close(self) -> bool:
        """Close the window, asking what must be asked."""

    def command(self, name: str) -> Callable[[], object]:
        """What a command does, by its id."""

    def results_for(self, export: Export) -> Results | None:
        """What a kind of file is made from, waited for; None if the builder gave it up."""
