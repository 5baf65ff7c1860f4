"""Lines and stations of the table of offsets: one more, one taken out, the hull measured on them anew."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ....app.habit import measured_by_lines
from ....core.hull.restation import with_station
from ....core.offsets.by_lines import sound_plane, with_line, without_line
from ....core.offsets.table import DECK_LABELS, STATION_LABELS, LineKind, TableLine
from ....core.results import Shape, deck_of_table
from ....drawing.lines.table_changes import plane_on, stations_at
from ...decide.ask import AskDialog, Asked, Values
from ...views.dialogs import accepted

if TYPE_CHECKING:
    from .page import OffsetsPage

LINE_KINDS = {LineKind.WATERLINE: "waterline", LineKind.BUTTOCK: "buttock", LineKind.DIAGONAL: "diagonal"}


def _plane(values: Values) -> TableLine:
    """The line that was asked for. Raises InputError."""
    kind = values["It is"]
    if kind is LineKind.WATERLINE:
        return sound_plane(kind, values["At height"], 0.0)
    if kind is LineKind.BUTTOCK:
        return sound_plane(kind, values["Off the centreline"], 0.0)
    return sound_plane(kind, values["From the centreline at height"], values["Down from level by"])


class LinesAndStations:
    """What is done to them on the page of offsets; each is one step."""

    def __init__(self, page: OffsetsPage) -> None:
        self._page = page

    def ask_line(self) -> None:
        """Ask for a line to measure on."""
        shape = self._page.state.drawn_from(self._page.state.job.offsets)
        asked = [
            Asked("It is", LineKind.WATERLINE, choices=LINE_KINDS),
            Asked("At height", 250.0, ours=True, when=lambda v: v["It is"] is LineKind.WATERLINE),
            Asked("Off the centreline", 150.0, ours=True, when=lambda v: v["It is"] is LineKind.BUTTOCK),
            Asked("From the centreline at height", 400.0, ours=True, when=lambda v: v["It is"] is LineKind.DIAGONAL),
            Asked("Down from level by", 40.0, "degrees", when=lambda v: v["It is"] is LineKind.DIAGONAL),
        ]
        picture = None if shape is None else lambda v: plane_on(shape, _plane(v))
        dialog = AskDialog(
            "Add a line",
            asked,
            self._page.state.style,
            self._page.state.theme,
            picture,
            parent=self._page,
            check=_plane,  # also where there is no hull to draw it on
        )
        if accepted(dialog):
            plane = _plane(dialog.values)
            name = f"{LINE_KINDS[plane.kind]} {self._page.state.write(plane.level)}"
            self._page.attempt(f"add {name}", lambda table: with_line(table, plane))

    def take_out_line(self) -> None:
        """Take out the current line and the points that lie only on it."""
        line = self._page.lines_table.current_line()
        if line is None:
            self._page.said.emit("Choose a row first.")
            return
        self._page.attempt(f"take out {self._page.lines_model.line_name(line)}", lambda table: without_line(table, line))

    def measure_on_lines(self) -> None:
        """Write the hull down on waterlines and buttocks."""
        shape = self._drawn()
        if shape is not None:
            self._page.attempt("measure on waterlines and buttocks", lambda table: measured_by_lines(shape))

    def ask_station(self) -> None:
        """Ask for a station's position and add it."""
        shape = self._drawn()
        if shape is None:
            return
        xs = [s.x for s in shape.lines.stations]
        middle = (xs[len(xs) // 2 - 1] + xs[len(xs) // 2]) / 2
        dialog = AskDialog(
            "Add a station",
            [Asked("Along the hull at", middle)],
            self._page.state.style,
            self._page.state.theme,
            lambda v: stations_at(shape, [v["Along the hull at"]]),
            parent=self._page,
            intro="Its offsets are measured on the lines as they are now.",
        )
        if accepted(dialog):
            x = dialog.values["Along the hull at"]
            self._page.attempt("add a station", lambda table: with_station(table, shape.hull, x, deck=deck_of_table(shape)))

    def take_out_station(self) -> None:
        """Take out the station of the current cell."""
        x = self._page.station_of(self._page.current_table.currentIndex().row(), self._page.current_table.currentIndex().column())
        if x is None:
            self._page.said.emit("Choose a cell of the station first.")
            return
        rows = tuple(r for r in self._page.model.rows if r.label not in STATION_LABELS | DECK_LABELS or r.station != x)
        self._page.change_rows(f"take out station {self._page.state.write(x)}", rows)

    def _drawn(self) -> Shape | None:
        shape = self._page.state.drawn_from(self._page.state.job.offsets)
        if shape is None:
            self._page.said.emit("The lines must be drawn first: put the table right, then try again.")
        return shape
