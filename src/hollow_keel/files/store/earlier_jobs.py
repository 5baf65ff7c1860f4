"""Job files of earlier versions: what they hold, as it is held now."""

from __future__ import annotations

from typing import Any

from ...core.job import Job
from ...core.settings.mold_choices import StringerNotches
from ...core.settings.molds import MoldSettings, OwnMolds
from ...core.settings.veneer_choices import FormKind

WITH_FORM, WITH_OWN_SKIN, WITH_ONE_STRINGER = 7, 9, 10
NOTCH = {"stringer_width": 40.0, "stringer_depth": 20.0}
"""How wide and deep molds were notched for stringers where nothing was said, mm."""


def as_now(content: Any, version: int) -> Any:
    """What a job of a version holds, under the names of today; what is no job stays as it is, to be refused."""
    return _with_one_stringer(content) if version < WITH_ONE_STRINGER else content


def brought_up(job: Job, version: int) -> Job:
    """A job of a version with what could not be said then."""
    if version < WITH_FORM:
        job = _strapping_as_ribbands(job)
    return _own_skin(job) if version < WITH_OWN_SKIN else job


def _with_one_stringer(content: Any) -> Any:
    """Stringers were set twice: notches stay at their share of each mold's own girth, unless those inside lie elsewhere; those
    that a form was made of keep its section."""
    if not isinstance(content, dict):
        return content
    parts = {name: content.get(name) or {} for name in ("molds", "inside", "form")}
    if not all(isinstance(own, dict) for own in parts.values()):
        return content
    molds, inside = dict(parts["molds"]), dict(parts["inside"])
    notched = molds.pop("stringers", None) or ()
    wide, deep = (molds.pop(name, usual) for name, usual in NOTCH.items())
    own = molds.get("own")
    if isinstance(own, dict):
        molds["own"] = {name: value for name, value in own.items() if name not in NOTCH}
    if notched and not inside.get("stringers"):
        inside |= {"stringers": notched}
        if wide and deep:
            inside |= {"stringer_width": wide, "stringer_thickness": deep}
        molds["stringer_notches"] = StringerNotches.SHARE if wide and deep else StringerNotches.NONE
        if parts["form"].get("kind") == FormKind.STRINGERS and parts["form"].get("wood"):
            inside["stringer_wood"] = parts["form"]["wood"]
    elif inside.get("stringers"):
        same = list(notched) == list(inside["stringers"])
        as_it_lies = StringerNotches.AS_WOOD if notched else StringerNotches.NONE
        molds["stringer_notches"] = StringerNotches.SHARE if same else as_it_lies
    return {**content, "molds": molds, "inside": inside}


def _strapping_as_ribbands(job: Job) -> Job:
    """A job of before there was a form: what its molds take off stays as it was."""
    if not job.veneers.layers or job.molds.strapping <= 0:
        return job
    form = job.form.model_copy(update={"kind": FormKind.RIBBANDS, "thickness": job.molds.strapping})
    past = job.veneers.model_copy(update={"past_sheer": job.molds.beyond_sheer or job.veneers.past_sheer})
    return job.model_copy(update={"form": form, "veneers": past})


def _own_skin(job: Job) -> Job:
    """A job of before it was kept what molds take off without their layers: then they take off the strips."""
    if not job.veneers.layers:
        return job
    blank = MoldSettings()
    own = OwnMolds(skin=job.strips.thickness, strapping=blank.strapping, beyond_sheer=blank.beyond_sheer)
    return job.model_copy(update={"molds": job.molds.model_copy(update={"own": own})}).in_step()
