"""What can be written out, by name: for the menu and for the command line alike."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from ..core.errors import InputError
from ..files.atomic import write_atomic

if TYPE_CHECKING:
    from ..core.results import Results


@dataclass(frozen=True)
class Export:
    """A kind of file: its id on the command line, its name in the menu, its suffix."""

    kind: str
    name: str
    suffix: str
    patterns: bool = False
    """Whether it is a full set of mold patterns, so that the job remembers what was printed."""
    whole: bool = False
    """Whether it tells of everything, the wood included: that is worked out last."""

    def make(self, results: Results) -> bytes:
        """The file. Raises InputError and ImpossiblePlan."""
        from .writers import WRITERS  # menus need the names only; the writers load slowly

        return WRITERS[self.kind](results)


EXPORTS: tuple[Export, ...] = (
    Export("molds-pdf", "Mold patterns, full size on A4 (PDF)", ".pdf", patterns=True),
    Export("molds-letter-pdf", "Mold patterns, full size on Letter (PDF)", ".pdf", patterns=True),
    Export(
        "molds-roll-pdf", "Mold patterns, full size, one page each for a roll (PDF)", ".pdf", patterns=True
    ),
    Export("molds-a3-pdf", "Mold patterns, full size on A3 (PDF)", ".pdf", patterns=True),
    Export("molds-tabloid-pdf", "Mold patterns, full size on Tabloid (PDF)", ".pdf", patterns=True),
    Export("molds-dxf", "Molds (DXF)", ".dxf", patterns=True),
    Export("molds-svg", "Molds (SVG)", ".svg", patterns=True),
    Export("parts-dxf", "Every part and sheet in a file of its own (DXF in a ZIP)", ".zip"),
    Export("sheets-dxf", "Molds laid on sheets (DXF)", ".dxf"),
    Export("sheets-pdf", "Plan of the sheets (PDF)", ".pdf"),
    Export("transom-pdf", "Transom, true shape at full size (PDF)", ".pdf"),
    Export("stem-pdf", "Inner stem and its mold at full size (PDF)", ".pdf"),
    Export("stem-csv", "Bevels of the stem by height (CSV)", ".csv"),
    Export("prick-csv", "Points to prick through for every mold (CSV)", ".csv"),
    Export("bevels-csv", "Bevels to call out along every mold (CSV)", ".csv"),
    Export("setup-pdf", "Setting-up sheet (PDF)", ".pdf"),
    Export("setup-csv", "Setting-up schedule and cut list (CSV)", ".csv"),
    Export("strips-csv", "Strips (CSV)", ".csv"),
    Export("ticks-csv", "Where strips come on every mold (CSV)", ".csv"),
    Export("ticks-pdf", "Where strips come on every mold, to tick off (PDF)", ".pdf"),
    Export("girth-pdf", "Girth map on A3 (PDF)", ".pdf"),
    Export("girth-svg", "Girth map (SVG)", ".svg"),
    Export("girth-dxf", "Girth map (DXF)", ".dxf"),
    Export("tapers-pdf", "Strips cut to shape, full size (PDF)", ".pdf"),
    Export("tapers-dxf", "Strips cut to shape (DXF)", ".dxf"),
    Export("planked-obj", "Planked hull, one part a strip (OBJ)", ".obj"),
    Export("planked-stl", "Planked hull, one part a strip (STL)", ".stl"),
    Export("stock-pdf", "Wood: what to buy, sawing, joints and pieces (PDF)", ".pdf", whole=True),
    Export("labels-pdf", "Labels for bundles and pieces (PDF)", ".pdf", whole=True),
    Export("pieces-csv", "Pieces of every strip (CSV)", ".csv", whole=True),
    Export("buying-csv", "What to buy and what is used up (CSV)", ".csv", whole=True),
    Export("offsets-csv", "Offsets (CSV)", ".csv"),
    Export("offsets-json", "Offsets (JSON)", ".json"),
    Export("lines-csv", "Offsets by waterlines and buttocks (CSV)", ".csv"),
    Export("plan-json", "The whole plan (JSON)", ".json", whole=True),
)


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
    write_atomic(path, export.make(results))
