"""Texts in tables that a spreadsheet opens: none is run."""

from __future__ import annotations

LIVE = ("=", "+", "-", "@", "\t", "\r", "'")
"""What a text begins with that a spreadsheet might run."""


def inert(text: str) -> str:
    """A text that no spreadsheet takes for a formula: one that begins as a formula does has an apostrophe before it."""
    return f"'{text}" if text[:1] in LIVE else text


def plain(cell: str) -> str:
    """The text of a cell that `inert` has written."""
    return cell[1:] if cell[:1] == "'" and cell[1:2] in LIVE else cell
