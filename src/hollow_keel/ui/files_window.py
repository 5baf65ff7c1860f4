"""A window's files: opening, importing, saving, exporting, and keeping unsaved work safe."""

from __future__ import annotations

import contextlib
import threading
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QApplication, QFileDialog, QInputDialog, QMainWindow, QMessageBox

from ..app.exports import Export
from ..app.open_any import job_from_offsets
from ..app.overrides import change
from ..app.session import Session, clear_recovery
from ..app.settings import Settings, load_settings, save_settings
from ..core.errors import HollowKeelError, InputError
from ..core.job import Job
from ..core.results import Results
from ..core.units import format_length, parse_length
from ..demo.jobs import demo_job
from ..files.atomic import write_atomic
from ..files.job_file import BACKUP, SUFFIX, load_job
from .aside import run_aside
from .dialogs import accepted
from .sentences import sentence
from .theme import Theme


def take_typed() -> None:
    """A field or cell that is being typed into takes what stands in it, as if it were left."""
    focused = QApplication.focusWidget()
    if focused is not None:
        focused.clearFocus()


if TYPE_CHECKING:
    from ..core.offsets.from_curves import Taken

IMPORT_FILTER = (
    "Everything offsets can come from (*.csv *.json *.dxf *.stl *.obj *.png *.jpg *.jpeg *.pdf);;"
    "Tables (*.csv *.json);;Lines drawings (*.dxf);;Scanned hulls (*.stl *.obj);;"
    "Pictures of lines plans (*.png *.jpg *.jpeg *.pdf);;All files (*)"
)
OPEN_FILTER = (
    f"Jobs and offsets (*{SUFFIX} *.csv *.json);;Jobs (*{SUFFIX});;Backups of jobs (*{SUFFIX}{BACKUP});;"
    "Offsets (*.csv *.json);;All files (*)"
)
RECOVERY = "recovery" + SUFFIX
RECOVERY_MS = 3000
"""Unsaved work is kept safe this long after the last change."""


class FilesWindow(QMainWindow):
    """Holds the session and everything that touches the disk. `folder` holds settings and the recovery file."""

    unsafe = Signal(str)

    def __init__(self, job: Job, folder: Path, path: Path | None) -> None:
        super().__init__()
        self.folder = folder
        self.settings: Settings = load_settings(folder)
        self.session = Session(job, path)
        self._keeper: threading.Thread | None = None
        self._recovery = QTimer(self)
        self._recovery.setSingleShot(True)
        self._recovery.setInterval(RECOVERY_MS)
        self._recovery.timeout.connect(self._keep_recovery)
        self.session.listeners.append(self._recovery.start)

    # What the window itself knows how to do.

    def say(self, text: str) -> None:
        """A message in the status line."""
        raise NotImplementedError

    def sentence(self, text: str) -> str:
        """A text with its lengths written in the builder's units."""
        return sentence(text, self.session.job.units.style)

    def show_again(self) -> None:
        """Show the present state, its title and marks."""
        raise NotImplementedError

    def show_first_page(self) -> None:
        """Open the page where work begins."""
        raise NotImplementedError

    def theme_now(self) -> Theme:
        """The colours in use."""
        raise NotImplementedError

    def results_for(self, export: Export) -> Results | None:
        """What a kind of file is made from, waited for; None if the builder gave it up. Raises what computing raises."""
        raise NotImplementedError

    def remember_printed(self) -> None:
        """The mold patterns have been written out as the molds are now."""
        raise NotImplementedError

    def new_job(self) -> None:
        """Begin with an empty table."""
        if self._may_leave():
            self.session.start(Job(units=self.session.job.units))
            self.show_first_page()

    def start_demo(self, name: str) -> None:
        """Begin with a demo job."""
        if self._may_leave():
            self.session.start(demo_job(name))

    def open_job(self, path: Path | None = None) -> None:
        """Open a job or a table of offsets."""
        if not self._may_leave():
            return
        if not path:
            name, _ = QFileDialog.getOpenFileName(self, "Open", self._start_folder(), OPEN_FILTER)
            if not name:
                return
            path = Path(name)
        try:
            self.session.open(path)
        except InputError as error:
            self.warn("This could not be opened", str(error))
            return
        self._remember(path)
        self.show_again()

    def import_offsets(self) -> None:
        """Take offsets out of a file into this job, as one step that can be undone."""
        name, _ = QFileDialog.getOpenFileName(self, "Import offsets", self._start_folder(), IMPORT_FILTER)
        if name:
            self.import_from(Path(name))

    def import_from(self, path: Path) -> None:
        """As import_offsets, from this file: a table, a mesh, a lines drawing or a picture."""
        from ..files.mesh_hull import (
            SUFFIXES as MESHES,
        )  # the readers of all this are not needed at the start
        from ..files.picture import SUFFIXES as PICTURES

        suffix = path.suffix.lower()
        try:
            if suffix in MESHES:
                self._import_taken(path, self._from_mesh(path))
            elif suffix == ".dxf":
                self._import_taken(path, self._from_drawing(path))
            elif suffix in PICTURES:
                self._from_picture(path)
            else:
                self._import_table(path)
        except InputError as error:
            self.warn("These offsets could not be read", str(error))

    def _import_table(self, path: Path) -> None:
        given = job_from_offsets(path)
        job = self.session.job
        fields: dict[str, object] = {"offsets": given.offsets, "unfaired": None}
        if given.waterline is not None:
            fields["waterline"] = given.waterline
        if job.name == Job().name:
            fields["name"] = given.name
        self.session.edit(f"import {path.name}", change(job, "", **fields))

    def _from_mesh(self, path: Path) -> Taken | None:
        from ..files.mesh_hull import read_mesh
        from .import_dialogs import MeshDialog

        mesh = run_aside(self, "Reading the mesh…", lambda: read_mesh(path))
        if mesh is None:
            return None
        dialog = MeshDialog(mesh, self.session.job.units.style, self)
        return dialog.taken if accepted(dialog) else None

    def _from_drawing(self, path: Path) -> Taken | None:
        from ..files.lines_dxf import read_drawing
        from .import_dialogs import DrawingDialog

        drawing = run_aside(self, "Reading the drawing…", lambda: read_drawing(path))
        if drawing is None:
            return None
        dialog = DrawingDialog(drawing, self.session.job.units.style, self.theme_now(), self)
        return dialog.taken if accepted(dialog) else None

    def _import_taken(self, path: Path, taken: Taken | None) -> None:
        """Take over a table that was made of something else, and tell what could not be used."""
        if taken is None:
            return
        job = self.session.job
        table = taken.table.model_copy(update={"to_inside": job.offsets.to_inside})
        fields: dict[str, object] = {"offsets": table, "unfaired": None}
        if job.name == Job().name:
            fields["name"] = path.stem
        self.session.edit(f"import {path.name}", change(job, "", **fields))
        if taken.remarks:
            QMessageBox.information(
                self, "What to know about these offsets", self.sentence("\n\n".join(taken.remarks))
            )

    def _from_picture(self, path: Path) -> None:
        from ..files.picture import page_count, read_picture
        from .pick_dialog import PickDialog

        page, count = 0, page_count(path)
        if count > 1:
            number, sure = QInputDialog.getInt(
                self, "Which page?", f"The PDF has {count} pages:", 1, 1, count
            )
            if not sure:
                return
            page = number - 1
        picture = run_aside(self, "Reading the picture…", lambda: read_picture(path, page))
        if picture is None:
            return
        job = self.session.job
        dialog = PickDialog(picture, job.offsets, job.units.style, self.theme_now(), self)
        if accepted(dialog):
            self.session.edit(f"points off {path.name}", change(job, "", offsets=dialog.table))

    def save(self) -> bool:
        """Save where it came from, or ask where."""
        take_typed()
        return self._save_to(self.session.path) if self.session.path else self.save_as()

    def save_as(self) -> bool:
        """Ask where to save."""
        take_typed()
        start = self.session.path or Path(self._start_folder()) / f"{self.session.job.name.lower()}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save as", str(start), f"Jobs (*{SUFFIX})")
        return bool(name) and self._save_to(Path(name))

    def _save_to(self, path: Path) -> bool:
        try:
            target = self.session.save(path)
        except InputError as error:
            self.warn("This could not be saved", str(error))
            return False
        self._remember(target)
        self._keep_recovery()
        self.show_again()
        self.say(f"Saved {target.name}")
        return True

    def export(self, export: Export, path: Path | None = None) -> None:
        """Write one kind of file."""
        if not self.session.job.offsets.rows:
            self.warn("Nothing to write yet", "This job has no offsets.")
            return
        if path is None:
            start = (
                Path(self._start_folder())
                / f"{self.session.job.name.lower()}-{export.kind.rsplit('-', 1)[0]}{export.suffix}"
            )
            name, _ = QFileDialog.getSaveFileName(self, export.name, str(start), f"*{export.suffix}")
            if not name:
                return
            path = Path(name)
        try:
            results = self.results_for(export)
            data = results and run_aside(self, "Writing…", lambda: export.write(results))
            if data is None:
                self.say("Nothing was written.")
                return
            write_atomic(path, data)
        except HollowKeelError as error:
            self.warn("This could not be written", str(error))
            return
        self.say(f"Wrote {path.name}")
        if export.patterns:
            self.remember_printed()

    def foil_template(self) -> None:
        """Ask for chord and thickness, and write the section with its two templates at full size."""
        from ..drawing.foil import foil_drawing
        from ..files.mold_pdf import drawings_pdf

        style = self.session.job.units.style
        start = f"{format_length(300, style)}; {format_length(36, style)}"
        text, sure = QInputDialog.getText(self, "Foil template", "Chord; thickness:", text=start)
        if not sure:
            return
        try:
            parts = [parse_length(part, style.unit) for part in text.split(";")]
            if len(parts) != 2:
                raise InputError(
                    "chord and thickness are needed", value=text, mend="Write for example 300; 36."
                )
            data = drawings_pdf(
                [foil_drawing(parts[0], parts[1], style)], "Foil", self.session.job.printing.correction
            )
            name, _ = QFileDialog.getSaveFileName(
                self, "Foil template", str(Path(self._start_folder()) / "foil.pdf"), "*.pdf"
            )
            if name:
                write_atomic(Path(name), data)
                self.say(f"Wrote {Path(name).name}")
        except InputError as error:
            self.warn("No template", str(error))

    def offer_recovery(self) -> None:
        """Give back what an earlier session could not save."""
        path = self.folder / RECOVERY
        if not path.is_file():
            return
        with contextlib.suppress(InputError):
            job = load_job(path)
            box = QMessageBox.question(
                self, "Work that was not saved",
                f"Hollow Keel ended before the job “{job.name}” was saved. Take up that work again?",
            )  # fmt: skip
            if box == QMessageBox.StandardButton.Yes:
                self.session.start(job, saved=False)

    def _keep_recovery(self) -> None:
        """Keep unsaved work safe, away from the window: it waits for the disk."""
        self.wait_for_recovery()
        keep = self.session.recovery(self.folder / RECOVERY)

        def work() -> None:
            try:
                keep()
            except (InputError, OSError) as error:
                self.unsafe.emit(f"Unsaved work cannot be kept safe: {error}")

        self._keeper = threading.Thread(target=work, name="recovery")
        self._keeper.start()

    def wait_for_recovery(self) -> None:
        """Until the last keeping of unsaved work is on the disk."""
        if self._keeper is not None:
            self._keeper.join()
            self._keeper = None

    def _may_leave(self) -> bool:
        take_typed()
        if not self.session.changed:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self,
            "Not saved",
            f"Save the changes to {self.session.job.name} first?",
            buttons.Save | buttons.Discard | buttons.Cancel,
        )
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard

    def _start_folder(self) -> str:
        if self.session.path:
            return str(self.session.path.parent)
        return str(Path(self.settings.recent[0]).parent) if self.settings.recent else str(Path.home())

    def _remember(self, path: Path) -> None:
        self._keep_settings(self.settings.with_recent(path))

    def _keep_settings(self, settings: Settings) -> None:
        self.settings = settings
        save_settings(settings, self.folder)

    def warn(self, title: str, text: str) -> None:
        """One clear message about what went wrong and the mend."""
        self.say(text)
        QMessageBox.warning(self, title, self.sentence(text))

    def forget_recovery(self) -> None:
        """Nothing is unsaved any more: clear what was kept."""
        self._recovery.stop()
        self.wait_for_recovery()
        clear_recovery(self.folder / RECOVERY)
