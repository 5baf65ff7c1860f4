"""What is decided about the form that veneers are laid on, and what is used up in laying them."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Size, SizeOr0
from .record import COMMON, Kind, NotNegative, Part, Positive, setting
from .veneer_choices import FormKind, Hold
from .veneers import veneered
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job


def formed(job: Job) -> bool:
    """Whether veneers are laid over ribbands or stringers."""
    return veneered(job) and job.form.kind is not FormKind.MOLDS


def let_in(job: Job) -> bool:
    """Whether veneers are laid over stringers let into frames."""
    return formed(job) and job.form.kind is FormKind.STRINGERS


def _ribbands(job: Job) -> bool:
    return formed(job) and job.form.kind is FormKind.RIBBANDS


def _held(hold: Hold) -> Callable[[Job], bool]:
    return lambda job: any(layer.hold is hold for layer in job.veneers.layers)


class FormSettings(Part):
    """Ribbands over the molds, or stringers let into frames. Lengths mm."""

    kind: FormKind = setting(
        FormKind.MOLDS,
        "Laid on",
        "what the first layer is laid on",
        Kind.CHOICE,
        when=veneered,
        choices={
            FormKind.MOLDS: "a closed form: strips, or molds alone",
            FormKind.RIBBANDS: "ribbands over the molds",
            FormKind.STRINGERS: "stringers let into frames",
        },
    )
    wood: str = setting(
        "Sitka spruce", "Ribbands of", "their wood", Kind.CHOICE, choices={name: name for name in WOODS}, when=_ribbands
    )
    width: Size = setting(25.0, "Ribbands wide", "along the skin", source=COMMON, when=_ribbands)
    thickness: Size = setting(
        20.0, "Ribbands thick", "square to the skin; molds take it off besides", source=COMMON, when=_ribbands
    )
    spacing: Size = setting(
        150.0, "Ribbands every", "from middle to middle where the girth is greatest, at most", source=COMMON, when=_ribbands
    )
    stick: Size = setting(
        4200.0, "Sticks of", "length of what ribbands are bought in; they are butted over a mold", source=COMMON, when=formed
    )


class LayingSettings(Part):
    """What laying veneers takes. Every value is an assumption of the builder's own; lengths mm."""

    staple_every: Size = setting(75.0, "A staple every", "along its row", source=COMMON, when=_held(Hold.STAPLED))
    staple_rows: Size = setting(75.0, "Rows of staples apart", "across the veneer", source=COMMON, when=_held(Hold.STAPLED))
    staples_stay: bool = setting(
        False,
        "The last layer's staples",
        "whether they are left in the outermost layer",
        Kind.CHOICE,
        when=_held(Hold.STAPLED),
        choices={False: "come out again", True: "stay in"},
    )
    bag_more: NotNegative = setting(
        20.0, "Bag and breather, more", "above the area they cover", Kind.NUMBER, unit="%", source=COMMON, when=_held(Hold.BAGGED)
    )
    minutes: Positive = setting(
        20.0, "A veneer takes", "to spile, cut, glue and lay, by two", Kind.NUMBER, unit="minutes", source=COMMON, when=veneered
    )
    open_time: Positive = setting(
        45.0,
        "Open time at 20 °C",
        "how long glue that is spread out can still be covered",
        Kind.NUMBER,
        unit="minutes",
        source=COMMON,
        when=veneered,
    )
    wetting: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = setting(
        40.0,
        "Of that, to spread and lay",
        "the share of a veneer's time that its glue is open",
        Kind.NUMBER,
        unit="%",
        source=COMMON,
        when=veneered,
    )
    sheet_width: Size = setting(320.0, "Sheets of veneer wide", "what veneers are cut from", when=veneered)
    sheet_length: Size = setting(2500.0, "Sheets of veneer long", "what veneers are cut from", when=veneered)
    sheets_have: Annotated[int, Field(ge=0, le=100_000)] = setting(
        0, "Sheets on hand", "of all layers' thicknesses together", Kind.WHOLE, when=veneered
    )
    kerf: SizeOr0 = setting(
        3.0, "Between two veneers", "what knife, saw and a clean edge take", Kind.FINE, source=COMMON, when=veneered
    )
