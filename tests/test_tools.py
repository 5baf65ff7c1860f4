"""The tools beside the program still find what they use of it."""

from __future__ import annotations

import importlib.util
import sys
from pathlib import Path

import pytest

TOOLS = Path(__file__).parent.parent / "tools"


@pytest.mark.parametrize("tool", sorted(path.stem for path in TOOLS.glob("*.py")))
def test_a_tool_can_be_loaded(tool: str, monkeypatch: pytest.MonkeyPatch) -> None:
    spec = importlib.util.spec_from_file_location(f"tool_{tool}", TOOLS / f"{tool}.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    monkeypatch.setitem(sys.modules, spec.name, module)  # its dataclasses look for themselves there
    spec.loader.exec_module(module)
