"""Builds the wheel, installs it into an environment of its own elsewhere, and plans a boat with it: what is not packed is missed.

The environment finds the libraries of this one, but not the tree: python tools/try_wheel.py
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import sysconfig
import tempfile
import venv
from pathlib import Path

ROOT = Path(__file__).parents[1]
OFFSCREEN = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}


def run(*command: str | Path, where: Path) -> str:
    """What a command says; its fault is ours."""
    return subprocess.run(
        [str(part) for part in command], cwd=where, check=True, stdout=subprocess.PIPE, text=True, env=OFFSCREEN
    ).stdout


def main() -> None:
    """All of it, in a folder that goes again."""
    with tempfile.TemporaryDirectory() as name:
        where = Path(name)
        run(sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--wheel-dir", where, ROOT, where=where)
        (wheel,) = where.glob("*.whl")
        venv.create(where / "own", with_pip=True)
        python = where / "own" / "bin" / "python"
        (site,) = (where / "own").glob("lib/python*/site-packages")
        (site / "libraries.pth").write_text(
            f"{sysconfig.get_path('purelib')}\n", encoding="utf-8"
        )  # paths in there are not followed
        run(python, "-m", "pip", "install", "--quiet", "--no-deps", "--no-index", wheel, where=where)
        found = run(python, "-c", "import hollow_keel; print(hollow_keel.__file__)", where=where).strip()
        assert found.startswith(str(site)), f"the tree was found in place of the wheel: {found}"
        program = where / "own" / "bin" / "hollow-keel"
        run(program, "plan", site / "hollow_keel" / "demo" / "linnet.csv", "--out", where / "plan.json", where=where)
        plan = json.loads((where / "plan.json").read_text(encoding="utf-8"))
        assert plan["molds"], "no mold came of the demo's table"
        assert plan["strips"]["per_side"] > 0
        run(program, "demo", "pipit", "--pictures", where / "pictures", where=where)
        assert list((where / "pictures").glob("*.png")), "the window shows nothing"
        print(f"{wheel.name}: {wheel.stat().st_size / 1e6:.1f} MB, installed elsewhere, plans Linnet and shows Pipit")


if __name__ == "__main__":
    main()
