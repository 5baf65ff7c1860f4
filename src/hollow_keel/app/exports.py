"""What can be written out, by name: for the menu and for the command line alike."""

from __future__ import annotations

from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import TYPE_CHECKING

from ..core.errors import InputError
from ..files.store.atomic import write_atomic
from .export import Export, PlanPart

if TYPE_CHECKING:
    from ..core.results import Results

FEATURES = ("molds", "setup", "planking", "deck", "veneers", "stock", "sheer", "ends", "inside", "log", "offsets")
"""The modules of `exporting`, in the order of the menu: a new feature is one more name."""


def _modules() -> Iterator[ModuleType]:
    for name in FEATURES:
        yield import_module(f".exporting.{name}", __package__)


EXPORTS: tuple[Export, ...] = tuple(export for module in _modules() for export in module.EXPORTS)


def plan_parts() -> tuple[PlanPart, ...]:
    """What features add to the plan file."""
    return tuple(part for module in _modules() for part in getattr(module, "PLAN_PARTS", ()))


def export_named(kind: str) -> Export:
    """The export with this id. Raises InputError."""
    for export in EXPORTS:
        if export.kind == kind:
            return export
    raise InputError("no such kind of export", value=kind, mend=f"Use one of: {', '.join(e.kind for e in EXPORTS)}.")


def write_export(export: Export, results: Results, path: Path) -> None:
    """Make the file and put it in place whole. Raises InputError and ImpossiblePlan."""
    write_atomic(path, export.write(results))
