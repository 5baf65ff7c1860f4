"""Parts on sheets: nothing overlaps, nothing is lost, the layout belongs to its parts; it can be stopped."""

from __future__ import annotations

import io
import time
import zipfile

import ezdxf
import numpy as np
import pypdf
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.exports import export_named
from hollow_keel.app.processes.nester import NestRun
from hollow_keel.core.change import change
from hollow_keel.core.errors import Cancelled, ImpossiblePlan
from hollow_keel.core.job import Job
from hollow_keel.core.molds.nesting import as_rectangles, fingerprint, nest
from hollow_keel.core.molds.offcuts import largest_left_over
from hollow_keel.core.molds.part import FlatPart
from hollow_keel.core.molds.parts import sheet_weight
from hollow_keel.core.molds.tucking import tuck
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import SHAPE, Shape
from hollow_keel.core.settings.layout import Layout, Sheets
from hollow_keel.demo.jobs import linnet

SHEETS = Sheets(length=1525.0, width=1525.0)


def clashes(layout: Layout, parts: list[FlatPart]) -> list[str]:
    """What is wrong with a layout, in words: parts that lie nearer than the gap or over the margin; empty if nothing."""
    own = {p.name: p for p in parts}
    sheets = layout.sheets
    said: list[str] = []
    for number in range(layout.pieces):
        long, wide = layout.size(number)
        inner = shapely.box(sheets.margin, sheets.margin, long - sheets.margin, wide - sheets.margin)
        lying = [
            (p.name, shapely.Polygon(p.moved(own[p.name].outline), [p.moved(h) for h in own[p.name].holes]))
            for p in layout.placed
            if p.sheet == number
        ]
        for k, (name, shape) in enumerate(lying):
            if not shapely.buffer(inner, 0.01).covers(shape):
                said.append(f"{name} lies over the margin of sheet {number + 1}")
            said += [
                f"{name} and {other} lie nearer than the gap"
                for other, beside in lying[k + 1 :]
                if shape.distance(beside) < sheets.gap - 0.01
            ]
    return said


@pytest.fixture(scope="module")
def shape() -> Shape:
    return Pipeline().shape(change(linnet(), "molds", halves=True, beyond_sheer=50.0))


@pytest.fixture(scope="module")
def parts(shape: Shape) -> list[FlatPart]:
    return shape.parts.flat


def test_halves_are_mirror_images(shape: Shape) -> None:
    pairs = shape.parts.parts
    assert [p.name for p in pairs[:4]] == ["1 P", "1 S", "2 P", "2 S"]
    port, starboard = pairs[8].part.outline, pairs[9].part.outline
    assert np.allclose(port * [-1, 1], starboard[::-1])
    assert shapely.Polygon(port).area == pytest.approx(shapely.Polygon(starboard).area)
    weight = sheet_weight(pairs, 12.0, 600.0)
    assert weight == pytest.approx(sum(shapely.Polygon(p.part.outline, ()).area for p in pairs) * 12 * 600e-9, rel=0.05)


def test_true_shapes_take_a_third_fewer_sheets_than_rectangles(parts: list[FlatPart]) -> None:
    for seconds in (20.0, 60.0):  # a busy machine takes longer
        layouts = list(nest(parts, SHEETS, seconds))
        if layouts[-1].count <= layouts[0].count * 2 / 3:
            break
    first, last = layouts[0], layouts[-1]
    assert not first.shapes
    assert last.shapes
    assert last.count <= first.count * 2 / 3
    for layout in layouts:
        assert clashes(layout, parts) == []
        assert sorted(p.name for p in layout.placed) == sorted(p.name for p in parts)
        assert layout.of == fingerprint(parts)
        area = sum(shapely.Polygon(p.outline).area for p in parts)
        assert layout.used == pytest.approx(area / (layout.count * 1525.0**2))


def test_what_is_used_of_rectangles_is_the_parts_wood_over_that_of_the_sheets(parts: list[FlatPart]) -> None:
    sheets = Sheets(length=2440.0, width=1220.0)
    layout = as_rectangles(parts, sheets)
    wood = sum(shapely.Polygon(part.outline).area - sum(shapely.Polygon(hole).area for hole in part.holes) for part in parts)
    assert layout.count == 1 + max(placed.sheet for placed in layout.placed)
    assert layout.used == pytest.approx(wood / (layout.count * 2440.0 * 1220.0), rel=1e-9)


def test_a_clash_is_seen(parts: list[FlatPart]) -> None:
    layout = as_rectangles(parts, SHEETS)
    moved = layout.placed[0].model_copy(update={"x": layout.placed[0].x - 5.0})
    assert clashes(layout.model_copy(update={"placed": (moved, *layout.placed[1:])}), parts)


def test_the_grain_is_kept_where_asked(parts: list[FlatPart]) -> None:
    layout = as_rectangles(parts, Sheets(grain=True))
    assert {p.angle for p in layout.placed} == {0.0}


@pytest.mark.parametrize(
    ("sheets", "said"),
    [
        (Sheets(length=600.0, width=600.0), "larger than a sheet"),
        (Sheets(length=15.0, width=600.0), "no room within its margins"),
        (Sheets(length=0.0, width=0.0), "no room within its margins"),
    ],
)
def test_what_cannot_be_laid_is_refused(parts: list[FlatPart], sheets: Sheets, said: str) -> None:
    with pytest.raises(ImpossiblePlan, match=said):
        next(nest(parts, sheets, 5.0))
    with pytest.raises(ImpossiblePlan, match="no parts"):
        next(nest([], SHEETS, 5.0))


def test_it_is_stopped_from_within(parts: list[FlatPart]) -> None:
    def tick(_: float) -> None:
        raise Cancelled

    layouts = nest(parts, SHEETS, 20.0, tick)
    assert next(layouts).count > 0
    with pytest.raises(Cancelled):
        next(layouts)


def test_its_process_answers_and_is_ended_at_once(parts: list[FlatPart]) -> None:
    run = NestRun(parts, SHEETS, 20.0)
    found: list[object] = []
    deadline = time.monotonic() + 60
    while not found and time.monotonic() < deadline:
        found += [value for kind, value in run.poll() if kind == "layout"]
        time.sleep(0.02)
    run.stop()
    assert isinstance(found[0], Layout)
    refused = NestRun(parts, Sheets(length=300.0, width=300.0), 5.0)
    said: list[str] = []
    while not said and time.monotonic() < deadline:
        said += [str(value) for kind, value in refused.poll() if kind == "failed"]
        time.sleep(0.02)
    refused.stop()
    assert "larger than a sheet" in said[0]


def test_the_layout_goes_out_as_dxf_and_pdf_and_only_while_it_fits_the_molds(shape: Shape, parts: list[FlatPart]) -> None:
    layout = as_rectangles(parts, SHEETS)
    job: Job = change(shape.job, "", layout=layout, sheets=SHEETS)
    pipeline = Pipeline()
    results = pipeline.results(job, SHAPE)
    drawing = ezdxf.read(io.StringIO(export_named("sheets-dxf").write(results).decode()))
    cut = [e for e in drawing.modelspace().query("LWPOLYLINE") if e.dxf.layer == "CUT"]
    assert len(cut) == len(parts)
    assert all(e.closed for e in cut)
    area = sum(shapely.Polygon([(x, y) for x, y, *_ in e.get_points()]).area for e in cut)
    assert area == pytest.approx(sum(shapely.Polygon(p.outline).area for p in parts), rel=1e-6)
    pages = pypdf.PdfReader(io.BytesIO(export_named("sheets-pdf").write(results))).pages
    assert len(pages) == layout.count
    assert "1 P" in "".join(page.extract_text() for page in pages)
    other = pipeline.results(change(job, "molds", skin=9.0), SHAPE)
    with pytest.raises(ImpossiblePlan, match="have changed"):
        export_named("sheets-dxf").write(other)
    with pytest.raises(ImpossiblePlan, match="not laid"):
        export_named("sheets-dxf").write(Pipeline().results(shape.job, SHAPE))


@given(st.lists(st.tuples(st.floats(20, 700), st.floats(20, 700)), min_size=1, max_size=12))
@settings(max_examples=40, deadline=None)
def test_rectangles_never_clash(sizes: list[tuple[float, float]]) -> None:
    parts = [FlatPart(str(k), np.array([(0, 0), (w, 0), (w, h), (0, h)]) - [w / 3, h]) for k, (w, h) in enumerate(sizes)]
    layout = as_rectangles(parts, Sheets())
    assert clashes(layout, parts) == []
    assert len(layout.placed) == len(parts)


def ring(name: str, side: float, hole: float) -> FlatPart:
    square = np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
    return FlatPart(name, square * side, (square * hole + (side - hole) / 2,))


def test_small_parts_lie_in_the_openings_of_large_ones() -> None:
    plate = np.array([[0.0, 0.0], [300.0, 0.0], [300.0, 120.0], [0.0, 120.0]])
    parts = [ring("A", 900.0, 700.0), ring("B", 600.0, 450.0), *(FlatPart(f"p{k}", plate) for k in range(8))]
    left, tucked = tuck(parts, Sheets())
    assert {t.host for t in tucked} == {"A"}
    assert "B" in {t.name for t in tucked}  # the largest that goes in
    assert sorted([*(p.name for p in left), *(t.name for t in tucked)]) == sorted(p.name for p in parts)
    for layout in nest(parts, Sheets(length=1000.0, width=1000.0), 4.0):
        assert clashes(layout, parts) == []
        assert len(layout.placed) == len(parts)
    grained = tuck(parts, Sheets(grain=True))[1]
    assert {t.angle for t in grained} <= {0.0, 180.0}


def test_offcuts_are_used_before_whole_sheets_and_the_rest_is_named(parts: list[FlatPart]) -> None:
    sheets = Sheets(length=2440.0, width=1220.0, offcuts=((600.0, 500.0), (5.0, 5.0), (900.0, 700.0)))
    layout = next(nest(parts, sheets, 5.0))
    assert clashes(layout, parts) == []
    assert layout.offcuts == ((600.0, 500.0), (900.0, 700.0))
    assert sum(p.sheet >= layout.count for p in layout.placed) >= 2
    assert layout.size(layout.count) == (600.0, 500.0)
    with_none = next(nest(parts, sheets.model_copy(update={"offcuts": ()}), 5.0))
    assert layout.count <= with_none.count


def test_the_largest_piece_left_over_is_free(parts: list[FlatPart]) -> None:
    layout = as_rectangles(parts, SHEETS)
    for sheet in range(layout.count):
        long, wide = largest_left_over(layout, parts, sheet)
        lying = shapely.union_all(
            [
                shapely.Polygon(placed.moved(next(p for p in parts if p.name == placed.name).outline))
                for placed in layout.placed
                if placed.sheet == sheet
            ]
        )
        spots = [(x, y) for x in range(0, 1526 - int(long), 10) for y in range(0, 1526 - int(wide), 10)]
        assert any(not lying.intersects(shapely.box(x, y, x + long, y + wide)) for x, y in spots)
        assert long * wide <= 1525**2 - lying.area
    one = FlatPart("one", np.array([[0.0, 0.0], [1000.0, 0.0], [1000.0, 1505.0], [0.0, 1505.0]]))
    assert largest_left_over(as_rectangles([one], SHEETS), [one], 0) == (500.0, 1520.0)


def test_each_part_and_sheet_has_a_file_of_its_own(parts: list[FlatPart]) -> None:
    job = change(linnet(), "molds", halves=True, gussets=True)
    shape = Pipeline().shape(job)
    own = shape.parts.flat
    laid = change(job, "", layout=as_rectangles(own, Sheets(length=3050.0, width=1525.0)))
    data = export_named("parts-dxf").write(Pipeline().results(laid, SHAPE))
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        names = archive.namelist()
        assert len([n for n in names if n.startswith("sheet-")]) == laid.layout.count  # type: ignore[union-attr]
        assert {"4-P.dxf", "4-S.dxf", "4-gusset-head.dxf"} <= set(names)
        port, starboard, plate = (
            ezdxf.read(io.StringIO(archive.read(n).decode())) for n in ("4-P.dxf", "4-S.dxf", "4-gusset-head.dxf")
        )
    for document in (port, starboard, plate):
        assert document.units == ezdxf.units.MM
        assert document.dxfversion == "AC1024"  # R2010
        assert {e.dxf.layer for e in document.modelspace()} <= {"CUT", "CUT_INSIDE", "MARK", "ENGRAVE", "BEVEL"}
        for name in ("CUT", "CUT_INSIDE", "MARK", "ENGRAVE", "BEVEL"):
            assert name in document.layers
    outlines = [np.array(next(e for e in d.modelspace() if e.dxf.layer == "CUT").get_points("xy")) for d in (port, starboard)]
    wide = outlines[0][:, 0].max() - outlines[0][:, 0].min()
    mirrored = shapely.Polygon(outlines[1] * [-1, 1] + [wide, 0])
    assert shapely.Polygon(outlines[0]).symmetric_difference(mirrored).area < 1.0
    assert "4 P" in {e.dxf.text for e in port.modelspace().query("TEXT")}
