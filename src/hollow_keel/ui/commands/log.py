"""The log of the work."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from ...app import watch
from ...core.change import change
from ...core.errors import InputError
from ...core.log.keep import all_kept
from ...core.log.plan_of_work import WorkPlan
from ...core.log.stages import WORK
from ...core.log.stopwatch import elapsed
from ...core.settings.log import logged
from ...core.words import counted, verb
from ...files.log.photos import copied
from ..views.dialogs import accepted
from ..window.command import Command
from ..window.shell import Shell

MENU = "Log"
PICTURES = "Pictures (*.jpg *.jpeg *.png *.webp *.bmp)"


def begin(shell: Shell) -> None:
    """Keep a log, and go to its page."""
    if not logged(shell.session.job):
        shell.edit("a log", change(shell.session.job, "log", wanted=True))
    shell.go_to_page("log")
    _look(shell)


def leave(shell: Shell) -> None:
    """Put the log away; its entries stay in the job."""
    if not logged(shell.session.job):
        shell.say("No log is kept.")
        return
    shell.edit("the log put away", change(shell.session.job, "log", wanted=False))


def stop_watch(shell: Shell) -> None:
    """Start the stop-watch; or stop it, and keep its hours as an entry that the line goes on with."""
    from ..pages.log.page import LogPage

    begin(shell)
    page = shell.page
    if not isinstance(page, LogPage):
        return
    started = watch.running(shell.folder)
    try:
        if started is None:
            watch.start(shell.folder)
            shell.say("The stop-watch runs; it goes on when the window is closed.")
        else:
            told = elapsed(started, watch.now())
            watch.stop(shell.folder)
            minutes = round(told.hours * 60)
            page.measured(f"{minutes // 60}h{minutes % 60:02d}")
            shell.say(f"{minutes // 60} h {minutes % 60} min{': ' + told.doubt if told.doubt else ''}.")
    except (InputError, OSError) as error:
        shell.say(f"The stop-watch cannot be noted: {error}")
    _look(shell)


def _look(shell: Shell) -> None:
    """Show on the page whether the stop-watch runs."""
    from ..pages.log.page import LogPage

    page = shell.page
    if isinstance(page, LogPage):
        page.show_watch("Stop the stop-watch" if watch.running(shell.folder) is not None else "Start the stop-watch")


def safe(shell: Shell) -> None:
    """Put what was just kept where a crash cannot reach it."""
    from ..pages.log.page import LogPage

    page = shell.page
    if isinstance(page, LogPage) and page.just_kept is not None:
        shell.files.keep_entry(page.just_kept)
    else:
        shell.files.keep_recovery()
        shell.files.wait_for_recovery()
    _look(shell)


def photo(shell: Shell) -> None:
    """A photograph for the chosen entry."""
    from ..pages.log.page import LogPage

    begin(shell)
    path, _ = QFileDialog.getOpenFileName(shell.top, "A photograph", shell.files.start_folder(), PICTURES)
    page = shell.page
    if path and isinstance(page, LogPage):
        page.add_photo(_beside(shell, Path(path)))


def _beside(shell: Shell, photo: Path) -> str:
    """A photograph as the job names it: copied beside the job, or by its path where that cannot be."""
    job = shell.session.path
    try:
        if job is not None:
            return copied(photo, job)
        shell.say("The job has no folder yet: the photograph stays where it is.")
    except OSError as error:
        shell.say(f"The photograph stays where it is, for it cannot be copied beside the job: {error.strerror or error}")
    return str(photo.absolute())


def read(shell: Shell) -> None:
    """Entries from a CSV, shown first; they go after those that are there."""
    from ...files.tables.text_table import read_text
    from ..incoming.log_in import LogInDialog

    name, _ = QFileDialog.getOpenFileName(shell.top, "Entries of a log", shell.files.start_folder(), "CSV (*.csv *.txt *.tsv)")
    if not name:
        return
    try:
        dialog = LogInDialog(read_text(Path(name), "entries"), Path(name).name, shell.theme_now(), shell.top)
    except InputError as error:
        shell.warn("The entries cannot be read", str(error))
        return
    if not accepted(dialog):
        return
    entries = dialog.found.entries
    changed, new = all_kept(shell.session.job, entries)
    shell.edit(counted(new, "entry"), changed)
    shell.go_to_page("log")
    shell.say(f"{counted(new, 'entry')} {verb(new, 'is', 'are')} new, {len(entries) - new} there already.")


def learn(shell: Shell) -> None:
    """Take the hours as they were for those of the plan."""
    from ...core.log.learn import learned

    work: WorkPlan | None = shell.state.known.get(WORK) if logged(shell.session.job) else None
    if work is None or not work.sums.hours:
        shell.say("No hours are logged yet.")
        return
    shell.edit("hours as they were", learned(shell.session.job, work))
    shell.say("Hours by the plan are now those of this log; another job takes them from its file.")


def take(shell: Shell) -> None:
    """Hours by the plan, crew and week from another job."""
    from ...core.log.learn import with_hours_of
    from ...files.store.job_file import load_job

    path, _ = QFileDialog.getOpenFileName(shell.top, "Hours by the plan from", shell.files.start_folder(), "Jobs (*.hkeel)")
    if not path:
        return
    try:
        other = load_job(Path(path))
    except InputError as error:
        shell.warn("That job cannot be read", str(error))
        return
    shell.edit(f"hours as in {other.name}", with_hours_of(shell.session.job, other))


COMMANDS = (
    Command("begin-log", MENU, "Keep a log…", begin),
    Command("log-watch", MENU, "Stop-watch: start, or stop", stop_watch),
    Command("log-photo", MENU, "A photograph for this entry…", photo),
    Command("log-read", MENU, "Entries from a CSV…", read),
    Command("log-learn", MENU, "Take the hours as they were for the plan", learn),
    Command("log-take", MENU, "Hours by the plan from another job…", take),
    Command("log-safe", MENU, "Put the log where a crash cannot reach it", safe),
    Command("no-log", MENU, "Put the log away", leave),
)
