"""Offsets out of lines drawings, meshes and JSON: a known hull goes in, the same hull comes out."""

from __future__ import annotations

import json
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.open_any import job_from_offsets
from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.hull.measures import measure
from hollow_keel.core.offsets.from_curves import StationCurve, reduced, table_from_curves
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.files.lines.drawing import LayerRole, LinesDrawing, Origins, Role, offsets_from_drawing, read_drawing
from hollow_keel.files.mesh.hull import MeshHull, Placing, likely_placing, read_mesh
from hollow_keel.files.mesh.offsets import offsets_from_mesh
from hollow_keel.files.offsets.plan import parse_offsets_json, write_offsets_json
from hollow_keel.files.tables.understood import letter

MM_IN = 25.4


@pytest.fixture(scope="module")
def hull() -> Hull:
    return build_hull(read_lines(linnet().offsets))


def triangles(hull: Hull, sides: tuple[int, ...] = (1, -1), deck: bool = False) -> trimesh.Trimesh:
    """The skin as triangles; `deck` closes it from sheer to sheer."""
    points, faces, first = [], [], 0
    u, v = np.linspace(0, 1, 161), np.linspace(0, 1, 49)
    for side in sides:
        for panel in hull.panels:
            grid = panel.surface.points(u[:, None], v[None, :]) * [1, side, 1]
            i, j = (a.ravel() for a in np.meshgrid(np.arange(160), np.arange(48), indexing="ij"))
            a = first + i * 49 + j
            points.append(grid.reshape(-1, 3))
            faces += [np.stack([a, a + 49, a + 1], 1), np.stack([a + 1, a + 49, a + 50], 1)]
            first += 161 * 49
    if deck:
        sheer = hull.panels[-1].surface.points(u, np.ones_like(u))
        k = np.arange(160)
        a, b = first + k, first + 161 + k
        points += [sheer, sheer * [1, -1, 1]]
        faces += [np.stack([a, a + 1, b], 1), np.stack([b, a + 1, b + 1], 1)]
    return trimesh.Trimesh(np.concatenate(points), np.concatenate(faces), process=False)


@pytest.mark.parametrize("suffix", [".stl", ".obj"])
def test_a_scanned_hull_comes_back_as_the_same_hull(hull: Hull, tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"scan{suffix}"
    triangles(hull).export(path)
    mesh = read_mesh(path)
    assert likely_placing(mesh) == Placing("x", "z", True, 1.0, mesh.pose)
    assert mesh.pose is not None
    assert mesh.pose.up_clear
    assert mesh.pose.bow_clear
    taken = offsets_from_mesh(mesh, likely_placing(mesh), 400.0)
    assert any("not closed" in text for text in taken.remarks)
    back = build_hull(read_lines(taken.table))
    true, found = measure(hull, 175.0), measure(back, 175.0)
    assert found.volume == pytest.approx(true.volume, rel=0.003)
    assert found.planked_area == pytest.approx(true.planked_area, rel=0.003)
    assert found.length == pytest.approx(true.length, abs=8.0)
    labels = {row.label for row in taken.table.rows}
    assert labels == {"stem_bow", "keel", "wl", "sheer", "transom"}


def test_a_mesh_in_other_axes_and_units_is_put_upright(hull: Hull) -> None:
    skin = triangles(hull)
    turned = np.column_stack([skin.vertices[:, 1], skin.vertices[:, 2], -skin.vertices[:, 0]]) / 1000.0
    mesh = MeshHull(turned, np.asarray(skin.faces), False)
    taken = offsets_from_mesh(mesh, Placing("z", "y", False, 1000.0), 500.0)
    found = measure(build_hull(read_lines(taken.table)), 175.0)
    assert found.volume == pytest.approx(measure(hull, 175.0).volume, rel=0.005)


def test_half_a_hull_and_a_decked_one_give_the_same_sections(hull: Hull) -> None:
    whole, half, decked = (
        offsets_from_mesh(MeshHull(np.asarray(m.vertices), np.asarray(m.faces), False), Placing("x", "z", True, 1.0), 600.0)
        for m in (triangles(hull), triangles(hull, (1,)), triangles(hull, deck=True))
    )
    for other in (half, decked):
        for a, b in zip(whole.table.rows, other.table.rows, strict=True):
            assert a.label == b.label
            assert (a.half_breadth, a.height) == pytest.approx((b.half_breadth, b.height), abs=1.0)
    assert any("one half" in text for text in half.remarks)


def test_what_is_no_hull_is_refused(tmp_path: Path, hull: Hull) -> None:
    for name, data in (("a.stl", b""), ("b.stl", b"\0" * 200), ("c.obj", b"no mesh at all"), ("d.stl", b"solid x\nendsolid x\n")):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(InputError):
            read_mesh(tmp_path / name)
    with pytest.raises(InputError):
        read_mesh(tmp_path / "missing.stl")
    skin = triangles(hull)
    mesh = MeshHull(np.asarray(skin.vertices), np.asarray(skin.faces), False)
    with pytest.raises(InputError, match="spacing"):
        offsets_from_mesh(mesh, Placing("x", "z", True, 0.001), 400.0)
    with pytest.raises(InputError, match="same axis"):
        offsets_from_mesh(mesh, Placing("x", "x", True, 1.0), 400.0)


def lines_drawing(path: Path, units: int = 1, sheer_off: float = 0.0) -> dict[str, LayerRole]:
    """Linnet's lines drawn in inches: forward stations to the right, after ones to the left."""
    document = ezdxf.new("R2010")
    document.header["$INSUNITS"] = units
    space = document.modelspace()
    table = linnet().offsets
    roles: dict[str, LayerRole] = {}
    stations = sorted({r.station for r in table.rows if r.label == "keel"})
    for k, x in enumerate(stations):
        side = 1 if x < 2500 else -1
        points = [
            ((100 + side * r.half_breadth / MM_IN), 20 + r.height / MM_IN)
            for r in table.rows
            if r.station == x and r.label in ("keel", "wl", "sheer")
        ]
        if k % 2:
            space.add_lwpolyline(points[::-1], dxfattribs={"layer": f"ST{k}"})
        else:
            space.add_polyline2d(points, dxfattribs={"layer": f"ST{k}"})
        roles[f"ST{k}"] = LayerRole(Role.STATION, x)
    stem = [(r.station / MM_IN + 7, r.height / MM_IN + 90) for r in table.rows if r.label == "stem_bow"]
    for a, b in zip(stem[:-1], stem[1:], strict=True):
        space.add_line(a, b, dxfattribs={"layer": "STEM"})
    roles["STEM"] = LayerRole(Role.STEM_BOW)
    sheer = [
        (r.station / MM_IN + 7, (r.height + sheer_off * (r.station == 2500)) / MM_IN + 90) for r in table.rows if r.label == "sheer"
    ]
    space.add_lwpolyline(sheer, dxfattribs={"layer": "SHEER"})
    roles["SHEER"] = LayerRole(Role.SHEER_PROFILE)
    document.saveas(path)
    return roles


ORIGINS = Origins(100.0, 20.0, 7.0, 90.0, 0.0, True)


def test_a_lines_drawing_gives_its_own_points_back(tmp_path: Path) -> None:
    roles = lines_drawing(tmp_path / "lines.dxf", sheer_off=9.0)
    drawing = read_drawing(tmp_path / "lines.dxf")
    assert drawing.mm == MM_IN
    assert set(roles) == set(drawing.layers)
    taken = offsets_from_drawing(drawing, roles, ORIGINS, drawing.mm, 14.0)
    assert len(taken.remarks) == 1
    assert "Station 2500" in taken.remarks[0]
    assert "521.0" in taken.remarks[0]
    true = [r for r in linnet().offsets.rows if r.label != "transom"]
    assert len(true) == len(taken.table.rows)
    for a, b in zip(true, taken.table.rows, strict=True):
        assert a.label == b.label
        assert (a.station, a.half_breadth, a.height) == pytest.approx((b.station, b.half_breadth, b.height), abs=0.11)
    read_lines(taken.table)


def test_a_spline_and_both_sides_of_a_station_are_followed(tmp_path: Path) -> None:
    document = ezdxf.new("R2010")
    angles = np.linspace(-np.pi, 0, 25)
    for k in range(4):
        points = [(500 * np.cos(a), 500 * np.sin(a) + 500, 0) for a in angles]
        document.modelspace().add_spline(fit_points=points, dxfattribs={"layer": f"S{k}"})
    document.saveas(tmp_path / "s.dxf")
    drawing = read_drawing(tmp_path / "s.dxf")
    roles = {f"S{k}": LayerRole(Role.STATION, 500.0 * k) for k in range(4)}
    taken = offsets_from_drawing(drawing, roles, Origins(), 1.0)
    assert sum("both sides" in text for text in taken.remarks) == 4
    radii = [np.hypot(r.half_breadth, r.height - 500) for r in taken.table.rows]
    assert np.allclose(radii, 500.0, atol=0.3)


def test_a_drawing_without_units_says_so_and_a_broken_one_is_refused(tmp_path: Path) -> None:
    lines_drawing(tmp_path / "u.dxf", units=0)
    assert read_drawing(tmp_path / "u.dxf").mm is None
    (tmp_path / "bad.dxf").write_text("  0\nSECTION\n  2\nrubbish\n")
    (tmp_path / "text.dxf").write_text("hello")
    ezdxf.new("R2010").saveas(tmp_path / "empty.dxf")
    for name in ("bad.dxf", "text.dxf", "empty.dxf", "missing.dxf"):
        with pytest.raises(InputError):
            read_drawing(tmp_path / name)
    with pytest.raises(InputError, match="three stations"):
        offsets_from_drawing(LinesDrawing({"A": (np.zeros((2, 2)),)}, 1.0), {"A": LayerRole(Role.STATION, 1.0)}, Origins(), 1.0)


def test_corners_become_chines_only_where_every_station_has_them() -> None:
    def bent(width: float) -> np.ndarray:
        floor = np.linspace([0, 0], [width, 60], 40)
        side = np.linspace([width, 60], [width + 60, 400], 40)
        return np.concatenate([floor, side[1:]])

    chined = table_from_curves([StationCurve(x, bent(w)) for x, w in ((0, 300), (500, 400), (1000, 350))], [])
    assert [r.label for r in chined.table.rows].count("chine") == 3
    at = next(r for r in chined.table.rows if r.label == "chine")
    assert (at.half_breadth, at.height) == pytest.approx((300, 60), abs=0.2)
    smooth = np.array([[300 * np.sin(a), 300 - 300 * np.cos(a)] for a in np.linspace(0, 1.5, 60)])
    mixed = table_from_curves([StationCurve(0, bent(300)), StationCurve(500, smooth), StationCurve(900, smooth)], [])
    assert "chine" not in {r.label for r in mixed.table.rows}
    assert any("sharp corner" in text for text in mixed.remarks)
    assert reduced(smooth)[1] == ()


def test_a_chine_hull_read_from_a_mesh_keeps_its_chine() -> None:
    panels = hull_of_chine()
    skin = triangles(panels)
    taken = offsets_from_mesh(
        MeshHull(np.asarray(skin.vertices), np.asarray(skin.faces), False), Placing("x", "z", True, 1.0), 500.0
    )
    counts = {x: sum(r.label == "chine" for r in taken.table.rows if r.station == x) for x in (1500.0, 2000.0, 2500.0)}
    assert counts == {1500.0: 1, 2000.0: 1, 2500.0: 1}


def hull_of_chine() -> Hull:
    from hollow_keel.files.offsets.points_csv import read_offsets_csv

    return build_hull(read_lines(read_offsets_csv(Path(__file__).parents[1] / "data" / "single_chine.csv").table))


def test_json_keeps_texts_notes_and_lines(tmp_path: Path) -> None:
    job = pipit()
    noted = job.offsets.rows[3].model_copy(update={"notes": {"height": "read from the floor"}})
    table = job.offsets.with_row(3, noted)
    path = tmp_path / "p.json"
    path.write_text(write_offsets_json(table, job.name, job.waterline))
    back = job_from_offsets(path)
    assert back.offsets == table
    assert back.waterline == job.waterline


@pytest.mark.parametrize(
    ("text", "problem"),
    [
        ("{", "well-formed"),
        ("[]", "no offsets"),
        ('{"points": []}', "unit"),
        ('{"units":"mm","points":[{"label":"keel","station":1,"half_breadth":2}]}', "length is missing"),
        ('{"units":"mm","points":[{"label":"kiel","station":1,"half_breadth":2,"height":1}]}', "no such label"),
        ('{"units":"mm","points":[{"label":"keel","station":"x","half_breadth":2,"height":1}]}', "cannot be read"),
        ('{"units":"mm","points":[{"label":"keel","station":1,"half_breadth":-2,"height":1}]}', "negative"),
        ('{"units":"mm","points":[7]}', "no point"),
    ],
)
def test_bad_json_is_named(text: str, problem: str) -> None:
    with pytest.raises(InputError, match=problem):
        parse_offsets_json(text)


KEYS = st.sampled_from(["points", "units", "label", "station", "lines"])
LEAVES = st.none() | st.booleans() | st.floats(allow_nan=False) | st.text(max_size=8)


@given(st.recursive(LEAVES, lambda c: st.lists(c, max_size=4) | st.dictionaries(KEYS, c, max_size=4), max_leaves=12))
@settings(max_examples=80, deadline=None)
def test_any_json_is_read_or_refused(value: object) -> None:
    try:
        parse_offsets_json(json.dumps(value))
    except InputError as error:
        assert str(error)


def test_all_stations_on_one_layer_are_told_apart_by_the_body_plan() -> None:
    sections = read_lines(linnet().offsets).sections
    middle = max(range(len(sections)), key=lambda k: float(sections[k].points[-1, 1]))
    curves = []
    for k in np.random.default_rng(3).permutation(len(sections)):
        side = 1.0 if k <= middle else -1.0
        curves.append(sections[k].points[:, 1:] * [side, 1.0] + [40.0, 7.0])
    drawing = LinesDrawing({"BODY": tuple(curves)}, 1.0)
    origins = Origins(body_centreline=40.0, body_baseline=7.0)
    positions = tuple(s.x for s in sections)
    taken = offsets_from_drawing(drawing, {"BODY": LayerRole(Role.STATIONS, positions=positions)}, origins, 1.0)
    sheer = {r.station: (r.half_breadth, r.height) for r in taken.table.rows if r.label == "sheer"}
    assert sheer == {s.x: pytest.approx(tuple(s.points[-1, 1:]), abs=0.11) for s in sections}
    with pytest.raises(InputError, match=f"holds {len(sections)} curves"):
        offsets_from_drawing(drawing, {"BODY": LayerRole(Role.STATIONS, positions=(0.0, 1.0))}, origins, 1.0)
    far = Origins(body_centreline=-5000.0)
    with pytest.raises(InputError, match="on one side"):
        offsets_from_drawing(drawing, {"BODY": LayerRole(Role.STATIONS, positions=positions)}, far, 1.0)


@pytest.mark.parametrize(("code", "mm"), [(1, 25.4), (2, 12 * 25.4), (4, 1.0), (5, 10.0), (6, 1000.0), (0, None), (3, None)])
def test_the_unit_of_a_dxf_is_what_its_header_says(code: int, mm: float | None, tmp_path: Path) -> None:
    """Codes of the DXF reference ($INSUNITS, from memory): 1 inches, 2 feet, 4 mm, 5 cm, 6 m; miles (3) are no unit of a hull."""
    lines_drawing(tmp_path / "u.dxf", units=code)
    assert read_drawing(tmp_path / "u.dxf").mm == pytest.approx(mm)


def test_columns_are_named_as_spreadsheets_name_them() -> None:
    assert [letter(n) for n in (1, 26, 27, 52, 53, 702, 703)] == ["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"]
