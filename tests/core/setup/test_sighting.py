"""What the eye sees along the molds, and the practice with hidden errors; the schedule around them."""

from __future__ import annotations

import csv
import io

import numpy as np
import pytest

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import SHAPE, Shape
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.setup.schedule import OVERHANG_MM, cut_list
from hollow_keel.core.setup.sighting import ARM_MM, WAYS, Displaced, new_puzzle, sight
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.drawing.setup.sighting import sighting_drawing


@pytest.fixture(scope="module")
def shape() -> Shape:
    return Pipeline().shape(linnet())


def test_an_eye_level_with_true_marks_sees_them_in_one_line(shape: Shape) -> None:
    seen = sight(shape.setup, shape.molds.molds, {})
    assert [s.name for s in seen] == [m.mold for m in shape.setup.marks]
    for own in seen:
        assert own.mark[:, 1] == pytest.approx(0.0)
        assert own.centre[:, 0] == pytest.approx(0.0)
    above = sight(shape.setup, shape.molds.molds, {}, eye_up=100.0)
    heights = [float(s.mark[0, 1]) for s in above]
    assert heights == sorted(heights)  # from above, near marks lie lower
    assert all(h < 0 for h in heights)


def test_sizes_follow_the_distance(shape: Shape) -> None:
    """What is twice as far is seen half as large: across / distance, on a pane at arm's length."""
    first = shape.setup.marks[0].from_zero
    for own, mark, mold in zip(
        sight(shape.setup, shape.molds.molds, {}, eye_back=2000.0), shape.setup.marks, shape.molds.molds, strict=True
    ):
        assert mold.edge.waterline is not None
        away = mark.from_zero - first + 2000.0
        assert own.mark[1, 0] == pytest.approx(float(mold.edge.waterline[0]) * ARM_MM / away)
        keel = mark.keel_above - mark.waterline_above
        assert own.outline[:, 1].max() == pytest.approx(keel * ARM_MM / away, rel=1e-6)


def test_errors_are_seen_and_drawn_larger(shape: Shape) -> None:
    off = {"4": Displaced(up=6.0), "9": Displaced(across=-5.0), "7": Displaced(roll=3.0)}
    for larger in (1.0, 20.0):
        seen = {s.name: s for s in sight(shape.setup, shape.molds.molds, off, larger=larger)}
        away = 1500.0 + 1200.0
        assert seen["4"].mark[:, 1] == pytest.approx(larger * 6.0 * ARM_MM / away)
        assert np.all(seen["9"].centre[:, 0] < 0)
        assert seen["7"].mark[1, 1] > 0 > seen["7"].mark[0, 1]
        assert seen["5"].mark[:, 1] == pytest.approx(0.0)
    drawing = sighting_drawing(sight(shape.setup, shape.molds.molds, off), "Along")
    assert {s.key for s in drawing.strokes} == {f"mold:{m.mold}" for m in shape.setup.marks}


def test_hidden_errors_are_scored(shape: Shape) -> None:
    ways = set()
    for seed in range(40):
        puzzle = new_puzzle(shape.setup, seed)
        ways.add(puzzle.way)
        assert puzzle.mold not in ("1", "12")
        assert 4 <= puzzle.amount <= 15
        ((name, off),) = puzzle.displaced.items()
        assert name == puzzle.mold
        assert (off.up > 0, off.up < 0, off.across > 0, off.across < 0) == tuple(puzzle.way == w for w in WAYS)
        other = next(w for w in WAYS if w != puzzle.way)
        assert puzzle.answer(puzzle.mold, puzzle.way)[0] == 2
        assert puzzle.answer(puzzle.mold, other)[0] == 1
        points, text = puzzle.answer("1", puzzle.way)
        assert points == 0
        assert f"mold {puzzle.mold} stands" in text
    assert ways == set(WAYS)
    assert new_puzzle(shape.setup, 3) == new_puzzle(shape.setup, 3)


@pytest.mark.parametrize("kind", list(Strongback))
def test_the_strongback_s_timber_is_long_enough(kind: Strongback) -> None:
    shape = Pipeline().shape(change(linnet(), "setup", strongback=kind))
    timbers = cut_list(shape.setup, shape.job.setup)
    assert timbers[0].length == pytest.approx(shape.setup.beam_length + 2 * OVERHANG_MM)
    if kind is Strongback.BEAM:
        assert sum(t.count for t in timbers if t.what.startswith("spacer")) == 11
        total = sum(t.count * t.length for t in timbers if t.what.startswith("spacer")) + 12 * 12.0
        assert total == pytest.approx(4400.0 + 2 * 12.0 - 12.0 - shape.job.setup.wedges, abs=13.0)
    else:
        assert not any(t.what == "spacer" for t in timbers)
    assert not any(f.code == "no-clearance" for f in shape.findings)


def test_what_comes_too_near_a_table_is_named() -> None:
    for above, weight in ((580.0, "look"), (300.0, "stop")):
        job = change(linnet(), "setup", strongback="table", waterline_above=above)
        found = [f for f in Pipeline().shape(job).findings if f.code == "no-clearance"]
        assert any(f.where == "the bow" and f.weight.value == weight for f in found)


def test_the_schedule_goes_to_a_spreadsheet_in_the_builder_s_units() -> None:
    for job, first in ((linnet(), "500.0"), (pipit(), "1-6-0")):
        shape = Pipeline().shape(job)
        text = export_named("setup-csv").write(Pipeline().results(shape.job, SHAPE)).decode()
        rows = list(csv.reader(io.StringIO(text)))
        assert rows[1][:2] == ["1", first]
        marks = rows[1 : 1 + len(shape.setup.marks)]
        assert [r[0] for r in marks] == [m.mold for m in shape.setup.marks]
        assert "to cut" in rows[len(marks) + 2]
        assert any("spacer" in r[0] for r in rows[len(marks) + 3 :])
