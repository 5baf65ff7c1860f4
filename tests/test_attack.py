"""A small part of the attack: its one command, with few inputs and a seed of its own, finds nothing."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

HERE = Path(__file__).parents[1]


@pytest.mark.parametrize(
    ("what", "count", "minutes"),
    [("readers", 1, 1.2), ("settings", 2, 0.4), ("hulls", 1, 0.5), ("saves", 12, 0.5), ("window", 2, 0.5), ("disks", 0, 0.5)],
)
def test_the_attack_finds_nothing(what: str, count: int, minutes: float) -> None:
    command = [sys.executable, "-m", "tools.attack", what, "--count", str(count), "--minutes", str(minutes), "--seed", "3"]
    done = subprocess.run(command, cwd=HERE, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout + done.stderr[-2000:]
    assert done.stdout.count("|") > 8, "a table of figures"


def test_the_attack_finds_what_is_wrong(tmp_path: Path) -> None:
    """Readers that raise, hang, take all memory or crash are told apart."""
    script = tmp_path / "script.py"
    script.write_text(
        "import os, sys, time\nsys.path.insert(0, sys.argv[1])\n"
        "from tools.attack.outcome import tried\n"
        "def memory():\n    return bytearray(3_000_000_000)\n"
        "def wrong():\n    raise KeyError('x')\n"
        "def refused():\n    raise ValueError('no')\n"
        "ways = {'READ': lambda: 1, 'REFUSED': refused, 'TRACEBACK': wrong, 'HANG': lambda: time.sleep(9), 'MEMORY': memory,\n"
        "        'CRASH': os.abort}\n"
        "before = os.listdir('/proc/self/fd')\n"
        "print(*(f'{k}={tried(way, (ValueError,), 0.7).end.name}' for k, way in ways.items()))\n"
        "assert os.listdir('/proc/self/fd') == before\n"
        "try:\n    os.waitpid(-1, os.WNOHANG)\n    raise SystemExit('a child is left')\nexcept ChildProcessError:\n    pass\n"
    )
    done = subprocess.run([sys.executable, str(script), str(HERE)], capture_output=True, text=True, check=True)
    pairs = [own.split("=") for own in done.stdout.split()]
    assert len(pairs) == 6
    assert all(wanted == found for wanted, found in pairs), done.stdout
