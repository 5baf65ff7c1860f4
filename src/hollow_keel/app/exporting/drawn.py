"""Drawings written out as PDF, SVG or DXF."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from ..export import Export, Write, only_where

if TYPE_CHECKING:
    from ...core.job import Job
    from ...core.results import Results
    from ...core.stage import Stage
    from ...drawing.model import Drawing


def drawn(make: Callable[[Results], list[Drawing]], kind: str) -> Write:
    """What writes drawings as `kind`: pdf, svg or dxf."""

    def write(results: Results) -> bytes:
        drawings = make(results)
        if kind == "dxf":
            from ...files.molds.dxf import drawings_dxf

            return drawings_dxf(drawings).encode()
        if kind == "svg":
            from ...files.paper.svg import drawings_svg

            return drawings_svg(drawings).encode()
        from ...files.molds.paper import drawings_pdf

        job = results.job
        return drawings_pdf(drawings, job.name, job.printing.correction)

    return write


def pattern(
    group: str,
    kind: str,
    name: str,
    stage: Stage[Any],
    make: Callable[[Results], list[Drawing]],
    has: Callable[[Job], bool],
    lack: str,
) -> tuple[Export, Export]:
    """A pattern at full size as PDF and as DXF, for jobs that have it."""
    return tuple(
        only_where(has, lack, Export(f"{kind}-{form}", group, f"{name} ({form.upper()})", f".{form}", (stage,), drawn(make, form)))
        for form in ("pdf", "dxf")
    )  # type: ignore[return-value]
