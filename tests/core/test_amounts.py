"""Areas, volumes and weights in the builder's own units; sums that no rounding enters."""

from __future__ import annotations

import csv
import io
import math

import pytest

from hollow_keel.app.exports import export_named
from hollow_keel.core.amounts import Amounts, converted, far_length, in_amounts, quantity
from hollow_keel.core.change import change
from hollow_keel.core.job import UnitSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.core.settings.strip_choices import StripLayout
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.files.plan_json import plan_document
from tests.shapes import unworked

INCH = LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16)


@pytest.mark.parametrize(
    ("value", "unit", "told", "name"),
    [  # from memory, to the figures that are printed on cans and rolls
        (1.0, "kg", 2.20462, "lb"),
        (3.785411784, "l", 1.0, "gal"),
        (1.0, "l", 33.814, "fl oz"),
        (100.0, "ml", 3.3814, "fl oz"),
        (203.4, "g/m²", 6.0, "oz/sq yd"),
        (1.0, "m²", 1.19599, "sq yd"),
        (0.3048, "m", 1.0, "ft"),
        (1.0, "kg/l", 8.34540, "lb/gal"),
        (1000.0, "kg/m³", 62.428, "lb/cu ft"),
    ],
)
def test_us_customary_amounts(value: float, unit: str, told: float, name: str) -> None:
    number, written = converted(value, unit, Amounts.US)
    assert (number, written) == (pytest.approx(told, rel=2e-4), name)
    assert converted(value, unit, Amounts.METRIC) == (value, unit)


def test_amounts_within_a_text() -> None:
    text = f"{quantity(203.4, 'g/m²')} on {quantity(8.1, 'm²', '.2f')}; {quantity(90.0, 'min')}"
    assert in_amounts(text, Amounts.METRIC) == "203.4 g/m² on 8.10 m²; 90 min"
    assert in_amounts(text, Amounts.US) == "6 oz/sq yd on 9.69 sq yd; 90 min"
    assert far_length(30480.0, INCH) == "100 ft"
    assert far_length(1500.0, LengthStyle(), 1) == "1.5 m"


def test_units_follow_the_lengths_until_others_are_chosen() -> None:
    assert UnitSettings().told_in is Amounts.METRIC
    assert UnitSettings(unit=LengthUnit.FEET_INCH_EIGHTHS).told_in is Amounts.US
    assert UnitSettings(unit=LengthUnit.INCH, amounts=Amounts.METRIC).told_in is Amounts.METRIC


@pytest.fixture(scope="module")
def in_inches() -> Results:
    job = change(unworked(linnet()), "strips", layout=StripLayout.TAPERED, zones=())
    return Pipeline().results(change(job, "", units=UnitSettings(unit=LengthUnit.INCH_FRACTION, step=1 / 16)))


def test_widths_in_a_spreadsheet_add_up_to_the_girth(in_inches: Results) -> None:
    rows = list(csv.DictReader(io.StringIO(export_named("strips-csv").write(in_inches).decode("utf-8-sig"))))
    ticks = in_inches.ticks
    for mold in in_inches.shape.molds.molds[3:9]:
        column = f"width at mold {mold.name} in"
        total = 25.4 * sum(float(row[column]) for row in rows if row[column])
        assert total == pytest.approx(sum(c.width for c in ticks[mold.name]), abs=0.2)
    assert "tightest edge-set radius ft" in rows[0]
    strip = in_inches.planking.strips[30]
    assert float(rows[30]["tightest edge-set radius ft"]) == pytest.approx(1 / strip.max_edge_set / 304.8, abs=0.01)


def test_what_is_used_up_is_told_in_pounds_and_gallons_and_kept_in_metric(in_inches: Results) -> None:
    assert in_inches.stock is not None
    buying = export_named("buying-csv").write(in_inches).decode("utf-8-sig")
    rows = {row[0]: row for row in csv.reader(io.StringIO(buying))}
    cloth = next(i for i in in_inches.stock.items if i.what == "Cloth outside")
    assert rows["Cloth outside"][2] == "sq yd"
    assert float(rows["Cloth outside"][1]) == pytest.approx(cloth.amount / 0.83612736, abs=0.06)
    assert "oz/sq yd" in rows["Cloth outside"][5]
    assert rows["Tape for mold edges"][2] == "ft"
    assert rows["Glue, mixed"][2] in ("fl oz", "gal")
    assert not any(unit in buying for unit in ("g/m²", " kg", " ml", "kg/l"))
    told = {i["what"]: i for i in plan_document(in_inches)["stock"]["used_up"]}
    assert told["Cloth outside"]["unit"] == "m²"
    assert math.isclose(told["Cloth outside"]["amount"], cloth.amount, abs_tol=1e-3)
    assert "g/m²" in told["Cloth outside"]["reckoned_with"]
    assert "\u27e6" not in str(told)


def test_an_inch_job_is_told_in_inches_and_feet_throughout() -> None:
    results = Pipeline().results(pipit())
    ticks = export_named("ticks-csv").write(results).decode("utf-8-sig").splitlines()[0]
    assert "planed off in" in ticks
    assert "mm" not in ticks
