"""Days to come, as they are typed and shown."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.app.overrides import apply_override, as_overrides
from hollow_keel.app.setting_text import read_text, text_to_type
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job
from hollow_keel.core.log.days import day_text, days_text, read_day, read_days
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import LengthStyle

TODAY = date(2026, 12, 1)
"""A Tuesday."""
TYPED = (
    ("24 Dec to 6 Jan, 14 July", "24 Dec 2026 to 6 Jan 2027, 14 Jul 2027"),
    ("closed until 6 Jan", "1 Dec 2026 to 6 Jan 2027"),
    ("3 Aug for two weeks", "3 Aug 2027 to 16 Aug 2027"),
    ("2026-12-24 to 2027-01-02", "24 Dec 2026 to 2 Jan 2027"),
    ("24.12. - 2.1.", "24 Dec 2026 to 2 Jan 2027"),
    ("workshop closed 24.12.2026 bis 6.1.2027", "24 Dec 2026 to 6 Jan 2027"),
    ("Dec 24 – Dec 26", "24 Dec 2026 to 26 Dec 2026"),
    ("holiday: 1 May", "1 May 2027"),
    ("Friday; next Monday", "4 Dec 2026, 7 Dec 2026"),
    ("Tuesday", "1 Dec 2026"),
    ("next Tuesday", "8 Dec 2026"),
    ("29 Feb", "29 Feb 2028"),
    ("30 Nov", "30 Nov 2027"),
    ("1 Dec", "1 Dec 2026"),
    ("tomorrow for 3 days", "2 Dec 2026 to 4 Dec 2026"),
    ("", ""),
    ("24/12/2026, 12/25/2026, 5/5/2027", "24 Dec 2026 to 25 Dec 2026, 5 May 2027"),
    ("1 Jan 2027, 2 Jan 2027, 4 Jan 2027", "1 Jan 2027 to 2 Jan 2027, 4 Jan 2027"),
)


@pytest.mark.parametrize(("typed", "shown"), TYPED)
def test_days_without_work(typed: str, shown: str) -> None:
    assert days_text(read_days(typed, TODAY)) == shown


@pytest.mark.parametrize(
    "typed", ["5", "3/9/2027", "03/09/2027", "31 Feb", "6 Jan 2027 to 24 Dec 2026", "24 Dec to", "soon", "1 Jan 2027 to 1 Jan 2090"]
)
def test_what_is_no_day_is_said(typed: str) -> None:
    with pytest.raises(InputError) as caught:
        read_days(f"1 May, {typed}", TODAY)
    assert caught.value.value in typed


@given(st.sets(st.dates(date(2000, 1, 1), date(2060, 1, 1)), max_size=40))
def test_what_is_shown_reads_as_it(days: set[date]) -> None:
    assert read_days(days_text(days), TODAY) == tuple(sorted(days))


@given(st.dates(date(2000, 1, 1), date(2060, 1, 1)), st.dates(date(2000, 1, 1), date(2060, 1, 1)))
def test_a_day_without_its_year_is_the_next_of_its_name(today: date, day: date) -> None:
    found = read_day(day_text(day).rpartition(" ")[0], today)
    assert (found.day, found.month) == (day.day, day.month)
    assert timedelta(0) <= found - today < timedelta(days=9 * 366)
    assert found - today < timedelta(days=366) or (day.day, day.month) == (29, 2)


def test_they_are_settings_like_any_other() -> None:
    record = all_settings()["log.holidays"]
    days = read_days("24 Dec 2026 to 6 Jan 2027", TODAY)
    assert read_text(record, "24 Dec 2026 to 6 Jan 2027", LengthStyle(), ()) == days
    assert text_to_type(record, days, LengthStyle()) == "24 Dec 2026 to 6 Jan 2027"
    job = apply_override(apply_override(Job(), "log.holidays", "24 Dec 2026 to 6 Jan 2027"), "log.starts", "2027-01-08")
    assert (job.log.holidays, job.log.starts) == (days, date(2027, 1, 8))
    assert apply_override(job, "log.starts", "none").log.starts is None
    assert apply_override(Job(), "log.holidays", '["2026-12-24"]').log.holidays == (date(2026, 12, 24),)
    again = Job()
    for text in as_overrides(Job(), job) or ():
        again = apply_override(again, *text.split("=", 1))
    assert again == job
