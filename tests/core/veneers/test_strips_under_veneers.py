"""Strips that have layers of veneer over them lie on their own outside, not on the hull's."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.geometry.inverse import inverted
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.hull.within import hull_within
from hollow_keel.core.job import Job, Layer
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.covering import surface_area
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.planking.stages import PLANKING, STRIP_HULL, TICKS
from hollow_keel.demo.jobs import linnet, pipit
from tests.shapes import hull_of, sphere_zone, unworked

RADIUS, REACH, OVER = 1000.0, 600.0, 16.0


def scaled(table: OffsetsTable, by: float) -> OffsetsTable:
    rows = tuple(
        row.model_copy(update={"station": row.station * by, "half_breadth": row.half_breadth * by, "height": row.height * by})
        for row in table.rows
    )
    return table.model_copy(update={"rows": rows})


def test_within_a_sphere_is_the_smaller_sphere() -> None:
    """What lies so far within a zone of a sphere is the same zone of a smaller one: its strips are those of the smaller hull."""
    share = (RADIUS - OVER) / RADIUS
    own = plank(hull_within(hull_of(sphere_zone(RADIUS, REACH)), OVER), 30.0)
    small = plank(hull_of(scaled(sphere_zone(RADIUS, REACH), share)), 30.0)
    assert len(own.strips) == len(small.strips) < len(plank(hull_of(sphere_zone(RADIUS, REACH)), 30.0).strips)
    assert [s.length for s in own.strips] == pytest.approx([s.length for s in small.strips], abs=0.3)
    assert own.strips[-1].width_max == pytest.approx(small.strips[-1].width_max, abs=0.1)


def over_strips(job: Job, *thick: float) -> Job:
    layers = tuple(Layer(thickness=t, angle=45.0 * (-1) ** k) for k, t in enumerate(thick))
    return change(unworked(job), "veneers", layers=layers, over_strips=True).in_step()


@pytest.mark.parametrize("make", [linnet, pipit])
def test_strips_under_veneers_are_laid_ticked_and_covered_on_their_own_outside(make: Callable[[], Job]) -> None:
    """Their edges lie so far within the hull, on their own side of the boat, and cover it; ticks lie on the molds, one strip's
    thickness within the strips' outside."""
    job = over_strips(make(), 3.0, 3.0)
    pipeline = Pipeline()
    hull, within, planking = (pipeline.value(job, s) for s in (HULL, STRIP_HULL, PLANKING))
    for strip in planking.strips[::7]:
        for piece in strip.far:
            middle = piece.points[10:-10]
            assert (piece.points[:, 1] > -0.05).all()
            _, away = inverted(hull.panels[strip.panel].surface, middle[::9])
            assert away == pytest.approx(np.full(len(away), 6.0), abs=0.05)
    assert surface_area(within.panels[0].surface) < surface_area(hull.panels[0].surface)
    for rows in pipeline.value(job, TICKS).values():
        widths = [row.width for row in rows if row.full]
        assert 0.999 < np.median(widths) / job.strips.cover < 1.015, "aslant to a mold a little more"


def test_without_layers_nothing_changes() -> None:
    hull = hull_of(sphere_zone())
    assert hull_within(hull, 0.0) is hull
    job = unworked(linnet())
    assert job.over_strips == 0.0
    assert change(job, "veneers", layers=(Layer(),)).over_strips == 0.0, "veneers alone lie over no strips"
