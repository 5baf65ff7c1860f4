from __future__ import annotations

import hashlib
import json
import os
import re
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from datetime import date
from enum import Enum
from pathlib import Path
from types import UnionType
from typing import Annotated, Any, Union, get_args, get_origin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import BaseModel
from pydantic.fields import FieldInfo

from hollow_keel import __version__
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job, Layer, VeneerSettings
from hollow_keel.core.settings.axis import Axis, Marker
from hollow_keel.core.settings.timber import MadePiece, MadeStrip
from hollow_keel.core.settings.veneer_choices import FormKind
from hollow_keel.demo.jobs import demo_job, linnet, pipit
from hollow_keel.files.store.atomic import write_atomic
from hollow_keel.files.store.job_file import VERSION, job_text, load_job, parse_job, save_job


def test_jobs_come_back_the_same(tmp_path: Path) -> None:
    for job in (linnet(), pipit(), Job()):
        save_job(job, tmp_path / "a.hkeel")
        assert load_job(tmp_path / "a.hkeel") == job


def test_boards_and_what_is_cut_come_back_the_same(tmp_path: Path) -> None:
    cut = MadeStrip(strip=3, side="port", pieces=(MadePiece(stick="A1.2", length=2000.5),), joints=(1.25,))
    job = linnet()
    stock = job.stock.model_copy(update={"cut": (cut,)})
    job = job.model_copy(update={"stock": stock, "planked": job.planked.with_strips(20, date(2031, 5, 4))})
    save_job(job, tmp_path / "a.hkeel")
    assert load_job(tmp_path / "a.hkeel") == job


def test_a_job_of_an_earlier_version_reads_as_it_is() -> None:
    document = json.loads(job_text(pipit()))
    for later in ("stock", "planked", "plans"):
        del document["job"][later]
    del document["job"]["strips"]["meeting"]
    old = json.dumps({**document, "version": 3}).encode()
    assert parse_job(old) == pipit()


def test_the_file_before_is_kept(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    save_job(linnet(), path)
    save_job(pipit(), path)
    assert load_job(path) == pipit()
    assert parse_job((tmp_path / "a.hkeel~").read_bytes()) == linnet()
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.hkeel", "a.hkeel~"]


def tampered(**changes: object) -> bytes:
    return json.dumps({**json.loads(job_text(linnet())), **changes}).encode()


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"", "empty"),
        (b"{", "damaged"),
        (b"[" * 100_000, "damaged"),
        (b"\xff\xfe\x00", "not a job file"),
        (b"[1, 2]", "not a job file"),
        (tampered(format="something-else"), "not a job file"),
        (tampered(version=99), "newer Hollow Keel"),
        (tampered(version="one"), "no version"),
        (tampered(job={"name": "x", "keel": 3}), "fault"),
        (tampered(job={"molds": {"skin": -1}}), "skin"),
        (tampered(job=None), "fault"),
    ],
)
def test_bad_files_are_named_and_left_alone(tmp_path: Path, data: bytes, word: str) -> None:
    path = tmp_path / "bad.hkeel"
    path.write_bytes(data)
    with pytest.raises(InputError, match=word) as raised:
        load_job(path)
    assert raised.value.mend
    assert path.read_bytes() == data


@settings(max_examples=200, deadline=None)
@given(st.binary(max_size=120) | st.integers(0, 4000).map(lambda n: job_text(linnet()).encode()[:n]))
def test_any_bytes_are_a_job_or_refused(data: bytes) -> None:
    try:
        parse_job(data)
    except InputError as error:
        assert error.mend


def test_folder_that_is_not_there(tmp_path: Path) -> None:
    with pytest.raises(InputError, match="cannot be written"):
        save_job(linnet(), tmp_path / "none" / "a.hkeel")


@pytest.mark.skipif(not Path("/proc/self").is_dir(), reason="needs a folder that not even root may write to")
def test_folder_without_permission() -> None:
    with pytest.raises(InputError, match="cannot be written"):
        save_job(linnet(), Path("/proc/a.hkeel"))


def test_failure_half_way_leaves_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "a.txt"
    write_atomic(path, b"old")

    def fail(_handle: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", fail)
    with pytest.raises(InputError, match="cannot be written"):
        write_atomic(path, b"new")
    assert path.read_bytes() == b"old"
    assert [p.name for p in tmp_path.iterdir()] == ["a.txt"]


SAVER = """
import sys
from pathlib import Path
from hollow_keel.core.job import Job
from hollow_keel.core.settings.timber import MadePiece, MadeStrip
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.store.job_file import save_job
path, k = Path(sys.argv[1]), 0
while True:
    k += 1
    save_job(linnet().model_copy(update={"name": f"save {k}"}), path)
    print(k, flush=True)
"""


def test_killed_during_a_save(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    for wait in (0.0, 0.003, 0.007, 0.013):
        saver = subprocess.Popen([sys.executable, "-c", SAVER, str(path)], stdout=subprocess.PIPE)
        assert saver.stdout is not None
        saver.stdout.readline()
        time.sleep(wait)
        saver.send_signal(signal.SIGKILL)
        saver.wait()
        saver.stdout.close()
        assert load_job(path).name.startswith("save")


def test_strapping_under_layers_of_before_is_read_as_ribbands() -> None:
    """In version 6 strapping was typed with the molds, under veneers too: what they take off stays as it was."""
    job = Job(veneers=VeneerSettings(layers=(Layer(thickness=3.0),))).in_step()
    document = json.loads(job_text(job))
    document["version"] = 6
    document["job"]["molds"]["strapping"] = 15.0
    document["job"]["molds"]["beyond_sheer"] = 45.0
    for part in ("form", "laying", "trim"):
        del document["job"][part]
    read = parse_job(json.dumps(document).encode())
    assert (read.form.kind, read.form.thickness) == (FormKind.RIBBANDS, 15.0)
    assert read.in_step().molds.deducted == job.molds.skin + 15.0
    assert read.in_step().molds.beyond_sheer == 45.0
    document["job"]["molds"]["strapping"] = 0.0
    assert parse_job(json.dumps(document).encode()).form.kind is FormKind.MOLDS


HELD = {10: "6f44a38c9bfd912c", 11: "92aad7514a9758e2"}
"""What a job file of a version can hold, as a digest."""


def held(model: type[BaseModel], seen: set[type]) -> Iterator[str]:
    """Every field of a model and of those within it: its name, its type and limits, the values of its choices."""
    if model in seen:
        return
    seen.add(model)
    for name, info in model.model_fields.items():
        yield f"{model.__name__}.{name}: {in_text(info.annotation)} {limits_of(info.metadata)}"
        for kind in kinds_in(info.annotation):
            if issubclass(kind, Enum):
                yield f"{kind.__name__}: {[own.value for own in kind]}"
            elif issubclass(kind, BaseModel):
                yield from held(kind, seen)


def in_text(kind: Any) -> str:
    """A type in the same words whatever Python writes."""
    if get_origin(kind) is Annotated:
        bare, *told = get_args(kind)
        return f"{in_text(bare)} {limits_of(told)}"
    name = "or" if get_origin(kind) in (Union, UnionType) else getattr(get_origin(kind) or kind, "__name__", str(kind))
    return f"{name}({', '.join(map(in_text, get_args(kind)))})" if get_args(kind) else name


def limits_of(told: list[Any]) -> list[str]:
    """Limits of numbers and lengths, without what is told for people and for boats that are turned."""
    own = [x for meta in told for x in (meta.metadata if isinstance(meta, FieldInfo) else [meta])]
    return sorted(str(x) for x in own if not isinstance(x, Axis | Marker))


def kinds_in(kind: Any) -> Iterator[type]:
    if isinstance(kind, type) and not get_args(kind):
        yield kind
    for own in get_args(kind):
        yield from kinds_in(own)


def test_the_version_follows_what_a_job_can_hold() -> None:
    """Two programs that can hold different things never write the same number: raise VERSION, say there what is new, and put the
    new digest here."""
    digest = hashlib.sha256("\n".join(sorted(held(Job, set()))).encode()).hexdigest()[:16]
    assert HELD.get(VERSION) == digest, f"raise VERSION in files/store/job_file.py; its digest is {digest}"


def test_what_molds_take_off_comes_back_when_the_layers_go() -> None:
    job = change(demo_job("linnet"), "molds", beyond_sheer=12.0)
    layers = (Layer(thickness=3.0), Layer(thickness=3.0, angle=-45.0))
    under = change(change(job, "veneers", layers=layers), "form", kind=FormKind.RIBBANDS, thickness=20.0).in_step()
    assert (under.molds.skin, under.molds.strapping, under.molds.beyond_sheer) == (6.0, 20.0, 60.0)
    read = parse_job(job_text(under).encode())
    assert read == under
    thicker = change(read, "veneers", layers=(*layers, Layer(thickness=4.0))).in_step()
    assert thicker.molds.skin == 10.0
    plain = change(thicker, "form", kind=FormKind.MOLDS).in_step()
    assert (plain.molds.strapping, plain.molds.beyond_sheer) == (0.0, 60.0), "the ribbands go, the veneers go on past the sheer"
    bare_again = change(plain, "veneers", layers=()).in_step()
    assert bare_again.molds == job.molds
    assert change(thicker, "veneers", layers=()).in_step().molds == job.molds


def test_layers_of_an_earlier_version_leave_the_strips_behind() -> None:
    job = change(demo_job("linnet"), "veneers", layers=(Layer(thickness=3.0),)).in_step()
    document = json.loads(job_text(job))
    document["version"] = 8
    del document["job"]["molds"]["own"]
    read = parse_job(json.dumps(document).encode())
    assert read.molds.skin == 3.0
    assert change(read, "veneers", layers=()).in_step().molds.skin == read.strips.thickness


def test_what_changed_is_told_by_version() -> None:
    root = Path(__file__).parents[2]
    newest = re.search(r"^## (\S+)$", (root / "CHANGELOG.md").read_text(encoding="utf-8"), re.MULTILINE)
    assert newest is not None
    assert newest[1] == __version__
    assert f'version = "{__version__}"' in (root / "pyproject.toml").read_text(encoding="utf-8")
    assert f"Job files: version {VERSION}." in (root / "CHANGELOG.md").read_text(encoding="utf-8")
