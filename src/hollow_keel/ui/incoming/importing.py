"""Offsets out of other files: tables, meshes, lines drawings, pictures."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFileDialog, QInputDialog

from ...app.open_any import DRAWINGS, MESHES, grids, is_own, job_from_offsets
from ...app.processes.foreign import ForeignRead
from ...core.change import change
from ...core.errors import InputError
from ...core.inch_sizes import blank_job
from ...core.job import Job
from ...files.pictures import SUFFIXES as PICTURES
from ..background.aside import run_aside
from ..files.jobs import TABLE_FILES, files_named
from ..views.dialogs import accepted
from ..window.shell import Shell

if TYPE_CHECKING:
    from ...core.offsets.from_curves import Taken
    from ...core.offsets.table import OffsetsTable
    from ...files.tables.grid import Grid

MESHES_FILTER = f"Scanned hulls ({files_named(MESHES)})"
PICTURES_FILTER = f"Pictures of lines plans ({files_named(PICTURES)})"
IMPORT_FILTER = (
    f"Everything offsets can come from ({TABLE_FILES} {files_named((*DRAWINGS, *MESHES, *PICTURES))});;"
    f"Tables ({TABLE_FILES});;Lines drawings ({files_named(DRAWINGS)});;{MESHES_FILTER};;{PICTURES_FILTER};;All files (*)"
)


def _tables_of(path: Path) -> list[Grid]:
    """The sheets of a file. Raises InputError where there is no table in them."""
    from ...files.tables.reading import understand

    tables = grids(path)
    found = understand(tables)
    if found.layout is None:
        raise InputError(found.problem.rstrip("."), path.name, mend="Choose the file that holds the offsets.")
    return tables


@dataclass
class Importer:
    """Takes offsets out of a file into the job, as one step that can be undone."""

    shell: Shell

    def ask(self, kinds: str = IMPORT_FILTER) -> None:
        """Take offsets out of a file into this job, as one step that can be undone."""
        name, _ = QFileDialog.getOpenFileName(self.shell.top, "Import offsets", self.shell.files.start_folder(), kinds)
        if name:
            self.import_from(Path(name))

    def import_from(self, path: Path) -> None:
        """As `ask`, from this file: a table, a mesh, a lines drawing or a picture."""
        suffix = path.suffix.lower()
        try:
            if suffix in MESHES:
                self._import_taken(path, self._from_mesh(path))
            elif suffix in DRAWINGS:
                self._import_taken(path, self._from_drawing(path))
            elif suffix in PICTURES:
                self._from_picture(path)
            else:
                self._import_table(path)
        except InputError as error:
            self.shell.warn("These offsets could not be read", str(error))

    def _import_table(self, path: Path) -> None:
        """A table of our own without a fault is taken as it is; any other is shown first."""
        strict = path.suffix.lower() == ".json"
        if strict or is_own(path):
            try:
                given = job_from_offsets(path)
            except InputError:
                if strict:
                    raise
            else:
                self._take(f"import {path.name}", given.offsets, given.name, given.waterline)
                return
        self._show_first(_tables_of(path), f"import {path.name}", path.name, path.stem)

    def open_shown(self, path: Path) -> None:
        """A new job around a table that leaves something open, or has faults: shown first. Raises InputError for none."""
        grids = _tables_of(path)
        self._show_first(grids, f"open {path.name}", path.name, path.stem, start=True)

    def type_in(self) -> None:
        """An empty table to be typed into, made from what is on the builder's drawing."""
        from ...app.in_units import job_in_units
        from ...app.typed import job_with_typed
        from .new_table import NewTableDialog

        job = self.shell.session.job
        blank = not job.offsets.rows and job.typed is None
        dialog = NewTableDialog(job.units.style, self.shell.theme_now(), self.shell.top, tape_too=blank)
        if accepted(dialog) and dialog.sheet is not None:
            if dialog.tape_too.isChecked():
                style = dialog.style_of_lengths
                job = job_in_units(job, job.units.model_copy(update={"unit": style.unit, "step": style.step}))
            self.shell.edit("an empty table", job_with_typed(job, dialog.sheet))
            self.shell.go_to_page("offsets")

    def paste(self) -> bool:
        """A table from the clipboard, shown first. Returns whether there was one."""
        from ...files.tables.grid import grid_of_text
        from ...files.tables.reading import understand

        try:
            grid = grid_of_text(QGuiApplication.clipboard().text())
        except InputError as error:
            self.shell.warn("This could not be pasted", str(error))
            return True
        if understand([grid]).layout is None:
            return False
        self._show_first([grid], "paste a table", "the clipboard")
        return True

    def _show_first(self, grids: list[Grid], label: str, source: str, name: str = "", *, start: bool = False) -> None:
        """A table as it was understood; taken where the builder takes it, into this job or (`start`) a new one."""
        from .table_in import TableInDialog

        style = self.shell.session.job.units.style
        dialog = TableInDialog(grids, source, style, self.shell.theme_now(), self.shell.top)
        if not accepted(dialog) or dialog.found.table is None:
            return
        if start:
            self.shell.session.start(blank_job(self.shell.session.job.units))
        self._take(label, dialog.found.table, dialog.found.name or name, dialog.found.waterline)
        if start:
            self.shell.go_to_page("offsets")

    def _take(self, label: str, table: OffsetsTable, name: str, waterline: float | None = None) -> None:
        """A table in the place of the job's own; what else is known with it."""
        job = self.shell.session.job
        fields: dict[str, object] = {"offsets": table, "unfaired": None}
        if waterline is not None:
            fields["waterline"] = waterline
        if name and job.name == Job().name:
            fields["name"] = name
        from ...core.setup_that_suits import suited  # loads what cuts molds

        job, words = suited(change(job, "", **fields))
        self.shell.edit(label, job)
        if words:
            self.shell.say(words)

    def _read(self, what: str, reader: str, path: Path, *arguments: object) -> Any:
        """What a file of another program holds; None if the builder gave it up. Raises InputError."""
        reading = ForeignRead(reader, path, *arguments)
        return run_aside(self.shell.top, f"Reading {what}…", reading.run, reading.stop)

    def _from_mesh(self, path: Path) -> Taken | None:
        from .dialogs import MeshDialog

        mesh = self._read("the mesh", "mesh", path)
        if mesh is None:
            return None
        dialog = MeshDialog(mesh, self.shell.session.job.units.style, self.shell.top)
        return dialog.taken if accepted(dialog) else None

    def _from_drawing(self, path: Path) -> Taken | None:
        from .dialogs import DrawingDialog

        drawing = self._read("the drawing", "drawing", path)
        if drawing is None:
            return None
        dialog = DrawingDialog(drawing, self.shell.session.job.units.style, self.shell.theme_now(), self.shell.top)
        return dialog.taken if accepted(dialog) else None

    def _import_taken(self, path: Path, taken: Taken | None) -> None:
        """Take over a table that was made of something else, and tell what could not be used."""
        if taken is None:
            return
        table = taken.table.model_copy(update={"to_inside": self.shell.session.job.offsets.to_inside})
        self._take(f"import {path.name}", table, path.stem)
        if taken.remarks:
            from .what_came import WhatCame

            accepted(WhatCame(taken, self.shell.session.job.units.style, self.shell.theme_now(), self.shell.top))

    def _from_picture(self, path: Path) -> None:
        from .pick_dialog import PickDialog

        page, count = 0, self._read("the picture", "pages", path) if path.suffix.lower() == ".pdf" else 1
        if count is None:
            return
        if count > 1:
            number, sure = QInputDialog.getInt(self.shell.top, "Which page?", f"The PDF has {count} pages:", 1, 1, count)
            if not sure:
                return
            page = number - 1
        picture = self._read("the picture", "picture", path, page)
        if picture is None:
            return
        job = self.shell.session.job
        dialog = PickDialog(picture, job.offsets, job.units.style, self.shell.theme_now(), self.shell.top)
        if accepted(dialog):
            self.shell.edit(f"points off {path.name}", change(job, "", offsets=dialog.table))
