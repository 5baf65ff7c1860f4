"""Writes docs/rules.md, every number of the trade that the program goes by, from core/rules.py: python tools/rules_page.py"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCE, TARGET = ROOT / "src/hollow_keel/core/rules.py", ROOT / "docs/rules.md"
HEAD = """# The rules of the trade

Made by `python tools/rules_page.py` from `core/rules.py`; do not edit it by hand. Every number that is a builder's rather than
ours: what it is, and where it comes from. *Common practice* is what builders do, with no source to name; *from memory* is what
we remember of a book and could not look up; *ours* is a choice of this program. Lengths mm. If you think one wrong, say so: it
stands in one place, and what you may decide for your own boat is a [setting](settings.md) with its own source.
"""
UNITS = {"_MM2": "mm²", "_MM": "mm", "_DEG": "°", "_C": "°C", "_KG_PER_L": "kg/l"}


def sections(text: str) -> Iterator[tuple[str, str]]:
    """The titles of the parts of the module, and what stands in each."""
    parts = re.split(r"^# -- (.+?) -+$", text, flags=re.MULTILINE)
    yield from zip(parts[1::2], parts[2::2], strict=True)


def rows(text: str) -> Iterator[tuple[list[str], str]]:
    """Names with their values, and what is said of them together; of a function its name."""
    named: list[str] = []
    for node in ast.parse(text).body:
        if isinstance(node, ast.AnnAssign | ast.Assign):
            target = node.target if isinstance(node, ast.AnnAssign) else node.targets[0]
            name, value = ast.unparse(target), ast.unparse(node.value) if node.value is not None else ""
            unit = next((unit for end, unit in UNITS.items() if name.endswith(end)), "")
            named.append(f"`{name}` {value} {unit}".strip())
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, str):
            yield named, " ".join(node.value.value.split())
            named = []
        elif isinstance(node, ast.FunctionDef):
            yield [f"`{node.name}`"], " ".join((ast.get_docstring(node) or "").split())
            named = []


def page() -> str:
    """The whole page."""
    found = HEAD
    for title, text in sections(SOURCE.read_text(encoding="utf-8")):
        found += f"\n## {title.capitalize()}\n\n| number | what it is, and where it comes from |\n|---|---|\n"
        for named, said in rows(text):
            found += f"| {'<br>'.join(named)} | {said.replace('|', chr(92) + '|')} |\n"
    return found


if __name__ == "__main__":
    TARGET.write_text(page(), encoding="utf-8")
