"""Writes docs/settings.md, the table of all settings, from the records that stand with them: python tools/settings_table.py"""

from __future__ import annotations

from enum import Enum
from pathlib import Path
from typing import Any

from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings_table import Record, all_settings

TARGET = Path(__file__).parent.parent / "docs" / "settings.md"
HEAD = """# All settings

Made by `python tools/settings_table.py` from the records that stand with the settings themselves; do not edit it by hand.

Any of them can be given on the command line as `--set KEY=VALUE`. A bare length is in mm, or carries its unit (`3/4in`,
`2-3-4+`); a share is `0.35` or `35%`; yes and no are `true` and `false`; where nothing may be set, `none` sets it;
records are JSON, as in a job file.
`mold.stations` (`offsets`, `every:300mm` or `400,800,1200`) and `strip.guide` (`sheer`, `keel`, `both`, `master:HEIGHT`,
`natural:HEIGHT`, `girth:SHARE`) set several at once.
"""
COLUMNS = "| key | what it is | for | default | limits, choices | source |\n|---|---|---|---|---|---|\n"


def shown(value: Any, record: Record) -> str:
    """A value as it is typed on the command line."""
    if value is None:
        return record.setting.none or "none"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, Enum):
        return str(value.value)
    if isinstance(value, tuple):
        return record.setting.none or "none"
    text = f"{value:g}" if isinstance(value, float) else str(value)
    return f"{text} mm" if record.setting.kind in (Kind.LENGTH, Kind.FINE) else text


def row(record: Record) -> str:
    """A line of the table."""
    words = record.setting
    choices = [f"`{shown(value, record)}`" for value in words.choices if value is not None]
    limits = [*record.limits, *([", ".join(choices)] if choices else []), *([words.unit] if words.unit else [])]
    named = " or ".join(f"`{name}`" for name in dict.fromkeys((record.key, record.path.replace("_", "-"))))
    cells = (named, words.label, words.why, shown(record.default, record), "; ".join(limits), words.source)
    return "| " + " | ".join(cell.replace("|", "\\|") for cell in cells) + " |\n"


def table() -> str:
    """The whole page."""
    parts: dict[str, str] = {}
    for record in all_settings().values():
        parts[record.part] = parts.get(record.part, "") + row(record)
    return HEAD + "".join(f"\n## {part or 'The job'}\n\n{COLUMNS}{rows}" for part, rows in parts.items())


if __name__ == "__main__":
    TARGET.write_text(table(), encoding="utf-8")
