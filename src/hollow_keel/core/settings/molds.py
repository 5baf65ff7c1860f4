"""What is decided about molds and the inner stem."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Along, Positions, Rise, Size, SizeOr0
from .mold_choices import Deduction, FaceChoice, MoldEdgeKind, MoldForm, MoldKind, StringerNotches
from .record import COMMON, Kind, Part, setting
from .veneers import veneered

if TYPE_CHECKING:
    from ..job import Job


def _notched(job: Job) -> bool:
    return job.molds.notch_width > 0


def _stringers(job: Job) -> bool:
    return bool(job.inside.stringers)


def _hollow(job: Job) -> bool:
    return job.molds.form is not MoldForm.SOLID


class OwnMolds(Part):
    """What the builder had set of the molds before layers of veneer told it, by the molds' own fields, mm; None: they do not tell
    it."""

    skin: SizeOr0 | None = None
    strapping: SizeOr0 | None = None
    beyond_sheer: SizeOr0 | None = None


class MoldSettings(Part):
    """What is deducted, where the reference faces stand, and what the pieces are like. Lengths mm."""

    kind: MoldKind = setting(
        MoldKind.TEMPORARY,
        "The piece",
        "whether it is taken out again or stays in the boat",
        Kind.CHOICE,
        key="mold.kind",
        choices={MoldKind.TEMPORARY: "is taken out again (mold)", MoldKind.FRAME: "stays in the boat (frame)"},
    )
    edge: MoldEdgeKind = setting(
        MoldEdgeKind.SQUARE,
        "Its edge",
        "a square edge touches the skin on one line, a bevelled one lies against it",
        Kind.CHOICE,
        key="mold.edge",
        choices={MoldEdgeKind.SQUARE: "is square, on the reference face", MoldEdgeKind.BEVELLED: "is bevelled to the skin"},
    )
    stem_width: SizeOr0 = setting(
        0.0, "Inner stem's notch, wide", "the notch in molds that stand over the inner stem", none="0: no notch"
    )
    stem_depth: SizeOr0 = setting(
        0.0, "Inner stem's notch, deep", "how deep that notch is", when=lambda job: job.molds.stem_width > 0
    )
    stringer_notches: StringerNotches = setting(
        StringerNotches.AS_WOOD,
        "Stringers' notches",
        "where molds are notched for the stringers inside",
        Kind.CHOICE,
        when=_stringers,
        choices={
            StringerNotches.AS_WOOD: "where they lie as wood",
            StringerNotches.SHARE: "at their share of each mold's own girth",
            StringerNotches.NONE: "none: they go in without the molds",
        },
    )
    gussets: bool = setting(
        False, "Gussets over the butt of halves", "plates that join two halves", Kind.FLAG, when=lambda job: job.molds.halves
    )
    spall_above: Rise | None = setting(
        None,
        "Cross spall above the waterline",
        "the common line of the cross spalls, above the load waterline",
        none="no cross spall",
    )
    rounding: SizeOr0 = setting(
        0.0, "Ease the edge by", "radius of the eased edge, never past the sheer mark", none="0: left sharp"
    )
    mark_waterlines: SizeOr0 = setting(
        0.0, "Waterlines every", "further waterlines marked on the molds", none="0: none but the load waterline"
    )
    mark_buttocks: SizeOr0 = setting(0.0, "Buttocks every", "buttocks marked on the molds", none="0: none")
    mark_planks: bool = setting(False, "Ticks where the strips come", "marks on the molds where planks are lined off", Kind.FLAG)
    skin: SizeOr0 = setting(
        6.0,
        "Skin taken off",
        "the planking outside the molds, deducted from the lines",
        key="skin",
        when=lambda job: not veneered(job),
    )
    strapping: SizeOr0 = setting(
        0.0,
        "Strapping",
        "what lies between mold and planking, deducted besides",
        key="strapping",
        when=lambda job: not veneered(job),
    )
    false_bottom: SizeOr0 = setting(
        0.0,
        "False bottom",
        "taken off besides, below the lowest chine",
        key="false-bottom",
        when=lambda job: any(row.label == "chine" for row in job.offsets.rows),
    )
    faces: FaceChoice = setting(
        FaceChoice.NEAR_END,
        "Face on the line",
        "which face of a mold stands on its station",
        Kind.CHOICE,
        key="mold.faces",
        choices={FaceChoice.NEAR_END: "towards the near end", FaceChoice.FORWARD: "all forward", FaceChoice.AFT: "all aft"},
        source=f"{COMMON}: towards the near end a square edge never stands proud",
    )
    form: MoldForm = setting(
        MoldForm.SOLID,
        "Mold",
        "what is left of the sheet inside the edge",
        Kind.CHOICE,
        key="mold.form",
        choices={MoldForm.SOLID: "solid", MoldForm.RING: "a ring", MoldForm.HOLES: "with holes"},
    )
    ring_width: Size = setting(
        100.0,
        "Ring or wood between holes, wide",
        "width of a ring, or of the wood left round holes",
        key="mold.ring",
        when=_hollow,
        source=COMMON,
    )
    halves: bool = setting(
        False, "Cut in", "whether each mold is cut as two halves", Kind.CHOICE, choices={False: "one piece", True: "two halves"}
    )
    beyond_sheer: SizeOr0 = setting(
        0.0,
        "Past the sheer",
        "extra depth of the molds past the sheer",
        key="mold.beyond-sheer",
        when=lambda job: not veneered(job),
    )
    notch_width: SizeOr0 = setting(
        0.0, "Keel or hog, wide", "the notch for keel, hog or keelson", none="0: no notch", key="mold.notch-width"
    )
    notch_depth: SizeOr0 = setting(0.0, "Keel or hog, deep", "how deep that notch is", key="mold.notch-depth", when=_notched)
    clearance: SizeOr0 = setting(1.0, "Room round each", "room in notches all round", source=COMMON)
    deduction: Deduction = setting(
        Deduction.NORMAL,
        "The skin is measured",
        "square to the hull, or in the section's own plane",
        Kind.CHOICE,
        key="deduction",
        choices={Deduction.NORMAL: "square to the hull", Deduction.IN_PLANE: "in the section's plane"},
    )
    thickness: Size = setting(12.0, "Mold sheet", "thickness of the sheet that molds are cut from", key="mold.thickness")
    stations: Positions = setting(
        (), "Molds stand at", "positions of the reference faces along the hull", Kind.LENGTHS, none="at each station of the table"
    )
    every: Along | None = setting(
        None, "A mold every", "spacing of the molds", none="as listed, or at each station", when=lambda job: not job.molds.stations
    )

    own: OwnMolds | None = setting(
        None,
        "Without layers",
        "what the molds take off once there are no layers of veneer any more",
        Kind.RECORDS,
        none="there are none",
    )

    @property
    def deducted(self) -> float:
        """Planking and strapping together, mm."""
        return self.skin + self.strapping


class StemSettings(Part):
    """The inner stem. Lengths mm."""

    siding: Size = setting(40.0, "Inner stem wide", "its siding", source=COMMON)
    molded: Size = setting(60.0, "Inner stem deep in profile", "its molded depth", source=COMMON)
    face: SizeOr0 = setting(16.0, "Its forward face wide", "what is left flat for the outer stem", source=COMMON)
    ratio: Annotated[float, Field(ge=20, le=1000, allow_inf_nan=False)] = setting(
        100.0,
        "A lamination bends to",
        "the radius that a lamination bends to, in times its thickness",
        Kind.NUMBER,
        unit="times its thickness",
        source=COMMON,
    )
    spare: SizeOr0 = setting(100.0, "Spare length at each end", "added to every lamination at both ends", source=COMMON)
