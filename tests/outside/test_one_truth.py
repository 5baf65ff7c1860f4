"""A fact that two pages, papers or files tell is one: walked over the demo's boats, a hybrid, a pram, a flat-bottomed skiff and a
boat of five stations; turned end for end, scaled, and in inches."""

from __future__ import annotations

import csv
import io
import json
import math
from collections.abc import Callable, Iterator, Sequence
from functools import cache

import numpy as np
import pytest
import shapely

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.deck.strip_stages import DECK_PLAN, DECK_TICKS
from hollow_keel.core.hull.stages import HULL, MEASURES, WATERLINE
from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.job import Job, Layer, MoldSettings
from hollow_keel.core.log.stages import WORK
from hollow_keel.core.molds.cut_stages import PIECES
from hollow_keel.core.molds.stages import MOLDS, STRINGERS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import BEHAVIOURS, PLANKING, TICKS
from hollow_keel.core.release.stages import LIFT
from hollow_keel.core.results import Results
from hollow_keel.core.settings.deck import decked
from hollow_keel.core.settings.form import formed
from hollow_keel.core.settings.log_entry import Task
from hollow_keel.core.settings.units import UnitSettings
from hollow_keel.core.settings.veneers import strip_planked, veneered
from hollow_keel.core.setup.stages import SCHEDULE, SETUP
from hollow_keel.core.sheer.stages import BEAMS, SHEER, SHEER_STRIPS
from hollow_keel.core.stage import Failed
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.stock.needs import DECK_FROM
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.units import LengthUnit, parse_length
from hollow_keel.core.veneers.stages import FORM, LAYERS, LAYING
from hollow_keel.core.whole_job import job_scaled, job_turned
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.setup.strongback import setup_drawing
from tests.core.hull.test_hard_ends import pram, skiff
from tests.shapes import unworked

Fact = tuple[str, Sequence[float], Sequence[float], float]
"""What is told twice, how it is told by either, and by how much they may differ."""


def fitted(job: Job) -> Job:
    """With all that a job can have worked out: the sheer carried out, beams, stringers, what molds leave by, a log."""
    job = change(change(job, "trim", wanted=True, frames=0.0), "inside", stringers=(0.5,))
    job = change(change(job, "beams", wanted=True), "release", wanted=True)
    return change(job, "log", wanted=True)


def five() -> Job:
    """Linnet by the first, the last and every third of her stations."""
    job = unworked(demo_job("linnet"))
    places = sorted({r.station for r in job.offsets.rows if not r.label.startswith(("stem", "transom"))})
    kept = {places[0], places[-1], *places[2:-2:3]}
    rows = tuple(r for r in job.offsets.rows if r.station in kept or r.label.startswith(("stem", "transom")))
    return job.model_copy(update={"offsets": job.offsets.model_copy(update={"rows": rows}), "unfaired": None})


def hybrid() -> Job:
    layers = (Layer(thickness=2.0), Layer(thickness=2.0, angle=-45.0))
    job = change(unworked(demo_job("linnet")), "veneers", layers=layers, over_strips=True)
    return job.in_step()


def of_table(table: Callable[[], object]) -> Job:
    return Job(offsets=table(), molds=MoldSettings(skin=6.0))  # type: ignore[arg-type]


def turned() -> Job:
    job = unworked(demo_job("linnet"))
    stand = [(m.name, m.station) for m in Pipeline().value(job, MOLDS).molds]
    return job_turned(job, stand, None)


def scaled() -> Job:
    return job_scaled(unworked(demo_job("linnet")), 1.5, 1.5, 1.5)


def in_inches() -> Job:
    return change(demo_job("linnet"), "units", **UnitSettings(unit=LengthUnit.INCH, step=0.01).model_dump())


BOATS: dict[str, Callable[[], Job]] = {
    **{name: (lambda name=name: demo_job(name)) for name in ("linnet", "sedge", "pipit", "teasel")},
    "hybrid": hybrid,
    "pram": lambda: of_table(pram),
    "skiff": lambda: of_table(skiff),
    "five stations": five,
    "turned": turned,
    "scaled": scaled,
    "in inches": in_inches,
}


@cache
def results_of(name: str) -> Results:
    return Pipeline().results(fitted(BOATS[name]()), list(SHOWN))


def table(results: Results, kind: str) -> list[dict[str, str]]:
    """The rows of a CSV, as far as its first blank line."""
    text = export_named(kind).write(results).decode()
    rows = list(csv.reader(io.StringIO(text)))
    end = next((k for k, row in enumerate(rows) if not any(row)), len(rows))
    return [dict(zip(rows[0], row, strict=False)) for row in rows[1:end]]


def column(rows: Sequence[dict[str, str]], starts: str, results: Results) -> list[float]:
    """A column of lengths, mm, by how its heading starts; exact ones are in plain inches where the job's are not."""
    (name,) = [key for key in rows[0] if key.startswith(starts)]
    unit = LengthUnit.INCH if name.endswith(" in") else results.job.units.style.unit
    return [parse_length(row[name], unit) for row in rows if row[name]]


def plan_of(results: Results) -> dict[str, object]:
    document: dict[str, object] = json.loads(export_named("plan-json").write(results))
    return document


# -- what is told twice ---------------------------------------------------------------------------------------


def strips(results: Results) -> Iterator[Fact]:
    """On the page, in the plan file, in the CSV, in the pieces to cut, in the log, at the sheer."""
    planking, plan, job = results[PLANKING], plan_of(results), results.job
    told = plan["strips"]
    half = job.units.style.step_mm / 2 + 0.01
    if not strip_planked(job):
        yield "no strips", [len(planking.strips), told["per_side"]], [0, 0], 0  # type: ignore[index]
        return
    rows = table(results, "strips-csv")
    numbers = [s.number for s in planking.strips]
    lengths = [s.length for s in planking.strips]
    yield "strips in the CSV", [int(row["strip"]) for row in rows if row["strip"]], numbers, 0
    yield "strips in the plan file", [s["n"] for s in told["strips"]], numbers, 0  # type: ignore[index]
    yield "lengths in the CSV", column(rows, "length", results), lengths, half
    yield "lengths in the plan file", [s["length"] for s in told["strips"]], lengths, 0.001  # type: ignore[index]
    yield "widths in the CSV", column(rows, "widest", results), [s.width_max for s in planking.strips], 0.01
    grades = [results[BEHAVIOURS][n].grade.value for n in numbers]
    assert [row["goes on"] for row in rows if row["strip"]] == grades
    yield "all of them", [told["total_length_m"]], [2 * sum(lengths) / 1000], 0.001  # type: ignore[index]
    made = {piece["n"] for piece in plan["stock"].get("pieces", []) if piece["n"] < DECK_FROM}  # type: ignore[attr-defined]
    if made:
        yield "pieces to cut", sorted(made), numbers, 0
    work = {piece.task: piece for piece in results[WORK].pieces}
    yield "strips of the log", [work[Task.PLANKING].units], [len(numbers)], 0
    ticks = [row for mold in results[MOLDS].molds for row in results[TICKS][mold.name]]
    rows = table(results, "ticks-csv")
    own = [row for row in rows if row["strip"].isdigit()]
    yield "ticks in the CSV", column(own, "lower edge down", results), [t.from_sheer for t in ticks], half
    for mark in results[SHEER_STRIPS].marks:
        first = next(iter(results[TICKS].get(mark.of_mold, ())), None)
        if first is not None:
            yield (f"strip at {mark.name}", [mark.strip or 0, mark.below or 0.0], [first.number, first.from_sheer], 1e-9)


def molds(results: Results) -> Iterator[Fact]:
    """Their edges on the page, in the plan file, as they are cut, as the sheer begins from them; their places on the strongback."""
    plan, own = plan_of(results), results[MOLDS].molds
    half = results.job.units.style.step_mm / 2 + 0.01
    yield "names", [int(m["name"]) for m in plan["molds"]], [int(m.name) for m in own], 0  # type: ignore[attr-defined]
    marks = {mark.mold: mark for mark in results[SETUP].marks}
    heads = {mark.of_mold: mark for mark in results[SHEER].marks if mark.of_mold}
    settings = results.job.molds
    for mold, told in zip(own, plan["molds"], strict=True):  # type: ignore[call-overload]
        yield f"edge of mold {mold.name}", np.ravel(told["points"]), np.ravel(mold.edge.points), 0.001
        zero = results[SETUP].zero_at
        yield f"mold {mold.name} from zero", [marks[mold.name].from_zero], [abs(mold.station - zero)], 1e-6
        piece = results[PIECES][mold.name]
        if piece.why_not is None and not settings.halves and mold.deck is None and settings.beyond_sheer == 0:
            wide = max(float(mold.edge.points[:, 0].max()), 0.0)
            if results.job.setup.strongback.value == "beam" and mold.far is None:
                yield (f"mold {mold.name} as it is cut", [float(np.abs(piece.outline[:, 0]).max())], [wide], 1e-6)
        if mold.name in heads and settings.strapping == 0 and mold.deck is None:
            yield f"head of mold {mold.name}", heads[mold.name].inside, mold.edge.sheer, 0.02
    rows = table(results, "setup-csv")
    yield ("from zero in the CSV", column(rows, "from zero", results), [m.from_zero for m in results[SETUP].marks], half)
    told = [m["from_zero"] for m in plan["setup"]["marks"]]  # type: ignore[index, call-overload]
    yield "from zero in the plan file", told, [m.from_zero for m in results[SETUP].marks], 0.001
    spaced = [m.spacing_to_next for m in results[SETUP].marks if m.spacing_to_next is not None]
    places = [m.from_zero for m in results[SETUP].marks]
    yield "spacings", spaced, np.diff(places), 1e-6
    cut = [t.length for t in results[SCHEDULE].timber if t.what == "beam" or t.what.startswith("side of the table")]
    (drawn,) = [r.value for r in setup_drawing(results.shape, results.job.units.style).rings if r.decides == "setup.length"]
    yield "the strongback drawn and to cut", cut, [drawn], 1e-9


def sheer(results: Results) -> Iterator[Fact]:
    """Head by head, in the CSV and in the plan file; the widest beam of beams and of the sheer; stringers inside and in molds."""
    plan, marks = plan_of(results), results[SHEER_STRIPS].marks
    told = plan["trim"] if "trim" in plan else plan["sheer"]
    rows = table(results, "sheer-csv")
    assert [row["head"] for row in rows] == [m.name for m in marks] == [h["name"] for h in told["heads"]]  # type: ignore[index]
    yield "heads' girths", column(rows, "round from", results), [m.girth for m in marks], 0.02
    yield "heads' heights", [h["outside_up"] for h in told["heads"]], [m.outside_up for m in marks], 0.001  # type: ignore[index]
    if results[BEAMS] is not None and results[BEAMS].beams:
        yield "the widest beam", [told["beam"]], [results[SHEER].beam], 0.001  # type: ignore[index]
    if results[INSIDE] is not None:
        notched = {(s.name, n.name): n.from_keel for s in results[INSIDE].stringers for n in s.notches}
        for mold in results[MOLDS].molds:
            for notch in results[STRINGERS].notches.get(mold.name, ()):
                if results.job.molds.strapping == 0:
                    run = shapely.LineString(mold.edge.points).project(shapely.Point(notch.at))
                    inside = notched[f"stringer {notch.number}", f"mold {mold.name}"]
                    yield f"stringer at mold {mold.name}", [run], [inside], 0.3


def wood(results: Results) -> Iterator[Fact]:
    """One weight of the shell: in *Stock*, for lifting, and of the layers; one skin."""
    job, shell = results.job, results[STOCK].weight
    if results[LIFT] is not None and job.release.kilograms is None:
        yield "what is lifted", [results[LIFT].weight], [shell], 0.3
    if veneered(job):
        laying = results[LAYING]
        assert laying is not None
        yield "the skin", [job.molds.skin], [job.layers_total or 0.0], 1e-9
        if not strip_planked(job):
            bare = change(job, "stock", used_up=job.stock.used_up.model_copy(update={"cloth_out": 0.0, "cloth_in": 0.0}))
            yield "weight of the layers", [laying.weight], [Pipeline().value(bare, STOCK).weight], 0.2
        assert results[LAYERS] is not None
        rows = table(results, "veneers-csv")
        count = sum(len(layer.veneers) for layer in results[LAYERS])
        yield "veneers in the CSV", [len(rows)], [count], 0
        lengths = [v.length for layer in results[LAYERS] for v in layer.veneers]
        yield "their lengths", column(rows, "length", results), lengths, job.units.style.step_mm / 2 + 0.01
        work = {piece.task: piece.units for piece in results[WORK].pieces}
        yield "veneers of the log", [work[Task.VENEERS]], [2 * count], 0
    if formed(job):
        rows = table(results, "ribbands-csv")
        form = results[FORM]
        assert form is not None
        told = [c.from_keel for r in form.ribbands for c in r.crossings]
        yield "ribbands on the molds", column(rows, "from keel", results), told, 0.01
        for mold in results[MOLDS].molds:
            girth = float(np.linalg.norm(np.diff(mold.edge.points, axis=0), axis=1).sum())
            for r in form.ribbands:
                for c in (c for c in r.crossings if c.mold == mold.name):
                    yield (f"ribband {r.number} at mold {mold.name}", [c.from_keel + c.from_sheer], [girth], 0.3)


def deck(results: Results) -> Iterator[Fact]:
    """Its strips on the page, in the plan file, in the CSV and on the molds."""
    if not decked(results.job):
        return
    plan, planking = plan_of(results), results[DECK_PLAN].planking
    told = plan["deck"]
    rows = table(results, "deck-csv")
    lengths = [s.length for s in planking.strips]
    yield "deck strips", [told["strips"]["per_side"], len(rows)], [len(lengths)] * 2, 0  # type: ignore[index]
    yield ("their lengths", column(rows, "length", results), lengths, results.job.units.style.step_mm / 2 + 0.01)
    for mold in results[MOLDS].molds:
        if mold.deck is not None:
            ticks = results[DECK_TICKS][mold.name]
            part = float(np.linalg.norm(np.diff(mold.deck.deck, axis=0), axis=1).sum())
            yield (f"deck over mold {mold.name}", [ticks[0].outer, max(t.inner for t in ticks)], [0.0, part], 3.0)


def hull(results: Results) -> Iterator[Fact]:
    """Its sizes in the plan file, and as its surface has them."""
    told, own = plan_of(results)["hull"], results[MEASURES]
    points = np.concatenate([p.surface.grid.reshape(-1, 3) for p in results[HULL].panels])
    yield "length", [told["length"]], [float(np.ptp(points[:, 0]))], 1.0  # type: ignore[index]
    assert told["beam"] >= 2 * float(points[:, 1].max()) - 1e-3  # type: ignore[index]
    fine = np.linspace(0.0, 1.0, 1201)
    wide = max(p.surface.points(fine[:, None], fine[None, ::4])[..., 1].max() for p in results[HULL].panels)
    yield "beam", [told["beam"]], [2 * float(wide)], 0.02  # type: ignore[index]
    yield "volume", [told["volume"]], [own.volume], 1e-6  # type: ignore[index]
    yield "waterline", [results[WATERLINE].height], [results.job.waterline or results[WATERLINE].height], 1e-9


FACTS = (strips, molds, sheer, wood, deck, hull)


@pytest.mark.parametrize("name", BOATS)
def test_what_two_places_tell_is_one(name: str) -> None:
    results = results_of(name)
    failed = [value.value.message for value in results.values.values() if isinstance(value.value, Failed)]
    assert not failed
    seen = 0
    for walk in FACTS:
        for what, told, other, within in walk(results):
            a, b = np.asarray(told, dtype=float), np.asarray(other, dtype=float)
            assert a.shape == b.shape, (what, a.shape, b.shape)
            assert np.abs(a - b).max(initial=0.0) <= within, (what, float(np.abs(a - b).max()))
            seen += a.size
    assert seen > 100


def test_turned_and_in_inches_the_boat_is_the_same_and_scaled_it_is_as_much_larger() -> None:
    boats = {name: results_of(name) for name in ("turned", "scaled", "in inches")}
    plain = Pipeline().results(fitted(unworked(demo_job("linnet"))), list(SHOWN))
    for results in (plain, boats["turned"]):
        assert len(results[PLANKING].strips) == len(plain[PLANKING].strips)
        assert results[MEASURES].volume == pytest.approx(plain[MEASURES].volume, rel=1e-3)
        assert results[PLANKING].total_length == pytest.approx(plain[PLANKING].total_length, rel=2e-3)
    assert boats["scaled"][MEASURES].volume == pytest.approx(1.5**3 * plain[MEASURES].volume, rel=2e-3)
    assert boats["scaled"][MEASURES].planked_area == pytest.approx(1.5**2 * plain[MEASURES].planked_area, rel=1e-3)
    assert len(boats["scaled"][MOLDS].molds) == len(plain[MOLDS].molds)
    assert math.isclose(boats["in inches"][MEASURES].volume, results_of("linnet")[MEASURES].volume)
