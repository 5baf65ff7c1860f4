"""What the core says of itself: shapes of arrays, and what it raises."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

import hollow_keel.core

CORE = Path(hollow_keel.core.__file__).parent
SHAPE = re.compile(r"\(\w+,|\((?:n|k|m|[0-9])[^)]*\)|any shape|[Rr]ows of|polyline|`\w+`")
RAISES = re.compile(r"raise (?:InputError|ImpossiblePlan)\b")


def is_overload(function: ast.FunctionDef) -> bool:
    return any("overload" in ast.unparse(mark) for mark in function.decorator_list)


def public(node: ast.Module | ast.ClassDef) -> Iterator[ast.FunctionDef]:
    for part in node.body:
        if isinstance(part, ast.ClassDef) and not part.name.startswith("_"):
            yield from public(part)
        elif isinstance(part, ast.FunctionDef) and not part.name.startswith("_") and not is_overload(part):
            yield part


@pytest.mark.parametrize("path", sorted(CORE.rglob("*.py")), ids=lambda p: str(p.relative_to(CORE)))
def test_public_docstrings_give_shapes_and_errors(path: Path) -> None:
    missing = []
    for function in public(ast.parse(path.read_text())):
        said = ast.get_docstring(function) or ""
        signature = f"{ast.unparse(function.args)} {ast.unparse(function.returns) if function.returns else ''}"
        if "Array" in signature and not SHAPE.search(said):
            missing.append(f"{function.name}: no shape")
        if RAISES.search(ast.unparse(function)) and "Raise" not in said and "refuse" not in said:
            missing.append(f"{function.name}: not what it raises")
    assert missing == []
