"""Strips that differ, picked as runs: what each strip has afterwards is counted strip by strip."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Zone
from hollow_keel.core.planking.bands import Band, band_at, with_band

STRIPS = range(1, 31)


def each(zones: tuple[Zone, ...]) -> dict[int, tuple[float | None, float | None, str]]:
    """Width, thickness and wood of every strip; of zones that overlap the later one counts."""
    found: dict[int, tuple[float | None, float | None, str]] = {}
    for number in STRIPS:
        width, thickness, wood = None, None, ""
        for zone in zones:
            if zone.first <= number <= zone.last:
                width = zone.width if zone.width is not None else width
                thickness = zone.thickness if zone.thickness is not None else thickness
                wood = zone.wood or wood
        found[number] = (width, thickness, wood)
    return found


runs = st.tuples(st.integers(1, 28), st.integers(0, 8)).map(lambda pair: (pair[0], min(pair[0] + pair[1], 30)))
own = st.tuples(st.sampled_from([None, 10.0, 12.0]), st.sampled_from([None, 4.0]), st.sampled_from(["", "ash"]))


@given(given_bands=st.lists(st.tuples(runs, own), max_size=6), last=st.tuples(runs, own))
def test_a_band_changes_its_own_strips_and_no_other(given_bands: list, last: tuple) -> None:  # type: ignore[type-arg]
    zones: tuple[Zone, ...] = ()
    for (first, end), (width, thickness, wood) in given_bands:
        zones = with_band(zones, Band(first, end, width, thickness, wood))
    before = each(zones)
    (first, end), (width, thickness, wood) = last
    after = each(with_band(zones, Band(first, end, width, thickness, wood)))
    for number in STRIPS:
        assert after[number] == ((width, thickness, wood) if first <= number <= end else before[number])


def test_what_strips_have_in_common_is_told() -> None:
    zones = (Zone(first=3, last=6, wood="ash"), Zone(first=5, last=8, width=10.0))
    assert band_at(zones, 3, 4) == Band(3, 4, None, None, "ash")
    assert band_at(zones, 5, 6) == Band(5, 6, 10.0, None, "ash")
    assert band_at(zones, 3, 6) == Band(3, 6, None, None, "ash"), "they differ in width"
    assert band_at(zones, 1, 2).plain


def test_like_the_others_takes_a_run_out_of_the_middle() -> None:
    zones = with_band((Zone(first=1, last=9, thickness=4.0),), Band(4, 5))
    assert [(z.first, z.last) for z in zones] == [(1, 3), (6, 9)]


def test_a_strip_that_is_none_is_refused_in_words() -> None:
    with pytest.raises(InputError, match="no strip is like this"):
        with_band((), Band(3, 5, width=0.0))
