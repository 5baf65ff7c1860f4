"""Numbers of the plan file."""

from __future__ import annotations


def rounded(value: float, digits: int = 4) -> float:
    """So many digits, and no minus before a zero."""
    return round(float(value), digits) + 0.0
