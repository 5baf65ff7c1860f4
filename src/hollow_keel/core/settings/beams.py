"""What is decided about deck beams and their camber."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Size
from .record import COMMON, Kind, Part, setting
from .sheer import trimmed
from .sheer_choices import Sawn

if TYPE_CHECKING:
    from ..job import Job


def beamed(job: Job) -> bool:
    """Whether the beams of a job are worked out."""
    return job.trim.wanted and job.beams.wanted


def _laminated(job: Job) -> bool:
    return beamed(job) and job.beams.made is Sawn.LAMINATED


class BeamSettings(Part):
    """Beams under the camber that the trim tells. Lengths mm."""

    wanted: bool = setting(False, "Beams", "whether beams are worked out at every head", Kind.FLAG, when=trimmed)
    sided: Size = setting(20.0, "Beams wide", "along the hull: their siding", source=COMMON, when=beamed)
    molded: Size = setting(40.0, "Beams deep", "up and down: their molding", source=COMMON, when=beamed)
    made: Sawn = setting(
        Sawn.LAMINATED,
        "Beams made",
        "sawn to the camber or laminated over a form",
        Kind.CHOICE,
        when=beamed,
        choices={Sawn.SAWN: "sawn to the camber", Sawn.LAMINATED: "laminated over a form"},
    )
    ratio: Annotated[float, Field(ge=20, le=1000, allow_inf_nan=False)] = setting(
        100.0,
        "Their laminations bend to",
        "the radius that a lamination bends to, in times its thickness",
        Kind.NUMBER,
        unit="times their thickness",
        source=COMMON,
        when=_laminated,
    )
    least: Annotated[int, Field(ge=1, le=60)] = setting(
        3, "At least so many laminations", "more of them spring back less", Kind.WHOLE, source=COMMON, when=_laminated
    )
    springback: Annotated[float, Field(ge=0, lt=50, allow_inf_nan=False)] | None = setting(
        None,
        "Springback allowed",
        "how much of its crown a beam gives back when it leaves the form",
        Kind.PER_CENT,
        none="1/n² for n laminations, by beam theory",
        when=_laminated,
    )
    blocks: Size = setting(150.0, "Form's blocks every", "along the form that beams are glued over", source=COMMON, when=_laminated)
