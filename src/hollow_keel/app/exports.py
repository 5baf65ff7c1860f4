"""What can be written out, by name: for the menu and for the command line alike."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from ..core.errors import InputError
from ..files.atomic import write_atomic
from .export import Export
from .exporting import ends, molds, plan, setup, strips, wood

if TYPE_CHECKING:
    from ..core.results import Results

FEATURES = (molds, ends, setup, strips, wood, plan)
EXPORTS: tuple[Export, ...] = tuple(export for feature in FEATURES for export in feature.EXPORTS)


def export_named(kind: str) -> Export:
    """The export with this id. Raises InputError."""
    for export in EXPORTS:
        if export.kind == kind:
            return export
    raise InputError(
        "no such kind of export", value=kind, mend=f"Use one of: {', '.join(e.kind for e in EXPORTS)}."
    )


def write_export(export: Export, results: Results, path: Path) -> None:
    """Make the file and put it in place whole. Raises InputError and ImpossiblePlan."""
    write_atomic(path, export.write(results))
