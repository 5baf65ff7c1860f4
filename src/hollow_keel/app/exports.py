"""What can be written out, by name: for the menu and for the command line alike."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum
from pathlib import Path
from typing import TYPE_CHECKING

from ..core.errors import InputError
from ..files.atomic import write_atomic

if TYPE_CHECKING:
    from ..core.results import Results


class Needs(IntEnum):
    """Parts of a plan, in the order they are worked out: each needs those before it."""

    SHAPE = 0
    STRIPS = 1
    WOOD = 2


GROUP_NEEDS = {"Strips": Needs.STRIPS, "Wood": Needs.WOOD}


@dataclass(frozen=True)
class Export:
    """A kind of file: its id on the command line, what it belongs to, its name in the menu, its suffix."""

    kind: str
    group: str
    name: str
    suffix: str
    patterns: bool = False
    """Whether it is a full set of mold patterns, so that the job remembers what was printed."""

    @property
    def needs(self) -> Needs:
        """How far the plan has to be worked out for it."""
        return Needs.WOOD if self.kind == "plan-json" else GROUP_NEEDS.get(self.group, Needs.SHAPE)

    def make(self, results: Results) -> bytes:
        """The file. Raises InputError and ImpossiblePlan."""
        from .writers import WRITERS  # menus need the names only; the writers load slowly

        return WRITERS[self.kind](results)


EXPORTS: tuple[Export, ...] = (
    Export("molds-pdf", "Molds", "Mold patterns, full size on A4 (PDF)", ".pdf", patterns=True),
    Export("molds-letter-pdf", "Molds", "Mold patterns, full size on Letter (PDF)", ".pdf", patterns=True),
    Export(
        "molds-roll-pdf",
        "Molds",
        "Mold patterns, full size, one page each for a roll (PDF)",
        ".pdf",
        patterns=True,
    ),
    Export("molds-a3-pdf", "Molds", "Mold patterns, full size on A3 (PDF)", ".pdf", patterns=True),
    Export("molds-tabloid-pdf", "Molds", "Mold patterns, full size on Tabloid (PDF)", ".pdf", patterns=True),
    Export("molds-dxf", "Molds", "Molds (DXF)", ".dxf", patterns=True),
    Export("molds-svg", "Molds", "Molds (SVG)", ".svg", patterns=True),
    Export(
        "parts-dxf", "Sheets and ends", "Every part and sheet in a file of its own (DXF in a ZIP)", ".zip"
    ),
    Export("sheets-dxf", "Sheets and ends", "Molds laid on sheets (DXF)", ".dxf"),
    Export("sheets-pdf", "Sheets and ends", "Plan of the sheets (PDF)", ".pdf"),
    Export("transom-pdf", "Sheets and ends", "Transom, true shape at full size (PDF)", ".pdf"),
    Export("stem-pdf", "Sheets and ends", "Inner stem and its mold at full size (PDF)", ".pdf"),
    Export("stem-csv", "Sheets and ends", "Bevels of the stem by height (CSV)", ".csv"),
    Export("prick-csv", "Molds", "Points to prick through for every mold (CSV)", ".csv"),
    Export("bevels-csv", "Molds", "Bevels to call out along every mold (CSV)", ".csv"),
    Export("setup-pdf", "Setting up", "Setting-up sheet (PDF)", ".pdf"),
    Export("setup-csv", "Setting up", "Setting-up schedule and cut list (CSV)", ".csv"),
    Export("strips-csv", "Strips", "Strips (CSV)", ".csv"),
    Export("ticks-csv", "Strips", "Where strips come on every mold (CSV)", ".csv"),
    Export("ticks-pdf", "Strips", "Where strips come on every mold, to tick off (PDF)", ".pdf"),
    Export("girth-pdf", "Strips", "Girth map on A3 (PDF)", ".pdf"),
    Export("girth-svg", "Strips", "Girth map (SVG)", ".svg"),
    Export("girth-dxf", "Strips", "Girth map (DXF)", ".dxf"),
    Export("tapers-pdf", "Strips", "Strips cut to shape, full size (PDF)", ".pdf"),
    Export("tapers-dxf", "Strips", "Strips cut to shape (DXF)", ".dxf"),
    Export("planked-obj", "Strips", "Planked hull, one part a strip (OBJ)", ".obj"),
    Export("planked-stl", "Strips", "Planked hull, one part a strip (STL)", ".stl"),
    Export("stock-pdf", "Wood", "Wood: what to buy, sawing, joints and pieces (PDF)", ".pdf"),
    Export("labels-pdf", "Wood", "Labels for bundles and pieces (PDF)", ".pdf"),
    Export("pieces-csv", "Wood", "Pieces of every strip (CSV)", ".csv"),
    Export("buying-csv", "Wood", "What to buy and what is used up (CSV)", ".csv"),
    Export("offsets-csv", "Offsets and plan", "Offsets (CSV)", ".csv"),
    Export("offsets-json", "Offsets and plan", "Offsets (JSON)", ".json"),
    Export("lines-csv", "Offsets and plan", "Offsets by waterlines and buttocks (CSV)", ".csv"),
    Export("plan-json", "Offsets and plan", "The whole plan (JSON)", ".json"),
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
