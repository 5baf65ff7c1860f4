"""Lays parts on sheets in a process of its own: python -m hollow_keel.app.processes.nester"""

from __future__ import annotations

from typing import Any

from ...core.molds.part import FlatPart
from ...core.settings.layout import Sheets
from .beside import Beside, Send, found_one_by_one, serve


class NestRun(Beside):
    """One laying out, under way; it sends ever better layouts as ("layout", Layout)."""

    def __init__(self, parts: list[FlatPart], sheets: Sheets, seconds: float) -> None:
        super().__init__("nester", (parts, sheets, seconds))


def _nest(request: Any, tell: Send) -> None:
    from ...core.molds.nesting import nest

    parts, sheets, seconds = request
    found_one_by_one(nest(parts, sheets, seconds, lambda share: tell("progress", share)), "layout", tell)


if __name__ == "__main__":
    serve(_nest)
