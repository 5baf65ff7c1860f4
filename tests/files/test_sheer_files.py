"""Files of the sheer and the ends: schedules as CSV, on paper and in the plan file; patterns at full size."""

from __future__ import annotations

import csv
import io
from typing import Any

import ezdxf
import numpy as np
import pypdf
import pytest

from hollow_keel.app.exports import export_named, plan_parts
from hollow_keel.core.change import change
from hollow_keel.core.ends.stages import OUTER
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.release.stages import LIFT
from hollow_keel.core.settings.readings import ArcReading, EyeReading, Side
from hollow_keel.core.sheer.stages import BEAMS, SHEER
from hollow_keel.core.stages import STAGES
from hollow_keel.core.units import LengthUnit
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.sheer.schedules import SCHEDULES


def everything() -> Job:
    job = change(
        demo_job("linnet"),
        "trim",
        wanted=True,
        rails=True,
        crown=60.0,
        curve_at=(4890.0, 5060.0),
        curve_to=(150.0, 520.0),
        eye=tuple(EyeReading(head=f"mold {k}", side=Side.PORT, height=-420.0 + 40.0 * k) for k in range(1, 5)),
        arcs=(ArcReading(head="mold 5", side=Side.PORT, radii=(1450.0, None, None)),),
    )
    job = change(change(job, "beams", wanted=True), "outer", stems=True, keel=True, planks=True, knees=True)
    return change(change(job, "release", wanted=True), "inside", sole=True, bulkheads=(900.0,), stringers=(0.5,))


@pytest.fixture(scope="module")
def results() -> Any:
    return Pipeline().results(everything(), [s for s in STAGES if s.page == "sheer" and s is not LIFT])


def test_the_plan_file_has_every_schedule_with_its_keys(results: Any) -> None:
    part = dict(plan_parts())["trim"](results)
    for schedule in SCHEDULES:
        rows = part[schedule.key]
        if schedule.stage is LIFT:
            assert rows == []  # the wood is not worked out for it
            continue
        assert len(rows) == len(list(schedule.rows(results[schedule.stage])))
        if schedule.key not in ("heads", "rails"):
            assert set(rows[0]) == {field.key for field in schedule.columns(results[schedule.stage])}
    assert part["beams"][3]["breadth"] == pytest.approx(results[BEAMS].beams[3].breadth, abs=0.01)


def test_all_schedules_stand_in_one_csv_each_under_its_title(results: Any) -> None:
    text = export_named("trim-csv").write(results).decode()
    blocks = [list(csv.reader(io.StringIO(block))) for block in text.split("\n\n")]
    titles = [rows[0][0] for rows in blocks]
    assert titles == [s.title for s in SCHEDULES if s.stage is not LIFT]
    for rows in blocks:
        assert len({len(row) for row in rows[1:]}) == 1
        assert len(rows) > 2


def test_the_paper_has_every_schedule_and_the_cautions(results: Any) -> None:
    pages = pypdf.PdfReader(io.BytesIO(export_named("trim-pdf").write(results))).pages
    text = " ".join(" ".join(page.extract_text() for page in pages).split())
    for schedule in SCHEDULES:
        if schedule.stage is not LIFT:
            assert schedule.title in text
    assert text.count("nobody under it") == len(pages)


def test_an_inch_job_is_told_in_inches() -> None:
    job = change(everything(), "units", unit=LengthUnit.INCH_FRACTION, step=1 / 16)
    results = Pipeline().results(job, [s for s in STAGES if s.page == "sheer" and s is not LIFT])
    header = export_named("sheer-csv").write(results).decode().splitlines()[0]
    assert "outside up in" in header
    assert "⟨" not in export_named("trim-csv").write(results).decode()
    assert export_named("trim-pdf").write(results).startswith(b"%PDF")


def outlines(results: Any, kind: str) -> list[np.ndarray]:
    document = ezdxf.read(io.StringIO(export_named(kind).write(results).decode()))
    found = [np.array([(x, y) for x, y, *_ in line.get_points()]) for line in document.modelspace().query("LWPOLYLINE")]
    return sorted(found, key=len, reverse=True)


def sizes(points: np.ndarray) -> list[float]:
    across, up = np.ptp(points, axis=0).tolist()
    return [across, up]


def test_patterns_are_at_full_size(results: Any) -> None:
    inside, outer = results[INSIDE], results[OUTER]
    edge, side = inside.sole.edge, inside.bulkheads[0].edge.points
    found = [sizes(points) for points in outlines(results, "inside-dxf")[:4]]
    assert [pytest.approx([np.ptp(edge[:, 0]), edge[:, 1].max()], abs=0.1)] == [
        own for own in found if abs(own[0] - np.ptp(edge[:, 0])) < 1.0
    ][:1]
    wide = [2 * side[:, 0].max(), np.ptp(side[:, 1])]
    assert any(own == pytest.approx(wide, abs=0.1) for own in found)
    stem = outer.stems[0]
    both = np.concatenate([stem.back, stem.front])
    assert sizes(outlines(results, "outer-stem-dxf")[0]) == pytest.approx(np.ptp(both, axis=0).tolist(), abs=0.1)
    form = results[BEAMS]
    curve = outlines(results, "beam-form-dxf")[0]
    widest = max(form.beams, key=lambda beam: beam.breadth)
    assert sizes(curve) == pytest.approx([widest.breadth, widest.form_crown], abs=0.1)


@pytest.mark.parametrize(
    "kind",
    ["tracing-pdf", "beam-form-pdf", "outer-stem-pdf", "transom-planks-pdf", "transom-planks-dxf", "inside-pdf", "camber-pdf"],
)
def test_patterns_are_written(results: Any, kind: str) -> None:
    assert len(export_named(kind).write(results)) > 1000


@pytest.mark.parametrize("kind", ["beam-form-pdf", "outer-stem-dxf", "transom-planks-pdf", "inside-dxf"])
def test_what_a_job_does_not_have_is_said(kind: str) -> None:
    job = change(demo_job("pipit"), "trim", wanted=True)
    export = export_named(kind)
    assert not export.when(job)
    with pytest.raises(ImpossiblePlan, match="set "):
        export.write(Pipeline().results(job, [SHEER]))
    assert all(export_named(kind).when(everything()) for kind in ("trim-pdf", "sheer-csv"))


def test_the_tracing_strip_has_every_mark_at_its_girth(results: Any) -> None:
    from hollow_keel.drawing.sheer.sides import tracing_strip

    drawing = tracing_strip(results[SHEER], results.job, results.job.units.style)
    places = sorted(float(s.points[0, 0]) for s in drawing.strokes if s.layer == "tick")
    assert places == pytest.approx(sorted(mark.girth for mark in results[SHEER].marks))
