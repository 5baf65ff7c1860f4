"""The Job: one frozen, validated record of all that the builder decided. Lengths mm."""

from __future__ import annotations

from enum import StrEnum
from itertools import pairwise
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from .amounts import Amounts
from .molds.choices import Deduction, FaceChoice, MoldEdgeKind, MoldForm, MoldKind
from .molds.layout import Layout, Sheets
from .offsets.table import OffsetsTable
from .planking.choices import Guide, MasterKind, Meeting, MeetOn, StripLayout
from .planking.progress import Planked
from .setup.choices import HullEnd, Strongback
from .setup.survey import Survey
from .stock.timber import StockSettings
from .units import INCHES, LengthStyle, LengthUnit

Share = Annotated[float, Field(gt=0, lt=1, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, lt=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, lt=1e6, allow_inf_nan=False)]
Finite = Annotated[float, Field(gt=-1e6, lt=1e6, allow_inf_nan=False)]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class StripEdge(StrEnum):
    """How neighbouring strips meet."""

    SQUARE = "square"
    BEAD_COVE = "bead-cove"


class MoldSettings(_Part):
    """What is deducted, where the reference faces stand (empty `stations`: at each station of the table), and what
    the pieces are like.

    `skin` is the planking, `strapping` what lies between mold and planking, `false_bottom` what is taken off more
    below the lowest chine. `ring_width` is the width of a ring, or of the wood left round lightening holes. A notch for
    keel, hog or keelson is `notch_width` by `notch_depth` mm with `clearance` all round (0: none); one for the inner
    stem in molds that stand over it `stem_width` by `stem_depth`; notches for stringers are at shares of the girth
    from the keel. `beyond_sheer` is extra depth past the sheer, `rounding` the radius that the edge is eased to below
    it, `spall_above` the height of the cross spalls' common line above the load waterline (None: no such line).
    Waterlines and buttocks are marked every so many mm (0: none), and planks where they are lined off.
    """

    kind: MoldKind = MoldKind.TEMPORARY
    edge: MoldEdgeKind = MoldEdgeKind.SQUARE
    stem_width: NotNegative = 0.0
    stem_depth: NotNegative = 0.0
    stringers: tuple[Share, ...] = ()
    stringer_width: NotNegative = 40.0
    stringer_depth: NotNegative = 20.0
    gussets: bool = False
    spall_above: Finite | None = None
    rounding: NotNegative = 0.0
    mark_waterlines: NotNegative = 0.0
    mark_buttocks: NotNegative = 0.0
    mark_planks: bool = False

    skin: NotNegative = 6.0
    strapping: NotNegative = 0.0
    false_bottom: NotNegative = 0.0
    faces: FaceChoice = FaceChoice.NEAR_END
    form: MoldForm = MoldForm.SOLID
    ring_width: Positive = 100.0
    halves: bool = False
    beyond_sheer: NotNegative = 0.0
    notch_width: NotNegative = 0.0
    notch_depth: NotNegative = 0.0
    clearance: NotNegative = 1.0
    deduction: Deduction = Deduction.NORMAL
    thickness: Positive = 12.0
    stations: tuple[Finite, ...] = ()
    every: Positive | None = None

    @property
    def deducted(self) -> float:
        """Planking and strapping together, mm."""
        return self.skin + self.strapping


class SetupSettings(_Part):
    """The strongback: a straight beam through a hole in every mold, a table under their legs, or two rails under their
    feet. The hull stands upside down on it, or `upright` on its own keel.

    Distances are measured from a zero at `zero_at` along the hull (None: position 0 from the bow, or the
    hull's after end from the stern), or from one that lies `first_face` before the reference face of the nearest mold,
    where that one is set already. `waterline_above` is the height of the load waterline above the
    strongback's upper face as it stands (None: chosen so that a beam passes through every mold, or that everything stands
    clear of a table or rails). Legs are `leg_width` wide, their outsides `leg_spread` apart; feet are `foot_height`
    high and reach `overhang` past the outsides of rails `rail_spread` apart; brackets reach `bracket` up the legs.
    `beam_clearance` is the room round a beam, `beam_wall` its wall (0: solid), `wedges` the thickness of the wedge pair in the
    middle gap; sides, rails, rungs, ties, posts and spalls are of timber `timber_width` by `timber_height`. The strongback
    is `length` long and, if a table, `width` wide (None: as needed); its top lies `top` above the floor,
    and `castors` more where it rolls (0: it stands fixed).
    An error up to `fairs_below` will not show in the planking, one over `mend_above` is to be put right.
    """

    strongback: Strongback = Strongback.BEAM
    upright: bool = False
    length: Positive | None = None
    width: Positive | None = None
    top: NotNegative = 600.0
    castors: NotNegative = 0.0

    zero_end: HullEnd = HullEnd.BOW
    zero_at: Finite | None = None
    first_face: Finite | None = None
    waterline_above: Finite | None = None
    beam_width: Positive = 90.0
    beam_height: Positive = 90.0
    beam_clearance: NotNegative = 0.0
    beam_wall: NotNegative = 0.0
    wedges: NotNegative = 20.0
    leg_width: Positive = 90.0
    leg_spread: Positive = 500.0
    bracket: Positive = 90.0
    rail_spread: Positive = 600.0
    foot_height: Positive = 90.0
    overhang: NotNegative = 60.0
    timber_width: Positive = 45.0
    timber_height: Positive = 95.0
    fairs_below: Positive = 1.6
    mend_above: Positive = 3.2


class StemSettings(_Part):
    """The inner stem, mm: `siding` its width, `molded` its depth in profile, `face` the width of its forward face, what is
    left flat for the outer stem. A lamination bends to `ratio` times its thickness; `spare` is added at each end."""

    siding: Positive = 40.0
    molded: Positive = 60.0
    face: NotNegative = 16.0
    ratio: Annotated[float, Field(ge=20, le=1000, allow_inf_nan=False)] = 100.0
    spare: NotNegative = 100.0


class MasterLine(_Part):
    """A master line on the hull: `height` amidships (None: three quarters of the girth up), carried along with the sheer's sweep,
    as a natural line, or as a diagonal that falls `angle` degrees from there outward; `heights` at positions; or a `share`
    of the girth from the keel."""

    kind: MasterKind = MasterKind.HEIGHT
    height: Finite | None = None
    share: Share = 0.6
    angle: Annotated[float, Field(gt=-80, lt=80, allow_inf_nan=False)] = 30.0
    heights: tuple[tuple[Finite, Finite], ...] = ()


class Zone(_Part):
    """Strips `first` to `last`, by their number from the guide, that differ from the others: their `width` as milled (None:
    the same), their `thickness` (None: the same) and their `wood` (empty: the same)."""

    first: Annotated[int, Field(ge=1, le=2000)] = 1
    last: Annotated[int, Field(ge=1, le=2000)] = 1
    width: Positive | None = None
    thickness: Positive | None = None
    wood: str = ""


class StripSettings(_Part):
    """The strip as milled and how it is laid. Lengths mm.

    `cutter` is the radius of the bead-and-cove cutter, which makes the cove as deep as it does (0: `cove_depth` is given);
    `glue_gap` is left at every edge. `least_width` is the narrowest a tapered strip may be at its ends; `bottom` how many
    strips come from the keel where both edges are guides (0: up to the turn of the bilge); `meeting` is how both sides
    close on the bottom, `meet_on` the line they meet on; mixed strips keep their width from `mixed_from` to `mixed_to`. `wood`
    names the species;
    `modulus` (GPa) and `strength` (MPa, bending) replace its own. Laying one takes `minutes` of work; it is cut longer by
    `allowance` at each end. A strip pushed sideways with up to `hand_push` N goes on by hand, with up to `clamp_push` N
    with clamps.
    """

    width: Positive = 19.0
    thickness: Positive = 6.0
    edge: StripEdge = StripEdge.SQUARE
    cove_depth: NotNegative = 3.0
    cutter: NotNegative = 0.0
    glue_gap: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.0
    guide: Guide = Guide.SHEER
    layout: StripLayout = StripLayout.PARALLEL
    master: MasterLine = MasterLine()
    least_width: Positive = 8.0
    bottom: Annotated[int, Field(ge=0, le=1000)] = 0
    meeting: Meeting = Meeting.CUT
    meet_on: MeetOn = MeetOn.KEEL_LINE
    mixed_from: Finite | None = None
    mixed_to: Finite | None = None
    zones: tuple[Zone, ...] = ()
    wood: str = "western redcedar"
    modulus: Positive | None = None
    strength: Positive | None = None
    minutes: Positive = 30.0
    allowance: NotNegative = 30.0
    hand_push: Positive = 60.0
    clamp_push: Positive = 300.0

    @property
    def cove(self) -> float:
        """How deep the cove is, mm: by the cutter's radius r on thickness t it is r - sqrt(r² - t²/4)."""
        if self.edge is not StripEdge.BEAD_COVE:
            return 0.0
        if self.cutter <= 0:
            return self.cove_depth
        half = min(self.thickness / 2, self.cutter)
        return float(self.cutter - (self.cutter**2 - half**2) ** 0.5)

    @property
    def cover(self) -> float:
        """Width of hull that one strip covers."""
        return self.width - self.cove + self.glue_gap

    def at_place(self, place: int) -> StripSettings:
        """These settings as they are for strip `place` of a course (from 1 at the guide); of zones that overlap the later one
        counts. Tapered strips have no width of their own."""
        given: dict[str, object] = {}
        for zone in self.zones:
            if zone.first <= place <= zone.last:
                if zone.width is not None and self.layout is StripLayout.PARALLEL:
                    given["width"] = zone.width
                if zone.thickness is not None:
                    given["thickness"] = zone.thickness
                if zone.wood:
                    given["wood"] = zone.wood
        if given.get("wood", self.wood) != self.wood:
            given |= {"modulus": None, "strength": None}
        return self.model_copy(update=given) if given else self

    def thickness_at(self, place: int) -> float:
        """How thick strip `place` of a course is; of zones that overlap the later one counts."""
        own = [z.thickness for z in self.zones if z.first <= place <= z.last and z.thickness is not None]
        return own[-1] if own else self.thickness

    @property
    def other_covers(self) -> tuple[tuple[int, int, float], ...]:
        """First, last and cover of the runs of places whose strips cover something else than the others."""
        return tuple(
            (first, last, cover)
            for first, last in self.zone_runs
            if (cover := self.at_place(first).cover) != self.cover
        )

    @property
    def zone_runs(self) -> tuple[tuple[int, int], ...]:
        """Runs of places (first, last) that the same zones apply to, one after the other; those with none are left out."""
        edges = sorted({z.first for z in self.zones} | {z.last + 1 for z in self.zones})
        return tuple(
            (a, b - 1) for a, b in pairwise(edges) if any(z.first <= a <= z.last for z in self.zones)
        )


class PrintSettings(_Part):
    """What the 100 mm proof bar measures on the builder's own print, mm."""

    proof_bar: Annotated[float, Field(ge=90, le=110, allow_inf_nan=False)] = 100.0

    @property
    def correction(self) -> float:
        """What a print must be drawn larger by to come out at full size."""
        return 100.0 / self.proof_bar


class Printed(_Part):
    """A mold whose pattern was printed, and what it was like (molds.printed.print_of)."""

    mold: str
    was: str


class UnitSettings(_Part):
    """How lengths are shown and how a bare number is read; what areas, volumes and weights are told in (None: as the lengths are,
    metric, or US where they are in inches)."""

    unit: LengthUnit = LengthUnit.MM
    step: Positive = 0.5
    amounts: Amounts | None = None

    @property
    def told_in(self) -> Amounts:
        """What areas, volumes and weights are told in."""
        return self.amounts or (Amounts.US if self.unit in INCHES else Amounts.METRIC)

    @property
    def style(self) -> LengthStyle:
        """As a display style."""
        return LengthStyle(self.unit, self.step)


class Job(_Part):
    """Everything the builder decided about one hull."""

    name: str = "Untitled"
    offsets: OffsetsTable = OffsetsTable()
    unfaired: OffsetsTable | None = None
    """The offsets as they were before the first fairing; None where nothing was faired."""
    waterline: Finite | None = None
    molds: MoldSettings = MoldSettings()
    setup: SetupSettings = SetupSettings()
    strips: StripSettings = StripSettings()
    stem: StemSettings = StemSettings()
    units: UnitSettings = UnitSettings()
    surveys: tuple[Survey, ...] = ()
    """What was measured on the molds as they stand, round after round; the last one is judged."""
    plans: tuple[StripSettings, ...] = ()
    """Ways of planking put beside each other."""
    planked: Planked | None = None
    """How far the planking has come."""
    stock: StockSettings = StockSettings()
    """Boards, the saw, joints, what is bought and used up."""
    sheets: Sheets = Sheets()
    layout: Layout | None = None
    """The molds laid on sheets, kept as they were laid."""
    printing: PrintSettings = PrintSettings()
    printed: tuple[Printed, ...] = ()
    """The molds whose patterns were last printed or written out, as they were."""

    @property
    def outward(self) -> float:
        """How far the hull lies outside its offsets: the skin's thickness where they are to the inside of the planking, mm."""
        return self.molds.skin if self.offsets.to_inside else 0.0
