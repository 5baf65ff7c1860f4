from __future__ import annotations

import csv
import json
import zipfile
from pathlib import Path

import pytest

from hollow_keel.app.open_any import open_job
from hollow_keel.app.overrides import apply_override
from hollow_keel.cli import main
from hollow_keel.core.change import change
from hollow_keel.core.molds.printed import changed_since, printed_now
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job, linnet
from hollow_keel.files.offsets.points_csv import write_offsets_csv
from hollow_keel.files.store.job_file import save_job
from tests.conftest import DATA
from tests.shapes import unworked

FIELDS = {"schema", "units", "offsets", "hull", "molds", "setup", "strips", "stock", "warnings"}


def test_plan_to_standard_output(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", str(DATA / "cone.csv"), "--set", "skin=10mm", "--set", "strip.width=1 1/2in"]) == 0
    document = json.loads(capsys.readouterr().out)
    assert set(document) >= FIELDS
    assert document["strips"]["strips"][0]["width_max"] == pytest.approx(38.1)
    assert document["offsets"]["points"] == 90


def test_plan_of_a_job_file(tmp_path: Path) -> None:
    save_job(linnet(), tmp_path / "a.hkeel")
    assert main(["plan", str(tmp_path / "a.hkeel"), "--out", str(tmp_path / "plan.json")]) == 0
    document = json.loads((tmp_path / "plan.json").read_text())
    assert document["strips"]["per_side"] == 65
    assert len(document["molds"]) == 12
    assert document["setup"]["marks"][5]["gap_to_next"] == pytest.approx(376)


def test_every(tmp_path: Path) -> None:
    assert main(["plan", str(DATA / "cone.csv"), "--set", "mold.stations=every:1m", "--out", str(tmp_path / "p.json")]) == 0
    document = json.loads((tmp_path / "p.json").read_text())
    assert [m["station"] for m in document["molds"]] == [1000, 2000, 3000, 4000]


def test_bad_input_says_where_and_writes_nothing(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    bad = tmp_path / "bad.csv"
    bad.write_text("station_mm,label,half_breadth_mm,height_mm\n100,wl,twelve,7\n")
    out = tmp_path / "plan.json"
    assert main(["plan", str(bad), "--out", str(out)]) == 2
    said = capsys.readouterr().err
    for word in ("bad.csv", "row 2", "half_breadth", "twelve"):
        assert word in said
    assert not out.exists()


@pytest.mark.parametrize(
    ("arguments", "code"),
    [
        (["plan", "nowhere.csv"], 2),
        (["plan", str(DATA / "cone.csv"), "--set", "skin"], 2),
        (["plan", str(DATA / "cone.csv"), "--set", "skin=-3mm"], 2),
        (["plan", str(DATA / "cone.csv"), "--set", "strip.width=9m"], 3),
        (["export", str(DATA / "cone.csv"), "--kind", "poem", "--out", "x"], 2),
        (["export", str(DATA / "cone.csv"), "--kind", "setup-pdf", "--set", "mold.stations=9000", "--out", "x"], 3),
        (["demo", "nonesuch"], 2),
        (["one.csv", "two.csv"], 2),
    ],
)
def test_exit_codes(arguments: list[str], code: int, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(arguments) == code
    said = capsys.readouterr().err
    assert said
    assert "Traceback" not in said


def test_export_of_strips(tmp_path: Path) -> None:
    out = tmp_path / "strips.csv"
    assert (
        main(["export", str(DATA / "double_ender.csv"), "--kind", "strips-csv", "--set", "strip.width=20mm", "--out", str(out)])
        == 0
    )
    rows = list(csv.reader(out.read_text().splitlines()))
    assert rows[0][0] == "strip"
    assert len(rows) == 40
    assert rows[1][5:7] == ["stem", "sternpost"]


def test_molds_are_written_though_the_strips_cannot_be_laid(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    save_job(linnet(), tmp_path / "a.hkeel")
    wide = ["--set", "strip.width=5m"]
    out = tmp_path / "molds.dxf"
    assert main(["export", str(tmp_path / "a.hkeel"), *wide, "--kind", "molds-dxf", "--out", str(out)]) == 0
    assert out.stat().st_size > 10_000
    other = tmp_path / "strips.csv"
    assert main(["export", str(tmp_path / "a.hkeel"), *wide, "--kind", "strips-csv", "--out", str(other)]) != 0
    assert "(5000 mm) is wider than the whole girth" in capsys.readouterr().err
    assert not other.exists()


def test_export_into_a_folder_that_is_not_there(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "none" / "strips.csv"
    assert main(["export", str(DATA / "cone.csv"), "--kind", "strips-csv", "--out", str(out)]) == 2
    assert "cannot be written" in capsys.readouterr().err


@pytest.mark.parametrize("name", ["linnet", "pipit", "teasel", "sedge"])
def test_a_plain_table_gives_patterns_at_the_first_try(name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Without a set-up of the builder's own there is one that all molds can be cut for; another than the usual one is said."""
    job = demo_job(name)
    table = tmp_path / "own.csv"
    table.write_text(write_offsets_csv(job.offsets, name, job.waterline))
    out = tmp_path / "molds.csv"
    assert main(["export", str(table), "--kind", "bevels-csv", "--out", str(out)]) == 0
    written = {row["mold"] for row in csv.DictReader(out.read_text().splitlines())}
    assert written == {mold.name for mold in Pipeline().shape(open_job(table)).molds.molds}
    said = capsys.readouterr().err
    assert ("The molds are set on" in said) == (name != "sedge")


def test_molds_that_cannot_be_cut_leave_the_others(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A beam that the builder has chosen breaks out of some molds: the others are written, these are named, and the exit code says
    that something is missing."""
    job = demo_job("linnet")
    table = tmp_path / "own.csv"
    table.write_text(write_offsets_csv(job.offsets, "own", job.waterline))
    asked, mend = ["--set", "setup.beam-width=80mm"], "Stand them on a table"
    shape = Pipeline().shape(apply_override(open_job(table), "setup.beam-width", "80mm"))
    bad = {name for name, piece in shape.pieces.items() if piece.why_not is not None}
    assert bad
    for kind in ("bevels-csv", "prick-csv", "molds-pdf", "molds-dxf", "molds-svg", "parts-dxf"):
        out = tmp_path / f"a.{kind}"
        assert main(["export", str(table), "--kind", kind, "--out", str(out), *asked]) == 4
        said = capsys.readouterr().err
        assert all(f"left out: mold {name}:" in said for name in bad)
        assert f"{mend}: --set setup.strongback=table" in said
        if kind.endswith("csv"):
            assert {row["mold"] for row in csv.DictReader(out.read_text().splitlines())} == {
                m.name for m in shape.molds.molds
            } - bad
    with zipfile.ZipFile(tmp_path / "a.parts-dxf") as parts:
        held = " ".join(parts.namelist())
        assert not any(f"mold-{name}." in held for name in bad)
    odd = [*asked, "--set", "setup.waterline-above=20mm"]
    assert main(["export", str(table), "--kind", "bevels-csv", "--out", str(out), *odd]) in (3, 4)
    assert "Let the height be fitted: --set setup.waterline-above=none" in capsys.readouterr().err
    assert main(["export", str(table), "--kind", "setup-pdf", "--out", str(tmp_path / "s.pdf"), *asked]) == 0
    mended = [*asked, "--set", "setup.strongback=table"]
    assert main(["export", str(table), "--kind", "bevels-csv", "--out", str(out), *mended]) == 0
    everything = [*asked, "--set", "skin=700mm"]
    assert main(["export", str(table), "--kind", "bevels-csv", "--out", str(out), *everything]) == 3


@pytest.mark.parametrize(
    ("setting", "words"),
    [
        ("skin=-5", "“-5 mm”"),
        ('deck.openings=[{"length": -5}]', "“-5 mm”"),
        ('deck.openings=[{"lenght": 5}]', "“lenght”"),
        ("deck.openings=[{", "not JSON"),
        ("waterline=-99999999", "mm”"),
    ],
)
def test_what_cannot_be_set_is_said_with_units(setting: str, words: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", str(DATA / "spheroid.csv"), "--set", setting]) == 2
    said = capsys.readouterr().err
    assert words in said
    assert setting.partition("=")[0] in said
    assert not set("⟨⟩⟦⟧") & set(said), "amounts are written, not marked"


def test_what_was_left_out_is_not_remembered_as_printed() -> None:
    """Nor is it asked to be printed too, as long as it cannot be cut; once it can, it is."""
    asked = change(unworked(demo_job("linnet")), "setup", beam_width=400.0)
    shape = Pipeline().shape(asked)
    bad = {name for name, piece in shape.pieces.items() if piece.why_not is not None}
    pieces = list(shape.pieces.values())
    printed = printed_now(shape.molds.molds, pieces)
    assert bad
    assert {p.mold for p in printed} == {m.name for m in shape.molds.molds} - bad
    assert not changed_since(printed, shape.molds.molds, pieces)
    mended = Pipeline().shape(change(asked, "setup", strongback="table"))
    said = changed_since(printed, mended.molds.molds, list(mended.pieces.values()))
    assert any("print them too" in finding.text for finding in said)
