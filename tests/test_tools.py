"""The tools beside the program still find what they use of it."""

from __future__ import annotations

import importlib.util
import re
import sys
import tomllib
from pathlib import Path

import pytest
from tools.shipped import normal

TOOLS = Path(__file__).parent.parent / "tools"


@pytest.mark.parametrize("tool", sorted(path.stem for path in TOOLS.glob("*.py")))
def test_a_tool_can_be_loaded(tool: str, monkeypatch: pytest.MonkeyPatch) -> None:
    spec = importlib.util.spec_from_file_location(f"tool_{tool}", TOOLS / f"{tool}.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    monkeypatch.setitem(sys.modules, spec.name, module)  # its dataclasses look for themselves there
    spec.loader.exec_module(module)


def pinned(text: str, pattern: str) -> dict[str, str]:
    """Versions by the names of packages."""
    return {normal(name): version for name, version in re.findall(pattern, text, re.MULTILINE)}


def test_every_version_is_pinned_with_its_hash_and_its_licence_told() -> None:
    root = TOOLS.parent
    constraints = pinned((root / "constraints.txt").read_text(), r"^([\w.-]+)==(\S+)$")
    lock = pinned((root / "requirements.lock").read_text(), r"^([\w.-]+)==(\S+) --hash=sha256:[0-9a-f]{64}$")
    licences = pinned((root / "docs" / "licences.md").read_text(), r"^\| ([\w-]+) \| ([\d][\w.]*) \| .+ \|$")
    assert lock == constraints
    assert licences.items() <= constraints.items()
    shipped = {
        normal(re.split(r"[\s<>=!~;\[]", own, maxsplit=1)[0])
        for own in tomllib.loads((root / "pyproject.toml").read_text())["project"]["dependencies"]
    }
    assert shipped <= set(licences)
