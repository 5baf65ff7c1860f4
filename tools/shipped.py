"""What is shipped with the application, from what is installed: requirements.lock (every package with its hash, for this Python and
machine) and docs/licences.md. Run it again when a version in constraints.txt changes: .venv/bin/python tools/shipped.py"""

from __future__ import annotations

import json
import platform
import re
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from importlib import metadata
from pathlib import Path

ROOT = Path(__file__).parents[1]
LOCK, PAGE = ROOT / "requirements.lock", ROOT / "docs" / "licences.md"
OWN = "hollow-keel"
SHORT = 60
"""A licence told in more letters is its text, not its name."""
HEAD = """# Licences of what is shipped

Hollow Keel itself is under the MIT licence (`LICENSE`). The typeface Inter in `src/hollow_keel/assets` is under the SIL Open Font
License 1.1, its text beside it. These packages are installed with the application and loaded by it, in the versions of
`constraints.txt`; each brings its licence's text with it (`*.dist-info`). What serves tests alone is not listed. Made by
`tools/shipped.py`.

| package | version | licence |
|---|---|---|
"""


def normal(name: str) -> str:
    """A package's name as it is compared."""
    return re.sub(r"[-_.]+", "-", name).lower()


def needed(name: str, seen: set[str] | None = None) -> set[str]:
    """What a package needs to run here, directly or by way of others, by normal names."""
    seen = set() if seen is None else seen
    for text in metadata.requires(name) or []:
        requirement, _, marker = text.partition(";")
        if "extra" in marker or not _holds(marker):
            continue
        other = normal(re.split(r"[\s\[<>=!~(]", requirement.strip(), maxsplit=1)[0])
        if other not in seen:
            seen.add(other)
            needed(other, seen)
    return seen


def _holds(marker: str) -> bool:
    if not marker.strip():
        return True
    from packaging.markers import Marker

    return bool(Marker(marker).evaluate())


def licence_of(name: str) -> str:
    """The name of a package's licence, as it tells it itself."""
    told = metadata.metadata(name)
    short = next((text for key in ("License-Expression", "License") if (text := told.get(key)) and len(text) <= SHORT), None)
    classes = [text.rpartition(" :: ")[2] for text in told.get_all("Classifier") or [] if text.startswith("License :: ")]
    first = (told.get("License") or "").strip().splitlines()
    return short or ", ".join(classes) or (first[0].strip() if first else "see its own text")


def licences() -> str:
    """The page."""
    rows = sorted(needed(OWN))
    return HEAD + "".join(f"| {name} | {metadata.version(name)} | {licence_of(name)} |\n" for name in rows)


def locked() -> Iterator[str]:
    """Lines of the lock."""
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.json"
        command = [
            sys.executable,
            "-m",
            "pip",
            "install",
            "--quiet",
            "--dry-run",
            "--ignore-installed",
            "--report",
            str(report),
            "-c",
            str(ROOT / "constraints.txt"),
            f"{ROOT}[dev]",
        ]
        subprocess.run(command, check=True)
        installed = json.loads(report.read_text(encoding="utf-8"))["install"]
    yield f"# For Python {platform.python_version_tuple()[0]}.{platform.python_version_tuple()[1]} on {platform.machine()}; used by"
    yield "# HOLLOW_KEEL_HASHES=1 ./run setup. Made by tools/shipped.py from constraints.txt."
    for package in sorted(installed, key=lambda own: normal(own["metadata"]["name"])):
        told, archive = package["metadata"], package["download_info"].get("archive_info")
        if archive is not None:
            yield f"{told['name']}=={told['version']} --hash=sha256:{archive['hashes']['sha256']}"


def main() -> None:
    """Write both."""
    PAGE.write_text(licences(), encoding="utf-8")
    LOCK.write_text("\n".join(locked()) + "\n", encoding="utf-8")
    print(f"{PAGE.name} and {LOCK.name} are written.")


if __name__ == "__main__":
    main()
