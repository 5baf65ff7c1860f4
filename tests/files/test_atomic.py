"""What is on the disk stays what it was: links, pipes, devices, owners, hard links, the job that an output is made from."""

from __future__ import annotations

import os
import stat
import subprocess
import sys
import threading
import time
from datetime import datetime
from pathlib import Path

import pytest

from hollow_keel.app.outputs import refuse_over
from hollow_keel.app.settings import Settings, load_settings, save_settings, settings_folder, state_folder
from hollow_keel.core.errors import InputError
from hollow_keel.demo.jobs import pipit
from hollow_keel.files.store.atomic import write_atomic
from hollow_keel.files.store.backups import keep_version, versions_of
from hollow_keel.files.store.job_file import load_job, save_job


def run(*arguments: str | bytes) -> subprocess.CompletedProcess[bytes]:
    return subprocess.run([sys.executable, "-m", "hollow_keel", *arguments], capture_output=True, check=False)


def test_a_pipe_is_written_through_and_stays_one(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    with pytest.raises(InputError, match="cannot be written"):
        write_atomic(pipe, b"nobody reads")
    got: list[bytes] = []
    reader = threading.Thread(target=lambda: got.append(pipe.read_bytes()))
    reader.start()
    data = b"x" * 300_000
    for _ in range(100):  # until the other end is open
        try:
            write_atomic(pipe, data)
            break
        except InputError:
            time.sleep(0.02)
    reader.join(5)
    assert got == [data]
    assert stat.S_ISFIFO(pipe.stat().st_mode)
    assert os.listdir(tmp_path) == ["pipe"]


def test_a_null_device_stays_one_and_a_socket_or_a_folder_is_refused(tmp_path: Path) -> None:
    null = tmp_path / "null"
    try:
        os.mknod(null, stat.S_IFCHR | 0o666, os.makedev(1, 3))
        write_atomic(null, b"gone")
        assert stat.S_ISCHR(null.stat().st_mode)
    except PermissionError:
        pass  # only root makes devices
    import socket

    with socket.socket(socket.AF_UNIX) as own:
        own.bind(str(tmp_path / "socket"))
        with pytest.raises(InputError, match="a socket"):
            write_atomic(tmp_path / "socket", b"x")
    with pytest.raises(InputError, match="a folder"):
        write_atomic(tmp_path, b"x")


def test_links_modes_and_other_names_stay(tmp_path: Path) -> None:
    own, link, other = tmp_path / "own", tmp_path / "link", tmp_path / "other"
    own.write_bytes(b"old")
    own.chmod(0o640)
    link.symlink_to("own")
    write_atomic(link, b"new")
    assert link.is_symlink()
    assert own.read_bytes() == b"new"
    assert stat.S_IMODE(own.stat().st_mode) == 0o640
    os.link(own, other)
    write_atomic(own, b"newer")
    assert other.read_bytes() == b"newer", "another name is the same file"
    assert own.stat().st_nlink == 2
    own.chmod(0o440)
    with pytest.raises(InputError, match="may only be read"):
        write_atomic(own, b"newest")
    assert other.read_bytes() == b"newer"
    assert sorted(os.listdir(tmp_path)) == ["link", "other", "own"]


def test_a_file_of_two_names_that_cannot_be_written_over_is_whole_beside_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    own, other = tmp_path / "own", tmp_path / "other"
    own.write_bytes(b"old")
    os.link(own, other)
    real, calls = os.fsync, []

    def fails_second(handle: int) -> None:
        calls.append(handle)
        if len(calls) == 2:
            raise OSError(28, "No space left on device")
        real(handle)

    with monkeypatch.context() as full:
        full.setattr(os, "fsync", fails_second)
        with pytest.raises(InputError, match=r"All of it is in .*\.part") as caught:
            write_atomic(own, b"new")
    (kept,) = tmp_path.glob(".own.*.part")
    assert str(kept) in caught.value.mend
    assert kept.read_bytes() == b"new"
    os.utime(kept, (0, 0))
    write_atomic(own, b"newer")
    assert other.read_bytes() == b"newer"
    assert not list(tmp_path.glob("*.part")), "gone only when it is not needed any more"


def test_a_copy_beside_a_job_that_could_only_be_read_is_no_end_of_saving(tmp_path: Path) -> None:
    job = tmp_path / "a.hkeel"
    save_job(pipit(), job)
    (tmp_path / "a.hkeel~").write_bytes(b"older")
    (tmp_path / "a.hkeel~").chmod(0o444)
    save_job(pipit().model_copy(update={"name": "Another"}), job)
    assert load_job(job).name == "Another"


def test_a_name_that_cannot_be_is_said(tmp_path: Path) -> None:
    refuse_over(tmp_path / ("n" * 300), [])
    with pytest.raises(InputError, match="cannot be written"):
        write_atomic(tmp_path / ("n" * 300), b"x")


def test_names_up_to_the_file_systems_own_limit_and_in_any_bytes(tmp_path: Path) -> None:
    for name in (b"n" * 255, b"\xff\xfe.pdf", "ä".encode() * 127):
        path = tmp_path / os.fsdecode(name)
        write_atomic(path, b"first")
        write_atomic(path, b"second")
        assert path.read_bytes() == b"second"
    assert len(os.listdir(tmp_path)) == 3


def test_what_the_dead_left_is_cleared_and_nothing_else(tmp_path: Path) -> None:
    for name, age in ((".a.dead.part", 7200), (".a.alive.part", 10), (".b.dead.part", 7200), ("a.part", 7200)):
        (tmp_path / name).write_bytes(b"x")
        os.utime(tmp_path / name, (time.time() - age, time.time() - age))
    write_atomic(tmp_path / "a", b"y")
    assert sorted(os.listdir(tmp_path)) == [".a.alive.part", ".b.dead.part", "a", "a.part"]


def test_what_is_kept_beside_a_job_may_be_read_by_whom_it_may(tmp_path: Path) -> None:
    job, versions, outside = tmp_path / "a.hkeel", tmp_path / "versions", tmp_path / "outside"
    save_job(pipit(), job)
    job.chmod(0o600)
    outside.write_bytes(b"not ours")
    (tmp_path / "a.hkeel~").symlink_to(outside)
    save_job(pipit().model_copy(update={"name": "Another"}), job)
    assert not (tmp_path / "a.hkeel~").is_symlink()
    assert outside.read_bytes() == b"not ours", "nothing is written through a link that was laid there"
    assert stat.S_IMODE((tmp_path / "a.hkeel~").stat().st_mode) == 0o600
    keep_version(versions, job, b"{}", datetime(2026, 9, 1).astimezone())
    (own,) = versions_of(versions, job)
    assert stat.S_IMODE(own.path.stat().st_mode) == 0o600
    assert stat.S_IMODE(own.path.parent.stat().st_mode) == 0o700


def test_settings_are_the_users_own_and_go_where_the_standard_says(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("HOME", str(tmp_path))
    monkeypatch.setenv("XDG_CONFIG_HOME", "relative/does/not/count")
    assert settings_folder() == tmp_path / ".config" / "hollow-keel"
    save_settings(Settings(), settings_folder())
    assert stat.S_IMODE((settings_folder() / "settings.json").stat().st_mode) == 0o600
    assert stat.S_IMODE(settings_folder().stat().st_mode) == 0o700
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "own"))
    assert settings_folder() == tmp_path / "own" / "hollow-keel"
    monkeypatch.delenv("XDG_STATE_HOME")
    monkeypatch.setattr(Path, "home", lambda: (_ for _ in ()).throw(RuntimeError("no home")))
    assert state_folder().is_absolute()
    (settings_folder()).mkdir(parents=True)
    (settings_folder() / "settings.json").write_bytes(b'{"drawers": {"molds": "high"}, "recent": 3}')
    assert load_settings(settings_folder()) == Settings()


@pytest.mark.parametrize("spelling", ["a.hkeel", "../{}/a.hkeel", "link.hkeel", "hard.hkeel"])
def test_an_output_is_never_the_job_that_it_is_made_from(tmp_path: Path, spelling: str) -> None:
    job = tmp_path / "a.hkeel"
    save_job(pipit(), job)
    (tmp_path / "link.hkeel").symlink_to(job)
    os.link(job, tmp_path / "hard.hkeel")
    out = os.path.join(tmp_path, spelling.format(tmp_path.name))
    for command in (["plan", str(job), "--out", out, "--force"], ["export", str(job), "--kind", "plan-json", "--out", out]):
        done = run(*command)
        assert done.returncode != 0
        assert b"made from" in done.stderr
    assert load_job(job) == pipit()


def test_another_job_is_written_over_by_force_alone(tmp_path: Path) -> None:
    job, other, plain = tmp_path / "a.hkeel", tmp_path / "b.hkeel", tmp_path / "copy.json"
    for path in (job, other, plain):
        save_job(pipit(), path)
    for path in (other, plain):
        with pytest.raises(InputError, match="a job is kept there"):
            refuse_over(path, [job])
    refuse_over(other, [job], force=True)
    refuse_over(tmp_path / "new.json", [job])
    (tmp_path / "old.json").write_text("{}")
    refuse_over(tmp_path / "old.json", [job])


def test_standard_output_by_its_names(tmp_path: Path) -> None:
    table = tmp_path / "t.hkeel"
    save_job(pipit(), table)
    for name in ("/dev/stdout", "/proc/self/fd/1"):
        done = run("plan", str(table), "--out", name)
        assert done.stdout.startswith(b"{"), done.stderr
