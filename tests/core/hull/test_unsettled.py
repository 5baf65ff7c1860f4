"""How far the table settles molds and strips, where it is shown."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.hull.stages import SETTLED
from hollow_keel.core.hull.unsettled import (
    SHOWN_ALONG_MM,
    Settled,
    half_way,
    rounding_of,
    settled,
    strip_unsettled,
    unsettled_at,
    unsettled_findings,
)
from hollow_keel.core.job import Job, MoldSettings, StripSettings
from hollow_keel.core.molds.shape import section_outside
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable, read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.results import Results
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.plan_json import plan_document
from hollow_keel.ui.views.sentences import may_be_out
from hollow_keel.ui.window.state import State
from tests.hulls_of_form import FORMS, away_from
from tests.shapes import station_rows


@pytest.fixture(scope="module")
def coarse() -> Results:
    """Straight topsides over a bilge of 220 mm radius that a floor line and one point in its middle tell of."""
    turn = np.radians([0.0, 48.0, 90.0])
    y = np.concatenate([[20.0, 300.0], 300 + 220 * np.sin(turn), [520.0, 520.0, 520.0, 520.0]])
    z = np.concatenate([[0.0, 0.0], 220 - 220 * np.cos(turn), [300.0, 400.0, 500.0, 600.0]])
    keep = np.array([0, 1, 3, 4, 5, 6, 7, 8])
    rows = [row for x in np.arange(0.0, 4001.0, 500.0) for row in station_rows(x, y[keep], z[keep])]
    job = Job(
        offsets=OffsetsTable(rows=tuple(rows)),
        waterline=150.0,
        molds=MoldSettings(skin=8, stations=(750.0, 2000.0, 3250.0)),
        strips=StripSettings(width=20, thickness=8),
    )
    return Pipeline().results(job)


def test_strips_over_the_open_bilge_are_uncertain_and_those_on_the_topsides_are_not(coarse: Results) -> None:
    told = plan_document(coarse)
    by_mold = {m["name"]: m["uncertain_by"] for m in told["molds"]}
    assert all(by > 1.0 for by in by_mold.values())
    strips = told["strips"]["strips"]
    assert strips[2]["uncertain_by"] < 0.5, "straight up and down between points close together"
    bilge = [s["uncertain_by"] for s in strips]
    assert max(bilge) > 1.0
    assert max(bilge) <= max(by_mold.values()) + 1e-3, "no strip lies farther out than its sections"
    worst = strips[int(np.argmax(bilge))]["n"]
    edge = coarse.planking.strips[worst - 1].near[0].points
    assert -20 < np.median(edge[:, 2]) < 240, "it lies in the turn of the bilge, or runs out of it"
    assert strip_unsettled(coarse.settled or Settled(), 0, []) == 0.0


def test_a_station_is_least_settled_between_two_of_its_offsets(coarse: Results) -> None:
    assert coarse.settled is not None
    for station, told in zip(coarse.settled.stations, coarse.shape.hull.lines.stations, strict=True):
        middles = (told.points[1:, 1:] + told.points[:-1, 1:]) / 2
        away = np.linalg.norm(middles - [station.half_breadth, station.height], axis=1)
        assert away.min() < 2 * station.by
        assert station.by == pytest.approx(station.places[:, 2].max())


def test_it_is_shown_past_a_millimetre_and_not_before(coarse: Results) -> None:
    state = State(coarse.job)
    assert coarse.settled is not None
    (row,) = may_be_out(unsettled_at(coarse.settled, 2000.0), state)
    assert row[0] == "may be out by"
    assert row[1].startswith("±")
    assert may_be_out(0.9, state) == ()


def ship(x: np.ndarray) -> np.ndarray:
    """Half-breadth over the length: fine ends, a full middle body."""
    t = np.abs(x - 5000.0) / 5000.0
    return 900.0 * (1 - t**4) + 20.0


def rows_of(stations: np.ndarray) -> list[OffsetRow]:
    z = np.linspace(0.0, 600.0, 9)
    found = []
    for x in stations.tolist():
        y = 20.0 + (ship(np.array([x]))[0] - 20.0) * np.sqrt(z / 600.0)
        found += station_rows(x, y, z)
    return found


@pytest.mark.parametrize("count", [7, 9, 13])
def test_stations_too_far_apart_are_told_with_about_what_they_miss_by(count: int) -> None:
    """Between stations the true hull is known: gap by gap what is told is no less than three quarters of what the skin is out, and
    where that can be seen not over five times it."""
    job = Job(offsets=OffsetsTable(rows=tuple(rows_of(np.linspace(0.0, 10000.0, count)))), waterline=200.0)
    pipeline = Pipeline()
    shape = pipeline.shape(job)
    told = pipeline.value(shape.job, SETTLED)
    surface = shape.hull.panels[0].surface
    u = np.linspace(0.0, 1.0, 2001)
    points = surface.points(u, np.ones_like(u))
    off = np.abs(points[:, 1] - ship(points[:, 0]))
    assert len(told.between) == count - 1
    seen = 0
    for gap in told.between:
        out = float(off[(points[:, 0] > gap.first) & (points[:, 0] < gap.last)].max())
        assert gap.by > 0.75 * out
        if out > 0.5:
            seen += 1
            assert gap.by < 5 * out
    assert seen >= 2


def test_between_stations_it_counts_most_half_way() -> None:
    pipeline = Pipeline()
    told = pipeline.value(linnet(), SETTLED)
    gap = max(told.between, key=half_way)
    only = Settled((), (gap,))
    middle = (gap.first + gap.last) / 2
    assert unsettled_at(only, middle) == pytest.approx(half_way(gap), rel=0.05)
    assert unsettled_at(only, gap.first + 1.0) < 0.5 * unsettled_at(only, middle)
    assert bool(unsettled_findings(only)) is (half_way(gap) > SHOWN_ALONG_MM)
    codes = {f.code for f in Pipeline().results(linnet()).findings if f.stage == "offsets"}
    assert codes <= {"unsettled-along"}


TABLES = [(5, 7, 0.0), (7, 11, 3.175), (9, 7, 1.0), (9, 11, 1.0), (13, 11, 0.0)]


def test_what_is_told_of_molds_covers_what_they_are_really_out_by() -> None:
    """Ten hulls of closed form, in tables from very coarse to very close: molds at stations and half-way between them. Truth is the
    form, which nothing here is drawn from but its rounded points."""
    wholly, nearly, ratios = [], [], []
    for form in FORMS.values():
        for stations, points, step in TABLES:
            lines = read_lines(form.table(stations=stations, points=points, step=step))
            hull = build_hull(lines)
            told = settled(lines, hull)
            at = [s.x for s in lines.stations]
            for x in (*at[1:-1], *((a + b) / 2 for a, b in itertools.pairwise(at))):
                out = away_from(form, x, section_outside(hull, x)[::4])
                by = unsettled_at(told, x)
                wholly.append(by >= out.max())
                nearly.append(np.mean(out <= by))
                ratios.append(by / out.max())
    assert np.mean(nearly) > 0.97
    assert np.mean(wholly) > 0.85
    assert np.median(ratios) < 2.5


@pytest.mark.parametrize("step", [0.0, 1.0, 3.175, 1.5875, 5.0])
def test_the_step_a_table_is_rounded_to_is_found(step: float) -> None:
    table = FORMS["transom launch"].table(stations=9, points=9, step=step)
    assert rounding_of(read_lines(table)) == step


def test_it_covers_lengths_of_strips_and_girths_too() -> None:
    """What is told of the hull under a strip, and of a station, is no less than what strips' lengths and half girths are out by.
    Truth of lengths: a table so close that its own doubt counts for nothing; of girths: the form."""
    lengths, girths = [], []
    for name in ("round double-ender", "V double-ender", "transom launch", "deep rocker", "lean racer"):
        form = FORMS[name]
        close = plank(build_hull(read_lines(form.table(stations=29, points=21))), 40.0)
        for stations, points, step in TABLES[1:4:2]:
            lines = read_lines(form.table(stations=stations, points=points, step=step))
            hull = build_hull(lines)
            told = settled(lines, hull)
            for strip, true in zip(plank(hull, 40.0).strips, close.strips, strict=True):
                if strip.runs_through and true.runs_through:
                    edges = [(p.points, p.uv) for p in (*strip.near, *strip.far)]
                    lengths.append(abs(strip.length - true.length) <= strip_unsettled(told, 0, edges))
            for x, girth in hull.girths[1:-1]:
                y, z = form.section(x, 2001)
                girths.append(abs(girth - np.hypot(np.diff(y), np.diff(z)).sum()) <= unsettled_at(told, x))
    assert np.mean(lengths) > 0.95
    assert all(girths)
