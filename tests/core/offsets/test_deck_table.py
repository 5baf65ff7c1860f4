"""Rows past the sheer stay with their station whatever is done to the table, and come back from every file."""

from __future__ import annotations

import pytest

from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.restation import restationed, with_station
from hollow_keel.core.hull.stages import DECK, HULL, LINES
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import DECK_LABELS, OffsetRow, OffsetsTable
from hollow_keel.core.offsets.transform import raised, scaled, turned
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.offsets.plan import parse_offsets_json, write_offsets_json
from hollow_keel.files.offsets.points_csv import parse_offsets_csv, write_offsets_csv
from hollow_keel.files.tables.grid import grid_of_text
from hollow_keel.files.tables.reading import understand

from ...shapes import written
from ..hull.test_deck_surface import arc, box, with_deck


@pytest.fixture(scope="module")
def table() -> OffsetsTable:
    return demo_job("teasel").offsets


def area(table: OffsetsTable) -> float:
    return float(Pipeline().results(Job(offsets=table, waterline=100.0), [DECK])[DECK].area)


def deck_rows(table: OffsetsTable) -> list[OffsetRow]:
    return [row for row in table.rows if row.label in DECK_LABELS]


def test_turned_twice_is_as_it_was(table: OffsetsTable) -> None:
    there = turned(table, 4600.0)
    assert area(there) == pytest.approx(area(table), rel=1e-9)
    assert turned(there, 4600.0).rows == table.rows


def test_the_deck_of_a_transom_stays_with_it_when_turned() -> None:
    heights = {x: arc(300.0, 60.0, 250.0) for x in (0.0, 750.0, 1500.0, 2250.0, 3000.0)}
    decked = with_deck(box(), heights)
    there = turned(decked, 3000.0)
    assert area(there) == pytest.approx(area(decked), rel=1e-9)
    first = next(k for k, row in enumerate(there.rows) if row.label in DECK_LABELS)
    assert there.rows[first - 1].label == "transom"


def test_it_is_scaled_and_raised_with_the_hull(table: OffsetsTable) -> None:
    assert area(raised(table, 50.0)) == pytest.approx(area(table), rel=1e-9)
    assert area(scaled(table, 2.0, 2.0, 2.0)) == pytest.approx(4 * area(table), rel=1e-6)


def test_new_stations_have_their_deck(table: OffsetsTable) -> None:
    results = Pipeline().results(Job(offsets=table, waterline=100.0), [HULL, DECK])
    again = restationed(table, results[HULL], 250.0, deck=results[DECK].surface)
    assert area(again) == pytest.approx(area(table), rel=2e-3)
    more = with_station(table, results[HULL], 1900.0, deck=results[DECK].surface)
    own = [k for k, row in enumerate(more.rows) if row.station == 1900.0]
    assert own == list(range(own[0], own[-1] + 1)), "its rows stand together"
    assert more.rows[own[-1]].label == "deck_centre"
    before = more.rows[own[0] - 1]
    assert (before.station, before.label) == (1800.0, "deck_centre"), "after the deck of the station before it"


def test_it_comes_back_from_csv_and_json(table: OffsetsTable) -> None:
    assert parse_offsets_csv(write_offsets_csv(table, "x", None)).table.rows == table.rows
    back = parse_offsets_json(write_offsets_json(table, "x", None)).table
    assert said(back) == said(table)


def said(table: OffsetsTable) -> list[tuple[float, str, float, float]]:
    return [(r.station, r.label, r.half_breadth, r.height) for r in table.rows]


def test_a_foreign_table_by_points_goes_on_past_the_sheer(table: OffsetsTable) -> None:
    """Other headings, from a spreadsheet, the rows of a deck from the centreline outward: read as the same deck."""
    lines = ["Station mm\tPoint\tHalf-breadth mm\tHeight mm"]
    for row in table.rows:
        lines.append(f"{row.station:g}\t{row.label}\t{row.half_breadth:g}\t{row.height:g}")
    found = understand([grid_of_text("\n".join(lines))])
    assert found.table is not None
    assert len(deck_rows(found.table)) == len(deck_rows(table))
    assert area(found.table) == pytest.approx(area(table), rel=1e-9)


def test_deck_means_the_sheer_where_no_sheer_is_named() -> None:
    lines = ["Station mm\tPoint\tHalf-breadth mm\tHeight mm"]
    for row in box().rows:
        label = "deck" if row.label == "sheer" else row.label
        lines.append(f"{row.station:g}\t{label}\t{row.half_breadth:g}\t{row.height:g}")
    found = understand([grid_of_text("\n".join(lines))])
    assert found.table is not None
    assert not found.table.has_deck
    assert sum(row.label == "sheer" for row in found.table.rows) == 7


TRADITIONAL = """# offsets-to: outside
# waterline_mm: 100
line_mm,500,1500,2500
sheer height,300,280,300
sheer half-breadth,250,300,250
keel height,0,0,0
wl 150,240,290,240
deck buttock 200,318,315,318
deck buttock 100,330,336,330
deck centre,335,345,335
"""


def test_the_traditional_layout_has_the_deck_on_buttocks_and_at_the_centreline() -> None:
    found = parse_offsets_csv(TRADITIONAL).table
    own = [(r.label, r.half_breadth, r.height) for r in found.rows if r.station == 1500 and r.label in DECK_LABELS]
    assert own == [("deck", 200.0, 315.0), ("deck", 100.0, 336.0), ("deck_centre", 0.0, 345.0)]
    results = Pipeline().results(Job(offsets=found, waterline=100.0), [DECK, LINES])
    text = written("lines-csv", Job(offsets=found, waterline=100.0)).decode()
    assert "deck centre,335.0,345.0,335.0" in text
    assert "deck buttock 100,330.0,336.0,330.0" in text
    again = parse_offsets_csv(text).table
    assert deck_said(again) == deck_said(found)
    assert results[DECK].area > 0


def deck_said(table: OffsetsTable) -> list[tuple[float, str, float, float]]:
    return [(r.station, r.label, r.half_breadth, r.height) for r in deck_rows(table)]


def test_a_deck_on_no_buttocks_is_told_on_even_ones(table: OffsetsTable) -> None:
    text = written("lines-csv", Job(offsets=table, waterline=105.0)).decode()
    again = parse_offsets_csv(text).table
    assert area(again) == pytest.approx(area(table), rel=0.01)


def test_a_line_of_the_deck_that_says_nothing_is_named() -> None:
    with pytest.raises(InputError, match="no such line of the deck"):
        parse_offsets_csv(TRADITIONAL.replace("deck centre", "deck nonsense"))


def test_a_foreign_table_by_lines_goes_on_over_the_deck() -> None:
    """As a builder has it in a spreadsheet: sections of heights and half-breadths, the deck's rows among the heights."""
    text = "\n".join(
        "\t".join(row)
        for row in (
            ("Station, mm", "500", "1500", "2500"),
            ("Heights", "", "", ""),
            ("Sheer", "300", "280", "300"),
            ("Keel", "0", "0", "0"),
            ("Deck at centreline", "335", "345", "335"),
            ("Deck at buttock 200", "318", "315", "318"),
            ("Deck butt 100", "330", "336", "330"),
            ("Half-breadths", "", "", ""),
            ("Sheer", "250", "300", "250"),
            ("WL 150", "240", "290", "240"),
        )
    )
    found = understand([grid_of_text(text)])
    assert found.table is not None, found.questions
    own = [(r.label, r.half_breadth, r.height) for r in found.table.rows if r.station == 1500 and r.label in DECK_LABELS]
    assert own == [("deck", 200.0, 315.0), ("deck", 100.0, 336.0), ("deck_centre", 0.0, 345.0)]
    sheer = next(r for r in found.table.rows if r.station == 1500 and r.label == "sheer")
    assert (sheer.half_breadth, sheer.height) == (300.0, 280.0)
