"""Texts on screens: none over another on any drawing of the demo jobs, and nothing that is decided is left out."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN
from hollow_keel.core.hull.stages import DECK
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING, TICKS
from hollow_keel.core.results import SHAPE, Results
from hollow_keel.demo.jobs import DEMOS, demo_job
from hollow_keel.drawing.bench import mark_picture, tick_picture
from hollow_keel.drawing.deck.plan import deck_plan, opening_decisions
from hollow_keel.drawing.lines.decisions import lines_decisions
from hollow_keel.drawing.lines.plan import body_plan, half_breadth_plan, profile
from hollow_keel.drawing.model import Drawing, Label, Layer
from hollow_keel.drawing.molds.decisions import mold_decisions
from hollow_keel.drawing.molds.mold import mold_drawing, with_neighbours
from hollow_keel.drawing.placing import Frame, Placed, Room, box_of, fitted, place
from hollow_keel.drawing.planking.decisions import map_decisions
from hollow_keel.drawing.planking.girth_map import girth_map
from hollow_keel.drawing.planking.section import section_drawing
from hollow_keel.drawing.setup.end_view import end_view
from hollow_keel.drawing.setup.strongback import setup_drawing

SCREENS = {"1280x800": (930, 658, 1.0), "1920x1080": (1560, 930, 1.0), "200 %": (930, 658, 2.0)}
"""Pixels of the page, and how much larger letters are."""
LETTER, TALL = 6.4, 15.0
"""Pixels of a letter and a line of the font on drawings at 100 %: a little more than it measures."""


@cache
def results(name: str) -> Results:
    return Pipeline().results(demo_job(name), [*SHAPE, PLANKING, TICKS, DECK, DECK_PLAN, DECK_OPENINGS])


def drawings(name: str) -> Iterator[tuple[str, Drawing, bool]]:
    """Every drawing of the pages, with its name and whether it is stretched to fit."""
    found = results(name)
    shape, planking, style = found.shape, found.planking, found.job.units.style
    yield "body plan", lines_decisions(body_plan(shape), shape, style), False
    yield "profile", lines_decisions(profile(shape), shape, style), False
    yield "half-breadth plan", half_breadth_plan(shape), False
    yield "set-up", setup_drawing(shape, style), False
    yield "girth map", map_decisions(girth_map(shape, planking, style), shape, planking, style), True
    for mold in shape.molds.molds:
        drawn = with_neighbours(mold_drawing(shape, mold, style, planking), shape, mold)
        yield f"mold {mold.name}", mold_decisions(drawn, shape, mold, style), False
        yield f"mold {mold.name} on the strongback", end_view(shape, mold, style), False
        rows = found[TICKS][mold.name]
        yield f"section {mold.name}", section_drawing(shape, mold, rows, 5, style), False
        yield f"bench {mold.name}", tick_picture(shape, mold, rows, 7), False
    if found[DECK_PLAN] is not None:
        openings = found[DECK_OPENINGS]
        plan = deck_plan(found[DECK], found[DECK_PLAN], openings, shape.molds.molds)
        yield "deck", opening_decisions(plan, openings, style), False
        yield "deck unrolled", girth_map(shape, found[DECK_PLAN].planking, style), True
    yield "bench marks", mark_picture(shape, shape.molds.molds[0].name), False


def size_of(label: Label, larger: float) -> tuple[float, float]:
    return larger * (LETTER * len(label.text) * (1.15 if label.strong else 1.0) + 6.0), larger * TALL


def boxes(labels: tuple[Label, ...], frame: Frame, found: list[Placed | None], larger: float) -> list[tuple[float, ...]]:
    shown = []
    for label, placed in zip(labels, found, strict=True):
        if placed is not None:
            x, y = frame.point(label.at)
            wide, high = size_of(label, larger)
            shown.append((x + placed.left, y + placed.top, x + placed.left + wide, y + placed.top + high))
    return shown


def over(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


@pytest.mark.parametrize("screen", SCREENS)
@pytest.mark.parametrize("name", DEMOS)
def test_no_text_stands_over_another_and_none_that_is_decided_is_missing(name: str, screen: str) -> None:
    width, height, larger = SCREENS[screen]
    for what, drawing, stretch in drawings(name):
        tall = height if what.startswith(("mold", "section")) and "strongback" not in what else height / 2
        frame = fitted(drawing, width, tall, Room(44.0, 64.0, 68.0), stretch=stretch)
        within = (2.0, 2.0, width - 2.0, tall - 2.0)
        found = place(drawing.labels, frame, lambda label: size_of(label, larger), within=within)
        shown = boxes(drawing.labels, frame, found, larger)
        for k, box in enumerate(shown):
            assert not any(over(box, other) for other in shown[:k]), f"{what}: one text stands over another"
        missing = [label.text for label, placed in zip(drawing.labels, found, strict=True) if label.decides and placed is None]
        assert not missing, f"{what}: {missing}"


@given(st.lists(st.tuples(st.floats(0, 400), st.floats(0, 300), st.integers(1, 20), st.booleans()), max_size=25))
def test_boxes_never_meet_and_keep_off_what_is_taken(spots: list[tuple[float, float, int, bool]]) -> None:
    labels = tuple(
        Label((x, y), "n" * count, Layer.NOTE, decides="waterline" if decides else "", leads=decides)
        for x, y, count, decides in spots
    )
    frame, taken, within = Frame(1.0, 1.0, 0.0, 300.0), (100.0, 100.0, 200.0, 150.0), (0.0, 0.0, 400.0, 300.0)
    found = place(labels, frame, lambda label: size_of(label, 1.0), [taken], within)
    shown = boxes(labels, frame, found, 1.0)
    for k, box in enumerate(shown):
        assert not over(box, taken)
        assert not any(over(box, other) for other in shown[:k])
        assert box[0] >= -1e-9
        assert box[2] <= 400 + 1e-9


def test_a_text_that_has_room_stands_at_its_point() -> None:
    label = Label((10.0, 20.0), "sheer", anchor="left", rise=1)
    (found,) = place([label], Frame(2.0, 2.0, 0.0, 100.0), lambda _: (40.0, 15.0))
    assert found == Placed(0.0, -17.0, False)
    assert box_of(label, (40.0, 15.0)) == (0.0, -17.0, 40.0, -2.0)


def test_the_frame_shows_the_whole_drawing() -> None:
    from hollow_keel.drawing.model import line

    drawing = Drawing("", (line((-100.0, 50.0), (300.0, 250.0), layer=Layer.HULL),))
    frame = fitted(drawing, 500.0, 300.0, Room(50.0, 60.0, 40.0))
    left, top = frame.point((-100.0, 250.0))
    right, bottom = frame.point((300.0, 50.0))
    assert (left, right) == (50.0, 450.0)
    assert (top + bottom) / 2 == pytest.approx(60.0 + 100.0)
    assert right - left == pytest.approx(2 * (bottom - top)), "true to scale"
