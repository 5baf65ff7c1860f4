"""What comes from outside: numbers and texts that no boat has, devices in place of files, an output that cannot be written."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.app.open_any import open_job
from hollow_keel.core.errors import InputError
from hollow_keel.core.units import parse_length
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.offsets.plan import parse_offsets_json, write_offsets_json
from hollow_keel.files.offsets.points_csv import write_offsets_csv
from hollow_keel.files.store.job_file import VERSION, job_text, load_job, save_job
from hollow_keel.files.store.plain_json import read_json

LONG = "9" * 5000


def test_a_number_of_thousands_of_digits_is_refused_in_words(tmp_path: Path) -> None:
    path = tmp_path / "big.hkeel"
    path.write_text(job_text(demo_job("pipit")).replace(f'"version": {VERSION}', f'"version": {LONG}', 1))
    with pytest.raises(InputError, match="damaged"):
        load_job(path)
    with pytest.raises(InputError, match="5000 digits"):
        parse_offsets_json(f'{{"units": "mm", "points": [{{"station": {LONG}}}]}}')


@pytest.mark.parametrize("text", [f"1/{'9' * 400}", f"{LONG}mm", "1e400", "1" * 400, f"{'9' * 150}/{'9' * 10}"])
def test_a_length_out_of_all_reason_is_refused_or_read(text: str) -> None:
    try:
        assert abs(parse_length(text)) < float("inf")
    except InputError as error:
        assert error.mend


@pytest.mark.parametrize(("text", "value"), [("1e-05", 1e-5), ("1e16", 1e16), ("2.5E+2 mm", 250.0), ("1e-1in", 2.54)])
def test_numbers_as_programs_write_them_are_read(text: str, value: float) -> None:
    assert parse_length(text) == pytest.approx(value)


@given(st.floats(-1e5, 1e5))
def test_every_number_that_we_write_as_json_we_read(value: float) -> None:
    document = json.loads(write_offsets_json(demo_job("pipit").offsets, "x", None))
    document["points"][3]["height"] = value
    assert parse_offsets_json(json.dumps(document)).table.rows[3].height == pytest.approx(value, abs=1e-9)


def test_halves_of_characters_can_be_saved_again(tmp_path: Path) -> None:
    document = json.loads(job_text(demo_job("pipit")))
    document["job"]["name"] = "a\ud800b"
    path = tmp_path / "half.hkeel"
    path.write_text(json.dumps(document))
    job = load_job(path)
    assert job.name == "a\ufffdb"
    save_job(job, path)
    assert load_job(path) == job


@given(st.text(max_size=60))
def test_any_text_is_json_or_refused(text: str) -> None:
    try:
        read_json(text)
    except InputError as error:
        assert error.mend
    assert read_json(json.dumps(text)).encode("utf-8") is not None  # it can be written again


def test_devices_and_pipes_are_no_files(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe.hkeel"
    os.mkfifo(pipe)
    for path in (pipe, Path("/dev/zero"), Path("/dev/null")):
        with pytest.raises(InputError, match="no file"):
            open_job(path)


@pytest.fixture
def offsets(tmp_path: Path) -> Path:
    job = demo_job("pipit")
    path = tmp_path / "pipit.csv"
    path.write_text(write_offsets_csv(job.offsets, job.name, job.waterline))
    return path


def run(*arguments: str | bytes, out: str) -> subprocess.CompletedProcess[bytes]:
    command = [os.fsencode(sys.executable), b"-m", b"hollow_keel.cli", *(os.fsencode(a) for a in arguments)]
    joined = b" ".join(b"'" + part.replace(b"'", b"'\\''") + b"'" for part in command)
    return subprocess.run([b"/bin/sh", b"-c", joined + b" " + out.encode()], capture_output=True, check=False, timeout=300)


@pytest.mark.parametrize(("out", "said"), [("> /dev/full", b"cannot be written"), (">&-", b"is closed")])
def test_an_output_that_is_full_or_closed_is_said(offsets: Path, out: str, said: bytes) -> None:
    done = run("plan", str(offsets), out=out)
    assert done.returncode == 2
    assert said in done.stderr
    assert b"Traceback" not in done.stderr
    assert b"--out FILE" in done.stderr


def test_names_that_are_no_text_are_taken(offsets: Path) -> None:
    strange = offsets.parent / os.fsdecode(b"na\xffme.csv")
    strange.write_bytes(offsets.read_bytes())
    out = offsets.parent / os.fsdecode(b"o\xfeut.json")
    done = run("plan", os.fsencode(strange), "--out", os.fsencode(out), "--set", b"name=\xff\xfe", out="")
    assert done.returncode == 0
    assert done.stderr.count(b"\n") <= 1, "what the molds are set on, and nothing else"
    assert json.loads(out.read_bytes())["hull"]["length"] > 0
