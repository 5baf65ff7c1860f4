"""What veneers are asked on surfaces whose curvature is known in closed form, and that it does not hang on how densely a seam is
told."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.veneers.asked import STRETCH_MM, asked_of, turned
from hollow_keel.core.veneers.beyond import carried_on, past_of
from hollow_keel.core.veneers.faces import Face, faces_between
from hollow_keel.core.veneers.lines import Lines
from hollow_keel.core.veneers.seams import Seam, seams_over, set_off
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.demo.jobs import demo_job
from tests.core.veneers.test_veneers import RADIUS, cylinder, globe, laid


def arc(radius: float, turn: float, step: float = 5.0) -> np.ndarray:
    angle = np.linspace(0.0, turn, max(round(radius * turn / step), 3))
    return radius * np.column_stack([np.cos(angle), np.sin(angle), np.zeros_like(angle)])


def bend(*lines: np.ndarray) -> list[float]:
    found: list[float] = turned(Lines.together(lines, [line[:, :2] for line in lines])).tolist()
    return found


def test_a_round_is_bent_as_its_radius_and_a_straight_line_not_at_all() -> None:
    assert bend(arc(800.0, 1.0)) == pytest.approx([1 / 800.0], rel=1e-4)
    straight = np.column_stack([np.linspace(0, 500, 30) ** 1.1, np.zeros(30), np.zeros(30)])
    assert bend(straight) == pytest.approx([0.0], abs=1e-12)
    assert bend(np.zeros((1, 3))) == [0.0]
    point, way = np.zeros((1, 3)), np.array([[0.0, 0.0, 0.0], [50.0, 0.0, 0.0]])
    together = bend(point, arc(800.0, 1.0), way, arc(300.0, 0.1), point, straight, arc(500.0, 1.0), way, point)
    assert together == pytest.approx([0.0, 1 / 800, 0.0, 1 / 300, 0.0, 0.0, 1 / 500, 0.0, 0.0], rel=1e-3, abs=1e-12)


def test_a_corner_is_its_angle_over_the_stretch_however_sharp_it_is() -> None:
    """Two straight ends with a round of 0.3 between them: of 2 mm radius or of 20 they ask the same of the wood. The truth is the
    angle over 60 mm, less the half places of 5 mm on both sides."""
    for radius in (2.0, 20.0):
        bow = arc(radius, 0.3, 0.5)
        end = np.array([-math.sin(0.3), math.cos(0.3), 0.0])
        before = bow[0] - np.arange(200, 0, -5)[:, None] * np.array([0.0, 1.0, 0.0])
        after = bow[-1] + np.arange(5, 200, 5)[:, None] * end
        assert bend(np.concatenate([before, bow, after])) == pytest.approx([0.3 / STRETCH_MM], rel=1e-3)


def test_what_is_shorter_than_a_stretch_is_asked_as_a_whole() -> None:
    assert bend(arc(90.0, 0.3, 1.0)) == pytest.approx([1 / 90.0], rel=1e-3)


@pytest.mark.parametrize("degrees", [0.0, 30.0, 45.0, 90.0])
def test_on_a_cylinder(degrees: float) -> None:
    """Euler's theorem (any textbook of differential geometry): a line at an angle a to the axis is bent by sin² a / R, square to it
    the surface by cos² a / R; a cylinder is bent one way only."""
    turn = math.radians(degrees)
    for veneer in laid(cylinder(), degrees)[3:-3]:
        assert veneer.bend == pytest.approx(math.sin(turn) ** 2 / RADIUS, rel=2e-3, abs=1e-8)
        assert veneer.across == pytest.approx(math.cos(turn) ** 2 / RADIUS, rel=2e-3, abs=1e-8)
        assert veneer.strain < 1e-8


def test_on_a_sphere_every_way_is_as_bent() -> None:
    for veneer in laid(globe(4000.0, 0.5), 35.0)[3:-3]:
        assert veneer.bend == pytest.approx(1 / 4000.0, rel=2e-3)
        assert veneer.across == pytest.approx(1 / 4000.0, rel=2e-3)
        assert veneer.strain == pytest.approx(veneer.width**2 / 8 / 4000.0**2, rel=5e-3)


def faces_of_the_launch() -> tuple[TensorSurface, list[Face]]:
    job = demo_job("sedge")
    hull = Pipeline().value(job, HULL)
    surface = carried_on(hull.panels[0].surface, 4.5, past_of(hull, job.veneers, True)).surface
    back, ahead = faces_between(*seams_over(surface, set_off(surface, 0.5, 0.5, 0.8), 100.0, lambda: None))
    return surface, back + ahead


def test_it_does_not_hang_on_how_densely_a_seam_is_told() -> None:
    """Before a stem, where the surface is uneven, too: a veneer was bent to 78 % of what breaks it or not, by where it was looked
    at."""
    surface, faces = faces_of_the_launch()
    thinned: dict[int, Seam] = {}

    def thin(seam: Seam) -> Seam:
        on = np.flatnonzero(seam.on) if seam.on.any() else np.arange(len(seam.on))
        kept = np.union1d(on[::2], on[-1:])
        return thinned.setdefault(id(seam), replace(seam, uv=seam.uv[kept], points=seam.points[kept], on=seam.on[kept]))

    fewer = [Face(f.shape, thin(f.straight), None if f.scribed is None else thin(f.scribed)) for f in faces]
    full, half = asked_of(surface, faces), asked_of(surface, fewer)
    long = [k for k, face in enumerate(faces) if face.straight.on.sum() > 10]
    off = np.array([abs(half[k].bend / full[k].bend - 1) for k in long])
    assert len(off) > 40
    assert np.median(off) < 0.005
    assert off.max() < 0.15


def test_findings_of_the_launch_are_those_of_her_page() -> None:
    """What a change of how layers are worked out must not change unseen: as they were looked at on the page."""
    plans = Pipeline().value(demo_job("sedge"), LAYERS)
    assert [[f.code for f in plan.findings] for plan in plans] == [
        ["veneer-misfit", "veneer-wide"],
        ["veneer-misfit", "veneer-wide"],
        ["veneer-wide", "spiling"],
    ]
