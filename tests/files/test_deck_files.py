"""What is written of a deck, read back with general-purpose libraries."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import trimesh
from pypdf import PdfReader

from hollow_keel.cli import main
from hollow_keel.core.deck.openings import saved_by_strip
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN
from hollow_keel.core.hull.stages import DECK, MEASURES
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.store.job_file import load_job, save_job

from ..shapes import written


@pytest.fixture(scope="module")
def job() -> Job:
    return demo_job("teasel")


@pytest.fixture(scope="module")
def results(job: Job) -> Results:
    return Pipeline().results(job, [DECK_PLAN, DECK_OPENINGS, DECK, MEASURES])


@pytest.fixture(scope="module")
def document(job: Job) -> dict:  # type: ignore[type-arg]
    found: dict = json.loads(written("plan-json", job))  # type: ignore[type-arg]
    return found


def test_the_plan_file_has_its_deck(document: dict, results: Results) -> None:  # type: ignore[type-arg]
    deck = document["deck"]
    assert deck["area"] == pytest.approx(results[DECK].area, abs=1e-6)
    assert deck["strips"]["per_side"] == len(results[DECK_PLAN].planking.strips)
    assert len(deck["molds"]) == len(document["molds"]) == 14
    for mold, own in zip(deck["molds"], document["molds"], strict=True):
        assert mold["corner"] == own["points"][-1], "the hull's part ends where the deck's begins"
        assert mold["points"][0] == mold["corner"]
        assert mold["points"][-1][0] == 0
    assert {o["name"] for o in deck["openings"]} == {"cockpit", "hatch"}
    assert len(deck["ways_out"]) == 14
    assert deck["join"]["bands"] == pytest.approx(4 * deck["join"]["length"], abs=0.01)


def test_a_plan_without_a_deck_says_so() -> None:
    assert json.loads(written("plan-json", demo_job("pipit")))["deck"] == {}


def test_the_strips_as_csv(job: Job, results: Results) -> None:
    rows = list(csv.reader(io.StringIO(written("deck-csv", job).decode())))
    strips = results[DECK_PLAN].planking.strips
    assert [row[0] for row in rows[1:]] == [str(s.number) for s in strips]
    assert float(rows[1][1]) == pytest.approx(strips[0].length, abs=0.3)
    saved = saved_by_strip(results[DECK_OPENINGS].openings)
    port = rows[0].index("left out for openings, port mm")
    assert sum(float(row[port]) for row in rows[1:] if row[port]) == pytest.approx(
        sum(v for (_, side), v in saved.items() if side == "port"), abs=5
    )


def test_templates_are_at_full_size(job: Job, tmp_path: Path) -> None:
    path = tmp_path / "openings.dxf"
    path.write_bytes(written("openings-dxf", job))
    lines = [e for e in ezdxf.readfile(path).modelspace() if e.dxftype() == "LWPOLYLINE" and e.closed]
    sizes = sorted(np.ptp(np.array([p[:2] for p in e.get_points()]), axis=0).tolist() for e in lines)
    assert any(size == pytest.approx([820.0, 400.0], abs=1.0) for size in sizes)
    assert any(size == pytest.approx([820.0 + 44, 400.0 + 44], abs=1.5) for size in sizes)
    pages = PdfReader(io.BytesIO(written("openings-pdf", job))).pages
    assert len(pages) >= 2


def test_hull_and_deck_are_one_closed_shell(job: Job, results: Results, tmp_path: Path) -> None:
    """As OBJ: its area is the hull's skin and the deck's, by a general mesh library."""
    path = tmp_path / "decked.obj"
    path.write_bytes(written("decked-obj", job))
    mesh = trimesh.load(path, force="mesh", process=False)
    assert mesh.area * 1e-6 == pytest.approx(results[MEASURES].planked_area + results[DECK].area, rel=3e-3)
    assert mesh.bounds[1][2] > 300


def test_the_command_line_gives_a_hull_a_deck(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "open.hkeel"
    save_job(demo_job("pipit"), path)
    out = tmp_path / "plan.json"
    code = main(
        ["plan", str(path), "--out", str(out), "--set", "deck=camber", "--set", "deck.crown=2in", "--set", "deck.king=60mm"]
    )
    assert code == 0
    deck = json.loads(out.read_text())["deck"]
    assert deck["strips"]["per_side"] > 10
    assert {s["ends"] for s in deck["strips"]["strips"]} >= {"king"}


def test_a_decked_job_comes_back_as_it_was(job: Job, tmp_path: Path) -> None:
    path = tmp_path / "teasel.hkeel"
    save_job(job, path)
    loaded = load_job(path)
    assert getattr(loaded, "job", loaded) == job
