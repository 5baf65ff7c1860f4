"""Drawings written out as PDF, SVG or DXF."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from ..export import Write

if TYPE_CHECKING:
    from ...core.results import Results
    from ...drawing.model import Drawing


def drawn(make: Callable[[Results], list[Drawing]], kind: str) -> Write:
    """What writes drawings as `kind`: pdf, svg or dxf."""

    def write(results: Results) -> bytes:
        drawings = make(results)
        if kind == "dxf":
            from ...files.mold_dxf import drawings_dxf

            return drawings_dxf(drawings).encode()
        if kind == "svg":
            from ...files.svg import drawings_svg

            return drawings_svg(drawings).encode()
        from ...files.mold_pdf import drawings_pdf

        job = results.job
        return drawings_pdf(drawings, job.name, job.printing.correction)

    return write
