"""Molds as DXF (R2010, millimetres): one layer a purpose, each mold beside the last."""

from __future__ import annotations

import io
import math
import zipfile
from collections.abc import Sequence

import ezdxf
from ezdxf import units as dxf_units

from ...core.molds.stations import Mold
from ...core.results import Shape
from ...drawing.model import Drawing, Layer
from ...drawing.molds.mold import mold_drawing
from ...drawing.molds.parts import PartDrawer
from ...drawing.molds.sheets import sheet_name, sheets_drawing

GAP_MM = 60.0
LAYERS = {Layer.MOLD: "CUT", Layer.HOLE: "CUT_INSIDE", Layer.GHOST: "HULL_OUTSIDE", Layer.BEAM: "SHEET"}
"""Of lines; every other one is a MARK."""
COLOURS = {"CUT": 1, "CUT_INSIDE": 5, "MARK": 3, "ENGRAVE": 7, "BEVEL": 30, "HULL_OUTSIDE": 8, "SHEET": 9}


def molds_dxf(shape: Shape, molds: Sequence[Mold]) -> str:
    """The text of the file: each mold beside the last."""
    return drawings_dxf([mold_drawing(shape, mold, shape.job.units.style) for mold in molds])


def parts_zip(shape: Shape) -> bytes:
    """One DXF for each part, and one for each sheet where the parts are laid on sheets, in a ZIP."""
    out = io.BytesIO()
    draw = PartDrawer(shape)
    layout = shape.job.layout
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for part in shape.parts.parts:
            _add(archive, f"{part.name.replace(' ', '-')}.dxf", drawings_dxf([draw(part)]))
        if layout is not None and layout.of == shape.parts.fingerprint:
            for number in range(layout.pieces):
                name = sheet_name(layout, number).split(" of ", maxsplit=1)[0].replace(" ", "-")
                _add(archive, f"{name}.dxf", drawings_dxf([sheets_drawing(shape, layout, number)]))
    return out.getvalue()


def _add(archive: zipfile.ZipFile, name: str, text: str) -> None:
    """A file whose time is always the same: the same molds give the same archive."""
    archive.writestr(zipfile.ZipInfo(name, (2000, 1, 1, 0, 0, 0)), text, zipfile.ZIP_DEFLATED)


def drawings_dxf(drawings: Sequence[Drawing]) -> str:
    """Any drawings beside each other, a layer for each purpose."""
    document = ezdxf.new("R2010", setup=False)  # type: ignore[attr-defined]
    document.units = dxf_units.MM
    for name, colour in COLOURS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    along = 0.0
    for drawing in drawings:
        left, _, right, _ = drawing.bounds()
        shift = along - left
        along += math.ceil(right - left) + GAP_MM
        for stroke in drawing.strokes:
            points = [(x + shift, y) for x, y in stroke.points.tolist()]
            space.add_lwpolyline(points, close=stroke.closed, dxfattribs={"layer": LAYERS.get(stroke.layer, "MARK")})
        for label in drawing.labels:
            text = space.add_text(
                label.text,
                height=12 if label.strong else 6,
                dxfattribs={"layer": "BEVEL" if label.layer is Layer.BEVEL else "ENGRAVE"},
            )
            text.set_placement((label.at[0] + shift, label.at[1]))
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
