"""A board's cross-section with its saw cuts: what is jointed off, every strip with its number, what is left."""

from __future__ import annotations

from ...core.settings.timber import RipWay, SawSettings
from ...core.stock.plan import Lot
from ...core.stock.rip import Rip
from ...core.units import LengthStyle, given_length, given_size
from ...core.words import counted
from ..model import Drawing, Label, Layer, Stroke, box, line


def board_cuts(lot: Lot, saw: SawSettings, style: LengthStyle) -> Drawing:
    """The board seen at its end, face down, the jointed edge at the left; strips are numbered as they come off the saw."""
    board, rip = lot.board, lot.rip
    strokes: list[Stroke] = [box(0, 0, board.width, board.thickness, Layer.MOLD)]
    labels: list[Label] = []
    if saw.jointing:
        strokes.append(line((saw.jointing, 0), (saw.jointing, board.thickness), layer=Layer.SHEER_MARK))
    for number, (left, bottom, right, top) in enumerate(strip_boxes(lot, saw), start=1):
        layer = Layer.STRIP if number % 2 else Layer.STRIP_2
        strokes.append(box(left, bottom, right, top, layer, filled=True))
        if rip.count <= 60:
            labels.append(Label(((left + right) / 2, (bottom + top) / 2), str(number)))
    below = -0.18 * board.thickness - 4
    strokes.append(line((0, below), (board.width, below), layer=Layer.DIMENSION))
    size = f"{_said(board.width, style)} wide, {_said(board.thickness, style)} thick, dressed"
    labels.append(Label((board.width / 2, below), size, rise=-1))
    return Drawing(_title(lot, rip, style), tuple(strokes), tuple(labels))


def _said(mm: float, style: LengthStyle) -> str:
    return given_length(mm, style, unit=True)


def _title(lot: Lot, rip: Rip, style: LengthStyle) -> str:
    way = {RipWay.OFF_EDGE: "straight off the edge", RipWay.SLICED: f"{rip.blanks} slices, ripped once more"}.get(
        rip.way, f"{rip.blanks} blanks, turned"
    )
    section = given_size((lot.section.width, lot.section.thickness), style, unit=True)
    return f"Board {lot.mark}: {counted(rip.count, 'strip')} of {section}, {way}"


def strip_boxes(lot: Lot, saw: SawSettings) -> list[tuple[float, float, float, float]]:
    """Left, bottom, right and top of every rough-sawn strip in a board's cross-section, mm, in the order they come off the saw."""
    rip = lot.rip
    found = []
    for blank in range(rip.blanks):
        left = saw.jointing + blank * (rip.blank + saw.kerf)
        right = left + rip.blank
        if rip.way is RipWay.OFF_EDGE:
            found.append((left, 0.0, right, lot.board.thickness))
            continue
        for strip in range(rip.per_blank):
            bottom = strip * (rip.strip + saw.kerf)
            found.append((left, bottom, right, bottom + rip.strip))
    return found
