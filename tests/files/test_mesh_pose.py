"""A scanned hull as it comes: its zero elsewhere, upside down, turned, leaning, with holes, one half of it, with an inner skin,
rough. Truth is the hull that the mesh was made of."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
import shapely
import trimesh

from hollow_keel.core.geometry.arrays import Array
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.hull.measures import measure
from hollow_keel.core.hull.restation import section_at
from hollow_keel.core.offsets.from_curves import Taken
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.mesh_hull import MeshHull, Placing, offsets_from_mesh
from hollow_keel.files.mesh_pose import pose_of
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
    outward = (
        np.asarray(skin.vertex_normals) * np.sign(skin.vertex_normals[:, 1] * np.sign(points[:, 1]))[:, None]
    )
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
    "zero elsewhere": zero_elsewhere, "upside down": upside_down, "end for end": end_for_end, "leaning": leaning, "askew": askew,
    "with holes": with_holes, "one half": one_half, "with an inner skin": with_inner_skin,
}  # fmt: skip


@pytest.mark.parametrize("way", WAYS.values(), ids=WAYS)
def test_it_comes_back_as_the_hull_it_is(
    way: Callable[[trimesh.Trimesh], Mesh], hull: Hull, skin: trimesh.Trimesh
) -> None:
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


def test_a_rough_mesh_is_smoothed_and_says_so(hull: Hull, skin: trimesh.Trimesh) -> None:
    points, faces = plain(skin)
    rough = points + np.random.default_rng(2).normal(size=points.shape) * 3.0
    found = taken((rough, faces))
    assert any("scatter by about" in text for text in found.remarks)
    back = build_hull(read_lines(found.table))
    keel, sheer = off(back, hull, 0.0)
    assert measure(back, WATERLINE).volume == pytest.approx(measure(hull, WATERLINE).volume, rel=0.01)
    assert max(keel, sheer) < 8.0


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
    assert worst > 5.0, "in the forefoot, where a station more would help"


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
