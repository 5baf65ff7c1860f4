"""Ways of laying that a hull does not allow, told before they are chosen."""

from __future__ import annotations

import pytest

from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.job import Job, MasterLine, StripSettings
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.planking.plank import laying_of, plank
from hollow_keel.core.planking.possible import WAYS, refusals
from hollow_keel.core.settings.strip_choices import Guide, MasterKind, StripLayout
from hollow_keel.core.settings_table import all_settings
from tests.hulls_of_form import FORMS


@pytest.fixture(scope="module")
def tender() -> Hull:
    """Short and full: her keel turns too sharply for strips from both edges to meet."""
    return build_hull(read_lines(FORMS["small tender"].table(stations=13, points=11)))


def test_what_is_told_is_what_would_be_refused(tender: Hull) -> None:
    strips = StripSettings(width=20.0, guide=Guide.BOTH)
    told = dict(refusals(tender, Job(strips=strips), "strips.layout"))
    assert StripLayout.PARALLEL not in told, "it is what is chosen now"
    assert told
    for layout in set(StripLayout) - {StripLayout.PARALLEL}:
        laying = laying_of(strips.model_copy(update={"layout": layout}))
        if layout in told:
            with pytest.raises(ImpossiblePlan) as refused:
                plank(tender, laying)
            assert told[layout] == str(refused.value)
        else:
            plank(tender, laying)


def test_heights_that_are_still_to_be_given_refuse_nothing(tender: Hull) -> None:
    strips = StripSettings(width=20.0, guide=Guide.MASTER, master=MasterLine(kind=MasterKind.NATURAL))
    assert MasterKind.HEIGHTS not in dict(refusals(tender, Job(strips=strips), "strips.master.kind"))
    assert set(WAYS) <= set(all_settings())
    assert set(all_settings()["strips.master.kind"].setting.choices) == set(MasterKind)
