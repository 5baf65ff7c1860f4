"""Layers of veneer as files: read back, they are the plan; full-size shapes have its areas."""

from __future__ import annotations

import csv
import io
import json

import ezdxf
import pypdf
import pytest
import shapely
import trimesh

from hollow_keel.app.exports import export_named, plan_parts
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.job import FormSettings, Job, Layer, VeneerSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.core.settings.veneer_choices import Direction, FormKind
from hollow_keel.core.veneers.layer_remarks import OFF_MM
from hollow_keel.core.veneers.stages import FORM, LAYERS, LAYING, SEAMS
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.veneers.plan import veneers_document

LAYERS_OF_HERS = (
    Layer(thickness=3.0, width=120.0),
    Layer(thickness=2.5, angle=-45.0, width=120.0),
    Layer(thickness=2.0, direction=Direction.ALONG, width=90.0),
)


@pytest.fixture(scope="module")
def results() -> Results:
    job: Job = demo_job("sedge")
    form = FormSettings(kind=FormKind.RIBBANDS)
    job = job.model_copy(update={"veneers": VeneerSettings(layers=LAYERS_OF_HERS), "form": form}).in_step()
    return Pipeline().results(job, [LAYERS, LAYING, SEAMS, FORM])


def test_the_plan_file_tells_every_layer(results: Results) -> None:
    part = json.loads(json.dumps(dict(plan_parts())["veneers"](results), allow_nan=False))
    assert part["skin"] == 7.5
    assert [(one["angle"], one["width"]) for one in part["layers"]] == [(45.0, 120.0), (-45.0, 120.0), (0.0, 90.0)]
    for one in part["layers"]:
        assert sum(2 * v["area"] for v in one["veneers"]) == pytest.approx(one["area"], rel=3e-3)
        assert sum(2 * v["length"] * v["width"] for v in one["veneers"]) / 1e6 == pytest.approx(one["cut_from"], rel=1e-4)
        assert one["per_side"] == len(one["veneers"])
    glued = sum(one["area"] for one in part["layers"][1:])
    assert part["glue_g"] == pytest.approx(250.0 * glued, rel=1e-3)


def test_flat_outlines_have_the_areas_of_the_hull(results: Results) -> None:
    """Flattening keeps areas but for what its strain is, and the outline's widths are the spiling; where it cannot, at the foot of
    the stem, that is said, and by how much its shape is out."""
    said = {finding.code for plan in results[LAYERS] or () for finding in plan.findings}
    for one in veneers_document(results)["layers"][:2]:
        for v in one["veneers"]:
            if v["area"] < 0.05:
                continue
            flat = shapely.Polygon(v["flat"])
            out = v["misfit"] > 0.01 or v["off"] > OFF_MM
            assert not out or "veneer-misfit" in said
            if v["misfit"] > 0.01:
                assert v["n"] <= 6  # in the bow
                continue
            in_the_bow = v["n"] <= 7
            assert flat.area / 1e6 == pytest.approx(v["area"], rel=0.01 if out and in_the_bow else 0.004 + v["strain"])
            x, y = v["spiling"][len(v["spiling"]) // 2]
            cut = flat.intersection(shapely.LineString([(x, -1.0), (x, 500.0)]))
            assert cut.bounds[3] == pytest.approx(y, abs=0.1)


def test_the_schedule_and_the_spiling_say_the_same(results: Results) -> None:
    said = list(csv.DictReader(io.StringIO(export_named("veneers-csv").write(results).decode())))
    plans = results[LAYERS]
    assert plans is not None
    assert len(said) == sum(len(plan.veneers) for plan in plans)
    assert [row["veneer"] for row in said if row["laid first"]] == [str(plan.first) for plan in plans]
    spiled: dict[tuple[str, str], float] = {}
    for row in csv.DictReader(io.StringIO(export_named("spiling-csv").write(results).decode())):
        key = row["layer"], row["veneer"]
        spiled[key] = max(spiled.get(key, 0.0), float(row["wide mm"]))
    for row in said:
        if float(row["length mm"]) > 800:
            assert spiled[row["layer"], row["veneer"]] == pytest.approx(float(row["piece wide mm"]), abs=1.0)


def test_full_size_shapes_come_back_from_their_drawing(results: Results) -> None:
    """Outlines read by a general library have the areas of the flat veneers."""
    plans = results[LAYERS]
    assert plans is not None
    document = ezdxf.read(io.StringIO(export_named("veneers-dxf").write(results).decode()))
    areas = sorted(
        shapely.Polygon([(x, y) for x, y, *_ in line.get_points()]).area
        for line in document.modelspace().query("LWPOLYLINE")
        if line.closed and len(line) > 4
    )
    wanted = sorted(shapely.Polygon(v.flat).area for plan in plans for v in plan.veneers if v.width - v.least > 0.5)
    assert len(areas) == len(wanted)
    assert areas == pytest.approx(wanted, rel=1e-3, abs=5.0)


def test_maps_and_patterns_are_drawn(results: Results) -> None:
    assert export_named("veneers-svg").write(results).count(b"<svg") >= 1
    assert export_named("veneers-pdf").write(results).startswith(b"%PDF")


def test_all_sheets_are_printed(results: Results) -> None:
    """A page a sheet, as a general library counts them."""
    pages = pypdf.PdfReader(io.BytesIO(export_named("veneer-sheets-pdf").write(results))).pages
    assert len(pages) == sum(own.sheets for own in results[LAYING].layers)


def test_the_plan_file_tells_the_form_the_laying_and_the_seams(results: Results) -> None:
    part = veneers_document(results)
    assert part["form"]["kind"] == "ribbands"
    assert [r["at_sheer"] for r in part["form"]["ribbands"]].count(True) == 1
    assert part["form"]["total"] == pytest.approx(2 * sum(r["length"] for r in part["form"]["ribbands"]), abs=0.1)
    assert [(n["inner"], n["outer"], n["angle"]) for n in part["neighbours"]] == [(1, 2, 90.0), (2, 3, 45.0)]
    assert len(part["zones"]) == 9
    assert part["hours"] == pytest.approx(sum(one["hours"] for one in part["layers"]), abs=0.02)
    wood = sum(one["weight"] for one in part["layers"])
    assert part["weight"] == pytest.approx(wood + 0.250 * sum(one["trimmed"] for one in part["layers"][1:]), abs=0.02)


def test_ribbands_and_laying_are_written(results: Results) -> None:
    rows = list(csv.DictReader(io.StringIO(export_named("ribbands-csv").write(results).decode())))
    form = results[FORM]
    assert len(rows) == sum(len(r.crossings) for r in form.ribbands)
    assert {row["mold"] for row in rows if row["sheer"] == "on it" and float(row["from sheer mm"]) == 0.0}
    assert {(int(row["ribband"]), row["lies"]) for row in rows} == {(r.number, r.lies) for r in form.ribbands if r.crossings}
    takes = list(csv.DictReader(io.StringIO(export_named("laying-csv").write(results).decode())))
    assert [int(row["sheets"]) for row in takes] == [own.sheets for own in results[LAYING].layers]


def test_the_mold_at_the_end_of_the_form_is_drawn(results: Results) -> None:
    document = ezdxf.read(io.StringIO(export_named("form-end-dxf").write(results).decode()))
    (outline,) = [line for line in document.modelspace().query("LWPOLYLINE") if line.closed]
    (_, end), *_ = results[FORM].ends
    x = [p[0] for p in outline.get_points()]
    assert max(x) - min(x) == pytest.approx(2 * end.edge[:, 0].max(), abs=0.1)
    assert export_named("form-end-pdf").write(results).startswith(b"%PDF")


def test_veneers_lie_on_their_sheets_as_large_as_they_are(results: Results) -> None:
    """Outlines read from the drawing of the sheets, butted ones together, have the areas of all flat veneers of both sides, lie
    inside the sheets, and on no other."""
    document = ezdxf.read(io.StringIO(export_named("veneer-sheets-dxf").write(results).decode()))
    shapes = [
        shapely.Polygon([(x, y) for x, y, *_ in line.get_points()])
        for line in document.modelspace().query("LWPOLYLINE")
        if line.closed
    ]
    laying = results.job.laying
    size = laying.sheet_length * laying.sheet_width
    sheets = [s for s in shapes if abs(s.area - size) < 1.0]
    assert len(sheets) == sum(own.sheets for own in results[LAYING].layers)
    cut = [s.area for s in shapes if abs(s.area - size) >= 1.0]
    plans = results[LAYERS]
    assert sum(cut) == pytest.approx(sum(2 * shapely.Polygon(v.flat).area for p in plans or () for v in p.veneers), rel=2e-3)


def test_the_laid_hull_has_a_part_for_every_veneer_and_its_area(results: Results) -> None:
    """Read by a general library: a body a veneer and side; their faces together have the layers' areas."""
    plans = results[LAYERS]
    text = export_named("laid-obj").write(results).decode()
    assert text.count("\ng ") == 2 * sum(len(plan.veneers) for plan in plans or ())
    mesh = trimesh.load(io.BytesIO(text.encode()), file_type="obj", process=False, force="mesh")
    assert mesh.area == pytest.approx(sum(2 * plan.area for plan in plans or ()), rel=5e-3)


@pytest.mark.parametrize(
    "kind",
    [
        "veneers-csv",
        "spiling-csv",
        "veneers-svg",
        "veneers-dxf",
        "veneers-pdf",
        "veneer-sheets-dxf",
        "veneer-sheets-pdf",
        "laying-csv",
        "laid-obj",
    ],
)
def test_a_job_without_layers_says_so(kind: str) -> None:
    plain = Pipeline().results(demo_job("pipit"), [LAYERS, LAYING])
    with pytest.raises(ImpossiblePlan, match="no layers"):
        export_named(kind).write(plain)
    assert veneers_document(plain) == {}
