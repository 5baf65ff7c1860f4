"""Strips that a builder would nail on: the small demo boats and a case."""

from __future__ import annotations

import pytest

from hollow_keel.core.settings.strip_choices import StripLayout
from tests.half import half
from tests.strips_judged import GUIDES, judge_boat

BOATS = ("pipit", "teasel", "double_ender.csv")


@pytest.mark.parametrize(("name", "guide", "layout"), half(BOATS, list(GUIDES), list(StripLayout)))
def test_would_a_builder_nail_it_on(name: str, guide: str, layout: StripLayout) -> None:
    judge_boat(name, guide, layout)
