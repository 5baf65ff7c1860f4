"""How strips behave, where they cross molds, girths divided, the rest planned again, plans compared, files written."""

from __future__ import annotations

import io
import itertools
import math
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
import trimesh
from pypdf import PdfReader

from hollow_keel.app.exports import export_named
from hollow_keel.app.overrides import apply_override
from hollow_keel.app.processes.comparer import CompareRun
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.findings import Finding
from hollow_keel.core.job import Guide, Job, MoldSettings, StripEdge, StripSettings, Zone
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.bottom import CentreCut, Meets, centre_cuts, flat_findings, meets, past_keel_line
from hollow_keel.core.planking.compare import PlanSummary, candidates, closer, in_words, reasons, search, summarise, weigh
from hollow_keel.core.planking.courses import Fields
from hollow_keel.core.planking.covering import surface_area
from hollow_keel.core.planking.crossings import crossings
from hollow_keel.core.planking.divider import KEEL, SHEER, divide, line_on_mold
from hollow_keel.core.planking.end_cuts import EndCut
from hollow_keel.core.planking.faces import area_of
from hollow_keel.core.planking.flat import flat_strip
from hollow_keel.core.planking.hollows import hollow_findings
from hollow_keel.core.planking.mechanics import (
    GRADES,
    Handling,
    StripSection,
    behaviour,
    behaviours,
    handling_findings,
    hard_strips,
    section_of,
)
from hollow_keel.core.planking.plank import Laying, laying_of, plank
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Results
from hollow_keel.core.settings.progress import Planked
from hollow_keel.core.settings.strip_choices import Meeting, MeetOn, StripLayout
from hollow_keel.core.settings.woods import WOODS, wood_of
from hollow_keel.core.stage import Value
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.drawing.planking.shades import ShadeBy, strip_shades
from tests.shapes import cylinder, end_rows, hull_of, round_hull, sphere_zone, station_rows

CEDAR = WOODS["western redcedar"]


@pytest.fixture(scope="module")
def results() -> Results:
    return Pipeline().results(change(linnet(), "", planked=None))


@pytest.fixture(scope="module")
def tube() -> Results:
    """A half-round tube, radius 500, strips 30 by 10 over molds 300 apart."""
    job = Job(
        offsets=cylinder(500, 3000),
        waterline=-100,
        molds=MoldSettings(skin=10, stations=tuple(300.0 * k for k in range(1, 10))),
        strips=StripSettings(width=30, thickness=10),
    )
    return Pipeline().results(job)


# -- in the hand ---------------------------------------------------------------------------------------


def test_straight_strips_ask_nothing(tube: Results) -> None:
    found = behaviours(tube.shape.job.strips, tube.planking, [m.station for m in tube.shape.molds.molds])
    assert all(b.grade is Handling.HAND and b.mend == "" for b in found.values())
    assert max(b.push for b in found.values()) < 0.01
    assert hard_strips(found) == []


def test_a_circle_of_latitude_on_a_sphere_by_the_formulas() -> None:
    """Edge-set tan(latitude)/R, bend 1/R, no twist; push 6 E I / L times the edge-set (handbook)."""
    laid = plank(hull_of(sphere_zone(1000, 600)), 40.0)
    strip = laid.strips[9]
    latitude = 400 / 1000
    section = StripSection(40.0, 5.0, CEDAR, 300.0, 60.0, 300.0)
    found = behaviour(strip, section)
    edge_set = math.tan(latitude) / 1000
    assert found.edge_strain == pytest.approx(20 * edge_set, rel=0.01)
    assert found.bend_strain == pytest.approx(2.5 / 1000, rel=0.01)
    assert found.push == pytest.approx(6 * 7700 * 5 * 40**3 / 12 * edge_set / 300, rel=0.01)
    breaks = 51.7 / 7700
    assert found.share == pytest.approx((20 * edge_set + 2.5 / 1000) / breaks, rel=0.01)
    assert found.grade is Handling.NOT or found.share <= 2.0


def test_grades_follow_share_and_push_and_say_what_mends() -> None:
    laid = plank(hull_of(sphere_zone(1000, 600)), 40.0)
    strip = laid.strips[9]
    grades = []
    for thickness, width in ((1.0, 4.0), (2.0, 12.0), (5.0, 25.0), (40.0, 40.0)):
        found = behaviour(strip, StripSection(width, thickness, CEDAR, 300.0, 60.0, 300.0))
        grades.append(GRADES.index(found.grade))
        assert bool(found.mend) == (found.grade is not Handling.HAND)
    assert grades == sorted(grades)
    assert grades[0] == 0
    assert grades[-1] == 3
    pushed = behaviour(strip, StripSection(25.0, 5.0, CEDAR, 300.0, 60.0, 300.0))
    assert "split into two half widths" in pushed.mend


def test_the_mended_strip_is_one_grade_easier() -> None:
    job = pipit()
    pipeline = Pipeline()
    shape = pipeline.shape(job)
    stations = [m.station for m in shape.molds.molds]
    found = behaviours(job.strips, pipeline.value(shape.job, PLANKING), stations)
    worst = max(found, key=lambda n: found[n].push)
    assert found[worst].grade is Handling.HEAT
    width = float(found[worst].mend.split("\u27e8")[1].split("\u27e9")[0])
    strip = pipeline.value(shape.job, PLANKING).strips[worst - 1]
    narrow = behaviour(strip, replace(section_of(job.strips, 1, 285.75), width=width - 0.2))
    assert narrow.grade in (Handling.CLAMPS, Handling.HAND)
    (said,) = hard_strips(found)
    assert "want heat" in said.text
    assert "–" in said.where


def test_a_shaped_strip_is_pushed_as_wide_as_it_is_there() -> None:
    pipeline = Pipeline()
    job = apply_override(linnet(), "strip.layout", "tapered")
    planking = pipeline.value(job, PLANKING)
    strip = planking.strips[20]
    section = section_of(job.strips, 21, 400.0)
    shaped, whole = behaviour(strip, section), behaviour(replace(strip, shaped=False), section)
    flat = flat_strip(strip, planking)
    x = max(strip.near, key=lambda p: p.length).points[:, 0]
    there = float(np.interp(shaped.place, x, flat[:, 1]))
    assert shaped.place == whole.place
    assert shaped.push / whole.push == pytest.approx((there / 14) ** 3, rel=0.06)


def test_zones_have_their_own_wood_and_thickness() -> None:
    strips = StripSettings(width=20, thickness=6, zones=(Zone(first=3, last=4, thickness=4, wood="Sitka spruce"),), modulus=8.0)
    assert section_of(strips, 2, 300).wood.modulus == 8.0
    own = section_of(strips, 3, 300)
    assert (own.thickness, own.wood.name, own.wood.modulus) == (4, "Sitka spruce", 9.9)
    assert wood_of("driftwood", None, None).modulus == 7.7
    (said,) = handling_findings(strips.model_copy(update={"wood": "driftwood"}), {})
    assert (said.code, said.where) == ("unknown-wood", "driftwood")
    assert handling_findings(strips, {}) == []


def test_cove_and_cover() -> None:
    """A cutter of radius 3 on a strip 6 thick makes a half circle, 3 deep; one of radius 5 a shallow one of 1 mm."""
    strips = StripSettings(width=20, thickness=6, edge=StripEdge.BEAD_COVE)
    assert strips.cover == 17
    assert strips.model_copy(update={"cutter": 3.0}).cover == pytest.approx(17)
    assert strips.model_copy(update={"cutter": 5.0, "glue_gap": 0.2}).cover == pytest.approx(20 - 1 + 0.2)


def test_a_zone_of_bead_and_cove_covers_its_width_less_the_cove() -> None:
    """Widths are as milled everywhere; with a cutter the cove of a thinner strip is shallower: 5 - sqrt(5² - 2²) = 0.417."""
    strips = StripSettings(
        width=20,
        thickness=6,
        edge=StripEdge.BEAD_COVE,
        cutter=5.0,
        zones=(Zone(first=1, last=2, width=10.0), Zone(first=2, last=3, thickness=4.0), Zone(first=6, last=6, wood="ash")),
    )
    laying = laying_of(strips)
    covers = [laying.cover_of(k) for k in range(1, 7)]
    assert covers == pytest.approx([9, 10 - 0.4174, 20 - 0.4174, 19, 19, 19], abs=1e-3)
    widths = [section_of(strips, k, 300).width for k in range(1, 5)]
    assert widths == [10, 10, 20, 20]
    assert strips.zone_runs == ((1, 1), (2, 2), (3, 3), (6, 6))
    deep = strips.model_copy(update={"cutter": 0.0, "cove_depth": 9.0, "zones": (Zone(width=8.5),)})
    with pytest.raises(ImpossiblePlan, match=r"⟨8\.5⟩ wide with a cove ⟨9⟩ deep covers nothing"):
        Pipeline().results(change(linnet(), "", strips=deep))


def test_of_zones_that_overlap_the_later_one_counts_everywhere(results: Results) -> None:
    zones = (Zone(first=1, last=9, wood="ash"), Zone(first=4, last=5, wood="Sitka spruce"))
    job = change(linnet(), "strips", zones=zones)
    strips = job.strips
    assert section_of(strips, 4, 300).wood.name == "Sitka spruce"
    kinds, names = strip_shades(results.planking, job, {}, ShadeBy.WOOD)
    assert [names[k] for k in kinds[2:6]] == ["ash", "Sitka spruce", "Sitka spruce", "ash"]


def test_wood_of_a_plan_with_zones_is_added_up_strip_by_strip(results: Results) -> None:
    strips = linnet().strips.model_copy(update={"zones": (Zone(first=1, last=2, thickness=4.0),)})
    found = summarise(strips, results.planking, [0.0, 400.0])
    by_hand = sum(2 * s.length * 14 * (4 if s.number <= 2 else 8) for s in results.planking.strips)
    assert found.wood == pytest.approx(by_hand)


def test_a_width_given_for_tapered_strips_is_not_used_and_that_is_said() -> None:
    strips = linnet().strips.model_copy(update={"layout": StripLayout.TAPERED, "zones": (Zone(first=3, last=4, width=9.0),)})
    assert section_of(strips, 3, 300).width == 14
    (said,) = handling_findings(strips, {})
    assert (said.code, said.where) == ("zone-width", "strips 3 to 4")


def test_planing_goes_by_the_thickness_of_each_strip(tube: Results) -> None:
    strips = StripSettings(thickness=10.0, zones=(Zone(first=3, last=4, thickness=5.0),))
    rows = crossings(tube.shape.hull, tube.shape.molds.molds[4], tube.planking, strips)
    assert [row.planed for row in rows[1:4]] == pytest.approx([t * math.tan(30 / 500) for t in (10, 5, 5)], rel=0.01)


# -- on the molds -----------------------------------------------------------------------------------------


def test_ticks_and_bevels_on_a_tube_are_exact(tube: Results) -> None:
    """On the mold, 10 mm inside the hull, a strip takes its share of the smaller circle; neighbours turn by width / R."""
    mold = tube.shape.molds.molds[4]
    rows = crossings(tube.shape.hull, mold, tube.planking, StripSettings(thickness=10.0))
    assert [row.number for row in rows] == list(range(1, 28))
    for row in rows[:-1]:
        assert row.from_sheer == pytest.approx(row.number * 30 * 490 / 500, abs=0.15)
        assert row.width == pytest.approx(2 * 500 * math.sin(30 / 1000), abs=0.02)
        assert row.full
    for row in rows[:-2]:
        assert row.bevel == pytest.approx(30 / 500, rel=0.01)
        assert row.planed == pytest.approx(10 * math.tan(30 / 500), rel=0.01)
    assert rows[-1].bevel is None


def test_strips_cross_every_mold_in_order(results: Results) -> None:
    for rows in results.ticks.values():
        runs = [row.from_sheer for row in rows]
        assert runs == sorted(runs)
        assert all(row.upper <= row.from_sheer + 1e-9 for row in rows)


def test_the_girth_divider(tube: Results) -> None:
    mold = tube.shape.molds.molds[4]
    rows = crossings(tube.shape.hull, mold, tube.planking, StripSettings(thickness=10.0))
    girth = math.pi / 2 * 490
    found = divide(mold, rows, SHEER, KEEL, parts=7)
    assert found is not None
    assert found.girth == pytest.approx(girth, abs=0.1)
    assert found.marks[-1] == pytest.approx(girth, abs=0.1)
    assert found.width * 7 == pytest.approx(found.girth)
    near = divide(mold, rows, "10", KEEL, width=30.0)
    assert near is not None
    assert len(near.marks) == round((girth - 10 * 29.4) / 30)
    assert divide(mold, rows, "99", KEEL, parts=3) is None
    for wrong in ({}, {"parts": 5000}):
        with pytest.raises(ImpossiblePlan):
            divide(mold, rows, SHEER, KEEL, **wrong)  # type: ignore[arg-type]


def test_strips_that_are_taller_than_wide_are_said() -> None:
    strips = linnet().strips.model_copy(update={"width": 6.0, "zones": (Zone(first=3, last=4, width=20.0),)})
    (said,) = handling_findings(strips, {})
    assert (said.code, said.where) == ("taller-than-wide", "all strips")
    assert "⟨6⟩ wide and ⟨8⟩ thick" in said.text
    assert not handling_findings(linnet().strips, {})


@pytest.mark.parametrize("layout", [StripLayout.PARALLEL, StripLayout.FEW])
def test_a_strip_that_the_stem_cuts_is_no_wider_at_a_mold_than_it_is(layout: StripLayout) -> None:
    """Its edge that has run out is told where the hull's outside ends, which no strip passes: 14 mm off the centre all along her
    stem; the mold itself ends inside that by the skin."""
    job = change(change(linnet(), "strips", layout=layout), "", surveys=(), planked=None)
    results = Pipeline().results(job)
    cut = 0
    for mold in results.shape.molds.molds:
        for crossing in crossings(results.shape.hull, mold, results.planking, job.strips):
            cut += not crossing.full
            assert min(crossing.near[1], crossing.far[1]) > 14 - 0.05, (mold.name, crossing.number)
            own = results.planking.strips[crossing.number - 1]
            assert crossing.width < own.width_max * 1.02, (mold.name, crossing.number)
    assert cut > 3


# -- compared ----------------------------------------------------------------------------------------------


def test_a_plan_is_summed_up(results: Results) -> None:
    strips = results.shape.job.strips
    stations = [m.station for m in results.shape.molds.molds]
    found = summarise(strips, results.planking, stations)
    assert found.per_side == 65
    assert found.total == pytest.approx(results.planking.total_length)
    assert found.wood == pytest.approx(found.total * 14 * 8)
    assert found.hours == pytest.approx(65 * 2 * 30 / 60)
    assert found.hard == sum(
        b.grade in (Handling.HEAT, Handling.NOT) for b in behaviours(strips, results.planking, stations).values()
    )
    assert weigh(results.shape.hull, strips, stations) == found
    refused = weigh(results.shape.hull, strips.model_copy(update={"layout": StripLayout.TAPERED, "least_width": 20.0}), stations)
    assert "least width" in refused.refused
    assert refused.order > found.order


def test_what_is_worth_a_try(results: Results) -> None:
    tries = candidates(results.shape.job.strips, 0.5)
    assert all(t.width % 0.5 == 0 for t in tries), "what can be milled"
    assert len(tries) == len(set(tries))
    assert {t.guide for t in tries} == set(Guide)
    assert {t.layout for t in tries} == set(StripLayout)
    assert all(t.thickness == 8 and t.width >= 8 for t in tries)
    assert all(in_words(t) for t in tries)
    good = PlanSummary(tries[0], wood=1.0)
    bad = PlanSummary(tries[1], worst=Handling.HEAT, hard=3, short=2, wood=2.0)
    assert "goes on by hand" in reasons(good, bad)
    assert "50% less wood" in reasons(good, bad)
    assert reasons(bad, good).startswith("Nothing tried is better")
    folds = replace(good, folds=2)
    assert good.order < folds.order < bad.order
    assert "0 strips a side turn sharply at an end instead of 2" in reasons(good, folds)
    assert replace(good, wood=1.004).order == good.order, "what an offcut takes decides nothing"
    assert replace(good, wood=1.03).order > good.order
    beside = closer([tries[0]], tries[0], 0.5)
    assert beside
    assert all(t.width <= 1.15 * tries[0].width + 0.25 and t.width % 0.5 == 0 for t in beside), "none wider than the widest tried"


@pytest.mark.more
def test_a_search_is_not_beaten_by_trying_everything() -> None:
    """Every guide, layout and width in the same bounds, laid one by one: none comes before the first that is found."""
    job = change(linnet(), "strips", width=60.0, thickness=20.0)
    shape = Pipeline().shape(job)
    stations = [m.station for m in shape.molds.molds]
    fields = Fields()
    found = list(search(shape.hull, job.strips, stations, 1.0, lambda _: None, fields))
    first = min(found, key=lambda p: p.order)
    for layout, guide, width in itertools.product(StripLayout, (Guide.SHEER, Guide.KEEL), (57.0, 48.0, 41.0)):
        own = job.strips.model_copy(update={"guide": guide, "layout": layout, "width": width})
        assert weigh(shape.hull, own, stations, fields=fields).order >= first.order, (guide, layout, width)


def test_plans_are_weighed_in_a_process_of_their_own() -> None:
    job = pipit()
    wide = job.strips.model_copy(update={"width": 5000.0})
    run = CompareRun(job, (job.strips, wide))
    got: list[tuple[str, object]] = []
    while not any(kind in ("done", "failed") for kind, _ in got):
        got += run.poll()
    run.stop()
    plans = [value for kind, value in got if kind == "plan"]
    assert [p.settings for p in plans] == [job.strips, wide]
    assert plans[0].per_side == 42
    pictured = [value.settings for kind, value in got if kind == "picture"]
    assert pictured == [p.settings for p in plans if not p.refused]


# -- written out ------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["planked-obj", "planked-stl"])
def test_the_planked_hull_is_one_part_a_strip(results: Results, kind: str) -> None:
    data = export_named(kind).write(results)
    suffix = kind.removeprefix("planked-")
    if suffix == "stl":
        assert data.count(b"\nsolid ") + data.startswith(b"solid ") == 130
        mesh = trimesh.load(io.BytesIO(data), file_type="stl_ascii")
    else:
        assert data.count(b"\ng strip_") == 130
        mesh = trimesh.load(io.BytesIO(data), file_type="obj", process=False)
    area = sum(g.area for g in mesh.geometry.values()) if isinstance(mesh, trimesh.Scene) else mesh.area
    assert area / 1e6 == pytest.approx(results.shape.measures.planked_area, rel=5e-3)


def test_ticks_schedule_and_maps_are_written(results: Results) -> None:
    ticks = export_named("ticks-csv").write(results).decode().splitlines()
    assert ticks[0].startswith("mold,strip,lower edge down from sheer mm")
    assert len(ticks) > 12 * 50
    pages = PdfReader(io.BytesIO(export_named("ticks-pdf").write(results))).pages
    assert len(pages) == 12
    assert "strips on mold 6" in pages[5].extract_text()
    strips = export_named("strips-csv").write(results).decode().splitlines()
    assert "goes on" in strips[0]
    assert "loblolly pine" in strips[1]
    assert "western redcedar" in strips[6]
    (page,) = PdfReader(io.BytesIO(export_named("girth-pdf").write(results))).pages
    assert float(page.mediabox.width) * 25.4 / 72 == pytest.approx(420, abs=0.1)
    assert b"<svg" in export_named("girth-svg").write(results)
    assert b"LWPOLYLINE" in export_named("girth-dxf").write(results)


def test_shaped_strips_are_full_size_and_a_plan_without_any_is_refused(results: Results) -> None:
    pages = PdfReader(io.BytesIO(export_named("tapers-pdf").write(results))).pages
    assert 1 <= len(pages) < 30
    tapered = Pipeline().results(apply_override(linnet(), "strip.layout", "tapered"))
    pages = PdfReader(io.BytesIO(export_named("tapers-pdf").write(tapered))).pages
    assert len(pages) == 65
    first = float(pages[0].mediabox.width) * 25.4 / 72
    assert first > tapered.planking.strips[0].near_length
    assert "width at mold 1" in export_named("strips-csv").write(tapered).decode().splitlines()[0]
    few = replace(results.planking, strips=results.planking.strips[:3])
    straight = Results(results.job, results.values | {PLANKING.id: Value(PLANKING.id, "", few)})
    with pytest.raises(ImpossiblePlan, match="one width"):
        export_named("tapers-pdf").write(straight)


def test_guides_on_the_command_line() -> None:
    job = apply_override(linnet(), "strip.guide", "master:330")
    assert (job.strips.guide, job.strips.master.height) == (Guide.MASTER, 330)
    assert apply_override(job, "strip.guide", "natural:30cm").strips.master.height == pytest.approx(300)
    assert apply_override(job, "strip.guide", "girth:0.6").strips.master.share == 0.6
    for wrong in ("girth:wide", "diagonal:3", "deck", "girth:1.5"):
        with pytest.raises(InputError):
            apply_override(job, "strip.guide", wrong)


def test_the_plan_file_says_how_strips_go_on(results: Results) -> None:
    from hollow_keel.files.plan_json import plan_document

    plan = plan_document(results)
    assert plan["as_planked"] == {}
    assert {s["goes_on"] for s in plan["strips"]["strips"]} <= {g.value for g in GRADES}


# -- a few tapered, the bottom, days, hollows ----------------------------------------------------------------


def test_a_few_tapered_strips_bring_the_run_back(results: Results) -> None:
    hull = results.shape.hull
    few = plank(hull, Laying(14.0, layout=StripLayout.FEW, least=8.0))
    own = [s.number for s in few.strips if s.shaped]
    assert own == list(range(own[0], own[-1] + 1))
    assert len(own) <= 65 // 3
    assert len(few.strips) == 65
    through = sum(s.runs_through for s in few.strips)
    assert through > 1.2 * sum(s.runs_through for s in results.planking.strips)
    (said,) = [f for f in few.findings if f.code == "few-tapered"]
    assert said.where == f"strips {own[0]} to {own[-1]}"
    assert f"{through} of 65" in said.text
    for strip in few.strips:  # none wider than milled; narrower than allowed only where the stem cuts them slanting
        flat = flat_strip(strip, few)
        assert flat[:, 1].max() <= 14.0 + 0.05
        if strip.runs_through and strip.number not in own:
            assert strip.width_min == 14.0
        if strip.number in own and strip.runs_through:
            assert 7.9 < flat[12:-12, 1].min() < 9.5
    tube_hull = hull_of(cylinder(500))
    none = plank(tube_hull, Laying(30.0, layout=StripLayout.FEW))  # its girth is the same everywhere
    assert not any(s.shaped for s in none.strips)
    assert not [f for f in none.findings if f.code == "few-tapered"]
    with pytest.raises(ImpossiblePlan, match="no room to taper"):
        plank(tube_hull, Laying(8.0, layout=StripLayout.FEW, least=8.0))


def test_the_centreline_is_marked_in_the_strip_it_crosses(results: Results) -> None:
    lists = results.ticks
    molds = results.shape.molds.molds
    cuts = centre_cuts(molds, lists, results.planking, MeetOn.KEEL_LINE)
    assert [c.mold for c in cuts] == [m.name for m in molds]
    for cut, mold in zip(cuts, molds, strict=True):
        girth = line_on_mold(mold, KEEL, lists[mold.name])
        assert cut.from_sheer == pytest.approx(girth, abs=1.0)  # on the mold's own edge
        assert 0 < cut.from_upper <= 14.1
    hull = results.shape.hull
    for guide, marked in ((Guide.KEEL, False), (Guide.BOTH, False), (Guide.MASTER, True)):
        laid = plank(hull, Laying(40.0, guide))
        rows = {m.name: crossings(hull, m, laid, StripSettings(thickness=8.0)) for m in molds}
        assert bool(centre_cuts(molds, rows, laid, MeetOn.KEEL_LINE)) is marked
    ticks = export_named("ticks-csv").write(results).decode()
    assert ticks.count("keel line, in ") == 12, "her keel has a flat: it is not the centreline"
    assert all(c.on == "keel line" for c in cuts)
    assert [c.off_centre for c in cuts[1:]] == pytest.approx([14.0] * 11, abs=0.1)
    count = len(results.planking.strips)
    last, two_more = (CentreCut("4", "centreline", 0.0, count + more, 5.0, 900.0) for more in (0, 2))
    assert flat_findings((last,), results.planking) == [], "the last strip is in the plan"
    (said,) = flat_findings((last, two_more), results.planking)
    assert "2 more strips a side" in said.text


def test_strips_run_on_over_a_flat_to_the_true_centreline() -> None:
    """A V of 30 degrees over a keel 40 wide, less a skin of 10 square to it: the mold's edge ends 20 - 10 sin 30° from the
    centreline, and runs straight on to it."""
    y = np.linspace(20.0, 420.0, 21)
    z = (y - 20.0) * math.tan(math.radians(30))
    rows = [row for x in (0.0, 1000.0, 2000.0, 3000.0) for row in station_rows(x, y, z)]
    job = Job(
        offsets=OffsetsTable(rows=tuple(rows)),
        waterline=100.0,
        molds=MoldSettings(skin=10, stations=(500.0, 1500.0, 2500.0)),
        strips=StripSettings(width=15.0, thickness=10.0, meet_on=MeetOn.CENTRELINE),
    )
    found = Pipeline().results(job)
    past = 15.0 / math.cos(math.radians(30))
    girth = 400.0 / math.cos(math.radians(30))
    last = math.ceil(girth / 15.0)
    for cut in centre_cuts(found.shape.molds.molds, found.ticks, found.planking, MeetOn.CENTRELINE):
        assert (cut.on, cut.off_centre) == ("centreline", 0.0)
        assert (cut.strip - 1) * 15.0 + cut.from_upper == pytest.approx(girth + past, abs=0.1)
        assert 0 < cut.from_upper <= 15.0
        assert cut.strip > last
    (more,) = [f for f in found.findings if f.code == "flat-of-keel"]
    assert "1 more strip a side" in more.text
    ticks = export_named("ticks-csv").write(found).decode()
    assert ticks.count("centreline, in ") == 3


def test_a_strip_that_runs_out_on_a_flat_keel_is_longer_to_the_centreline(results: Results) -> None:
    """Straight on from the keel line at the angle it comes in at: half the flat over the sine of that angle."""
    strip = next(s for s in results.planking.strips if s.near[0].starts == "keel")
    forward, _ = past_keel_line(strip, MeetOn.CENTRELINE)
    a, b = strip.near[0].points[:2]
    t = a[1] / (b[1] - a[1])  # drawn on to y = 0
    assert forward == pytest.approx(float(np.linalg.norm(t * (b - a))), rel=1e-6)
    assert past_keel_line(strip, MeetOn.KEEL_LINE) == (0.0, 0.0)
    shut = change(results.shape.job, "strips", meet_on=MeetOn.CENTRELINE)
    lengths = [
        sum(n.length for n in Pipeline().results(j).stock.needs if n.strip == strip.number)  # type: ignore[union-attr]
        for j in (results.shape.job, shut)
    ]
    assert lengths[1] - lengths[0] == pytest.approx(2 * sum(past_keel_line(strip, MeetOn.CENTRELINE)), abs=0.01)


def test_interleaved_strips_end_at_twice_the_angle() -> None:
    cut = EndCut("keel", 15.0, 3.0)
    assert meets(cut, 20.0, Meeting.CUT) == Meets(15.0, 0.0)
    found = meets(cut, 20.0, Meeting.INTERLEAVED)
    assert found is not None
    assert found.across == pytest.approx(30.0)
    assert found.second == pytest.approx(40.0)  # 20 / sin 30°
    assert meets(EndCut("stem_bow", 15.0, 3.0), 20.0, Meeting.INTERLEAVED) is None
    assert meets(None, 20.0, Meeting.CUT) is None
    # drawn out: port's far edge, y = x tan 15° + 20/cos 15°, crosses the mirror image of its near edge, y = -x tan 15°
    x = -20 / math.cos(math.radians(15)) / (2 * math.tan(math.radians(15)))
    assert found.second == pytest.approx(math.hypot(x, x * math.tan(math.radians(15))))


def test_strips_are_known_by_the_day_they_went_on(results: Results) -> None:
    monday, tuesday, friday = date(2026, 3, 2), date(2026, 3, 3), date(2026, 3, 6)
    planked = Planked().with_strips(4, monday).with_strips(9, tuesday).with_strips(11, tuesday).with_strips(14, friday)
    assert [(d.day, d.strips) for d in planked.days] == [(monday, 4), (tuesday, 11), (friday, 14)]
    assert [planked.day_of(n) for n in (1, 4, 5, 11, 14, 15)] == [monday, monday, tuesday, tuesday, friday, None]
    assert planked.with_strips(10, friday).days[-1].strips == 10  # it was not so many after all
    job = change(results.shape.job, "", planked=planked)
    kinds, words = strip_shades(results.planking, job, {}, ShadeBy.DAY)
    assert [kinds[n - 1] for n in (1, 4, 5, 11, 12, 14, 15)] == [3, 3, 2, 2, 1, 1, 0]
    assert words == ("still to come", "06 Mar", "03 Mar", "earlier")


def test_hollows_along_the_strips_are_named() -> None:
    """A spindle whose radius is least in the middle: every line along it is hollow by radius'' there."""
    waist = round_hull(lambda x: 400 + 250 * ((x - 1500) / 1500) ** 2, np.linspace(0, 3000, 17), 17)
    laid = plank(hull_of(waist), 40.0)
    (said,) = hollow_findings(laid, 300.0)
    depth = 2 * 250 / 1500**2 * 300**2 / 8  # on the strips that run straight along
    assert f"stand {depth:.1f} mm off" in in_words_of(said)
    assert hollow_findings(laid, 100.0) == []
    assert hollow_findings(plank(hull_of(cylinder(500)), 40.0), 300.0) == []


def in_words_of(finding: Finding) -> str:
    return finding.said().text


def test_a_bulb_below_a_waist_is_planked_or_refused_in_words() -> None:
    """Sections like a light bulb: the front runs over a hollow and round a tight turn."""
    angle = np.linspace(0, 1, 25)

    def section(scale: float) -> tuple[np.ndarray, np.ndarray]:
        z = -500 + 500 * angle
        y = scale * (150 * np.sin(np.pi * np.minimum(angle / 0.45, 1.0)) ** 0.8 + 320 * angle**2)
        return y, z

    rows: list[OffsetRow] = []
    for x in np.linspace(0, 3000, 13).tolist():
        y, z = section(0.6 + 0.4 * math.sin(math.pi * x / 3000))
        if x in (0.0, 3000.0):
            rows += end_rows("transom", np.column_stack([np.full(25, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    hull = hull_of(OffsetsTable(rows=tuple(rows)))
    skin = sum(surface_area(p.surface) for p in hull.panels)
    for guide in (Guide.SHEER, Guide.KEEL, Guide.MASTER):
        try:
            laid = plank(hull, Laying(25.0, guide))
        except ImpossiblePlan as error:
            assert "would not cover the hull" in str(error) or "more than it is cut from" in str(error)
            assert "Start from" in str(error)
            continue
        assert sum(area_of(s, laid) for s in laid.strips) == pytest.approx(skin, rel=0.005)
        assert all(0 < s.length < 4500 for s in laid.strips)
