from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.change import change
from hollow_keel.core.errors import Cancelled, ImpossiblePlan, InputError
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.demo.jobs import demo_job, linnet, pipit
from tests.shapes import cylinder, unworked


@pytest.mark.fresh
def test_stages_are_kept_while_their_inputs_are() -> None:
    pipeline = Pipeline()
    job = unworked(linnet())
    first = pipeline.results(job)
    renamed = pipeline.results(change(job, "", name="Other"))
    assert renamed.shape.hull is first.shape.hull
    assert renamed.planking is first.planking
    thicker = pipeline.results(apply_override(job, "skin", "10"))
    assert thicker.shape.hull is first.shape.hull
    assert thicker.planking is first.planking
    assert thicker.shape.molds is not first.shape.molds
    narrower = pipeline.results(apply_override(job, "strip.width", "20"))
    assert narrower.shape.molds is not None
    assert narrower.planking is not first.planking


def test_results_cannot_be_changed_in_place() -> None:
    shape = Pipeline().shape(linnet())
    with pytest.raises(ValueError, match="read-only"):
        shape.molds.molds[0].edge.points[0, 0] = 1.0


@pytest.mark.parametrize(("key", "value", "word"), [("strip.width", "5m", "wider"), ("strip.width", "0.1mm", "wider strip")])
def test_impossible_strips(key: str, value: str, word: str) -> None:
    with pytest.raises(ImpossiblePlan, match=word):
        Pipeline().results(apply_override(linnet(), key, value))


def test_cove_deeper_than_the_strip() -> None:
    job = apply_override(apply_override(linnet(), "strip.edge", "bead-cove"), "strip.cove-depth", "14mm")
    with pytest.raises(ImpossiblePlan, match="covers nothing"):
        Pipeline().results(job)


def test_bead_and_cove_covers_less_than_its_width() -> None:
    square = Pipeline().value(linnet(), PLANKING)
    cove = Pipeline().value(apply_override(linnet(), "strip.edge", "bead-cove"), PLANKING)
    assert cove.width == pytest.approx(11)
    assert len(cove.strips) > len(square.strips)


def test_waterline_that_is_not_given_is_said() -> None:
    shape = Pipeline().shape(change(linnet(), "", waterline=None))
    assert any(f.code == "no-waterline" for f in shape.findings)


@pytest.mark.fresh
def test_planking_can_be_cancelled() -> None:
    pipeline = Pipeline()
    shape = pipeline.shape(linnet())

    def tick(share: float) -> None:
        if share > 0.3:
            raise Cancelled

    with pytest.raises(Cancelled):
        pipeline.value(shape.job, PLANKING, tick)
    assert len(pipeline.value(shape.job, PLANKING).strips) == 65


def test_cancelling_goes_through_what_catches_errors() -> None:
    """A library that catches whatever an argument of its raises, and raises an error of its own: it must not hide this."""

    class Axis:
        def __index__(self) -> int:
            raise Cancelled

    with pytest.raises(Cancelled):
        np.linalg.norm(np.eye(3), axis=Axis())  # type: ignore[call-overload]


def test_bad_settings_name_key_and_value() -> None:
    for key, value in (
        ("skin", "thick"),
        ("strip.width", "-3"),
        ("nonsense", "1"),
        ("strip.guide", "roof"),
        ("strip.layout", "spiral"),
    ):
        with pytest.raises(InputError) as raised:
            apply_override(Job(), key, value)
        assert value in str(raised.value) or key in str(raised.value)


@pytest.mark.parametrize("name", ["linnet", "pipit"])
def test_demo_strips_look_like_strips(name: str) -> None:
    """Lengths fall steadily, strips hold together, and together they cover the hull's area."""
    results = Pipeline().results(demo_job(name))
    strips = results.planking.strips
    near = np.array([s.near_length for s in strips])
    assert np.all(np.diff(near) < 1.0)
    assert max(s.pieces for s in strips) <= 2
    assert strips[0].starts == "stem_bow"
    assert strips[-1].starts == strips[-1].ends == "keel"
    covered = 2 * sum((s.near_length + s.far_length) / 2 * s.width_max for s in strips) * 1e-6
    assert covered == pytest.approx(results.shape.measures.planked_area, rel=0.01)
    for a, b in zip(strips[:-1], strips[1:], strict=True):
        assert b.near_length == pytest.approx(a.far_length, abs=1e-6)


def test_strips_from_the_keel_cover_the_same_hull() -> None:
    results = Pipeline().results(apply_override(pipit(), "strip.guide", "keel"))
    assert results.planking.strips[-1].ends == "sheer"
    assert len(results.planking.strips) == pytest.approx(42, abs=2)


def test_strip_numbers_do_not_depend_on_where_the_hull_stands() -> None:
    table = cylinder()
    moved = table.model_copy(update={"rows": tuple(r.model_copy(update={"station": r.station - 700}) for r in table.rows)})
    a, b = (Pipeline().value(Job(offsets=t, waterline=-100), PLANKING) for t in (table, moved))
    assert [s.length for s in a.strips] == pytest.approx([s.length for s in b.strips])
