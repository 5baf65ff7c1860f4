"""A window that works until it is killed: python working_window.py FOLDER SEED. It says `kept LINE` of each entry that is kept."""

from __future__ import annotations

import os
import random
import sys
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"


def main() -> None:
    """Work."""
    from hollow_keel.core.change import change
    from hollow_keel.demo.jobs import demo_job
    from hollow_keel.ui.window.start import make_application
    from hollow_keel.ui.window.window import MainWindow

    folder, dice = Path(sys.argv[1]), random.Random(sys.argv[2])
    app = make_application()
    window = MainWindow(demo_job("pipit"), folder)
    window.show()
    window.command("begin-log")()
    print("begun", flush=True)
    for k in range(100_000):
        app.processEvents()
        page = window.page
        way = dice.random()
        if way < 0.5:
            line = f"2h sanding {k}"
            page.line.setText(line)  # type: ignore[attr-defined]
            page.keep()  # type: ignore[attr-defined]
            print(f"kept {line}", flush=True)
        elif way < 0.7:
            window.edit("skin", change(window.session.job, "molds", skin=dice.uniform(4.0, 12.0)))
        elif way < 0.8:
            window.edit("name", change(window.session.job, "", name=f"Boat {k}"))
        elif way < 0.85:
            window.files.keep_recovery()


main()
