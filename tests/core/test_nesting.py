"""Parts on sheets: nothing overlaps, nothing is lost, the layout belongs to its parts; it can be stopped."""

from __future__ import annotations

import io
import time

import ezdxf
import numpy as np
import pypdf
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.exports import export_named
from hollow_keel.app.nester import NestRun
from hollow_keel.app.overrides import change
from hollow_keel.core.errors import Cancelled, ImpossiblePlan
from hollow_keel.core.job import Job
from hollow_keel.core.molds.layout import Layout, Sheets
from hollow_keel.core.molds.nesting import as_rectangles, clashes, fingerprint, nest
from hollow_keel.core.molds.part import Part
from hollow_keel.core.molds.parts import mold_parts, sheet_weight
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results, Shape
from hollow_keel.demo.jobs import linnet

SHEETS = Sheets(length=1525.0, width=1525.0)


@pytest.fixture(scope="module")
def shape() -> Shape:
    return Pipeline().shape(change(linnet(), "molds", halves=True, beyond_sheer=50.0))


@pytest.fixture(scope="module")
def parts(shape: Shape) -> list[Part]:
    return [p.part for p in mold_parts(shape.job, shape.molds, shape.setup.beam_level)]


def test_halves_are_mirror_images(shape: Shape) -> None:
    pairs = mold_parts(shape.job, shape.molds, shape.setup.beam_level)
    assert [p.name for p in pairs[:4]] == ["1 P", "1 S", "2 P", "2 S"]
    port, starboard = pairs[8].part.outline, pairs[9].part.outline
    assert np.allclose(port * [-1, 1], starboard[::-1])
    assert shapely.Polygon(port).area == pytest.approx(shapely.Polygon(starboard).area)
    weight = sheet_weight(pairs, 12.0, 600.0)
    assert weight == pytest.approx(
        sum(shapely.Polygon(p.part.outline, ()).area for p in pairs) * 12 * 600e-9, rel=0.05
    )


def test_true_shapes_take_a_third_fewer_sheets_than_rectangles(parts: list[Part]) -> None:
    layouts = list(nest(parts, SHEETS, 20.0))
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


def test_a_clash_is_seen(parts: list[Part]) -> None:
    layout = as_rectangles(parts, SHEETS)
    moved = layout.placed[0].model_copy(update={"x": layout.placed[0].x - 5.0})
    assert clashes(layout.model_copy(update={"placed": (moved, *layout.placed[1:])}), parts)


def test_the_grain_is_kept_where_asked(parts: list[Part]) -> None:
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
def test_what_cannot_be_laid_is_refused(parts: list[Part], sheets: Sheets, said: str) -> None:
    with pytest.raises(ImpossiblePlan, match=said):
        next(nest(parts, sheets, 5.0))
    with pytest.raises(ImpossiblePlan, match="no parts"):
        next(nest([], SHEETS, 5.0))


def test_it_is_stopped_from_within(parts: list[Part]) -> None:
    def tick(_: float) -> None:
        raise Cancelled

    layouts = nest(parts, SHEETS, 20.0, tick)
    assert next(layouts).count > 0
    with pytest.raises(Cancelled):
        next(layouts)


def test_its_process_answers_and_is_ended_at_once(parts: list[Part]) -> None:
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


def test_the_layout_goes_out_as_dxf_and_pdf_and_only_while_it_fits_the_molds(
    shape: Shape, parts: list[Part]
) -> None:
    layout = as_rectangles(parts, SHEETS)
    job: Job = change(shape.job, "", layout=layout, sheets=SHEETS)
    pipeline = Pipeline()
    results = Results(pipeline.shape(job), None)  # type: ignore[arg-type]
    drawing = ezdxf.read(io.StringIO(export_named("sheets-dxf").make(results).decode()))
    cut = [e for e in drawing.modelspace().query("LWPOLYLINE") if e.dxf.layer == "CUT"]
    assert len(cut) == len(parts)
    assert all(e.closed for e in cut)
    area = sum(shapely.Polygon([(x, y) for x, y, *_ in e.get_points()]).area for e in cut)
    assert area == pytest.approx(sum(shapely.Polygon(p.outline).area for p in parts), rel=1e-6)
    pages = pypdf.PdfReader(io.BytesIO(export_named("sheets-pdf").make(results))).pages
    assert len(pages) == layout.count
    assert "1 P" in "".join(page.extract_text() for page in pages)
    other = Results(pipeline.shape(change(job, "molds", skin=9.0)), None)  # type: ignore[arg-type]
    with pytest.raises(ImpossiblePlan, match="have changed"):
        export_named("sheets-dxf").make(other)
    with pytest.raises(ImpossiblePlan, match="not laid"):
        export_named("sheets-dxf").make(Results(shape, None))  # type: ignore[arg-type]


@given(st.lists(st.tuples(st.floats(20, 700), st.floats(20, 700)), min_size=1, max_size=12))
@settings(max_examples=40, deadline=None)
def test_rectangles_never_clash(sizes: list[tuple[float, float]]) -> None:
    parts = [
        Part(str(k), np.array([(0, 0), (w, 0), (w, h), (0, h)]) - [w / 3, h])
        for k, (w, h) in enumerate(sizes)
    ]
    layout = as_rectangles(parts, Sheets())
    assert clashes(layout, parts) == []
    assert len(layout.placed) == len(parts)
