"""Every action of the window as data: id, menu, text, shortcut."""

from __future__ import annotations

from dataclasses import dataclass

from ..app.exports import EXPORTS
from .pages.registry import PAGES

BELOW = " › "
"""Between a menu's name and that of one within it."""


@dataclass(frozen=True)
class ActionKind:
    """One action. An empty text is a line between actions; a menu within another is named after both."""

    id: str
    menu: str
    text: str
    shortcut: str = ""


ACTIONS: tuple[ActionKind, ...] = (
    ActionKind("new", "Job", "New job", "Ctrl+N"),
    ActionKind("open", "Job", "Open…", "Ctrl+O"),
    ActionKind("recent", "Job", "Open recent"),
    ActionKind("import", "Job", "Import offsets…", "Ctrl+I"),
    ActionKind("demo-linnet", "Job", "Demo: Linnet"),
    ActionKind("demo-pipit", "Job", "Demo: Pipit"),
    ActionKind("demo-sedge", "Job", "Demo: Sedge"),
    ActionKind("line1", "Job", ""),
    ActionKind("rename", "Job", "Name of the job…"),
    ActionKind("save", "Job", "Save", "Ctrl+S"),
    ActionKind("save-as", "Job", "Save as…", "Ctrl+Shift+S"),
    ActionKind("line2", "Job", ""),
    ActionKind("quit", "Job", "Quit", "Ctrl+Q"),
    ActionKind("undo", "Edit", "Undo", "Ctrl+Z"),
    ActionKind("redo", "Edit", "Redo", "Ctrl+Shift+Z"),
    ActionKind("find", "Edit", "Find a command…", "Ctrl+K"),
    *(ActionKind(f"page-{p.stage}", "View", p.name, p.shortcut) for p in PAGES),
    ActionKind("line3", "View", ""),
    ActionKind("units", "View", "Units and rounding"),
    ActionKind("fit", "View", "Fit the drawing (F in a drawing)", "Ctrl+0"),
    ActionKind("measure", "View", "Measure in the drawing (M in a drawing)", "Ctrl+M"),
    ActionKind("bow-side", "View", "Bow to the right"),
    ActionKind("theme", "View", "Light, dark or the system's"),
    ActionKind("add-station", "Offsets", "Add a station…", "Ctrl+Shift+A"),
    ActionKind("add-line", "Offsets", "Add a waterline, buttock or diagonal…", "Ctrl+Shift+L"),
    ActionKind("fill-down", "Offsets", "Fill down", "Ctrl+D"),
    ActionKind("note", "Offsets", "Note on the cell…", "Ctrl+Shift+N"),
    ActionKind("line4", "Offsets", ""),
    ActionKind("scale", "Offsets", "Scale the design…"),
    ActionKind("restation", "Offsets", "Space the stations anew…"),
    ActionKind("baseline", "Offsets", "Move the baseline…"),
    ActionKind("turn", "Offsets", "Count from the other end"),
    ActionKind("next", "Stations", "Next mold aft", "Ctrl+Right"),
    ActionKind("previous", "Stations", "Next mold forward", "Ctrl+Left"),
    ActionKind("stations", "Stations", "Where molds stand…"),
    ActionKind("mold-settings", "Stations", "Edge, legs, notches and marks of the molds…", "Ctrl+E"),
    ActionKind("sheets", "Stations", "Lay the molds on sheets…", "Ctrl+L"),
    ActionKind("bench-marks", "Stations", "Bench: marks to make, one by one…", "Ctrl+B"),
    ActionKind("bench-readings", "Stations", "Bench: measure the molds…", "Ctrl+Shift+B"),
    ActionKind("new-survey", "Stations", "Begin a new round of measuring…"),
    ActionKind("compare", "Strips", "Compare ways of planking, or find one…", "Ctrl+Shift+C"),
    ActionKind("strip-settings", "Strips", "Widths, wood and edges of the strips…", "Ctrl+Shift+E"),
    ActionKind("bench-ticks", "Strips", "Bench: where strips come on this mold…", "Ctrl+T"),
    ActionKind("bench-pieces", "Strips", "Bench: pieces to cut…", "Ctrl+Shift+T"),
    ActionKind("stock-settings", "Strips", "Saw, joints, buying, glue and cloth…", "Ctrl+Shift+K"),
    *(
        ActionKind(
            f"export-{e.kind}",
            f"Print{BELOW}{e.group}",
            e.name + "…",
            {"molds-pdf": "Ctrl+P"}.get(e.kind, ""),
        )
        for e in EXPORTS
    ),
    ActionKind("foil", "Print", "Foil template for a keel or skeg…"),
    ActionKind("line5", "Print", ""),
    ActionKind("proof-bar", "Print", "My printer prints small or large…"),
    ActionKind("first-steps", "Help", "First steps", "F1"),
    ActionKind("cautions", "Help", "Working safely"),
    ActionKind("about", "Help", "About Hollow Keel"),
)
