"""Decks out of meshes and lines drawings: a known deck goes in, the same comes out; a lid is no deck."""

from __future__ import annotations

from pathlib import Path

import ezdxf
import numpy as np
import pytest

from hollow_keel.app.picking import STATION, Picking, Target
from hollow_keel.core.change import change
from hollow_keel.core.hull.deck import Deck
from hollow_keel.core.hull.stages import DECK, HULL, MEASURES
from hollow_keel.core.job import Job
from hollow_keel.core.molds.shape import sections_outside
from hollow_keel.core.offsets.over_deck import parted
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.lines.drawing import LayerRole, Origins, Role, offsets_from_drawing, read_drawing
from hollow_keel.files.mesh.hull import MeshHull, likely_placing, read_mesh
from hollow_keel.files.mesh.offsets import offsets_from_mesh

from ..shapes import written
from .test_drawings_in import triangles


@pytest.fixture(scope="module")
def job() -> Job:
    return change(demo_job("teasel"), "deck", openings=())


@pytest.fixture(scope="module")
def results(job: Job) -> Results:
    return Pipeline().results(job, [DECK, HULL, MEASURES])


def deck_of(table: OffsetsTable) -> Deck:
    deck: Deck = Pipeline().results(Job(offsets=table, waterline=105.0), [DECK])[DECK]
    return deck


def test_a_mesh_of_hull_and_deck_comes_back_with_its_deck(job: Job, results: Results, tmp_path: Path) -> None:
    path = tmp_path / "decked.obj"
    path.write_bytes(written("decked-obj", job))
    mesh = read_mesh(path)
    taken = offsets_from_mesh(mesh, likely_placing(mesh), 300.0)
    assert any("go on over a deck" in text for text in taken.remarks)
    back = Pipeline().results(Job(offsets=taken.table, waterline=105.0), [DECK, MEASURES])
    assert back[MEASURES].volume == pytest.approx(results[MEASURES].volume, rel=0.006)
    assert back[DECK].area == pytest.approx(results[DECK].area, rel=0.005)


def test_a_lid_is_no_deck() -> None:
    """A hull closed by a level lid so that its volume can be told: an open boat all the same."""
    points = np.array([[0.0, 0.0], [200.0, 20.0], [300.0, 150.0], [310.0, 300.0], [150.0, 300.5], [0.0, 301.0]])
    dense = np.column_stack([np.interp(np.linspace(0, 5, 101), np.arange(6), points[:, k]) for k in (0, 1)])
    hull, deck = parted(dense)
    assert deck is None
    assert hull[-1] == pytest.approx([310.0, 300.0], abs=5.0)
    crowned = dense.copy()
    inner = crowned[:, 1] >= 300
    crowned[inner, 1] += 40 * (1 - (crowned[inner, 0] / 310.0) ** 2)
    assert parted(crowned)[1] is not None


def test_a_closed_model_of_an_open_boat_stays_open() -> None:
    hull = Pipeline().results(demo_job("linnet"), [HULL])[HULL]
    solid = triangles(hull, deck=True)
    mesh = MeshHull(np.asarray(solid.vertices), np.asarray(solid.faces), True)
    taken = offsets_from_mesh(mesh, likely_placing(mesh), 400.0)
    assert not taken.table.has_deck


def test_a_body_plan_whose_sections_are_closed(results: Results, tmp_path: Path) -> None:
    """Each section drawn in one line from keel over the sheer to the deck's centreline, from either end."""
    stations = [600.0, 1200.0, 1800.0, 2400.0, 3000.0, 3600.0]
    document = ezdxf.new()
    document.header["$INSUNITS"] = 4
    sides = sections_outside(results[HULL], stations)
    tops = sections_outside(results[DECK].surface, stations)
    for k, (x, side, top) in enumerate(zip(stations, sides, tops, strict=True)):
        line = np.concatenate([side, top[1:]])
        document.layers.add(f"S{x:g}")
        document.modelspace().add_lwpolyline(line[::-1] if k % 2 else line, dxfattribs={"layer": f"S{x:g}"})
    path = tmp_path / "lines.dxf"
    document.saveas(path)
    drawing = read_drawing(path)
    roles = {f"S{x:g}": LayerRole(Role.STATION, x) for x in stations}
    taken = offsets_from_drawing(drawing, roles, Origins(), 1.0, 8.0)
    deck = deck_of(taken.table)
    for x, top in zip(stations[1:-1], tops[1:-1], strict=True):
        own = next(s for s in deck.surface.lines.stations if s.x == x)
        assert own.points[0, 1:] == pytest.approx(top[0], abs=1.0)
        assert own.points[-1, 1:] == pytest.approx(top[-1], abs=0.2)


def picked(points: list[tuple[float, float]], station: float) -> Picking:
    """A picture at a millimetre a pixel, its y axis down, picked along a station."""
    picking = Picking(half_siding=8.0)
    picking.set_mark(0, (0.0, 1000.0), (0.0, 0.0))
    picking.set_mark(1, (1000.0, 1000.0), (1000.0, 0.0))
    picking.target = Target(STATION, station)
    for y, z in points:
        picking.pick(y, 1000.0 - z)
    return picking


def test_a_station_picked_on_over_the_deck_has_its_deck() -> None:
    """From keel over the sheer (its sharpest corner) to the centreline; the last pick need not hit the centreline to a hair."""
    points = [(8.0, 0.0), (150.0, 20.0), (260.0, 90.0), (300.0, 240.0), (200.0, 290.0), (100.0, 310.0), (1.0, 315.0)]
    rows = picked(points, 1500.0).rows(Target(STATION, 1500.0))
    assert [r.label for r in rows] == ["keel", "wl", "wl", "sheer", "deck", "deck", "deck_centre"]
    assert (rows[3].half_breadth, rows[3].height) == pytest.approx((300.0, 240.0), abs=0.1)
    assert rows[-1].half_breadth == 0.0
    back = picked(points[::-1], 1500.0).rows(Target(STATION, 1500.0))
    assert [r.label for r in back] == [r.label for r in rows]


def test_picking_one_station_leaves_the_other_decks_alone(job: Job) -> None:
    points = [(8.0, 10.0), (150.0, 30.0), (240.0, 100.0), (270.0, 230.0)]
    table = picked(points, 2000.0).onto(job.offsets)
    own = [r.label for r in table.rows if r.station == 2000.0]
    assert own == ["keel", "wl", "wl", "sheer"]
    others = [r for r in job.offsets.rows if r.station not in (2000.0,)]
    assert [r for r in table.rows if r.station != 2000.0] == others
