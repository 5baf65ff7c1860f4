"""Unsaved work, earlier versions and files that others change: nothing that was told as kept is lost, nothing is written over in
silence."""

from __future__ import annotations

import fcntl
import os
import random
import signal
import subprocess
import sys
import time
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from time import perf_counter

import pytest

from hollow_keel.app import unsaved
from hollow_keel.app.differences import differences
from hollow_keel.app.session import ChangedOnDisk, OnDisk, Session
from hollow_keel.app.unsaved import Found, Origin, Unsaved, left_behind, open_elsewhere
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job
from hollow_keel.core.log.keep import kept
from hollow_keel.core.settings.log_entry import Entry
from hollow_keel.files.store.backups import KEPT, Version, keep_version, thinned, versions_of
from hollow_keel.files.store.job_file import load_job, save_job

NOW = datetime(2026, 9, 30, 20, 0, tzinfo=UTC)
JOB = Job(name="Kept")


def entry(k: int) -> Entry:
    return Entry(day=date(2026, 9, 1), hours=1.0, line=f"1h sanding {k}")


def left(folder: Path) -> Found:
    (found,) = left_behind(folder)
    return found


# -- kept whole, and added to ------------------------------------------------------------------------------------


def test_a_job_is_kept_whole_and_given_back_with_where_it_is_saved(tmp_path: Path) -> None:
    own = Unsaved(tmp_path)
    own.keep(JOB, Origin("/boats/a.hkeel", "0f"))()
    found = left(tmp_path)
    assert found.job == JOB
    assert found.origin == Origin("/boats/a.hkeel", "0f")
    assert abs((datetime.now(UTC) - found.when).total_seconds()) < 60
    own.keep(None, Origin())()
    assert left_behind(tmp_path) == []


def test_what_a_window_holds_is_not_offered_until_it_is_gone(tmp_path: Path) -> None:
    own = Unsaved(tmp_path)
    own.hold(Origin("/boats/a.hkeel"))
    own.keep(JOB, Origin())()
    assert left_behind(tmp_path) == []
    assert open_elsewhere(tmp_path, Path("/boats/a.hkeel"), "another")
    assert not open_elsewhere(tmp_path, Path("/boats/a.hkeel"), own.token)
    own.let_go()
    assert left(tmp_path).job == JOB
    assert not open_elsewhere(tmp_path, Path("/boats/a.hkeel"), "another")


def test_two_windows_keep_each_their_own(tmp_path: Path) -> None:
    for name in ("one", "two"):
        Unsaved(tmp_path).keep(Job(name=name), Origin())()
    assert {found.job.name for found in left_behind(tmp_path) if found.job} == {"one", "two"}


def test_a_damaged_file_is_said_and_the_one_before_it_used(tmp_path: Path) -> None:
    own = Unsaved(tmp_path)
    own.keep(JOB, Origin())()
    own.keep(Job(name="later"), Origin())()
    own.path.write_bytes(own.path.read_bytes()[:-20])
    found = left(tmp_path)
    assert found.job == JOB
    assert "damaged" in found.said
    own.path.with_name(own.path.name + "~").write_bytes(b"\0")
    assert left(tmp_path).job is None
    assert "damaged, and so is the one before it" in left(tmp_path).said


def test_what_an_earlier_version_of_hollow_keel_kept_is_offered(tmp_path: Path) -> None:
    save_job(JOB, tmp_path / "recovery.hkeel")
    found = left(tmp_path)
    assert found.job == JOB
    unsaved.clear(found)
    assert left_behind(tmp_path) == []


def test_entries_are_added_after_the_job_they_came_after(tmp_path: Path) -> None:
    own, job = Unsaved(tmp_path), JOB
    assert not own.add(entry(0), 1, Origin())  # nothing it could be found again by
    own.keep(job, Origin())()
    for k in range(3):
        job = kept(job, entry(k))
        assert own.add(entry(k), k + 1, Origin())
    assert left(tmp_path).job == job
    own.keep(kept(JOB, entry(9)), Origin())()  # the three were undone since, and another put in
    assert left(tmp_path).job == kept(JOB, entry(9))


def test_an_entry_cut_off_was_not_told_as_kept_and_spoils_nothing(tmp_path: Path) -> None:
    own = Unsaved(tmp_path)
    own.keep(JOB, Origin())()
    own.add(entry(1), 1, Origin())
    with open(own.path.with_suffix(".added"), "ab") as file:
        file.write(b'{"turn": 1, "count": 2, "entry": {"day"')
    assert left(tmp_path).job == kept(JOB, entry(1))


def test_entries_go_with_the_saved_file_where_nothing_else_was_changed(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    session = Session(JOB)
    session.save(path)
    own = Unsaved(tmp_path)
    assert own.add(entry(1), 1, session.origin)
    found = left(tmp_path)
    assert (found.job, found.said) == (kept(JOB, entry(1)), "")
    save_job(kept(JOB, entry(1)), path)  # it was saved after all
    assert left_behind(tmp_path) == []
    save_job(Job(name="by another"), path)
    assert "saved since then" in left(tmp_path).said
    path.unlink()
    assert left(tmp_path).job is None


KEEPER = """
import sys
from datetime import date
from pathlib import Path
from hollow_keel.app.unsaved import Origin, Unsaved
from hollow_keel.core.job import Job
from hollow_keel.core.log.keep import kept
from hollow_keel.core.settings.log_entry import Entry
own, job = Unsaved(Path(sys.argv[1])), Job(name="Kept")
own.hold(Origin())
own.keep(job, Origin())()
for k in range(100000):
    entry = Entry(day=date(2026, 9, 1), hours=1.0, line=f"1h sanding {k}")
    job = kept(job, entry)
    own.add(entry, k + 1, Origin())
    if k % 7 == 3:
        own.keep(job, Origin())()
    print(k + 1, flush=True)
"""
"""Keeps entries one after another and says each that is kept."""


def test_killed_at_any_moment_nothing_told_is_lost(tmp_path: Path) -> None:
    wait = random.Random(4)
    for turn in range(6):
        folder = tmp_path / str(turn)
        process = subprocess.Popen([sys.executable, "-c", KEEPER, str(folder)], stdout=subprocess.PIPE)
        assert process.stdout is not None
        process.stdout.readline()
        time.sleep(wait.uniform(0.0, 0.15))
        process.send_signal(signal.SIGKILL)
        told = len(process.stdout.read().splitlines()) + 1
        process.wait()
        process.stdout.close()
        job = left(folder).job
        assert job is not None
        lines = [own.line for own in job.log.entries]
        assert told <= len(lines) <= told + 1
        assert lines == [f"1h sanding {k}" for k in range(len(lines))]


# -- earlier versions --------------------------------------------------------------------------------------------


def test_every_save_keeps_the_one_before(tmp_path: Path) -> None:
    session = Session(JOB, versions=tmp_path / "versions")
    path = session.save(tmp_path / "a.hkeel")
    for name in ("b", "c"):
        session.edit("name", change(session.job, "", name=name))
        session.save()
    found = versions_of(tmp_path / "versions", path)
    assert [load_job(version.path).name for version in found] == ["b", "Kept"]
    session.save()  # nothing changed, and so is nothing kept
    assert len(versions_of(tmp_path / "versions", path)) == 3
    session.save()
    assert len(versions_of(tmp_path / "versions", path)) == 3


def test_versions_are_thinned_by_age(tmp_path: Path) -> None:
    """Saved every ten minutes for twelve hours, five stay: the last two, and some from hours ago."""
    path, when = tmp_path / "a.hkeel", NOW
    for k in range(72):
        when = NOW + timedelta(minutes=10 * k)
        keep_version(tmp_path / "versions", path, b"%d" % k, when)
    ages = [(when - version.when).total_seconds() / 60 for version in versions_of(tmp_path / "versions", path)]
    assert len(ages) == KEPT
    assert ages[0] == 0.0
    assert ages[1] <= 60.0
    assert ages[-1] == 710.0
    ratios = [older / newer for newer, older in zip(ages[1:-1], ages[2:], strict=True)]
    assert max(ratios) < 16.0


def test_few_versions_all_stay() -> None:
    few = [Version(Path(str(k)), NOW - timedelta(days=k)) for k in range(KEPT)]
    assert thinned(few, NOW) == []


# -- the same file twice -----------------------------------------------------------------------------------------


def test_what_another_saved_is_never_written_over_in_silence(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    save_job(JOB, path)
    one, two = (Session(load_job(path), path, tmp_path / "versions") for _ in range(2))
    one.edit("name", change(one.job, "", name="wide"))
    one.save()
    two.edit("skin", change(two.job, "molds", thickness=33.0))
    assert two.on_disk() is OnDisk.CHANGED
    with pytest.raises(ChangedOnDisk, match="another window or program"):
        two.save()
    assert load_job(path).name == "wide"
    two.save(over=True)
    assert load_job(path).molds.thickness == 33.0
    assert load_job(versions_of(tmp_path / "versions", path)[0].path).name == "wide"  # both are there
    two.save()
    with pytest.raises(ChangedOnDisk):
        one.save()


def test_a_file_that_is_gone_is_noticed_and_saved_again(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    session = Session(JOB)
    session.save(path)
    path.rename(tmp_path / "moved.hkeel")
    assert session.on_disk() is OnDisk.GONE
    session.save()
    assert session.on_disk() is OnDisk.SAME
    assert load_job(path) == JOB


def test_a_job_behind_a_link_stays_there(tmp_path: Path) -> None:
    real, link = tmp_path / "real.hkeel", tmp_path / "link.hkeel"
    save_job(JOB, real)
    link.symlink_to(real)
    session = Session(load_job(link), link)
    session.edit("name", change(session.job, "", name="through"))
    session.save()
    assert link.is_symlink()
    assert os.path.realpath(link) == str(real)
    assert load_job(real).name == "through"


# -- what changed ------------------------------------------------------------------------------------------------


def test_differences_are_told_in_the_builders_words() -> None:
    after = change(change(JOB, "", name="New"), "molds", thickness=JOB.molds.thickness + 3.0)
    after = kept(kept(after, entry(1)), entry(2))
    told = differences(JOB, after)
    assert "Name: Kept → New" in told
    assert "Log: 2 new or changed" in told
    assert len(told) == 3
    assert differences(after, after) == ()
    assert "Log: 1 gone or as they were" in differences(after, kept(JOB, entry(1)))


def spellings(path: Path) -> list[Path]:
    """Other names of one file: by way of its folder's neighbour, by a link, by a link to its folder, by a second name of it."""
    (path.parent / "beside").mkdir()
    by_link, by_folder, second = path.parent / "link.hkeel", path.parent / "other", path.parent / "second.hkeel"
    by_link.symlink_to(path)
    by_folder.symlink_to(path.parent, target_is_directory=True)
    os.link(path, second)
    return [path.parent / "beside" / ".." / path.name, by_link, by_folder / path.name, second]


def test_any_spelling_of_a_path_is_the_same_file(tmp_path: Path) -> None:
    """Saved by another window, and saved over by a link unasked; open in another window, and not said of another spelling."""
    path = tmp_path / "a.hkeel"
    save_job(JOB, path)
    own = Session(load_job(path), path, tmp_path / "versions")
    window = Unsaved(tmp_path / "state")
    window.hold(own.origin)
    others = spellings(path)
    save_job(change(JOB, "", name="Somebody else's"), path)
    for other in others:
        assert open_elsewhere(tmp_path / "state", other, "another"), other
        if not other.is_symlink() and other.name == "second.hkeel":
            continue  # what is put in place whole is another file from then on
        with pytest.raises(ChangedOnDisk):
            own.save(other)
    assert load_job(path).name == "Somebody else's"
    window.let_go()


def test_a_lock_that_is_not_let_go_is_said_after_a_second(tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    save_job(JOB, path)
    own = Session(load_job(path), path, tmp_path / "versions")
    held = os.open(tmp_path, os.O_RDONLY)
    fcntl.flock(held, fcntl.LOCK_EX)
    since = perf_counter()
    with pytest.raises(InputError, match="does not let go"):
        own.save()
    assert perf_counter() - since < 5.0
    os.close(held)
    assert own.save() == path


def test_what_somebody_else_saved_is_not_written_over_where_it_cannot_be_kept(tmp_path: Path) -> None:
    """It is kept as an earlier version: that is said before, so it has to be true."""
    path = tmp_path / "a.hkeel"
    save_job(JOB, path)
    own = Session(load_job(path), path, tmp_path / "versions")
    save_job(change(JOB, "", name="Somebody else's"), path)
    (tmp_path / "versions").write_text("no folder")
    with pytest.raises(InputError, match="cannot be kept"):
        own.save(over=True)
    assert load_job(path).name == "Somebody else's"
    (tmp_path / "versions").unlink()
    own.save(over=True)
    assert load_job(path).name == JOB.name


def test_versions_of_a_wrong_clock_do_not_stay_on_top(tmp_path: Path) -> None:
    """A year ahead once: newer ones stand before it, and it is the first to go."""
    path = tmp_path / "a.hkeel"
    save_job(JOB, path)
    now = datetime.now().astimezone()
    keep_version(tmp_path / "v", path, b"ahead", now + timedelta(days=365))
    keep_version(tmp_path / "v", path, b"today", now - timedelta(seconds=10))
    assert [version.path.read_bytes() for version in versions_of(tmp_path / "v", path)] == [b"today", b"ahead"]
    for k in range(KEPT):
        keep_version(tmp_path / "v", path, b"%d" % k, now - timedelta(seconds=5 - k))
    left = [version.path.read_bytes() for version in versions_of(tmp_path / "v", path)]
    assert len(left) == KEPT
    assert b"ahead" not in left
