"""The job's files: opening, saving, and keeping unsaved work safe."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Iterable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from ...app import unsaved
from ...app.differences import differences
from ...app.open_any import TABLES, is_table
from ...app.session import ChangedOnDisk, OnDisk
from ...core.errors import InputError
from ...core.inch_sizes import blank_job
from ...core.job import Job
from ...core.settings.log_entry import Entry
from ...demo.jobs import demo_job
from ...files.log.photos import brought_along
from ...files.store.backups import versions_of
from ...files.store.job_file import BACKUP, SUFFIX, as_job_file, load_job
from ..background.later import later
from ..views.dialogs import accepted
from ..window.shell import Shell
from .earlier_dialog import Earlier, EarlierDialog, when_told


def files_named(suffixes: Iterable[str]) -> str:
    """Files with such suffixes, as a dialog filters them."""
    return " ".join(f"*{suffix}" for suffix in sorted(suffixes))


TABLE_FILES = files_named({*TABLES, ".json"})
OPEN_FILTER = (
    f"Jobs and offsets (*{SUFFIX} {TABLE_FILES});;Jobs (*{SUFFIX});;"
    f"Backups of jobs (*{SUFFIX}{BACKUP});;Offsets ({TABLE_FILES});;All files (*)"
)
RECOVERY_MS = 3000
"""Unsaved work is kept safe this long after the last change."""
LOOK_MS = 300
"""A file that changes on the disk is looked at this much later: whoever writes it may write in pieces."""
MOST_TOLD = 8
"""So many changes are told in a question."""


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
        self.unsaved = unsaved.Unsaved(shell.folder)
        self._keeper: threading.Thread | None = None
        self._recovery = later(self, RECOVERY_MS, self.keep_recovery)
        shell.session.listeners += [self._recovery.start, self._another_file]
        self._watcher = QFileSystemWatcher(self)
        self._look = later(self, LOOK_MS, self.look_at_disk)
        self._watcher.fileChanged.connect(lambda _: self._look.start())
        self._watcher.directoryChanged.connect(lambda _: self._look.start())
        self._told = OnDisk.SAME
        self._origin: unsaved.Origin | None = None
        self._another_file()

    def _another_file(self) -> None:
        """Where another file is open than before, or it was saved: it is watched, and held before other windows."""
        session = self.shell.session
        if session.origin == self._origin:
            return
        self._origin = session.origin
        watched = [*self._watcher.files(), *self._watcher.directories()]
        if watched:
            self._watcher.removePaths(watched)
        if session.path is not None:
            self._watcher.addPaths([str(path) for path in (session.path, session.path.parent) if path.exists()])
        self.unsaved.hold(session.origin)
        self._told = OnDisk.SAME

    def look_at_disk(self) -> None:
        """Say, once, when the job's file is not what it was: saving will ask, nothing is written over in silence."""
        session = self.shell.session
        now = session.on_disk()
        if session.path is not None and str(session.path) not in self._watcher.files() and session.path.exists():
            self._watcher.addPath(str(session.path))
        if now is self._told:
            return
        self._told = now
        if now is OnDisk.CHANGED:
            self.shell.say("This job's file was saved by another window or program: saving asks which of the two is to stay.")
        elif now is OnDisk.GONE:
            self.shell.say("This job's file was moved or deleted, or its disk is away: what is open here is all there, save it.")

    def new_job(self) -> None:
        """Begin with an empty table."""
        if self.may_leave():
            self.shell.session.start(blank_job(self.shell.session.job.units))
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
            words = self.shell.session.open(path)
        except InputError as error:
            self._open_shown(path, error)
            return
        self._remember(path)
        self.shell.show_again()
        if words:
            self.shell.say(words)
        self.say_if_elsewhere(path)

    def say_if_elsewhere(self, path: Path) -> None:
        """Say that another window has a job open, where one has."""
        if unsaved.open_elsewhere(self.shell.folder, path, self.unsaved.token):
            self.shell.say(f"{path.name} is open in another window, too: who saves last is asked which of the two is to stay.")

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
        own = "".join(c if c.isprintable() and c not in "/\\" else "-" for c in self.shell.session.job.name.lower()).strip(". ")
        start = self.shell.session.path or Path(self.start_folder()) / f"{own or 'job'}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self.shell.top, "Save as", str(start), f"Jobs (*{SUFFIX})")
        if not name:
            return False
        path = as_job_file(Path(name))
        if path != Path(name) and path.exists() and not self._sure_over(path):  # the dialog has asked about the name without it
            return False
        return self._save_to(path)

    def _sure_over(self, path: Path) -> bool:
        """Whether a file that is there is to be saved over."""
        text = f"{path.name} is there already. Save over it? It is kept beside it with ~ added."
        return QMessageBox.question(self.shell.top, "Save as", text) == QMessageBox.StandardButton.Yes

    def _save_to(self, path: Path, *, over: bool = False) -> bool:
        try:
            before, gone = self.shell.session.path, self.shell.session.on_disk() is OnDisk.GONE
            target = self.shell.session.save(path, over=over)
        except ChangedOnDisk as error:
            return self._ask_over(path, error)
        except InputError as error:
            self.shell.warn("This could not be saved", str(error))
            return False
        self._remember(target)
        self.keep_recovery()
        self.shell.show_again()
        self.shell.say(f"Saved {target.name}" + (": it was not there any more" if gone and not over else ""))
        self._bring_photos(before, target)
        return True

    def _bring_photos(self, before: Path | None, target: Path) -> None:
        """Photographs go with a job that is saved in another folder."""
        if before is None or before.absolute().parent == target.absolute().parent:
            return
        photos = (photo for entry in self.shell.session.job.log.entries for photo in entry.photos)
        missing = brought_along(photos, before.absolute().parent, target.absolute().parent)
        if missing:
            self.shell.say(f"Saved {target.name}, but without {len(missing)} photographs: {missing[0]} could not be copied.")

    def _ask_over(self, path: Path, error: ChangedOnDisk) -> bool:
        """Which of two versions is to stay at a place."""
        try:
            theirs = differences(self.shell.session.job, load_job(path))
        except InputError as fault:
            theirs = (str(fault),)
        box = QMessageBox(QMessageBox.Icon.Warning, "Saved by somebody else", str(error), parent=self.shell.top)
        more = [f"… and {len(theirs) - MOST_TOLD} more"] if len(theirs) > MOST_TOLD else []
        box.setInformativeText("\n".join(["There, against what is open here:", *theirs[:MOST_TOLD], *more]))
        over = box.addButton("Save over it", QMessageBox.ButtonRole.DestructiveRole)
        aside = box.addButton("Save under another name…", QMessageBox.ButtonRole.AcceptRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.setDefaultButton(aside)
        box.exec()
        chosen = box.clickedButton()
        box.deleteLater()
        if chosen is over:
            return self._save_to(path, over=True)
        return self.save_as() if chosen is aside else False

    def show_recovery(self) -> None:
        """What other windows left unsaved, or that there is nothing."""
        if not self.offer_recovery():
            self.shell.say("There is no work left that was not saved.")

    def offer_recovery(self) -> bool:
        """What other windows left unsaved, if there is anything: one is taken up, or thrown away. Whether anything is left, or was
        taken up."""
        while found := unsaved.left_behind(self.shell.folder):
            dialog = EarlierDialog(
                "Work that was not saved",
                "Hollow Keel ended before these were saved. What you do not choose stays here: Job › Work that was not saved.",
                [_left(own) for own in found],
                "Take it up",
                "Throw it away",
                self.shell.top,
            )
            if not accepted(dialog) or dialog.chosen is None:
                return True
            chosen = found[dialog.chosen]
            if dialog.throw:
                unsaved.clear(chosen)
            elif chosen.job is not None and self.may_leave():
                self._take_up(chosen, chosen.job)
                return True
        return False

    def _take_up(self, found: unsaved.Found, job: Job) -> None:
        path = Path(found.origin.path) if found.origin.path else None
        there = path if path is not None and path.parent.is_dir() else None
        self.shell.session.start(job, there, saved=False, mark=found.origin.mark or None)
        self.keep_recovery()
        self.wait_for_recovery()
        unsaved.clear(found)
        self.shell.show_again()

    def show_versions(self) -> None:
        """Earlier versions of this job: one is taken as an edit, which can be undone."""
        session = self.shell.session
        found = versions_of(self.shell.versions, session.path) if session.path is not None else []
        if not found:
            self.shell.say("There is no earlier version of this job yet: every save keeps the one before.")
            return
        now = datetime.now().astimezone()
        jobs: list[Job | None] = []
        states = []
        for version in found:
            try:
                job = load_job(version.path)
                jobs.append(job)
                states.append(Earlier(when_told(version.when, now), "", differences(session.job, job) or ("as it is now",)))
            except InputError as error:
                jobs.append(None)
                states.append(Earlier(when_told(version.when, now), str(error), ()))
        dialog = EarlierDialog(
            "Earlier versions",
            "What each save replaced. What would change, from the job as it is now to the one you choose:",
            states,
            "Take this one",
            parent=self.shell.top,
        )
        if accepted(dialog) and dialog.chosen is not None and (taken := jobs[dialog.chosen]) is not None:
            self.shell.edit("an earlier version", taken)

    def keep_recovery(self) -> None:
        """Keep unsaved work safe, away from the window: it waits for the disk."""
        self.wait_for_recovery()
        keep = self.unsaved.keep(self.shell.session.unsaved, self.shell.session.origin)

        def work() -> None:
            try:
                keep()
            except (InputError, OSError) as error:
                self.unsafe.emit(f"Unsaved work cannot be kept safe: {error}")

        self._keeper = threading.Thread(target=work, name="recovery")
        self._keeper.start()

    def keep_entry(self, entry: Entry) -> None:
        """Keep safe, at once, an entry that was just put into the log."""
        self.wait_for_recovery()
        session = self.shell.session
        try:
            if self.unsaved.add(entry, len(session.job.log.entries), session.origin):
                return
        except OSError as error:
            self.unsafe.emit(f"Unsaved work cannot be kept safe: {error}")
            return
        self.keep_recovery()
        self.wait_for_recovery()

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
        return str(Path(self.shell.settings.recent[0]).parent) if self.shell.settings.recent else str(Path.home())

    def forget_recovery(self) -> None:
        """Nothing is unsaved any more: clear what was kept, and let go."""
        self._recovery.stop()
        self.wait_for_recovery()
        self.unsaved.keep(None, self.shell.session.origin)()
        self.unsaved.let_go()

    def _remember(self, path: Path) -> None:
        self.shell.keep_settings(self.shell.settings.with_recent(path))


def _left(found: unsaved.Found) -> Earlier:
    """Work left behind, as it is listed."""
    when = when_told(found.when, datetime.now().astimezone())
    if found.job is None:
        return Earlier(when, found.said, ())
    where = Path(found.origin.path).name if found.origin.path else "Never saved"
    against = "its file" if found.saved is not None else "a blank job"
    if found.saved is None and found.origin.path:
        against += ", for its file cannot be read"
    said = f"{found.said} {where}. Against {against}:".strip()
    return Earlier(f"{found.job.name}: {when}", said, differences(found.saved or Job(), found.job))
