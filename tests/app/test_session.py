"""The session, its history and its settings; no window."""

from __future__ import annotations

import math
from pathlib import Path

import pytest
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from hollow_keel.app.open_any import open_job
from hollow_keel.app.overrides import apply_override
from hollow_keel.app.session import Session
from hollow_keel.app.settings import RECENT_COUNT, Settings, load_settings, save_settings, settings_folder
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import Job
from hollow_keel.demo.jobs import demo_job, linnet
from hollow_keel.files.store.job_file import save_job
from tests.conftest import DATA


class History(RuleBasedStateMachine):
    """Undo and redo against a plain list of jobs."""

    def __init__(self) -> None:
        super().__init__()
        self.session = Session(Job())
        self.past: list[Job] = [self.session.job]
        self.future: list[Job] = []

    @rule(name=st.text(max_size=3))
    def edit(self, name: str) -> None:
        job = change(self.session.job, "", name=name)
        if job != self.session.job:
            self.past.append(job)
            self.future.clear()
        self.session.edit("name", job)

    @precondition(lambda self: len(self.past) > 1)
    @rule()
    def undo(self) -> None:
        self.future.append(self.past.pop())
        self.session.undo()

    @precondition(lambda self: self.future)
    @rule()
    def redo(self) -> None:
        self.past.append(self.future.pop())
        self.session.redo()

    @rule()
    def undo_and_redo_at_the_ends_do_nothing(self) -> None:
        if len(self.past) == 1:
            self.session.undo()
        if not self.future:
            self.session.redo()

    @invariant()
    def same_job(self) -> None:
        assert self.session.job == self.past[-1]
        assert bool(self.session.undo_label) == (len(self.past) > 1)
        assert bool(self.session.redo_label) == bool(self.future)


TestHistory = History.TestCase
TestHistory.settings = hypothesis_settings(max_examples=40, deadline=None)


def test_listeners_hear_every_change(tmp_path: Path) -> None:
    session = Session(linnet())
    heard: list[str] = []
    session.listeners.append(lambda: heard.append(session.job.name))
    session.edit("name", change(session.job, "", name="A"))
    session.edit("name", session.job)
    session.undo()
    session.save(tmp_path / "a")
    assert heard == ["A", "Linnet", "Linnet"]


def test_saving_names_the_file_and_clears_the_mark(tmp_path: Path) -> None:
    session = Session(linnet())
    session.edit("name", change(session.job, "", name="B"))
    assert session.changed
    with pytest.raises(InputError, match="no file yet"):
        session.save()
    assert session.save(tmp_path / "b") == tmp_path / "b.hkeel"
    assert not session.changed
    session.undo()
    assert session.changed
    session.redo()
    assert not session.changed
    assert session.save() == tmp_path / "b.hkeel"


def test_opening_a_bad_file_leaves_the_session_alone(tmp_path: Path) -> None:
    session = Session(linnet())
    (tmp_path / "bad.hkeel").write_text("{}")
    with pytest.raises(InputError):
        session.open(tmp_path / "bad.hkeel")
    assert session.job == linnet()


def test_the_backup_beside_a_damaged_job_opens_as_a_job_not_yet_saved(tmp_path: Path) -> None:
    """As the message about the damaged one says."""
    session, path = Session(linnet()), tmp_path / "a.hkeel"
    session.save(path)
    session.edit("name", change(session.job, "", name="B"))
    session.save()
    path.write_bytes(path.read_bytes()[:500])
    with pytest.raises(InputError, match="Open the backup beside it"):
        session.open(path)
    session.open(tmp_path / "a.hkeel~")
    assert session.job == linnet()
    assert session.path is None
    assert session.changed


def test_offsets_open_as_a_new_job_not_yet_saved() -> None:
    session = Session(Job())
    session.open(DATA / "cone.csv")
    assert session.path is None
    assert session.changed
    assert session.job.name == "cone"


def test_change_is_validated_and_touches_one_part() -> None:
    job = change(linnet(), "strips", width=30.0)
    assert job.strips.width == 30
    assert job.molds is linnet().molds or job.molds == linnet().molds
    for part, fields in (("strips", {"width": -1.0}), ("strips", {"timber": "oak"}), ("", {"waterline": float("nan")})):
        with pytest.raises(InputError) as raised:
            change(job, part, **fields)
        assert raised.value.where


@pytest.mark.parametrize(
    ("text", "stations", "every"),
    [("offsets", (), None), ("every:12in", (), 304.8), ("400, 0.8m,1200", (400.0, 800.0, 1200.0), None)],
)
def test_places_of_molds(text: str, stations: tuple[float, ...], every: float | None) -> None:
    molds = apply_override(linnet(), "mold.stations", text).molds
    assert molds.stations == pytest.approx(stations)
    assert molds.every == (None if every is None else pytest.approx(every))


def test_demo_names() -> None:
    assert demo_job("PIPIT").name == "Pipit"
    with pytest.raises(InputError, match="no such demo"):
        demo_job("tern")


def test_open_any(tmp_path: Path) -> None:
    save_job(linnet(), tmp_path / "L.HKEEL")
    assert open_job(tmp_path / "L.HKEEL") == linnet()
    assert open_job(DATA / "double_ender.csv").offsets.rows


def test_settings_are_kept_and_never_in_the_way(tmp_path: Path) -> None:
    settings = Settings(theme="dark").with_recent(tmp_path / "a").with_recent(tmp_path / "b").with_recent(tmp_path / "a")
    assert [Path(p).name for p in settings.recent] == ["a", "b"]
    save_settings(settings, tmp_path / "new")
    assert load_settings(tmp_path / "new") == settings
    (tmp_path / "new" / "settings.json").write_text('{"recent": 7')
    assert load_settings(tmp_path / "new") == Settings()
    save_settings(settings, Path("/proc/none"))
    for k in range(20):
        settings = settings.with_recent(tmp_path / str(k))
    assert len(settings.recent) == RECENT_COUNT


def test_settings_folder_follows_the_desktop(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    assert settings_folder() == tmp_path / "hollow-keel"
    monkeypatch.delenv("XDG_CONFIG_HOME")
    assert settings_folder().name == "hollow-keel"


def test_what_is_tried_is_one_step_when_it_is_kept_and_none_when_it_is_given_up() -> None:
    first = Job(name="first")
    session = Session(first)
    told: list[str] = []
    session.listeners.append(lambda: told.append(session.job.name))
    for name in ("a", "ab", "abc"):
        session.attempt(Job(name=name))
    assert (session.job.name, session.undo_label, session.attempting) == ("abc", "", True)
    session.give_up()
    assert session.job is first
    assert not session.attempting
    session.attempt(Job(name="abc"))
    session.edit("name", session.job)
    assert (session.job.name, session.undo_label, session.attempting) == ("abc", "name", False)
    session.undo()
    assert session.job is first
    session.redo()
    assert session.job.name == "abc"
    session.attempt(Job(name="x"))
    session.edit("back", session.job.model_copy(update={"name": "abc"}))
    assert session.undo_label == "name", "what ends where it began is no step"
    assert session.job.name == "abc"
    session.attempt(Job(name="y"))
    session.undo()
    assert session.job.name == "abc", "undo takes back what is tried first"
    session.attempt(Job(name="z"))
    session.start(Job(name="new"))
    session.give_up()
    assert session.job.name == "new"
    assert told[-1] == "new"


def test_a_step_after_which_the_file_could_not_be_opened_is_refused(tmp_path: Path) -> None:
    job = demo_job("pipit")
    session = Session(job)
    rows = (*job.offsets.rows[:3], job.offsets.rows[3].model_copy(update={"height": math.inf}), *job.offsets.rows[4:])
    bad = job.model_copy(update={"offsets": job.offsets.model_copy(update={"rows": rows})})
    session.attempt(bad)  # while it is dragged
    with pytest.raises(InputError, match=r"height, no\. 4.*inf"):
        session.edit("dragged far", bad)
    assert session.job is job
    assert not session.undo_label
    save_job(session.job, tmp_path / "a.hkeel")
    assert open_job(tmp_path / "a.hkeel") == job
    for name, value in (("waterline", 1e9), ("strips", job.strips.model_copy(update={"width": -1.0}))):
        with pytest.raises(InputError):
            session.edit(name, job.model_copy(update={name: value}))
