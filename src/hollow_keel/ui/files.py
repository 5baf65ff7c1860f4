"""The job's files: opening, saving, and keeping unsaved work safe."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Iterable
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from ..app.open_any import TABLES, is_table
from ..app.session import clear_recovery
from ..core.errors import InputError
from ..core.job import Job
from ..demo.jobs import demo_job
from ..files.job_file import BACKUP, SUFFIX, load_job
from .later import later
from .shell import Shell


def files_named(suffixes: Iterable[str]) -> str:
    """Files with such suffixes, as a dialog filters them."""
    return " ".join(f"*{suffix}" for suffix in sorted(suffixes))


TABLE_FILES = files_named({*TABLES, ".json"})
OPEN_FILTER = (
    f"Jobs and offsets (*{SUFFIX} {TABLE_FILES});;Jobs (*{SUFFIX});;"
    f"Backups of jobs (*{SUFFIX}{BACKUP});;Offsets ({TABLE_FILES});;All files (*)"
)
RECOVERY = "recovery" + SUFFIX
RECOVERY_MS = 3000
"""Unsaved work is kept safe this long after the last change."""


def take_typed() -> None:
    """A field or cell that is being typed into takes what stands in it, as if it were left."""
    focused = QApplication.focusWidget()
    if focused is not None:
        focused.clearFocus()


class Files(QObject):
    """Everything about the job that touches the disk."""

    unsafe = Signal(str)

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell.top)
        self.shell = shell
        self._keeper: threading.Thread | None = None
        self._recovery = later(self, RECOVERY_MS, self.keep_recovery)
        shell.session.listeners.append(self._recovery.start)

    def new_job(self) -> None:
        """Begin with an empty table."""
        if self.may_leave():
            self.shell.session.start(Job(units=self.shell.session.job.units))
            self.shell.go_to_page("offsets")

    def start_demo(self, name: str) -> None:
        """Begin with a demo job."""
        if self.may_leave():
            self.shell.session.start(demo_job(name))

    def open_job(self, path: Path | None = None) -> None:
        """Open a job or a table of offsets."""
        if not self.may_leave():
            return
        if not path:
            name, _ = QFileDialog.getOpenFileName(self.shell.top, "Open", self.start_folder(), OPEN_FILTER)
            if not name:
                return
            path = Path(name)
        try:
            self.shell.session.open(path)
        except InputError as error:
            self._open_shown(path, error)
            return
        self._remember(path)
        self.shell.show_again()

    def _open_shown(self, path: Path, fault: InputError) -> None:
        """What a table leaves open is asked where it can be seen; the fault is told where there is no table to be shown."""
        if is_table(path):
            with contextlib.suppress(InputError):
                self.shell.importer.open_shown(path)
                return
        self.shell.warn("This could not be opened", str(fault))

    def save(self) -> bool:
        """Save where it came from, or ask where."""
        take_typed()
        return self._save_to(self.shell.session.path) if self.shell.session.path else self.save_as()

    def save_as(self) -> bool:
        """Ask where to save."""
        take_typed()
        start = (
            self.shell.session.path
            or Path(self.start_folder()) / f"{self.shell.session.job.name.lower()}{SUFFIX}"
        )
        name, _ = QFileDialog.getSaveFileName(self.shell.top, "Save as", str(start), f"Jobs (*{SUFFIX})")
        return bool(name) and self._save_to(Path(name))

    def _save_to(self, path: Path) -> bool:
        try:
            target = self.shell.session.save(path)
        except InputError as error:
            self.shell.warn("This could not be saved", str(error))
            return False
        self._remember(target)
        self.keep_recovery()
        self.shell.show_again()
        self.shell.say(f"Saved {target.name}")
        return True

    def offer_recovery(self) -> None:
        """Give back what an earlier session could not save."""
        path = self.shell.folder / RECOVERY
        if not path.is_file():
            return
        with contextlib.suppress(InputError):
            job = load_job(path)
            box = QMessageBox.question(
                self.shell.top, "Work that was not saved",
                f"Hollow Keel ended before the job “{job.name}” was saved. Take up that work again?",
            )  # fmt: skip
            if box == QMessageBox.StandardButton.Yes:
                self.shell.session.start(job, saved=False)

    def keep_recovery(self) -> None:
        """Keep unsaved work safe, away from the window: it waits for the disk."""
        self.wait_for_recovery()
        keep = self.shell.session.recovery(self.shell.folder / RECOVERY)

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

    def may_leave(self) -> bool:
        """Whether the job may be left: it is saved, or need not be."""
        take_typed()
        if not self.shell.session.changed:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self.shell.top,
            "Not saved",
            f"Save the changes to {self.shell.session.job.name} first?",
            buttons.Save | buttons.Discard | buttons.Cancel,
        )
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard

    def start_folder(self) -> str:
        """Where dialogs begin to look."""
        if self.shell.session.path:
            return str(self.shell.session.path.parent)
        return (
            str(Path(self.shell.settings.recent[0]).parent)
            if self.shell.settings.recent
            else str(Path.home())
        )

    def forget_recovery(self) -> None:
        """Nothing is unsaved any more: clear what was kept."""
        self._recovery.stop()
        self.wait_for_recovery()
        clear_recovery(self.shell.folder / RECOVERY)

    def _remember(self, path: Path) -> None:
        self.shell.keep_settings(self.shell.settings.with_recent(path))
