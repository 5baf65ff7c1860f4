"""Tables rounded to 0.1 mm, read as any builder's table, against the truth beside them (tests/data/README.md)."""

from __future__ import annotations

import json
import math
from functools import cache
from typing import Any

import numpy as np
import pytest

from hollow_keel.app.open_any import open_job
from hollow_keel.app.overrides import apply_override
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.files.plan_json import plan_document
from tests.conftest import DATA

TRUTH = json.loads((DATA / "truth.json").read_text())


@cache
def plan(case: str) -> dict[str, Any]:
    job = open_job(DATA / f"{case}.csv")
    for key, value in TRUTH[case]["set"].items():
        job = apply_override(job, key, value)
    return plan_document(Pipeline().results(job))


@pytest.mark.parametrize(
    ("case", "share"), [("cone", 0.002), ("spheroid", 0.005), ("double_ender", 0.002), ("single_chine", 0.002)]
)
def test_volume_and_area(case: str, share: float) -> None:
    hull, truth = plan(case)["hull"], TRUTH[case]
    assert hull["volume"] == pytest.approx(truth["volume"], rel=share)
    if "wetted_area" in truth:
        assert hull["wetted_area"] == pytest.approx(truth["wetted_area"], rel=share)


@pytest.mark.parametrize("case", ["cone", "spheroid", "double_ender"])
def test_girths(case: str) -> None:
    found = {f"{g['station']:g}": g["half_girth"] for g in plan(case)["hull"]["girths"]}
    for station, girth in TRUTH[case]["half_girth"].items():
        assert found[station] == pytest.approx(girth, abs=0.2)


@pytest.mark.parametrize("case", ["spheroid", "double_ender"])
def test_molds(case: str) -> None:
    molds = {m["station"]: m for m in plan(case)["molds"]}
    for truth in TRUTH[case]["molds"]:
        mold = molds[truth["face_x_mm"]]
        points = np.array(mold["points"])
        assert len(points) >= 60
        found = np.interp(truth["height_mm"], points[:, 1], points[:, 0])
        square = (found - truth["mold_half_breadth_mm"]) / math.hypot(1, truth["dy_dz"])
        blunt = case == "spheroid" and truth["face_x_mm"] in (600.0, 3900.0)
        assert abs(square) < (1.5 if blunt else 0.15)
        bevel = np.interp(truth["height_mm"], points[:, 1], mold["bevels"])
        forefoot = case == "double_ender" and (truth["face_x_mm"], truth["height_mm"]) == (480.0, 120)
        assert bevel == pytest.approx(truth["bevel_deg"], abs=0.8 if blunt else 0.5 if forefoot else 0.3)


def test_cone_molds_and_strips() -> None:
    document, truth = plan("cone"), TRUTH["cone"]
    for station, radius in truth["mold_radius"].items():
        mold = next(m for m in document["molds"] if m["station"] == float(station))
        assert np.hypot(*np.array(mold["points"]).T) == pytest.approx(np.full(len(mold["points"]), radius), abs=0.1)
        assert mold["bevels"] == pytest.approx([9.0] * len(mold["bevels"]), abs=0.05)
    assert document["strips"]["per_side"] == truth["strips_per_side"]
    strips = document["strips"]["strips"]
    for k, length in truth["edge_lengths"].items():
        found = strips[0]["guide_edge"] if k == "0" else strips[int(k) - 1]["far_edge"]
        assert found == pytest.approx(length, abs=0.3)


def test_spheroid_strip_count() -> None:
    assert plan("spheroid")["strips"]["per_side"] == TRUTH["spheroid"]["strips_per_side"]


def test_double_ender_strips() -> None:
    document, truth = plan("double_ender")["strips"], TRUTH["double_ender"]["strips"]
    assert document["per_side"] == truth["count_per_side"]
    assert document["full_length"] == truth["full_length_count"]
    strips = document["strips"]
    assert strips[0]["guide_edge"] == pytest.approx(truth["edge_0"][0]["length_mm"], abs=0.2)
    for k in (1, 9, 10):
        edge = truth[f"edge_{k}"][0]
        strip = strips[k - 1]
        assert strip["far_edge"] == pytest.approx(edge["length_mm"], abs=0.3)
        assert (strip["starts"], strip["ends"]) == ("stem_bow", "stem_stern")
        assert strip["max_edge_set"] == pytest.approx(edge["max_edge_set_central90_per_m"], abs=0.003)
    last = truth["last_edge"][0]
    assert strips[truth["last_edge_index"] - 1]["far_edge"] == pytest.approx(last["length_mm"], abs=1.5)
    assert (strips[-1]["starts"], strips[-1]["ends"]) == ("keel", "keel")


def test_single_chine_is_planked_panel_by_panel() -> None:
    document = plan("single_chine")
    texts = " ".join(w["text"] for w in document["warnings"])
    assert "knuckle" in texts
    assert document["strips"]["strips"][0]["starts"] == "stem_bow"
