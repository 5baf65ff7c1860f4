"""Strips that a builder would nail on: hulls of closed form, from sheer and keel, and from lines between them."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.planking.courses import Fields
from hollow_keel.core.planking.end_turns import folded
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.planking.strips import Planking
from hollow_keel.core.settings.strip_choices import Guide, StripLayout
from tests.half import half
from tests.hulls_of_form import FORMS
from tests.strips_judged import FIELDS, GUIDES, OFF_MM, judge

FROM_KEEL = ("V double-ender", "spoon bow", "deep rocker", "lean racer", "small tender")
"""Forefeet of every kind; the other five were judged with them once and passed."""
BETWEEN = (
    ("round double-ender", "height"),
    ("plumb stems", "natural"),
    ("transom launch", "girth"),
    ("hollow garboards", "natural"),
    ("small tender", "both"),
    ("small tender", "height"),
)
"""Where an edge once stood off its neighbours, folded back at its end, or lay over the next: all guides of all ten were judged
by hand, 258 plans; three of the four that miss a limit yet are not among these."""
NO_ROOM = {("small tender", "both", StripLayout.TAPERED)}
"""From both edges her lens does not close in tapered strips."""
SAID = {("spoon bow", Guide.KEEL, StripLayout.TAPERED)}
"""Edges that stand farther off than is fair, and are named: under a blunt sheer, that the last strips run out on."""


@pytest.mark.parametrize(
    ("name", "guide", "layout"),
    [*half(list(FORMS), [Guide.SHEER], list(StripLayout)), *half(FROM_KEEL, [Guide.KEEL], list(StripLayout))],
)
def test_on_hulls_of_closed_form_too_or_it_is_said(name: str, guide: Guide, layout: StripLayout) -> None:
    """Where strips of a hull fold at an end they are named, and nothing else is excused."""
    laid = _judged(name, guide.value, layout)
    assert [f.code for f in laid.findings].count("edge-off") == ((name, guide, layout) in SAID)


@pytest.mark.parametrize("layout", [StripLayout.PARALLEL, StripLayout.TAPERED, StripLayout.MIXED])
@pytest.mark.parametrize(("name", "guide"), BETWEEN)
def test_from_a_line_between_sheer_and_keel_too(name: str, guide: str, layout: StripLayout) -> None:
    if (name, guide, layout) in NO_ROOM:
        with pytest.raises(ImpossiblePlan, match="wide"):
            _judged(name, guide, layout)
        return
    _judged(name, guide, layout)


def _judged(name: str, guide: str, layout: StripLayout) -> Planking:
    known = FIELDS.setdefault((name, guide), Fields())
    hull = build_hull(read_lines(FORMS[name].table(stations=13, points=11)))
    way, master = GUIDES[guide]
    laid = plank(hull, Laying(20.0, way, layout, master, least=8.0), fields=known)
    felt = 2.5 if name == "small tender" and way is not Guide.SHEER else 1.0  # her forefoot turns within three strips
    off = any(f.code == "edge-off" for f in laid.findings)
    judge(hull, laid, 20.0, excused={f.strip for f in folded(laid)}, felt=felt, off=np.inf if off else OFF_MM)
    return laid
