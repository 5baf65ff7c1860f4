"""Timber on hand and for sale, and what the builder decided about sawing, jointing and buying. Lengths mm."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from enum import StrEnum
from itertools import count
from typing import Annotated

from pydantic import Field

from .axis import Axis
from .record import COMMON, Kind, Part, setting

Size = Annotated[float, Field(gt=0, lt=1e5, allow_inf_nan=False), Axis.SIZE]
SizeOr0 = Annotated[float, Field(ge=0, lt=1e5, allow_inf_nan=False), Axis.SIZE]
NotNegative = Annotated[float, Field(ge=0, lt=1e5, allow_inf_nan=False)]
Money = Annotated[float, Field(ge=0, lt=1e7, allow_inf_nan=False), Axis.NONE]


class Grain(StrEnum):
    """How the growth rings lie in a board: along its wide face, square to it, or not known."""

    FLAT = "flat"
    VERTICAL = "vertical"
    UNKNOWN = "not known"


class RipWay(StrEnum):
    """Strips straight off the board's edge; blanks as thick as the strips are wide, turned and ripped; slices off the edge, each
    ripped once more into strips; or whichever of the first two gives more strips."""

    OFF_EDGE = "off the edge"
    TURNED = "blanks turned"
    SLICED = "slices ripped again"
    BEST = "whichever gives more"


class BundleOrder(StrEnum):
    """Strips kept in the order they come off the saw, so that neighbours match; or every second one turned end for end."""

    MATCHED = "matched"
    TURNED = "every second one turned end for end"


class JointKind(StrEnum):
    """How pieces are joined end to end: square, at an angle across the thickness, by a long slope, or not at all."""

    BUTT = "butt"
    ANGLE = "angle"
    SLOPE = "slope"
    NONE = "none: whole lengths"


class Wish(StrEnum):
    """What a buying list is to be least in."""

    COST = "least cost"
    WASTE = "least waste"


class Board(Part):
    """Boards that are alike: `count` of them, dressed sizes; `faults` is the length lost to knots and checks in each; `price`
    of one. An empty `wood` is that of the job's strips. `mark` is what they are marked with, and their strips after them
    (it ends in no digit, since a number follows)."""

    mark: Annotated[str, Field(max_length=6, pattern=r"^([^.*\s]*[^.*\s\d])?$")] = ""
    wood: str = ""
    thickness: Size = 25.0
    width: Size = 150.0
    length: Size = 4000.0
    count: Annotated[int, Field(ge=0, le=10000)] = 1
    faults: SizeOr0 = 0.0
    grain: Grain = Grain.UNKNOWN
    price: Money = 0.0

    @property
    def usable(self) -> float:
        """Length without its faults, mm."""
        return max(self.length - self.faults, 0.0)


class SawSettings(Part):
    """How boards are sawn: the blade's `kerf`, what is left on every face of a strip for planing, what is taken off a board's
    edge to joint it."""

    kerf: SizeOr0 = setting(2.5, "Kerf", "what the blade takes", Kind.FINE, key="stock.kerf")
    planing: SizeOr0 = setting(
        0.5, "Left on every face for planing", "left on every face of a strip", Kind.FINE, key="stock.planing", source=COMMON
    )
    jointing: SizeOr0 = setting(
        3.0, "Off one edge to joint it", "taken off a board's edge before it is ripped", Kind.FINE, source=COMMON
    )
    way: RipWay = setting(
        RipWay.BEST,
        "Ripped",
        "how strips are ripped from a board",
        Kind.CHOICE,
        choices={
            RipWay.BEST: "the better way",
            RipWay.OFF_EDGE: "off the edge",
            RipWay.TURNED: "blanks, turned",
            RipWay.SLICED: "slices, ripped again",
        },
    )
    order: BundleOrder = setting(
        BundleOrder.MATCHED,
        "Strips in bundles",
        "how strips are kept as they come off the saw",
        Kind.CHOICE,
        choices={BundleOrder.MATCHED: "in order, so that they match", BundleOrder.TURNED: "every second turned"},
    )


class JointSettings(Part):
    """Where pieces may be joined: `stagger` is the distance between joints in neighbouring strips and `rows` how many strips back
    it counts; joints stay `clear_molds` from every mold and `clear_bends` from the hardest place of their strip
    (0: anywhere). No piece is shorter than `least_piece`."""

    kind: JointKind = setting(
        JointKind.SLOPE,
        "Joined by",
        "how pieces are joined end to end",
        Kind.CHOICE,
        key="stock.joint",
        choices={
            JointKind.SLOPE: "a scarf",
            JointKind.ANGLE: "an angle",
            JointKind.BUTT: "square butts",
            JointKind.NONE: "none: whole lengths",
        },
    )
    angle: Annotated[float, Field(ge=20, le=85, allow_inf_nan=False)] = setting(
        60.0,
        "Angle of joints",
        "across the thickness",
        Kind.DEGREES,
        unit="degrees",
        when=lambda job: job.stock.joints.kind is JointKind.ANGLE,
    )
    slope: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] = setting(
        8.0,
        "Slope of scarfs",
        "length of a scarf in thicknesses",
        Kind.NUMBER,
        unit="to 1",
        source=COMMON,
        when=lambda job: job.stock.joints.kind is JointKind.SLOPE,
    )
    on_bench: bool = setting(True, "Glued on the bench beforehand", "joints made before strips are laid", Kind.FLAG)
    stagger: SizeOr0 = setting(
        600.0, "Joints apart", "distance between joints in neighbouring strips", key="stock.stagger", source=COMMON
    )
    rows: Annotated[int, Field(ge=0, le=6)] = setting(
        2, "How many strips back they count", "neighbours that joints are kept apart from", Kind.WHOLE, source=COMMON
    )
    clear_molds: SizeOr0 = setting(
        0.0, "Clear of molds by", "distance of joints from molds", none="0: anywhere", key="stock.clear-molds"
    )
    clear_bends: SizeOr0 = setting(
        0.0, "Clear of the hardest place by", "distance of joints from the hardest place of their strip", none="0: anywhere"
    )
    least_piece: Size = setting(600.0, "No piece shorter than", "the shortest piece worth jointing", source=COMMON)


class BuyingSettings(Part):
    """What can be bought, as boards with their prices (their `count` is what the seller has; 0: as many as you like), what is to be
    least, and how much more than is needed, in per cent."""

    for_sale: tuple[Board, ...] = setting((), "For sale", "boards that can be bought", Kind.RECORDS)
    wish: Wish = setting(
        Wish.COST, "Least", "what a buying list is to be least in", Kind.CHOICE, choices={Wish.COST: "cost", Wish.WASTE: "waste"}
    )
    spare: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = setting(
        8.0, "Spare, per cent", "bought above what is needed", Kind.NUMBER, unit="%", source=COMMON
    )
    currency: Annotated[str, Field(max_length=6)] = setting("€", "Currency", "the sign prices are written with", Kind.WORD)


class UsedUpSettings(Part):
    """What everything else is reckoned with. Every value is an assumption of the builder's own.

    Glue: the line is `glue_line` mm thick, `glue_waste` per cent more is mixed; a batch holds for `pot_life` minutes at 20 °C,
    half as long for every ten degrees warmer, at `temperature` °C; `hardener` parts by volume go to 100 of resin, densities in
    kg/l. Fasteners: `staples` for each strip at each mold, `edge_screws` in each strip between two molds. Tape on both sides of
    every mold's edge where `tape` is set. Cloth: `cloth_out` and `cloth_in` g/m² on the faces (0: none) with `overlap` per
    cent more, resin `resin_ratio` times the cloth's weight, `fill` g/m² of filler coat on each face.
    """

    glue_line: SizeOr0 = setting(0.5, "Thickness of the glue line", "in every seam", Kind.FINE, source=COMMON)
    glue_waste: NotNegative = setting(
        30.0, "Waste, per cent", "glue mixed above what seams take", Kind.NUMBER, unit="%", source=COMMON
    )
    pot_life: Size = setting(25.0, "Pot life at 20 °C, minutes", "how long a batch can be used", Kind.NUMBER, unit="minutes")
    temperature: Annotated[float, Field(ge=-10, le=50, allow_inf_nan=False)] = setting(
        18.0, "In the shed, °C", "temperature while gluing", Kind.NUMBER, unit="°C"
    )
    hardener: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)] = setting(
        50.0, "Hardener to 100 of resin, by volume", "mixing ratio", Kind.NUMBER, unit="to 100"
    )
    resin_density: Size = setting(1.15, "Density of resin, kg/l", "for mixing by weight", Kind.NUMBER, unit="kg/l")
    hardener_density: Size = setting(0.98, "Density of hardener, kg/l", "for mixing by weight", Kind.NUMBER, unit="kg/l")
    pump: NotNegative = setting(
        0.0,
        "One stroke of the glue pumps gives, g",
        "resin and hardener of a stroke each, weighed",
        Kind.NUMBER,
        unit="g",
        none="0: not tried",
    )
    staples: Annotated[int, Field(ge=0, le=20)] = setting(
        1, "Staples or screws a strip at a mold", "fasteners of each strip at each mold", Kind.WHOLE, source=COMMON
    )
    edge_screws: Annotated[int, Field(ge=0, le=20)] = setting(
        0, "Edge screws a strip between molds", "fasteners in each strip between two molds", Kind.WHOLE
    )
    tape: bool = setting(True, "Tape on mold edges", "so that nothing sticks to them", Kind.FLAG, source=COMMON)
    cloth_out: NotNegative = setting(
        200.0, "Cloth outside, g/m²", "weight of cloth on the outer face", Kind.NUMBER, unit="g/m²", none="0: none"
    )
    cloth_in: NotNegative = setting(
        200.0, "Cloth inside, g/m²", "weight of cloth on the inner face", Kind.NUMBER, unit="g/m²", none="0: none"
    )
    overlap: NotNegative = setting(
        10.0, "Overlap, per cent", "cloth above the area it covers", Kind.NUMBER, unit="%", source=COMMON
    )
    resin_ratio: NotNegative = setting(
        1.0, "Resin to cloth, by weight", "resin that wets the cloth out", Kind.NUMBER, unit="to 1", source=COMMON
    )
    fill: NotNegative = setting(
        300.0, "Filler coat, g/m²", "resin that fills the weave", Kind.NUMBER, unit="g/m²", none="0: none", source=COMMON
    )


def as_sawn(stick: str) -> str:
    """The name of a stick as it came off the saw, whatever was cut from it before: without the star of an offcut."""
    return stick.rstrip("*")


class MadePiece(Part):
    """One piece of a strip: from which board (its number among those on hand, or a name), how long, its joint's length in it."""

    stick: str
    length: Size

    @property
    def sawn(self) -> str:
        """The stick as it came off the saw."""
        return as_sawn(self.stick)


class MadeStrip(Part):
    """A strip that has been cut already: it stays as it is. `joints` are distances from its forward end, mm; `width`, `thickness`
    what it was milled to (None: not known, as in files of earlier versions)."""

    strip: Annotated[int, Field(ge=1, le=5000)]
    side: str
    part: Annotated[int, Field(ge=0, le=20)] = 0
    pieces: tuple[MadePiece, ...]
    joints: tuple[SizeOr0, ...] = ()
    width: SizeOr0 | None = None
    thickness: SizeOr0 | None = None

    @property
    def key(self) -> tuple[int, str, int]:
        """What it is known by: its strip, side and part."""
        return self.strip, self.side, self.part


def letter(number: int) -> str:
    """A mark by its number: A … Z, AA …"""
    return letter(number // 26 - 1) + chr(65 + number % 26) if number >= 26 else chr(65 + number)


def free_marks(taken: Collection[str]) -> Iterator[str]:
    """Letters that no boards are marked with yet."""
    return (name for k in count() if (name := letter(k)) not in taken)


class StockSettings(Part):
    """Everything decided about stock."""

    boards: tuple[Board, ...] = setting((), "On hand", "boards on hand", Kind.RECORDS)
    saw: SawSettings = SawSettings()
    joints: JointSettings = JointSettings()
    buying: BuyingSettings = BuyingSettings()
    used_up: UsedUpSettings = UsedUpSettings()
    cut: tuple[MadeStrip, ...] = setting((), "Cut already", "strips that are cut and stay as they are", Kind.RECORDS)

    @property
    def given(self) -> tuple[Board, ...]:
        """All boards, on hand and then for sale."""
        return (*self.boards, *self.buying.for_sale)

    @property
    def marks(self) -> tuple[str, ...]:
        """One mark for each kind of board, on hand and then for sale, no two alike: its own, or a letter that is free."""
        free = free_marks({b.mark for b in self.given})
        found: list[str] = []
        for board in self.given:
            found.append(board.mark if board.mark and board.mark not in found else next(free))
        return tuple(found)
