"""Keel and sheer as lines of their own, and every offset on the surface: against closed forms and the tables themselves."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.spatial import KDTree

from hollow_keel.app.open_any import open_job
from hollow_keel.core.geometry.curves import LoftCurve
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.hull.edge_lines import EndLine, lower_edge, roundness, swelling
from hollow_keel.core.hull.end_points import end_points
from hollow_keel.core.molds.shape import section_outside
from hollow_keel.core.offsets.table import OffsetsTable, read_lines
from hollow_keel.core.offsets.transform import turned
from hollow_keel.core.planking.end_cuts import end_cuts
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.demo.jobs import demo_job
from tests.conftest import DATA
from tests.hulls_of_form import FORMS, Form, away_from
from tests.shapes import end_rows, station_rows, strip_planked

Array = np.ndarray
MET_MM = 0.25


def off_the_surface(hull: Hull, points: Array) -> Array:
    """How far points (n, 3) lie from the hull's surface, mm: the nearest of a dense net, then Newton within the surface."""
    best = np.full(len(points), np.inf)
    u, v = np.linspace(0, 1, 601), np.linspace(0, 1, 181)
    for panel in hull.panels:
        net = panel.surface.points(u[:, None], v[None, :]).reshape(-1, 3)
        far, k = KDTree(net).query(points)
        at = np.array([u[k // len(v)], v[k % len(v)]])
        for _ in range(8):
            jet = panel.surface.jet(*at)
            along = np.stack([jet.du, jet.dv], axis=-1)
            step = (np.linalg.pinv(along) @ (points - jet.point)[..., None])[..., 0]
            at = np.clip(at + np.clip(step.T, -0.02, 0.02), 0.0, 1.0)
        best = np.minimum(best, np.minimum(far, np.linalg.norm(points - panel.surface.points(*at), axis=1)))
    return best


def offsets_of(table: OffsetsTable) -> Array:
    rows = [r for r in table.rows if r.label != "deck_centre"]
    return np.array([(r.station, r.half_breadth, r.height) for r in rows])


@pytest.mark.parametrize("name", ["linnet", "sedge", "pipit", "double_ender.csv", "single_chine.csv", "spheroid.csv"])
def test_every_offset_of_the_boats_is_on_the_surface(name: str) -> None:
    job = open_job(DATA / name) if name.endswith(".csv") else strip_planked(demo_job(name))
    hull = build_hull(read_lines(job.offsets))
    assert off_the_surface(hull, offsets_of(job.offsets)).max() < MET_MM


@pytest.mark.parametrize("stations", [5, 9, 19])
@pytest.mark.parametrize("name", FORMS)
def test_every_offset_of_a_hull_of_closed_form_is_on_the_surface(name: str, stations: int) -> None:
    """Tables to a millimetre too. A keel point 9 mm from the stem's foot is met within 0.4 mm."""
    for step in (0.0, 1.0):
        table = FORMS[name].table(stations=stations, points=9, step=step)
        lines, points = read_lines(table), offsets_of(table)
        away = np.linalg.norm(points - lines.bow.points[0], axis=1)
        close = (away > 0) & (away < 15.0)
        off = off_the_surface(build_hull(lines), points)
        assert off[~close].max() < MET_MM
        assert off[close].max(initial=0.0) < 0.4


def worst_at(form: Form, stations: int, *, places: tuple[float, ...]) -> float:
    """How far sections at such shares of the gaps between the ends and the stations lie out at most, mm."""
    hull = build_hull(read_lines(form.table(stations=stations, points=11)))
    at = np.linspace(0.0, form.transom or form.length, stations + 2)
    return max(
        away_from(form, x, section_outside(hull, x)[::4]).max()
        for low, high in zip(at[:-1], at[1:], strict=True)
        for x in (low + share * (high - low) for share in places)
    )


@pytest.mark.parametrize(
    ("name", "most"),
    [
        ("round double-ender", 1.4),
        ("V double-ender", 0.9),
        ("plumb stems", 1.1),
        ("spoon bow", 0.7),
        ("lean racer", 1.2),
        ("small tender", 0.9),
        ("hollow garboards", 2.6),
        ("deep rocker", 2.5),
        ("transom launch", 3.3),
        ("tumblehome", 3.5),
    ],
)
def test_half_way_between_stations_and_to_the_ends(name: str, most: float) -> None:
    """Without lines of their own for keel and sheer: 2.5, 2.3, 5.0, 9.4, 7.6, 1.5, 9.5, 4.5, 3.7 and 4.8 mm. What is left of the
    last two is a keel that bends in the last gap, where no offset tells."""
    assert worst_at(FORMS[name], 11, places=(0.5,)) < most


def test_few_stations_too() -> None:
    """Before: 10.1 and 19.5 mm."""
    assert worst_at(Form(), 5, places=(0.5,)) < 4.2
    assert worst_at(FORMS["spoon bow"], 5, places=(0.5,)) < 6.0


def test_the_head_of_a_sharp_hull_with_stations_on_its_stem() -> None:
    sharp = replace(FORMS["V double-ender"], full=1.0, ends=1.8)
    assert worst_at(sharp, 19, places=(0.25, 0.5, 0.75)) < 0.6


@pytest.mark.parametrize("way", [1.0, -1.0])
@pytest.mark.parametrize("power", [0.5, 0.6, 0.75, 0.9])
def test_what_swells_as_a_power_goes_on_swelling(power: float, way: float) -> None:
    """y = 12 + 9 x^power from a head at 100: between head and first station it is that curve."""
    runs = np.array([0.0, 300.0, 700.0, 1200.0, 1700.0])
    tops = np.column_stack([100 + way * runs, 12 + 9 * runs**power, 500 - runs / 100])
    asked = np.linspace(5.0, 1700.0, 60)
    told = swelling(tops, way, 100 + way * asked)
    assert told is not None
    assert np.abs(told[:, 0] - 12 - 9 * asked**power).max() < 0.02 * 9 * 300**power * (1 - power)
    assert told[:, 1] == pytest.approx(500 - asked / 100, abs=1e-6)


def test_a_straight_or_hollow_sheer_does_not_swell() -> None:
    runs = np.array([0.0, 300.0, 700.0, 1200.0, 1700.0])
    for breadths in (0.4 * runs, 1e-4 * runs**2, runs[::-1] + 5):
        assert swelling(np.column_stack([runs, breadths, runs]), 1.0, runs) is None


def _round_profile(turn: float, radius: float) -> tuple[LoftCurve, Array, Array]:
    """A stem that is the last of a circle's quarter from its foot at `turn` (radians from the level) up, the keel points on the
    same circle and then level, and the level's start: the centre stands over it."""
    up = np.linspace(turn, 1.4, 7)
    stem = np.column_stack([-radius * np.sin(up), np.full(7, 10.0), radius * (1 - np.cos(up))])
    along = np.array([-radius * np.sin(turn * 0.4), 0.0, 400.0, 900.0, 1400.0])
    high = np.where(along < 0, radius - np.sqrt(radius**2 - np.minimum(along, 0) ** 2), 0.0)
    return LoftCurve(stem), np.column_stack([along, np.full(5, 10.0), high]), np.array([1900.0, 10.0, 0.0])


def _keel(stem: LoftCurve, keel: Array, last: Array, asked: Array) -> Array:
    transom = LoftCurve(last + np.array([[0.0, 0.0, 0.0], [0.0, 200.0, 100.0], [0.0, 400.0, 300.0]]))
    return lower_edge([EndLine(stem, True, 1.0), EndLine(transom, False, -1.0)], keel, asked)


def test_a_keel_runs_out_of_a_round_stem_as_one_line_with_it() -> None:
    """The profile is a circle into a level: between the stem's foot and the first station its height is the circle's."""
    stem, keel, last = _round_profile(0.7, 800.0)
    asked = np.linspace(stem.points[0, 0], keel[0, 0], 30)
    circle = 800.0 - np.sqrt(800.0**2 - asked**2)
    assert np.abs(_keel(stem, keel, last, asked)[:, 1] - circle).max() < 0.6
    alone = LoftCurve(np.concatenate([stem.points[:1], keel])).at_fractions(np.linspace(0, 1, 2001))
    assert np.abs(np.interp(asked, alone[:, 0], alone[:, 2]) - circle).max() > 3.0, "the keel's own points do not tell"


def test_a_keel_does_not_know_of_a_stem_that_meets_it_in_a_corner() -> None:
    stem, keel, last = _round_profile(0.7, 800.0)
    keel[:, 2] = stem.points[0, 2]
    last = np.array([1900.0, 10.0, stem.points[0, 2]])
    upright = LoftCurve(stem.points[0] + np.array([[0, 0, 0], [-5, 0, 200.0], [-10, 0, 400.0]]))
    asked = np.linspace(stem.points[0, 0], 1900.0, 50)
    assert _keel(upright, keel, last, asked)[:, 1] == pytest.approx(np.full(50, stem.points[0, 2]), abs=1e-6)


@pytest.mark.parametrize(("turn", "round_"), [(15.0, 1.0), (25.0, 0.896), (30.0, 0.5), (45.0, 0.0)])
def test_an_end_that_turns_by_half_is_half_round(turn: float, round_: float) -> None:
    """A straight stem on a straight keel: round up to 20 degrees between them, a corner from 40; between, t³(10 − 15t + 6t²)."""
    rise = np.radians(turn)
    stem = LoftCurve(np.array([[-far * np.cos(rise), 0.0, far * np.sin(rise)] for far in (0.0, 200.0, 400.0)]))
    level = np.column_stack([np.linspace(0, 3000, 100), np.zeros(100), np.zeros(100)])
    assert roundness(stem, level) == pytest.approx(round_, abs=0.01)


def test_stations_feet_are_points_of_the_stem_unless_they_contradict_it() -> None:
    """Linnet's stem is given at eight places, and three stations stand on it half a millimetre beside the curve through those."""
    lines = read_lines(demo_job("linnet").offsets)
    own = end_points(lines, lines.bow, 0)
    feet = [s.points[0].tolist() for s in lines.sections[:3]]
    assert all(foot in own.tolist() for foot in feet)
    assert len(own) == len(lines.bow.points) + 3
    assert np.all(np.diff(own[:, 0]) < 0)
    off = [replace(s, points=s.points + np.array([0.0, 0.0, 25.0])) for s in lines.sections[:3]]
    wrong = replace(lines, sections=(*off, *lines.sections[3:]))
    assert end_points(wrong, wrong.bow, 0).tolist() == lines.bow.points.tolist()
    assert end_points(lines, lines.stern, 0).tolist() == lines.stern.points.tolist()


def test_a_blunt_sheer_over_a_plumb_stem_swells_too() -> None:
    """Half-breadths B(x) √(z / 400), B = 9 x^0.6, on a level keel: the stem meets it in a corner. Half-way to the first station the
    sheer is B there, 23 mm more than through the points alone, and the section half-way up goes with it."""

    def breadth(x: float) -> float:
        return 9 * x**0.6

    z = 400 * np.linspace(0, 1, 9) ** 2
    rows = end_rows("stem_bow", np.column_stack([np.zeros(9), np.zeros(9), z]))
    for x in np.arange(300.0, 2700.0, 300.0).tolist():
        rows += station_rows(x, breadth(x) * np.sqrt(z / 400), z)
    own = np.column_stack([np.full(9, 2700.0), breadth(2700.0) * np.sqrt(z / 400), z])
    hull = build_hull(read_lines(OffsetsTable(rows=(*rows, *end_rows("transom", own)))))
    for x in (75.0, 150.0, 225.0, 450.0):
        section = section_outside(hull, x)
        assert section[-1] == pytest.approx([breadth(x), 400.0], abs=1.0)
        half = np.interp(100.0, section[:, 1], section[:, 0])
        assert half == pytest.approx(breadth(x) / 2, abs=4.5)


@pytest.mark.parametrize("end", [False, True], ids=["bow", "turned round"])
def test_strips_that_run_out_on_the_sheer_are_as_long_as_they_lie(end: bool) -> None:
    """Under a blunt head the first strips run out on the sheer: each begins where both its edges have come to it, and is cut there
    along the sheer, whichever way the skin leans. Turned round it is the same boat."""
    table = FORMS["spoon bow"].table(stations=13, points=11)
    hull = build_hull(read_lines(turned(table) if end else table))
    strips = plank(hull, Laying(20.0)).strips
    first, second = strips[:2]
    at = -1 if end else 0
    for edge in (first.near[at], first.far[at]):
        assert edge.ends == "sheer" if end else edge.starts == "sheer"
        assert edge.points[at] == pytest.approx(first.far[at].points[at], abs=0.5)
    assert first.length == pytest.approx((first.near_length + first.far_length) / 2, rel=0.002)
    assert second.far_length > first.far_length, "it reaches farther forward along the sheer"
    cut = end_cuts(hull, second)[at]
    assert cut is not None
    assert (cut.on, cut.bevel) == ("sheer", None)
    assert (strips[5].ends == "stem_stern") if end else (strips[5].starts == "stem_bow")
