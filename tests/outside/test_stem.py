"""The inner stem against a closed form: the entrance of the Wigley hull (W. C. S. Wigley, 1934); lamination by its own sums."""

from __future__ import annotations

import io
import math

import numpy as np
import pypdf
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.job import Job, StemSettings
from hollow_keel.core.molds.stem import inner_stem, laminated, stem_mold
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import linnet, pipit
from tests.shapes import WIGLEY, cone, hull_of, wigley, written


def test_the_forward_face_is_as_wide_as_asked_inside_the_planking() -> None:
    """Upright stem, half-siding 0, planking at angle b: its inside is at half-breadth x tan b - t / cos b, x from the stem."""
    length, beam, draft = WIGLEY
    stem = inner_stem(hull_of(wigley()), 6.0, StemSettings(face=10.0, molded=50.0))
    for (x, z), (back_x, _), bevel in zip(stem.rabbet, stem.outer, stem.bevels, strict=True):
        true = math.atan(2 * beam / length * (1 - (z / draft) ** 2))
        if true < math.radians(8):
            continue
        assert bevel == pytest.approx(true, abs=math.radians(0.4))
        inside = (back_x - x) * math.tan(bevel) - 6.0 / math.cos(bevel)
        assert inside == pytest.approx(5.0, abs=0.05)
    assert stem.inner[:, 0] - stem.outer[:, 0] == pytest.approx(50.0, abs=2.0)


def arc(radius: float, angle: float = 1.2) -> np.ndarray:
    turn = np.linspace(0, angle, 80)
    return np.column_stack([radius * np.sin(turn), radius * (1 - np.cos(turn))])


@pytest.mark.parametrize(("radius", "ratio", "count"), [(500.0, 100.0, 12), (1200.0, 100.0, 5), (6000.0, 100.0, 1)])
def test_laminations_are_as_thin_as_the_bend_asks(radius: float, ratio: float, count: int) -> None:
    inner, outer = arc(radius), arc(radius + 60) - [0, 60]
    plan = laminated(inner, outer, ratio, 100.0)
    assert plan.radius == pytest.approx(radius, rel=0.01)
    assert plan.count == count
    assert plan.count * plan.thickness == pytest.approx(60.0, rel=0.01)
    assert plan.thickness <= radius / ratio * 1.01
    assert plan.length == pytest.approx(1.2 * (radius + 60) + 200, rel=1e-3)
    assert plan.springback == pytest.approx(1 / count**2 if count > 1 else 0.0)


def test_a_straight_stem_is_one_piece() -> None:
    line = np.column_stack([np.zeros(50), np.linspace(0, 700, 50)])
    plan = laminated(line, line - [60.0, 0.0], 100.0, 100.0)
    assert (plan.count, plan.springback) == (1, 0.0)
    assert math.isinf(plan.radius)


def test_its_mold_fills_the_room_to_the_first_mold() -> None:
    shape = Pipeline().shape(linnet())
    stem = inner_stem(shape.hull, 8.0, shape.job.stem)
    first = shape.molds.molds[0]
    outline = stem_mold(stem, first, shape.setup.beam_level)
    assert outline[:, 0].max() == pytest.approx(first.body[0])
    assert outline[0, 1] == pytest.approx(np.interp(500.0, stem.inner[::-1, 0], stem.inner[::-1, 1]), abs=0.01)
    on_table = Pipeline().shape(change(linnet(), "setup", strongback="table"))
    level = on_table.setup.beam_level
    assert stem_mold(stem, first, level)[:, 1].max() == pytest.approx(level)
    both = Pipeline().shape(pipit())
    for stern in (False, True):
        own = inner_stem(both.hull, 6.35, both.job.stem, stern=stern)
        assert np.all((own.inner - own.outer)[:, 0] * (-1 if stern else 1) >= -1e-6)
        assert len(stem_mold(own, both.molds.molds[-1 if stern else 0], 0.0, stern=stern)) > 20


def test_what_cannot_be_is_said() -> None:
    with pytest.raises(ImpossiblePlan, match="no stem at its bow"):
        inner_stem(hull_of(cone()), 6.0, StemSettings())
    with pytest.raises(ImpossiblePlan, match="turns more tightly"):
        inner_stem(Pipeline().shape(linnet()).hull, 6.0, StemSettings(molded=900.0))
    shape = Pipeline().shape(change(linnet(), "molds", stations=(20.0, 900.0)))
    with pytest.raises(ImpossiblePlan, match="no room for a mold"):
        stem_mold(inner_stem(shape.hull, 8.0, shape.job.stem), shape.molds.molds[0], 500.0)
    with pytest.raises(ImpossiblePlan, match="no stem"):
        written("stem-pdf", Job(offsets=cone(), waterline=-50.0))


def test_it_goes_out_with_its_laminations() -> None:
    for job, pages in ((linnet(), 2), (pipit(), 4)):
        data = written("stem-pdf", job)
        reader = pypdf.PdfReader(io.BytesIO(data))
        assert len(reader.pages) == pages
        text = reader.pages[0].extract_text()
        assert "INNER STEM" in text
        assert "laminations of" in text
        assert "springback" in text
        assert "STEM MOLD" in reader.pages[1].extract_text()
