"""The computing process for windows under test: it remembers what it worked out for the windows before. python -m
tests.remembering_worker"""

from __future__ import annotations

from hollow_keel.app.processes.worker import main
from tests.remembered import remembering

if __name__ == "__main__":
    with remembering():
        main()
