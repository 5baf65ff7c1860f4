"""The Job: one frozen, validated record of all that the builder decided. Lengths mm."""

from __future__ import annotations

from .offsets.table import OffsetsTable
from .offsets.typed_sheet import TypedSheet
from .settings.axis import Height, MoldName
from .settings.beams import BeamSettings
from .settings.deck import DeckSettings, Opening, decked
from .settings.deck_choices import DeckFrom, DeckMolds
from .settings.ends import OuterSettings
from .settings.form import FormSettings, LayingSettings
from .settings.inside import InsideSettings
from .settings.layout import Layout, Sheets
from .settings.log import LogSettings
from .settings.molds import MoldSettings, OwnMolds, StemSettings
from .settings.progress import Planked
from .settings.record import Kind, Part, setting
from .settings.release import ReleaseSettings
from .settings.setup import SetupSettings
from .settings.setup_choices import HullEnd
from .settings.sheer import TrimSettings
from .settings.strip_choices import Guide, StripLayout
from .settings.strips import MasterLine, StripEdge, StripSettings, Zone
from .settings.survey import Survey
from .settings.timber import StockSettings
from .settings.units import PrintSettings, UnitSettings
from .settings.veneer_choices import FormKind
from .settings.veneers import Layer, VeneerSettings

__all__ = [
    "BeamSettings",
    "DeckSettings",
    "FormSettings",
    "Guide",
    "HullEnd",
    "InsideSettings",
    "Job",
    "Layer",
    "LayingSettings",
    "LogSettings",
    "MasterLine",
    "MoldSettings",
    "Opening",
    "OuterSettings",
    "PrintSettings",
    "Printed",
    "ReleaseSettings",
    "SetupSettings",
    "StemSettings",
    "StripEdge",
    "StripLayout",
    "StripSettings",
    "TrimSettings",
    "UnitSettings",
    "VeneerSettings",
    "Zone",
]


class Printed(Part):
    """A mold whose pattern was printed, and what it was like (molds.printed.print_of)."""

    mold: MoldName
    was: str


class Job(Part):
    """Everything the builder decided about one hull."""

    name: str = setting("Untitled", "Name", "the job's name, on every print", Kind.WORD)
    offsets: OffsetsTable = OffsetsTable()
    unfaired: OffsetsTable | None = setting(
        None, "Offsets before fairing", "the offsets as they were before the first fairing", Kind.RECORDS, none="nothing was faired"
    )
    typed: TypedSheet | None = setting(
        None,
        "Typed table",
        "the table as it is being typed, with its headings and blanks",
        Kind.RECORDS,
        none="nothing is being typed",
    )
    waterline: Height | None = setting(
        None, "Load waterline at height", "height of the load waterline", none="none", key="waterline"
    )
    molds: MoldSettings = MoldSettings()
    setup: SetupSettings = SetupSettings()
    strips: StripSettings = StripSettings()
    stem: StemSettings = StemSettings()
    deck: DeckSettings = DeckSettings()
    veneers: VeneerSettings = VeneerSettings()
    form: FormSettings = FormSettings()
    laying: LayingSettings = LayingSettings()
    """What laying veneers takes."""
    trim: TrimSettings = TrimSettings()
    beams: BeamSettings = BeamSettings()
    outer: OuterSettings = OuterSettings()
    release: ReleaseSettings = ReleaseSettings()
    inside: InsideSettings = InsideSettings()
    log: LogSettings = LogSettings()
    """The day book, and what the forecast goes by."""
    units: UnitSettings = UnitSettings()
    surveys: tuple[Survey, ...] = setting(
        (), "Surveys", "what was measured on the molds as they stand, round after round; the last one is judged", Kind.RECORDS
    )
    plans: tuple[StripSettings, ...] = setting((), "Plans", "ways of planking put beside each other", Kind.RECORDS)
    planked: Planked | None = setting(None, "Planked", "how far the planking has come", Kind.RECORDS, none="nothing is laid")
    stock: StockSettings = StockSettings()
    """Boards, the saw, joints, what is bought and used up."""
    sheets: Sheets = Sheets()
    layout: Layout | None = setting(
        None, "Layout", "the molds laid on sheets, kept as they were laid", Kind.RECORDS, none="not laid yet"
    )
    printing: PrintSettings = PrintSettings()
    printed: tuple[Printed, ...] = setting(
        (), "Printed", "the molds whose patterns were last printed or written out, as they were", Kind.RECORDS
    )

    @property
    def outward(self) -> float:
        """How far the hull lies outside its offsets: the skin's thickness where they are to the inside of the planking, mm."""
        return self.molds.skin if self.offsets.to_inside else 0.0

    @property
    def deck_outward(self) -> float:
        """How far the deck lies outside its offsets, as `outward`; a camber is given to the outside, mm."""
        return self.deck.skin if self.offsets.to_inside and self.deck.source is DeckFrom.TABLE else 0.0

    @property
    def closed_under(self) -> float | None:
        """What the deck takes off the molds that go on under it, mm; None where they end at the sheer."""
        return self.deck.skin if decked(self) and self.deck.molds is not DeckMolds.HULL_ONLY else None

    @property
    def layers_total(self) -> float | None:
        """Thickness of the whole skin where its layers are given, strips under them too, mm; None where they are not."""
        if not self.veneers.layers:
            return None
        return self.veneers.total + (self.strips.thickness if self.veneers.over_strips else 0.0)

    @property
    def over_strips(self) -> float:
        """What lies over the strips: the layers of veneer on them, mm."""
        return self.veneers.total if self.veneers.over_strips else 0.0

    @property
    def molds_of_layers(self) -> dict[str, float]:
        """What the molds follow where there are layers of veneer, mm, by the molds' own fields: what is typed once, with the layers
        and their form; empty where there are none."""
        total = self.layers_total
        if total is None:
            return {}
        strapping = self.form.thickness if self.form.kind is FormKind.RIBBANDS else 0.0
        return {"skin": total, "strapping": strapping, "beyond_sheer": self.veneers.past_sheer}

    def in_step(self) -> Job:
        """The job whose molds follow its layers and their form, and where these tell nothing any more what the builder had set."""
        follows = self.molds_of_layers
        kept = {} if self.molds.own is None else self.molds.own.model_dump(exclude_none=True)
        own = {name: kept.get(name, getattr(self.molds, name)) for name in follows}
        back = {name: value for name, value in kept.items() if name not in follows}
        changed = {**back, **follows, "own": OwnMolds(**own) if own else None}
        if all(getattr(self.molds, name) == value for name, value in changed.items()):
            return self
        return self.model_copy(update={"molds": self.molds.model_copy(update=changed)})
