"""Decks by a camber and by the table, against closed forms: parabolas, a cylinder, a cone."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from scipy import integrate

from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.camber import camber_line, crown_at, edge_slope
from hollow_keel.core.hull.deck import Deck
from hollow_keel.core.hull.stages import DECK
from hollow_keel.core.job import DeckSettings, Job
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.deck_choices import CamberRule, DeckFrom, Ridge
from hollow_keel.core.stages import BY_ID
from hollow_keel.demo.jobs import demo_job

from ...shapes import end_rows, station_rows


def deck_of(job: Job) -> Deck:
    deck: Deck = Pipeline().results(job, [DECK])[DECK]
    return deck


def cambered(table: OffsetsTable, **settings: object) -> Deck:
    return deck_of(Job(offsets=table, waterline=100.0, deck=DeckSettings(source=DeckFrom.CAMBER, **settings)))


def box(half_breadth: float = 300.0, height: float = 250.0, length: float = 3000.0, taper: float = 0.0) -> OffsetsTable:
    """A straight-sided box with transoms, its half-breadth growing by `taper` for every mm of length."""
    rows: list[OffsetRow] = []
    z = np.linspace(0.0, height, 5)
    stations = np.linspace(0, length, 9).tolist()
    for k, x in enumerate(stations):
        y = np.full(5, half_breadth + taper * x)
        if k in (0, len(stations) - 1):
            rows += end_rows("transom", np.column_stack([np.full(5, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    return OffsetsTable(rows=tuple(rows))


def with_deck(table: OffsetsTable, heights: dict[float, list[tuple[str, float, float]]]) -> OffsetsTable:
    """A table with rows past the sheer: by station, label, half-breadth, height."""
    rows: list[OffsetRow] = []
    every = list(table.rows)
    for k, row in enumerate(every):
        rows.append(row)
        last = k + 1 == len(every) or every[k + 1].station != row.station
        if last and row.station in heights:
            rows += [OffsetRow(station=row.station, label=label, half_breadth=y, height=z) for label, y, z in heights[row.station]]
    return OffsetsTable(rows=tuple(rows))


def arc(half: float, crown: float, base: float, count: int = 12) -> list[tuple[str, float, float]]:
    """An arc of a circle from just inside the edge to the centreline."""
    radius = (half**2 + crown**2) / (2 * crown)
    y = np.linspace(half, 0.0, count + 1)[1:]
    z = base + np.sqrt(radius**2 - y**2) - (radius - crown)
    return [("deck_centre" if k == count - 1 else "deck", float(a), float(b)) for k, (a, b) in enumerate(zip(y, z, strict=True))]


# -- the camber itself: y = c (1 - (2x/b)²), slope at the edge 4c/b ----------------------------------------


def test_camber_is_the_parabola_of_the_textbook() -> None:
    line = camber_line(400.0, 50.0, 0.0, 9)
    assert line[:, 1] == pytest.approx(50 * (1 - (line[:, 0] / 400) ** 2))
    assert edge_slope(800.0, 50.0) == pytest.approx(4 * 50 / 800)


def test_one_pattern_serves_all_beams() -> None:
    """The pattern of 60 on 900 has 60 (600/900)² = 26.667 over the middle 600 of it; in proportion it is 40."""
    assert crown_at(600.0, 60.0, 900.0, CamberRule.ONE_PATTERN) == pytest.approx(60 * 4 / 9)
    assert crown_at(600.0, 60.0, 900.0, CamberRule.PROPORTION) == pytest.approx(40.0)


# -- surfaces --------------------------------------------------------------------------------------------------


def test_a_deck_of_one_camber_is_a_cylinder() -> None:
    """A straight sheer and one crown: every section is the parabola; its area is length times the parabola's arc length."""
    deck = cambered(box(), crown=48.0)
    (panel,) = deck.surface.panels
    u, v = np.meshgrid(np.linspace(0, 1, 31), np.linspace(0, 1, 31))
    points = panel.surface.points(u.ravel(), v.ravel())
    assert points[:, 2] == pytest.approx(250 + 48 * (1 - (points[:, 1] / 300) ** 2), abs=2e-3)
    girth = integrate.quad(lambda y: math.sqrt(1 + (2 * 48 * y / 300**2) ** 2), 0, 300)[0]
    assert deck.area == pytest.approx(2 * girth * 3000 * 1e-6, rel=1e-6)
    normal = panel.surface.jet(np.array([0.5]), np.array([0.5])).normal[0]
    assert normal[2] > 0.9, "outward is up"
    assert (panel.lower, panel.upper) == ("sheer", "centreline")


def test_a_deck_in_proportion_is_a_cone() -> None:
    """Half-breadth and crown grow alike from a point: the area by quadrature of the surface's own density."""
    taper, crown = 0.05, 60.0
    deck = cambered(box(150.0, taper=taper), crown=crown, rule=CamberRule.PROPORTION)
    most = 150 + taper * 3000

    def density(s: float, x: float) -> float:
        half = 150 + taper * x
        c = crown * half / most
        du = np.array([1.0, taper * s, crown * taper / most * (1 - s * s)])
        dv = np.array([0.0, half, -2 * c * s])
        return float(np.linalg.norm(np.cross(du, dv)))

    truth = integrate.dblquad(density, 0, 3000, 0, 1)[0]
    assert deck.area == pytest.approx(2 * truth * 1e-6, rel=1e-4)


def test_a_straight_ridge_runs_straight() -> None:
    deck = deck_of(demo_job("pipit").model_copy(update={"deck": DeckSettings(source=DeckFrom.CAMBER, ridge=Ridge.STRAIGHT)}))
    line = deck.surface.panels[0].surface.points(np.linspace(0, 1, 51), np.ones(51))
    assert line[:, 1] == pytest.approx(np.zeros(51), abs=1e-6)
    chord = np.interp(line[:, 0], line[[0, -1], 0], line[[0, -1], 2])
    assert line[:, 2] == pytest.approx(chord, abs=0.2)


def test_a_swept_ridge_goes_through_its_height() -> None:
    settings = DeckSettings(source=DeckFrom.CAMBER, ridge=Ridge.SWEPT, ridge_height=560.0)
    deck = deck_of(demo_job("pipit").model_copy(update={"deck": settings}))
    line = deck.surface.panels[0].surface.points(np.linspace(0, 1, 201), np.ones(201))
    middle = (line[0, 0] + line[-1, 0]) / 2
    assert float(np.interp(middle, line[:, 0], line[:, 2])) == pytest.approx(560.0, abs=0.1)


def test_a_peak_sharpens_the_camber_towards_its_end() -> None:
    """At the very end the two sides are straight to a ridge: half-way out it is half the crown, not three quarters."""
    deck = cambered(box(), crown=48.0, peak_bow=1500.0)
    surface = deck.surface.panels[0].surface
    for u, share in ((0.0, 0.5), (1.0, 0.75)):
        line = surface.points(np.full(401, u), np.linspace(0, 1, 401))
        at = float(np.interp(-150.0, -line[:, 1], line[:, 2]))
        assert at - 250 == pytest.approx(48 * share, abs=0.05)


# -- by the table -----------------------------------------------------------------------------------------------


def test_a_table_that_goes_on_past_the_sheer_has_its_deck() -> None:
    """An arc at every station of a box: a circular cylinder; area by the arc's own length."""
    half, crown = 300.0, 60.0
    heights = {x: arc(half, crown, 250.0) for x in np.linspace(0, 3000, 9).tolist()}
    deck = deck_of(Job(offsets=with_deck(box(), heights), waterline=100.0))
    radius = (half**2 + crown**2) / (2 * crown)
    points = deck.surface.panels[0].surface.points(np.full(41, 0.4), np.linspace(0, 1, 41))
    assert np.hypot(points[:, 1], points[:, 2] - (250 + crown - radius)) == pytest.approx(radius, abs=0.01)
    assert deck.area == pytest.approx(2 * radius * math.asin(half / radius) * 3000 * 1e-6, rel=1e-5)
    assert deck.findings == ()


def test_a_deck_at_some_stations_only_is_drawn_through_those_and_said() -> None:
    heights = {x: arc(300.0, 60.0, 250.0) for x in (375.0, 1500.0, 2625.0)}
    deck = deck_of(Job(offsets=with_deck(box(), heights), waterline=100.0))
    codes = [f.code for f in deck.findings]
    assert codes.count("deck-partly") == 1
    assert codes.count("deck-end") == 2, "both transoms are given the camber of the nearest station"
    top = deck.surface.panels[0].surface.points(np.linspace(0, 1, 21), np.ones(21))[:, 2]
    assert top == pytest.approx(np.full(21, 310.0), abs=0.05)


@pytest.mark.parametrize(
    ("rows", "code"),
    [
        ([("deck", 200.0, 280.0), ("deck_centre", 40.0, 290.0)], "deck-short"),
        ([("deck", 340.0, 260.0), ("deck_centre", 0.0, 290.0)], "deck-outside"),
        ([("deck", 200.0, 100.0), ("deck_centre", 0.0, -60.0)], "deck-in-hull"),
    ],
)
def test_what_cannot_be_is_said_with_its_place(rows: list[tuple[str, float, float]], code: str) -> None:
    heights = {x: arc(300.0, 60.0, 250.0) for x in np.linspace(0, 3000, 9).tolist()}
    heights[1500.0] = rows
    deck = deck_of(Job(offsets=with_deck(box(), heights), waterline=100.0))
    (said,) = [f for f in deck.findings if f.code == code]
    assert "1500" in said.where


def test_a_deck_of_one_station_is_no_deck() -> None:
    job = Job(offsets=with_deck(box(), {1500.0: arc(300.0, 60.0, 250.0)}), waterline=100.0)
    with pytest.raises(InputError, match="two stations"):
        deck_of(job)


@pytest.mark.parametrize(
    "wrong",
    [{"crown": 600.0, "crown_on": 43.25}, {"ridge": Ridge.SWEPT, "ridge_height": 90_000.0}],
    ids=["millimetres on inches", "a digit too many"],
)
def test_a_deck_higher_than_it_is_wide_is_refused(wrong: dict[str, Any]) -> None:
    """By hand: 600 on 43.25 mm is 600 (900 / 43.25)² = 260 m on a beam of 900."""
    job = change(demo_job("pipit"), "deck", source=DeckFrom.CAMBER, **wrong)
    with pytest.raises(InputError, match="the deck would stand"):
        deck_of(job)
    run = Pipeline().run(job)
    assert run.attempt(BY_ID["molds"]).value.molds, "the hull and its molds are left as they are"


def test_rows_past_the_sheer_leave_the_hull_as_it_is() -> None:
    from hollow_keel.core.hull.stages import MEASURES

    heights = {x: arc(300.0, 60.0, 250.0) for x in np.linspace(0, 3000, 9).tolist()}
    with_it, without = (
        Pipeline().results(Job(offsets=table, waterline=100.0), [MEASURES])[MEASURES]
        for table in (with_deck(box(), heights), box())
    )
    assert with_it == without


def test_a_job_without_a_deck_has_none() -> None:
    assert deck_of(demo_job("linnet")) is None


def test_a_deck_that_cannot_be_drawn_leaves_hull_and_molds_alone() -> None:
    from hollow_keel.core.molds.stages import MOLDS
    from hollow_keel.core.stage import Failed

    job = Job(offsets=with_deck(box(), {1500.0: arc(300.0, 60.0, 250.0)}), waterline=100.0)
    results = Pipeline().results(job, [MOLDS], glad_of=[DECK])
    assert len(results[MOLDS].molds) == 7
    assert isinstance(results.values[DECK.id].value, Failed)
