"""Timber on hand and for sale, and what the builder decided about sawing, jointing and buying. Lengths mm."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from enum import StrEnum
from itertools import count
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Size = Annotated[float, Field(gt=0, lt=1e5, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, lt=1e5, allow_inf_nan=False)]
Money = Annotated[float, Field(ge=0, lt=1e7, allow_inf_nan=False)]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


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


class Board(_Part):
    """Boards that are alike: `count` of them, dressed sizes; `faults` is the length lost to knots and checks in each; `price`
    of one. An empty `wood` is that of the job's strips. `mark` is what they are marked with, and their strips after them
    (it ends in no digit, since a number follows)."""

    mark: Annotated[str, Field(max_length=6, pattern=r"^([^.*\s]*[^.*\s\d])?$")] = ""
    wood: str = ""
    thickness: Size = 25.0
    width: Size = 150.0
    length: Size = 4000.0
    count: Annotated[int, Field(ge=0, le=10000)] = 1
    faults: NotNegative = 0.0
    grain: Grain = Grain.UNKNOWN
    price: Money = 0.0

    @property
    def usable(self) -> float:
        """Length without its faults."""
        return max(self.length - self.faults, 0.0)


class SawSettings(_Part):
    """How boards are sawn: the blade's `kerf`, what is left on every face of a strip for planing, what is taken off a board's
    edge to joint it."""

    kerf: NotNegative = 2.5
    planing: NotNegative = 0.5
    jointing: NotNegative = 3.0
    way: RipWay = RipWay.BEST
    order: BundleOrder = BundleOrder.MATCHED


class JointSettings(_Part):
    """Where pieces may be joined: `stagger` is the distance between joints in neighbouring strips and `rows` how many strips back
    it counts; joints stay `clear_molds` from every mold and `clear_bends` from the hardest place of their strip
    (0: anywhere). No piece is shorter than `least_piece`."""

    kind: JointKind = JointKind.SLOPE
    angle: Annotated[float, Field(ge=20, le=85, allow_inf_nan=False)] = 60.0
    slope: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] = 8.0
    on_bench: bool = True
    stagger: NotNegative = 600.0
    rows: Annotated[int, Field(ge=0, le=6)] = 2
    clear_molds: NotNegative = 0.0
    clear_bends: NotNegative = 0.0
    least_piece: Size = 600.0


class BuyingSettings(_Part):
    """What can be bought, as boards with their prices (their `count` is what the seller has; 0: as many as you like), what is to be
    least, and how much more than is needed, in per cent."""

    for_sale: tuple[Board, ...] = ()
    wish: Wish = Wish.COST
    spare: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 8.0
    currency: Annotated[str, Field(max_length=6)] = "€"


class UsedUpSettings(_Part):
    """What everything else is reckoned with. Every value is an assumption of the builder's own.

    Glue: the line is `glue_line` mm thick, `glue_waste` per cent more is mixed; a batch holds for `pot_life` minutes at 20 °C,
    half as long for every ten degrees warmer, at `temperature` °C; `hardener` parts by volume go to 100 of resin, densities in
    kg/l. Fasteners: `staples` for each strip at each mold, `edge_screws` in each strip between two molds. Tape on both sides of
    every mold's edge where `tape` is set. Cloth: `cloth_out` and `cloth_in` g/m² on the faces (0: none) with `overlap` per
    cent more, resin `resin_ratio` times the cloth's weight, `fill` g/m² of filler coat on each face.
    """

    glue_line: NotNegative = 0.5
    glue_waste: NotNegative = 30.0
    pot_life: Size = 25.0
    temperature: Annotated[float, Field(ge=-10, le=50, allow_inf_nan=False)] = 18.0
    hardener: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)] = 50.0
    resin_density: Size = 1.15
    hardener_density: Size = 0.98
    staples: Annotated[int, Field(ge=0, le=20)] = 1
    edge_screws: Annotated[int, Field(ge=0, le=20)] = 0
    tape: bool = True
    cloth_out: NotNegative = 200.0
    cloth_in: NotNegative = 200.0
    overlap: NotNegative = 10.0
    resin_ratio: NotNegative = 1.0
    fill: NotNegative = 300.0


def as_sawn(stick: str) -> str:
    """The name of a stick as it came off the saw, whatever was cut from it before: without the star of an offcut."""
    return stick.rstrip("*")


class MadePiece(_Part):
    """One piece of a strip: from which board (its number among those on hand, or a name), how long, its joint's length in it."""

    stick: str
    length: Size

    @property
    def sawn(self) -> str:
        """The stick as it came off the saw."""
        return as_sawn(self.stick)


class MadeStrip(_Part):
    """A strip that has been cut already: it stays as it is. `joints` are distances from its forward end, mm; `width`, `thickness`
    what it was milled to (None: not known, as in files of earlier versions)."""

    strip: Annotated[int, Field(ge=1, le=5000)]
    side: str
    part: Annotated[int, Field(ge=0, le=20)] = 0
    pieces: tuple[MadePiece, ...]
    joints: tuple[NotNegative, ...] = ()
    width: NotNegative | None = None
    thickness: NotNegative | None = None

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


class StockSettings(_Part):
    """Everything decided about stock."""

    boards: tuple[Board, ...] = ()
    saw: SawSettings = SawSettings()
    joints: JointSettings = JointSettings()
    buying: BuyingSettings = BuyingSettings()
    used_up: UsedUpSettings = UsedUpSettings()
    cut: tuple[MadeStrip, ...] = ()

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
