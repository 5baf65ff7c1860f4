"""Nominal and dressed sizes of softwood boards.

Source: American Softwood Lumber Standard PS 20 (dry, dressed four sides), quoted from memory: 1 in nominal is 3/4 in dressed, 2 in
1 1/2; widths to 6 in lose 1/2 in, 8 in and wider 3/4 in.
"""

from __future__ import annotations

INCH = 25.4
_THICKNESS = {1.0: 0.75, 1.25: 1.0, 1.5: 1.25, 2.0: 1.5, 2.5: 2.0, 3.0: 2.5, 3.5: 3.0, 4.0: 3.5}
_WIDTH = {2.0: 1.5, 3.0: 2.5, 4.0: 3.5, 5.0: 4.5, 6.0: 5.5, 7.0: 6.5, 8.0: 7.25, 9.0: 8.25, 10.0: 9.25, 11.0: 10.25, 12.0: 11.25}


def dressed(thickness: float, width: float) -> tuple[float, float] | None:
    """Dressed thickness and width (mm) of a board by its nominal sizes in inches; None for sizes that are not in the table."""
    t, w = _THICKNESS.get(thickness), _WIDTH.get(width)
    return None if t is None or w is None else (t * INCH, w * INCH)
