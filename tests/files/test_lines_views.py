"""Lines drawings without a body plan, with raked transoms, as SVG, at a scale of paper. Truth is a hull given by a formula."""

from __future__ import annotations

from pathlib import Path

import ezdxf
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.open_any import AsRead, open_job
from hollow_keel.core.errors import InputError
from hollow_keel.core.geometry.arrays import Array
from hollow_keel.files.lines.drawing import LayerRole, LinesDrawing, Origins, Role, offsets_from_drawing, read_drawing
from hollow_keel.files.lines.views import crossings

LONG, BEAM, DEEP = 5000.0, 500.0, 400.0
X = np.linspace(0.0, LONG, 201)
ORIGINS = Origins(profile_zero=20.0, profile_baseline=100.0, plan_centreline=30.0)
PAPER = 10.0
"""mm of the hull for one mm of paper."""


def breadth(x: Array, z: float = DEEP) -> Array:
    """A hull whose waterlines are parabolas and whose sections are, lying."""
    result: Array = BEAM * (1 - (x / LONG * 2 - 1) ** 2) * np.sqrt(z / DEEP)
    return result


def views() -> dict[str, tuple[Array, Role, float]]:
    """Lines of profile (position, height) and plan (position, half-breadth), mm."""
    inside = X[1:-1]
    up = DEEP * (200.0 / breadth(inside)) ** 2
    return {
        "keel": (np.column_stack([X, 0 * X]), Role.KEEL_PROFILE, 0.0),
        "sheer up": (np.column_stack([X, 0 * X + DEEP]), Role.SHEER_PROFILE, 0.0),
        "sheer out": (np.column_stack([X, breadth(X)]), Role.SHEER_PLAN, 0.0),
        "wl 100": (np.column_stack([X, breadth(X, 100.0)]), Role.WATERLINE, 100.0),
        "wl 250": (np.column_stack([X, breadth(X, 250.0)]), Role.WATERLINE, 250.0),
        "but 200": (np.column_stack([inside, up])[up < DEEP], Role.BUTTOCK, 200.0),
    }


def on_paper(line: Array, role: Role) -> Array:
    base = ORIGINS.plan_centreline if role in (Role.SHEER_PLAN, Role.WATERLINE) else ORIGINS.profile_baseline
    return line / PAPER + [ORIGINS.profile_zero, base]


def as_svg(path: Path) -> dict[str, LayerRole]:
    """In mm of paper, y down, each line a path in a named group; the drawing is moved by a transform."""
    groups = []
    for name, (line, role, _) in views().items():
        points = " L ".join(f"{x:.4f},{200 - y:.4f}" for x, y in on_paper(line, role))
        groups.append(f'<g id="{name}"><path d="M {points}"/></g>')
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="600mm" height="200mm" viewBox="0 0 600 200">'
        f'<g transform="translate(0,-200)">{"".join(groups)}</g></svg>'
    )
    return {name: LayerRole(role, at) for name, (_, role, at) in views().items()}


def check(rows: list[tuple[float, str, float, float]]) -> None:
    for x, label, y, z in rows:
        if label != "keel":
            assert y == pytest.approx(float(breadth(np.array([x]), z)[0]), abs=0.6), (x, label)
        else:
            assert (y, z) == (0.0, 0.0)


def test_stations_are_taken_where_the_other_views_cross_them(tmp_path: Path) -> None:
    roles = as_svg(tmp_path / "lines.svg")
    drawing = read_drawing(tmp_path / "lines.svg")
    assert drawing.mm is None, "what paper says is not what the hull says"
    taken = offsets_from_drawing(drawing, roles, ORIGINS, PAPER, 0.0, 500.0)
    rows = [(r.station, r.label, r.half_breadth, r.height) for r in taken.table.rows]
    check(rows)
    assert sorted({r[0] for r in rows}) == [500.0 * k for k in range(1, 10)]
    assert [(p.kind.value, p.level) for p in taken.table.lines] == [("wl", 100.0), ("wl", 250.0), ("buttock", 200.0)]
    amidships = [r[1:] for r in rows if r[0] == 2500.0]
    assert [label for label, *_ in amidships] == ["keel", "wl", "wl", "wl", "sheer"]
    assert amidships[1][1:] == pytest.approx((200.0, DEEP * 0.16), abs=0.1), "the buttock lies below the first waterline"


def test_what_is_missing_is_named(tmp_path: Path) -> None:
    roles = as_svg(tmp_path / "lines.svg")
    drawing = read_drawing(tmp_path / "lines.svg")
    del roles["keel"], roles["sheer out"]
    with pytest.raises(InputError, match="the keel in profile and the sheer in the half-breadth plan"):
        offsets_from_drawing(drawing, roles, ORIGINS, PAPER, 0.0, 500.0)


def test_the_command_line_takes_a_drawing(tmp_path: Path) -> None:
    roles = as_svg(tmp_path / "lines.svg")
    said = {name: f"{role.role.name.lower().replace('_', '-')} {role.position:g}" for name, role in roles.items()}
    said |= {"profile_zero": "20", "profile_baseline": "100", "plan_centreline": "30", "every": "50 cm"}
    with pytest.raises(InputError, match="unit=mm"):
        open_job(tmp_path / "lines.svg", AsRead(said))
    with pytest.raises(InputError, match="keel, sheer out, sheer up"):
        open_job(tmp_path / "lines.svg", AsRead({"unit": "cm"}))
    with pytest.raises(InputError, match="keel-profile"):
        open_job(tmp_path / "lines.svg", AsRead({"unit": "cm", "keel": "backbone"}))
    job = open_job(tmp_path / "lines.svg", AsRead({**said, "unit": "cm"}))
    check([(r.station, r.label, r.half_breadth, r.height) for r in job.offsets.rows])


def test_views_that_are_not_those_of_the_body_plan_are_said() -> None:
    z = np.linspace(0.0, DEEP, 81)
    stations = {f"s{k}": np.column_stack([breadth(np.array([1000.0 * k]), 1.0) * np.sqrt(z), z]) for k in range(1, 5)}
    line = views()["wl 250"][0].copy()
    line[:, 1] += np.where(np.abs(line[:, 0] - 2000) < 300, 8.0, 0.0)
    layers = {name: (curve,) for name, curve in (*stations.items(), ("wl", line))}
    roles = {name: LayerRole(Role.STATION, 1000.0 * int(name[1])) for name in stations}
    taken = offsets_from_drawing(LinesDrawing(layers, 1.0), {**roles, "wl": LayerRole(Role.WATERLINE, 250.0)}, Origins(), 1.0)
    (said,) = [text for text in taken.remarks if "waterline" in text]
    true = float(breadth(np.array([2000.0]), 250.0)[0])
    assert said.startswith(f"Station 2000: waterline 250 gives a half-breadth of {true + 8:.1f}, the body plan {true:.1f}")


def test_a_transom_lies_along_its_rake() -> None:
    flat = np.column_stack([np.linspace(0, 300, 13), np.linspace(100, 500, 13)])
    stations = {f"s{k}": (np.column_stack([np.linspace(0, 400 + k, 9), np.linspace(0, 500, 9)]),) for k in range(4)}
    rake = np.array([[4900.0, 100.0], [5100.0, 500.0]])
    drawing = LinesDrawing({**stations, "t": (flat,), "tp": (rake,)}, 1.0)
    roles = {f"s{k}": LayerRole(Role.STATION, 1000.0 * k) for k in range(4)}
    roles |= {"t": LayerRole(Role.TRANSOM), "tp": LayerRole(Role.TRANSOM_PROFILE)}
    taken = offsets_from_drawing(drawing, roles, Origins(), 1.0)
    transom = [r for r in taken.table.rows if r.label == "transom"]
    assert len(transom) == 8
    for row in transom:
        assert row.station == pytest.approx(4900 + (row.height - 100) / 2, abs=0.11)
        assert row.half_breadth == pytest.approx((row.height - 100) * 0.75, abs=0.11)
    level = LinesDrawing({**stations, "t": (flat,), "tp": (rake * [1, 0],)}, 1.0)
    with pytest.raises(InputError, match="level"):
        offsets_from_drawing(level, roles, Origins(), 1.0)


def test_stations_all_on_one_side_are_taken_as_they_were_drawn(tmp_path: Path) -> None:
    document = ezdxf.new("R2010")
    for k in (1, 2, 3, 4):
        out = float(breadth(np.array([1000.0 * k]))[0])
        document.modelspace().add_line((0, 0), (out, 200 + k), dxfattribs={"layer": "S"})
        document.modelspace().add_line((out, 200 + k), (out, 400 + k), dxfattribs={"layer": "S"})
    document.saveas(tmp_path / "s.dxf")
    drawing = read_drawing(tmp_path / "s.dxf")
    role = {"S": LayerRole(Role.STATIONS, positions=(1000.0, 2000.0, 3000.0, 4000.0))}
    taken = offsets_from_drawing(drawing, role, Origins(), 1.0)
    heads = {r.station: (r.half_breadth, r.height) for r in taken.table.rows if r.label == "sheer"}
    for k in (1, 2, 3, 4):
        assert heads[1000.0 * k] == pytest.approx((float(breadth(np.array([1000.0 * k]))[0]), 400 + k), abs=0.1)
    assert any("in the order in which they were drawn" in text for text in taken.remarks)
    mixed = LinesDrawing({"S": (drawing.layers["S"][1], drawing.layers["S"][0], *drawing.layers["S"][2:])}, 1.0)
    with pytest.raises(InputError, match="not in order"):
        offsets_from_drawing(mixed, role, Origins(), 1.0)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.integers(-20, 20), st.integers(-20, 20)), min_size=2, max_size=12), st.integers(-20, 20))
def test_a_line_is_crossed_where_it_crosses(points: list[tuple[int, int]], x: int) -> None:
    """Between whole positions every piece that goes from one side to the other is met once, at its place."""
    line, place = np.array(points, dtype=float), x + 0.5
    wanted = []
    for (x0, y0), (x1, y1) in zip(points[:-1], points[1:], strict=True):
        if (x0 < place) != (x1 < place):
            wanted.append(y0 + (place - x0) * (y1 - y0) / (x1 - x0))
    assert crossings(line, place) == pytest.approx(sorted({round(v, 6) for v in wanted}))


EMPTY = "<svg xmlns='http://www.w3.org/2000/svg'/>"


@pytest.mark.parametrize("text", ["", "<svg", EMPTY, "no drawing", "<svg><path d='M 0 0 Q'/></svg>"])
def test_what_is_no_svg_is_refused(tmp_path: Path, text: str) -> None:
    (tmp_path / "a.svg").write_text(text)
    with pytest.raises(InputError):
        read_drawing(tmp_path / "a.svg")
