"""Between a number on a drawing and what a setting keeps."""

from __future__ import annotations

from typing import Any

from ...app.deciding import record_of
from ...app.setting_text import text_to_show
from ...core.settings.record import Kind
from ...core.units import LengthStyle


def drawn_value(path: str, value: float) -> Any:
    """What a setting keeps of a number that was dragged."""
    return round(value) if record_of(path).setting.kind is Kind.WHOLE else value


def written(path: str, value: float, style: LengthStyle) -> str:
    """The number as it is shown while it is dragged."""
    return text_to_show(record_of(path), drawn_value(path, value), style)
