"""Files written out of the window."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox

from ...app.export import Export
from ...app.exports import EXPORTS
from ...app.outputs import refuse_over
from ...core.change import change
from ...core.errors import HollowKeelError, InputError
from ...core.words import verb
from ...files.store.atomic import write_atomic
from ..background.aside import run_aside
from ..decide.ask import AskDialog, Asked
from ..views.dialogs import accepted
from ..window.shell import Shell

if TYPE_CHECKING:
    from ...core.results import Results


NAMED = 4
"""So many files that would be written over are named."""


def _written(export: Export, results: Results) -> bytes:
    """The file, with what is worked out for nobody but who asks for it."""
    from ...core.pipeline import completed

    return export.write(completed(results, export.needs))


@dataclass
class Exporter:
    """Writes one kind of file, waiting for what it is made from."""

    shell: Shell

    def export(self, export: Export, path: Path | None = None) -> None:
        """Write one kind of file."""
        if not self.shell.session.job.offsets.rows:
            self.shell.warn("Nothing to write yet", "This job has no offsets.")
            return
        if path is None:
            start = Path(self.shell.files.start_folder()) / self._file_name(export)
            name, _ = QFileDialog.getSaveFileName(self.shell.top, export.name, str(start), f"*{export.suffix}")
            if not name:
                return
            path = Path(name)
        try:
            results = self.shell.results_for(export)
            data = None if results is None else run_aside(self.shell.top, "Writing…", partial(_written, export, results))
            if results is None or data is None:
                self.shell.say("Nothing was written.")
                return
            self._write(path, data)
        except HollowKeelError as error:
            self.shell.warn("This could not be written", str(error))
            return
        missing = "".join(f" Left out: {self.shell.sentence(text)}" for text in export.lacks(results))
        self.shell.say(f"Wrote {path.name}.{missing}" if missing else f"Wrote {path.name}")
        if export.patterns:
            self._remember_printed()

    def for_shop(self, folder: Path | None = None) -> None:
        """All that is wanted on paper when the work begins, into one folder; what there is nothing of is left out, and said."""
        if not self.shell.session.job.offsets.rows:
            self.shell.warn("Nothing to write yet", "This job has no offsets.")
            return
        if folder is None:
            start = self.shell.files.start_folder()
            name = QFileDialog.getExistingDirectory(self.shell.top, "Everything for the shop", start)
            if not name:
                return
            folder = Path(name)
        wrote: list[str] = []
        left_out: list[str] = []
        exports = [e for e in EXPORTS if e.shop and e.when(self.shell.session.job)]
        folder = folder / self._job_name()
        there = [name for name in map(self._file_name, exports) if (folder / name).exists()]
        if there and not self._sure_over(folder, there):
            self.shell.say("Nothing was written.")
            return
        try:
            folder.mkdir(exist_ok=True)
        except OSError as error:
            self.shell.warn("This could not be written", f"{folder}: {error.strerror}.")
            return
        for export in exports:
            results = self.shell.results_for(export)
            if results is None:
                self.shell.say("Given up: " + (", ".join(wrote) or "nothing") + " was written.")
                return
            path = folder / self._file_name(export)
            try:
                work = partial(_written, export, results)
                data = run_aside(self.shell.top, f"Writing {path.name}…", work)
                if data is None:
                    break
                self._write(path, data)
            except HollowKeelError as error:
                left_out.append(f"{export.name}: {self.shell.sentence(str(error))}")
                continue
            wrote.append(path.name)
            left_out += [f"{export.name}: {self.shell.sentence(text)}" for text in export.lacks(results)]
            if export.patterns:
                self._remember_printed()
        said = f"Wrote {len(wrote)} files into {folder.name}: {', '.join(wrote)}."
        self.shell.say(said + (f" Left out: {' '.join(left_out)}" if left_out else ""))

    def _write(self, path: Path, data: bytes) -> None:
        """An output in its place, which is not this job, nor any. Raises InputError."""
        own = self.shell.session.path
        refuse_over(path, [] if own is None else [own])
        write_atomic(path, data)

    def _sure_over(self, folder: Path, there: Sequence[str]) -> bool:
        """Whether what is there already is to be written over."""
        more = f" and {len(there) - NAMED} more" if len(there) > NAMED else ""
        named = f"{', '.join(there[:NAMED])}{more} {verb(len(there), 'is', 'are')} in {folder.name} already."
        text = f"{named} Write over {verb(len(there), 'it', 'them')}?"
        return QMessageBox.question(self.shell.top, "Everything for the shop", text) == QMessageBox.StandardButton.Yes

    def _job_name(self) -> str:
        """The job's name as files and their folder have it."""
        own = "".join(c if c.isalnum() or c in "-_. " else "-" for c in self.shell.session.job.name.lower()).strip(". ")
        return own or "job"

    def _file_name(self, export: Export) -> str:
        return f"{self._job_name()}-{export.kind.rsplit('-', 1)[0]}{export.suffix}"

    def foil_template(self) -> None:
        """Ask for chord and thickness, and write the section with its two templates at full size."""
        from ...drawing.molds.foil import foil_drawing
        from ...files.molds.paper import drawings_pdf

        style = self.shell.session.job.units.style
        asked = [Asked("Chord", 300.0, ours=True), Asked("Thickness", 36.0, ours=True)]
        dialog = AskDialog(
            "Foil template",
            asked,
            style,
            self.shell.theme_now(),
            lambda v: foil_drawing(v["Chord"], v["Thickness"], style),
            parent=self.shell.top,
        )
        if not accepted(dialog):
            return
        try:
            parts = (dialog.values["Chord"], dialog.values["Thickness"])
            data = drawings_pdf([foil_drawing(parts[0], parts[1], style)], "Foil", self.shell.session.job.printing.correction)
            name, _ = QFileDialog.getSaveFileName(
                self.shell.top, "Foil template", str(Path(self.shell.files.start_folder()) / "foil.pdf"), "*.pdf"
            )
            if name:
                self._write(Path(name), data)
                self.shell.say(f"Wrote {Path(name).name}")
        except InputError as error:
            self.shell.warn("No template", str(error))

    def _remember_printed(self) -> None:
        """Keep in the job what the molds were like whose patterns were just written."""
        from ...core.molds.printed import printed_now

        results = self.shell.state.results
        printed = printed_now(results.shape.molds.molds, list(results.shape.pieces.values()))
        if printed != self.shell.session.job.printed:
            self.shell.edit("patterns printed", change(self.shell.session.job, "", printed=printed))
