"""Flat bottoms and hard ends, as a builder writes them: chines that run into the stem's foot, fade or end on the sheer, prams,
plumb ends, ends whose chine nobody marked. None of them is a fault of ours, and areas agree with closed forms."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Iterator

import numpy as np
import pytest
from pypdf import PdfReader

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, MoldSettings
from hollow_keel.core.job import Layer as Veneers
from hollow_keel.core.molds.cut_stages import MARKS
from hollow_keel.core.molds.end_stages import TRANSOM
from hollow_keel.core.molds.ends import rabbet_bevels
from hollow_keel.core.offsets.knuckles import with_all_knuckles
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable, read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.covering import surface_area
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import SHAPE
from hollow_keel.core.stage import Failed, FailureKind
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.lines.plan import body_plan, half_breadth_plan, profile
from hollow_keel.drawing.model import Layer
from hollow_keel.drawing.molds.transom import transom_drawing

LONG = 4000.0
BOTTOM = 60.0


def row(x: float, label: str, y: float, z: float) -> OffsetRow:
    return OffsetRow(station=float(x), label=label, half_breadth=float(y), height=float(z))


def chine_at(x: float) -> float:
    return 500 * math.sin(0.6 * math.pi * x / LONG)


def skiff(*, marked: bool = True, rake: float = 180.0, siding: float = 0.0, stern: str = "transom") -> OffsetsTable:
    """A flat-bottomed skiff: the bottom level, its chine a sine that runs into the stem's foot."""
    star = "_chine" if marked else ""
    rows = [row(-rake * t, "stem_bow" + (star if t == 0 else ""), siding, BOTTOM + 500 * t) for t in (0, 0.25, 0.5, 0.75, 1.0)]
    for x in range(400, 4000, 400):
        rows += [row(x, "keel", 0, BOTTOM), row(x, "chine", chine_at(x), BOTTOM), row(x, "sheer", chine_at(x) + 120, 480)]
    if stern == "transom":
        rows += [
            row(LONG, "transom", 0, BOTTOM),
            row(LONG, "transom" + star, chine_at(LONG), BOTTOM),
            row(LONG + 60, "transom", chine_at(LONG) + 120, 480),
        ]
    return OffsetsTable(rows=tuple(rows))


def full(x: float) -> float:
    return 0.6 + 0.4 * math.sin(math.pi * x / LONG)


def stations() -> Iterator[tuple[float, float]]:
    return ((float(x), full(x)) for x in range(0, 4001, 500))


def two_chines() -> OffsetsTable:
    rows = []
    for x, f in stations():
        rows += [
            row(x, "keel", 0, 50),
            row(x, "wl", 150 * f, 60),
            row(x, "chine", 300 * f, 90),
            row(x, "chine", 480 * f, 260),
            row(x, "sheer", 560 * f, 480),
        ]
    return OffsetsTable(rows=tuple(rows))


def fading() -> OffsetsTable:
    """Round forward, a chine aft."""
    rows = []
    for x, f in stations():
        last = [row(x, "wl", 400 * f, 180)] if x < 2000 else [row(x, "chine", 430 * f, 120)]
        rows += [row(x, "keel", 0, 50), row(x, "wl", 200 * f, 70), *last, row(x, "sheer", 560 * f, 480)]
    return OffsetsTable(rows=tuple(rows))


def to_the_sheer() -> OffsetsTable:
    """A chine that rises until it is the sheer."""
    rows = []
    for x, f in stations():
        t = x / 3000
        chine = [row(x, "chine", (400 + 160 * t) * f, 150 + 330 * t)] if t < 1 else []
        rows += [row(x, "keel", 0, 50), row(x, "wl", 200 * f, 90), *chine, row(x, "sheer", 560 * f, 480)]
    return OffsetsTable(rows=tuple(rows))


def pram(*, marked: bool = True) -> OffsetsTable:
    def wide(x: float) -> float:
        return 0.55 + 0.45 * math.sin(math.pi * (x + 300) / 3300)

    def low(x: float) -> float:
        return 30 + 160 * ((x - 1500) / 1500) ** 2

    ends = []
    for x, rake in ((0.0, -40.0), (2800.0, 40.0)):
        ends.append(
            [
                row(x, "transom", 0, low(x)),
                row(x, "transom_chine" if marked else "transom", 350 * wide(x), low(x) + 10),
                row(x + rake, "transom", 480 * wide(x), 450),
            ]
        )
    middle = []
    for x in range(300, 2700, 300):
        middle += [row(x, "keel", 0, low(x)), row(x, "chine", 380 * wide(x), low(x) + 10), row(x, "sheer", 520 * wide(x), 430)]
    return OffsetsTable(rows=(*ends[0], *middle, *ends[1]))


def plumb(siding: float) -> OffsetsTable:
    """Round, with upright stems at both ends; a wide siding is a stem with a flat."""
    rows = [row(0, "stem_bow", siding, z) for z in (30, 150, 300, 480)]
    for x in range(300, 4000, 400):
        f = math.sin(math.pi * x / LONG)
        rows += [
            row(x, "keel", min(siding, 100 * f), 30),
            row(x, "wl", 250 * f + siding, 60),
            row(x, "wl", 430 * f + siding, 180),
            row(x, "sheer", 520 * f + siding, 480),
        ]
    rows += [row(LONG, "stem_stern", siding, z) for z in (30, 150, 300, 480)]
    return OffsetsTable(rows=tuple(rows))


def marked(table: OffsetsTable) -> OffsetsTable:
    """The table with the chines marked that it leaves unmarked."""
    try:
        read_lines(table)
    except InputError:
        return with_all_knuckles(table)[0]
    return table


HULLS: dict[str, Callable[[], OffsetsTable]] = {
    "skiff": skiff,
    "skiff, nothing marked": lambda: skiff(marked=False),
    "plumb skiff": lambda: skiff(rake=0.0),
    "skiff with a siding": lambda: skiff(siding=15.0),
    "skiff, open aft": lambda: skiff(stern=""),
    "two chines": two_chines,
    "fading": fading,
    "to the sheer": to_the_sheer,
    "pram": pram,
    "pram, nothing marked": lambda: pram(marked=False),
    "plumb": lambda: plumb(0.0),
    "stem with a flat": lambda: plumb(40.0),
}


@pytest.mark.parametrize("name", HULLS)
def test_every_stage_has_a_value_or_a_reason(name: str) -> None:
    run = Pipeline().run(Job(offsets=marked(HULLS[name]())))
    for stage in (s for s in SHOWN if s.page != "stock"):
        value = run.attempt(stage).value
        assert not isinstance(value, Failed) or value.kind is not FailureKind.FAULT, value
    assert len(run[PLANKING].strips) > 10
    shape = Pipeline().shape(run.job)
    for draw in (body_plan, profile, half_breadth_plan):
        assert all(np.isfinite(s.points).all() for s in draw(shape).strokes), draw.__name__


def test_a_bottom_that_comes_to_a_point_has_no_rabbet_there() -> None:
    """The stem's rabbet begins at its foot and goes up: no place of it stands still."""
    points, bevels = rabbet_bevels(Pipeline().value(Job(offsets=skiff()), HULL), stern=False, count=21)
    assert len(points) == len(bevels) == 21
    assert points[0, 2] == pytest.approx(BOTTOM, abs=0.5)
    assert (np.diff(points[:, 2]) > 1.0).all()


@pytest.mark.parametrize("rake", [0.0, 180.0])
def test_a_flat_bottom_has_the_area_under_its_chine(rake: float) -> None:
    """Closed form: the integral of the sine from the stem's foot to the transom."""
    hull = Pipeline().value(Job(offsets=skiff(rake=rake)), HULL)
    bottom = surface_area(hull.panels[0].surface)
    assert bottom == pytest.approx(500 * LONG / (0.6 * math.pi) * (1 - math.cos(0.6 * math.pi)), rel=0.003)
    grid = hull.panels[0].surface.grid
    assert np.abs(grid[..., 2] - BOTTOM).max() < 0.5, "level all over"


@pytest.mark.parametrize("make", [skiff, pram])
def test_unmarked_ends_are_marked_where_they_were(make: Callable[..., OffsetsTable]) -> None:
    found, notes = with_all_knuckles(make(marked=False))
    assert [r.label for r in found.rows] == [r.label for r in make(marked=True).rows]
    assert found.rows == make(marked=True).rows
    assert len(notes) == 2


def test_a_chine_that_meets_the_stem_half_way_up_is_carried_on_to_it() -> None:
    """Straight in profile, rising 1 in 10 forward, to an upright stem at 0: at height 200 + 400/10."""
    rows = [row(0, "stem_bow", 10, z) for z in (50, 150, 300, 500)]
    for x in range(400, 2801, 400):
        high = 240 - x / 10 if x < 2000 else 40
        rows += [row(x, "keel", 0, 30), row(x, "chine", 100 + x / 10, max(high, 60)), row(x, "sheer", 200 + x / 10, 500)]
    found, notes = with_all_knuckles(OffsetsTable(rows=tuple(rows)))
    own = [r for r in found.rows if r.label == "stem_bow_chine"]
    assert [(r.station, r.half_breadth, r.height) for r in own] == [(0.0, 10.0, pytest.approx(240.0))]
    assert "240" in notes[0]
    read_lines(found)


def test_a_chine_forgotten_between_stations_that_have_it_is_left_to_the_builder() -> None:
    table = two_chines()
    rows = tuple(r.model_copy(update={"label": "wl"}) if r.station == 2000 and r.label == "chine" else r for r in table.rows)
    assert with_all_knuckles(OffsetsTable(rows=rows)) == (OffsetsTable(rows=rows), ())
    with pytest.raises(InputError, match="it has 0 chine points where its neighbours have 2"):
        read_lines(OffsetsTable(rows=rows))
    plain = plumb(0.0)
    assert with_all_knuckles(plain) == (plain, ())


def test_both_transoms_of_a_pram_are_drawn_at_full_size() -> None:
    """Each as wide as the hull is there, less its skin, and named; a hull with one has one."""
    job = Job(offsets=pram())
    results = Pipeline().results(job, [TRANSOM, *SHAPE])
    stern, bow = results[TRANSOM]
    assert (stern.stern, bow.stern) == (True, False)
    lines = results.shape.hull.lines
    for piece, end in ((stern, lines.stern), (bow, lines.bow)):
        assert piece.transom.planking[-1, 0] == pytest.approx(end.points[-1, 1], abs=0.1)
        assert piece.transom.after[-1, 0] < piece.transom.planking[-1, 0] - 0.8 * job.molds.skin
    data = export_named("transom-pdf").write(results)
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)
    for word in ("BOW TRANSOM", "BOW TRANSOM MOLD", "this face FORWARD", "this face AFT"):
        assert word in text
    assert len(Pipeline().value(Job(offsets=skiff()), TRANSOM)) == 1


def test_a_transom_that_has_no_pattern_leaves_the_other_its_own() -> None:
    """A bow transom whose chine stands 25 mm before its face, hollow: the stern's is drawn, the other named."""
    rows = [
        r.model_copy(update={"station": r.station - 25}) if (r.station, r.label) == (0.0, "transom_chine") else r
        for r in pram().rows
    ]
    results = Pipeline().results(Job(offsets=OffsetsTable(rows=tuple(rows))), [TRANSOM, *SHAPE])
    (stern,) = results[TRANSOM]
    assert stern.stern
    (said,) = [f for f in results.findings if f.code == "transom-shape"]
    assert (said.where, "neither flat" in said.text) == ("transom at the bow", True)
    export = export_named("transom-pdf")
    (missing,) = export.lacks(results)
    assert missing.startswith("transom at the bow: ")
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(export.write(results))).pages)
    assert "this face AFT" in text
    assert "BOW TRANSOM" not in text


@pytest.mark.parametrize("name", ["linnet"])
def test_waterlines_are_marked_up_the_rake_of_a_transom(name: str) -> None:
    """So much higher is so much farther up the rake as one over its cosine; the load waterline first."""
    job = change(demo_job(name), "molds", mark_waterlines=100.0)
    results = Pipeline().run(job)
    (piece,) = results[TRANSOM]
    foot = float(results[HULL].lines.stern.points[0, 2])
    heights = [height for height, _ in piece.waterlines]
    if foot < job.waterline:
        assert heights[0] == job.waterline
    assert len(heights) > 1
    marked = {height for marks in results[MARKS].values() for height, _ in marks.waterlines}
    assert {height for height in heights if height != job.waterline} <= marked
    assert all(height % 100.0 == pytest.approx(0.0, abs=1e-6) for height in heights if height != job.waterline)
    for height, up in piece.waterlines:
        assert up * math.cos(piece.transom.rake) == pytest.approx(height - foot)
    drawing = transom_drawing(piece, job.name, job.units.style)
    drawn = [s for s in drawing.strokes if s.layer is Layer.WATERLINE]
    assert len(drawn) == len(heights)
    for stroke, (_, up) in zip(drawn, piece.waterlines, strict=True):
        assert stroke.points[:, 1] == pytest.approx(up)
        half = np.interp(up, piece.transom.after[:, 1], piece.transom.after[:, 0])
        assert np.abs(stroke.points[:, 0]) == pytest.approx(half)


@pytest.mark.parametrize("load", [233.0, 20.0])
def test_a_transom_and_the_molds_have_the_same_waterlines(load: float) -> None:
    """One height has a line on all of them; a load waterline that passes under the transom is none on it."""
    job = change(demo_job("linnet"), "molds", mark_waterlines=70.0).model_copy(update={"waterline": load})
    results = Pipeline().run(job)
    (piece,) = results[TRANSOM]
    foot = float(results[HULL].lines.stern.points[0, 2])
    on_molds = {height for marks in results[MARKS].values() for height, _ in marks.waterlines}
    others = [height for height, _ in piece.waterlines if height != load]
    assert others
    assert set(others) <= on_molds
    drawn = [label.text for label in transom_drawing(piece, job.name, job.units.style).labels]
    assert any(text.startswith("LOAD WATERLINE") for text in drawn) == (foot < load)
    assert sum(text.startswith("waterline") for text in drawn) == len(others)


@pytest.mark.parametrize("past", [0.0, 40.0])
def test_layers_lie_on_two_chines(past: float) -> None:
    """A panel that comes to a point has a seam that its veneers touch past its own end alone."""
    layers = (Veneers(thickness=3.0), Veneers(thickness=3.0, angle=-45.0))
    job = change(Job(offsets=two_chines(), molds=MoldSettings(every=400.0)), "veneers", layers=layers, past_sheer=past)
    plans = Pipeline().value(job.in_step(), LAYERS)
    assert {v.panel for plan in plans for v in plan.veneers} == {0, 1, 2}
    assert all(v.off < 100.0 for plan in plans for v in plan.veneers)
