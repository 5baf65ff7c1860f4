"""A job in inches begins with inch sizes."""

from __future__ import annotations

from operator import attrgetter

import pytest

from hollow_keel.app.deciding import with_value
from hollow_keel.app.in_units import job_in_units
from hollow_keel.core.inch_sizes import blank_job, inch_size
from hollow_keel.core.job import Job
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings.units import UnitSettings
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import LengthUnit
from tests.shapes import bare_linnet

INCHES = UnitSettings(unit=LengthUnit.INCH_FRACTION, step=1 / 16)
MM = UnitSettings()
BY_HAND = (
    (0.5, 1 / 64),
    (1.6, 1 / 16),
    (2.5, 3 / 32),
    (3.0, 1 / 8),
    (6.0, 1 / 4),
    (8.0, 5 / 16),
    (9.0, 3 / 8),
    (12.0, 1 / 2),
    (14.0, 9 / 16),
    (16.0, 5 / 8),
    (18.0, 3 / 4),
    (19.0, 3 / 4),
    (20.0, 3 / 4),
    (25.0, 1.0),
    (30.0, 1.25),
    (35.0, 1.375),
    (40.0, 1.5),
    (45.0, 1.75),
    (50.0, 2.0),
    (75.0, 3.0),
    (90.0, 3.5),
    (100.0, 4.0),
    (150.0, 6.0),
    (250.0, 10.0),
    (500.0, 20.0),
    (600.0, 24.0),
    (1220.0, 48.0),
    (2440.0, 96.0),
    (4200.0, 168.0),
    (-12.0, -0.5),
)
"""Millimetres, and the inches that the trade calls them (common practice, no source)."""


@pytest.mark.parametrize(("mm", "inches"), BY_HAND)
def test_sizes_by_hand(mm: float, inches: float) -> None:
    assert inch_size(mm) == pytest.approx(25.4 * inches, abs=1e-9)


def test_a_blank_job_in_inches_has_no_metric_size_left() -> None:
    job = blank_job(INCHES)
    for path, record in all_settings().items():
        if record.setting.kind in (Kind.LENGTH, Kind.FINE) and record.default:
            sixty_fourths = attrgetter(path)(job) / 25.4 * 64
            assert sixty_fourths == pytest.approx(round(sixty_fourths), abs=1e-6), path
            assert attrgetter(path)(job) == pytest.approx(record.default, rel=0.0625, abs=0.2), path
    assert blank_job(MM) == Job()


def test_sizes_follow_the_unit_until_they_are_given_or_there_is_a_hull() -> None:
    own = with_value(Job(), "molds.thickness", 15.0)
    there = job_in_units(own, INCHES)
    assert there.molds.thickness == 15.0, "a size that was given stays"
    assert there.strips.width == pytest.approx(19.05)
    assert job_in_units(there, MM) == own, "there and back nothing has changed"
    assert with_value(own, "units.unit", LengthUnit.INCH_FRACTION).strips.width == pytest.approx(19.05)
    hull = bare_linnet()
    assert job_in_units(hull, INCHES) == hull.model_copy(update={"units": INCHES}), "her sizes are what they are"
