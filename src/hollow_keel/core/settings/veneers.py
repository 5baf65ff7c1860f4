"""What is decided about layers of veneer, from the form outward."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import AsRead, Axis, Position, Size, SizeOr0
from .record import COMMON, Kind, NotNegative, Part, setting
from .veneer_choices import AngleFrom, Direction, Hold
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job

MOST_LAYERS = 12


def veneered(job: Job) -> bool:
    """Whether a job has layers of veneer."""
    return bool(job.veneers.layers)


def strip_planked(job: Job) -> bool:
    """Whether a hull has strips: all have but those that are of veneers alone."""
    return not veneered(job) or job.veneers.over_strips


class Layer(Part):
    """One layer of veneers. Lengths mm, the angle degrees from the hull's own direction (bow to stern) towards the sheer; one of
    the other diagonal is negative."""

    wood: str = setting("western redcedar", "Of", "the wood of the layer", Kind.CHOICE, choices={name: name for name in WOODS})
    thickness: Size = setting(3.0, "Thick", "thickness of the veneer")
    direction: Direction = setting(
        Direction.ANGLE,
        "It runs",
        "which way its veneers run",
        Kind.CHOICE,
        choices={Direction.ANGLE: "at an angle", Direction.ALONG: "fore and aft", Direction.ACROSS: "square across"},
    )
    angle: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False), Axis.NONE] = setting(
        45.0,
        "Angle",
        "from the hull's own direction towards the sheer; the other diagonal is negative",
        Kind.DEGREES,
        unit="degrees",
    )
    width: Size = setting(100.0, "Widest veneer", "the widest piece that is laid", source=COMMON)
    gap: SizeOr0 = setting(0.0, "Left open", "between one veneer and the next, for glue", Kind.FINE, none="0: laid tight")
    shift: AsRead = setting(
        0.0, "First one moved by", "square to its run, so that its seams do not fall on those below", none="0: where all begin"
    )
    hold: Hold = setting(
        Hold.STAPLED,
        "Held by",
        "what holds it down while its glue sets",
        Kind.CHOICE,
        choices={Hold.STAPLED: "staples", Hold.BAGGED: "a vacuum bag"},
    )

    @property
    def degrees(self) -> float:
        """The angle it runs at."""
        return {Direction.ALONG: 0.0, Direction.ACROSS: 90.0}.get(self.direction, self.angle)


def layers_words(veneers: VeneerSettings) -> str:
    """All layers in a few words, from the form outward."""
    return ", ".join(f"{layer.degrees:g}°" for layer in veneers.layers) or "none"


def one_more(layers: tuple[Layer, ...]) -> Layer:
    """The layer that most would lay next: like the last one, on the other diagonal (one that runs the same way moved by half a
    width); the first one at 45°."""
    if not layers:
        return Layer()
    last = layers[-1]
    if last.direction is Direction.ANGLE and last.angle != 0:
        return last.model_copy(update={"angle": -last.angle})
    return last.model_copy(update={"shift": 0.0 if last.shift else last.width / 2})


class VeneerSettings(Part):
    """The layers from the form outward, and where the first veneer of each lies. Lengths mm."""

    layers: Annotated[tuple[Layer, ...], Field(max_length=MOST_LAYERS)] = setting(
        (), "Layers", "layers of veneer from the form outward", Kind.RECORDS, none="none", key="veneers.layers"
    )
    over_strips: bool = setting(
        False,
        "Over strips",
        "whether the first layer is the strip planking, with veneers over it",
        Kind.FLAG,
        key="veneers.over-strips",
        when=veneered,
    )
    master: Position | None = setting(
        None,
        "First veneer at",
        "where the first veneer of every layer crosses the middle of the girth",
        none="amidships",
        key="veneers.master",
        when=veneered,
    )
    angle_from: AngleFrom = setting(
        AngleFrom.HULL,
        "Angles from",
        "what the angle of a layer is measured from, where its first veneer lies",
        Kind.CHOICE,
        choices={AngleFrom.HULL: "the hull's own run", AngleFrom.KEEL: "the keel", AngleFrom.WATERLINE: "the load waterline"},
        key="veneers.angle-from",
        when=veneered,
    )
    past_sheer: SizeOr0 = setting(
        60.0,
        "Past the sheer",
        "form and veneers run so far past the sheer, so that staples stay in waste",
        source=COMMON,
        key="veneers.past-sheer",
        when=veneered,
    )
    past_transom: SizeOr0 = setting(
        60.0,
        "Past the transom",
        "form and veneers run so far past the transom",
        source=COMMON,
        key="veneers.past-transom",
        when=veneered,
    )
    past_stem: SizeOr0 = setting(
        0.0,
        "Past the stem",
        "form and veneers run so far past the stem's own line",
        source=COMMON,
        key="veneers.past-stem",
        when=veneered,
    )
    glue_spread: NotNegative = setting(
        250.0,
        "Glue a square metre",
        "mixed glue between two layers",
        Kind.NUMBER,
        unit="g/m²",
        source=COMMON,
        key="veneers.glue",
        when=veneered,
    )

    @property
    def total(self) -> float:
        """Thickness of all layers of veneer together, mm."""
        return sum(layer.thickness for layer in self.layers)
