"""Guides of every kind, both ways of dividing the girth, and what becomes of strips there: closed forms first."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from scipy.interpolate import CubicSpline

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.geometry.front import propagate, starts
from hollow_keel.core.geometry.surface_line import SurfaceLine, felt
from hollow_keel.core.hull.build import Hull
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, MasterLine
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking import courses
from hollow_keel.core.planking.edges import BOW_ENDS, STERN_ENDS
from hollow_keel.core.planking.faces import area_of
from hollow_keel.core.planking.flat import flat_strip, gaps, varies
from hollow_keel.core.planking.guides import natural_line
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.planking.strips import Planking
from hollow_keel.core.settings.strip_choices import Course, Guide, MasterKind, StripLayout
from hollow_keel.demo.jobs import linnet, pipit, sedge, teasel
from hollow_keel.drawing.planking.mesh import planked_mesh
from tests.half import half
from tests.shapes import cone, cylinder, end_rows, hull_of, sphere_zone, station_rows, strip_planked, unworked

HALF_ANGLE = math.radians(9)


@pytest.fixture(scope="module")
def linnet_hull() -> Hull:
    return Pipeline().shape(unworked(linnet())).hull


def laid(job: Job, **strips: object) -> Planking:
    pipeline = Pipeline()
    return pipeline.value(change(job, "strips", **strips), PLANKING)


# -- tapered: closed forms -----------------------------------------------------------------------------


def test_tapered_strips_of_a_cylinder_are_all_alike() -> None:
    found = plank(hull_of(cylinder(500)), Laying(30.0, layout=StripLayout.TAPERED))
    count = math.ceil(math.pi * 250 / 30)
    assert len(found.strips) == count
    for strip in found.strips:
        assert strip.width_max == pytest.approx(math.pi * 250 / count, abs=0.01)
        assert strip.width_min == pytest.approx(math.pi * 250 / count, abs=0.01)
        assert strip.length == pytest.approx(3000, abs=0.01)
        assert strip.max_edge_set < 1e-7
        assert strip.runs_through


def test_tapered_strips_of_a_cone_run_to_its_point() -> None:
    """Unrolled the sheer is a straight line from the point and the keel another at a turn T from it: what lies square to the sheer
    at a slant s is s tan T, so that edge k of N runs straight to the point at atan(k tan T / N). No strip may be wider than 30
    where it ends, on the round of the greatest slant."""
    hull = hull_of(cone(HALF_ANGLE))
    found = plank(hull, Laying(30.0, layout=StripLayout.TAPERED, least=2.0))
    turn, first, last = (math.pi / 2 * math.sin(HALF_ANGLE), 700 / math.cos(HALF_ANGLE), 4800 / math.cos(HALF_ANGLE))
    count = len(found.strips)
    at = np.arctan(np.arange(count + 1) * math.tan(turn) / count)
    wide = last * np.sin(np.diff(at))
    assert wide.max() <= 30.0
    assert last * math.sin(math.atan(math.tan(turn) / (count - 1))) > 30.0, "one strip fewer would be too wide"
    for strip, own in zip(found.strips, wide.tolist(), strict=True):
        assert strip.far_length == pytest.approx(last - first, rel=1e-4)
        assert strip.width_max == pytest.approx(own, rel=8e-3)  # as it is over 30 mm, narrowing by 0.6 % of its width in them
        assert strip.width_min == pytest.approx(own * first / last, abs=0.1)  # where ways are carried on
        assert strip.max_edge_set < 3e-5  # straighter than 30 m over any 60 mm


def test_too_narrow_ends_make_stealers_that_keep_the_others_wide() -> None:
    found = plank(hull_of(cone(HALF_ANGLE)), Laying(30.0, layout=StripLayout.TAPERED, least=8.0))
    (finding,) = [f for f in found.findings if f.code == "stealers"]
    faded = [s for s in found.strips if not s.runs_through]
    assert len(faded) == len(finding.where.removeprefix("strips ").split(", "))
    first = math.pi / 2 * 700 * math.tan(HALF_ANGLE)
    assert len(found.strips) - len(faded) == int(first / 8.0)
    for strip in faded:
        assert strip.length < 0.95 * max(s.length for s in found.strips)
        assert strip.width_min == 0.0
    for strip in found.strips:
        if strip.runs_through:
            assert strip.width_min >= 8.0 * 0.97


def test_a_least_width_no_strip_can_keep_is_refused() -> None:
    with pytest.raises(ImpossiblePlan, match="least width"):
        plank(hull_of(cylinder()), Laying(8.0, layout=StripLayout.TAPERED, least=8.0))


def test_mixed_strips_are_full_between_the_stations_and_narrower_beyond(linnet_hull: Hull) -> None:
    found = plank(linnet_hull, Laying(14.0, layout=StripLayout.MIXED, mixed_from=1500.0, mixed_to=3900.0))
    strip = found.strips[10]
    flat = flat_strip(strip, found)
    x = max(strip.near, key=lambda p: p.length).points[:, 0]
    inside = (x > 1700) & (x < 3700)
    assert flat[inside, 1] == pytest.approx(np.full(inside.sum(), 14.0), abs=0.12)
    assert flat[5, 1] < 13.0
    assert flat[-5, 1] < 13.5
    slim = plank(linnet_hull, Laying(14.0, layout=StripLayout.MIXED, least=11.0))
    through = [s for s in slim.strips if s.runs_through]
    assert 10.9 < min(s.width_min for s in through) < 11.4, "no narrower than is allowed"
    for last in (1500.0, 3900.0):  # before the first one, and at the very same place
        with pytest.raises(ImpossiblePlan, match="wrong way round"):
            plank(linnet_hull, Laying(14.0, layout=StripLayout.MIXED, mixed_from=3900.0, mixed_to=last))


# -- master lines -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("share", [0.25, 0.5, 0.8])
def test_a_share_of_the_girth_divides_a_cylinder(share: float) -> None:
    master = MasterLine(kind=MasterKind.GIRTH, share=share)
    found = plank(hull_of(cylinder(500)), Laying(30.0, Guide.MASTER, master=master))
    girth = math.pi * 250
    down = [s for s in found.strips if s.course is Course.DOWN]
    up = [s for s in found.strips if s.course is Course.UP]
    assert len(down) == math.ceil(girth * share / 30 - 1e-6)
    assert len(up) == math.ceil(girth * (1 - share) / 30 - 1e-6)
    assert all(s.length == pytest.approx(3000, abs=0.05) for s in found.strips)
    assert up[0].near[0].points.tobytes() == down[0].near[0].points.tobytes()


def test_the_natural_line_of_a_sphere_is_a_great_circle() -> None:
    surface = hull_of(sphere_zone(1000, 600)).panels[0].surface
    line = natural_line(surface, -500.0)
    inside = (line.u >= 0) & (line.u <= 1)
    points = surface.points(line.u[inside], line.v[inside]) - [600.0, 0.0, 0.0]
    assert np.linalg.norm(points, axis=1) == pytest.approx(np.full(len(points), 1000.0), abs=0.05)
    normal = np.linalg.svd(points)[2][-1]
    assert np.abs(points @ normal).max() < 0.3  # in one plane through the centre


def test_the_natural_line_has_no_edge_set_and_ends_alike(linnet_hull: Hull) -> None:
    surface = linnet_hull.panels[0].surface
    line = natural_line(surface, 330.0)
    inside = (line.u > 0.02) & (line.u < 0.98)
    assert np.abs(felt(surface, line, upward=False).geodesic[inside]).max() < 1.5e-5  # straighter than 60 m
    at = [int(np.argmin(np.abs(line.u - end))) for end in (0.0, 1.0)]
    assert line.v[at[0]] == pytest.approx(line.v[at[1]], abs=0.01)


@pytest.mark.parametrize(
    "master",
    [
        MasterLine(kind=MasterKind.HEIGHT, height=330),
        MasterLine(kind=MasterKind.DIAGONAL, height=450, angle=35),
        MasterLine(kind=MasterKind.NATURAL, height=330),
        MasterLine(kind=MasterKind.HEIGHTS, heights=((500, 420), (2600, 300), (5000, 380))),
    ],
)
def test_master_lines_on_a_real_hull(linnet_hull: Hull, master: MasterLine) -> None:
    found = plank(linnet_hull, Laying(14.0, Guide.MASTER, master=master))
    assert 63 <= len(found.strips) <= 72
    guide = found.strips[0].near[0].points
    amidships = guide[np.argmin(np.abs(guide[:, 0] - 2700))]
    if master.kind is MasterKind.DIAGONAL:
        fall = math.tan(math.radians(35))
        assert guide[:, 2] == pytest.approx(450 - fall * guide[:, 1], abs=0.5)
    elif master.kind is not MasterKind.HEIGHTS:
        assert amidships[2] == pytest.approx(330, abs=4)
    else:
        assert np.interp(2600, guide[:, 0], guide[:, 2]) == pytest.approx(300, abs=0.5)
    every = {e for s in found.strips for p in s.near for e in (p.starts, p.ends)}
    assert every <= {"stem_bow", "transom", "keel", "sheer"}
    for strip in found.strips:
        for piece in strip.far:  # no line leaps over the hull
            assert piece.length >= np.linalg.norm(piece.points[-1] - piece.points[0]) * 0.999


@pytest.mark.parametrize(
    ("master", "word"),
    [
        (MasterLine(kind=MasterKind.HEIGHT, height=2000), "leaves the hull"),
        (MasterLine(kind=MasterKind.HEIGHT, height=-50), "leaves the hull"),
        (MasterLine(kind=MasterKind.HEIGHTS, heights=((500, 300),)), "two stations"),
        (MasterLine(kind=MasterKind.HEIGHTS, heights=((500, 300), (500, 310))), "same station"),
        (MasterLine(kind=MasterKind.NATURAL, height=1500), "leaves the hull"),
    ],
)
def test_a_master_line_that_leaves_the_hull_is_refused(linnet_hull: Hull, master: MasterLine, word: str) -> None:
    with pytest.raises(ImpossiblePlan, match=word):
        plank(linnet_hull, Laying(14.0, Guide.MASTER, master=master))


def test_a_master_line_on_a_hull_with_a_knuckle() -> None:
    from hollow_keel.app.open_any import open_job
    from tests.conftest import DATA

    found = laid(open_job(DATA / "single_chine.csv"), guide="master", width=25.0)
    assert {(s.panel, s.course) for s in found.strips} == {(1, Course.DOWN), (0, Course.DOWN), (1, Course.UP)}
    assert [s.number for s in found.strips] == list(range(1, len(found.strips) + 1))


def bridged() -> OffsetsTable:
    """A hull whose keel rises by 80 mm amidships, like the foot of a bridge."""
    rows: list[OffsetRow] = []
    angle = np.linspace(0, np.pi / 2, 13)
    for k, x in enumerate(np.linspace(0, 4000, 11).tolist()):
        depth = 400.0 - 80.0 * math.sin(math.pi * x / 4000) ** 2
        y, z = 500.0 * np.sin(angle), -depth * np.cos(angle)
        z[-1], y[0] = 0.0, 0.0
        rows += end_rows("transom", np.column_stack([np.full(13, x), y, z])) if k in (0, 10) else station_rows(x, y, z)
    return OffsetsTable(rows=tuple(rows))


# -- both edges, the keel, zones ------------------------------------------------------------------------


def test_both_edges_meet_in_a_seam(linnet_hull: Hull) -> None:
    alone = plank(linnet_hull, 14.0)
    found = plank(linnet_hull, Laying(14.0, Guide.BOTH))
    up = [s for s in found.strips if s.course is Course.UP]
    down = [s for s in found.strips if s.course is Course.DOWN]
    assert abs(len(found.strips) - len(alone.strips)) <= 1
    seam = max(up[-1].far, key=lambda p: p.length).points
    for strip in down[-6:]:
        for piece in strip.near:
            if piece.starts == "seam":
                assert gaps(piece.points[:1], seam)[0] < 0.5
    assert plank(linnet_hull, Laying(14.0, Guide.BOTH, bottom=12)).strips[11].course is Course.UP
    with pytest.raises(ImpossiblePlan, match="cover the whole hull"):
        plank(linnet_hull, Laying(14.0, Guide.BOTH, bottom=400))


@pytest.mark.parametrize("job", [unworked(linnet()), pipit()], ids=["linnet", "pipit"])
def test_strips_from_the_keel_run_on_to_the_stem(job: Job) -> None:
    found = laid(job, guide="keel")
    full = [s for s in found.strips if s.starts in BOW_ENDS and s.ends in STERN_ENDS]
    assert len(full) > 0.54 * len(found.strips)
    for strip in full:
        for piece in strip.far:
            assert np.diff(piece.run).min() > 0
            drawn = np.linalg.norm(np.diff(piece.points, axis=0), axis=1).sum()
            assert piece.length == pytest.approx(drawn, rel=3e-3)


def test_strips_of_other_widths_shift_the_rest() -> None:
    hull = hull_of(cylinder(500))
    found = plank(hull, Laying(30.0, others=((1, 2, 10.0), (5, 5, 60.0))))
    assert [s.width_max for s in found.strips[:6]] == pytest.approx([10, 10, 30, 30, 60, 30])
    assert len(found.strips) == 2 + 1 + math.ceil((math.pi * 250 - 20 - 60) / 30)


def test_fronts_from_a_level_line_are_those_from_an_edge() -> None:
    surface = hull_of(sphere_zone()).panels[0].surface
    one = propagate(surface, 1.0, 40.0)
    two = propagate(surface, SurfaceLine.level(starts(), 1.0), lambda _: 40.0, upward=False)
    assert len(one) == len(two)
    assert one[5].edge_set == pytest.approx(two[5].edge_set)
    assert len(propagate(surface, 1.0, 40.0, most=3)) == 4


def test_flat_strips_say_what_has_to_be_cut() -> None:
    pipeline = Pipeline()
    whole = pipeline.value(unworked(linnet()), PLANKING)
    assert not varies(flat_strip(whole.strips[5], whole))
    assert varies(flat_strip(whole.strips[-1], whole))
    closing = flat_strip(whole.strips[-1], whole)
    assert closing[:, 1].max() == pytest.approx(whole.strips[-1].width_max, abs=0.6)
    tapered = pipeline.value(apply_override(unworked(linnet()), "strip.layout", "tapered"), PLANKING)
    flat = flat_strip(tapered.strips[20], tapered)
    assert varies(flat)
    assert flat[:, 1].max() == pytest.approx(tapered.strips[20].width_max, abs=0.15)


@pytest.mark.parametrize("layout", list(StripLayout))
@pytest.mark.parametrize("guide", list(Guide))
def test_every_guide_with_every_layout_covers_the_hull(linnet_hull: Hull, guide: Guide, layout: StripLayout) -> None:
    """What the strips' own edges enclose, added up, is the planked area of the hull: all of it, once, or the plan is refused. Over
    a keel that turns up into a stem without a corner strips that narrow with the girth are."""
    try:
        found = plank(linnet_hull, Laying(28.0, guide, layout))
    except ImpossiblePlan as error:
        assert guide in (Guide.KEEL, Guide.BOTH)
        assert layout in (StripLayout.MIXED, StripLayout.FEW)
        assert "Start from the sheer" in str(error)
        return
    assert sum(area_of(s, found) for s in found.strips) == pytest.approx(_surface_area(linnet_hull), rel=0.005)
    # the longest pieces alone
    assert sum(_area(s, found) for s in found.strips) == pytest.approx(_surface_area(linnet_hull), rel=0.03)


def _area(strip: object, planking: Planking) -> float:
    flat = flat_strip(strip, planking)  # type: ignore[arg-type]
    return float(np.trapezoid(flat[:, 1], flat[:, 0]))


def _surface_area(hull: Hull) -> float:
    u, v = np.meshgrid(np.linspace(0, 1, 241), np.linspace(0, 1, 121), indexing="ij")
    jet = hull.panels[0].surface.jet(u.ravel(), v.ravel())
    density = np.linalg.norm(np.cross(jet.du, jet.dv), axis=1).reshape(u.shape)
    return float(np.trapezoid(np.trapezoid(density, dx=1 / 120, axis=1), dx=1 / 240))


WAYS: tuple[dict[str, object], ...] = (
    {"guide": "sheer"},
    {"guide": "master", "master": MasterLine(kind=MasterKind.NATURAL)},
    {"guide": "sheer", "layout": "tapered"},
)


@pytest.mark.parametrize("way", WAYS, ids=["sheer", "natural", "tapered"])
@pytest.mark.parametrize("job", [unworked(linnet()), pipit(), strip_planked(sedge())], ids=["linnet", "pipit", "sedge"])
def test_every_demo_job_is_planked_three_ways(job: Job, way: dict[str, object]) -> None:
    """Strips a builder would lay: in one piece, ending on something, no two alike in number, none longer than the hull is round."""
    pipeline = Pipeline()
    shape = pipeline.shape(change(job, "strips", **way))
    found = pipeline.value(shape.job, PLANKING)
    assert [s.number for s in found.strips] == list(range(1, len(found.strips) + 1))
    assert sum(s.pieces > 1 for s in found.strips) <= 2
    longest = max(s.length for s in found.strips)
    assert longest <= 1.1 * shape.measures.length
    ends = {e for s in found.strips for e in (s.starts, s.ends)}
    assert ends <= {"stem_bow", "stem_stern", "transom", "keel", "sheer"}
    area = 2 * sum(_area(s, found) for s in found.strips) / 1e6
    assert area == pytest.approx(shape.measures.planked_area, rel=0.02)
    curved = max(s.max_edge_set for s in found.strips)
    assert curved < 1 / 300  # nowhere tighter sideways than a foot


@pytest.mark.parametrize("job", [unworked(linnet()), pipit(), strip_planked(sedge())], ids=["linnet", "pipit", "sedge"])
def test_untapered_strips_are_parallels_of_the_last_tapered_edge(job: Job) -> None:
    """Measured on the hull between the molds: no strip is wider than the wood it is cut from (17.1 of 14 mm were laid once)."""
    shape = Pipeline().shape(job)
    width = job.strips.cover
    found = plank(shape.hull, Laying(width, layout=StripLayout.FEW, least=job.strips.least_width))
    stations = [m.station for m in shape.molds.molds][1:-1]
    shaped = [s.number for s in found.strips if s.shaped]
    assert shaped
    for strip in found.strips:
        for far in strip.far:
            inner = (far.points[:, 0] > stations[0]) & (far.points[:, 0] < stations[-1])
            inner[:2] = inner[-2:] = False
            if not strip.near or not inner.any():
                continue
            apart = np.min([gaps(far.points[inner], p.points) for p in strip.near], axis=0)
            assert apart.max() < width * 1.03
            if strip.number not in shaped and strip.runs_through:
                assert np.median(apart) == pytest.approx(width, rel=0.01)


@pytest.mark.parametrize(
    ("job", "guide", "layout"),
    half([pipit(), strip_planked(sedge())], [Guide.SHEER, Guide.KEEL, Guide.MASTER, Guide.BOTH], list(StripLayout)),
)
def test_the_planked_mesh_is_the_hull_or_the_plan_is_refused(job: Job, guide: Guide, layout: StripLayout) -> None:
    shape = Pipeline().shape(job)
    try:
        found = plank(shape.hull, Laying(job.strips.cover, guide, layout, least=job.strips.least_width))
    except ImpossiblePlan as error:
        assert "near position" in str(error)
        assert layout is not StripLayout.TAPERED or guide is Guide.BOTH
        return
    mesh = planked_mesh(found)
    a, b, c, d = (mesh.points[mesh.quads[:, k]] for k in range(4))
    area = (np.linalg.norm(np.cross(b - a, c - a), axis=1) + np.linalg.norm(np.cross(c - a, d - a), axis=1)).sum() / 2
    assert area / 1e6 == pytest.approx(shape.measures.planked_area, rel=0.006)
    assert max(s.length for s in found.strips) < 1.3 * shape.measures.length


@pytest.mark.parametrize("layout", [StripLayout.PARALLEL, StripLayout.TAPERED, StripLayout.MIXED, StripLayout.FEW])
def test_edge_set_and_bend_are_those_of_the_line_that_is_drawn(linnet_hull: Hull, layout: StripLayout) -> None:
    """The second derivative of a general library's cubic through an edge's points, within the surface and square to it: what a
    strip turns away from lines of equal distance, where it tapers, counted the right way round."""
    found = plank(linnet_hull, Laying(14.0, layout=layout, least=6.0))
    for strip in found.strips[3:48:6]:
        for piece in strip.near:
            line, at = CubicSpline(piece.run, piece.points), np.linspace(0.15, 0.85, 41) * piece.run[-1]
            uv = CubicSpline(piece.run, piece.uv)(at)
            normal = linnet_hull.panels[strip.panel].surface.jet(uv[:, 0], uv[:, 1]).normal
            aside = (line(at, 2) * np.cross(normal, line(at, 1))).sum(axis=1)
            own = CubicSpline(piece.run, piece.curvatures)(at)
            off = min(np.median(np.abs(aside - own[:, 0])), np.median(np.abs(aside + own[:, 0])))
            assert off < 0.06 * np.abs(aside).max() + 1e-6, (strip.number, off / np.abs(aside).max())
            most = np.abs(piece.curvatures).max(axis=0)
            assert (piece.edge_set, piece.bend, piece.twist) == pytest.approx(tuple(most))
            assert own[:, 1] == pytest.approx(-(line(at, 2) * normal).sum(axis=1), abs=4e-5)


def test_a_strip_in_pieces_is_bent_as_its_most_bent_piece() -> None:
    """A keel that rises amidships cuts the last strips in two; each piece's own curvatures tell."""
    hull = hull_of(bridged())
    torn = [s for s in plank(hull, Laying(14.0)).strips if len(s.far) > 1]
    assert len(torn) > 2
    for strip in torn:
        every = []
        for piece in strip.far:
            every.append(np.abs(piece.curvatures).max(axis=0))
        most = np.max(every, axis=0)
        assert (strip.max_edge_set, strip.max_bend, strip.max_twist) == pytest.approx(tuple(most))


def test_distances_serve_every_width_and_layout(monkeypatch: pytest.MonkeyPatch) -> None:
    """Laid with what earlier plans of a hull have left, strips are to the last digit those of a plan from nothing; rays are sent
    out once a guide."""
    hull = Pipeline().value(teasel(), HULL)
    sent: list[bool] = []
    rays = courses.propagate

    def counted(*args: Any, upward: bool) -> Any:
        sent.append(upward)
        return rays(*args, upward=upward)

    monkeypatch.setattr(courses, "propagate", counted)
    ways = [
        (StripLayout.PARALLEL, Guide.SHEER, 30.0, 1),
        (StripLayout.FEW, Guide.SHEER, 40.0, 0),
        (StripLayout.PARALLEL, Guide.BOTH, 40.0, 1),
        (StripLayout.TAPERED, Guide.BOTH, 30.0, 0),
    ]
    kept = courses.Fields()
    for layout, guide, width, new in ways:
        laying = Laying(width, guide, layout, least=10.0)
        anew = plank(hull, laying)
        sent.clear()
        again = plank(hull, laying, fields=kept)
        assert len(sent) == new, (layout, guide)
        for a, b in zip(anew.strips, again.strips, strict=True):
            for own, other in zip((*a.near, *a.far), (*b.near, *b.far), strict=True):
                assert np.array_equal(own.points, other.points)
