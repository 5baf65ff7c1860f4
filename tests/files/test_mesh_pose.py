"""A scanned hull as it comes: its zero elsewhere, upside down, turned, leaning, with holes, one half of it, with an inner skin,
rough. Truth is the hull that the mesh was made of."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
import shapely
import trimesh

from hollow_keel.core.errors import InputError
from hollow_keel.core.geometry.arrays import Array
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.hull.measures import measure
from hollow_keel.core.hull.restation import section_at
from hollow_keel.core.offsets.from_curves import StationCurve, Taken
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.mesh.cut import MeshCutter
from hollow_keel.files.mesh.hull import MeshHull, Placing, welded
from hollow_keel.files.mesh.offsets import offsets_from_mesh, that_reach
from hollow_keel.files.mesh.pose import pose_of, rim_of
from tests.files.test_drawings_in import triangles

WATERLINE = 175.0
Mesh = tuple[Array, Array]


@pytest.fixture(scope="module")
def hull() -> Hull:
    return build_hull(read_lines(linnet().offsets))


@pytest.fixture(scope="module")
def skin(hull: Hull) -> trimesh.Trimesh:
    return triangles(hull)


def turned(axis: list[float], degrees: float) -> Array:
    result: Array = trimesh.transformations.rotation_matrix(np.radians(degrees), axis)[:3, :3]
    return result


def plain(skin: trimesh.Trimesh) -> Mesh:
    return np.asarray(skin.vertices, dtype=float), np.asarray(skin.faces)


def zero_elsewhere(skin: trimesh.Trimesh) -> Mesh:
    points, faces = plain(skin)
    return points + np.array([300.0, -777.0, 0.0]), faces


def turned_by(axis: list[float], degrees: float) -> Callable[[trimesh.Trimesh], Mesh]:
    def way(skin: trimesh.Trimesh) -> Mesh:
        points, faces = plain(skin)
        return points @ turned(axis, degrees).T, faces

    return way


upside_down = turned_by([1, 0, 0], 180)
end_for_end = turned_by([0, 0, 1], 180)
leaning = turned_by([1, 0, 0], 3)
askew = turned_by([0, 0, 1], 2)


def with_holes(skin: trimesh.Trimesh) -> Mesh:
    points, faces = plain(skin)
    return points, faces[np.random.default_rng(4).random(len(faces)) > 0.005]


def one_half(skin: trimesh.Trimesh) -> Mesh:
    points, faces = plain(skin)
    return points, faces[points[faces].mean(axis=1)[:, 1] > 0]


def with_inner_skin(skin: trimesh.Trimesh) -> Mesh:
    points, faces = plain(skin)
    outward = np.asarray(skin.vertex_normals) * np.sign(skin.vertex_normals[:, 1] * np.sign(points[:, 1]))[:, None]
    return np.concatenate([points, points - 12 * outward]), np.concatenate([faces, faces + len(points)])


def taken(mesh: Mesh) -> Taken:
    pose = pose_of(*mesh)
    assert pose.up_clear
    assert pose.bow_clear
    return offsets_from_mesh(MeshHull(*mesh, False, pose), Placing("x", "z", True, 1.0, pose), 400.0)


def off(found: Hull, hull: Hull, up: float) -> tuple[float, float]:
    """How far keel and sheer of the stations lie from those of the hull, mm, when all is `up` mm too high."""
    keel, sheer = [], []
    for section in found.lines.sections:
        true = section_at(hull, 0, section.x)
        assert true is not None
        keel.append(abs(section.points[0, 2] - up - true[0, 2]))
        sheer.append(np.hypot(*(section.points[-1, 1:] - [0, up] - true[-1, 1:])))
    return max(keel), max(sheer)


WAYS = {
    "zero elsewhere": zero_elsewhere,
    "upside down": upside_down,
    "end for end": end_for_end,
    "leaning": leaning,
    "askew": askew,
    "with holes": with_holes,
    "one half": one_half,
    "with an inner skin": with_inner_skin,
}


@pytest.mark.parametrize("way", WAYS.values(), ids=WAYS)
def test_it_comes_back_as_the_hull_it_is(way: Callable[[trimesh.Trimesh], Mesh], hull: Hull, skin: trimesh.Trimesh) -> None:
    mesh = way(skin)
    found = taken(mesh)
    back = build_hull(read_lines(found.table))
    up = float(pose_of(*mesh).put(mesh[0])[:, 2].min()) if way is not with_inner_skin else 0.0
    assert measure(back, WATERLINE + up).volume == pytest.approx(measure(hull, WATERLINE).volume, rel=0.005)
    keel, sheer = off(back, hull, up)
    assert keel < (4.5 if way is with_holes else 3.0)
    assert sheer < 3.0
    said = " ".join(found.remarks)
    assert ("leaned by 3.0°" in said) == (way is leaning)
    assert ("turned in plan by 2.0°" in said) == (way is askew)
    assert ("one half" in said) == (way is one_half)


def rough(skin: trimesh.Trimesh, by: float) -> Mesh:
    """Every place of the mesh moved at random; what touched touches still."""
    points, faces = plain(skin)
    places, which = np.unique(np.round(points, 3), axis=0, return_inverse=True)
    moved = points + (np.random.default_rng(2).normal(size=places.shape) * by)[which.ravel()]
    return moved, faces


@pytest.mark.parametrize("half", [False, True])
def test_a_rough_mesh_is_smoothed_and_says_so(hull: Hull, skin: trimesh.Trimesh, half: bool) -> None:
    """Points of a grid of 34 mm that scatter by a sixth of it: nearly all lie within a third."""
    points, faces = rough(skin, 34.0 / 6)
    if half:
        faces = faces[plain(skin)[0][faces].mean(axis=1)[:, 1] > 0]
    found = taken((points, faces))
    said = " ".join(found.remarks)
    assert "scatter by about" in said
    told = float(said.partition("may put keel and sheer out by \u27e8")[2].partition("\u27e9")[0])
    back = build_hull(read_lines(found.table))
    assert {end.kind.value for end in (back.lines.bow, back.lines.stern)} == {"stem", "transom"}
    keel, sheer = off(back, hull, 0.0)
    assert measure(back, WATERLINE).volume == pytest.approx(measure(hull, WATERLINE).volume, rel=0.005)
    assert keel < 4.5
    assert sheer < 5.0
    assert 2.0 < told < 6.0, "what it may be out is what it is out"


def test_stations_close_together_on_a_slightly_rough_half_are_cut(skin: trimesh.Trimesh) -> None:
    """Smoothed over three triangles at least, however little they scatter and however near the stations are."""
    points, faces = rough(skin, 2.0)
    faces = faces[plain(skin)[0][faces].mean(axis=1)[:, 1] > 0]
    found = offsets_from_mesh(
        MeshHull(points, faces, False, pose_of(points, faces)), Placing("x", "z", True, 1.0, pose_of(points, faces)), 100.0
    )
    assert len({row.station for row in found.table.rows if row.label == "keel"}) > 40


def test_corners_in_the_same_place_are_made_one(skin: trimesh.Trimesh) -> None:
    """As a general library does it: a soup of triangles has as many places, and each triangle its own corners still."""
    points, faces = plain(skin)
    soup = points[faces].reshape(-1, 3)
    soup[::7] *= np.where(soup[::7] == 0.0, -1.0, 1.0)  # some zeros with a sign
    vertices, triangles = welded(soup, np.arange(len(soup)).reshape(-1, 3))
    theirs = trimesh.Trimesh(soup, np.arange(len(soup)).reshape(-1, 3), process=True)
    assert abs(len(vertices) - len(theirs.vertices)) <= 2, "theirs makes one of places a hundred-millionth apart"
    sound = np.array([len({tuple(corner) for corner in (f + 0.0).tolist()}) == 3 for f in points[faces]])
    assert np.array_equal(vertices[triangles], points[faces][sound] + 0.0)
    box = trimesh.creation.box()
    assert len(rim_of(welded(box.vertices[box.faces].reshape(-1, 3), np.arange(36).reshape(-1, 3))[1])) == 0


def test_a_mesh_without_area_is_refused() -> None:
    with pytest.raises(InputError, match="no surface"):
        pose_of(np.zeros((300, 3)), np.arange(300).reshape(100, 3))


def test_a_cut_that_crosses_itself_stays_one_line() -> None:
    """A flat wall, its points pushed about so far that its cuts fold over themselves."""
    rng = np.random.default_rng(8)
    x, z = np.meshgrid(np.arange(0.0, 401.0, 20.0), np.arange(0.0, 401.0, 20.0), indexing="ij")
    wall = np.stack([x, np.full_like(x, 100.0), z], axis=-1) + rng.normal(size=(*x.shape, 3)) * 9.0
    i, j = (a.ravel() for a in np.meshgrid(np.arange(20), np.arange(20), indexing="ij"))
    a = i * 21 + j
    faces = np.concatenate([np.stack([a, a + 21, a + 1], 1), np.stack([a + 1, a + 21, a + 22], 1)])
    cutter = MeshCutter(wall.reshape(-1, 3), faces)
    for place in (95.0, 200.0, 310.0):
        (line,) = cutter.sides_at(place)
        assert np.ptp(line[:, 1]) > 360.0


def test_a_swept_sheer_is_not_taken_for_a_hole() -> None:
    """A sheer on a parabola that sweeps by a third of the depth, and the same with one station cut short."""

    def stations(short: float) -> list[StationCurve]:
        x = np.arange(0.0, 8.0)
        tops = 600.0 + 12.0 * (x - 3.5) ** 2
        tops[4] -= short
        return [StationCurve(float(k), np.array([[0.0, 0.0], [400.0, z]])) for k, z in enumerate(tops)]

    remarks: list[str] = []
    assert len(that_reach(stations(0.0), remarks)) == 8
    assert remarks == []
    assert [s.x for s in that_reach(stations(60.0), remarks)] == [0.0, 1.0, 2.0, 3.0, 5.0, 6.0, 7.0]
    assert "The cut at 4 does not reach the sheer" in remarks[0]


def test_the_hull_is_compared_with_the_mesh_between_its_stations(hull: Hull, skin: trimesh.Trimesh) -> None:
    """The figure told is what a general library measures between the hull that was drawn and the one that is true."""
    found = taken(plain(skin))
    text = next(t for t in found.remarks if t.startswith("Compared with the mesh"))
    told = float(text.rpartition("farthest \u27e8")[2].partition("\u27e9")[0])
    back = build_hull(read_lines(found.table))
    stations = sorted({r.station for r in found.table.rows if r.label == "keel"})
    worst = 0.0
    for x in ((a + b) / 2 for a, b in zip(stations[:-1], stations[1:], strict=True)):
        true, drawn = section_at(hull, 0, x), section_at(back, 0, x)
        assert true is not None
        assert drawn is not None
        line = shapely.LineString(drawn[:, 1:])
        worst = max(worst, float(shapely.distance(shapely.points(true[:, 1:]), line).max()))
    assert told == pytest.approx(worst, abs=1.0)
    assert worst > 0.5, "in the forefoot, where a station more would help"


def test_a_hull_with_like_ends_asks_for_its_bow() -> None:
    from hollow_keel.demo.jobs import pipit

    pose = pose_of(*plain(triangles(build_hull(read_lines(pipit().offsets)))))
    assert not pose.bow_clear
    assert pose.up_clear


def test_a_station_that_ends_at_a_hole_is_named(hull: Hull, skin: trimesh.Trimesh) -> None:
    points, faces = plain(skin)
    middle = points[faces].mean(axis=1)
    gone = (np.abs(middle[:, 0] - 2400) < 120) & (middle[:, 2] > 330)
    found = taken((points, faces[~gone]))
    assert any("2400 does not reach the sheer" in text for text in found.remarks)
    assert 2400.0 not in {row.station for row in found.table.rows}
