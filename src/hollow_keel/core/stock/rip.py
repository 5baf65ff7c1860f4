"""How a board is ripped into strips: how many come out, exactly, and in which order the saw is set.

Counts use exact rational arithmetic: n pieces of s and the n - 1 kerfs between them need n s + (n - 1) k <= a, so
n = floor((a + k) / (s + k)). Where that comes out whole there is no margin at all, and it is said.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ..findings import mm
from ..rules import PLANED_MM, VERY_TIGHT_MM
from ..settings.timber import Board, BundleOrder, Grain, RipWay, SawSettings
from ..words import counted

SAW_CAUTION = (
    "Table saw: guard, push sticks or a feeder, hearing protection. Wood dust, of some cedars above all: a mask that filters it."
)


@dataclass(frozen=True)
class Rip:
    """One board ripped one way. `blanks` are sawn from its width (straight off the edge: the strips themselves; sliced: as thick as
    strips are), `per_blank` strips from each; `blank` and `strip` are what the fence is set to, mm; `left` what remains of width,
    and of thickness where blanks are turned or ripped again; `tight` tells that a count leaves no margin. `face` is the grain on
    the strips' wide face. `yielded` and `dust` are shares of the board's volume (the rest is left over)."""

    way: RipWay
    blanks: int
    per_blank: int
    blank: float
    strip: float
    left: tuple[float, float]
    tight: bool
    face: Grain
    yielded: float
    dust: float

    @property
    def count(self) -> int:
        """Strips from one board."""
        return self.blanks * self.per_blank


def pieces(room: float, size: float, kerf: float) -> tuple[int, float]:
    """How many pieces of a size fit a room with a kerf between them, and what is left (mm), exactly for sizes given to
    a millionth of a millimetre."""
    a, s, k = (Fraction(f"{v:.6f}") for v in (room, size, kerf))
    if a < s or s <= 0:
        return 0, float(a)
    count = (a + k) // (s + k)
    return int(count), float(a - count * s - (count - 1) * k)


def rip(board: Board, width: float, thickness: float, saw: SawSettings, way: RipWay) -> Rip | None:
    """A board ripped one way into strips `width` by `thickness` mm; None where not even one comes out."""
    wide, thick = width + 2 * saw.planing, thickness + 2 * saw.planing
    room = board.width - saw.jointing
    if way is RipWay.OFF_EDGE:
        # the board's own thickness becomes the strips' width
        count, left = pieces(room, thick, saw.kerf) if board.thickness >= width else (0, 0.0)
        per_blank, rest = 1, board.thickness - width
        cuts = count * board.thickness
    elif way is RipWay.SLICED:
        count, left = pieces(room, thick, saw.kerf)
        per_blank, rest = pieces(board.thickness, wide, saw.kerf)
        if per_blank < 2:  # one from each is what comes straight off the edge
            return None
        cuts = count * board.thickness + count * (per_blank - 1) * thick
    else:
        count, left = pieces(room, wide, saw.kerf)
        per_blank, rest = pieces(board.thickness, thick, saw.kerf)
        cuts = count * board.thickness + count * (per_blank - 1 if per_blank else 0) * wide
    if count * per_blank == 0:
        return None
    area = board.width * board.thickness
    sawn = saw.kerf * cuts / area
    turned = way is RipWay.TURNED
    tight = left < VERY_TIGHT_MM or (way is not RipWay.OFF_EDGE and rest < VERY_TIGHT_MM)
    return Rip(
        way,
        count,
        per_blank,
        wide if turned else thick,
        wide if way is RipWay.SLICED else thick,
        (left, rest),
        tight,
        _face(board.grain, off_edge=not turned),
        count * per_blank * width * thickness / area,
        min(sawn, 1.0),
    )


def _face(board: Grain, *, off_edge: bool) -> Grain:
    """Grain on the strips' face: turned blanks keep the board's, strips straight off the edge have the other one."""
    if board is Grain.UNKNOWN or not off_edge:
        return board
    return Grain.VERTICAL if board is Grain.FLAT else Grain.FLAT


def rips(board: Board, width: float, thickness: float, saw: SawSettings) -> tuple[Rip, ...]:
    """The ways that give any strips of `width` by `thickness` mm, the chosen or better one first; vertical grain decides where they
    give as many. Ripping slices once more takes two passes over thin stuff: it is done where it is asked for, and comes last
    where it would give most."""
    ways = (RipWay.OFF_EDGE, RipWay.TURNED, RipWay.SLICED)
    found = [r for way in ways if (r := rip(board, width, thickness, saw, way)) is not None]
    if saw.way is not RipWay.BEST:
        return tuple(r for r in found if r.way is saw.way)
    simple = sorted((r for r in found if r.way is not RipWay.SLICED), key=lambda r: (-r.count, r.face is not Grain.VERTICAL))
    most = simple[0].count if simple else 0
    return (*simple, *(r for r in found if r.way is RipWay.SLICED and r.count > most))


def saw_steps(board: Board, found: Rip, saw: SawSettings) -> list[str]:
    """What to set and saw, in order. Lengths are marked as in findings."""
    steps = []
    if saw.jointing:
        steps.append(f"Joint one edge straight: {mm(saw.jointing)} off.")
    if found.way is RipWay.OFF_EDGE:
        steps.append(f"Fence at {mm(found.strip)}: {counted(found.blanks, 'strip')} off the edge; {mm(found.left[0])} is left.")
        if found.left[1] > 0:
            how = "Plane" if found.left[1] <= PLANED_MM else "Rip"
            steps.append(f"{how} them to width: the board is {mm(found.left[1])} thicker than they are wide.")
    elif found.way is RipWay.SLICED:
        steps.append(f"Fence at {mm(found.blank)}: {found.blanks} slices off the edge; {mm(found.left[0])} is left.")
        steps.append(
            f"Fence at {mm(found.strip)}: lay each slice flat and rip {counted(found.per_blank, 'strip')}; "
            f"{mm(found.left[1])} is left."
        )
    else:
        steps.append(f"Fence at {mm(found.blank)}: {found.blanks} blanks; {mm(found.left[0])} is left.")
        steps.append(
            f"Thin blade, fence at {mm(found.strip)}: turn each blank on its side and rip {counted(found.per_blank, 'strip')}; "
            f"{mm(found.left[1])} is left."
        )
    if saw.planing:
        steps.append(f"Plane every face by {mm(saw.planing)}.")
    if found.tight:
        steps.append("There is no margin: a thicker kerf or an edge that is not straight loses a strip. Saw a trial board.")
    return steps


def bundle_words(board: str, count: int, order: BundleOrder) -> str:
    """How the strips of each board are numbered and tied, with one board's name as an example."""
    first, last = f"{board}.1", f"{board}.{count}"
    if order is BundleOrder.MATCHED:
        return f"Number them {first} to {last} as they come off the saw and tie each board's strips in that order."
    return f"Number them {first} to {last}; turn every even one end for end before they are tied."
