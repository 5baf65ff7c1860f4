"""Starting the window, or taking pictures of it."""

from __future__ import annotations

import os
import sys
import tempfile
from pathlib import Path
from time import sleep

from PySide6.QtCore import QElapsedTimer, QTimer, QtMsgType, qInstallMessageHandler
from PySide6.QtWidgets import QApplication

from ...app.exports import export_named, write_export
from ...app.log import keep_crashes, keep_log
from ...app.open_any import is_job_file, leaves_open, open_job
from ...app.processes.launch import Worker
from ...app.processes.memory import keep_little
from ...app.settings import load_settings, settings_folder
from ...core.errors import InputError
from ...core.job import Job
from ...core.results import Results
from ...core.stages import SHOWN
from ..pages.registry import PAGES
from .collector import Collector
from .not_caught import tell_what_is_not_caught
from .theme import DARK, LIGHT, apply_theme, load_fonts
from .window import MainWindow

PATIENCE_MS = 60_000


def make_application() -> QApplication:
    """The one QApplication, with fonts loaded; offscreen where there is no display."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    keep_little()
    app = QApplication(sys.argv[:1])
    app.setApplicationName("Hollow Keel")
    app.setDesktopFileName("hollow-keel")
    Collector(app)
    load_fonts()
    qInstallMessageHandler(_message)
    return app


def _message(kind: QtMsgType, _context: object, text: str) -> None:
    """Qt's own messages, but for one that the offscreen platform says of every window."""
    if "propagateSizeHints" not in text and kind != QtMsgType.QtDebugMsg:
        print(text, file=sys.stderr)


def run_window(worker: Worker, path: Path | None, job: Job | None = None) -> int:
    """Open the window on a file, a job, or an empty job; what a table leaves open is asked about in it. Raises InputError
    before the window opens."""
    start, asked, words = job or Job(), False, ""
    if path and job is None:
        try:
            start = open_job(path)
            if not is_job_file(path):
                from ...core.setup_that_suits import suited

                start, words = suited(start)
        except InputError:
            asked = leaves_open(path)
            if not asked:
                raise
    keep_log("window")
    keep_crashes("window")
    app = make_application()
    folder = settings_folder()
    settings = load_settings(folder)
    apply_theme(app, DARK if settings.theme == "dark" else LIGHT)
    own = path if path is not None and is_job_file(path) else None
    window = MainWindow(start, folder, own, worker)
    window.set_theme(settings.theme)
    tell_what_is_not_caught(window.say)
    window.show()
    if words:
        window.say(words)
    if own is not None:
        window.files.say_if_elsewhere(own)
    if asked and path is not None:
        QTimer.singleShot(0, lambda: window.files.open_job(path))
    QTimer.singleShot(0, window.files.offer_recovery)
    return app.exec()


def run_pictures(worker: Worker, job: Job, folder: Path) -> int:
    """Save a PNG of each page, the mold patterns and the plan into a folder, say so, and end."""
    app = make_application()
    apply_theme(app, LIGHT)
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as private:
        window = MainWindow(job, Path(private), None, worker)
        window.show()
        results = wait_for_plan(app, window)
        window.choose_mold(len(results.shape.molds.molds) // 2)
        window.choose_strip(max(1, len(results.planking.strips) // 3))
        written = []
        for number, kind in enumerate(PAGES):
            window.go_to(number)
            written.append(take_picture(app, window, folder / f"{number + 1}-{kind.name.lower().replace(' ', '-')}.png"))
        window.close()
    for export, name in (("molds-pdf", "mold-patterns.pdf"), ("setup-pdf", "setting-up.pdf"), ("plan-json", "plan.json")):
        write_export(export_named(export), results, folder / name)
        written.append(folder / name)
    print("No display here: these show the window and what it prints.")
    for path in written:
        print(f"  {path}")
    return 0


def wait_for_plan(app: QApplication, window: MainWindow) -> Results:
    """Run the window until everything is worked out."""
    clock = QElapsedTimer()
    clock.start()
    while not window.state.answered(SHOWN):
        app.processEvents()
        sleep(0.004)
        if clock.elapsed() > PATIENCE_MS:
            raise TimeoutError("the plan was not ready in time")
    return window.state.results


def take_picture(app: QApplication, window: MainWindow, path: Path) -> Path:
    """The window as it stands, as a PNG."""
    page = window.page
    for _ in range(4):
        app.processEvents()
    page.prepare_picture()
    clock = QElapsedTimer()
    clock.start()
    while clock.elapsed() < 350:
        app.processEvents()
        sleep(0.004)
    window.grab().save(str(path))
    return path
