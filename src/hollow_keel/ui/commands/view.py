"""What is seen: pages, units, colours, drawings."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QApplication

from ..pages.registry import PAGES
from ..views.drawing_view import DrawingView
from ..window.command import Command, line
from ..window.shell import Shell

MENU = "View"


def _page(page: str) -> Callable[[Shell], None]:
    return lambda shell: shell.go_to_page(page)


def _in_drawing(act: Callable[[DrawingView], None]) -> Callable[[Shell], None]:
    """Something done in the drawing that is worked in, or the page's first."""

    def run(shell: Shell) -> None:
        focus = QApplication.focusWidget()
        view = focus if isinstance(focus, DrawingView) else shell.page.findChild(DrawingView)
        if view is not None:
            act(view)

    return run


def _turn_keel_line(shell: Shell) -> None:
    shell.keep_settings(shell.settings.model_copy(update={"bow_right": not shell.settings.bow_right}))
    shell.show_again()


COMMANDS = (
    *(Command(f"page-{p.stage}", MENU, p.name, _page(p.stage), p.shortcut) for p in PAGES),
    line(MENU),
    Command("drawer", MENU, "Table below the drawing", lambda s: s.toggle_drawer(), "F8"),
    Command("side", MENU, "Bench card and what you decide", lambda s: s.show_side(s.side_hidden), "F7"),
    Command("alone", MENU, "The drawing alone", lambda s: s.show_drawing_alone(not s.drawing_alone), "F9"),
    line(MENU),
    Command("units", MENU, "Units and rounding"),
    Command("choose-units", "", "Choose units", lambda s: s.menus.menus["units"].popup(QCursor.pos())),
    Command("fit", MENU, "Fit the drawing (F in a drawing)", _in_drawing(DrawingView.fit), "Ctrl+0"),
    Command("measure", MENU, "Measure in the drawing (M in a drawing)", _in_drawing(DrawingView.start_measuring), "Ctrl+M"),
    Command("bow-side", MENU, "Bow to the right", _turn_keel_line, checked=lambda s: s.settings.bow_right),
    Command("theme", MENU, "Light, dark or the system's"),
)
