"""Closed molds against analytic truth: an elliptic hull under an arc of a deck, both skins square to their own surface."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from hollow_keel.core.change import change
from hollow_keel.core.job import DeckSettings, Job, MoldSettings
from hollow_keel.core.molds.cut_stages import PARTS, PIECES
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.molds.stations import Mold
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.deck_choices import BreakInto, DeckFrom, DeckMolds
from hollow_keel.core.settings.mold_choices import MoldEdgeKind

from ...shapes import end_rows, station_rows
from ..hull.test_deck_surface import arc, with_deck

HALF, DEEP, CROWN, LENGTH = 300.0, 220.0, 55.0, 2400.0
SKIN, DECK_SKIN = 9.0, 5.0


def elliptic(points: int = 25) -> OffsetsTable:
    """A cylinder whose sections are the lower half of an ellipse, its sheer at height 0; transoms at both ends."""
    angle = np.linspace(0, np.pi / 2, points)
    y, z = HALF * np.sin(angle), -DEEP * np.cos(angle)
    y[0], z[-1] = 0.0, 0.0
    rows = []
    stations = np.linspace(0, LENGTH, 9).tolist()
    for k, x in enumerate(stations):
        if k in (0, len(stations) - 1):
            rows += end_rows("transom", np.column_stack([np.full(points, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    heights = {x: arc(HALF, CROWN, 0.0, 16) for x in stations}
    return with_deck(OffsetsTable(rows=tuple(rows)), heights)


@pytest.fixture(scope="module")
def job() -> Job:
    molds = MoldSettings(skin=SKIN, stations=(600.0, 1200.0, 1800.0))
    return Job(offsets=elliptic(), waterline=-80.0, molds=molds, deck=DeckSettings(skin=DECK_SKIN))


def mold_of(job: Job) -> Mold:
    return Pipeline().results(job, [MOLDS])[MOLDS].molds[1]


def arc_circle() -> tuple[float, float]:
    """Radius and the height of the centre of the deck's arc."""
    radius = (HALF**2 + CROWN**2) / (2 * CROWN)
    return radius, CROWN - radius


def hull_distance(points: np.ndarray) -> np.ndarray:
    """How far points lie inside the ellipse, by its nearest point among many."""
    angle = np.linspace(0, np.pi / 2, 200_001)
    ring = shapely.LineString(np.column_stack([HALF * np.sin(angle), -DEEP * np.cos(angle)]))
    return np.asarray(shapely.distance(shapely.points(points), ring))


def test_each_face_lies_its_own_skin_inside(job: Job) -> None:
    """Every point of the hull's part is 9 mm from the ellipse, every point of the deck's part 5 mm from the arc."""
    closed = mold_of(job).deck
    assert closed is not None
    assert hull_distance(closed.hull[1:]) == pytest.approx(SKIN, abs=0.05)
    radius, centre = arc_circle()
    assert np.hypot(closed.deck[:, 0], closed.deck[:, 1] - centre) == pytest.approx(radius - DECK_SKIN, abs=0.05)
    assert closed.deck[-1, 0] == pytest.approx(0.0, abs=1e-9)
    assert closed.deck[-1, 1] == pytest.approx(CROWN - DECK_SKIN, abs=0.05)


def test_the_corner_lies_under_both_skins(job: Job) -> None:
    """By bisection along the arc 5 mm inside the deck: where it is 9 mm inside the ellipse."""
    radius, centre = arc_circle()
    low, high = 0.0, math.asin(HALF / radius)
    for _ in range(50):
        middle = (low + high) / 2
        at = np.array([[(radius - DECK_SKIN) * math.sin(middle), centre + (radius - DECK_SKIN) * math.cos(middle)]])
        low, high = (middle, high) if float(hull_distance(at)[0]) > SKIN else (low, middle)
    closed = mold_of(job).deck
    assert closed is not None
    assert closed.meets
    assert closed.corner == pytest.approx(at[0], abs=0.05)
    assert mold_of(job).edge.sheer == pytest.approx(closed.corner), "the mold's edge on the hull ends there"


def test_what_is_cut_is_closed(job: Job) -> None:
    """The area of the piece, but for the beam's hole, is the ellipse's and the arc's, each less its skin."""
    results = Pipeline().results(job, [PIECES, MOLDS])
    piece = results[PIECES]["2"]
    radius, centre = arc_circle()
    angle = np.linspace(-math.pi, math.pi, 20_001)
    ellipse = shapely.Polygon(np.column_stack([HALF * np.cos(angle), DEEP * np.sin(angle)])).buffer(-SKIN, quad_segs=64)
    disc = shapely.Point(0, centre).buffer(radius - DECK_SKIN, quad_segs=4096)
    below = shapely.intersection(ellipse, shapely.box(-HALF, -DEEP, HALF, 0))
    upper = shapely.intersection(disc, shapely.box(-HALF, -SKIN - 1, HALF, CROWN))
    whole = shapely.Polygon(piece.outline)
    assert whole.bounds[3] == pytest.approx(CROWN - DECK_SKIN, abs=0.05)
    assert shapely.intersection(whole, shapely.box(-HALF, -DEEP, HALF, -40)).area == pytest.approx(
        shapely.intersection(below, shapely.box(-HALF, -DEEP, HALF, -40)).area, rel=2e-4
    )
    assert shapely.intersection(whole, shapely.box(-200, 10, 200, 100)).area == pytest.approx(
        shapely.intersection(upper, shapely.box(-200, 10, 200, 100)).area, rel=2e-4
    )


def test_molds_of_the_hull_alone_end_at_the_sheer(job: Job) -> None:
    open_job = change(job, "deck", molds=DeckMolds.HULL_ONLY)
    mold = mold_of(open_job)
    assert mold.deck is None
    assert mold.edge.sheer == pytest.approx((HALF - SKIN, 0.0), abs=0.05)


def test_a_bevelled_mold_is_closed_on_both_faces(job: Job) -> None:
    mold = mold_of(change(job, "molds", edge=MoldEdgeKind.BEVELLED))
    assert mold.far_deck is not None
    assert mold.deck is not None
    assert mold.far_deck.corner == pytest.approx(mold.deck.corner, abs=0.02), "a cylinder: both faces alike"


def test_under_a_ridge_the_deck_part_is_cut_on_the_centreline() -> None:
    """A deck sharpened to a ridge: its two sides are straight, and 5 mm square to them the faces meet on the centreline, lower
    than the ridge by 5 / cos(slope)."""
    table = OffsetsTable(rows=tuple(r for r in elliptic().rows if not r.label.startswith("deck")))
    deck = DeckSettings(source=DeckFrom.CAMBER, crown=CROWN, skin=DECK_SKIN, peak_bow=10 * LENGTH, peak_stern=10 * LENGTH)
    molds = MoldSettings(skin=SKIN, stations=(60.0, 1200.0, 1800.0))
    mold = Pipeline().results(Job(offsets=table, waterline=-80.0, molds=molds, deck=deck), [MOLDS])[MOLDS].molds[0]
    assert mold.deck is not None
    y, z = mold.deck.deck[-1].tolist()
    assert y == pytest.approx(0.0, abs=1e-9)
    slope = math.atan(CROWN / HALF)
    assert z == pytest.approx(CROWN - DECK_SKIN / math.cos(slope), abs=0.15)


def test_parts_of_a_mold_cut_apart_make_the_whole(job: Job) -> None:
    whole, apart = (Pipeline().results(own, [PARTS])[PARTS].parts for own in (job, change(job, "deck", molds=DeckMolds.APART)))
    assert [part.name for part in whole] == ["1", "2", "3"]
    assert [part.name for part in apart] == ["1", "1 deck", "2", "2 deck", "3", "3 deck"]
    assert sum(part.area for part in apart) == pytest.approx(sum(part.area for part in whole), rel=1e-6)


@pytest.mark.parametrize(("into", "parts"), [(BreakInto.TWO, 2), (BreakInto.FOUR, 4)])
def test_a_mold_sawn_part_way_is_one_piece_until_it_breaks(job: Job, into: BreakInto, parts: int) -> None:
    """One piece still; sawn through the wood that was left it falls into two, or four. What the cuts take is their own area."""
    sawn = change(change(job, "deck", break_into=into, break_leave=30.0), "setup", strongback="table", leg_spread=200.0)
    plain = change(sawn, "deck", break_into=BreakInto.WHOLE)
    first, second = (Pipeline().results(own, [PIECES])[PIECES]["2"] for own in (sawn, plain))
    assert not any(f.code == "falls-apart" for f in first.findings)
    wood = shapely.Polygon(first.outline, first.holes)
    assert second.area - first.area == pytest.approx(shapely.Polygon(first.holes[0]).area, rel=1e-6)
    broken = shapely.difference(wood, shapely.box(-1.5, -1e4, 1.5, CROWN))
    if into is BreakInto.FOUR:
        side = mold_of(sawn).side[:, 1]
        level = (float(side.min()) + float(side.max())) / 2
        broken = shapely.difference(broken, shapely.box(-1e4, level - 1.5, 1e4, level + 1.5))
    assert len(shapely.get_parts(broken)) == parts
