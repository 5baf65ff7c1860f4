"""JSON from outside: whatever is in it comes out as plain values, or is refused in words."""

from __future__ import annotations

import json
import re
from typing import Any

from ...core.errors import InputError

MOST_DIGITS = 300
"""Whole numbers with more of them are no numbers of a boat, and take long to read."""
_ALONE = re.compile("[\ud800-\udfff]")


def read_json(text: str) -> Any:
    """The value of a text. Halves of characters that cannot be written again are replaced by the mark for what cannot be read.
    Raises InputError naming the line and the mend."""
    try:
        value = json.loads(text, parse_int=_whole)
    except (json.JSONDecodeError, RecursionError) as error:
        line = f"line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise InputError("this is not well-formed JSON", line, mend="Mend it in a text editor.") from None
    return _writable(value) if "\\ud" in text.lower() else value


def _whole(digits: str) -> int:
    if len(digits) > MOST_DIGITS:
        raise InputError(f"a number has {len(digits)} digits", value=f"{digits[:12]}…", mend="Write the number that is meant.")
    return int(digits)


def _writable(value: Any) -> Any:
    if isinstance(value, str):
        return _ALONE.sub("\ufffd", value)
    if isinstance(value, list):
        return [_writable(own) for own in value]
    if isinstance(value, dict):
        return {_writable(key): _writable(own) for key, own in value.items()}
    return value
