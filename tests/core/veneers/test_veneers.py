"""Layers of veneer against closed forms: developed cylinders and cones, great circles of a sphere, the area of a whole layer."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
import shapely
from scipy.optimize import brentq

from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.geometry.polyline import runs_along
from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, Layer, VeneerSettings
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.veneer_choices import AngleFrom, Direction
from hollow_keel.core.veneers.beyond import Past, carried_on
from hollow_keel.core.veneers.flatten import _guesses, _Seams
from hollow_keel.core.veneers.layers import laid_on, plan_layers
from hollow_keel.core.veneers.seams import seams_over, set_off, widening
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.core.veneers.veneer import Veneer
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.veneers.layers import flat_veneers
from hollow_keel.files.offsets.points_csv import parse_offsets_csv
from tests.shapes import cone as cone_offsets
from tests.shapes import round_hull

NAMES = ("bow", "stern", "lower", "upper")
CASES = Path(__file__).parents[2] / "data"
LENGTH, RADIUS, HALF_TURN = 3000.0, 700.0, math.pi / 2


def cylinder() -> TensorSurface:
    """A quarter of a tube along x, from straight down to straight out."""
    x, turn = np.linspace(0, LENGTH, 81)[:, None], np.linspace(0, HALF_TURN, 41)[None, :]
    return TensorSurface(np.stack(np.broadcast_arrays(x, RADIUS * np.sin(turn), -RADIUS * np.cos(turn)), axis=-1))


def cone() -> TensorSurface:
    """A quarter of a cone along x: 400 mm of radius at the bow, 900 at the stern."""
    x, turn = np.linspace(0, LENGTH, 81)[:, None], np.linspace(0, HALF_TURN, 41)[None, :]
    radius = 400.0 + 500.0 * x / LENGTH
    return TensorSurface(np.stack(np.broadcast_arrays(x, radius * np.sin(turn), -radius * np.cos(turn)), axis=-1))


def globe(radius: float, reach: float) -> TensorSurface:
    """A belt of a sphere about its equator, ± `reach` (radians) along it and ± 0.3 up and down."""
    along, up = np.linspace(-reach, reach, 121)[:, None], np.linspace(-0.3, 0.3, 61)[None, :]
    grid = np.broadcast_arrays(radius * np.sin(along) * np.cos(up), radius * np.cos(along) * np.cos(up), radius * np.sin(up))
    return TensorSurface(np.stack(grid, axis=-1))


def laid(surface: TensorSurface, degrees: float, width: float = 100.0) -> list[Veneer]:
    """Veneers over a surface, the first in its middle."""
    layer = Layer(angle=degrees, width=width)
    return laid_on(carried_on(surface, 0.0, Past()), layer, VeneerSettings(), 0, NAMES, lambda _: None)[0]


def developed(degrees: float, width: float) -> list[shapely.Polygon]:
    """The strips of a cylinder's development, counted from its middle outward by hand: edges at whole widths."""
    girth = RADIUS * HALF_TURN
    sheet = shapely.box(0, 0, LENGTH, girth)
    turn = math.radians(degrees)
    along, aside = np.array([math.cos(turn), math.sin(turn)]), np.array([-math.sin(turn), math.cos(turn)])
    middle = np.array([LENGTH / 2, girth / 2])
    found = []
    for k in range(-60, 60):
        corners = [middle + s * 9000 * along + (k + n) * width * aside for s, n in ((-1, 0), (1, 0), (1, 1), (-1, 1))]
        piece = sheet.intersection(shapely.Polygon(corners))
        if piece.area > 50:
            found.append(piece)
    return found


def extent(piece: shapely.Polygon, degrees: float) -> tuple[float, float]:
    """How long a piece is along a direction, and how wide across it."""
    turn = math.radians(degrees)
    ring = np.array(piece.exterior.coords)
    return float(np.ptp(ring @ [math.cos(turn), math.sin(turn)])), float(np.ptp(ring @ [-math.sin(turn), math.cos(turn)]))


@pytest.mark.parametrize("degrees", [45.0, -45.0, 30.0, 12.0, 0.0, 90.0, 70.0])
def test_a_cylinder_is_covered_as_its_development_is(degrees: float) -> None:
    """Number, lengths, widths and areas of all veneers are those of strips drawn on the development; nothing is spiled."""
    veneers, truth = laid(cylinder(), degrees), developed(degrees, 100.0)
    whole = [v for v in veneers if v.width > 99.0 and v.length > 150.0]
    assert whole
    assert all(v.least > 99.95 and v.width < 100.05 for v in whole)
    area = sum(v.area for v in veneers)
    assert area == pytest.approx(LENGTH * RADIUS * HALF_TURN, rel=5e-4)
    assert len(veneers) in range(len(truth) - 1, len(truth) + 1)  # the last scrap at a corner may stay with its neighbour
    lengths = sorted(v.length for v in whole)
    wanted = sorted(extent(p, degrees)[0] for p in truth if extent(p, degrees)[1] > 99.0 and extent(p, degrees)[0] > 150.0)
    assert len(lengths) == len(wanted)
    assert lengths == pytest.approx(wanted, rel=5e-4)
    flats = sorted(shapely.Polygon(v.flat).area for v in veneers if v.area > 1e4)
    assert flats == pytest.approx(sorted(p.area for p in truth if p.area > 1e4)[-len(flats) :], rel=2e-3)


@pytest.mark.parametrize("degrees", [45.0, -30.0, 90.0])
def test_on_a_cone_no_veneer_is_spiled(degrees: float) -> None:
    """A cone is flat when it is developed, so parallel straight veneers cover it whole."""
    veneers = laid(cone(), degrees)
    slant = math.hypot(LENGTH, 500.0)
    assert sum(v.area for v in veneers) == pytest.approx((400 + 900) / 2 * slant * HALF_TURN, rel=5e-4)
    assert all(v.least > 0.997 * v.width for v in veneers[2:-2])
    assert all(v.strain < 1e-7 for v in veneers[2:-2])


@pytest.mark.parametrize("degrees", [45.0, -30.0, 0.0, 70.0])
def test_flat_shapes_on_a_cone_are_its_development(degrees: float) -> None:
    """A cone unrolls into a sector without any strain: every veneer's outline there and its flat shape are one, to their corners
    and where they go on far past the end of the straight edge, within what is told of them."""
    half = math.radians(20.0)
    job = Job(offsets=cone_offsets(half_angle=half, first=700.0, last=3800.0))
    layers = (Layer(thickness=3.0, angle=degrees, width=150.0),)
    job = change(job, "veneers", layers=layers, past_sheer=0.0, past_transom=0.0)
    (plan,) = Pipeline().value(job, LAYERS)
    apex = plan.depth / math.sin(half)  # of the cone that the middle of the layer lies on
    far = 0
    for v in plan.veneers:
        x, r = v.outline[:, 0] - apex, np.hypot(*v.outline[:, 1:].T)
        turn = np.arctan2(v.outline[:, 1], -v.outline[:, 2]) * math.sin(half)
        out = np.hypot(x, r)
        apart = fitted(v.flat, np.column_stack([out * np.cos(turn), out * np.sin(turn)]))
        assert apart < v.off + 0.15, v.number
        assert apart < 0.65, v.number
        far += np.ptp(v.flat[:, 0]) > np.ptp(v.flat[v.flat[:, 1] < 0.5, 0]) + 100.0
    assert far > 2, "some go on far past the end of their straight edge"


def fitted(flat: np.ndarray, other: np.ndarray) -> float:
    """How far places (n, 2) are from others at the most once they lie upon each other as well as may be, turned over or not."""
    a, b = flat - flat.mean(axis=0), other - other.mean(axis=0)
    found = []
    for way in (1.0, -1.0):
        first, _, last = np.linalg.svd(a.T @ (b * [1.0, way]))
        turned = first @ np.diag([1.0, np.sign(np.linalg.det(first @ last))]) @ last
        found.append(float(np.linalg.norm(a @ turned - b * [1.0, way], axis=1).max()))
    return min(found)


def test_neighbours_of_a_great_circle_close_as_the_cosine() -> None:
    """On a sphere what is spiled at the ends is w (1 − cos(s/R)), within 1 %, and the widest veneer follows from K w²/8."""
    radius, reach, width = 4000.0, 0.5, 100.0
    veneers = laid(globe(radius, reach), 0.0, width)
    beside = sorted(veneers, key=lambda v: abs(v.outline[:, 2].mean()))[:2]
    for veneer in beside:
        assert veneer.width == pytest.approx(width, abs=0.05)
        assert width - veneer.least == pytest.approx(width * (1 - math.cos(reach)), rel=0.01)
        assert veneer.strain == pytest.approx(width**2 / (8 * radius**2), rel=0.02)


def test_a_flat_shape_is_measured_along_great_circles() -> None:
    """On a sphere a place is as far off the straight edge as the angle it subtends, and as far along as its foot on that circle."""
    radius = 2500.0
    for veneer in laid(globe(radius, 0.5), 20.0, 150.0)[3:-3]:
        on = veneer.flat[:, 1] < 0.02
        edge = veneer.outline[on]
        normal = np.linalg.svd(edge)[2][2]
        unit = veneer.outline / radius
        off = radius * np.arcsin(unit @ normal)
        off *= np.sign(off[np.argmax(np.abs(off))])
        first = edge[np.argmin(veneer.flat[on, 0])] / radius
        along = radius * np.arctan2(unit @ np.cross(normal, first), unit @ first)
        along *= np.sign(along[np.argmax(np.abs(along))])
        low, high = veneer.flat[on, 0].min(), veneer.flat[on, 0].max()
        beside = (veneer.flat[:, 0] >= low) & (veneer.flat[:, 0] <= high)  # past it the edge is off the ball
        assert veneer.flat[beside, 1] == pytest.approx(off[beside], abs=0.05)
        assert veneer.flat[beside, 0] - low == pytest.approx(along[beside], abs=0.05)
        assert veneer.off < 0.05 + 0.5, "what lies past the end of its straight edge is known so well"


def test_flat_shapes_of_a_hull_come_back_onto_it_or_say_how_far_out_they_are() -> None:
    hull = Pipeline().results(demo_job("sedge"), [HULL])[HULL]
    (plan,) = plan_layers(hull, VeneerSettings(layers=(Layer(),)))
    bad = [v for v in plan.veneers if v.off > 0.5 + 0.5]
    assert len(bad) < 0.15 * len(plan.veneers)
    assert all(v.starts == "stem_bow" for v in bad)
    said = [f.text for f in plan.findings if f.code == "veneer-misfit"]
    assert bool(said) == any(v.off > 2.0 for v in bad)


@pytest.mark.parametrize("degrees", [30.0, 45.0, -60.0])
def test_a_first_guess_knows_how_the_surface_twists(degrees: float) -> None:
    """Unrolled, places beside a line on a cylinder lie square to it, but nearest to another one: a guess that left that out was a
    tenth of a millimetre along out at 100 mm, and every place was put right once more than it has to be."""
    surface, turn = cylinder(), math.radians(degrees)
    (seam,), _ = seams_over(surface, set_off(surface, 0.5, 0.5, turn), 5000.0, lambda: None)
    on = np.flatnonzero(seam.on)
    middle = seam.points[on[len(on) // 2]]
    aside = np.array([-60.0, 80.0, 100.0])
    x, angle = (middle[0] - aside * math.sin(turn), math.atan2(middle[1], -middle[2]) + aside * math.cos(turn) / RADIUS)
    points = np.column_stack([x, RADIUS * np.sin(angle), -RADIUS * np.cos(angle)])
    run = runs_along(seam.points)[on[len(on) // 2]]
    guess = _guesses(surface, _Seams([seam], [seam.points[seam.on]]), np.zeros(3, dtype=int), points)
    assert guess[:, 0] == pytest.approx(run, abs=0.015)
    assert np.abs(guess[:, 1]) == pytest.approx(np.abs(aside), abs=0.015)


def test_a_parallel_neighbour_closes_on_a_ball_and_opens_on_a_saddle() -> None:
    """Jacobi's J along a line is how far apart its neighbours run: cos(s/R) on a sphere; between meridians of a catenoid as its own
    radius, cosh of the place along its axis."""
    radius, reach = 4000.0, 0.5
    surface = globe(radius, reach)
    (seam,), _ = seams_over(surface, set_off(surface, 0.5, 0.5, 0.0), 5000.0, lambda: None)
    middle = int(np.argmin(np.abs(seam.uv[:, 0] - 0.5)))
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(seam.points, axis=0), axis=1))])
    off = widening(surface, seam, middle)
    assert off[seam.on] == pytest.approx(np.cos((run - run[middle]) / radius)[seam.on], abs=2e-4)

    along, turn = np.linspace(-1, 1, 121)[:, None], np.linspace(-0.5, 0.5, 61)[None, :]
    size = 1000.0 * np.cosh(along)
    saddle = TensorSurface(np.stack(np.broadcast_arrays(1000.0 * along, size * np.cos(turn), size * np.sin(turn)), axis=-1))
    (seam,), _ = seams_over(saddle, set_off(saddle, 0.5, 0.5, 0.0), 5000.0, lambda: None)
    middle = int(np.argmin(np.abs(seam.uv[:, 0] - 0.5)))
    place = seam.points[:, 0] / 1000.0
    assert widening(saddle, seam, middle)[seam.on] == pytest.approx(np.cosh(place)[seam.on], rel=1e-3)


def test_seams_that_do_not_get_on_over_a_folded_hull_are_given_up() -> None:
    """Behind a hump lines run together, and each next one lies upon the last: up to 2,000 a side were followed, for minutes. From
    corner to corner these are 25 widths, 35 along its two edges."""
    along, up = np.linspace(0, 1, 61)[:, None], np.linspace(0, 1, 41)[None, :]

    def humped(high: float) -> TensorSurface:
        off = high * np.sin(2 * np.pi * along) * np.sin(2 * np.pi * up)
        return TensorSurface(np.stack(np.broadcast_arrays(2000 * along, 1500 * up, off), axis=-1))

    folded, followed = humped(600.0), list[int]()
    with pytest.raises(ImpossiblePlan, match=r"\d+ seams .* near position .* look at the offsets"):
        seams_over(folded, set_off(folded, 0.5, 0.5, 0.8), 100.0, lambda: followed.append(1))
    assert len(followed) < 2 * 56
    smooth = humped(300.0)
    assert all(len(run) > 15 for run in seams_over(smooth, set_off(smooth, 0.5, 0.5, 0.8), 100.0, lambda: None))


def test_the_flat_shape_bends_back_on_a_ball_within_what_its_strain_allows() -> None:
    """Edges of a flattened veneer are as long as they are on the sphere, to what its strain makes of their length."""
    veneer = laid(globe(4000.0, 0.5), 0.0)[5]
    for a, b in zip(veneer.flat[:-1], veneer.flat[1:], strict=True):
        assert b[0] - a[0] < veneer.length
    flat = np.linalg.norm(np.diff(veneer.flat, axis=0), axis=1).sum()
    real = np.linalg.norm(np.diff(veneer.outline, axis=0), axis=1).sum()
    assert flat == pytest.approx(real, rel=8 * veneer.strain + 1e-4)


@pytest.mark.parametrize("name", ["sedge", "linnet"])
@pytest.mark.parametrize("degrees", [45.0, -45.0, 0.0, 90.0])
def test_the_veneers_of_a_layer_cover_it_once(name: str, degrees: float) -> None:
    """Their areas come to the layer's, none is wider than it may be but in the last corner, and each is numbered."""
    hull = Pipeline().results(demo_job(name), [HULL])[HULL]
    (plan,) = plan_layers(hull, VeneerSettings(layers=(Layer(angle=degrees, direction=Direction.ANGLE),)))
    assert sum(v.area for v in plan.veneers) == pytest.approx(plan.area, rel=3e-3)
    assert sum(v.trimmed for v in plan.veneers) == pytest.approx(plan.trimmed, rel=3e-3)
    untrimmed = VeneerSettings(layers=(Layer(angle=degrees),), past_sheer=0, past_transom=0)
    assert plan.trimmed == pytest.approx(plan_layers(hull, untrimmed)[0].area, rel=3e-3)
    assert [v.number for v in plan.veneers] == list(range(1, len(plan.veneers) + 1))
    assert sum(v.width > 103.0 for v in plan.veneers) <= 6
    assert 1 <= plan.first <= len(plan.veneers)
    assert 0.0 <= plan.lost < 0.5


def test_each_layer_lies_as_deep_as_what_is_over_it() -> None:
    hull = Pipeline().results(demo_job("sedge"), [HULL])[HULL]
    layers = (Layer(thickness=3.0), Layer(thickness=4.0, angle=-45), Layer(thickness=2.0, direction=Direction.ALONG))
    plans = plan_layers(hull, VeneerSettings(layers=layers))
    assert [p.depth for p in plans] == [7.5, 4.0, 1.0]
    assert plans[0].area < plans[1].area < plans[2].area
    outside = hull.panels[-1].surface.points(np.linspace(0, 1, 361), np.ones(361))
    for plan in plans:
        assert np.linalg.norm(plan.trims[0] - outside, axis=1) == pytest.approx(np.full(361, plan.depth), abs=0.05)


def test_a_layer_goes_on_past_the_sheer() -> None:
    """60 mm past the sheer of a tube is 60 mm more girth, straight on."""
    wide = carried_on(cylinder(), 5.0, Past(upper=60.0)).surface
    lines = wide.points(np.full(200, 0.5), np.linspace(0, 1, 200))
    girth = np.linalg.norm(np.diff(lines, axis=0), axis=1).sum()
    assert girth == pytest.approx((RADIUS - 5.0) * HALF_TURN + 60.0, abs=0.1)


def test_the_skin_is_what_the_layers_come_to() -> None:
    job = demo_job("sedge")
    layers = (Layer(thickness=3.0), Layer(thickness=3.5, angle=-45))
    job = job.model_copy(update={"veneers": VeneerSettings(layers=layers)}).in_step()
    assert job.molds.skin == 6.5
    over = job.veneers.model_copy(update={"over_strips": True})
    job = job.model_copy(update={"veneers": over}).in_step()
    assert job.molds.skin == 6.5 + job.strips.thickness


def test_a_job_without_layers_has_none_and_keeps_its_skin() -> None:
    job = demo_job("linnet")
    assert job.in_step() is job
    assert Pipeline().results(job, [LAYERS])[LAYERS] is None


def test_what_the_wood_will_not_take_is_said() -> None:
    """20 mm of wood round a bilge, and 600 mm wide pieces on a round bow."""
    job: Job = demo_job("sedge")
    layers = (Layer(thickness=20.0, angle=90), Layer(width=600.0))
    job = job.model_copy(update={"veneers": VeneerSettings(layers=layers)}).in_step()
    plans = Pipeline().results(job, [LAYERS])[LAYERS]
    assert plans is not None
    assert "veneer-stiff" in {f.code for f in plans[0].findings}
    assert "puckers" in {f.code for f in plans[1].findings}
    assert plans[1].widest < 600.0


def findings_of(table: OffsetsTable, *layers: Layer) -> dict[str, str]:
    job = Job(offsets=table, veneers=VeneerSettings(layers=layers)).in_step()
    plans = Pipeline().results(job, [LAYERS])[LAYERS]
    return {f.code: f.text for plan in plans or () for f in plan.findings}


def test_layers_thicker_than_the_tightest_round_are_said() -> None:
    """A tube of 60 mm radius takes no 40 mm of layers one inside the other; of 600 mm it does."""
    stations = np.linspace(0.0, 1500.0, 7)
    thick = Layer(thickness=20.0, angle=0.0, width=30.0)
    small = findings_of(round_hull(lambda _: 60.0, stations), thick, thick)
    assert "radius of" in small["layers-fold"]
    assert "layers-fold" not in findings_of(round_hull(lambda _: 600.0, stations), thick, thick)


def test_a_gap_that_no_glue_fills_is_said() -> None:
    tube = round_hull(lambda _: 600.0, np.linspace(0.0, 1500.0, 7))
    said = findings_of(tube, Layer(width=50.0, gap=60.0))
    assert "gap-wide" in said
    assert "gap-wide" not in findings_of(tube, Layer(width=50.0, gap=1.0))


def test_every_panel_of_a_knuckled_hull_has_its_own_layout() -> None:
    """Veneers of two panels, each covering its own; joints at the knuckle are staggered from layer to layer."""
    job = Job(offsets=parse_offsets_csv((CASES / "single_chine.csv").read_text()).table)
    job = job.model_copy(update={"veneers": VeneerSettings(layers=(Layer(), Layer(angle=-45)))}).in_step()
    plans = Pipeline().results(job, [LAYERS])[LAYERS]
    assert plans is not None
    for plan in plans:
        assert {v.panel for v in plan.veneers} == {0, 1}
        assert sum(v.area for v in plan.veneers) == pytest.approx(plan.area, rel=3e-3)
        assert {"keel", "seam"} <= {end for v in plan.veneers if v.panel == 0 for end in (v.starts, v.ends)}
    said = [f.text for plan in plans for f in plan.findings if f.code == "knuckle-joint"]
    assert len(said) == 2
    assert said[0] != said[1]


@pytest.mark.parametrize("master", [-1e5, 1e5])
def test_a_first_veneer_off_the_hull_is_said_and_not_laid_elsewhere(master: float) -> None:
    hull = Pipeline().results(demo_job("pipit"), [HULL])[HULL]
    settings = VeneerSettings(layers=(Layer(angle=-60.0, width=30.0),), master=master)
    with pytest.raises(ImpossiblePlan, match="no hull at position"):
        plan_layers(hull, settings)


@pytest.mark.parametrize("width", [30.0, 5000.0])
def test_a_layer_that_is_shifted_off_the_hull_begins_at_its_end(width: float) -> None:
    hull = Pipeline().results(demo_job("pipit"), [HULL])[HULL]
    (plan,) = plan_layers(hull, VeneerSettings(layers=(Layer(angle=-60.0, width=width, shift=-4000.0),)))
    if plan.veneers:
        assert sum(v.area for v in plan.veneers) == pytest.approx(plan.area, rel=3e-3)
    else:
        assert "no-veneers" in {f.code for f in plan.findings}


def test_a_layer_goes_on_past_the_transom_and_the_stem() -> None:
    """A tube that is carried on 40 mm past its bow and 60 past its stern is so much longer; trimmed it is what it was."""
    beyond = carried_on(cylinder(), 0.0, Past(bow=40.0, stern=60.0))
    x = beyond.surface.points(np.array([0.0, 1.0]), np.array([0.5, 0.5]))[:, 0]
    length = float(np.ptp(cylinder().points(np.array([0.0, 1.0]), np.array([0.5, 0.5]))[:, 0]))
    assert np.ptp(x) == pytest.approx(length + 100.0, abs=0.1)
    (stern, bow) = beyond.trims[1:]
    assert max(np.ptp(stern[:, 0]), np.ptp(bow[:, 0])) < 0.05
    assert stern[0, 0] - bow[0, 0] == pytest.approx(length, abs=0.1)
    layer = Layer(angle=45.0)
    veneers, _ = laid_on(beyond, layer, VeneerSettings(), 0, NAMES, lambda _: None)
    assert sum(v.trimmed for v in veneers) == pytest.approx(length * RADIUS * HALF_TURN, rel=1e-3)
    assert sum(v.area for v in veneers) == pytest.approx((length + 100.0) * RADIUS * HALF_TURN, rel=1e-3)
    marked = [v for v in veneers if v.marks]
    assert marked
    for v in marked:  # a straight cut at 45° across it
        for mark in v.marks:
            turn = np.degrees(np.arctan2(*(mark[-1] - mark[0])[::-1])) % 90.0
            assert turn == pytest.approx(45.0, abs=0.3)


def test_a_gap_between_veneers_makes_them_narrower_not_fewer_places() -> None:
    """On a tube of whole 100 mm steps veneers with 2 mm left open are 98 wide where they were 100."""
    tight = laid_on(carried_on(cylinder(), 0.0, Past()), Layer(angle=90.0), VeneerSettings(), 0, NAMES, lambda _: None)[0]
    open_ = Layer(angle=90.0, width=98.0, gap=2.0)
    loose = laid_on(carried_on(cylinder(), 0.0, Past()), open_, VeneerSettings(), 0, NAMES, lambda _: None)[0]
    assert len(tight) == len(loose)
    whole = loose[2:-2]
    assert [v.width for v in whole] == pytest.approx([98.0] * len(whole), abs=0.1)
    assert [v.least for v in whole] == pytest.approx([98.0] * len(whole), abs=0.1)


@pytest.mark.parametrize("measured", list(AngleFrom))
def test_an_angle_is_measured_from_what_is_said(measured: AngleFrom) -> None:
    hull = Pipeline().results(demo_job("sedge"), [HULL])[HULL]
    settings = VeneerSettings(layers=(Layer(angle=0.0),), angle_from=measured, master=3000.0, past_sheer=0, past_transom=0)
    (plan,) = plan_layers(hull, settings)
    x, _, z = plan.along
    if measured is AngleFrom.WATERLINE:
        assert z == pytest.approx(0.0, abs=1e-6)
        assert x > 0
    elif measured is AngleFrom.KEEL:
        surface = hull.panels[0].surface
        u = brentq(lambda u: surface.points(np.array([u]), np.array([0.5]))[0, 0] - 3000.0, 0.1, 0.9)
        keel = surface.jet(np.array([u]), np.array([0.0])).du[0]
        normal = surface.jet(np.array([u]), np.array([0.5])).normal[0]
        assert plan.along @ np.cross(normal, keel / np.linalg.norm(keel)) == pytest.approx(0.0, abs=2e-3)
        assert plan.along @ keel > 0
    else:
        assert abs(z / x) > 0.001


def test_a_piece_at_a_corner_of_the_hull_is_no_parallel_and_is_cut_by_its_shape() -> None:
    """It lies beside one seam alone: its narrowest is told again from its outline, and it is among those at full size."""
    job = demo_job("sedge")
    (plan, *_) = Pipeline().value(job, LAYERS)
    alone = [v for v in plan.veneers if not v.two_seams]
    assert 1 in {v.number for v in alone}
    drawn = {d.title.rpartition(" ")[2] for d in flat_veneers([plan], "", job.units.style)}
    for v in alone:
        shape = shapely.Polygon(v.flat)
        tenths = [
            shape.intersection(shapely.LineString([(x, -1.0), (x, v.width + 1.0)])).bounds[3]
            for x in np.linspace(0.1, 0.9, 9) * v.length
        ]
        assert v.least <= min(tenths) + 0.01
        assert v.least < 0.6 * v.width
        assert str(v.number) in drawn
