"""How each kind of file is made. Loaded when something is written for the first time."""

from __future__ import annotations

import json
import math
from collections.abc import Callable

from ..core.errors import ImpossiblePlan
from ..core.findings import Weight
from ..core.hull.table_lines import table_lines
from ..core.molds.ends import transom
from ..core.molds.layout import Layout
from ..core.offsets.by_lines import ByLines
from ..core.offsets.table import EndKind
from ..core.results import Results, Shape
from ..core.setup.choices import Strongback
from ..drawing.flat_strip import flat_strips
from ..drawing.girth_map import girth_map
from ..drawing.model import Drawing
from ..drawing.mold import mold_drawing, piece_of
from ..files.lines_csv import lines_csv
from ..files.mold_tables import bevels_csv, prick_points_csv, stem_csv
from ..files.offsets_csv import write_offsets_csv
from ..files.offsets_json import write_offsets_json
from ..files.plan_json import plan_document
from ..files.setup_csv import setting_up_csv
from ..files.strips_csv import strips_csv


def plan_bytes(results: Results) -> bytes:
    """The plan file."""
    return (json.dumps(plan_document(results), indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()


def _molds(paper: str) -> Callable[[Results], bytes]:
    def make(results: Results) -> bytes:
        from ..files.mold_pdf import mold_patterns_pdf  # the writers of paper and DXF load slowly

        _some_molds(results.shape)
        return mold_patterns_pdf(results.shape, results.shape.molds.molds, paper, results.planking)

    return make


def _some_molds(shape: Shape) -> None:
    if not shape.molds.molds:
        raise ImpossiblePlan(
            "There is no mold to write: no station cuts the hull. Look at the stations on the Molds page."
        )
    for mold in shape.molds.molds:
        for finding in piece_of(shape, mold).findings:
            if finding.weight is Weight.STOP:
                raise ImpossiblePlan(f"{finding.said().where}: {finding.said().text}")


def _molds_dxf(results: Results) -> bytes:
    from ..files.mold_dxf import molds_dxf

    _some_molds(results.shape)
    return molds_dxf(results.shape, results.shape.molds.molds).encode()


def _parts_zip(results: Results) -> bytes:
    from ..files.mold_dxf import parts_zip

    _some_molds(results.shape)
    return parts_zip(results.shape)


def _molds_svg(results: Results) -> bytes:
    from ..files.svg import drawings_svg

    _some_molds(results.shape)
    shape = results.shape
    return drawings_svg(
        [mold_drawing(shape, mold, shape.job.units.style) for mold in shape.molds.molds]
    ).encode()


def _transom(results: Results) -> bytes:
    from ..drawing.transom import transom_drawing, transom_mold_drawing
    from ..files.mold_pdf import drawings_pdf

    shape = results.shape
    job = shape.job
    stern = shape.hull.lines.stern.kind is EndKind.TRANSOM
    piece = transom(shape.hull, job.molds.skin, job.molds.thickness, stern=stern)
    style, foot = (
        job.units.style,
        float((shape.hull.lines.stern if stern else shape.hull.lines.bow).points[0, 2]),
    )
    on_legs = job.setup.strongback is not Strongback.BEAM and not job.setup.upright
    level = (shape.setup.beam_level - foot) / math.cos(piece.rake) if on_legs else None
    drawings = [transom_drawing(piece, job.name, style), transom_mold_drawing(piece, job.name, style, level)]
    return drawings_pdf(drawings, job.name, job.printing.correction)


def _stem(results: Results) -> bytes:
    return stem_csv(results.shape).encode()


def _stem_pdf(results: Results) -> bytes:
    from ..drawing.stem import stem_drawings
    from ..files.mold_pdf import drawings_pdf

    shape = results.shape
    ends = ((False, shape.hull.lines.bow), (True, shape.hull.lines.stern))
    stems = [stern for stern, end in ends if end.kind is EndKind.STEM]
    if not stems:
        raise ImpossiblePlan("This hull has no stem.")
    drawings = [drawing for stern in stems for drawing in stem_drawings(shape, stern=stern)]
    return drawings_pdf(drawings, shape.job.name, shape.job.printing.correction)


def _layout(shape: Shape) -> Layout:
    from ..core.molds.nesting import fingerprint  # with shapely, which loads slowly
    from ..core.molds.parts import mold_parts

    layout = shape.job.layout
    if layout is None:
        raise ImpossiblePlan("The molds are not laid on sheets yet: do that on the Molds page first.")
    parts = [p.part for p in mold_parts(shape.job, shape.molds, shape.setup.beam_level)]
    if layout.of != fingerprint(parts):
        raise ImpossiblePlan("The molds have changed since they were laid on sheets: lay them out again.")
    return layout


def _sheets_dxf(results: Results) -> bytes:
    from ..drawing.sheets import sheets_drawing
    from ..files.mold_dxf import drawings_dxf

    _some_molds(results.shape)
    return drawings_dxf([sheets_drawing(results.shape, _layout(results.shape))]).encode()


def _sheets_pdf(results: Results) -> bytes:
    from ..files.sheets_pdf import sheets_pdf

    _some_molds(results.shape)
    return sheets_pdf(results.shape, _layout(results.shape))


def _prick(results: Results) -> bytes:
    _some_molds(results.shape)
    return prick_points_csv(results.shape).encode()


def _bevels(results: Results) -> bytes:
    _some_molds(results.shape)
    return bevels_csv(results.shape).encode()


def _setup(results: Results) -> bytes:
    from ..files.setup_pdf import setting_up_pdf

    _some_molds(results.shape)
    stops = [f.said() for f in results.shape.findings if f.code == "overlap" and f.weight is Weight.STOP]
    if stops:
        raise ImpossiblePlan(f"The setting-up sheet cannot be worked from: {stops[0].where}: {stops[0].text}")
    return setting_up_pdf(results.shape)


def _offsets(results: Results) -> bytes:
    job = results.shape.job
    return write_offsets_csv(job.offsets, job.name, job.waterline).encode()


def _offsets_json(results: Results) -> bytes:
    job = results.shape.job
    return write_offsets_json(job.offsets, job.name, job.waterline).encode()


def _lines(results: Results) -> bytes:
    shape = results.shape
    job = shape.job
    header = [
        f"name: {' '.join(job.name.split())}",
        f"offsets-to: {'inside' if job.offsets.to_inside else 'outside'}",
    ]
    if job.waterline is not None:
        header.append(f"waterline_mm: {job.waterline!r}")
    stems = [row.half_breadth for row in job.offsets.rows if row.label.startswith("stem_")]
    if stems:
        header.append(f"stem_half_siding_mm: {max(stems)!r}")
    sections = ByLines(job.offsets).sections() if job.offsets.lines else table_lines(shape.lines)
    return lines_csv(job.offsets, sections, header).encode()


def _strips(results: Results) -> bytes:
    return strips_csv(results).encode()


def _ticks_csv(results: Results) -> bytes:
    from ..files.strip_ticks import ticks_csv

    return ticks_csv(results).encode()


def _ticks_pdf(results: Results) -> bytes:
    from ..files.strip_ticks import ticks_pdf

    return ticks_pdf(results)


def _stock(kind: str) -> Callable[[Results], bytes]:
    """What is written of the stock plan: on paper, or as tables."""

    def write(results: Results) -> bytes:
        if kind in ("pieces", "buying"):
            from ..files.stock_tables import buying_csv, pieces_csv

            return (pieces_csv if kind == "pieces" else buying_csv)(results).encode()
        from ..files.stock_pdf import labels_pdf, stock_pdf

        return (labels_pdf if kind == "labels" else stock_pdf)(results)

    return write


def _drawn(make: Callable[[Results], list[Drawing]], kind: str) -> Callable[[Results], bytes]:
    """What writes drawings as PDF, SVG or DXF."""

    def write(results: Results) -> bytes:
        drawings = make(results)
        if kind == "dxf":
            from ..files.mold_dxf import drawings_dxf

            return drawings_dxf(drawings).encode()
        if kind == "svg":
            from ..files.svg import drawings_svg

            return drawings_svg(drawings).encode()
        from ..files.mold_pdf import drawings_pdf

        job = results.shape.job
        return drawings_pdf(drawings, job.name, job.printing.correction)

    return write


def _girth(results: Results) -> list[Drawing]:
    return [girth_map(results.shape, results.planking, results.shape.job.units.style)]


def _girth_pdf(results: Results) -> bytes:
    from ..files.girth_pdf import girth_map_pdf

    return girth_map_pdf(results)


def _tapers(results: Results) -> list[Drawing]:
    drawings = flat_strips(results.shape, results.planking, results.shape.job.units.style)
    if not drawings:
        raise ImpossiblePlan("Every strip is of one width: there is nothing to cut to shape.")
    return drawings


def _planked(kind: str) -> Callable[[Results], bytes]:
    def write(results: Results) -> bytes:
        from ..files.planked_hull import planked_obj, planked_stl

        make = planked_obj if kind == "obj" else planked_stl
        return make(results.planking).encode()

    return write


WRITERS: dict[str, Callable[[Results], bytes]] = {
    "molds-pdf": _molds("a4"),
    "molds-letter-pdf": _molds("letter"),
    "molds-roll-pdf": _molds("roll"),
    "molds-a3-pdf": _molds("a3"),
    "molds-tabloid-pdf": _molds("tabloid"),
    "molds-dxf": _molds_dxf,
    "molds-svg": _molds_svg,
    "parts-dxf": _parts_zip,
    "sheets-dxf": _sheets_dxf,
    "sheets-pdf": _sheets_pdf,
    "transom-pdf": _transom,
    "stem-csv": _stem,
    "stem-pdf": _stem_pdf,
    "prick-csv": _prick,
    "bevels-csv": _bevels,
    "setup-pdf": _setup,
    "setup-csv": lambda r: setting_up_csv(r.shape).encode(),
    "strips-csv": _strips,
    "ticks-csv": _ticks_csv,
    "ticks-pdf": _ticks_pdf,
    "girth-pdf": _girth_pdf,
    "girth-svg": _drawn(_girth, "svg"),
    "girth-dxf": _drawn(_girth, "dxf"),
    "tapers-pdf": _drawn(_tapers, "pdf"),
    "tapers-dxf": _drawn(_tapers, "dxf"),
    "planked-obj": _planked("obj"),
    "planked-stl": _planked("stl"),
    "stock-pdf": _stock("paper"),
    "labels-pdf": _stock("labels"),
    "pieces-csv": _stock("pieces"),
    "buying-csv": _stock("buying"),
    "offsets-csv": _offsets,
    "offsets-json": _offsets_json,
    "lines-csv": _lines,
    "plan-json": plan_bytes,
}
"""By the kind of export."""
