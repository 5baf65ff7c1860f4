"""Patterns on paper and as DXF, read again by other programs' readers."""

from __future__ import annotations

import io
import re
from itertools import pairwise
from typing import Any

import ezdxf
import numpy as np
import pytest
from pypdf import PdfReader
from shapely.geometry import LineString, Point

from hollow_keel.app.exports import EXPORTS, export_named
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.findings import in_words
from hollow_keel.core.molds.nesting import as_rectangles
from hollow_keel.core.pipeline import Pipeline, completed
from hollow_keel.core.results import SHAPE, Results
from hollow_keel.core.settings.layout import Sheets
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.molds.mold import mold_drawing
from hollow_keel.files.molds.paper import OVERLAP_MM, fewest_pages, mold_patterns_pdf, tiles
from hollow_keel.files.paper.page_map import page_maps
from hollow_keel.files.paper.sheet import PAPERS, Sheet

MM = 72 / 25.4


@pytest.fixture(scope="module")
def results() -> Results:
    return Pipeline().results(linnet())


def lines_on(page) -> list[np.ndarray]:
    """All polylines of a page in mm from its lower left corner."""
    found: list[list[tuple[float, float]]] = []
    for x, y, op in re.findall(r"([\d.-]+) ([\d.-]+) ([ml])\b", page.get_contents().get_data().decode("latin-1")):
        if op == "m":
            found.append([])
        found[-1].append((float(x) / MM, float(y) / MM))
    return [np.array(line) for line in found if len(line) > 1]


def test_roll_page_is_the_molds_true_size(results: Results) -> None:
    molds = results.shape.molds.molds[3:4]
    reader = PdfReader(io.BytesIO(mold_patterns_pdf(results.shape, molds, "roll")))
    assert len(reader.pages) == 1
    longest = max(lines_on(reader.pages[0]), key=len)
    outline = mold_drawing(results.shape, molds[0], linnet().units.style).strokes[0].points
    shift = longest.mean(axis=0) - outline.mean(axis=0)
    assert longest - shift == pytest.approx(outline, abs=0.01)
    box = reader.pages[0].mediabox
    assert float(box.width) / MM == pytest.approx(np.ptp(outline[:, 0]) + 2 * 25, abs=20)


def test_patterns_of_pages_without_number_are_refused() -> None:
    """Molds made 90 m high by a slip took minutes and half a gigabyte. By hand: breadths and heights thirty times as large make
    900 times as many pages, and Linnet takes 140 with the empty ones."""
    job = linnet()
    large = [row.model_copy(update={"half_breadth": 30 * row.half_breadth, "height": 30 * row.height}) for row in job.offsets.rows]
    shape = Pipeline().shape(change(job, "offsets", rows=large))
    with pytest.raises(InputError, match="pages of Letter") as caught:
        mold_patterns_pdf(shape, shape.molds.molds, "letter")
    (about,) = re.findall(r"some ([\d,]+) pages", str(caught.value))
    assert 12 * 900 < int(about.replace(",", "")) < 200 * 900


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_tiles_are_whole_pages_with_exact_proof_bars(results: Results, paper: str) -> None:
    reader = PdfReader(io.BytesIO(mold_patterns_pdf(results.shape, results.shape.molds.molds[:1], paper)))
    wide, high = PAPERS[paper]
    for page in reader.pages:
        size = (float(page.mediabox.width) / MM, float(page.mediabox.height) / MM)
        assert sorted(size) == pytest.approx([wide, high], abs=0.01)  # upright or on its side
        bars = [np.ptp(line[:, 0]) for line in lines_on(page) if np.ptp(line[:, 1]) == 0]
        assert any(b == pytest.approx(100.0, abs=0.002) for b in bars)
        assert any(b == pytest.approx(101.6, abs=0.002) for b in bars)


def test_tiles_overlap_and_cover(results: Results) -> None:
    drawing = mold_drawing(results.shape, results.shape.molds.molds[6], linnet().units.style)
    pages = tiles(drawing, *PAPERS["a4"])
    by_place = {(t.column, t.row): t for t in pages}
    for (column, row), tile in by_place.items():
        right = by_place.get((column + 1, row))
        if right:
            assert tile.right - right.left == pytest.approx(OVERLAP_MM)
    for stroke in drawing.strokes:
        for x, y in stroke.points[::7]:
            assert any(t.left <= x <= t.right and t.bottom <= y <= t.top for t in pages)


def test_marks_can_be_read_on_paper(results: Results) -> None:
    reader = PdfReader(io.BytesIO(mold_patterns_pdf(results.shape, results.shape.molds.molds[:1], "roll")))
    text = reader.pages[0].extract_text()
    for word in (
        "MOLD 1",
        "this face to the BOW",
        "LOAD WATERLINE",
        "sheer",
        "centreline",
        "100 mm exactly",
        "4 in exactly",
        "Linnet",
    ):
        assert word in text


def test_setting_up_sheet_has_every_mark(results: Results) -> None:
    text = PdfReader(io.BytesIO(export_named("setup-pdf").write(results))).pages[0].extract_text().replace("\u202f", "")
    for mark in results.shape.setup.marks:
        assert f"{mark.from_zero:.1f}" in text
    assert "75.0" in text
    assert "one zero" in text


def test_dxf_gives_the_same_curve(results: Results) -> None:
    document = ezdxf.read(io.StringIO(export_named("molds-dxf").write(results).decode()))
    assert document.units == ezdxf.units.MM
    cut = [e for e in document.modelspace() if e.dxf.layer == "CUT"]
    assert len(cut) == len(results.shape.molds.molds)
    for entity, mold in zip(cut, results.shape.molds.molds, strict=True):
        assert entity.closed
        points = np.array(entity.get_points("xy"))
        middle = (points[:, 0].min() + points[:, 0].max()) / 2
        line = LineString(points - [middle, 0])
        assert max(line.distance(Point(*p)) for p in mold.edge.points) < 0.01


def test_every_export_makes_something(results: Results) -> None:
    shape = results.shape
    parts = shape.parts.flat
    job = change(shape.job, "", layout=as_rectangles(parts, Sheets(length=3050.0, width=1525.0)))
    laid = Results(job, results.values)
    for export in EXPORTS:
        if export.group not in ("Deck", "Veneers", "Sheer"):
            assert len(export.write(completed(laid, export.needs))) > 200


def test_an_open_boat_has_no_deck_to_write(results: Results) -> None:
    for export in EXPORTS:
        if export.group == "Deck":
            with pytest.raises(ImpossiblePlan, match="has no deck"):
                export.write(completed(results, export.needs))


def test_unknown_kind_and_paper(results: Results) -> None:
    with pytest.raises(InputError, match="no such kind"):
        export_named("molds-gif")
    with pytest.raises(InputError, match="no such paper"):
        mold_patterns_pdf(results.shape, results.shape.molds.molds, "papyrus")


def test_sheet_is_refused_for_molds_that_overlap() -> None:
    job = linnet()
    job = job.model_copy(update={"molds": job.molds.model_copy(update={"stations": (1000.0, 1008.0, 3000.0)})})
    with pytest.raises(ImpossiblePlan, match="overlap"):
        export_named("setup-pdf").write(Pipeline().results(job))


def test_every_mold_s_name_is_on_one_of_its_pages(results: Results) -> None:
    job = change(results.shape.job, "molds", halves=True)
    shape = Pipeline().shape(job)
    for mold in shape.molds.molds:
        drawing = mold_drawing(shape, mold, job.units.style)
        title = next(label for label in drawing.labels if label.strong)
        _, pages = fewest_pages(drawing, PAPERS["a4"])
        assert any(t.left <= title.at[0] <= t.right and t.bottom <= title.at[1] <= t.top for t in pages)


def test_what_to_move_is_on_the_setting_up_sheet(results: Results) -> None:
    reader = PdfReader(io.BytesIO(export_named("setup-pdf").write(results)))
    _, first, second = (page.extract_text().replace("\u202f", " ") for page in reader.pages)
    assert "1 × beam" in first
    assert "5 212.0 long" in first
    assert "10 × spacer" in first
    assert "388.0 long" in first
    for words in ("move it 6.1 mm down", "move it 4.9 mm to starboard", "smooth sweep", "4: 6.1 high"):
        assert words in second
    unmeasured = Pipeline().results(change(results.job, "", surveys=()), SHAPE)
    assert len(PdfReader(io.BytesIO(export_named("setup-pdf").write(unmeasured))).pages) == 2


def test_every_mold_that_is_to_be_moved_is_on_the_paper(results: Results) -> None:
    """Twelve molds, each out by a different amount: twelve rows to tick, on as many pages as they need."""
    survey = results.job.surveys[-1]
    for k, mold in enumerate(results.shape.molds.molds):
        high = 75.0 + (-1) ** k * (9.0 + 3.1 * k)
        survey = survey.with_value(mold.name, "height_port", high).with_value(mold.name, "height_starboard", high)
        survey = survey.with_value(mold.name, "centre_low", (-1) ** k * (8.0 + 2.3 * k))
    told = Pipeline().results(change(results.job, "", surveys=(survey,)), SHAPE)
    moves = told.shape.surveys[-1].moves
    pages = PdfReader(io.BytesIO(export_named("setup-pdf").write(told))).pages
    text = " ".join(" ".join(page.extract_text().replace("\u202f", " ").split()) for page in pages)
    assert len(moves) > 9
    for move in moves:
        assert in_words(move.mend, lambda mm: f"{round(mm, 1) + 0.0:.1f} mm") in text
    assert "once more after two or three strips" in text
    heights: list[float] = []
    for page in pages:
        page.extract_text(visitor_text=lambda t, _c, tm, _f, _s: heights.append(tm[5]) if t.strip() else None)
    assert min(heights) > 20, "nothing is printed off the paper"


class Drawn(Sheet):
    """A sheet that remembers what is drawn on it."""

    def __init__(self) -> None:
        super().__init__("drawn")
        self.lines: list[list[tuple[float, float]]] = []
        self.texts: list[tuple[float, float, str]] = []

    def polyline(self, points: list[tuple[float, float]], *, closed: bool = False) -> None:
        self.lines.append(points)
        super().polyline(points, closed=closed)

    def text(self, x: float, y: float, text: str, *rest: Any, **more: Any) -> None:
        self.texts.append((x, y, text))
        super().text(x, y, text, *rest, **more)


def test_a_map_of_pages_is_the_pages_made_smaller(results: Results) -> None:
    """Every page a rectangle of the paper's own shape, its name in its middle, neighbours overlapping by what they do on paper."""
    mold = results.shape.molds.molds[6]
    drawing = mold_drawing(results.shape, mold, results.job.units.style)
    (width, height), pages = fewest_pages(drawing, PAPERS["a4"])
    sheet = Drawn()
    page_maps(sheet, "Linnet", [(drawing, pages)], PAPERS["a4"])
    maps = [line for line in sheet.lines if len(line) == 4][-len(pages) :]
    assert len(pages) > 4
    scales = set()
    for corners, page in zip(maps, pages, strict=True):
        wide, high = np.ptp(np.array(corners), axis=0)
        scales |= {round(wide / (page.right - page.left), 6), round(high / (page.top - page.bottom), 6)}
        assert all(0 < x < PAPERS["a4"][0] and 0 < y < PAPERS["a4"][1] for x, y in corners)
        x, y = next((x, y) for x, y, text in sheet.texts if text == page.name)
        assert (x, y + 1.0) == pytest.approx(np.mean(corners, axis=0), abs=0.01)
    (scale,) = scales
    first, second = next((a, b) for a, b in pairwise(range(len(pages))) if pages[a].row == pages[b].row)
    left, right = maps[first], maps[second]
    assert left[1][0] - right[0][0] == pytest.approx(OVERLAP_MM * scale, rel=1e-4), "they overlap as the paper does"
    assert width > 0
    assert height > 0
